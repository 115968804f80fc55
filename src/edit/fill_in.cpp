#include "edit/fill_in.hpp"

#include <array>

#include "edit/clips.hpp"
#include "edit/own_word.hpp"
#include "edit/stroke.hpp"

namespace vic::edit {

level::Level filled_in(const level::Project& project, const level::Level& level, Point cell, Point like,
                       const std::string& words, std::uint32_t& next_id) {
    const level::TileTable tiles(project, level);
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        const level::Layer& layer = **it;
        if (!layer.solid() || layer.locked || layer.grain().own() || layer.shift != Point{}) continue;
        const level::TileShape shape = tiles.shape(layer.grid().cell(like));
        if (shape == level::TileShape::none || shape == level::TileShape::opens) continue;
        const auto picked = pick(project, level, like, layer.id);
        if (!picked || picked->layer != layer.id) continue;
        const join::Rules rules(project);
        return lay(project, rules, level, layer.id, picked->hand, std::array{cell}).level;
    }
    level::Region cells;
    cells.add(Box{cell.x, cell.y, 1, 1});
    return with_own_word(level, cells, OwnWord::may_not_walk, words, next_id);
}

level::Level with_ledge_moved(const level::Project& project, const level::Level& level, const level::Region& mass,
                              Point by) {
    const join::Rules rules(project);
    const level::TileTable tiles(project, level);
    level::Region over = mass.moved({0, -1}); // with the feet of what stands on it
    over.remove(mass);
    over.keep(level.cells());
    std::vector<level::LayerId> block, stand;
    for (const level::LayerRef& layer : level.layers) {
        if (layer->locked || (layer->tiles() && (layer->grain().own() || layer->shift != Point{}))) continue;
        if (layer->has_props()) stand.push_back(layer->id);
        bool any = layer->blockers() != nullptr;
        if (layer->solid())
            level::each_cell(layer->grid(), mass.bounds(), [&](Point at, level::Cell cell, level::MaterialId) {
                any = any || (mass.contains(at) && tiles.shape(cell) != level::TileShape::none);
            });
        if (any) block.push_back(layer->id);
    }
    level::Level out = moved(project, rules, level, mass, block, by).level;
    level::Region standing = over;
    standing.add(mass);
    return moved(project, rules, out, standing, stand, by, true).level;
}

} // namespace vic::edit
