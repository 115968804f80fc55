#include "edit/open_floor.hpp"

#include <algorithm>
#include <set>

#include "join/resolve.hpp"
#include "level/block.hpp"

namespace vic::edit {

using namespace level;

Level with_floor_open(const Project& project, const Level& level, int storey, const std::vector<Point>& cells) {
    std::set<TileId> pieces;
    for (const auto& sheet : project.sheets)
        if (sheet->kit)
            for (const KitPiece& p : sheet->kit->pieces) pieces.insert(p.tile);
    const join::Rules rules(project);
    const TileTable tiles(project);
    Level out = level;
    for (const LayerRef& layer : level.layers) {
        if (layer->storey != storey || !layer->tiles() || layer->locked) continue;
        std::vector<Point> taken;
        level::each_cell(layer->grid(), layer->cells(), [&](Point at, Cell cell, MaterialId) {
            const Tile* const tile = pieces.contains(cell.tile()) ? tiles.find(cell.tile()).tile : nullptr;
            if (!tile) return;
            const Box under = cells_under(*tile, at, cell.turn());
            if (std::any_of(cells.begin(), cells.end(), [&](Point p) { return under.contains(p); }))
                taken.push_back(at);
        });
        if (taken.empty()) continue;
        Grid& grid = out.edit(layer->id).grid();
        for (const Point at : taken) {
            grid.set(at, {}, 0);
            join::resolve(rules, grid, Box{at.x, at.y, 1, 1}.grown(1), layer->id);
        }
    }
    return out;
}

} // namespace vic::edit
