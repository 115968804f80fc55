#include "level/project.hpp"

#include <algorithm>
#include <cassert>
#include <unordered_map>

#include "base/files.hpp"
#include "level/block.hpp"
#include "level/standing.hpp"

namespace vic::level {

namespace {

template <class T, class Id>
const T* find_by_id(const std::vector<std::shared_ptr<const T>>& all, const Id& id) {
    for (const auto& one : all)
        if (one->id == id) return one.get();
    return nullptr;
}

template <class T>
void put_by_id(std::vector<std::shared_ptr<const T>>& all, T one) {
    for (auto& old : all) {
        if (old->id == one.id) {
            old = std::make_shared<const T>(std::move(one));
            return;
        }
    }
    all.push_back(std::make_shared<const T>(std::move(one)));
}

} // namespace

const Layer* Level::layer(LayerId id) const { return find_by_id(layers, id); }

int Level::index_of(LayerId id) const {
    for (std::size_t i = 0; i < layers.size(); ++i)
        if (layers[i]->id == id) return static_cast<int>(i);
    return -1;
}

Layer& Level::edit(LayerId id) {
    const int index = index_of(id);
    assert(index >= 0);
    auto copy = std::make_shared<Layer>(*layers[static_cast<std::size_t>(index)]);
    Layer& changed = *copy;
    layers[static_cast<std::size_t>(index)] = std::move(copy);
    return changed;
}

const Mark* Level::first_mark(MarkKind kind) const {
    for (const Mark& mark : marks)
        if (mark.kind == kind) return &mark;
    return nullptr;
}

namespace {

bool same_settings(const Layer& a, const Layer& b) {
    const bool other_picture = a.backdrop() && b.backdrop() && *a.backdrop() != *b.backdrop();
    return a.id == b.id && a.kind() == b.kind() && a.shown == b.shown && a.opacity == b.opacity &&
           a.solid() == b.solid() && a.collision_class == b.collision_class && a.grain() == b.grain() &&
           a.tint == b.tint && a.shift == b.shift && a.by_feet == b.by_feet && a.storey == b.storey && !other_picture &&
           a.grid().size() == b.grid().size();
}

// The cells of free blockers that only one of them has, or that are different.
std::vector<Box> differences(const std::vector<FreeBlocker>& a, const std::vector<FreeBlocker>& b) {
    std::vector<Box> out;
    if (&a == &b) return out;
    std::unordered_map<BlockerId, const FreeBlocker*> before;
    for (const FreeBlocker& f : a) before[f.id] = &f;
    for (const FreeBlocker& f : b) {
        const auto old = before.find(f.id);
        if (old == before.end() || !(*old->second == f)) out.push_back(cells_of(f));
        if (old != before.end() && *old->second == f) before.erase(old);
    }
    for (const auto& [id, f] : before) out.push_back(cells_of(*f));
    return out;
}

} // namespace

Difference difference(const Level& a, const Level& b, const Project& kinds) {
    Difference out;
    out.everything = a.id != b.id || a.size != b.size || a.geometry() != b.geometry() || a.view != b.view ||
                     a.ground != b.ground || a.reference != b.reference || a.plane != b.plane ||
                     a.layers.size() != b.layers.size();
    const Reach reach = reach_of(kinds, b.geometry());
    const PropKinds props(kinds);
    // What lies over its neighbours lets them show through: there a change is seen one cell further.
    const bool over =
        std::any_of(kinds.materials.begin(), kinds.materials.end(), [](const auto& m) { return m->joins.over; });
    for (std::size_t i = 0; !out.everything && i < a.layers.size(); ++i) {
        const Layer& la = *a.layers[i];
        const Layer& lb = *b.layers[i];
        if (&la == &lb) continue;
        if (!same_settings(la, lb)) {
            out.everything = true;
            break;
        }
        if (la.has_cells()) {
            for (const Box& box : differences(la.grid(), lb.grid())) {
                const bool around = over || lb.shift != Point{};
                out.cells.push_back(lb.grain().in_level(reach.seen_from(around ? box.grown(1) : box)));
            }
        }
        if (la.blockers())
            for (const Box& box : differences(la.blockers()->free(), lb.blockers()->free())) out.cells.push_back(box);
        if (!la.has_props()) continue;
        const int aside = lb.shift != Point{} ? 1 : 0;
        Props::differences(la.props(), lb.props(), [&](const Prop* before, const Prop* after) {
            for (const Prop* prop : {before, after})
                if (prop) out.cells.push_back(b.geometry().cells_in(props.box(*prop)).grown(aside));
        });
    }
    if (out.everything) out.cells.clear();
    return out;
}

const Sheet* Project::sheet(SheetId id) const { return find_by_id(sheets, id); }
const Material* Project::material(MaterialId id) const { return find_by_id(materials, id); }
const PropKind* Project::prop_kind(PropKindId id) const { return find_by_id(prop_kinds, id); }
const Level* Project::level(const std::string& id) const { return find_by_id(levels, id); }

const AreaKind* Project::area_kind(AreaKindId id) const {
    const auto it = std::find_if(area_kinds.begin(), area_kinds.end(), [id](const AreaKind& k) { return k.id == id; });
    return it == area_kinds.end() ? nullptr : &*it;
}

const Mover* Project::mover(const std::string& name) const {
    const auto it = std::find_if(movers.begin(), movers.end(), [&](const Mover& m) { return m.name == name; });
    return it == movers.end() ? nullptr : &*it;
}

const NoteKind* Project::note_kind(NoteId id) const {
    for (const NoteKind& kind : note_kinds)
        if (kind.id == id) return &kind;
    return nullptr;
}

MaterialId Project::free_material() const {
    for (int id = 1; id < 256; ++id)
        if (!material(static_cast<MaterialId>(id))) return static_cast<MaterialId>(id);
    return 0;
}

void Project::put(Sheet sheet) { put_by_id(sheets, std::move(sheet)); }
void Project::put(Material material) { put_by_id(materials, std::move(material)); }
void Project::put(PropKind kind) { put_by_id(prop_kinds, std::move(kind)); }
void Project::put(Level level) { put_by_id(levels, std::move(level)); }

void Project::put(Stamp stamp) { put_by_id(stamps, std::move(stamp)); }

std::shared_ptr<const Stamp> Project::stamp(StampId id) const {
    for (const auto& s : stamps)
        if (s->id == id) return s;
    return nullptr;
}

void Project::remove_level(const std::string& id) {
    std::erase_if(levels, [&](const auto& level) { return level->id == id; });
}

std::string Project::free_level_id(const std::string& name) const {
    const std::string base = slug(name, "level");
    std::string id = base;
    for (int n = 2; level(id); ++n) id = base + "-" + std::to_string(n);
    return id;
}

TileTable::TileTable(const Project& project) : reach_(reach_of(project)) {
    refs_.resize(project.next_tile);
    for (const auto& sheet : project.sheets)
        for (const Tile& tile : sheet->tiles)
            if (tile.id < refs_.size()) {
                refs_[tile.id] = {sheet.get(), &tile};
                any_opens_ = any_opens_ || tile.shape == TileShape::opens;
                any_class_ = any_class_ || !tile.collision_class.empty();
            }
}

namespace {

void take(Tile& tile, const PartHere& part) {
    tile.shape = part.shape;
    tile.polygons = part.polygons;
    tile.tells = part.tells;
}

} // namespace

Project as_in(Project project, const Level& level) {
    for (auto& sheet : project.sheets) {
        const bool any = std::any_of(sheet->tiles.begin(), sheet->tiles.end(),
                                     [&](const Tile& t) { return level.here.tiles.contains(t.id); });
        if (level.here.tiles.empty() || !any) continue;
        Sheet own = *sheet;
        for (Tile& t : own.tiles)
            if (const auto part = level.here.tiles.find(t.id); part != level.here.tiles.end()) take(t, part->second);
        sheet = std::make_shared<const Sheet>(std::move(own));
    }
    for (auto& kind : project.prop_kinds)
        if (const auto part = level.here.props.find(kind->id); part != level.here.props.end() && !kind->is_ensemble())
            kind = std::make_shared<const PropKind>(as_said(project, *kind, part->second));
    return project;
}

TileTable::TileTable(const Project& project, const Level& level) : TileTable(project) {
    for (const auto& [id, part] : level.here.tiles) {
        if (id >= refs_.size() || !refs_[id].tile) continue;
        Tile tile = *refs_[id].tile;
        take(tile, part);
        own_.push_back(std::make_shared<const Tile>(std::move(tile)));
        refs_[id].tile = own_.back().get();
        any_opens_ = any_opens_ || part.shape == TileShape::opens;
    }
}

TileId frame_at(const Tile& tile, std::int64_t ms) {
    std::int64_t all = 0;
    for (const TileFrame& f : tile.frames) all += f.ms;
    if (all <= 0) return tile.id;
    std::int64_t at = ((ms % all) + all) % all;
    for (const TileFrame& f : tile.frames) {
        if (at < f.ms) return f.tile;
        at -= f.ms;
    }
    return tile.id;
}

LayerId home_in(const Level& level, const std::vector<LayerId>& homes) {
    for (const LayerId id : homes)
        if (level.layer(id)) return id;
    return 0;
}

MaterialId material_of(const Project& project, TileId tile) {
    for (const auto& material : project.materials)
        for (const auto& [mask, variants] : material->joins.cases)
            for (const Variant& v : variants)
                if (v.tile == tile) return material->id;
    return 0;
}

Level make_level(Project& project, const std::string& name, Size cells, Size cell, View view, const LayerNames& names) {
    Level level;
    level.id = project.free_level_id(name);
    level.name = name;
    level.view = view;
    level.size = cells;
    level.cell = cell;
    const auto add = [&](const std::string& layer_name, LayerKind kind, bool solid) {
        Layer layer;
        layer.id = project.next_id++;
        layer.name = layer_name;
        layer.content = empty_content(kind, cells);
        if (TileCells* tiles = layer.tiles()) tiles->solid = solid;
        level.layers.push_back(std::make_shared<const Layer>(std::move(layer)));
    };
    add(names.ground, LayerKind::tiles, true);
    add(names.props, LayerKind::props, false);
    level.plane = 2;
    add(names.front, LayerKind::tiles, false);
    if (view == View::from_above) {
        level.walker = {44, 56, 5, 0};
        level.edit(level.layers[1]->id).by_feet = true;
    }
    return level;
}

} // namespace vic::level
