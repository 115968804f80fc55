// A level as a whole given another shape: extended, cropped, turned, mirrored, with another cell size; and its layers
// merged and duplicated.
#pragma once

#include "base/text.hpp"
#include "join/resolve.hpp"
#include "level/project.hpp"

namespace vic::edit {

// Where something at `p` of a box of `size` comes to lie when the box is turned; and how large that is then.
Point turned_place(Turn turn, Point p, Size size);
Size turned_size(Turn turn, Size size);
// A grid turned with its tiles. Tiles that must not be turned so keep their own turn, as blocks do for quarter turns.
// On isometric lattices tiles are only mirrored, see Lattice::shown. Shapes are turned without asking any tile, values
// lie in no turn.
level::Grid turned_grid(const level::TileTable& tiles, const level::Grid& grid, Turn turn, const Lattice& lattice = {},
                        level::CellsAre are = level::CellsAre::tiles);
// The props of a box of cells that is turned. Of isometric ones the places are rounded to whole pixels.
std::vector<level::Prop> turned_props(const Lattice& lattice, std::vector<level::Prop> props, Turn turn, Size cells);

// So many cells more at each edge; negative numbers crop. Marks, props, guides and the plan keep their place; marks
// that lie outside afterwards go, props beyond the edge stay. The joins along the edges are resolved anew. The result
// has 1 to kMostCells cells a side.
struct Edges {
    int left = 0, top = 0, right = 0, bottom = 0;
    bool operator==(const Edges&) const = default;
};
level::Level extended(const join::Rules& rules, const level::Level& level, const Edges& by);
// The edges that are taken for these, so that cells wider than the level's stay whole: more is added, or less taken
// away, on the left and above.
Edges whole_steps(const level::Level& level, Edges by);
// What of the level has anything in it; the start and exits count.
Box content(const level::Level& level);
// The edges by which a growing level must move so that it holds the cells: whole chunks, none where it does already.
Edges growth(const level::Level& level, const Box& cells);

// Whether the level can be turned like that: quarter turns need square cells or an isometric lattice.
bool can_turn(const level::Level& level, Turn turn);
// The level turned with all its tiles, props, marks and guides; it follows no plan any more. Where layers have wider
// cells than the level it is first made as large as whole ones.
level::Level turned(const level::Project& project, const join::Rules& rules, const level::Level& level, Turn turn);

// Another size of its cells, in pixels, or another lattice: everything keeps its place in cells, props are moved along.
// `says` tells what becomes of the pictures of its tiles. An isometric level is seen from above.
struct Rescaled {
    level::Level level;
    Text says;
};
Rescaled rescaled(const level::Project& project, const level::Level& level, Size cell, LatticeKind kind);

// A copy of the layer right in front of it, with ids of its own from `next_id` on.
level::Level duplicate_layer(const level::Level& level, level::LayerId id, const std::string& name,
                             std::uint32_t& next_id);
// The layer laid onto the one of the same kind right behind it, and gone. See-through tiles over something else would
// wipe that out: they stay on the layer, which then stays. No change where there is none behind, or it is locked.
struct Merged {
    level::Level level;
    bool done = false;
    std::int64_t stayed = 0;
};
Merged merged_down(const level::Project& project, const join::Rules& rules, const level::Level& level,
                   level::LayerId id);

} // namespace vic::edit
