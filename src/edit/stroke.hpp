// Laying cells: what the Hand holds, where it goes, and the level that comes of it. Pure logic: the preview and the
// stroke are the same calculation.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "base/text.hpp"
#include "edit/hand.hpp"
#include "join/resolve.hpp"
#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

enum class Obstacle : std::uint8_t { none, no_layer, locked, hidden, wrong_kind, own_cells };

struct Target {
    level::LayerId layer = 0;
    bool went_home = false; // another layer than the active one, because the Hand has its home there
    Obstacle obstacle = Obstacle::none;
};

// The layer on which the Hand will lay: its home in this level if it has one (unless `stay`), else the active layer.
Target target_of(const level::Project& project, const level::Level& level, const Hand& hand, level::LayerId active,
                 bool stay);

// The cells of a pencil of `size` around (and right and below of) `at`.
std::vector<Point> pencil_cells(Point at, int size, bool round = false);
// The cells from one to the other without a gap (Bresenham, "Algorithm for computer control of a digital plotter",
// 1965).
std::vector<Point> line_cells(Point from, Point to);
std::vector<Point> box_cells(const Box& box);
// Where a line from `from` towards `to` ends if it keeps to the lattice's directions: level, upright or diagonal.
Point straight_end(Point from, Point to);
// The cells whose middle lies in the ellipse that fills the box.
std::vector<Point> ellipse_cells(const Box& box);
// The rim of an ellipse or a box, one cell thick.
std::vector<Point> ellipse_rim(const Box& box);
std::vector<Point> box_rim(const Box& box);

struct Laid {
    level::Level level;
    Box touched;    // the cells laid and the neighbours that were joined anew
    int joined = 0; // neighbours, not laid themselves, whose tile changed; not counted for very many
};

// The level after the Hand (a material, tile, spread or eraser) was laid on the cells of one layer, joins included.
// Cells outside the level are passed over; a pinned cell stays where the same material is painted over it. The layer
// must be one of tiles, or for blockers of those. Of blocks no two feet overlap: one of the same tile in the way stays,
// so that a stroke sets one beside the other, and one of another tile goes. The eraser takes a block away by any cell
// of its foot, and by its picture where nothing else lies.
Laid lay(const level::Project& project, const join::Rules& rules, const level::Level& level, level::LayerId layer,
         const Hand& hand, const level::Region& cells);
Laid lay(const level::Project& project, const join::Rules& rules, const level::Level& level, level::LayerId layer,
         const Hand& hand, std::span<const Point> cells);

// Whether the spread, or the chance to be left, lays nothing at the cell; steady for the same seed and layer.
bool left_out(const Hand& hand, level::LayerId layer, Point cell);
// What the Hand lays at the cell if it is not left out: of a spread, the choice.
SpreadItem choice(const Hand& hand, level::LayerId layer, Point cell);

// A cell whose tile was chosen by hand stays as it is where its own material is painted over it.
inline bool stays(level::Cell held, level::MaterialId painted, level::MaterialId material) {
    return held.pinned() && painted == material;
}

// A Hand that lays a blocker of this shape.
Hand blocker_hand(level::TileShape shape);
// A value of the note; of the one held `before` where the note has it too. Its size stays.
Hand fact_hand(const level::Project& project, level::NoteId note, const Hand& before);

// What lies at a cell: of the active layer, if anything, else of the frontmost shown layer of tiles. For picking up.
struct Picked {
    level::LayerId layer = 0;
    Hand hand;
};
std::optional<Picked> pick(const level::Project& project, const level::Level& level, Point cell, level::LayerId active);

// The present name of what lies in a cell of a layer: of its material, its tile's name, or "tile 12"; empty for
// nothing.
Text name_at(const level::Project& project, const level::Layer& layer, Point cell);
// Those of all that lies in some cells, each once, in the order of the cells.
std::vector<Text> names_in(const level::Project& project, const level::Layer& layer, std::span<const Point> cells);
Text tile_name(const level::Project& project, level::TileId tile);
// "Ore: 5"; the note may be none.
Text fact_name(const level::Project& project, level::NoteId note, int value);

} // namespace vic::edit
