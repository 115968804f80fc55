// What a material is in the way of: the shapes of all its tiles at once.
#pragma once

#include "base/text.hpp"
#include "level/project.hpp"

namespace vic::edit {

enum class Blocking {
    nothing,  // one walks on it, or through it
    full,     // all of each cell
    as_drawn, // what is not see-through of each tile
    one_way,  // from above only: one lands on it and jumps through it from below
    opens,    // one walks there whatever lies below: a bridge
    mixed,    // its tiles are not all of one kind
};

// What a shape amounts to.
Blocking blocking_of(level::TileShape shape);
// Gives the tile of the project that shape; `mixed` changes nothing, and blank tiles block nothing.
void give(const level::Project& project, level::Tile& tile, Blocking blocking);

// What its tiles say now; `nothing` for a material without tiles.
Blocking blocking_of(const level::Project& project, const level::Material& material);

// All tiles that serve the material, as they are drawn in their sheets, get that shape; `mixed` changes nothing. Tiles
// that are see-through all over block nothing.
level::Project with_blocking(level::Project project, level::MaterialId material, Blocking blocking);

// What one would expect of it in a level of that view, with the reason. From the side all ground blocks: full where it
// fills its tiles, as drawn where its rim is see-through, one-way where it is a thin ledge. From above one walks on
// what lies there, unless its colour or its name says water or a wall.
struct ProposedBlocking {
    Blocking blocking = Blocking::nothing;
    Text reason;
};
ProposedBlocking proposed_blocking(const level::Project& project, const level::Material& material, level::View view);

} // namespace vic::edit
