// Changes to how materials join: each takes a project and gives the changed one.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "join/compose.hpp"
#include "join/read_joins.hpp"
#include "join/seams.hpp"
#include "level/project.hpp"

namespace vic::edit {

// Calls change() on the material's set and joins every cell of it anew.
level::Project change_set(level::Project project, level::MaterialId material,
                          const std::function<void(level::JoinSet&)>& change);

// Lets the tile serve the case in the place of every other case that it serves with the same turn; other tiles of the
// two cases stay.
level::Project move_tile(level::Project project, level::MaterialId material, level::TileId tile, join::Mask to);

// The case whose mask differs in what the petal `bit` (0 .. 7, clockwise from north) says, as the kind tells it apart:
// a corner of a set of corners brings its sides along, a corner between open sides says nothing.
join::Mask with_petal(level::JoinKind kind, join::Mask mask, int bit);

// A part of a level joined anew.
struct Rejoined {
    level::Project project;
    std::int64_t cells = 0; // whose tile is another now
};
// `pinned_too`: painted cells that were pinned by hand are joined as well, and are no longer pinned.
Rejoined rejoin_part(const level::Project& project, const std::string& level, const Box& cells, bool pinned_too);

// The next (by = 1) or earlier (-1) variant of the case at a painted cell, pinned there. Nothing where the cell has no
// material or its case only one tile.
struct Stepped {
    level::Level level;
    int variant = 0; // 1 .. of
    int of = 0;
};
std::optional<Stepped> step_variant(const level::Project& project, const level::Level& level, level::LayerId layer,
                                    Point cell, int by);

// The cases that are missing, made of what is there, on a derived sheet beside the material's own (the same one each
// time). The project is unchanged where nothing can be made.
struct ComposedCases {
    level::Project project;
    int made = 0;
    int left = 0; // still missing
};
// `only`: no other case than that.
ComposedCases compose_missing(level::Project project, level::MaterialId material, std::optional<join::Mask> only = {});

// How many cells of the level show the case; -1 without a level, and for levels too large to be counted at once.
std::int64_t cells_of_case(const level::Project& project, const level::Level* level, level::MaterialId material,
                           join::Mask mask);

// The sheet that most of the material's tiles come from; 0 where it has none.
level::SheetId main_sheet(const level::Project& project, const level::JoinSet& set);

// Keeps the order in which the sheet's tiles serve the material's cases as a card. Empty text where that is possible.
Text card_trouble(const level::Project& project, level::SheetId sheet, const level::Material& material,
                  const std::string& name);
level::Project keep_order(level::Project project, level::SheetId sheet, const level::Material& material,
                          const std::string& name);
// Whether the card is of the sheet's layout.
bool card_fits(const level::OrderCard& card, const level::Sheet& sheet);
// What the card says of the sheet, as a reading without doubts. The card must fit.
join::JoinReading reading_by_card(const level::OrderCard& card, const level::Sheet& sheet);

// Tiles of the material that are doubtful or contradict themselves by the reading of their sheet, or serve another case
// than it says, and have not been accepted; with the case that they serve.
struct DoubtfulTile {
    level::TileId tile = 0;
    join::Mask mask = 0;
    Text why;
};
// Whether more of the set's cases are as `a` reads the sheet than as `b` does.
bool fits_better(const level::Sheet& sheet, const level::JoinSet& set, const join::JoinReading& a,
                 const join::JoinReading& b);
std::vector<DoubtfulTile> doubtful_tiles(const level::Sheet& sheet, const level::JoinSet& set,
                                         const join::JoinReading& reading);
level::Project accept_tile(level::Project project, level::MaterialId material, level::TileId tile);

} // namespace vic::edit
