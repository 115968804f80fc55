#include "edit/dress.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "edit/levels.hpp"

namespace vic::edit {

using namespace level;

namespace {

bool open_to_choice(const Layer& layer) { return layer.shown && !layer.locked && layer.has_props(); }

Box mark_pixels(const Level& level, const Mark& mark) { return level.geometry().box(mark.cells); }

// Even-odd, on the middle of the pixel.
bool within(const Spots& line, double x, double y) {
    bool inside = false;
    for (std::size_t i = 0, j = line.size() - 1; i < line.size(); j = i++) {
        const Spot& a = line[i];
        const Spot& b = line[j];
        if ((a.y > y) != (b.y > y) && x < (b.x - a.x) * (y - a.y) / (b.y - a.y) + a.x) inside = !inside;
    }
    return inside;
}

template <class Wanted>
Chosen all_that(const Level& level, Wanted wanted) {
    Chosen out;
    for (const LayerRef& layer : level.layers) {
        if (!open_to_choice(*layer)) continue;
        for (const Prop& p : layer->props())
            if (wanted(p)) out.props.insert(p.id);
    }
    return out;
}

// What goes as one: single props, and groups.
struct Lot {
    std::vector<PropId> props;
    Box box;
};
std::vector<Lot> lots(const Project& project, const Level& level, const Chosen& chosen) {
    const PropKinds kinds(project);
    std::vector<Lot> out;
    std::map<std::uint32_t, std::size_t> groups;
    for (const Prop* p : props_of(level, chosen)) {
        std::size_t at = out.size();
        if (p->group != 0) at = groups.emplace(p->group, at).first->second;
        if (at == out.size()) out.emplace_back();
        out[at].props.push_back(p->id);
        out[at].box = united(out[at].box, kinds.box(*p));
    }
    return out;
}

Level moved(Level level, const Lot& lot, Point by) {
    if (by == Point{}) return level;
    Chosen these;
    these.props.insert(lot.props.begin(), lot.props.end());
    return move_chosen(std::move(level), these, by);
}

template <class Change>
Level each_chosen(Level level, const std::set<PropId>& ids, Change change) {
    for (const LayerRef& layer : std::vector(level.layers)) {
        std::vector<Prop> found;
        for (const PropId id : ids)
            if (const Prop* p = layer->props().find(id)) found.push_back(*p);
        if (found.empty()) continue;
        Props& props = level.edit(layer->id).props();
        for (const Prop& was : found) change(props, was);
    }
    return level;
}

} // namespace

Chosen settled(const Level& level, Chosen chosen) {
    std::erase_if(chosen.props, [&](PropId id) { return find_prop(level, id) == nullptr; });
    std::erase_if(chosen.marks, [&](MarkId id) {
        return std::none_of(level.marks.begin(), level.marks.end(), [&](const Mark& m) { return m.id == id; });
    });
    return chosen;
}

Chosen chosen_in(const Project& project, const Level& level, const Box& pixels) {
    const PropKinds kinds(project);
    Chosen out;
    for (const LayerRef& layer : level.layers) {
        if (!open_to_choice(*layer)) continue;
        layer->props().each_in(pixels.grown(kinds.reach(layer->props())), [&](const Prop& p) {
            const Box foot = kinds.foot_box(p);
            if (pixels.contains(p.at) || !intersection(foot, pixels).empty()) out.props.insert(p.id);
        });
    }
    for (const Mark& m : level.marks)
        if (!intersection(mark_pixels(level, m), pixels).empty()) out.marks.insert(m.id);
    return out;
}

Chosen chosen_within(const Project& project, const Level& level, const Spots& line) {
    Chosen out;
    if (line.size() < 3) return out;
    const PropKinds kinds(project);
    out = all_that(level, [&](const Prop& p) {
        const Box foot = kinds.foot_box(p);
        const bool has = !foot.empty();
        return within(line, has ? foot.x + foot.w / 2.0 : p.at.x + 0.5, has ? foot.y + foot.h / 2.0 : p.at.y + 0.5);
    });
    for (const Mark& m : level.marks) {
        const Box box = mark_pixels(level, m);
        if (within(line, box.x + box.w / 2.0, box.y + box.h / 2.0)) out.marks.insert(m.id);
    }
    return out;
}

Chosen all_alike(const Level& level, const Chosen& chosen) {
    std::set<PropKindId> kinds;
    for (const Prop* p : props_of(level, chosen)) kinds.insert(p->kind);
    return all_that(level, [&](const Prop& p) { return kinds.contains(p.kind); });
}

Chosen all_tagged(const Project& project, const Level& level, const std::string& tag) {
    std::set<PropKindId> kinds;
    for (const auto& k : project.prop_kinds)
        if (std::binary_search(k->tags.begin(), k->tags.end(), tag)) kinds.insert(k->id);
    return all_that(level, [&](const Prop& p) { return kinds.contains(p.kind); });
}

Chosen with_groups(const Level& level, Chosen chosen) {
    std::set<std::uint32_t> groups;
    for (const Prop* p : props_of(level, chosen)) groups.insert(p->group);
    groups.erase(0);
    if (groups.empty()) return chosen;
    const Chosen fellows = all_that(level, [&](const Prop& p) { return groups.contains(p.group); });
    chosen.props.insert(fellows.props.begin(), fellows.props.end());
    return chosen;
}

std::vector<const Prop*> props_of(const Level& level, const Chosen& chosen) {
    std::vector<const Prop*> out;
    for (const PropId id : chosen.props)
        if (const Prop* p = find_prop(level, id)) out.push_back(p);
    std::sort(out.begin(), out.end(), [](const Prop* a, const Prop* b) {
        return std::tuple(a->at.y, a->at.x, a->id) < std::tuple(b->at.y, b->at.x, b->id);
    });
    return out;
}

Level change_props(const Project& project, Level level, const Chosen& chosen,
                   const std::function<void(Prop&)>& change) {
    const PropKinds kinds(project);
    return each_chosen(std::move(level), chosen.props, [&](Props& props, const Prop& was) {
        Prop p = was;
        change(p);
        p.id = was.id;
        if (const PropKind* kind = kinds.find(p.kind)) p.look = allowed(*kind, p.look);
        if (!(p == was)) props.put(p);
    });
}

Level move_chosen(Level level, const Chosen& chosen, Point pixels) {
    for (const MarkId id : chosen.marks)
        for (const Mark& m : std::vector(level.marks)) {
            if (m.id != id) continue;
            const Lattice lattice = level.geometry();
            const Box box = lattice.box(m.cells.corner());
            const Point middle{box.x + box.w / 2, box.y + box.h / 2};
            level = move_mark(std::move(level), id, lattice.cell_at(middle + pixels));
        }
    return each_chosen(std::move(level), chosen.props, [&](Props& props, const Prop& was) {
        Prop p = was;
        p.at = p.at + pixels;
        props.put(p);
    });
}

Level remove_chosen(Level level, const Chosen& chosen) {
    for (const MarkId id : chosen.marks) level = remove_mark(std::move(level), id);
    return each_chosen(std::move(level), chosen.props, [&](Props& props, const Prop& was) { props.remove(was.id); });
}

Copied copy_chosen(const Level& level, const Chosen& chosen, Point pixels, std::uint32_t next_id) {
    Copied out{level, {}, next_id};
    std::map<std::uint32_t, std::uint32_t> groups;
    out.level = each_chosen(level, chosen.props, [&](Props& props, const Prop& was) {
        Prop p = was;
        p.id = out.next_id++;
        p.at = p.at + pixels;
        if (p.group != 0) p.group = groups.emplace(p.group, p.id).first->second;
        props.put(p);
        out.chosen.props.insert(p.id);
    });
    for (const Mark& m : level.marks) {
        if (!chosen.marks.contains(m.id) || m.kind == MarkKind::start) continue;
        Mark copy = m;
        copy.id = out.next_id++;
        out.level.marks.push_back(copy);
        Chosen it;
        it.marks.insert(copy.id);
        out.level = move_chosen(std::move(out.level), it, pixels);
        out.chosen.marks.insert(copy.id);
    }
    return out;
}

Level align(const Project& project, Level level, const Chosen& chosen, Align how) {
    const std::vector<Lot> all = lots(project, level, chosen);
    Box around;
    for (const Lot& lot : all) around = united(around, lot.box);
    for (const Lot& lot : all) {
        const Box& b = lot.box;
        Point by;
        switch (how) {
            case Align::left:
                by.x = around.x - b.x;
                break;
            case Align::middle:
                by.x = around.x + (around.w - b.w) / 2 - b.x;
                break;
            case Align::right:
                by.x = around.right() - b.right();
                break;
            case Align::top:
                by.y = around.y - b.y;
                break;
            case Align::centre:
                by.y = around.y + (around.h - b.h) / 2 - b.y;
                break;
            case Align::bottom:
                by.y = around.bottom() - b.bottom();
                break;
        }
        level = moved(std::move(level), lot, by);
    }
    return level;
}

Level distribute(const Project& project, Level level, const Chosen& chosen, bool upright) {
    std::vector<Lot> all = lots(project, level, chosen);
    if (all.size() < 3) return level;
    const auto from = [&](const Lot& l) { return upright ? l.box.y : l.box.x; };
    const auto length = [&](const Lot& l) { return upright ? l.box.h : l.box.w; };
    std::stable_sort(all.begin(), all.end(),
                     [&](const Lot& a, const Lot& b) { return 2 * from(a) + length(a) < 2 * from(b) + length(b); });
    const int last = static_cast<int>(all.size()) - 1;
    int free = from(all.back()) - from(all.front()); // room for all but the last, gaps included
    for (int i = 0; i < last; ++i) free -= length(all[static_cast<std::size_t>(i)]);
    int filled = from(all.front());
    for (int i = 0; i < last; ++i) {
        const Lot& lot = all[static_cast<std::size_t>(i)];
        // What does not come out even is shared among the gaps.
        const int place = filled + static_cast<int>(std::lround(double(free) * i / last));
        const int by = place - from(lot);
        filled += length(lot);
        level = moved(std::move(level), lot, upright ? Point{0, by} : Point{by, 0});
    }
    return level;
}

namespace {

// How far ahead those of the chosen that stand on a layer must be, so that they come before (or behind) all that they
// meet on it.
int least_step(const PropKinds& kinds, const Level& level, const std::vector<Piece>& chosen, const Chosen& which,
               LayerId on, Order how) {
    const int sign = how == Order::in_front ? 1 : -1;
    const Layer& layer = *level.layer(on);
    Box all;
    for (const Piece& p : chosen) all = united(all, p.box());
    int step = 0;
    layer.props().each_in(all.grown(kinds.reach(layer.props())), [&](const Prop& other) {
        if (which.props.contains(other.id)) return;
        kinds.each_piece(other, [&](const Piece& o) {
            for (const Piece& p : chosen) {
                if (p.kind->flat != o.kind->flat || intersection(p.box(), o.box()).empty()) continue;
                const bool in_front = before(o, p);
                if (in_front == (how == Order::in_front)) continue;
                step = std::max(step, sign * (o.sorted_at().y - p.sorted_at().y) + 1);
            }
        });
    });
    return sign * step;
}

} // namespace

Level in_order(const Project& project, Level level, const Chosen& chosen, Order how) {
    const PropKinds kinds(project);
    const Level all = level;
    for (std::size_t i = 0; i < all.layers.size(); ++i) {
        const Layer& layer = *all.layers[i];
        std::vector<Prop> mine; // as they stand
        std::vector<Piece> pieces;
        for (const PropId id : chosen.props)
            if (const Prop* p = layer.props().find(id)) {
                mine.push_back(*p);
                mine.back().look.ahead = 0;
                kinds.each_piece(mine.back(), [&](const Piece& piece) { pieces.push_back(piece); });
            }
        if (mine.empty()) continue;
        // Those that it is sorted with.
        std::size_t first = i, end = i + 1;
        while (first > 0 && run_by_feet(all, first - 1) > i) --first;
        if (const std::size_t run = run_by_feet(all, first); run > i)
            end = run;
        else
            first = i;
        int step = 0;
        for (std::size_t k = first; k < end && how != Order::as_they_stand; ++k) {
            const int here = least_step(kinds, all, pieces, chosen, all.layers[k]->id, how);
            step = how == Order::in_front ? std::max(step, here) : std::min(step, here);
        }
        const auto ahead = static_cast<std::int16_t>(std::clamp(step, -kMostAhead, kMostAhead));
        if (std::all_of(mine.begin(), mine.end(),
                        [&](const Prop& p) { return layer.props().find(p.id)->look.ahead == ahead; }))
            continue;
        Props& props = level.edit(layer.id).props();
        for (Prop& p : mine) {
            p.look.ahead = ahead;
            props.put(p);
        }
    }
    return level;
}

Level group(Level level, const Chosen& chosen, std::uint32_t id) {
    return each_chosen(std::move(level), chosen.props, [&](Props& props, const Prop& was) {
        Prop p = was;
        p.group = id;
        props.put(p);
    });
}

Level replace_kind(const Project& project, Level level, const Chosen& chosen, PropKindId kind) {
    return change_props(project, std::move(level), chosen, [&](Prop& p) {
        if (p.kind == kind) return;
        p.kind = kind;
        PropOwn own = p.of_its_own();
        own.changes.clear(); // they were of the other's parts
        p.set_own(std::move(own));
    });
}

Level to_layer(Level level, const Chosen& chosen, LayerId layer) {
    const Layer* to = level.layer(layer);
    if (!to || !std::holds_alternative<PlacedProps>(to->content)) return level;
    const std::vector<const Prop*> found = props_of(level, chosen);
    std::vector<Prop> moving;
    for (const Prop* p : found) moving.push_back(*p);
    Chosen props_alone;
    props_alone.props = chosen.props;
    level = remove_chosen(std::move(level), props_alone);
    Props& props = level.edit(layer).props();
    for (const Prop& p : moving) props.put(p);
    return level;
}

Look allowed(const PropKind& kind, Look look) {
    const int least = std::max(kLeastScale, std::min(kind.least, 100));
    const int most = std::min(kMostScale, std::max(kind.most, 100));
    look.scale = static_cast<std::int16_t>(std::clamp<int>(look.scale, least, most));
    if (kind.lit) look.turn = 0;
    return look;
}

int next_scale(const PropKind& kind, int scale, int steps) {
    static const std::vector<int> stops{10, 25, 50, 75, 100, 150, 200, 300, 400, 500, 600, 800, 1000, 1200, 1600};
    for (; steps > 0; --steps) {
        const auto up = std::upper_bound(stops.begin(), stops.end(), scale);
        if (up != stops.end()) scale = *up;
    }
    for (; steps < 0; ++steps) {
        const auto at = std::lower_bound(stops.begin(), stops.end(), scale);
        if (at != stops.begin()) scale = *std::prev(at);
    }
    Look look;
    look.scale = static_cast<std::int16_t>(scale);
    return allowed(kind, look).scale;
}

} // namespace vic::edit
