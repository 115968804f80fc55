// Where blocks lie in a level. All in cells of the level unless said otherwise.
#pragma once

#include "level/project.hpp"

namespace vic::level {

// The cells under a tile that is laid at `at`: one, or those of the block. Blocks turn by mirroring alone.
Box cells_under(const Tile& tile, Point at, Turn turn);
// The cells of them on which it stands.
Box foot_under(const Tile& tile, Point at, Turn turn);
// The pixels of the level that the picture of a tile or block covers. On a square lattice it fills its cells. On an
// isometric one it is as wide as its columns and as high as the art then is; it stands with its lower edge at that of
// its foot, in the middle.
Box picture_box(const Tile& tile, Point at, Turn turn, const Lattice& lattice);
// How large that picture is.
Size picture_size(const Tile& tile, const Lattice& lattice);

// The block of a layer that has the cell under it: of several the one whose foot is furthest down. Nothing where there
// is none.
struct LaidBlock {
    Point at;
    Cell cell;
    const Tile* tile = nullptr;
};
// Where rows that stand up cover no cells (on isometric lattices) only the feet are looked at.
LaidBlock block_at(const TileTable& tiles, const Grid& grid, Point cell, bool feet_only = false);

// Cells under a block that took the place of painted ones keep their material and are pinned without a tile.
inline bool under_block(Cell cell) { return cell.pinned() && cell.empty(); }
// Where the block goes, they are to be joined again. Returns the cells that it had under it.
Box free_under(Grid& grid, const LaidBlock& block);

} // namespace vic::level
