#include "edit/close_up.hpp"

#include <cassert>

namespace vic::edit {

using namespace level;

Level close_up(const Level& level, LayerId id) {
    const Layer* layer = level.layer(id);
    if (!layer || !layer->grain().own()) return level;
    Level out = level;
    const int index = level.index_of(id);
    out.layers = {level.layers[static_cast<std::size_t>(index)]};
    TileCells& tiles = *out.edit(id).tiles();
    tiles.grain = {};
    tiles.overlay_of = 0;
    out.plane = index < level.plane ? 1 : 0;
    out.cell = level.lattice_of(*layer).cell;
    out.size = layer->grid().size();
    out.grows = false;
    out.marks.clear();
    out.guides.clear();
    out.plan.reset();
    out.reference.reset();
    return out;
}

Level put_back(const Level& level, const Level& close, LayerId id) {
    const Layer* layer = level.layer(id);
    if (!layer || !layer->grain().own()) return close;
    Level out = level;
    int at = level.index_of(id);
    for (const LayerRef& l : close.layers) {
        Layer copy = *l;
        if (TileCells* tiles = copy.tiles()) {
            tiles->grain = layer->grain();
            if (l->id == id) tiles->overlay_of = layer->overlay_of();
        }
        if (l->id == id) {
            out.layers[static_cast<std::size_t>(at)] = std::make_shared<const Layer>(std::move(copy));
        } else {
            ++at;
            out.layers.insert(out.layers.begin() + at, std::make_shared<const Layer>(std::move(copy)));
            if (at <= level.plane && level.index_of(id) < level.plane) ++out.plane;
        }
    }
    return out;
}

Refined refined(const Level& level, LayerId id, Grain grain) {
    Refined out{level, {}, false};
    const Layer* layer = level.layer(id);
    if (!layer || !layer->tiles()) {
        out.says = "Only tiles can have cells of their own";
        return out;
    }
    if (layer->solid() && grain.finer != 1) {
        out.says = "Tiles that block cannot be finer than the level's cells";
        return out;
    }
    if (std::min(grain.finer, grain.wider) != 1 || std::max(grain.finer, grain.wider) > kMostGrain ||
        level.cell.w % grain.finer != 0 || level.cell.h % grain.finer != 0) {
        out.says = say("Cells of %1 × %2 px cannot be divided by %3", level.cell.w, level.cell.h, grain.finer);
        return out;
    }
    const Size size = grain.cells(level.size);
    const Size cell = grain.cell(level.cell);
    if (size.w > kMostCells || size.h > kMostCells) {
        out.says = say("A layer has at most %1 cells a side", kMostCells);
        return out;
    }
    if (cell.w > kMostCellPixels || cell.h > kMostCellPixels) {
        out.says = say("A cell has at most %1 px a side", kMostCellPixels);
        return out;
    }
    const Grain was = layer->grain();
    if (grain == was) {
        out.says = "Nothing changes";
        return out;
    }
    Grid grid(size);
    std::int64_t gone = 0;
    // How many of the new cells one of the old is.
    const int fine = was.wider * grain.finer, coarse = was.finer * grain.wider;
    if (fine % coarse == 0) {
        const int times = fine / coarse;
        each_cell(layer->grid(), layer->cells(), [&](Point p, Cell c, MaterialId m) {
            for (int y = 0; y < times; ++y)
                for (int x = 0; x < times; ++x) {
                    const Point to{p.x * times + x, p.y * times + y};
                    if (box_of(size).contains(to)) grid.set(to, c, m); // wider ones reach beyond the level
                }
        });
        out.says = say("Each cell becomes %1 × %1 of the same, each drawn at 1/%1 of the size", times);
    } else {
        // By way of the level's cells, where the one does not divide the other.
        each_cell(layer->grid(), layer->cells(), [&](Point p, Cell c, MaterialId m) {
            const Point to{p.x * fine / coarse, p.y * fine / coarse};
            const bool taken = grid.cell(to).bits != 0 || grid.material(to) != 0;
            if (!taken)
                grid.set(to, c, m);
            else if (grid.material(to) != m || (m == 0 && grid.cell(to).tile() != c.tile()))
                ++gone;
        });
        out.says = gone == 0 ? Text("Several cells of the same become one")
                             : say("Several cells become one: %1 that hold something else go", gone);
    }
    TileCells& changed = *out.level.edit(id).tiles();
    changed.grid = std::move(grid);
    changed.grain = grain;
    out.done = true;
    return out;
}

Region own_cells(const Region& cells, Grain grain) {
    if (!grain.own()) return cells;
    Region out;
    cells.each([&](Point p) { out.add(grain.in_layer(Box{p.x, p.y, 1, 1})); });
    return out;
}

} // namespace vic::edit
