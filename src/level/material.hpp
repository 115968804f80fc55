// A material, and its rule table: which tiles serve which neighbourhood.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "level/cell.hpp"
#include "level/sheet.hpp"

namespace vic::level {

// What of a neighbourhood is told apart: nothing, the four sides, the four corners, or sides and the corners between
// two joined sides.
enum class JoinKind : std::uint8_t { plain, edges, corners, full };

struct Variant {
    TileId tile = 0;
    int weight = 100; // 0 .. 1000
    bool operator==(const Variant&) const = default;
};

struct JoinSet {
    JoinKind kind = JoinKind::plain;
    // The tiles of a case by its canonical mask (see join/mask.hpp); a plain set has all its variants under mask 255.
    std::map<std::uint8_t, std::vector<Variant>> cases;
    bool beyond_is_same = true; // whether what lies beyond the level's edge counts as the same material
    bool operator==(const JoinSet&) const = default;
};

struct Material {
    MaterialId id = 0;
    std::string name;
    JoinSet joins;
    std::vector<LayerId> homes; // at most one layer a level
    bool operator==(const Material&) const = default;
};

} // namespace vic::level
