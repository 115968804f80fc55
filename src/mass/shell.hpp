// The surface of what is merged, as triangles.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "mass/merge.hpp"

namespace vic::mass {

struct Shell {
    std::vector<std::array<int, 3>> points; // x to the east, y up, z to the south; 1/64 cells; each place once
    struct Triangle {
        std::array<std::uint32_t, 3> corners; // counter-clockwise seen from outside
        int storey = 0;
    };
    std::vector<Triangle> triangles;
    int polygons = 0; // that the triangles are cut from: walls, and convex parts of what is level
};

// An outline that is the same from slab to slab of a storey, with the heights between which it is.
struct Wall {
    const outline::Outline* outline = nullptr; // the mass's own
    int from = 0, to = 0;
    int storey = 0;
};
// By where they end, from below. The mass must outlive them.
std::vector<Wall> walls_of(const Mass& mass);

// Own method. Walls stand on the outlines of slabs; what is level is cut into convex parts. Every line gets a corner
// wherever another ends on it, so that each side of a triangle is that of just one other, the other way round: where
// outlines run along the lattice nothing is open. Aslant, parts may be off by half a unit. Bodies stand among it, each
// closed by itself.
Shell shell_of(const Mass& mass);

} // namespace vic::mass
