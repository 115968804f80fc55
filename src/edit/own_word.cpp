#include "edit/own_word.hpp"

#include "edit/levels.hpp"

namespace vic::edit {

using namespace level;

LayerId own_word_layer(const Level& level) {
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        if ((*it)->blockers()) return (*it)->id;
        if ((*it)->tiles() || (*it)->has_props()) return 0;
    }
    return 0;
}

Level with_own_word(const Level& level, const Region& cells, OwnWord word, const std::string& layer_name,
                    std::uint32_t& next_id) {
    Level out = level;
    LayerId on = own_word_layer(level);
    if (on == 0) {
        if (word == OwnWord::none) return out;
        on = next_id++;
        out = add_layer(std::move(out), on, layer_name, LayerKind::blockers,
                        level.layers.empty() ? 0 : level.layers.back()->id);
    }
    if (out.layer(on)->locked) return level;
    const TileShape shape = word == OwnWord::may_walk       ? TileShape::opens
                            : word == OwnWord::may_not_walk ? TileShape::full
                                                            : TileShape::none;
    Blockers& blockers = *out.edit(on).blockers();
    cells.each([&](Point cell) { blockers.set(cell, shape); });
    return out;
}

OwnWord own_word_of(const Level& level, Point cell) {
    const Layer* layer = level.layer(own_word_layer(level));
    if (!layer) return OwnWord::none;
    const TileShape shape = layer->blockers()->shape(cell);
    return shape == TileShape::opens  ? OwnWord::may_walk
           : shape == TileShape::full ? OwnWord::may_not_walk
                                      : OwnWord::none;
}

} // namespace vic::edit
