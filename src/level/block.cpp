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

Size picture_size(const Tile& tile, const Lattice& lattice) {
    const Size cell = lattice.cell;
    const int w = tile.block.cells.w * cell.w;
    if (lattice.square()) return {w, tile.block.cells.h * cell.h};
    return {w, tile.box.w > 0 ? std::max(1, (tile.box.h * w + tile.box.w / 2) / tile.box.w) : cell.h};
}

Box picture_box(const Tile& tile, Point at, Turn turn, const Lattice& lattice) {
    const Size cell = lattice.cell;
    const int aside = turn.mirrored() ? -tile.block.offset.x : tile.block.offset.x;
    const Point moved{floor_div(aside * cell.w, kShapeSide), floor_div(tile.block.offset.y * cell.h, kShapeSide)};
    const Size size = picture_size(tile, lattice);
    if (lattice.square()) {
        const Point corner = lattice.corner(cells_under(tile, at, turn).corner()) + moved;
        return {corner.x, corner.y, size.w, size.h};
    }
    const Box foot = lattice.box(foot_under(tile, at, turn));
    return {foot.x + floor_div(foot.w - size.w, 2) + moved.x, foot.bottom() - size.h + moved.y, size.w, size.h};
}

Reach reach_of(const Project& project) {
    Reach out;
    for (const auto& sheet : project.sheets)
        // Blocks are the last of a sheet's tiles.
        for (auto t = sheet->tiles.rbegin(); t != sheet->tiles.rend() && t->is_block(); ++t)
            for (const Turn turn : {Turn{0}, Turn{4}}) {
                const Box cells = cells_under(*t, {}, turn);
                const Box px = picture_box(*t, {}, turn, {LatticeKind::square, {kShapeSide, kShapeSide}});
                out.left = std::max({out.left, -cells.x, -floor_div(px.x, kShapeSide)});
                out.top = std::max({out.top, -cells.y, -floor_div(px.y, kShapeSide)});
                out.right = std::max({out.right, cells.right() - 1, floor_div(px.right() - 1, kShapeSide)});
                out.bottom = std::max({out.bottom, cells.bottom() - 1, floor_div(px.bottom() - 1, kShapeSide)});
            }
    return out;
}

Beyond beyond_of(const Project& project, const Lattice& lattice) {
    Beyond out;
    const Box own = lattice.box(Point{});
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            for (const Turn turn : {Turn{}, Lattice::kChangedOver}) {
                const Box px = picture_box(t, {}, turn, lattice);
                out.aside = std::max({out.aside, own.x - px.x, px.right() - own.right()});
                out.above = std::max(out.above, own.y - px.y);
                out.below = std::max(out.below, px.bottom() - own.bottom());
                if (!t.is_block()) break;
            }
    return out;
}

Reach reach_of(const Project& project, const Lattice& lattice) {
    if (lattice.square()) return reach_of(project);
    const auto [aside, above, below] = beyond_of(project, lattice);
    // A cell further up is as far from it in x as in y; one to the side in both, the one more and the other less.
    const auto cells = [](int pixels, int side) { return (pixels + side - 1) / side; };
    const int beside = cells(aside, lattice.cell.w);
    const int up = cells(above, lattice.cell.h) + beside;
    const int down = cells(below, lattice.cell.h) + beside;
    return {up, up, down, down};
}

LaidBlock block_at(const TileTable& tiles, const Grid& grid, Point cell, bool feet_only) {
    LaidBlock found;
    if (tiles.reach().none()) return found;
    int lowest = 0;
    each_cell(grid, tiles.reach().seen_in({cell.x, cell.y, 1, 1}), [&](Point at, Cell c, MaterialId) {
        const Tile* tile = tiles.find(c.tile()).tile;
        if (!tile || !tile->is_block()) return;
        if (!(feet_only ? foot_under(*tile, at, c.turn()) : cells_under(*tile, at, c.turn())).contains(cell)) return;
        const int foot = foot_under(*tile, at, c.turn()).bottom();
        if (found.tile && foot < lowest) return;
        lowest = foot;
        found = {at, c, tile};
    });
    return found;
}

Box free_under(Grid& grid, const LaidBlock& block) {
    const Box under = cells_under(*block.tile, block.at, block.cell.turn());
    const Box here = intersection(under, box_of(grid.size()));
    for (int y = here.y; y < here.bottom(); ++y)
        for (int x = here.x; x < here.right(); ++x) {
            if (under_block(grid.cell({x, y})) && grid.material({x, y}) != 0)
                grid.set({x, y}, {}, grid.material({x, y}));
        }
    return here;
}

} // namespace vic::level
