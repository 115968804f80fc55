// What a project begins with.
#pragma once

#include <string>

#include "level/project.hpp"

namespace vic::edit {

enum class Beginning { from_above, from_the_side, isometric };

// The size and lattice of a new project's only level, which is empty. All of it can be changed later.
struct BeginningShape {
    level::View view = level::View::from_above;
    LatticeKind lattice = LatticeKind::square;
    Size size; // cells
    Size cell; // pixels
};
BeginningShape shape_of(Beginning beginning);
level::Project begun(const std::string& name, Beginning beginning, const std::string& level_name,
                     const level::LayerNames& layers);

// Whether nothing lies in it: no cells, props or backdrop.
bool is_empty(const level::Level& level);

// The cell that all levels get where the cut of the sheet, as it is now, is taken and is the project's first; empty
// where nothing would change.
Size cell_of_first_art(const level::Project& project, level::SheetId sheet);

// The level, which must be empty, with cells of that size and as many of them in its frame.
level::Level with_cells(const level::Project& project, const level::Level& level, Size cell);

// The first art of a project sets the size of its cells: while the sheet is the only one whose cut was taken, and no
// level has anything on it, all levels take its tile as their cell. Isometric levels take only a tile that is twice as
// wide as high. Their frames show as many cells as before, and the engine's unit is a cell where it was one. `cell`:
// what they have now; empty where nothing was changed.
struct FirstArt {
    level::Project project;
    Size cell;
};
FirstArt with_cells_of(level::Project project, level::SheetId sheet);

} // namespace vic::edit
