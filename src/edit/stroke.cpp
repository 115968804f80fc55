#include "edit/stroke.hpp"

#include <algorithm>
#include <array>
#include <bit>
#include <cassert>
#include <cstring>
#include <map>

#include "base/chance.hpp"
#include "base/match.hpp"
#include "base/parallel.hpp"
#include "base/wide.hpp"
#include "level/block.hpp"

namespace vic::edit {

using namespace level;

namespace {

LayerId home_of_tile(const Project& project, const Level& level, TileId tile) {
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            if (t.id == tile)
                if (const LayerId home = home_in(level, t.homes)) return home;
    const Material* m = project.material(material_of(project, tile));
    return m ? home_in(level, m->homes) : 0;
}

LayerId home_of_material(const Project& project, const Level& level, MaterialId material) {
    const Material* m = project.material(material);
    return m ? home_in(level, m->homes) : 0;
}

// Of what the Hand holds; 0 where the active layer takes it.
LayerId home_layer(const Project& project, const Level& level, const Hand& hand, const Layer* active) {
    return match(
        hand.holds, [](const held::Nothing&) { return LayerId{0}; }, [](const held::Eraser&) { return LayerId{0}; },
        [](const held::Stamp&) { return LayerId{0}; },
        [&](const held::Material& m) { return home_of_material(project, level, m.id); },
        [&](const held::Tile& t) { return home_of_tile(project, level, t.id); },
        [&](const held::Spread& s) {
            if (s.items.empty()) return LayerId{0};
            const SpreadItem& first = s.items.front();
            return first.material != 0 ? home_of_material(project, level, first.material)
                                       : home_of_tile(project, level, first.tile);
        },
        [&](const held::Blocker&) {
            // The active layer if it is one of blockers, else the frontmost of them.
            LayerId home = 0;
            if (!active || !active->blockers())
                for (const LayerRef& l : level.layers)
                    if (l->blockers()) home = l->id;
            return home;
        },
        [&](const held::Fact& f) {
            // The active layer if it has values of the note, else the frontmost that has.
            const auto fits = [&](const Layer& l) { return l.facts() && l.facts()->note() == f.note; };
            LayerId home = 0;
            if (!active || !fits(*active))
                for (const LayerRef& l : level.layers)
                    if (fits(*l)) home = l->id;
            return home;
        },
        [&](const held::Prop&) {
            // The active layer if it takes props, else the frontmost layer of props behind the walker.
            LayerId home = 0;
            if (active && active->has_props()) return home;
            for (int i = 0; i < static_cast<int>(level.layers.size()); ++i) {
                const auto& l = level.layers[static_cast<std::size_t>(i)];
                if (l->kind() == LayerKind::props && (home == 0 || i < level.plane)) home = l->id;
            }
            return home;
        });
}

} // namespace

Target target_of(const Project& project, const Level& level, const Hand& hand, LayerId active, bool stay) {
    Target out{active, false, Obstacle::none};
    if (!stay) {
        const LayerId home = home_layer(project, level, hand, level.layer(active));
        if (home && home != active) out = {home, true, Obstacle::none};
    }
    const Layer* layer = level.layer(out.layer);
    const auto takes = [&] {
        if (hand.is<held::Prop>()) return layer->has_props();
        if (hand.is<held::Eraser>()) return layer->has_cells();
        if (const auto* f = hand.as<held::Fact>()) return layer->facts() && layer->facts()->note() == f->note;
        return layer->kind() == (hand.is<held::Blocker>() ? LayerKind::blockers : LayerKind::tiles);
    };
    if (!layer)
        out.obstacle = Obstacle::no_layer;
    else if (!takes())
        out.obstacle = Obstacle::wrong_kind;
    else if (layer->grain().own())
        out.obstacle = Obstacle::own_cells; // cells of its own: see close_up.hpp
    else if (layer->locked)
        out.obstacle = Obstacle::locked;
    else if (!layer->shown)
        out.obstacle = Obstacle::hidden;
    return out;
}

bool lays_cells(const Hand& hand) {
    return hand.is<held::Material>() || hand.is<held::Tile>() || hand.is<held::Eraser>() || hand.is<held::Spread>() ||
           hand.is<held::Blocker>() || hand.is<held::Fact>();
}

Hand blocker_hand(TileShape shape) { return {held::Blocker{shape}}; }

Hand fact_hand(const Project& project, NoteId note, const Hand& before) {
    const NoteKind* kind = project.note_kind(note);
    Hand hand = before;
    const auto* held = before.as<held::Fact>();
    int value = held ? held->value : 1;
    if (kind && !fact_value(*kind, value)) value = 0;
    hand.turn = {};
    hand.share_empty = 0;
    hand.holds = held::Fact{note, value};
    return hand;
}

std::vector<Point> pencil_cells(Point at, int size, bool round) {
    const int before = (size - 1) / 2;
    const Box box{at.x - before, at.y - before, size, size};
    return round ? ellipse_cells(box) : box_cells(box);
}

std::vector<Point> box_rim(const Box& box) {
    std::vector<Point> cells;
    for (const Point p : box_cells(box))
        if (p.x == box.x || p.y == box.y || p.x == box.right() - 1 || p.y == box.bottom() - 1) cells.push_back(p);
    return cells;
}

std::vector<Point> ellipse_rim(const Box& box) { return Region(ellipse_cells(box)).rim().cells(); }

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

namespace {

constexpr std::int64_t kLarge = 1 << 20;   // cells from which a second thread is worth its while
constexpr std::size_t kCountedChunks = 64; // chunks up to which joined neighbours are counted

std::uint64_t chance_at(const Hand& hand, LayerId layer, Point cell) {
    return place_hash((std::uint64_t{hand.seed} << 32) | layer, cell.x, cell.y);
}

// What a cell becomes.
struct Content {
    Cell cell;
    MaterialId material = 0;
};

// Lays those cells of a row of a chunk whose bit is set, where `paints` except pinned ones of the material; bytes
// first, without a branch, so that the compiler does many at a time.
VIC_WIDE void lay_row(Cell* cells, MaterialId* materials, std::uint64_t row, std::uint32_t bits, MaterialId material,
                      bool paints) {
    std::array<std::uint8_t, kChunk> lays;
    for (std::size_t x = 0; x < kChunk; x += 8) {
        // Of eight bits to eight bytes of 0 or 1.
        const std::uint64_t each = ((row >> x) & 255U) * 0x0101010101010101ULL & 0x8040201008040201ULL;
        const std::uint64_t eight = ((each + 0x7F7F7F7F7F7F7F7FULL) >> 7) & 0x0101010101010101ULL;
        std::memcpy(&lays[x], &eight, 8);
    }
    const std::uint32_t keeping = paints ? 1 : 0;
    for (std::size_t x = 0; x < kChunk; ++x) {
        const std::uint32_t keeps =
            keeping & (cells[x].bits >> 27) & static_cast<std::uint32_t>(materials[x] == material);
        const std::uint32_t changes = 0U - (lays[x] & ~keeps & 1U);
        cells[x].bits = (cells[x].bits & ~changes) | (bits & changes);
        materials[x] = static_cast<MaterialId>((materials[x] & ~changes) | (material & changes));
    }
}

// Lays cells for which no block has to be looked after, a chunk at a time.
void lay_chunks(const Project& project, const Hand& hand, LayerId layer, Grid& grid, const Region& cells) {
    const bool lays_tile = hand.is<held::Tile>() || hand.is<held::Blocker>() || hand.is<held::Fact>();
    const auto* spread = hand.as<held::Spread>();
    const bool spreads = spread != nullptr;
    const bool uniform = !spreads && hand.share_empty == 0;
    std::map<TileId, MaterialId> materials; // of the tiles of a spread
    if (spread)
        for (const SpreadItem& i : spread->items)
            if (i.tile != 0) materials[i.tile] = material_of(project, i.tile);
    const auto content_of = [&](const SpreadItem& item) {
        return item.material != 0 ? Content{{}, item.material}
                                  : Content{Cell(item.tile, item.turn, true),
                                            item.tile != 0 ? materials.at(item.tile) : MaterialId{0}};
    };
    Content all;
    if (const auto* m = hand.as<held::Material>()) all.material = m->id;
    if (const auto* t = hand.as<held::Tile>()) all = {Cell(t->id, hand.turn, true), material_of(project, t->id)};
    if (const auto* b = hand.as<held::Blocker>()) all.cell = Blockers::cell_of(turned(b->shape, hand.turn));
    if (const auto* f = hand.as<held::Fact>()) all.cell = Facts::cell_of(f->value);
    const Box bounds = cells.bounds();
    // A chunk full of what is laid, shared by all that become so.
    const bool erases = hand.is<held::Eraser>();
    std::shared_ptr<const Chunk> whole;
    if (uniform && !erases && bounds.w >= kChunk && bounds.h >= kChunk) {
        auto made = make_chunk();
        made->cells.fill(all.cell);
        made->materials.fill(all.material);
        whole = std::move(made);
    }
    const Box level = box_of(grid.size());
    const auto lay_chunk = [&](Point at, const Region::Rows& rows) {
        const Box here = intersection({at.x * kChunk, at.y * kChunk, kChunk, kChunk}, level);
        if (here.empty()) return;
        const Chunk* old = grid.chunk(at);
        if (erases && !old) return;
        const bool full = here.w == kChunk && here.h == kChunk &&
                          std::all_of(rows.begin(), rows.end(), [](std::uint64_t r) { return r == ~std::uint64_t{0}; });
        // Pinned cells of the material stay, so a chunk with anything in it is gone through.
        if (full && uniform && (erases || lays_tile || !old)) {
            grid.put(at, erases ? nullptr : whole);
            return;
        }
        Chunk& chunk = grid.edit(at);
        if (uniform && here.w == kChunk && here.h == kChunk) {
            const bool paints = all.material != 0 && all.cell.bits == 0;
            for (std::size_t y = 0; y < kChunk; ++y)
                if (rows[y] != 0)
                    lay_row(&chunk.cells[y * kChunk], &chunk.materials[y * kChunk], rows[y], all.cell.bits,
                            all.material, paints);
            if (erases) grid.tidy(at);
            return;
        }
        for (int y = here.y; y < here.bottom(); ++y) {
            const auto row = static_cast<std::size_t>(y - at.y * kChunk);
            for (std::uint64_t bits = rows[row]; bits != 0; bits &= bits - 1) {
                const int column = std::countr_zero(bits);
                const Point p{at.x * kChunk + column, y};
                if (p.x >= here.right()) break;
                if (!uniform && left_out(hand, layer, p)) continue;
                const Content content = spreads ? content_of(choice(hand, layer, p)) : all;
                const std::size_t i = row * kChunk + static_cast<std::size_t>(column);
                const bool paints = content.material != 0 && content.cell.bits == 0;
                if (paints && stays(chunk.cells[i], chunk.materials[i], content.material)) continue;
                chunk.cells[i] = content.cell;
                chunk.materials[i] = content.material;
            }
        }
        grid.tidy(at);
    };
    // A row of chunks is touched by one thread only.
    parallel_pieces(floor_div(bounds.y, kChunk), floor_div(bounds.bottom() - 1, kChunk) + 1,
                    bounds.size().area() >= kLarge,
                    [&](int, int from, int to) { cells.each_chunk_of(from, to, lay_chunk); });
}

} // namespace

bool left_out(const Hand& hand, LayerId layer, Point cell) {
    return hand.share_empty > 0 && scaled(static_cast<std::uint32_t>(chance_at(hand, layer, cell)), 100) <
                                       static_cast<std::uint32_t>(hand.share_empty);
}

SpreadItem choice(const Hand& hand, LayerId layer, Point cell) {
    const auto* spread = hand.as<held::Spread>();
    if (!spread) return {hand.material(), hand.tile(), hand.turn, 100};
    std::uint32_t total = 0;
    for (const SpreadItem& i : spread->items) total += static_cast<std::uint32_t>(i.weight);
    if (total == 0) return spread->items.empty() ? SpreadItem{} : spread->items.front();
    std::uint32_t at = scaled(static_cast<std::uint32_t>(chance_at(hand, layer, cell) >> 32), total);
    for (const SpreadItem& i : spread->items) {
        if (at < static_cast<std::uint32_t>(i.weight)) return i;
        at -= static_cast<std::uint32_t>(i.weight);
    }
    return spread->items.back();
}

Laid lay(const Project& project, const join::Rules& rules, const Level& level, LayerId layer, const Hand& hand,
         std::span<const Point> cells) {
    return lay(project, rules, level, layer, hand, Region(cells));
}

namespace {

// The Hand with its turns as the lattice can show them.
Hand shown_on(const Lattice& lattice, Hand hand) {
    if (lattice.square() || hand.is<held::Blocker>()) return hand;
    hand.turn = lattice.shown(hand.turn);
    if (auto* spread = hand.as<held::Spread>())
        for (SpreadItem& i : spread->items) i.turn = lattice.shown(i.turn);
    return hand;
}

} // namespace

Laid lay(const Project& project, const join::Rules& rules, const Level& level, LayerId layer, const Hand& asked,
         const Region& wanted) {
    Laid out{level, {}, 0};
    assert(level.layer(layer) && level.layer(layer)->has_cells() && !level.layer(layer)->grain().own());
    const bool tiles_lie = level.layer(layer)->cells_are() == CellsAre::tiles;
    const Hand hand = shown_on(level.geometry(), asked);
    Region cells = wanted;
    if (!level.cells().contains(cells.bounds())) cells.keep(level.cells());
    const Box bounds = cells.bounds();
    if (bounds.empty() || !lays_cells(hand)) return out;
    Grid& grid = out.level.edit(layer).grid();
    const Grid before = grid;
    const Tile* block = hand.is<held::Tile>() ? block_of(project, hand.tile()) : nullptr;
    Box lifted;
    if (!tiles_lie || reach_of(project).none()) {
        lay_chunks(project, hand, layer, grid, cells);
    } else {
        // Where there are blocks, each cell is looked at by itself.
        const TileTable tiles(project);
        const auto lift = [&](const LaidBlock& one) {
            grid.set(one.at, {}, 0);
            lifted = united(lifted, united(free_under(grid, one), {one.at.x, one.at.y, 1, 1}));
        };
        for (const Point p : cells.cells()) {
            if (!level.cells().contains(p) || left_out(hand, layer, p)) continue;
            if (hand.is<held::Eraser>()) {
                // A block goes where its foot is touched, or its picture where nothing else lies.
                if (const LaidBlock over = block_at(tiles, grid, p, level.lattice != LatticeKind::square);
                    over.tile &&
                    (grid.cell(p).empty() || foot_under(*over.tile, over.at, over.cell.turn()).contains(p)))
                    lift(over);
                grid.set(p, {}, 0);
                continue;
            }
            if (block) {
                const auto others = in_the_way(tiles, grid, *block, p, hand.turn);
                // A stroke sets one beside the other; another block makes room.
                if (std::any_of(others.begin(), others.end(),
                                [&](const LaidBlock& o) { return o.cell.tile() == hand.tile(); }))
                    continue;
                for (const LaidBlock& o : others) lift(o);
            }
            const SpreadItem item = choice(hand, layer, p);
            if (item.material != 0) {
                if (!stays(grid.cell(p), grid.material(p), item.material)) grid.set(p, {}, item.material);
            } else {
                grid.set(p, Cell(item.tile, item.turn, true), material_of(project, item.tile));
            }
        }
    }
    out.touched = intersection(united(bounds, lifted).grown(1), level.cells());
    join::resolve(rules, grid, out.touched, layer);
    std::size_t chunks = 0;
    cells.each_chunk([&](Point, const Region::Rows&) { ++chunks; });
    if (chunks <= kCountedChunks) {
        Region rim = cells.grown(true);
        rim.remove(cells);
        rim.each([&](Point p) { out.joined += grid.cell(p) != before.cell(p); });
    }
    return out;
}

std::optional<Picked> pick(const Project& project, const Level& level, Point cell, LayerId active) {
    const TileTable tiles = reach_of(project).none() ? TileTable() : TileTable(project);
    const auto at = [&](const Layer& layer) -> std::optional<Picked> {
        if (!layer.has_cells() || !layer.shown || layer.grain().own()) return std::nullopt;
        if (const Blockers* blockers = layer.blockers()) {
            const TileShape shape = blockers->shape(cell);
            if (shape == TileShape::none || layer.id != active) return std::nullopt;
            return Picked{layer.id, blocker_hand(shape)};
        }
        if (const Facts* facts = layer.facts()) {
            const auto value = facts->value(cell);
            if (!value || layer.id != active) return std::nullopt;
            Picked out;
            out.layer = layer.id;
            out.hand.holds = held::Fact{facts->note(), *value};
            return out;
        }
        Cell c = layer.grid().cell(cell);
        MaterialId m = layer.grid().material(cell);
        if (const LaidBlock over = block_at(tiles, layer.grid(), cell, level.lattice != LatticeKind::square);
            over.tile) {
            c = over.cell;
            m = 0;
        }
        if (c.empty() && m == 0) return std::nullopt;
        Picked out;
        out.layer = layer.id;
        if (m != 0 && !c.pinned() && project.material(m)) {
            out.hand.holds = held::Material{m};
        } else {
            out.hand.holds = held::Tile{c.tile()};
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

} // namespace vic::edit
