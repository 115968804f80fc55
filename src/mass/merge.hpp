// What the pieces of a level fill, merged: closed bodies without what lies inside them. All lengths are in 1/64 cells,
// heights too.
#pragma once

#include <memory>
#include <vector>

#include "mass/sections.hpp"
#include "outline/trace.hpp"

namespace vic::mass {

// Between two heights the same is filled all the way up.
struct Slab {
    int from = 0, to = 0; // from < to
    int storey = 0;       // that most of it lies in; the lowest where it lies below
    std::vector<outline::Outline> outlines;
};

// Surfaces that look up or down: what of a slab's top or bottom no other slab covers.
struct Level {
    int height = 0;
    bool up = true;
    int storey = 0; // of the slab
    std::vector<outline::Outline> outlines;
};

struct Mass {
    std::vector<Slab> slabs;   // from below, apart
    std::vector<Level> levels; // by height; of one height those that look up first
    int pieces = 0;            // that went in
    int open = 0;              // pieces whose meshes are not closed, or have nothing that is; see Sections
};

// Own method. Pieces are cut at all heights of each (see sections_of()); between two heights their sections are shared
// out among the cells and traced as the shapes of cells are, so that what touches or overlaps becomes one, exactly.
// Slabs end at storeys. What sticks out of a piece's cells, and of the level, stays.
Mass merged(const std::vector<scene::Placed>& placed, const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits,
            const scene::Storeys& storeys);

// Twice what all slabs fill, in units cubed.
std::int64_t volume2(const Mass& mass);

} // namespace vic::mass
