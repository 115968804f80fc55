#include "app/session/choice.hpp"

#include <algorithm>
#include <cstddef>

#include "edit/ensemble.hpp"
#include "edit/levels.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kLastHands = 10;

// The same thing in another size or turn is still the same Hand.
edit::Hand thingOf(edit::Hand h) {
    h.size = 1;
    h.turn = {};
    h.seed = 0;
    h.share_empty = 0;
    h.round = false;
    if (auto* prop = h.as<edit::held::Prop>()) prop->look = {};
    if (auto* spread = h.as<edit::held::Spread>())
        for (edit::SpreadItem& i : spread->items) i.weight = 0;
    return h;
}

bool isThere(const edit::SpreadItem& i, const level::Project& p, const level::TileTable& tiles) {
    return i.material != 0 ? p.material(i.material) != nullptr : tiles.find(i.tile).tile != nullptr;
}

// The layer that one most likely lays on: the rearmost that blocks, else the rearmost of tiles.
level::LayerId likelyLayer(const level::Level& level) {
    level::LayerId out = 0;
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->tiles()) continue;
        if (layer->solid()) return layer->id;
        if (out == 0) out = layer->id;
    }
    return out;
}

} // namespace

void Choice::forget() {
    Choice fresh;
    fresh.stage = stage;
    fresh.tool = tool;
    fresh.options = options;
    fresh.factsLook = factsLook;
    *this = fresh;
}

void Choice::take(const edit::Hand& next) {
    hand = next;
    hand.size = std::clamp(hand.size, 1, 16);
    hand.share_empty = std::clamp(hand.share_empty, 0, 99);
    if (hand.is<edit::held::Nothing>() || hand.is<edit::held::Eraser>()) return;
    std::erase_if(lastHands, [&](const edit::Hand& h) { return thingOf(h) == thingOf(hand); });
    lastHands.insert(lastHands.begin(), hand);
    if (lastHands.size() > kLastHands) lastHands.pop_back();
}

void Choice::enter(Stage next) {
    stage = next;
    if (stage == Stage::dress && !tool.dresses) tool = tool == Tool::select ? Tool::choose : Tool::props;
    if (stage != Stage::bound && tool.bounds) tool = stage == Stage::dress ? Tool::props : Tool::pencil;
    if (laysCells(stage) && tool.dresses) tool = tool == Tool::choose ? Tool::select : Tool::pencil;
    if (stage != Stage::dress) {
        ensemble = 0;
        chosen = {};
    }
}

bool Choice::settle(const level::Project& p, const level::TileTable& table) {
    if (!p.level(level)) level = p.levels.empty() ? "" : p.levels.front()->id;
    const level::Level* now = p.level(level);
    std::erase_if(seenAlone, [&](level::LayerId id) { return !now || !now->layer(id); });
    if (now) selection.keep(now->cells());
    if (now && !now->layer(layer)) layer = likelyLayer(*now);
    if (!p.sheet(sheet)) sheet = p.sheets.empty() ? 0 : p.sheets.front()->id;
    if (!p.material(material)) material = p.materials.empty() ? 0 : p.materials.front()->id;
    std::erase_if(tiles, [&](level::TileId id) { return !table.find(id).tile; });
    const level::Prop* whole = now ? edit::find_prop(*now, ensemble) : nullptr;
    const level::PropKind* kind = whole ? p.prop_kind(whole->kind) : nullptr;
    if (!kind || !kind->is_ensemble()) ensemble = 0;
    if (now) chosen = edit::settled(edit::opened(p, *now, ensemble), std::move(chosen));

    const bool gone = (hand.is<edit::held::Material>() && !p.material(hand.material())) ||
                      (hand.is<edit::held::Tile>() && !table.find(hand.tile()).tile) ||
                      (hand.is<edit::held::Prop>() && !p.prop_kind(hand.prop()));
    if (gone) {
        hand = {};
        lastHands.clear();
        return true;
    }
    edit::Hand rest = hand;
    auto* spread = rest.as<edit::held::Spread>();
    if (!spread || std::erase_if(spread->items, [&](const auto& i) { return !isThere(i, p, table); }) == 0)
        return false;
    take(spread->items.empty() ? edit::Hand{} : rest);
    return true;
}

} // namespace vic::app
