// A blocker that lies free of the lattice.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "base/text.hpp"
#include "level/area_kind.hpp"
#include "level/notes.hpp"

namespace vic::level {

using BlockerId = std::uint32_t;

inline constexpr int kBlockerUnit = 64;                   // places are in 1/64 cells of the level
inline constexpr std::size_t kMostFreeBlockers = 100'000; // of a layer
inline constexpr std::size_t kMostBlockerCorners = 1024;
inline constexpr int kMostBlockerWidth = 64 * kBlockerUnit;

struct FreeBlocker {
    BlockerId id = 0;
    std::vector<Point> points; // corners of what it covers; of a line the way along its middle
    int width = 0;             // of a line, 1 .. kMostBlockerWidth in 1/64 cells; 0: it is closed
    bool opens = false;        // nothing below it blocks here, instead of it blocking
    AreaKindId tells = 0;      // it only reports that, instead of blocking or opening
    std::string name;
    Notes notes;
    std::string collision_class{}; // of one that blocks; empty: that of its layer
    [[nodiscard]] bool line() const { return width > 0; }
    bool operator==(const FreeBlocker&) const = default;
};

// The cells that it may touch, as a box.
Box cells_of(const FreeBlocker& blocker);
// Polygons, each clockwise, that together are what it covers, in 1/64 cells; they overlap where a line turns.
std::vector<std::vector<Point>> covered(const FreeBlocker& blocker);
// Why it cannot be one: too few or too many corners, no length or area, lines that cross; "" where it can.
Text blocker_trouble(const FreeBlocker& blocker);

} // namespace vic::level
