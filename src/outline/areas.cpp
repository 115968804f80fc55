#include "outline/areas.hpp"

#include <algorithm>
#include <memory>
#include <utility>

#include "level/block.hpp"
#include "outline/free.hpp"

namespace vic::outline {

using level::AreaKindId;
using level::TileShape;

namespace {

// The cells of a layer's tiles that tell it.
void add_tiles(const level::Level& level, const level::Layer& layer, const level::TileTable& tiles, AreaKindId kind,
               const Box& within, level::Blockers& out) {
    const Box cells = intersection(layer.cells(), within.grown(level::kMostBlockCells));
    level::each_cell(layer.grid(), cells, [&](Point at, level::Cell cell, level::MaterialId) {
        const level::Tile* tile = tiles.find(cell.tile()).tile;
        if (!tile || tile->tells != kind) return;
        const Box foot = intersection(layer.grain().in_level(level::foot_under(*tile, at, cell.turn())), level.cells());
        for (int y = foot.y; y < foot.bottom(); ++y)
            for (int x = foot.x; x < foot.right(); ++x) out.set({x, y}, TileShape::full);
    });
}

void add_props(const level::Level& level, const level::Layer& layer, const level::PropKinds& kinds,
               const std::string& name, const Box& within, std::vector<level::FreeBlocker>& out) {
    const Lattice lattice = level.geometry();
    layer.props().each_in(lattice.box(intersection(within, level.cells())).grown(kinds.reach(layer.props())),
                          [&](const level::Prop& prop) {
                              kinds.each_piece(prop, [&](const level::Piece& piece) {
                                  for (const level::PropArea& area : piece.kind->areas) {
                                      if (area.name != name) continue;
                                      const int f = piece.kind->factor;
                                      const double l = area.box.x * f, t = area.box.y * f, r = area.box.right() * f,
                                                   b = area.box.bottom() * f;
                                      level::Spots corners;
                                      for (const level::Spot s : {level::Spot{l, t}, {r, t}, {r, b}, {l, b}})
                                          corners.push_back(piece.placing().in_level(s));
                                      level::FreeBlocker free;
                                      free.id = static_cast<level::BlockerId>(out.size() + 1);
                                      free.points = in_units(corners, lattice);
                                      if (level::blocker_trouble(free).empty()) out.push_back(std::move(free));
                                  }
                              });
                          });
}

} // namespace

level::Level where_told(const level::Project& project, const level::Level& level, AreaKindId kind, const Box& within) {
    const level::AreaKind* area = project.area_kind(kind);
    level::Level out;
    out.size = level.size;
    out.cell = level.cell;
    out.lattice = level.lattice;
    level::Blockers cells(level.size);
    std::vector<level::FreeBlocker> free;
    if (area) {
        const level::TileTable tiles(project, level);
        const level::PropKinds kinds(project, level);
        const bool of_tiles = !level.here.tiles.empty() ||
                              std::any_of(project.sheets.begin(), project.sheets.end(), [&](const auto& sheet) {
                                  return std::any_of(sheet->tiles.begin(), sheet->tiles.end(),
                                                     [&](const level::Tile& t) { return t.tells == kind; });
                              });
        for (const level::LayerRef& layer : level.layers) {
            if (layer->tiles() && of_tiles && layer->grain().finer == 1)
                add_tiles(level, *layer, tiles, kind, within, cells);
            if (layer->has_props()) add_props(level, *layer, kinds, area->name, within, free);
            if (layer->blockers())
                for (const level::FreeBlocker& b : layer->blockers()->free())
                    if (b.tells == kind && !intersection(level::cells_of(b), within).empty()) {
                        free.push_back(b);
                        free.back().tells = 0;
                        free.back().opens = false;
                    }
        }
    }
    cells.set_free(std::move(free));
    level::Layer layer;
    layer.id = 1;
    layer.content = std::move(cells);
    out.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    return out;
}

std::vector<Outline> told_outlines(const level::Project& project, const level::Level& level, AreaKindId kind) {
    const level::TileTable tiles(project, level);
    return outlines(trace(where_told(project, level, kind, level.cells()), tiles));
}

} // namespace vic::outline
