#include "edit/fill_in.hpp"

#include <array>

#include "edit/own_word.hpp"
#include "edit/stroke.hpp"

namespace vic::edit {

level::Level filled_in(const level::Project& project, const level::Level& level, Point cell, Point like,
                       const std::string& words, std::uint32_t& next_id) {
    const level::TileTable tiles(project, level);
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        const level::Layer& layer = **it;
        if (!layer.solid() || layer.locked || layer.grain().own()) continue;
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

} // namespace vic::edit
