#include "edit/pour.hpp"

#include <algorithm>
#include <cassert>
#include <map>
#include <set>

#include "edit/sheets.hpp"
#include "join/mask.hpp"

namespace vic::edit {

using namespace level;

namespace {

// Sources by target.
std::map<TileId, TileId> pairs(const std::vector<TileId>& from, const std::vector<TileId>& to) {
    std::map<TileId, TileId> out;
    for (std::size_t i = 0; i < to.size(); ++i) out[to[i]] = from.size() == 1 ? from.front() : from[i];
    return out;
}

// The material that already has one of the targets, if any.
MaterialId owner(const Project& project, const std::vector<TileId>& to) {
    for (const TileId id : to)
        if (const MaterialId m = material_of(project, id)) return m;
    return 0;
}

int pour_joins(Project& project, const std::map<TileId, TileId>& source_of, const std::vector<TileId>& to) {
    const TileTable table(project);
    int made = 0;
    std::set<MaterialId> done;
    for (const auto& slot : std::vector(project.materials)) {
        JoinSet joins = slot->joins;
        joins.cases.clear();
        joins.pairs.clear();
        for (const auto& [mask, variants] : slot->joins.cases)
            for (const Variant& v : variants)
                for (const TileId target : to)
                    if (source_of.at(target) == v.tile) joins.cases[mask].push_back({target, v.weight, v.turn});
        if (joins.cases.empty()) continue;
        const MaterialId old = owner(project, to);
        if (old == slot->id) continue; // poured onto itself
        Material m;
        if (old && !done.contains(old)) {
            m = *project.material(old);
            m.joins.kind = joins.kind;
            m.joins.beyond_is_same = joins.beyond_is_same;
            m.joins.turns = joins.turns;
            m.joins.lively = joins.lively;
            for (auto& [mask, variants] : joins.cases) m.joins.cases[mask] = std::move(variants);
            // What served a case of another kind has no place any more.
            std::erase_if(m.joins.cases,
                          [&](const auto& c) { return join::canonical(c.first, joins.kind) != c.first; });
        } else {
            m.id = project.free_material();
            if (m.id == 0) break;
            m.name = free_material_name(project, table.find(to.front()).sheet->name);
            m.joins = std::move(joins);
            ++made;
        }
        done.insert(m.id);
        project.put(std::move(m));
    }
    return made;
}

} // namespace

Text pour_trouble(const Project& project, const std::vector<TileId>& from, const std::vector<TileId>& to) {
    if (from.empty()) return "No tiles are taken as a source yet";
    if (to.empty()) return "No tiles are chosen to pour onto";
    const TileTable table(project);
    for (const auto* list : {&from, &to})
        for (const TileId id : *list)
            if (!table.find(id).tile) return "Some of the tiles are gone";
    if (from.size() != 1 && from.size() != to.size())
        return say("%1 tiles cannot be poured onto %2: take one, or equally many", from.size(), to.size());
    return {};
}

Poured pour(Project project, const std::vector<TileId>& from, const std::vector<TileId>& to, std::uint8_t what) {
    assert(pour_trouble(project, from, to).empty());
    const auto source_of = pairs(from, to);
    std::map<TileId, Tile> sources;
    {
        const TileTable table(project);
        for (const TileId id : from) sources[id] = *table.find(id).tile;
    }
    Poured out;
    out.tiles = static_cast<int>(source_of.size());
    out.project = change_tiles(std::move(project), to, [&](Tile& t) {
        const Tile& s = sources.at(source_of.at(t.id));
        if (what & kPourShape) {
            t.shape = s.shape;
            t.polygons = s.polygons;
            t.collision_class = s.collision_class;
        }
        if (what & kPourTurns) t.turns = s.turns;
        if (what & kPourTags) t.tags = s.tags;
        if (what & kPourNotes) t.notes = s.notes;
        if (what & kPourChance) t.chance = s.chance;
        if (what & kPourHome) t.homes = s.homes;
    });
    if (what & kPourJoins) out.made = pour_joins(out.project, source_of, to);
    return out;
}

} // namespace vic::edit
