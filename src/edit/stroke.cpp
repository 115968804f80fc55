#include "edit/stroke.hpp"

#include <algorithm>
#include <cassert>

#include "level/block.hpp"

namespace vic::edit {

using namespace level;

Target target_of(const Project& project, const Level& level, const Hand& hand, LayerId active, bool stay) {
    Target out{active, false, Obstacle::none};
    if (!stay) {
        LayerId home = 0;
        if (hand.kind == Hand::Kind::material) {
            if (const Material* m = project.material(hand.material)) home = home_in(level, m->homes);
        } else if (hand.kind == Hand::Kind::tile) {
            for (const auto& sheet : project.sheets)
                for (const Tile& t : sheet->tiles)
                    if (t.id == hand.tile) home = home_in(level, t.homes);
            if (!home)
                if (const Material* m = project.material(material_of(project, hand.tile)))
                    home = home_in(level, m->homes);
        } else if (hand.kind == Hand::Kind::prop) {
            // Props go to the active layer if it takes them, else to the frontmost layer of props behind the walker.
            const Layer* layer = level.layer(active);
            if (!layer || layer->kind != LayerKind::props)
                for (int i = 0; i < static_cast<int>(level.layers.size()); ++i) {
                    const auto& l = level.layers[static_cast<std::size_t>(i)];
                    if (l->kind == LayerKind::props && (home == 0 || i < level.plane)) home = l->id;
                }
        }
        if (home && home != active) out = {home, true, Obstacle::none};
    }
    const Layer* layer = level.layer(out.layer);
    const LayerKind wanted = hand.kind == Hand::Kind::prop ? LayerKind::props : LayerKind::tiles;
    if (!layer)
        out.obstacle = Obstacle::no_layer;
    else if (layer->kind != wanted)
        out.obstacle = Obstacle::wrong_kind;
    else if (layer->locked)
        out.obstacle = Obstacle::locked;
    else if (!layer->shown)
        out.obstacle = Obstacle::hidden;
    return out;
}

std::vector<Point> pencil_cells(Point at, int size) {
    const int before = (size - 1) / 2;
    return box_cells({at.x - before, at.y - before, size, size});
}

std::vector<Point> box_cells(const Box& box) {
    std::vector<Point> cells;
    cells.reserve(static_cast<std::size_t>(box.size().area()));
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x) cells.push_back({x, y});
    return cells;
}

Point straight_end(Point from, Point to) {
    const int dx = to.x - from.x;
    const int dy = to.y - from.y;
    const int ax = std::abs(dx);
    const int ay = std::abs(dy);
    // Nearer to a diagonal than to a side: within 22.5 degrees of it (tan = 0.414).
    if (5 * std::min(ax, ay) > 2 * std::max(ax, ay)) {
        const int n = std::max(ax, ay);
        return {from.x + (dx < 0 ? -n : n), from.y + (dy < 0 ? -n : n)};
    }
    return ax >= ay ? Point{to.x, from.y} : Point{from.x, to.y};
}

std::vector<Point> ellipse_cells(const Box& box) {
    std::vector<Point> cells;
    const double rx = box.w / 2.0;
    const double ry = box.h / 2.0;
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x) {
            const double u = (x + 0.5 - box.x - rx) / rx;
            const double v = (y + 0.5 - box.y - ry) / ry;
            if (u * u + v * v <= 1.0) cells.push_back({x, y});
        }
    return cells;
}

std::vector<Point> fill_cells(const Level& level, LayerId layer_id, Point at, const Box& within, bool corners) {
    std::vector<Point> cells;
    const Layer* layer = level.layer(layer_id);
    const Box box = intersection(within, level.cells());
    if (!layer || layer->kind != LayerKind::tiles || !box.contains(at)) return cells;
    // What a cell holds, as one number.
    const auto content = [&](Point p) -> std::uint64_t {
        const Cell c = layer->grid.cell(p);
        const MaterialId m = layer->grid.material(p);
        return m != 0 && !c.pinned() ? std::uint64_t{m} << 32 : std::uint64_t{c.bits & 0x07FFFFFFU};
    };
    const std::uint64_t wanted = content(at);
    std::vector<bool> seen(static_cast<std::size_t>(box.size().area()), false);
    const auto index = [&](Point p) {
        return static_cast<std::size_t>(p.y - box.y) * static_cast<std::size_t>(box.w) +
               static_cast<std::size_t>(p.x - box.x);
    };
    // Runs of a row at a time (A. R. Smith, "Tint fill", SIGGRAPH 1979).
    std::vector<Point> seeds{at};
    while (!seeds.empty()) {
        const Point seed = seeds.back();
        seeds.pop_back();
        if (seen[index(seed)] || content(seed) != wanted) continue;
        int from = seed.x;
        int to = seed.x + 1;
        while (from > box.x && !seen[index({from - 1, seed.y})] && content({from - 1, seed.y}) == wanted) --from;
        while (to < box.right() && !seen[index({to, seed.y})] && content({to, seed.y}) == wanted) ++to;
        for (int x = from; x < to; ++x) {
            seen[index({x, seed.y})] = true;
            cells.push_back({x, seed.y});
        }
        const int reach = corners ? 1 : 0;
        for (const int y : {seed.y - 1, seed.y + 1}) {
            if (y < box.y || y >= box.bottom()) continue;
            for (int x = std::max(from - reach, box.x); x < std::min(to + reach, box.right()); ++x)
                if (!seen[index({x, y})] && content({x, y}) == wanted) seeds.push_back({x, y});
        }
    }
    return cells;
}

std::vector<Point> line_cells(Point from, Point to) {
    std::vector<Point> cells;
    const int dx = std::abs(to.x - from.x);
    const int dy = -std::abs(to.y - from.y);
    const int sx = from.x < to.x ? 1 : -1;
    const int sy = from.y < to.y ? 1 : -1;
    int error = dx + dy;
    for (Point p = from;;) {
        cells.push_back(p);
        if (p == to) break;
        const int twice = 2 * error;
        if (twice >= dy) error += dy, p.x += sx;
        if (twice <= dx) error += dx, p.y += sy;
    }
    return cells;
}

namespace {

const Tile* block_of(const Project& project, TileId id) {
    for (const auto& sheet : project.sheets)
        for (auto t = sheet->tiles.rbegin(); t != sheet->tiles.rend() && t->is_block(); ++t)
            if (t->id == id) return &*t;
    return nullptr;
}

// Blocks whose foot is in the way of the foot of `tile` at `at`.
std::vector<LaidBlock> in_the_way(const TileTable& tiles, const Grid& grid, const Tile& tile, Point at, Turn turn) {
    std::vector<LaidBlock> out;
    const Box foot = foot_under(tile, at, turn);
    each_cell(grid, tiles.reach().seen_in(foot), [&](Point p, Cell c, MaterialId) {
        const Tile* other = tiles.find(c.tile()).tile;
        if (other && other->is_block() && p != at && !intersection(foot_under(*other, p, c.turn()), foot).empty())
            out.push_back({p, c, other});
    });
    return out;
}

} // namespace

Laid lay(const Project& project, const join::Rules& rules, const Level& level, LayerId layer, const Hand& hand,
         std::span<const Point> cells) {
    Laid out{level, {}, 0};
    assert(level.layer(layer) && level.layer(layer)->kind == LayerKind::tiles);
    Grid& grid = out.level.edit(layer).grid;
    const Grid before = grid;
    const MaterialId of_tile = hand.kind == Hand::Kind::tile ? material_of(project, hand.tile) : MaterialId{0};
    const Tile* block = hand.kind == Hand::Kind::tile ? block_of(project, hand.tile) : nullptr;
    const bool any_blocks = !reach_of(project).none();
    const TileTable tiles = any_blocks ? TileTable(project) : TileTable();
    Box laid, lifted;
    const auto lift = [&](Point p) {
        grid.set(p, {}, 0);
        lifted = united(lifted, {p.x, p.y, 1, 1});
    };
    for (const Point p : cells) {
        if (!level.cells().contains(p)) continue;
        switch (hand.kind) {
            case Hand::Kind::material:
                if (!(grid.cell(p).pinned() && grid.material(p) == hand.material)) grid.set(p, {}, hand.material);
                break;
            case Hand::Kind::tile:
                if (block) {
                    const auto others = in_the_way(tiles, grid, *block, p, hand.turn);
                    // A stroke sets one beside the other; another block makes room.
                    if (std::any_of(others.begin(), others.end(),
                                    [&](const LaidBlock& o) { return o.cell.tile() == hand.tile; }))
                        continue;
                    for (const LaidBlock& o : others) lift(o.at);
                }
                grid.set(p, Cell(hand.tile, hand.turn, true), of_tile);
                break;
            case Hand::Kind::eraser:
                // A block goes where its foot is touched, or its picture where nothing else lies.
                if (any_blocks)
                    if (const LaidBlock over = block_at(tiles, grid, p);
                        over.tile &&
                        (grid.cell(p).empty() || foot_under(*over.tile, over.at, over.cell.turn()).contains(p)))
                        lift(over.at);
                grid.set(p, {}, 0);
                break;
            default:
                break;
        }
        laid = united(laid, {p.x, p.y, 1, 1});
    }
    if (laid.empty()) return out;
    out.touched = intersection(united(laid, lifted).grown(1), level.cells());
    join::resolve(rules, grid, out.touched, layer);
    // Rim cells only: those laid themselves differ anyway.
    for (int y = out.touched.y; y < out.touched.bottom(); ++y)
        for (int x = out.touched.x; x < out.touched.right(); ++x) {
            const bool inner = laid.contains(Point{x, y});
            if (!inner && grid.cell({x, y}) != before.cell({x, y})) ++out.joined;
            if (inner) x = laid.right() - 1;
        }
    return out;
}

std::optional<Picked> pick(const Project& project, const Level& level, Point cell, LayerId active) {
    const TileTable tiles = reach_of(project).none() ? TileTable() : TileTable(project);
    const auto at = [&](const Layer& layer) -> std::optional<Picked> {
        if (layer.kind != LayerKind::tiles || !layer.shown) return std::nullopt;
        Cell c = layer.grid.cell(cell);
        MaterialId m = layer.grid.material(cell);
        if (const LaidBlock over = block_at(tiles, layer.grid, cell); over.tile) {
            c = over.cell;
            m = 0;
        }
        if (c.empty() && m == 0) return std::nullopt;
        Picked out;
        out.layer = layer.id;
        if (m != 0 && !c.pinned() && project.material(m)) {
            out.hand.kind = Hand::Kind::material;
            out.hand.material = m;
        } else {
            out.hand.kind = Hand::Kind::tile;
            out.hand.tile = c.tile();
            out.hand.turn = c.turn();
        }
        return out;
    };
    if (const Layer* layer = level.layer(active))
        if (auto found = at(*layer)) return found;
    for (auto slab = level.layers.rbegin(); slab != level.layers.rend(); ++slab)
        if (auto found = at(**slab)) return found;
    return std::nullopt;
}

Text tile_name(const Project& project, TileId tile) {
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            if (t.id == tile && !t.name.empty()) return Text::verbatim(t.name);
    return say("tile %1", tile);
}

Text name_at(const Project& project, const Layer& layer, Point cell) {
    const Cell c = layer.grid.cell(cell);
    if (!reach_of(project).none())
        if (const LaidBlock over = block_at(TileTable(project), layer.grid, cell); over.tile)
            return tile_name(project, over.tile->id);
    const Material* m = project.material(layer.grid.material(cell));
    if (m && !c.pinned()) return Text::verbatim(m->name);
    return c.empty() ? Text() : tile_name(project, c.tile());
}

} // namespace vic::edit
