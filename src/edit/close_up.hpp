// Layers whose cells are finer or wider than the level's: each is worked on as a level of its own.
#pragma once

#include "base/text.hpp"
#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

// A level that has this layer alone and whose cells are the layer's: whatever works on levels works on it. The level
// itself where its cells are the layer's already.
level::Level close_up(const level::Level& level, level::LayerId layer);
// The level with what was done to the close-up of its layer; layers that were made there (overlays) come to lie right
// in front of it and have the same cells.
level::Level put_back(const level::Level& level, const level::Level& close, level::LayerId layer);

// The layer with cells of another size. Finer: each cell becomes several of the same, so that the same ground is
// covered. Coarser: the first of each that holds anything stays. `says` tells which, and where it cannot be done:
// tiles that block are not finer than the level, and cells must divide evenly; the level is then unchanged.
struct Refined {
    level::Level level;
    Text says;
    bool done = false;
};
Refined refined(const level::Level& level, level::LayerId layer, level::Grain grain);

// The cells of a layer that have their upper left corner in these of the level.
level::Region own_cells(const level::Region& cells, level::Grain grain);

} // namespace vic::edit
