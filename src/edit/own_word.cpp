#include "edit/own_word.hpp"

#include "edit/levels.hpp"

namespace vic::edit {

using namespace level;

LayerId own_word_layer(const Level& level, int storey) {
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        if ((*it)->storey != storey) continue;
        if ((*it)->blockers()) return (*it)->id;
        if ((*it)->tiles() || (*it)->has_props()) return 0;
    }
    return 0;
}

int storey_of(const Level& level, LayerId active) {
    const Layer* layer = level.layer(active);
    return layer ? layer->storey : 0;
}

LayerId make_own_word_layer(Level& level, const std::string& layer_name, std::uint32_t& next_id, int storey) {
    if (const LayerId there = own_word_layer(level, storey)) return there;
    // In front of all that is no higher.
    LayerId behind = 0;
    for (const LayerRef& layer : level.layers)
        if (layer->storey <= storey) behind = layer->id;
    const LayerId on = next_id++;
    level = add_layer(std::move(level), on, layer_name, LayerKind::blockers, behind);
    if (storey != 0) level.edit(on).storey = storey;
    return on;
}

Level with_own_word(const Level& level, const Region& cells, OwnWord word, const std::string& layer_name,
                    std::uint32_t& next_id, int storey) {
    Level out = level;
    if (word == OwnWord::none && own_word_layer(level, storey) == 0) return out;
    const LayerId on = make_own_word_layer(out, layer_name, next_id, storey);
    if (out.layer(on)->locked) return level;
    const TileShape shape = word == OwnWord::may_walk       ? TileShape::opens
                            : word == OwnWord::may_not_walk ? TileShape::full
                                                            : TileShape::none;
    Blockers& blockers = *out.edit(on).blockers();
    cells.each([&](Point cell) { blockers.set(cell, shape); });
    return out;
}

OwnWord own_word_of(const Level& level, Point cell, int storey) {
    const Layer* layer = level.layer(own_word_layer(level, storey));
    if (!layer) return OwnWord::none;
    const TileShape shape = layer->blockers()->shape(cell);
    return shape == TileShape::opens  ? OwnWord::may_walk
           : shape == TileShape::full ? OwnWord::may_not_walk
                                      : OwnWord::none;
}

} // namespace vic::edit
