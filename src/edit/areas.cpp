#include "edit/areas.hpp"

#include <algorithm>
#include <memory>
#include <utility>

#include "edit/blocking.hpp"
#include "edit/sheets.hpp"
#include "level/standing.hpp"

namespace vic::edit {

using namespace level;

namespace {

template <class Taken>
std::string free_name(const std::string& name, const Taken& taken) {
    std::string out = name;
    for (int n = 2; taken(out); ++n) out = name + " " + std::to_string(n);
    return out;
}

Rgba colour_of(AreaMeans means) {
    switch (means) {
        case AreaMeans::water:
            return {46, 134, 140, 255};
        case AreaMeans::ladder:
            return {122, 92, 58, 255};
        case AreaMeans::hazard:
            return {196, 66, 42, 255};
        case AreaMeans::exit:
            return {58, 122, 66, 255};
        case AreaMeans::tells:
            break;
    }
    return {116, 86, 140, 255};
}

AreaKindId told_by(const Project& project, const TileTable& tiles, const Used& thing) {
    if (thing.kind == UsedKind::prop) {
        if (const PropKind* kind = project.prop_kind(thing.id))
            for (const AreaKind& k : project.area_kinds)
                for (const PropArea& area : kind->areas)
                    if (area.name == k.name) return k.id;
        return 0;
    }
    AreaKindId told = 0;
    bool first = true;
    for (const TileId id : tiles_of(project, thing)) {
        const Tile* tile = tiles.find(id).tile;
        if (!tile || tile->blank) continue;
        if (!first && tile->tells != told) return 0;
        told = tile->tells;
        first = false;
    }
    return told;
}

} // namespace

AreaKindId add_area_kind(Project& project, const std::string& name, AreaMeans means) {
    const std::string own = free_name(name.empty() ? std::string("Area") : name, [&](const std::string& n) {
        return std::any_of(project.area_kinds.begin(), project.area_kinds.end(),
                           [&](const AreaKind& k) { return k.name == n; });
    });
    if (project.area_kinds.size() >= kMostAreaKinds) return 0;
    project.area_kinds.push_back({project.next_id++, own, colour_of(means), means});
    return project.area_kinds.back().id;
}

Text area_kind_trouble(const Project& project, const AreaKind& kind) {
    if (kind.name.empty()) return "An area needs a name";
    for (const AreaKind& k : project.area_kinds)
        if (k.id != kind.id && k.name == kind.name) return say("There is an area called \"%1\"", kind.name);
    return {};
}

Project change_area_kind(Project project, const AreaKind& kind) {
    const auto found = std::find_if(project.area_kinds.begin(), project.area_kinds.end(),
                                    [&](const AreaKind& k) { return k.id == kind.id; });
    if (found == project.area_kinds.end()) return project;
    const std::string was = found->name;
    *found = kind;
    if (was == kind.name) return project;
    for (const auto& one : std::vector(project.prop_kinds)) {
        PropKind next = *one;
        for (PropArea& a : next.areas)
            if (a.name == was) a.name = kind.name;
        if (!(next == *one)) project.put(std::move(next));
    }
    return project;
}

Project without_area_kind(Project project, AreaKindId kind) {
    const AreaKind* found = project.area_kind(kind);
    if (!found) return project;
    const std::string name = found->name;
    std::vector<TileId> tiles;
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            if (t.tells == kind) tiles.push_back(t.id);
    if (!tiles.empty()) project = change_tiles(std::move(project), tiles, [](Tile& t) { t.tells = 0; });
    for (const auto& level : std::vector(project.levels)) {
        Level next = *level;
        bool changed = false;
        for (const LayerRef& layer : level->layers) {
            if (!layer->blockers()) continue;
            std::vector<FreeBlocker> free = layer->blockers()->free();
            const std::size_t before = free.size();
            std::erase_if(free, [&](const FreeBlocker& b) { return b.tells == kind; });
            if (free.size() == before) continue;
            next.edit(layer->id).blockers()->set_free(std::move(free));
            changed = true;
        }
        for (auto& [id, part] : next.here.tiles)
            if (part.tells == kind) {
                part.tells = 0;
                changed = true;
            }
        for (auto& [id, part] : next.here.props)
            if (part.telling && part.tells == kind) {
                part.tells = 0;
                changed = true;
            }
        if (changed) project.put(std::move(next));
    }
    std::erase_if(project.area_kinds, [&](const AreaKind& k) { return k.id == kind; });
    return project;
}

AreaKindId told_by(const Project& project, const std::vector<Used>& things) {
    const TileTable tiles(project);
    AreaKindId told = 0;
    for (std::size_t i = 0; i < things.size(); ++i) {
        const AreaKindId here = told_by(project, tiles, things[i]);
        if (i > 0 && here != told) return 0;
        told = here;
    }
    return told;
}

Project with_telling(Project project, const std::vector<Used>& things, AreaKindId kind) {
    if (kind != 0) project = with_blocking(std::move(project), things, Blocking::nothing);
    const AreaKind* area = project.area_kind(kind);
    const std::string name = area ? area->name : std::string();
    std::vector<TileId> tiles;
    for (const Used& thing : things) {
        const auto mine = tiles_of(project, thing);
        tiles.insert(tiles.end(), mine.begin(), mine.end());
        const PropKind* prop = thing.kind == UsedKind::prop ? project.prop_kind(thing.id) : nullptr;
        if (!prop || prop->is_ensemble()) continue;
        PropKind changed = *prop;
        std::erase_if(changed.areas, [&](const PropArea& a) { return is_told(project, a); });
        if (area) changed.areas.push_back({name, box_of(prop->box.size())});
        project.put(std::move(changed));
    }
    if (tiles.empty()) return project;
    return change_tiles(std::move(project), tiles, [kind](Tile& t) { t.tells = t.blank ? 0 : kind; });
}

Project with_area(Project project, PropKindId prop, AreaKindId kind) {
    const PropKind* found = project.prop_kind(prop);
    const AreaKind* area = project.area_kind(kind);
    if (!found || !area || found->is_ensemble()) return project;
    PropKind changed = *found;
    changed.areas.push_back({area->name, box_of(found->box.size())});
    project.put(std::move(changed));
    return project;
}

AreaKindId area_for(Project& project, const std::string& word) {
    if (word.empty()) return 0;
    const AreaMeans means = word == "ladder" ? AreaMeans::ladder : AreaMeans::tells;
    std::string name = word;
    if (name[0] >= 'a' && name[0] <= 'z') name[0] = static_cast<char>(name[0] - 'a' + 'A');
    for (const AreaKind& k : project.area_kinds)
        if (k.name == name || k.name == word || (means != AreaMeans::tells && k.means == means)) return k.id;
    return add_area_kind(project, name, means);
}

std::string add_mover(Project& project, const std::string& name) {
    std::string own = free_name(name.empty() ? std::string("Mover") : name,
                                [&](const std::string& n) { return project.mover(n) != nullptr; });
    if (project.movers.size() >= kMostMovers) return {};
    project.movers.push_back({own, {}});
    return own;
}

namespace {

Project with_walkers_as(Project project, const std::string& name, const std::string& to) {
    for (const auto& level : std::vector(project.levels))
        if (level->walker.mover == name) {
            Level next = *level;
            next.walker.mover = to;
            project.put(std::move(next));
        }
    return project;
}

} // namespace

Project rename_mover(Project project, const std::string& name, const std::string& to) {
    for (Mover& m : project.movers)
        if (m.name == name) m.name = to;
    return with_walkers_as(std::move(project), name, to);
}

Project without_mover(Project project, const std::string& name) {
    std::erase_if(project.movers, [&](const Mover& m) { return m.name == name; });
    return with_walkers_as(std::move(project), name, {});
}

Project with_stopping(Project project, const std::string& mover, const std::string& collision_class, bool stops) {
    for (Mover& m : project.movers) {
        if (m.name != mover) continue;
        std::erase(m.passes, collision_class);
        if (!stops)
            m.passes.insert(std::lower_bound(m.passes.begin(), m.passes.end(), collision_class), collision_class);
    }
    return project;
}

} // namespace vic::edit
