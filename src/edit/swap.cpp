#include "edit/swap.hpp"

#include <algorithm>
#include <set>
#include <utility>

#include "edit/joins.hpp"
#include "join/resolve.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "level/sheet.hpp"

namespace vic::edit {

using namespace level;

namespace {

// Where a tile lies in its sheet's lattice: the columns and rows that its box covers.
Box place_of(const Sheet& sheet, const Tile& tile) {
    const Cut& cut = sheet.cut;
    const int across = cut.tile.w + cut.spacing.x, down = cut.tile.h + cut.spacing.y;
    const Point at{floor_div(tile.box.x - cut.margin.x, across), floor_div(tile.box.y - cut.margin.y, down)};
    return {at.x, at.y, tile.block.cells.w, tile.block.cells.h};
}

std::set<TileId> used_tiles(const Project& project) {
    std::set<TileId> out;
    for (const auto& level : project.levels)
        for (const LayerRef& l : level->layers)
            if (l->tiles()) each_cell(l->grid(), l->cells(), [&](Point, Cell c, MaterialId) { out.insert(c.tile()); });
    for (const auto& m : project.materials)
        for (const auto& [mask, variants] : m->joins.cases)
            for (const Variant& v : variants) out.insert(v.tile);
    return out;
}

// The cases with the counterparts of their tiles; those that have none are left out.
Cases swapped_cases(const Cases& cases, const std::map<TileId, TileId>& tiles) {
    Cases out;
    for (const auto& [mask, variants] : cases)
        for (Variant v : variants)
            if (const auto found = tiles.find(v.tile); found != tiles.end()) {
                v.tile = found->second;
                out[mask].push_back(v);
            }
    return out;
}

// How many cases of `made` the material serves by the same tiles.
std::size_t agreement(const Material& m, const Cases& made) {
    std::size_t n = 0;
    for (const auto& [mask, variants] : made)
        if (const auto found = m.joins.cases.find(mask); found != m.joins.cases.end())
            n += std::any_of(variants.begin(), variants.end(), [&](const Variant& v) {
                return std::any_of(found->second.begin(), found->second.end(),
                                   [&](const Variant& w) { return w.tile == v.tile; });
            });
    return n;
}

// What the designer said of the one is true of the other, where nothing was said of that.
void take_over(Tile& to, const Tile& from) {
    if (to.shape == TileShape::none) {
        to.shape = from.shape;
        to.polygons = from.polygons;
        to.collision_class = from.collision_class;
    }
    if (to.chance == 100) to.chance = from.chance;
    if (to.tags.empty()) to.tags = from.tags;
    if (to.notes.empty()) to.notes = from.notes;
}

} // namespace

Counterparts counterparts(const Project& project, SheetId from_id, SheetId to_id) {
    Counterparts out;
    const Sheet* from = project.sheet(from_id);
    const Sheet* to = project.sheet(to_id);
    if (!from || !to || from_id == to_id) return out;
    std::map<Box, TileId> there;
    for (const Tile& t : to->tiles)
        if (!t.blank) there.emplace(place_of(*to, t), t.id);
    const std::set<TileId> used = used_tiles(project);
    for (const Tile& t : from->tiles) {
        if (t.blank) continue;
        const auto found = there.find(place_of(*from, t));
        if (found != there.end())
            out.tiles.emplace(t.id, found->second);
        else if (used.contains(t.id))
            out.alone.push_back(t.id);
    }
    return out;
}

Swapped swapped(Project project, SheetId from_id, SheetId to_id, const std::vector<std::string>& levels) {
    Swapped out;
    const Counterparts pairs = counterparts(project, from_id, to_id);
    if (pairs.tiles.empty()) {
        out.project = std::move(project);
        return out;
    }
    Sheet to = *project.sheet(to_id);
    const Sheet& from = *project.sheet(from_id);
    std::map<TileId, const Tile*> of;
    for (const Tile& t : from.tiles) of.emplace(t.id, &t);
    std::map<TileId, TileId> back;
    for (const auto& [a, b] : pairs.tiles) back.emplace(b, a);
    for (Tile& t : to.tiles)
        if (const auto found = back.find(t.id); found != back.end()) take_over(t, *of.at(found->second));
    project.put(std::move(to));
    // The materials: those that serve the most of the cases by the counterparts, else new ones.
    std::map<MaterialId, MaterialId> materials;
    for (const auto& m : std::vector(project.materials)) {
        if (main_sheet(project, m->joins) != from_id) continue;
        const Cases wanted = swapped_cases(m->joins.cases, pairs.tiles);
        const Material* best = nullptr;
        std::size_t most = 0;
        for (const auto& other : project.materials) {
            if (other->id == m->id || other->joins.kind != m->joins.kind) continue;
            const std::size_t n = agreement(*other, wanted);
            if (n > most) most = n, best = other.get();
        }
        if (best && 2 * most >= wanted.size()) {
            materials[m->id] = best->id;
            continue;
        }
        Material made = *m;
        made.id = project.free_material();
        if (made.id == 0) continue; // what is painted keeps its material, and its tiles change
        const std::string name = project.sheet(to_id)->name;
        made.name = name;
        for (int n = 2; std::any_of(project.materials.begin(), project.materials.end(),
                                    [&](const auto& other) { return other->name == made.name; });
             ++n)
            made.name = name + " " + std::to_string(n);
        made.joins.cases = wanted;
        made.joins.pairs.clear();
        made.joins.accepted.clear();
        materials[m->id] = made.id;
        project.put(std::move(made));
        ++out.made;
    }
    const join::Rules rules(project);
    std::set<TileId> of_from;
    for (const Tile& t : project.sheet(from_id)->tiles) of_from.insert(t.id);
    for (const auto& level : std::vector(project.levels)) {
        if (!levels.empty() && std::find(levels.begin(), levels.end(), level->id) == levels.end()) continue;
        Level next = *level;
        for (const LayerRef& l : level->layers) {
            if (!l->tiles()) continue;
            Grid grid = l->grid();
            each_cell(l->grid(), l->cells(), [&](Point p, Cell c, MaterialId m) {
                const auto material = materials.find(m);
                const auto tile = pairs.tiles.find(c.tile());
                const MaterialId now = material == materials.end() ? m : material->second;
                if (tile != pairs.tiles.end())
                    grid.set(p, Cell(tile->second, c.turn(), c.pinned()), now);
                else if (now != m)
                    grid.set(p, c.pinned() ? c : Cell{}, now);
            });
            const bool same = grid == l->grid();
            if (!same) join::resolve(rules, grid, l->cells(), l->id);
            each_cell(grid, l->cells(), [&](Point p, Cell c, MaterialId) {
                out.cells += c.tile() != l->grid().cell(p).tile();
                out.stayed += of_from.contains(c.tile());
            });
            if (!same) next.edit(l->id).grid() = std::move(grid);
        }
        project.put(std::move(next));
    }
    out.project = std::move(project);
    return out;
}

} // namespace vic::edit
