// Themes: one sheet in the place of another of the same layout, through a level or all of them (the dry season for the
// flood).
#pragma once

#include <cstdint>
#include <map>
#include <string>
#include <vector>

#include "level/project.hpp"

namespace vic::edit {

// Which tile takes the place of which: the one in the same column and row of the other sheet's lattice, as far as there
// is one that holds anything; and of the blocks the one over the same columns and rows.
struct Counterparts {
    std::map<level::TileId, level::TileId> tiles;
    std::vector<level::TileId> alone; // of `from`, in use in a level or a material, without one; in the sheet's order
};
Counterparts counterparts(const level::Project& project, level::SheetId from, level::SheetId to);

// Swaps the sheets in these levels (by id; empty: in all). Painted cells take the material that `to` has for that of
// `from`; where it has none, one is made of the same cases. What has no counterpart stays. A tile of `to` that blocks
// nothing, has no chance, name, tag or note of its own gets those of its counterpart.
struct Swapped {
    level::Project project;
    std::int64_t cells = 0;  // that show something else now
    std::int64_t stayed = 0; // that hold a tile of `from` still
    int made = 0;            // materials that were made for it
};
Swapped swapped(level::Project project, level::SheetId from, level::SheetId to, const std::vector<std::string>& levels);

} // namespace vic::edit
