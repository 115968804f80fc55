// Cutting outlines into convex parts, for engines that want solid shapes instead of boundaries.
#pragma once

#include <cstdint>
#include <vector>

#include "outline/trace.hpp"

namespace vic::outline {

// Trapezoids with level tops and bottoms that together cover what the outlines enclose, each once: swept slab by slab
// between the heights of corners, those that go on with the same sides joined. Points clockwise on screen, 1/64 cells,
// three or four each. Where a part ends on a side that is neither level, upright nor at 45°, its corner is rounded to
// the nearest whole unit, so no part is further than half a unit (1/128 cell) from what the outlines enclose. `slack`
// is by how much twice the area of all parts may differ for that: 0 where nothing was rounded.
std::vector<std::vector<Point>> convex_parts(const std::vector<Outline>& outlines, std::int64_t* slack = nullptr);

} // namespace vic::outline
