// Pouring: what is known of some tiles is given to others of the same layout.
#pragma once

#include <cstdint>
#include <optional>
#include <vector>

#include "base/text.hpp"
#include "level/project.hpp"

namespace vic::edit {

// What is poured; sets of these are or-ed together.
enum Pour : std::uint8_t {
    kPourShape = 1,
    kPourTurns = 2,
    kPourTags = 4,
    kPourNotes = 8,
    kPourChance = 16,
    kPourHome = 32,
    kPourJoins = 64, // the cases that the tiles serve, as materials of the targets
    kPourAll = 127,
};

// Which source each target takes from: one source serves all; equally many go in order (so whole sheets with the same
// columns and rows fit). Says why where neither is so; the ids must exist.
Text pour_trouble(const level::Project& project, const std::vector<level::TileId>& from,
                  const std::vector<level::TileId>& to);

// The project after pouring. Joins: for each material of which at least one source serves a case, the targets of one
// sheet get a material of their own, with the same cases and weights, named after their sheet; a material that already
// has any of the targets gets the cases instead. There must be no trouble. `made` tells how many materials are new.
struct Poured {
    level::Project project;
    int tiles = 0;
    int made = 0;
};
Poured pour(level::Project project, const std::vector<level::TileId>& from, const std::vector<level::TileId>& to,
            std::uint8_t what);

} // namespace vic::edit
