// Who walks through a level, how, and what has been walked there.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "level/depth.hpp"

namespace vic::level {

struct Walker {
    int width = 52;    // 1/64 cells
    int height = 102;  // 1/64 cells
    double speed = 6;  // cells a second
    double jump = 3.2; // cells; side view only
    // Side view only, but for `run`.
    double run = 0;         // cells a second while the key for it is held; 0: there is no such key
    double least_jump = 0;  // cells that it rises where the key is let go at once; 0: always as high as `jump`
    double gravity = 40;    // cells a second squared
    double fastest = 24;    // cells a second that it falls at most
    int grace_edge = 80;    // milliseconds after an edge in which it still jumps
    int grace_landing = 80; // milliseconds before landing in which a jump is remembered
    double wall_jump = 0;   // cells that it rises off a wall; 0: it does not
    double climb = 4;       // cells a second on ladders; 0: it does not
    double swim = 3;        // cells a second in water; 0: it does not, and falls as through air
    // From above only.
    int foot = 0; // 1/64 cells: how deep it is, from its lower edge; 0: as deep as wide, but no deeper than it is high
    int ways = 8; // that it goes: four, eight, or kAllWays
    // Both.
    Size slack{};        // pixels of the frame within which it moves before that follows
    Upright upright{};   // where pieces of kits stand
    std::string mover{}; // which of the project's it is; empty: all that blocks stops it
    bool operator==(const Walker&) const = default;
};
inline constexpr int kAllWays = 0;

// One who is stopped by what blocks, but for some classes.
struct Mover {
    std::string name;
    std::vector<std::string> passes; // collision classes that do not stop it; sorted, no two the same
    bool operator==(const Mover&) const = default;
};
inline constexpr std::size_t kMostMovers = 16;
inline constexpr std::size_t kMostClasses = 64;

// A place where the walker must be stopped, or must get through.
struct Probe {
    std::uint32_t id = 0; // of its level
    Point at;             // 1/64 cells
    bool blocks = false;  // it must; otherwise it must not
    bool operator==(const Probe&) const = default;
};
inline constexpr std::size_t kMostProbes = 4096;

// What a player of the game holds down for so many ticks, of which there are 60 a second.
struct Held {
    int ticks = 0;
    std::uint8_t keys = 0; // left 1, right 2, up 4, down 8, jump 16, run 32
    std::int16_t towards = -1; // where it was led: degrees in the level, 0 east, 90 south; below 0: nowhere
    bool operator==(const Held&) const = default;
};

// A try that was kept: what was done, and where it led. It holds as long as doing the same leads to the same end.
struct Proof {
    std::uint32_t id = 0; // of its level
    std::string name;
    Point from; // 1/64 cells: the middle of the walker's foot at the beginning
    std::vector<Held> held;
    std::vector<Point> way; // where it was every half second, 1/64 cells
    std::string mark;       // the mark that it touched at last; empty: it came to where its way ends
    bool operator==(const Proof&) const = default;
};
inline constexpr std::size_t kMostProofs = 256;
inline constexpr int kMostProofTicks = 60 * 60 * 30; // half an hour
inline constexpr int kTicksOfWay = 30;

} // namespace vic::level
