// What the pieces of a level fill, merged: closed bodies without what lies inside them. All lengths are in 1/64 cells,
// heights too.
#pragma once

#include <array>
#include <cstdint>
#include <memory>
#include <vector>

#include "mass/sections.hpp"
#include "outline/trace.hpp"

namespace vic::mass {

using Outlines = std::shared_ptr<const std::vector<outline::Outline>>; // never null

// Between two heights the same is filled all the way up.
struct Slab {
    int from = 0, to = 0; // from < to
    int storey = 0;       // that most of it lies in; the lowest where it lies below
    Outlines outlines;
};

// Surfaces that look up or down: what of a slab's top or bottom no other slab covers.
struct Level {
    int height = 0;
    bool up = true;
    int storey = 0; // of the slab
    Outlines outlines;
};

// A piece that blocks as its hull or as a ramp and is aslant: it stays a body of its own, as it is.
struct Body {
    std::vector<std::array<int, 3>> points;              // x to the east, y up, z to the south
    std::vector<std::array<std::uint32_t, 3>> triangles; // counter-clockwise seen from outside
    int storey = 0;                                      // as of slabs
    int slope = 0;                                       // degrees, of the steepest face that looks up
    std::vector<Slab> steps;                             // what it fills, roughly: see kStep
};

// A value: copies share the outlines.
struct Mass {
    std::vector<Slab> slabs;                         // from below, apart
    std::vector<Level> levels;                       // by height; of one height those that look up first
    std::vector<std::shared_ptr<const Body>> bodies; // as their pieces were told
    int pieces = 0;                                  // that went in
    int open = 0; // pieces whose meshes are not closed, or have nothing that is; see Sections
};

// Own method. Pieces are cut at all heights of each (see sections_of()); between two heights their sections are shared
// out among the cells and traced as the shapes of cells are, so that what touches or overlaps becomes one, exactly.
// Slabs end at storeys. What sticks out of a piece's cells, and of the level, stays. Bodies are not merged with the
// rest.
Mass merged(const std::vector<scene::Placed>& placed, const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits,
            const scene::Storeys& storeys);

// The same while a level changes: what came and what went is found by itself, and only there, at their heights, is
// anything traced anew.
class Merger {
  public:
    Merger();
    ~Merger();
    Merger(const Merger&) = delete;
    Merger& operator=(const Merger&) = delete;
    // The same as merged() gives.
    Mass update(const std::vector<scene::Placed>& placed,
                const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits, const scene::Storeys& storeys);

  private:
    struct Kept;
    std::unique_ptr<Kept> kept_;
};

// Twice what all slabs fill, in units cubed.
std::int64_t volume2(const Mass& mass);

} // namespace vic::mass
