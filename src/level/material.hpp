// A material, and its rule table: which tiles serve which neighbourhood.
#pragma once

#include <map>
#include <string>
#include <vector>

#include "level/cell.hpp"
#include "level/sheet.hpp"

namespace vic::level {

// What of a neighbourhood is told apart: nothing, the four sides, the four corners, or sides and the corners between
// two joined sides. Square and isometric lattices share sets: both have eight neighbours, clockwise from north. A
// lattice of corners shifted by half a cell, and one of six-sided cells, would be further kinds with masks of their
// own.
enum class JoinKind : std::uint8_t { plain, edges, corners, full };

struct Variant {
    TileId tile = 0;
    int weight = 100; // 0 .. 1000
    Turn turn{};      // as it is laid for the case
    bool operator==(const Variant&) const = default;
};

// The tiles of a case by its canonical mask (see join/mask.hpp); a plain set has all its variants under mask 255.
using Cases = std::map<std::uint8_t, std::vector<Variant>>;

struct JoinSet {
    JoinKind kind = JoinKind::plain;
    Cases cases;
    bool beyond_is_same = true; // whether what lies beyond the level's edge counts as the same material
    std::uint8_t turns =
        0x01;       // the turns by which a tile may serve other cases, bit by Turn::code; bit 0 is always set
    int lively = 0; // 0 .. 100: how far variants are spread so that none lies beside itself by chance
    std::vector<MaterialId> same; // other materials that count as this one; sorted. It need not be mutual
    // Where this material meets another by tiles drawn for the two: cases that take the place of those above.
    std::map<MaterialId, Cases> pairs;
    std::vector<TileId> accepted; // tiles whose reading was doubtful and has been confirmed; sorted
    // Of two materials that meet, the one with the lower number goes on below the other: only the other shows its rim.
    int priority = 0;  // 0 .. 255
    bool over = false; // whether the material it meets is drawn below its rim (for tiles that are see-through there)
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
