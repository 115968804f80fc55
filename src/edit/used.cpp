#include "edit/used.hpp"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>
#include <utility>

#include "edit/props.hpp"
#include "edit/sheets.hpp"
#include "level/block.hpp"
#include "level/standing.hpp"

namespace vic::edit {

using namespace level;

namespace {

// What a cell counts as: its material, or the tile that was laid there.
std::pair<UsedKind, std::uint32_t> thing_in(const TileTable& tiles, Cell cell, MaterialId material) {
    if (material != 0) return {UsedKind::material, material};
    const TileRef ref = tiles.find(cell.tile());
    return {ref.tile && ref.tile->is_block() ? UsedKind::block : UsedKind::tile, cell.tile()};
}

Blocking says(const Project& project, const TileTable& tiles, UsedKind kind, std::uint32_t id) {
    if (kind == UsedKind::material) {
        const Material* m = project.material(static_cast<MaterialId>(id));
        return m ? blocking_of(project, *m) : Blocking::nothing;
    }
    if (kind == UsedKind::prop) {
        const PropKind* k = project.prop_kind(id);
        if (!k || !k->blocks) return Blocking::nothing;
        return blocking_of(k->shape);
    }
    const TileRef ref = tiles.find(id);
    return ref.tile ? blocking_of(ref.tile->shape) : Blocking::nothing;
}

void set_prop(const Project& project, PropKind& kind, Blocking blocking) {
    if (kind.is_ensemble() || blocking == Blocking::one_way) return;
    kind.blocks = blocking != Blocking::nothing;
    if (!kind.blocks) return;
    kind.polygons.clear();
    if (blocking == Blocking::as_drawn) kind.polygons = shape_in_foot(project, kind);
    kind.shape = kind.polygons.empty() ? TileShape::full : TileShape::drawn;
}

// visit(layer, at, cell, material) for all cells of tiles that hold anything.
template <class Visit>
void each_laid(const Level& level, const Visit& visit) {
    for (const LayerRef& layer : level.layers)
        if (layer->tiles())
            each_cell(layer->grid(), layer->cells(), [&](Point at, Cell cell, MaterialId material) {
                if (cell.tile() != 0 || material != 0) visit(*layer, at, cell, material);
            });
}

std::string name_of(const Project& project, const TileTable& tiles, Cell cell, MaterialId material) {
    if (const Material* m = material == 0 ? nullptr : project.material(material)) return m->name;
    const TileRef ref = tiles.find(cell.tile());
    if (!ref.tile) return {};
    return ref.tile->name.empty() ? ref.sheet->name + " " + std::to_string(ref.tile->id) : ref.tile->name;
}

// The tile that lies over the cell on the layer, blocks by all of their foot.
struct Over {
    Cell cell;
    MaterialId material = 0;
};
Over over(const TileTable& tiles, const Layer& layer, Point cell) {
    const Point own = layer.grain().own() ? layer.grain().touching({cell.x, cell.y, 1, 1}).corner() : cell;
    if (const LaidBlock block = block_at(tiles, layer.grid(), own); block.tile) return {block.cell, 0};
    return {layer.grid().cell(own), layer.grid().material(own)};
}

bool prop_blocks_in(const Project& project, const PropKinds& kinds, const Level& level, const Layer& layer, Point cell,
                    std::string& name) {
    const Box box = level.geometry().box({cell.x, cell.y, 1, 1});
    const Spots square{{double(box.x), double(box.y)},
                       {double(box.right()), double(box.y)},
                       {double(box.right()), double(box.bottom())},
                       {double(box.x), double(box.bottom())}};
    bool out = false;
    layer.props().each_in(box.grown(kinds.reach(layer.props())), [&](const Prop& prop) {
        if (out) return;
        kinds.each_piece(prop, [&](const Piece& piece) {
            for (const Spots& spots : blocking_of(piece, level.geometry()))
                if (!out && overlap(spots, square)) {
                    out = true;
                    const PropKind* kind = project.prop_kind(prop.kind);
                    name = kind ? kind->name : piece.kind->name;
                }
        });
    });
    return out;
}

} // namespace

std::vector<Used> used_in(const Project& project, const Level& level) { return UsedCounter().used_in(project, level); }

std::vector<UsedCounter::Count> UsedCounter::count(const Project& project, const Layer& layer, const TileTable& tiles,
                                                   const PropKinds& kinds) {
    std::map<std::pair<UsedKind, std::uint32_t>, int> all;
    if (layer.tiles()) {
        std::vector<int> materials(std::size_t{1} << (8 * sizeof(MaterialId)), 0);
        std::vector<int> loose(project.next_tile, 0);
        each_cell(layer.grid(), layer.cells(), [&](Point, Cell cell, MaterialId material) {
            if (material != 0)
                ++materials[material];
            else if (cell.tile() != 0 && cell.tile() < loose.size())
                ++loose[cell.tile()];
        });
        for (std::size_t id = 1; id < materials.size(); ++id)
            if (materials[id] > 0) all[{UsedKind::material, static_cast<std::uint32_t>(id)}] += materials[id];
        for (std::size_t id = 1; id < loose.size(); ++id)
            if (loose[id] > 0) all[thing_in(tiles, Cell(static_cast<TileId>(id), {}, true), 0)] += loose[id];
    }
    for (const Prop& prop : layer.props())
        kinds.each_piece(prop, [&](const Piece& piece) { ++all[{UsedKind::prop, piece.kind->id}]; });
    std::vector<Count> out;
    for (const auto& [what, many] : all) out.push_back({what.first, what.second, many});
    return out;
}

std::vector<Used> UsedCounter::used_in(const Project& project, const Level& level) {
    const TileTable tiles(project);
    if (sheets_ != project.sheets || kinds_ != project.prop_kinds) known_.clear();
    sheets_ = project.sheets;
    kinds_ = project.prop_kinds;
    const PropKinds kinds(project);
    std::vector<std::pair<LayerRef, std::vector<Count>>> now;
    std::map<std::pair<UsedKind, std::uint32_t>, Used> all;
    for (const LayerRef& layer : level.layers) {
        const auto before =
            std::find_if(known_.begin(), known_.end(), [&](const auto& known) { return known.first == layer; });
        now.emplace_back(layer, before != known_.end() ? before->second : count(project, *layer, tiles, kinds));
        for (const Count& c : now.back().second) {
            Used& used = all[{c.kind, c.id}];
            used.kind = c.kind;
            used.id = c.id;
            used.count += c.count;
            used.heard += c.kind == UsedKind::prop || layer->blocks() ? c.count : 0;
        }
    }
    known_ = std::move(now);
    std::vector<Used> out;
    std::map<MaterialId, std::size_t> order;
    for (std::size_t i = 0; i < project.materials.size(); ++i) order[project.materials[i]->id] = i;
    for (auto& [what, used] : all) {
        used.blocking = says(project, tiles, used.kind, used.id);
        out.push_back(used);
    }
    std::stable_sort(out.begin(), out.end(), [&](const Used& a, const Used& b) {
        const auto key = [&](const Used& u) {
            const auto place = u.kind == UsedKind::material ? order.find(static_cast<MaterialId>(u.id)) : order.end();
            return std::tuple(u.kind, place == order.end() ? project.materials.size() : place->second,
                              u.kind == UsedKind::material ? 0 : -u.count, u.id);
        };
        return key(a) < key(b);
    });
    return out;
}

Project with_blocking(Project project, const std::vector<Used>& things, Blocking blocking) {
    if (blocking == Blocking::mixed) return project;
    std::vector<TileId> tiles;
    for (const Used& used : things) {
        if (used.kind == UsedKind::material)
            project = with_blocking(std::move(project), static_cast<MaterialId>(used.id), blocking);
        if (used.kind == UsedKind::tile || used.kind == UsedKind::block) tiles.push_back(used.id);
        const PropKind* kind = used.kind == UsedKind::prop ? project.prop_kind(used.id) : nullptr;
        if (!kind) continue;
        PropKind changed = *kind;
        set_prop(project, changed, blocking);
        if (!(changed == *kind)) project.put(std::move(changed));
    }
    if (tiles.empty()) return project;
    const Project before = project;
    return change_tiles(std::move(project), tiles, [&](Tile& tile) { give(before, tile, blocking); });
}

Level with_layers_blocking(const Project& project, const Level& level, const std::vector<Used>& things) {
    const TileTable tiles(project);
    std::set<std::pair<UsedKind, std::uint32_t>> wanted;
    for (const Used& used : things) wanted.insert({used.kind, used.id});
    std::set<LayerId> layers;
    each_laid(level, [&](const Layer& layer, Point, Cell cell, MaterialId material) {
        if (!layer.solid() && wanted.contains(thing_in(tiles, cell, material))) layers.insert(layer.id);
    });
    Level out = level;
    for (const LayerId id : layers) out.edit(id).tiles()->solid = true;
    return out;
}

Region where_used(const Project& project, const Level& level, const Used& thing) {
    const TileTable tiles(project);
    const PropKinds kinds(project);
    std::vector<Point> cells;
    const std::pair wanted(thing.kind, thing.id);
    each_laid(level, [&](const Layer& layer, Point at, Cell cell, MaterialId material) {
        if (thing_in(tiles, cell, material) != wanted) return;
        const Tile* tile = tiles.find(cell.tile()).tile;
        Box under = tile ? cells_under(*tile, at, cell.turn()) : Box{at.x, at.y, 1, 1};
        if (layer.grain().own()) under = layer.grain().in_level(under);
        under = intersection(under, level.cells());
        for (int y = under.y; y < under.bottom(); ++y)
            for (int x = under.x; x < under.right(); ++x) cells.push_back({x, y});
    });
    if (thing.kind == UsedKind::prop)
        for (const LayerRef& layer : level.layers)
            for (const Prop& prop : layer->props())
                kinds.each_piece(prop, [&](const Piece& piece) {
                    if (piece.kind->id != thing.id) return;
                    const Box box = intersection(level.geometry().cells_in(piece.foot_box()), level.cells());
                    for (int y = box.y; y < box.bottom(); ++y)
                        for (int x = box.x; x < box.right(); ++x) cells.push_back({x, y});
                });
    Region out;
    for (const Point cell : cells) out.add(cell);
    return out;
}

Decided decided_at(const Project& project, const Level& level, Point cell) {
    Decided out;
    if (!level.cells().contains(cell)) return out;
    const TileTable tiles(project);
    const PropKinds kinds(project);
    // What blocks anywhere blocks: the frontmost is named.
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        const Layer& layer = **it;
        if (const Blockers* blockers = layer.blockers()) {
            const Cell here = blockers->cells().cell(cell);
            const TileShape shape = here.bits == 0 ? TileShape::none : Blockers::shape_of(here);
            if (shape == TileShape::none) continue;
            return {Decided::By::blocker, true, is_one_way(shape), layer.id,
                    is_one_way(shape) ? say("A blocker on \"%1\" stops what comes from one side", layer.name)
                                      : say("A blocker on \"%1\" blocks here", layer.name)};
        }
        std::string name;
        if (layer.has_props() && layer.shown && prop_blocks_in(project, kinds, level, layer, cell, name))
            return {Decided::By::prop, true, false, layer.id,
                    say("\"%1\" on \"%2\" blocks by its foot", name, layer.name)};
        if (!layer.blocks() || !layer.tiles()) continue;
        const Over here = over(tiles, layer, cell);
        const TileShape shape = tiles.shape(here.cell);
        if (shape == TileShape::none) continue;
        name = name_of(project, tiles, here.cell, here.material);
        return {Decided::By::tile, true, is_one_way(shape), layer.id,
                is_one_way(shape) ? say("\"%1\" on \"%2\" stops what comes from one side", name, layer.name)
                                  : say("\"%1\" on \"%2\" blocks here", name, layer.name)};
    }
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        const Layer& layer = **it;
        if (!layer.tiles() || layer.blocks()) continue;
        const Over here = over(tiles, layer, cell);
        if (tiles.shape(here.cell) == TileShape::none) continue;
        return {Decided::By::layer_open, false, false, layer.id,
                say("Open: \"%1\" would block, but its layer \"%2\" does not",
                    name_of(project, tiles, here.cell, here.material), layer.name)};
    }
    out.says = "Open: nothing here has a part that blocks";
    return out;
}

} // namespace vic::edit
