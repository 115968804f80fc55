// Pieces of kits in the place of others.
#pragma once

#include "join/resolve.hpp"
#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

// A piece in the place of those that lie in the cells of a layer of tiles, pinned; one of several cells in the place of
// all that lies under it, laid in those cells of which it does not lie in its own way. What the cells were painted with
// stays, so that a door in a wall is a part of it, and the wall still meets it; it comes back where larger pieces go.
level::Level with_pieces_swapped(const level::Project& project, const join::Rules& rules, level::Level level,
                                 level::LayerId layer, const level::Region& cells, level::TileId tile, Turn turn);
} // namespace vic::edit
