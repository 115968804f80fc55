#include "edit/swap_pieces.hpp"

#include <algorithm>
#include <vector>

#include "level/block.hpp"

namespace vic::edit {

using namespace level;

Level with_pieces_swapped(const Project& project, const join::Rules& rules, Level level, LayerId layer,
                          const Region& cells, TileId tile, Turn turn) {
    const TileTable tiles(project);
    const Tile* const piece = tiles.find(tile).tile;
    if (!piece) return level;
    Grid& grid = level.edit(layer).grid();
    const Box all = box_of(grid.size());
    Region taken;
    Box freed;
    cells.each([&](Point p) {
        const Box under = cells_under(*piece, p, turn);
        std::vector<Point> here;
        for (int y = under.y; y < under.bottom(); ++y)
            for (int x = under.x; x < under.right(); ++x) here.push_back({x, y});
        if (intersection(under, all) != under ||
            std::any_of(here.begin(), here.end(), [&](Point q) { return taken.contains(q); }))
            return;
        for (const Point q : here)
            if (const LaidBlock other = block_at(tiles, grid, q); other.tile) {
                grid.set(other.at, {}, grid.material(other.at));
                freed = united(freed, free_under(grid, other));
            }
        for (const Point q : here) {
            const MaterialId painted = grid.material(q);
            grid.set(q, q == p ? Cell(tile, turn, true) : Cell(0, {}, painted != 0), painted);
        }
        taken.add(under);
    });
    if (!freed.empty()) join::resolve(rules, grid, freed, layer);
    return level;
}

} // namespace vic::edit
