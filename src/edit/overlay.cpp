#include "edit/overlay.hpp"

#include <algorithm>
#include <bit>
#include <cassert>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <set>

#include "edit/levels.hpp"

namespace vic::edit {

using namespace level;

namespace {

bool any_see_through(const Project& project, const Hand& hand, const Lattice& lattice) {
    if (const auto* tile = hand.as<held::Tile>()) return see_through(project, tile->id, lattice);
    const auto* spread = hand.as<held::Spread>();
    return spread && std::any_of(spread->items.begin(), spread->items.end(), [&](const SpreadItem& i) {
               return i.tile != 0 && see_through(project, i.tile, lattice);
           });
}

// Whether a material is of a kit's pieces that let something show through, as walls in a plan do.
bool stands_over(const Project& project, MaterialId id, const Lattice& lattice) {
    const Material* const m = project.material(id);
    if (!m) return false;
    std::set<TileId> pieces;
    for (const auto& sheet : project.sheets)
        if (sheet->kit)
            for (const KitPiece& p : sheet->kit->pieces) pieces.insert(p.tile);
    if (pieces.empty()) return false;
    for (const auto& [mask, variants] : m->joins.cases)
        for (const auto& v : variants)
            if (pieces.contains(v.tile) && see_through(project, v.tile, lattice)) return true;
    return false;
}

bool holds(const Grid& grid, MaterialId id) {
    bool any = false;
    level::each_cell(grid, box_of(grid.size()), [&](Point, Cell, MaterialId m) { any = any || m == id; });
    return any;
}

// Of the cells, those that hold anything else than the tile would be there.
Region taken(const Grid& grid, const Region& cells, const Hand& hand, LayerId layer) {
    Region out;
    const bool erases = hand.is<held::Eraser>();
    const auto* const painted = hand.as<held::Material>();
    cells.each_chunk([&](Point at, const Region::Rows& rows) {
        if (at.x < 0 || at.y < 0 || at.x >= grid.chunks().w || at.y >= grid.chunks().h) return;
        const Chunk* chunk = grid.chunk(at);
        if (!chunk) return;
        Region::Rows found{};
        bool any = false;
        for (int y = 0; y < kChunk; ++y) {
            std::uint64_t there = 0;
            const auto row = static_cast<std::size_t>(y) * kChunk;
            for (std::uint64_t bits = rows[static_cast<std::size_t>(y)]; bits != 0; bits &= bits - 1) {
                const int x = std::countr_zero(bits);
                const std::size_t i = row + static_cast<std::size_t>(x);
                const Cell c = chunk->cells[i];
                if (c.bits == 0 && chunk->materials[i] == 0) continue;
                if (painted) {
                    if (chunk->materials[i] != painted->id) there |= std::uint64_t{1} << x;
                    continue;
                }
                if (!erases && c.tile() == choice(hand, layer, {at.x * kChunk + x, at.y * kChunk + y}).tile) continue;
                there |= std::uint64_t{1} << x;
            }
            found[static_cast<std::size_t>(y)] = there;
            any = any || there != 0;
        }
        if (any) out.put(at, found);
    });
    return out;
}

} // namespace

bool see_through(const Project& project, TileId id, const Lattice& lattice) {
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles) {
            if (t.id != id) continue;
            if (!sheet->image) return false;
            const Box box = intersection(t.box, box_of(sheet->image->size()));
            // Half the height of the cell's diamond in pixels of the art.
            const double half = t.box.w * lattice.cell.h / (2.0 * lattice.cell.w);
            const auto counts = [&](int x, int y) {
                if (lattice.square()) return true;
                const double across = std::abs(x + 0.5 - t.box.x - t.box.w / 2.0) / (t.box.w / 2.0);
                const double down = std::abs(y + 0.5 - (t.box.bottom() - half)) / half;
                return across + down < 1 - 3.0 / std::max(4.0, half);
            };
            for (int y = box.y; y < box.bottom(); ++y)
                for (int x = box.x; x < box.right(); ++x)
                    if (sheet->image->at(x, y).a < 255 && counts(x, y)) return true;
            return false;
        }
    return false;
}

LayerId overlay_of(const Level& level, LayerId layer) {
    for (const LayerRef& l : level.layers)
        if (layer != 0 && l->overlay_of() == layer && l->tiles()) return l->id;
    return 0;
}

LaidOver lay_over(const Project& project, const join::Rules& rules, const Level& level, const LayingOver& how) {
    const Level& before = how.before ? *how.before : level;
    const LayerId layer = how.layer;
    const Hand& hand = how.hand;
    const Region& cells = how.cells;
    LaidOver out;
    out.level = level;
    out.next_id = project.next_id;
    const auto put = [&](LayerId on, const Region& part) {
        const Laid laid = lay(project, rules, out.level, on, hand, part);
        out.level = laid.level;
        out.touched = united(out.touched, laid.touched);
        out.joined += laid.joined;
    };
    const LayerId overlay = overlay_of(level, layer);
    const Layer* over = level.layer(overlay);
    const bool erases = hand.is<held::Eraser>();
    Region there;
    if (erases && over && before.layer(overlay)) {
        there = taken(before.layer(overlay)->grid(), cells, hand, overlay);
    } else if (!erases && !how.replaces && before.layer(layer) && any_see_through(project, hand, level.geometry())) {
        there = taken(before.layer(layer)->grid(), cells, hand, layer);
        // An overlay that is itself painted over is not stacked any higher.
        if (level.layer(layer)->overlay_of() != 0) there.clear();
    } else if (const auto* m = hand.as<held::Material>(); m && !how.replaces && before.layer(layer) &&
                                                          level.layer(layer)->overlay_of() == 0 &&
                                                          stands_over(project, m->id, level.geometry())) {
        // Walls go over floors as one, so that they meet.
        there = taken(before.layer(layer)->grid(), cells, hand, layer);
        if (!there.empty() || (over && holds(over->grid(), m->id))) there = cells;
    }
    Region here = cells;
    here.remove(there);
    put(layer, here);
    if (there.empty()) return out;
    if (over && (over->locked || !over->shown)) {
        out.stayed_out = there.count();
        return out;
    }
    out.overlay = overlay;
    if (!over) {
        out.overlay = out.next_id++;
        out.level = add_layer(out.level, out.overlay, how.overlay_name, LayerKind::tiles, layer);
        out.level.edit(out.overlay).tiles()->overlay_of = layer;
        out.level.edit(out.overlay).shift = level.layer(layer)->shift;
        out.level.edit(out.overlay).parallax = level.layer(layer)->parallax;
        out.level.edit(out.overlay).group = level.layer(layer)->group;
        out.level.edit(out.overlay).storey = level.layer(layer)->storey;
        if (hand.is<held::Material>()) { // what stands blocks as it would have below
            out.level.edit(out.overlay).tiles()->solid = level.layer(layer)->solid();
            out.level.edit(out.overlay).collision_class = level.layer(layer)->collision_class;
        }
    }
    out.on_overlay = there.count();
    put(out.overlay, there);
    return out;
}

Under under(const Project& project, const Level& level, LayerId id, const Hand& hand, std::span<const Point> cells) {
    Under out;
    const Layer& layer = *level.layer(id);
    const Layer* over = hand.is<held::Eraser>() ? level.layer(overlay_of(level, id)) : nullptr;
    std::vector<Point> held;
    for (const Point p : cells) {
        const Cell cell = layer.grid().cell(p);
        const MaterialId material = layer.grid().material(p);
        if (over && (!over->grid().cell(p).empty() || over->grid().material(p) != 0)) continue;
        if (cell.empty() && material == 0) continue;
        if (hand.is<held::Material>() && stays(cell, material, hand.material()))
            ++out.stays;
        else
            held.push_back(p);
    }
    out.gives_way = names_in(project, layer, held);
    return out;
}

} // namespace vic::edit
