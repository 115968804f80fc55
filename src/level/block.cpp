#include "level/block.hpp"

namespace vic::level {

Box cells_under(const Tile& tile, Point at, Turn turn) {
    const Block& b = tile.block;
    const int column = turn.mirrored() ? b.cells.w - 1 - b.pivot.x : b.pivot.x;
    return {at.x - column, at.y - b.pivot.y, b.cells.w, b.cells.h};
}

Box foot_under(const Tile& tile, Point at, Turn turn) {
    Box box = cells_under(tile, at, turn);
    box.y += tile.block.stands;
    box.h -= tile.block.stands;
    return box;
}

Box pixels_of(const Tile& tile, Point at, Turn turn, Size cell) {
    const Box cells = cells_under(tile, at, turn);
    const int aside = turn.mirrored() ? -tile.block.offset.x : tile.block.offset.x;
    return {cells.x * cell.w + floor_div(aside * cell.w, kShapeSide),
            cells.y * cell.h + floor_div(tile.block.offset.y * cell.h, kShapeSide), cells.w * cell.w, cells.h * cell.h};
}

Reach reach_of(const Project& project) {
    Reach out;
    for (const auto& sheet : project.sheets)
        // Blocks are the last of a sheet's tiles.
        for (auto t = sheet->tiles.rbegin(); t != sheet->tiles.rend() && t->is_block(); ++t)
            for (const Turn turn : {Turn{0}, Turn{4}}) {
                const Box cells = cells_under(*t, {}, turn);
                const Box px = pixels_of(*t, {}, turn, {kShapeSide, kShapeSide});
                out.left = std::max({out.left, -cells.x, -floor_div(px.x, kShapeSide)});
                out.top = std::max({out.top, -cells.y, -floor_div(px.y, kShapeSide)});
                out.right = std::max({out.right, cells.right() - 1, floor_div(px.right() - 1, kShapeSide)});
                out.bottom = std::max({out.bottom, cells.bottom() - 1, floor_div(px.bottom() - 1, kShapeSide)});
            }
    return out;
}

LaidBlock block_at(const TileTable& tiles, const Grid& grid, Point cell) {
    LaidBlock found;
    if (tiles.reach().none()) return found;
    int lowest = 0;
    each_cell(grid, tiles.reach().seen_in({cell.x, cell.y, 1, 1}), [&](Point at, Cell c, MaterialId) {
        const Tile* tile = tiles.find(c.tile()).tile;
        if (!tile || !tile->is_block() || !cells_under(*tile, at, c.turn()).contains(cell)) return;
        const int foot = foot_under(*tile, at, c.turn()).bottom();
        if (found.tile && foot < lowest) return;
        lowest = foot;
        found = {at, c, tile};
    });
    return found;
}

} // namespace vic::level
