// Where blocks lie in a level. All in cells of the level unless said otherwise.
#pragma once

#include "level/project.hpp"

namespace vic::level {

// The cells under a tile that is laid at `at`: one, or those of the block. Blocks turn by mirroring alone.
Box cells_under(const Tile& tile, Point at, Turn turn);
// The cells of them on which it stands.
Box foot_under(const Tile& tile, Point at, Turn turn);
// The pixels of the level that its picture covers.
Box pixels_of(const Tile& tile, Point at, Turn turn, Size cell);

// The block of a layer that has the cell under it: of several the one whose foot is furthest down. Nothing where there
// is none.
struct LaidBlock {
    Point at;
    Cell cell;
    const Tile* tile = nullptr;
};
LaidBlock block_at(const TileTable& tiles, const Grid& grid, Point cell);

} // namespace vic::level
