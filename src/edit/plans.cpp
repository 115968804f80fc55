#include "edit/plans.hpp"

#include <algorithm>
#include <map>

#include "edit/homes.hpp"
#include "edit/joins.hpp"
#include "edit/levels.hpp"
#include "edit/reshape.hpp"
#include "join/mask.hpp"
#include "sheet/isometric.hpp"

namespace vic::edit {

using namespace level;
using Kind = PlanKey::Kind;

namespace {

Hand hand_of(const PlanKey& key) {
    Hand hand;
    if (key.kind == Kind::material) {
        hand.holds = held::Material{static_cast<MaterialId>(key.id)};
    } else if (key.kind == Kind::tile) {
        hand.holds = held::Tile{key.id};
    }
    return hand;
}

bool exists(const Project& project, const PlanKey& key) {
    switch (key.kind) {
        case Kind::material:
            return key.id < 256 && project.material(static_cast<MaterialId>(key.id));
        case Kind::prop:
            return project.prop_kind(key.id) != nullptr;
        case Kind::tile:
            for (const auto& sheet : project.sheets)
                for (const Tile& t : sheet->tiles)
                    if (t.id == key.id) return true;
            return false;
        case Kind::mark:
        case Kind::start:
        case Kind::exit:
            return !key.name.empty();
        case Kind::nothing:
            break;
    }
    return true;
}

bool same_meaning(const PlanKey& a, const PlanKey& b) { return a.kind == b.kind && a.id == b.id && a.name == b.name; }

// Where the key's things go in the level; 0 where there is no place for them.
LayerId layer_for(const Project& project, const Level& level, const PlanKey& key, LayerId fallback) {
    if (key.kind == Kind::prop) {
        LayerId best = 0;
        for (std::size_t i = 0; i < level.layers.size(); ++i)
            if (level.layers[i]->kind() == LayerKind::props && (best == 0 || static_cast<int>(i) < level.plane))
                best = level.layers[i]->id;
        return best;
    }
    if (const LayerId home = home_of(project, level, hand_of(key))) return home;
    const Layer* l = level.layer(fallback);
    if (l && l->tiles() && !l->grain().own()) return fallback;
    for (const LayerRef& layer : level.layers)
        if (layer->tiles() && !layer->grain().own()) return layer->id;
    return 0;
}

Point stand(const Level& level, Point cell) { return level.geometry().stand(cell); }

MarkKind mark_kind(const PlanKey& key) {
    return key.kind == Kind::start ? MarkKind::start : key.kind == Kind::exit ? MarkKind::exit : MarkKind::note;
}

// Of a mark of the designer's own the name tells, of start and exit the kind.
bool is_of(const Mark& mark, const PlanKey& key) {
    return mark.kind == mark_kind(key) && (key.kind != Kind::mark || mark.name == key.name);
}

// The prop of the kind that stands at the pixel; 0 where none does.
PropId stands(const Layer& layer, PropKindId kind, Point at) {
    PropId found = 0;
    layer.props().each_in({at.x, at.y, 1, 1}, [&](const Prop& p) {
        if (p.kind == kind) found = p.id;
    });
    return found;
}

void remove_at(Level& level, LayerId on, PropKindId kind, Point at) {
    for (PropId id = stands(*level.layer(on), kind, at); id != 0; id = stands(*level.layer(on), kind, at))
        level.edit(on).props().remove(id);
}

// Whether the cell still is as the key laid it.
bool as_laid(const Level& level, const PlanKey& key, LayerId on, Point cell) {
    const Layer* l = level.layer(on);
    switch (key.kind) {
        case Kind::material:
            return l && l->grid().material(cell) == key.id && !l->grid().cell(cell).pinned();
        case Kind::tile:
            return l && l->grid().cell(cell).tile() == key.id && l->grid().cell(cell).turn().code == 0;
        case Kind::prop:
            return l && stands(*l, key.id, stand(level, cell)) != 0;
        case Kind::mark:
        case Kind::start:
        case Kind::exit:
            return std::any_of(level.marks.begin(), level.marks.end(),
                               [&](const Mark& m) { return is_of(m, key) && m.cells.corner() == cell; });
        case Kind::nothing:
            break;
    }
    return true;
}

bool empty_at(const Level& level, const PlanKey& wanted, LayerId on, Point cell) {
    const Layer* l = level.layer(on);
    if (wanted.kind != Kind::material && wanted.kind != Kind::tile) return true;
    return !l || (l->grid().cell(cell).bits == 0 && l->grid().material(cell) == 0);
}

} // namespace

Rgba mean_colour(const Project& project, TileId id) {
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles) {
            if (t.id != id || !sheet->image) continue;
            const Box box = intersection(t.box, box_of(sheet->image->size()));
            std::int64_t sum[3] = {0, 0, 0};
            std::int64_t n = 0;
            for (int y = box.y; y < box.bottom(); ++y)
                for (int x = box.x; x < box.right(); ++x) {
                    const Rgba c = sheet->image->at(x, y);
                    if (c.a < 128) continue;
                    sum[0] += c.r;
                    sum[1] += c.g;
                    sum[2] += c.b;
                    ++n;
                }
            if (n == 0) return {};
            return {static_cast<std::uint8_t>(sum[0] / n), static_cast<std::uint8_t>(sum[1] / n),
                    static_cast<std::uint8_t>(sum[2] / n), 255};
        }
    return {};
}

namespace {

// Whether the material's art is drawn the way the lattice lies: aslant for diamonds, else from above.
bool drawn_for(const Project& project, LatticeKind lattice, const Material& m) {
    const Sheet* sheet = project.sheet(main_sheet(project, m.joins));
    return !sheet || sheet::is_isometric(*sheet) == (lattice == LatticeKind::isometric);
}

Rgba colour_of(const Project& project, const Material& m) {
    const auto& cases = m.joins.cases;
    auto whole = cases.find(255);
    if (whole == cases.end()) whole = cases.begin();
    return whole == cases.end() || whole->second.empty() ? Rgba{} : mean_colour(project, whole->second.front().tile);
}

} // namespace

Plan proposed_plan(const Project& project, const Level* level, const Image& picture, const std::string& file,
                   int gather, bool bottom_up) {
    Plan plan;
    plan.file = file;
    plan.gather = gather;
    plan.bottom_up = bottom_up;
    if (level && level->plan) {
        plan.at = level->plan->at;
        plan.layer = level->plan->layer;
        plan.keys = level->plan->keys;
    }
    // A third of the way between black and white is still the same thing to the eye, if nothing else is nearer.
    constexpr int kAlike = 60;
    for (const plan::Colour& c : plan::colours(picture, gather)) {
        if (std::any_of(plan.keys.begin(), plan.keys.end(),
                        [&](const PlanKey& k) { return plan::distance(k.colour, c.colour) <= gather; }))
            continue;
        if (static_cast<int>(plan.keys.size()) >= kMostPlanKeys) break;
        PlanKey key{c.colour, Kind::nothing, 0, {}};
        int least = kAlike;
        for (const auto& m : project.materials) {
            const Rgba own =
                drawn_for(project, level ? level->lattice : LatticeKind::square, *m) ? colour_of(project, *m) : Rgba{};
            if (own.a == 0 || c.colour.a == 0) continue;
            if (const int d = plan::distance(own, c.colour); d < least) {
                least = d;
                key.kind = Kind::material;
                key.id = m->id;
            }
        }
        plan.keys.push_back(key);
    }
    return plan;
}

Followed follow_plan(const Project& project, const join::Rules& rules, const Level& as_it_is, Plan plan,
                     const Image& picture) {
    Followed out;
    out.next_id = project.next_id;
    const Image image = plan::upright(picture, plan.bottom_up);
    std::vector<Rgba> colours;
    for (const PlanKey& k : plan.keys) colours.push_back(k.colour);
    plan.laid = plan::assigned(image, colours, plan.gather);
    plan.size = image.size();
    out.unknown = std::count(plan.laid.begin(), plan.laid.end(), kNoKey);

    Level level = as_it_is;
    const Box covered{plan.at.x, plan.at.y, plan.size.w, plan.size.h};
    const Edges more{0, 0, std::max(0, covered.right() - level.size.w), std::max(0, covered.bottom() - level.size.h)};
    if (more != Edges{}) level = extended(rules, level, more);
    const std::optional<Plan>& old = level.plan;
    const PlanKey nothing;
    const auto key_of = [&](const Plan& p, Point cell) -> const PlanKey* {
        const Point at = cell - p.at;
        if (!box_of(p.size).contains(at)) return nullptr;
        const std::uint8_t k = p.laid[static_cast<std::size_t>(at.y * p.size.w + at.x)];
        return k == kNoKey || !exists(project, p.keys[k]) ? &nothing : &p.keys[k];
    };
    // A thing stands on what most of the cells around it mean.
    const auto ground_of = [&](const Plan& p, Point cell) -> const PlanKey* {
        const PlanKey* own = key_of(p, cell);
        if (!own || (own->kind != Kind::prop && !own->marks())) return own;
        std::map<const PlanKey*, int> around;
        for (const Point by : join::kNeighbour)
            if (const PlanKey* k = key_of(p, cell + by); k && (k->kind == Kind::material || k->kind == Kind::tile))
                ++around[k];
        const PlanKey* best = &nothing;
        int most = 0;
        for (const PlanKey& k : p.keys) // in the order of the keys, so that it is always the same one
            if (const auto found = around.find(&k); found != around.end() && found->second > most) {
                most = found->second;
                best = &k;
            }
        return best;
    };
    const auto thing_of = [&](const Plan& p, Point cell) -> const PlanKey* {
        const PlanKey* own = key_of(p, cell);
        return own && own->kind != Kind::prop && !own->marks() ? &nothing : own;
    };
    // What is laid is gathered first, and laid as one for each key.
    std::map<std::pair<LayerId, std::size_t>, Region> lays; // by index of the key
    std::map<LayerId, Region> erased;
    std::vector<std::pair<Point, PlanKey>> things; // props and marks
    const Box all =
        intersection(old ? united(covered, {old->at.x, old->at.y, old->size.w, old->size.h}) : covered, level.cells());
    // Whether the plan means something else at the cell now, and it is still as the plan laid it.
    const auto changes = [&](const PlanKey* now, const PlanKey* was, Point p) {
        if (was && same_meaning(*now, *was)) return false;
        if (!was) return now->kind != Kind::nothing;
        const LayerId on = layer_for(project, level, *now, plan.layer);
        const bool mine = was->kind == Kind::nothing
                              ? empty_at(level, *now, on, p)
                              : as_laid(level, *was, layer_for(project, level, *was, old->layer), p);
        if (!mine && (out.by_hand.empty() || out.by_hand.back() != p)) out.by_hand.push_back(p);
        return mine;
    };
    for (int y = all.y; y < all.bottom(); ++y)
        for (int x = all.x; x < all.right(); ++x) {
            const Point p{x, y};
            const PlanKey* now = ground_of(plan, p);
            const PlanKey* was = old ? ground_of(*old, p) : nullptr;
            if (!now) now = &nothing; // the picture has shrunk
            bool changed = false;
            if (changes(now, was, p)) {
                changed = true;
                if (was && was->kind != Kind::nothing) erased[layer_for(project, level, *was, old->layer)].add(p);
                if (now->kind != Kind::nothing)
                    lays[{layer_for(project, level, *now, plan.layer),
                          static_cast<std::size_t>(now - plan.keys.data())}]
                        .add(p);
            }
            now = thing_of(plan, p);
            was = old ? thing_of(*old, p) : nullptr;
            if (!now) now = &nothing;
            if (changes(now, was, p)) {
                changed = true;
                if (was && was->kind == Kind::prop)
                    remove_at(level, layer_for(project, level, *was, 0), was->id, stand(level, p));
                if (was && was->marks())
                    std::erase_if(level.marks, [&](const Mark& m) { return is_of(m, *was) && m.cells.corner() == p; });
                if (now->kind != Kind::nothing) things.emplace_back(p, *now);
            }
            out.laid += changed;
        }
    const Hand eraser{held::Eraser{}};
    for (const auto& [on, cells] : erased) level = lay(project, rules, level, on, eraser, cells).level;
    for (const auto& [where, cells] : lays)
        if (where.first != 0)
            level = lay(project, rules, level, where.first, hand_of(plan.keys[where.second]), cells).level;
    for (const auto& [p, key] : things) {
        if (key.marks()) {
            level = place_mark(std::move(level), out.next_id++, mark_kind(key), key.name, p);
        } else if (const LayerId on = layer_for(project, level, key, 0); on != 0) {
            level.edit(on).props().put({out.next_id++, key.id, stand(level, p), {}});
        }
    }
    level.plan = std::move(plan);
    out.level = std::move(level);
    return out;
}

std::vector<std::int64_t> key_counts(const Plan& plan, const Image& upright) {
    std::vector<Rgba> colours;
    for (const PlanKey& k : plan.keys) colours.push_back(k.colour);
    std::vector<std::int64_t> counts(plan.keys.size(), 0);
    for (const std::uint8_t k : plan::assigned(upright, colours, plan.gather))
        if (k != kNoKey) ++counts[k];
    return counts;
}

Drawn drawn_plan(const Project& project, const Level& level) {
    Drawn out;
    out.picture = Image(level.size);
    if (level.plan) out.keys = level.plan->keys;
    const auto index_of = [&](const PlanKey& wanted) -> std::size_t {
        for (std::size_t i = 0; i < out.keys.size(); ++i)
            if (same_meaning(out.keys[i], wanted)) return i;
        PlanKey key = wanted;
        key.colour = wanted.kind == Kind::material
                         ? colour_of(project, *project.material(static_cast<MaterialId>(wanted.id)))
                         : mean_colour(project, wanted.id);
        key.colour.a = 255;
        // No two keys may be taken for one another.
        const auto near = [&] {
            return std::any_of(out.keys.begin(), out.keys.end(),
                               [&](const PlanKey& k) { return plan::distance(k.colour, key.colour) <= Plan().gather; });
        };
        for (int n = 1; near() && n < 512; ++n)
            key.colour = {static_cast<std::uint8_t>(key.colour.r + 53), static_cast<std::uint8_t>(key.colour.g + 97),
                          static_cast<std::uint8_t>(key.colour.b + 29 * n), 255};
        out.keys.push_back(key);
        return out.keys.size() - 1;
    };
    // From the back on, so that what lies frontmost is what stays.
    std::map<std::pair<int, std::uint32_t>, std::size_t> known;
    for (const LayerRef& l : level.layers) {
        if (!l->tiles() || !l->shown || l->grain().own()) continue;
        each_cell(l->grid(), level.cells(), [&](Point p, Cell c, MaterialId m) {
            PlanKey key;
            const bool painted = m != 0 && !c.pinned() && project.material(m);
            key.kind = painted ? Kind::material : Kind::tile;
            key.id = painted ? m : c.tile();
            if (key.id == 0) return;
            const auto [found, fresh] = known.try_emplace({static_cast<int>(key.kind), key.id}, 0);
            if (fresh) found->second = index_of(key);
            out.picture.set(p.x, p.y, out.keys[found->second].colour);
        });
    }
    return out;
}

} // namespace vic::edit
