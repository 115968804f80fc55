// What blocks as solid shapes, for engines that do not want boundaries.
#pragma once

#include <vector>

#include "level/project.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

struct Solids {
    std::vector<level::Polygon> parts; // convex, clockwise, at most four corners, 1/64 cells
    std::vector<Box> boxes;            // whole cells
};

// Together all that the outlines enclose, each place once, to a unit (1/64 cell) beside slanted lines: as `parts` parts
// alone, as `rectangles` and `cells` whole cells as boxes and the rest as parts; nothing as `outlines`.
Solids solids(const level::Level& level, const Kinds& kinds, level::EngineShapes shapes);

} // namespace vic::outline
