// Art that is not of the size of the cells it would be laid in, and the ways to settle that once.
#pragma once

#include <optional>
#include <vector>

#include "base/text.hpp"
#include "edit/hand.hpp"
#include "level/project.hpp"

namespace vic::edit {

struct Clash {
    level::SheetId sheet = 0;
    Size art;        // pixels of one of its tiles
    Size cell;       // pixels of the level's cells
    int larger = 0;  // so many cells a side does a tile have, 2 or more; 0 where it is no whole number
    int smaller = 0; // so many tiles a side go into a cell, 2 or more; 0 where that is no whole number
    bool operator==(const Clash&) const = default;
};

// How the sheet and the level differ; nothing where they do not, and where it is settled: the sheet is to be drawn at
// any size, or its tiles are at home on a layer of the level that has such cells. A sheet that is drawn enlarged is of
// both sizes, that of its file and the one it was drawn at. In isometric levels widths alone count, of sheets that are
// drawn as diamonds: art may stand higher than a cell.
std::optional<Clash> clash_of(const level::Project& project, const level::Level& level, level::SheetId sheet);

// The sheet that what the Hand holds comes from, of a tile, a material or a stamp of one layer; 0 for others.
level::SheetId sheet_of(const level::Project& project, const Hand& hand);

enum class Settlement {
    cells, // the level's cells become as large as the art
    layer, // a layer whose cells are as large as the art, to which the sheet's tiles are at home
    drawn, // its tiles are drawn at the size of the cells, whatever becomes of their pixels
};
// The ways there are, the best first: `cells` only while nothing is laid in the level, `layer` not in isometric levels.
std::vector<Settlement> settlements(const level::Level& level, const Clash& clash);

// The project with the clash settled in one of these ways. A new layer lies right in front of `beside`, where that is
// a layer of tiles, and blocks as that does; one that is there already is used. `layer`: where the sheet's tiles are
// at home then, 0 for the other ways.
struct Settled {
    level::Project project;
    level::LayerId layer = 0;
};
Settled settled(level::Project project, const level::Level& level, const Clash& clash, Settlement way,
                level::LayerId beside);

// The layer to work on with what the Hand holds: its home, where that has other cells than the active layer; the one
// proposed as its home, where the art is as large as the level's cells and those of the active layer are not; else the
// active one.
level::LayerId layer_for(const level::Project& project, const level::Level& level, const Hand& hand,
                         level::LayerId active);

} // namespace vic::edit
