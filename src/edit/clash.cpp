#include "edit/clash.hpp"

#include <algorithm>
#include <set>

#include "edit/beginnings.hpp"
#include "edit/homes.hpp"
#include "edit/joins.hpp"
#include "edit/levels.hpp"
#include "sheet/cut.hpp"
#include "sheet/isometric.hpp"

namespace vic::edit {

using namespace level;

namespace {

// The cells that a layer must have for the art.
std::optional<Grain> grain_of(const Clash& clash) {
    if (clash.larger >= 2 && clash.larger <= kMostGrain) return Grain{1, clash.larger};
    if (clash.smaller >= 2 && clash.smaller <= kMostGrain) return Grain{clash.smaller, 1};
    return std::nullopt;
}

// The layer of tiles in the level that has such cells and is no overlay; 0 for none.
LayerId layer_with(const Level& level, Grain grain) {
    for (const LayerRef& l : level.layers)
        if (l->tiles() && l->grain() == grain && l->overlay_of() == 0) return l->id;
    return 0;
}

// Takes the home in this level for another.
void move_home(std::vector<LayerId>& homes, const Level& level, LayerId to) {
    std::erase_if(homes, [&](LayerId id) { return level.layer(id) != nullptr; });
    homes.push_back(to);
}

// On diamonds art is as wide as a cell and may stand higher; what is not drawn as diamonds is asked nothing.
std::optional<Clash> clash_aslant(const Sheet& sheet, const Level& level) {
    const int wide = sheet.cut.tile.w;
    if (wide == level.cell.w || sheet::drawn_size(sheet.cut).w == level.cell.w || !sheet::is_isometric(sheet))
        return std::nullopt;
    Clash out{sheet.id, {wide, std::max(1, wide * level.cell.h / level.cell.w)}, level.cell};
    if (wide % level.cell.w == 0) out.larger = wide / level.cell.w;
    if (level.cell.w % wide == 0) out.smaller = level.cell.w / wide;
    return out;
}

} // namespace

std::optional<Clash> clash_of(const Project& project, const Level& level, SheetId id) {
    const Sheet* sheet = project.sheet(id);
    if (!sheet || !sheet->accepted || sheet->any_size || sheet->tiles.size() < 2) return std::nullopt;
    if (level.lattice != LatticeKind::square) return clash_aslant(*sheet, level);
    const Size art = sheet->cut.tile;
    if (art == level.cell || sheet::drawn_size(sheet->cut) == level.cell) return std::nullopt;
    Clash out{id, art, level.cell};
    const sheet::Fit fit = sheet::fit_of(art, level.cell);
    if (fit.kind == sheet::Fit::Kind::enlarged) out.smaller = fit.by.w;
    if (fit.kind == sheet::Fit::Kind::cells && fit.by.w == fit.by.h) out.larger = fit.by.w;
    if (const auto grain = grain_of(out)) {
        const auto at_home = [&](const std::vector<LayerId>& homes) {
            return std::any_of(homes.begin(), homes.end(), [&](LayerId home) {
                const Layer* l = level.layer(home);
                return l && l->grain() == *grain;
            });
        };
        if (std::any_of(sheet->tiles.begin(), sheet->tiles.end(), [&](const Tile& t) { return at_home(t.homes); }))
            return std::nullopt;
    }
    return out;
}

SheetId sheet_of(const Project& project, const Hand& hand) {
    if (hand.is<held::Material>()) {
        const Material* m = project.material(hand.material());
        return m ? main_sheet(project, m->joins) : 0;
    }
    TileId tile = hand.tile();
    if (const Stamp* stamp = hand.stamp(); stamp && stamp->layers.size() == 1 && stamp->layers.front().has_cells()) {
        const Grid& cells = stamp->layers.front().grid();
        each_cell(cells, box_of(cells.size()), [&](Point, Cell c, MaterialId) {
            if (tile == 0) tile = c.tile();
        });
    }
    if (tile == 0) return 0;
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            if (t.id == tile) return t.is_block() ? 0 : sheet->id;
    return 0;
}

std::vector<Settlement> settlements(const Level& level, const Clash& clash) {
    std::vector<Settlement> out;
    if (is_empty(level) && std::max(clash.art.w, clash.art.h) <= kMostCellPixels) out.push_back(Settlement::cells);
    const auto grain = level.lattice == LatticeKind::square ? grain_of(clash) : std::nullopt;
    if (grain) {
        const Size cells = grain->cells(level.size), cell = grain->cell(level.cell);
        if (std::max(cells.w, cells.h) <= kMostCells && std::max(cell.w, cell.h) <= kMostCellPixels)
            out.push_back(Settlement::layer);
    }
    out.push_back(Settlement::drawn);
    return out;
}

Settled settled(Project project, const Level& before, const Clash& clash, Settlement way, LayerId beside) {
    Settled out;
    const Sheet* sheet = project.sheet(clash.sheet);
    switch (way) {
        case Settlement::cells:
            project.put(with_cells(project, before, clash.art));
            break;
        case Settlement::drawn: {
            Sheet changed = *sheet;
            changed.any_size = true;
            project.put(std::move(changed));
            break;
        }
        case Settlement::layer: {
            const Grain grain = *grain_of(clash);
            out.layer = layer_with(before, grain);
            if (out.layer == 0) {
                const Layer* like = before.layer(beside);
                const bool blocks = like && like->solid() && grain.finer == 1;
                out.layer = project.next_id++;
                Level level = add_layer(before, out.layer, sheet->name, LayerKind::tiles, beside);
                TileCells& tiles = *level.edit(out.layer).tiles();
                tiles.grain = grain;
                tiles.grid = Grid(grain.cells(level.size));
                tiles.solid = blocks;
                project.put(std::move(level));
            }
            const Level& level = *project.level(before.id);
            Sheet changed = *sheet;
            for (Tile& t : changed.tiles) move_home(t.homes, level, out.layer);
            std::set<MaterialId> of;
            for (const auto& m : project.materials)
                if (main_sheet(project, m->joins) == clash.sheet) of.insert(m->id);
            project.put(std::move(changed));
            for (const MaterialId id : of) {
                Material m = *project.material(id);
                move_home(m.homes, level, out.layer);
                project.put(std::move(m));
            }
            break;
        }
    }
    out.project = std::move(project);
    return out;
}

LayerId layer_for(const Project& project, const Level& level, const Hand& hand, LayerId active) {
    const Layer* now = level.layer(active);
    if (!now || !(hand.is<held::Tile>() || hand.is<held::Material>())) return active;
    if (const Layer* home = level.layer(home_of(project, level, hand)))
        return home->grain() == now->grain() ? active : home->id;
    const Sheet* sheet = project.sheet(sheet_of(project, hand));
    if (!now->grain().own() || !sheet || sheet->cut.tile != level.cell) return active;
    const auto proposed = propose_home(project, level, hand);
    return proposed ? proposed->layer : active;
}

} // namespace vic::edit
