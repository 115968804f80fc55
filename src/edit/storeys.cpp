#include "edit/storeys.hpp"

#include <algorithm>
#include <map>
#include <memory>
#include <set>
#include <utility>

#include "edit/reshape.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr int kFaint = 40; // per cent of what is seen of storeys below

Layer& own(LayerRef& layer) {
    auto copy = std::make_shared<Layer>(*layer);
    Layer& out = *copy;
    layer = std::move(copy);
    return out;
}

// Heights that are told go along with their storeys.
template <class To>
std::map<int, int> heights_moved(const Level& level, const To& to) {
    std::map<int, int> out;
    for (const auto& [storey, height] : level.storey_heights)
        if (const int now = to(storey); now >= 0 && now <= kMostStorey) out[now] = height;
    return out;
}

// And so do marks; those of a storey that goes come down.
template <class To>
void move_marks(Level& level, const To& to) {
    for (Mark& m : level.marks) m.storey = std::clamp(to(m.storey), 0, kMostStorey);
}

void set_storey(LayerRef& layer, int storey) {
    if (layer->storey != storey) own(layer).storey = storey;
}

} // namespace

std::vector<int> storeys_of(const Level& level) {
    std::set<int> out{0};
    for (const LayerRef& layer : level.layers) out.insert(layer->storey);
    return {out.begin(), out.end()};
}

Level with_storey_above(const Level& level, int storey, bool doubled, std::uint32_t& next_id) {
    if (storeys_of(level).back() >= kMostStorey) return level;
    Level out = level;
    for (LayerRef& layer : out.layers)
        if (layer->storey > storey) set_storey(layer, layer->storey + 1);
    // In front of the last of the storey's layers.
    std::size_t at = 0;
    std::vector<LayerRef> made;
    std::vector<LayerId> lies_over; // the layer over which the one it was made of lies, or 0
    std::map<LayerId, LayerId> copies;
    for (std::size_t i = 0; i < out.layers.size(); ++i) {
        const Layer& layer = *out.layers[i];
        if (layer.storey != storey) continue;
        at = i + 1;
        if (!doubled && !layer.tiles()) continue;
        LayerRef copy;
        if (doubled) { // what is in it gets ids of its own
            copy = duplicate_layer(out, layer.id, layer.name, next_id).layers[i + 1];
        } else {
            Layer empty = layer;
            empty.id = next_id++;
            empty.grid() = Grid(layer.grid().size());
            copy = std::make_shared<const Layer>(std::move(empty));
        }
        set_storey(copy, storey + 1);
        copies[layer.id] = copy->id;
        lies_over.push_back(layer.overlay_of());
        made.push_back(std::move(copy));
    }
    for (std::size_t i = 0; i < made.size(); ++i)
        if (lies_over[i] != 0) own(made[i]).tiles()->overlay_of = copies[lies_over[i]];
    if (made.empty()) return level;
    if (static_cast<int>(at) <= out.plane) out.plane += static_cast<int>(made.size());
    out.layers.insert(out.layers.begin() + static_cast<std::ptrdiff_t>(at), made.begin(), made.end());
    const auto moved = [&](int s) { return s > storey ? s + 1 : s; };
    out.storey_heights = heights_moved(level, moved);
    move_marks(out, moved);
    if (const auto own = level.storey_heights.find(storey); own != level.storey_heights.end())
        out.storey_heights[storey + 1] = own->second;
    return out;
}

Level moved_storey(const Level& level, int storey, bool up) {
    const std::vector<int> all = storeys_of(level);
    const auto here = std::find(all.begin(), all.end(), storey);
    if (here == all.end() || (up ? here + 1 == all.end() : here == all.begin())) return level;
    const int other = up ? *(here + 1) : *(here - 1);
    Level out = level;
    for (LayerRef& layer : out.layers)
        if (layer->storey == storey)
            set_storey(layer, other);
        else if (layer->storey == other)
            set_storey(layer, storey);
    // Higher ones lie in front; within a storey all stay in their order.
    std::stable_sort(out.layers.begin(), out.layers.end(), [&](const LayerRef& a, const LayerRef& b) {
        const auto key = [&](const LayerRef& l) { return l->storey == storey || l->storey == other ? l->storey : -1; };
        return key(a) >= 0 && key(b) >= 0 && key(a) < key(b);
    });
    const auto moved = [&](int s) { return s == storey ? other : s == other ? storey : s; };
    out.storey_heights = heights_moved(level, moved);
    move_marks(out, moved);
    return out;
}

Level without_storey(const Level& level, int storey) {
    if (storeys_of(level).size() < 2) return level;
    Level out = level;
    int behind = 0;
    for (std::size_t i = 0; i < out.layers.size(); ++i)
        if (static_cast<int>(i) < out.plane && out.layers[i]->storey == storey) ++behind;
    std::erase_if(out.layers, [&](const LayerRef& layer) { return layer->storey == storey; });
    if (out.layers.empty()) return level;
    out.plane -= behind;
    for (LayerRef& layer : out.layers)
        if (layer->storey > storey) set_storey(layer, layer->storey - 1);
    out.storey_heights = heights_moved(level, [&](int s) { return s == storey ? -1 : s > storey ? s - 1 : s; });
    move_marks(out, [&](int s) { return s >= storey ? s - 1 : s; });
    return out;
}

Level with_storey_height(const Level& level, int storey, int height) {
    Level out = level;
    if (height > 0)
        out.storey_heights[storey] = std::min(height, kMostStoreyHeight);
    else
        out.storey_heights.erase(storey);
    return out;
}

Level storey_alone(Level level, int storey) {
    std::erase_if(level.layers, [&](const LayerRef& layer) { return layer->storey != storey; });
    for (LayerRef& layer : level.layers)
        if (layer->storey != 0) own(layer).storey = 0;
    return level;
}

Level seen_from_storey(Level level, int storey) {
    for (LayerRef& layer : level.layers) {
        if (layer->storey == storey || !layer->shown) continue;
        Layer& changed = own(layer);
        if (changed.storey > storey)
            changed.shown = false;
        else
            changed.opacity = changed.opacity * kFaint / 100;
    }
    return level;
}

} // namespace vic::edit
