// Soaking a level: from a place over all that the walker's foot can be moved over, to see what is reached and where it
// leaks. Seen from the side it is the body that is moved, whatever holds it up: nothing that is dry can be got to, and
// how far one jumps is not asked.
//
// Own method. What blocks is drawn into samples, as dark as need be: a sample that any of it lies in blocks. Where the
// foot has room follows by shifting rows of bits over one another; those places are kept as runs along rows, and a
// search goes from run to run.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "level/region.hpp"
#include "outline/solid.hpp"

namespace vic::walk {

// What is moved, in 1/64 cells: seen from above the foot, as wide as the walker and as deep, but no deeper than he is
// high; seen from the side all of him.
Size foot_of(const level::Level& level);
// The middle of that, where the walker stands at the start of the level; that of the level where it has none.
Point start_of(const level::Level& level);

struct Soaked {
    // A passage that the foot gets through, between places that are wider than a cell, and that is narrower itself.
    struct Narrow {
        Box place;     // 1/64 cells
        int width = 0; // likewise
        bool operator==(const Narrow&) const = default;
    };
    // A stretch of the level's rim over which one gets out. Sides that block or lead on have none.
    struct OpenRim {
        int side = 0; // 0 north .. 3 west
        int from = 0; // 1/64 cells along the side
        int to = 0;
        bool operator==(const OpenRim&) const = default;
    };
    // Cells that one could walk on and never gets to.
    struct Dry {
        level::Region cells;
        std::int64_t count = 0;
    };

    // Of a level seen from above: a passage one or two cells wide that ends, with nothing at its end that is worth the
    // way: no mark, no prop that has a name or a note or tells, no side over which one gets out.
    struct DeadEnd {
        Box cells;
        Point end;      // the cell at its end
        int length = 0; // cells, from there to where it is left
        bool operator==(const DeadEnd&) const = default;
    };

    bool nothing_blocks = false; // in the whole level
    bool shut_in = false;        // there is no room for the foot within a cell of where it was to begin: all is dry
    int grain = 0;               // samples of a cell each way: 16, or fewer where the level is very large
    Size samples;
    std::vector<std::uint64_t> wet; // rows of words, bit 0 is the leftmost sample
    std::vector<OpenRim> rims;
    std::vector<Narrow> narrow;
    std::vector<DeadEnd> dead_ends; // the longest first; kMostDry at most
    std::vector<Dry> dry;           // at least a cell large, the largest first; kMostDry at most

    [[nodiscard]] std::size_t words() const { return (static_cast<std::size_t>(samples.w) + 63) / 64; }
    [[nodiscard]] bool at(Point sample) const {
        return box_of(samples).contains(sample) &&
               (wet[static_cast<std::size_t>(sample.y) * words() + static_cast<std::size_t>(sample.x) / 64] >>
                    (sample.x % 64) &
                1) != 0;
    }
    [[nodiscard]] bool touches(const Box& cells) const; // whether any of them is wet, in part at least
    [[nodiscard]] level::Region cells() const;          // all of those
};
inline constexpr std::size_t kMostDry = 64;

// `middle`: of the foot, in 1/64 cells.
Soaked soak(const level::Level& level, const outline::Kinds& kinds, Point middle);

} // namespace vic::walk
