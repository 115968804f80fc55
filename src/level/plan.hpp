// A plan: a small picture, one pixel a cell, from which a level is laid and re-laid.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "level/sheet.hpp"

namespace vic::level {

inline constexpr int kMostPlan = 1024;    // pixels a side of a plan
inline constexpr int kMostPlanKeys = 254; // colours that a plan can tell apart

// What a colour of the plan stands for.
struct PlanKey {
    enum class Kind : std::uint8_t { nothing, material, tile, prop, mark, start, exit };
    Rgba colour{};
    Kind kind = Kind::nothing;
    std::uint32_t id = 0; // of the material, tile or kind of prop
    std::string name;     // of the marks, start and exit among them
    [[nodiscard]] bool marks() const { return kind == Kind::mark || kind == Kind::start || kind == Kind::exit; }
    bool operator==(const PlanKey&) const = default;
};

struct Plan {
    std::string file;       // relative to the project
    Point at;               // the level's cell where the plan's first cell lies
    bool bottom_up = false; // the picture's lowest row is the level's uppermost
    int gather = 24;        // colours nearer than this to one of the keys are the key's; 0 .. 441, in steps of sRGB
    LayerId layer = 0;      // where what has no home is laid
    std::vector<PlanKey> keys;
    // What was laid last, row by row as the level shows it: the index of the key, kNoKey where none fits.
    Size size;
    std::vector<std::uint8_t> laid;
    bool operator==(const Plan&) const = default;
};

inline constexpr std::uint8_t kNoKey = 255;

} // namespace vic::level
