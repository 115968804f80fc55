#include "edit/plant.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <tuple>
#include <utility>

#include "level/standing.hpp"

namespace vic::edit {

using namespace level;

Planted planted(const Project& project, const Level& level, LayerId id, std::size_t most) {
    const Layer* layer = level.layer(id);
    assert(layer && layer->kind() == LayerKind::planting);
    plant::Grown grown = plant::grow(project, level, id, layer->planted()->recipe, most);
    Planted out{level, project.next_id, 0, std::move(grown.passes), grown.wanted};
    if (grown.wanted > 0) return out;
    using Key = std::tuple<int, int, PropKindId, std::uint8_t>;
    const auto key = [](const Prop& p) { return Key{p.at.y, p.at.x, p.kind, p.pass}; };
    std::map<Key, PropId> before;
    std::vector<Prop> props;
    for (const Prop& p : layer->props()) {
        if (p.pass == 0)
            props.push_back(p);
        else
            before.emplace(key(p), p.id);
    }
    // In reading order, so that the file changes little when the ground does.
    std::sort(grown.props.begin(), grown.props.end(), [&](const Prop& a, const Prop& b) { return key(a) < key(b); });
    for (Prop& p : grown.props) {
        const auto found = before.find(key(p));
        p.id = found != before.end() ? found->second : out.next_id++;
        props.push_back(p);
    }
    out.count = static_cast<int>(grown.props.size());
    out.level.edit(id).props() = Props(props);
    return out;
}

bool keep_by_hand(const Project& project, const Level& before, Level& now) {
    bool changed = false;
    const PropKinds kinds(project);
    const std::vector<LayerRef> layers = now.layers; // they are replaced while this goes on
    for (const LayerRef& l : layers) {
        const Layer* old = before.layer(l->id);
        if (!old || old == l.get() || !l->planted() || !old->planted()) continue;
        if (!(old->planted()->recipe == l->planted()->recipe)) continue;
        std::vector<Prop> kept;
        std::vector<TakenAway> taken;
        for (const Prop& p : l->props()) {
            const Prop* was = old->props().find(p.id);
            if (p.pass != 0 && (!was || !(*was == p))) kept.push_back(p);
        }
        for (const Prop& p : old->props()) {
            const Prop* is = l->props().find(p.id);
            if (p.pass == 0 || is) continue;
            const PropKind* kind = project.prop_kind(p.kind);
            taken.push_back({p.at, kind ? std::max(1, plant::apart_of_foot(*kind) / plant::kParts / 2) : 1});
        }
        if (kept.empty() && taken.empty()) continue;
        Layer& next = now.edit(l->id);
        for (Prop p : kept) {
            p.pass = 0;
            next.props().put(p);
        }
        auto& all = next.planted()->recipe.taken;
        all.insert(all.end(), taken.begin(), taken.end());
        changed = true;
    }
    return changed;
}

Level forget_by_hand(const Level& level, LayerId id) {
    Level out = level;
    Layer& layer = out.edit(id);
    layer.props().remove_if([](const Prop& p) { return p.pass == 0; });
    layer.planted()->recipe.taken.clear();
    return out;
}

Level forget_kept(const Level& level, LayerId id, PropId prop) {
    Level out = level;
    out.edit(id).props().remove(prop);
    return out;
}

Level forget_taken(const Level& level, LayerId id, const TakenAway& taken) {
    Level out = level;
    std::erase(out.edit(id).planted()->recipe.taken, taken);
    return out;
}

Level frozen(const Level& level, LayerId id) {
    Level out = level;
    Layer& layer = out.edit(id);
    PlacedProps placed{layer.props()};
    placed.props.change_all([](Prop& p) { p.pass = 0; });
    layer.content = std::move(placed);
    return out;
}

namespace {

// Every pass's word on others, after pass i has become now(i); where that is none, the word goes.
template <class Now>
void renumber(Planting& recipe, Now now) {
    for (std::size_t at = 0; at < recipe.passes.size(); ++at) {
        Pass& pass = recipe.passes[at];
        std::erase_if(pass.where, [&](AreaTerm& t) {
            if (t.of != AreaOf::pass) return false;
            const std::optional<std::size_t> to = now(static_cast<std::size_t>(t.pass));
            if (!to || *to >= at) return true;
            t.pass = static_cast<int>(*to);
            return false;
        });
        std::uint64_t ignores = 0;
        for (std::size_t i = 0; i < kMostPasses; ++i)
            if ((pass.ignores >> i) & 1U)
                if (const std::optional<std::size_t> to = now(i)) ignores |= std::uint64_t{1} << *to;
        pass.ignores = ignores;
    }
}

} // namespace

void swap_passes(Planting& recipe, std::size_t one, std::size_t other) {
    std::swap(recipe.passes[one], recipe.passes[other]);
    renumber(recipe, [&](std::size_t i) { return std::optional(i == one ? other : i == other ? one : i); });
}

void remove_pass(Planting& recipe, std::size_t index) {
    recipe.passes.erase(recipe.passes.begin() + static_cast<std::ptrdiff_t>(index));
    renumber(recipe, [&](std::size_t i) {
        return i == index ? std::optional<std::size_t>() : std::optional(i > index ? i - 1 : i);
    });
}

void dab(Planting& recipe, Size cell, Point at, int radius, int hardness, int strength, PlantBrush brush) {
    const int grain = planting_grain(cell);
    const auto sample = [grain](int v) { return floor_div(v, grain); };
    const bool uses =
        std::any_of(recipe.area.begin(), recipe.area.end(), [](const AreaTerm& t) { return t.of == AreaOf::painted; });
    if (brush == PlantBrush::plant && !uses) {
        AreaTerm term;
        term.of = AreaOf::painted;
        term.join = recipe.area.empty() ? AreaJoin::with : AreaJoin::or_else;
        recipe.area.push_back(term);
    }
    for (int y = sample(at.y - radius); y <= sample(at.y + radius); ++y)
        for (int x = sample(at.x - radius); x <= sample(at.x + radius); ++x) {
            const double d =
                std::hypot(x * grain + grain / 2.0 - at.x, y * grain + grain / 2.0 - at.y) / std::max(1, radius);
            if (d > 1) continue;
            const double hard = hardness / 100.0;
            const double share = d <= hard ? 1 : (1 - d) / std::max(1e-6, 1 - hard);
            const int v = static_cast<int>(std::lround(255 * share * strength / 100.0));
            const Point p{x, y};
            switch (brush) {
                case PlantBrush::plant:
                    recipe.painted.set(p, std::max(recipe.painted.at(p), v));
                    recipe.cleared.set(p, std::min(recipe.cleared.at(p), 255 - v));
                    break;
                case PlantBrush::thin:
                    recipe.cleared.set(p, std::max(recipe.cleared.at(p), v / 2));
                    break;
                case PlantBrush::clear:
                    recipe.cleared.set(p, std::max(recipe.cleared.at(p), v));
                    recipe.painted.set(p, std::min(recipe.painted.at(p), 255 - v));
                    break;
            }
        }
}

} // namespace vic::edit
