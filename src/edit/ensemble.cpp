#include "edit/ensemble.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "base/error.hpp"
#include "edit/levels.hpp"

namespace vic::edit {

using namespace level;

namespace {

[[noreturn]] void refuse_ensemble(const Text& what, const Text& remedy) { throw InputError(what, "", "", remedy); }

void check_ensembles(const Project& project) {
    if (const Text why = ensembles_trouble(project); !why.empty())
        refuse_ensemble(why, "Put other props into it, or fewer");
}

// Its parts as they stand, as props with ids from `first` on.
std::vector<Prop> parts_of(const Prop& prop, const PropKind& kind, PropId first) {
    std::vector<Prop> out;
    const PropOwn& own = prop.of_its_own();
    for (const EnsemblePart& part : kind.parts) {
        Prop p{first + part.id, part.kind, part_place(prop.at, prop.look, part.at), part_look(prop.look, part.look)};
        PropOwn with{part.name, part.notes, {}};
        if (const auto change = own.changes.find(part.id); change != own.changes.end()) {
            if (change->second.kind == PropKindId{0}) continue;
            p.kind = change->second.kind.value_or(p.kind);
            p.look.tint = change->second.tint.value_or(p.look.tint);
            with.notes = change->second.notes.value_or(with.notes);
        }
        p.set_own(std::move(with));
        out.push_back(std::move(p));
    }
    return out;
}

// The place and look of a part that is seen so, the ensemble standing as it does.
Point place_within(const Prop& ensemble, Point at) {
    const Point off = at - ensemble.at;
    Look back;
    back.turn = turned_by(0, -ensemble.look.turn);
    const Point straight = part_place({}, back, off);
    const double scale = 100.0 / ensemble.look.scale;
    return {static_cast<int>(std::lround(straight.x * scale * (ensemble.look.mirrored ? -1 : 1))),
            static_cast<int>(std::lround(straight.y * scale))};
}

Look look_within(const Look& ensemble, const Look& seen) {
    Look out = seen;
    const int turn = turned_by(seen.turn, -ensemble.turn);
    out.turn = turned_by(0, ensemble.mirrored ? -turn : turn);
    out.mirrored = seen.mirrored != ensemble.mirrored;
    out.scale = static_cast<std::int16_t>(std::clamp(seen.scale * 100 / ensemble.scale, kLeastScale, kMostScale));
    return out;
}

// What differs between a part as it was opened and as it is now goes into the part, or into what this copy has of its
// own.
void take_over(EnsemblePart& part, PropOwn& own, const Prop& ensemble, const Prop& was, const Prop& now,
               bool only_here) {
    PartChange& change = own.changes[part.id];
    if (now.at != was.at) part.at = place_within(ensemble, now.at);
    Look seen = now.look;
    if (now.kind != was.kind) {
        if (only_here)
            change.kind = now.kind;
        else {
            change.kind.reset();
            part.kind = now.kind;
        }
    }
    if (now.look.tint != was.look.tint && only_here) {
        change.tint = now.look.tint;
    } else if (now.look.tint != was.look.tint) {
        change.tint.reset();
        part.look.tint = now.look.tint;
    }
    seen.tint = was.look.tint;
    if (seen != was.look) {
        const Rgba tint = part.look.tint;
        part.look = look_within(ensemble.look, seen);
        part.look.tint = tint;
    }
    const PropOwn &before = was.of_its_own(), &after = now.of_its_own();
    part.name = after.name;
    if (before.notes != after.notes && only_here) {
        change.notes = after.notes;
    } else if (before.notes != after.notes) {
        change.notes.reset();
        part.notes = after.notes;
    }
}

} // namespace

MadeEnsemble make_ensemble(Project project, const std::string& level_id, const Chosen& chosen,
                           const std::string& name) {
    Level level = *project.level(level_id);
    std::vector<Prop> props;
    for (const Prop* p : props_of(level, chosen)) props.push_back(*p);
    if (props.size() < 2) refuse_ensemble("An ensemble is of two props or more", "Choose what belongs together");
    const PropKinds kinds(project);
    Box foot;
    for (const Prop& p : props) {
        const Box its = kinds.foot_box(p);
        foot = united(foot, its.empty() ? Box{p.at.x, p.at.y, 1, 1} : its);
    }
    Prop copy;
    copy.at = {foot.x + foot.w / 2, foot.bottom() - 1};
    PropKind made;
    made.id = copy.kind = project.next_id++;
    made.name = name;
    LayerId layer = 0;
    for (const LayerRef& l : level.layers)
        if (std::any_of(props.begin(), props.end(), [&](const Prop& p) { return l->props().find(p.id); }))
            layer = l->id;
    PartId next = 1;
    for (const Prop& p : props)
        made.parts.push_back({next++, p.kind, p.at - copy.at, p.look, p.of_its_own().name, p.of_its_own().notes});
    project.put(made);
    check_ensembles(project);
    fit_ensembles(project);
    Chosen without;
    without.props = chosen.props;
    level = remove_chosen(std::move(level), without);
    copy.id = project.next_id++;
    level.edit(layer).props().put(copy);
    project.put(std::move(level));
    return {std::move(project), made.id, copy.id};
}

TakenApart take_apart(Project project, const std::string& level_id, const Chosen& chosen) {
    TakenApart out;
    Level level = *project.level(level_id);
    for (const LayerRef& layer : std::vector(level.layers))
        for (const PropId id : chosen.props) {
            const Prop* found = layer->props().find(id);
            const PropKind* kind = found ? project.prop_kind(found->kind) : nullptr;
            if (!kind || !kind->is_ensemble()) continue;
            Props& props = level.edit(layer->id).props();
            const std::uint32_t group = project.next_id;
            for (Prop p : parts_of(*found, *kind, 0)) {
                // Colours come along as near as one tint and one lightness can tell them.
                const Wash tints = washed(wash_of({.tint = p.look.tint}), wash_of({.tint = found->look.tint}));
                p.look.tint = {tints.times.r, tints.times.g, tints.times.b, 255};
                p.look.light = static_cast<std::int8_t>(std::clamp(p.look.light + found->look.light, -100, 100));
                p.look.opacity = static_cast<std::uint8_t>(p.look.opacity * found->look.opacity / 100);
                p.id = project.next_id++;
                p.group = group;
                out.chosen.props.insert(p.id);
                props.put(p);
            }
            props.remove(id);
        }
    project.put(std::move(level));
    out.project = std::move(project);
    return out;
}

Level opened(const Project& project, const Level& level, PropId id) {
    const Prop* prop = find_prop(level, id);
    const PropKind* kind = prop ? project.prop_kind(prop->kind) : nullptr;
    if (!kind || !kind->is_ensemble()) return level;
    Level out = level;
    Layer parts;
    parts.id = kPartsLayer;
    parts.content = PlacedProps{Props(parts_of(*prop, *kind, kFirstPart))};
    int index = 0;
    for (const LayerRef& layer : level.layers) {
        if (layer->props().find(id)) {
            index = level.index_of(layer->id) + 1;
            parts.name = layer->name;
            parts.opacity = layer->opacity;
            parts.tint = layer->tint;
        }
        out.edit(layer->id).locked = true;
    }
    out = remove_prop(std::move(out), id);
    out.layers.insert(out.layers.begin() + index, std::make_shared<const Layer>(std::move(parts)));
    if (index <= out.plane) ++out.plane;
    out.marks.clear(); // which are no parts
    return out;
}

Project closed(Project project, const Level& now, const std::string& level_id, PropId id, bool only_here) {
    Level level = *project.level(level_id);
    const Layer* parts = now.layer(kPartsLayer);
    const Prop* found = find_prop(level, id);
    if (!parts || !found) return project;
    Prop prop = *found;
    PropKind kind = *project.prop_kind(prop.kind);
    const std::vector<Prop> before = parts_of(prop, kind, kFirstPart);
    PropOwn own = prop.of_its_own();
    std::set<PartId> gone;
    for (const Prop& was : before) {
        const Prop* is = parts->props().find(was.id);
        const PartId part = was.id - kFirstPart;
        const auto at = std::find_if(kind.parts.begin(), kind.parts.end(), [&](const auto& p) { return p.id == part; });
        if (is && !(*is == was)) take_over(*at, own, prop, was, *is, only_here);
        if (is) continue;
        if (only_here)
            own.changes[part].kind = 0;
        else
            gone.insert(part);
    }
    std::erase_if(kind.parts, [&](const EnsemblePart& p) { return gone.contains(p.id); });
    for (const PartId part : gone) own.changes.erase(part);
    PartId next = 1;
    for (const EnsemblePart& p : kind.parts) next = std::max(next, p.id + 1);
    for (const PartId part : gone)
        next = std::max(next, part + 1); // what copies say of one that went is not of another
    for (const Prop& p : parts->props().all()) {
        if (std::any_of(before.begin(), before.end(), [&](const Prop& was) { return was.id == p.id; })) continue;
        kind.parts.push_back({next++, p.kind, place_within(prop, p.at), look_within(prop.look, p.look),
                              p.of_its_own().name, p.of_its_own().notes});
    }
    if (kind.parts.empty())
        refuse_ensemble(say("\"%1\" would be empty", kind.name), "Remove the whole, outside its editing");
    project.put(kind);
    check_ensembles(project);
    fit_ensembles(project);
    std::erase_if(own.changes, [](const auto& c) { return c.second == PartChange{}; });
    prop.set_own(std::move(own));
    for (const LayerRef& layer : level.layers)
        if (layer->props().find(id)) {
            level.edit(layer->id).props().put(prop);
            break;
        }
    project.put(std::move(level));
    return project;
}

} // namespace vic::edit
