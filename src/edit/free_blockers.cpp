#include "edit/free_blockers.hpp"

#include <utility>

#include "edit/own_word.hpp"

namespace vic::edit {

using namespace level;

Level with_free_blocker(const Level& level, LayerId active, FreeBlocker blocker, const std::string& layer_name,
                        std::uint32_t& next_id) {
    Level out = level;
    const Layer* here = level.layer(active);
    const LayerId on =
        here && here->blockers() ? active : make_own_word_layer(out, layer_name, next_id, storey_of(level, active));
    if (out.layer(on)->locked || out.layer(on)->blockers()->free().size() >= kMostFreeBlockers) return level;
    blocker.id = next_id++;
    auto all = out.layer(on)->blockers()->free();
    all.push_back(std::move(blocker));
    out.edit(on).blockers()->set_free(std::move(all));
    return out;
}

std::optional<FreeHit> free_blocker_at(const Level& level, Point units) {
    const Point cell{floor_div(units.x, kBlockerUnit), floor_div(units.y, kBlockerUnit)};
    for (auto at = level.layers.rbegin(); at != level.layers.rend(); ++at) {
        const Layer& layer = **at;
        if (!layer.blockers() || layer.locked) continue;
        const auto& all = layer.blockers()->free();
        for (auto b = all.rbegin(); b != all.rend(); ++b) {
            if (!cells_of(*b).contains(cell)) continue;
            // The middle of a unit lies on no corner.
            if (covers(covered(*b), {2 * units.x + 1, 2 * units.y + 1})) return FreeHit{layer.id, b->id};
        }
    }
    return std::nullopt;
}

Level change_free_blocker(const Level& level, const FreeHit& hit, const std::function<void(FreeBlocker&)>& change) {
    const Layer* layer = level.layer(hit.layer);
    if (!layer || !layer->blockers()) return level;
    auto all = layer->blockers()->free();
    for (FreeBlocker& b : all) {
        if (b.id != hit.id) continue;
        change(b);
        b.id = hit.id;
        if (!blocker_trouble(b).empty()) return level;
    }
    Level out = level;
    out.edit(hit.layer).blockers()->set_free(std::move(all));
    return out;
}

Level without_free_blocker(const Level& level, const FreeHit& hit) {
    Level out = level;
    if (!level.layer(hit.layer) || !level.layer(hit.layer)->blockers()) return out;
    auto all = level.layer(hit.layer)->blockers()->free();
    std::erase_if(all, [&](const FreeBlocker& b) { return b.id == hit.id; });
    out.edit(hit.layer).blockers()->set_free(std::move(all));
    return out;
}

Point snapped(Point units, int step) {
    const auto to = [&](int v) { return floor_div(v + step / 2, step) * step; };
    return {to(units.x), to(units.y)};
}

} // namespace vic::edit
