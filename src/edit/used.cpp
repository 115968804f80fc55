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
#include "outline/free.hpp"

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
    if (kind == UsedKind::blockers) return Blocking::mixed;
    if (kind == UsedKind::backdrop) return Blocking::nothing;
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
    if (kind.is_ensemble()) return;
    kind.blocks = blocking != Blocking::nothing;
    if (!kind.blocks) return;
    kind.polygons.clear();
    if (blocking == Blocking::one_way || blocking == Blocking::opens) {
        kind.shape = blocking == Blocking::opens ? TileShape::opens : TileShape::one_way_north;
        return;
    }
    if (blocking == Blocking::as_drawn) kind.polygons = shape_in_foot(project, kind);
    kind.shape = kind.polygons.empty() ? TileShape::full : TileShape::drawn;
}

bool is_said_here(const Project& project, const Level& level, const Used& thing) {
    if (level.here.empty() || thing.kind == UsedKind::blockers || thing.kind == UsedKind::backdrop) return false;
    if (thing.kind == UsedKind::prop) return level.here.props.contains(thing.id);
    const auto tiles = tiles_of(project, thing);
    return std::any_of(tiles.begin(), tiles.end(), [&](TileId id) { return level.here.tiles.contains(id); });
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

template <class Visit>
void each_in(const Box& cells, const Visit& visit) {
    for (int y = cells.y; y < cells.bottom(); ++y)
        for (int x = cells.x; x < cells.right(); ++x) visit(Point{x, y});
}

// A cell as a square in 1/64 of itself and of its neighbours.
Spots square_of(Point cell) {
    const double left = double(cell.x) * outline::kUnit, top = double(cell.y) * outline::kUnit;
    const double right = left + outline::kUnit, bottom = top + outline::kUnit;
    return {{left, top}, {right, top}, {right, bottom}, {left, bottom}};
}

Spots spots_of(const Polygon& polygon) {
    Spots out;
    for (const Point p : polygon) out.push_back({double(p.x), double(p.y)});
    return out;
}

bool touches(const Polygon& polygon, Point cell) { return !outline::by_cells(polygon, {cell.x, cell.y, 1, 1}).empty(); }

// What a place of a layer says, the cell as a whole.
struct Word {
    bool says = false, opens = false, one_way = false;
    std::string name;
    bool drawn = false;            // free of the lattice
    Used thing{};                  // that says it
    BlockerId free = 0;            // where it is a free blocker
    std::string collision_class{}; // its own
};

Word word_of_prop(const PropKinds& kinds, const Level& level, const Layer& layer, Point cell) {
    Word out;
    const Lattice lattice = level.geometry();
    layer.props().each_in(lattice.box(cell).grown(kinds.reach(layer.props())), [&](const Prop& prop) {
        kinds.each_piece(prop, [&](const Piece& piece) {
            if (!piece.kind->blocks) return;
            bool here = false;
            const bool opens = piece.kind->shape == TileShape::opens;
            const auto edge = outline::one_way_of(piece, lattice);
            if (opens) here = touches(clockwise({outline::in_units(foot_corners(piece, lattice), lattice)})[0], cell);
            if (edge) here = overlap(square_of(cell), spots_of({edge->from, edge->to, edge->from + Point{1, 1}}));
            for (const Polygon& polygon : outline::blocking_units(piece, lattice))
                here = here || touches(polygon, cell);
            if (!here) return;
            const PropKind* kind = kinds.find(prop.kind);
            out = {true, opens, edge.has_value(),           kind ? kind->name : piece.kind->name, false,
                   {},   0,     piece.kind->collision_class};
            out.thing.kind = UsedKind::prop;
            out.thing.id = piece.kind->id;
        });
    });
    return out;
}

Word word_of_blockers(const Blockers& blockers, Point cell) {
    // What only tells says nothing of who is stopped.
    for (auto it = blockers.free().rbegin(); it != blockers.free().rend(); ++it)
        for (const Polygon& polygon : covered(*it))
            if (it->tells == 0 && cells_of(*it).contains(cell) && touches(polygon, cell))
                return {true, it->opens, false, it->name, true, {}, it->id, it->collision_class};
    const TileShape shape = blockers.shape(cell);
    return {shape != TileShape::none, shape == TileShape::opens, is_one_way(shape), {}};
}

Text sentence_of(Decided::By by, const Word& word, const std::string& layer) {
    if (by == Decided::By::blocker) {
        if (!word.name.empty())
            return word.opens ? say("Open: \"%1\" on \"%2\" lets one walk here", word.name, layer)
                              : say("\"%1\", a blocker on \"%2\", blocks here", word.name, layer);
        if (word.drawn)
            return word.opens ? say("Open: what was drawn on \"%1\" lets one walk here", layer)
                              : say("What was drawn on \"%1\" blocks here", layer);
        return word.opens     ? say("Open: the cell's own word on \"%1\" lets one walk here", layer)
               : word.one_way ? say("A blocker on \"%1\" stops what comes from one side", layer)
                              : say("A blocker on \"%1\" blocks here", layer);
    }
    if (word.opens) return say("Open: \"%1\" on \"%2\" lets one walk here, whatever lies below", word.name, layer);
    if (word.one_way) return say("\"%1\" on \"%2\" stops what comes from one side", word.name, layer);
    return by == Decided::By::prop ? say("\"%1\" on \"%2\" blocks by its foot", word.name, layer)
                                   : say("\"%1\" on \"%2\" blocks here", word.name, layer);
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
    if (const Blockers* blockers = layer.blockers())
        if (const auto many = blockers->cells().count() + static_cast<std::int64_t>(blockers->free().size()); many > 0)
            all[{UsedKind::blockers, layer.id}] = static_cast<int>(many);
    if (const Backdrop* backdrop = layer.backdrop(); backdrop && backdrop->sheet != 0)
        all[{UsedKind::backdrop, layer.id}] = 1;
    std::vector<Count> out;
    for (const auto& [what, many] : all) out.push_back({what.first, what.second, many});
    return out;
}

std::vector<Used> UsedCounter::used_in(const Project& project, const Level& level) {
    const TileTable tiles(project);
    const Project said = level.here.empty() ? project : as_in(project, level);
    const TileTable said_of(said);
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
        used.blocking = says(said, said_of, used.kind, used.id);
        used.here = is_said_here(project, level, used);
        if (used.blocking == Blocking::opens || used.kind == UsedKind::blockers) used.heard = used.count;
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

Blocking said_by(const Project& project, const Used& thing) {
    return says(project, TileTable(project), thing.kind, thing.id);
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

std::vector<TileId> tiles_of(const Project& project, const Used& thing) {
    if (thing.kind == UsedKind::tile || thing.kind == UsedKind::block) return {thing.id};
    std::vector<TileId> out;
    const Material* m =
        thing.kind == UsedKind::material ? project.material(static_cast<MaterialId>(thing.id)) : nullptr;
    if (!m) return out;
    const auto take = [&](const Cases& cases) {
        for (const auto& [mask, variants] : cases)
            for (const Variant& v : variants) out.push_back(v.tile);
    };
    take(m->joins.cases);
    for (const auto& [other, cases] : m->joins.pairs) take(cases);
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

Level said_here(const Project& project, Level level, const std::vector<Used>& things, const Project& wanted) {
    const TileTable was(project), now(wanted);
    for (const Used& thing : things) {
        for (const TileId id : tiles_of(project, thing)) {
            const Tile *a = was.find(id).tile, *b = now.find(id).tile;
            if (!a || !b) continue;
            level.here.tiles.erase(id);
            if (a->shape != b->shape || a->polygons != b->polygons || a->tells != b->tells)
                level.here.tiles[id] = {b->shape, b->polygons, b->tells};
        }
        const PropKind* a = thing.kind == UsedKind::prop ? project.prop_kind(thing.id) : nullptr;
        const PropKind* b = a ? wanted.prop_kind(thing.id) : nullptr;
        if (!b || b->is_ensemble()) continue;
        level.here.props.erase(thing.id);
        const bool telling = a->areas != b->areas;
        if (!telling && a->blocks == b->blocks && a->shape == b->shape && a->polygons == b->polygons) continue;
        AreaKindId tells = 0;
        for (const AreaKind& k : wanted.area_kinds)
            for (const PropArea& area : b->areas)
                if (telling && tells == 0 && area.name == k.name) tells = k.id;
        level.here.props[thing.id] = {b->blocks ? b->shape : TileShape::none, b->polygons, tells, telling};
    }
    return level;
}

Level with_blocking_here(const Project& project, Level level, const std::vector<Used>& things, Blocking blocking) {
    const Project wanted = with_blocking(as_in(project, level), things, blocking);
    return said_here(project, std::move(level), things, wanted);
}

Level as_in_project(const Project& project, Level level, const std::vector<Used>& things) {
    return said_here(project, std::move(level), things, project);
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
        under = intersection(touched_by(under, layer.shift), level.cells());
        each_in(under, [&](Point at) { cells.push_back(at); });
    });
    const Layer* blockers = thing.kind == UsedKind::blockers ? level.layer(thing.id) : nullptr;
    if (blockers && blockers->blockers()) {
        each_cell(blockers->grid(), level.cells(), [&](Point at, Cell cell, MaterialId) {
            if (!cell.empty()) cells.push_back(at);
        });
        for (const FreeBlocker& free : blockers->blockers()->free())
            for (const Polygon& polygon : covered(free))
                for (const outline::CellPiece& piece : outline::by_cells(polygon, level.cells()))
                    cells.push_back(piece.cell);
    }
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
    const TileTable tiles(project, level);
    const PropKinds kinds(project, level);
    // What blocks anywhere blocks, unless something above it opens it: the frontmost that says anything is named.
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        const Layer& layer = **it;
        Word word;
        Decided::By by = Decided::By::tile;
        if (const Blockers* blockers = layer.blockers()) {
            by = Decided::By::blocker;
            word = word_of_blockers(*blockers, cell);
            word.thing.kind = UsedKind::blockers;
            word.thing.id = layer.id;
        } else if (layer.has_props()) {
            by = Decided::By::prop;
            word = word_of_prop(kinds, level, layer, cell);
        } else if (layer.tiles() && layer.grain().finer == 1) {
            // Half a cell aside up to four touch the cell.
            each_in(touching({cell.x, cell.y, 1, 1}, layer.shift), [&](Point own) {
                const Over here = over(tiles, layer, own);
                const TileShape shape = tiles.shape(here.cell);
                if (word.says || shape == TileShape::none || (!layer.blocks() && shape != TileShape::opens)) return;
                word = {true, shape == TileShape::opens, is_one_way(shape),
                        name_of(project, tiles, here.cell, here.material)};
                std::tie(word.thing.kind, word.thing.id) = thing_in(tiles, here.cell, here.material);
                if (const Tile* tile = tiles.find(here.cell.tile()).tile) word.collision_class = tile->collision_class;
            });
        }
        if (!word.says) continue;
        if (word.collision_class.empty()) word.collision_class = layer.collision_class;
        return {by,         !word.opens, word.one_way,
                word.opens, layer.id,    sentence_of(by, word, layer.name),
                word.thing, word.free,   word.opens ? std::string() : std::move(word.collision_class)};
    }
    for (auto it = level.layers.rbegin(); it != level.layers.rend(); ++it) {
        const Layer& layer = **it;
        if (!layer.tiles() || layer.blocks()) continue;
        std::optional<Over> would;
        each_in(touching({cell.x, cell.y, 1, 1}, layer.shift), [&](Point own) {
            const Over here = over(tiles, layer, own);
            if (!would && tiles.shape(here.cell) != TileShape::none) would = here;
        });
        if (!would) continue;
        Used thing;
        std::tie(thing.kind, thing.id) = thing_in(tiles, would->cell, would->material);
        return {Decided::By::layer_open,
                false,
                false,
                false,
                layer.id,
                say("Open: \"%1\" would block, but its layer \"%2\" does not",
                    name_of(project, tiles, would->cell, would->material), layer.name),
                thing};
    }
    out.says = "Open: nothing here has a part that blocks";
    return out;
}

} // namespace vic::edit
