#include "edit/beginnings.hpp"

#include <algorithm>
#include <utility>

#include "edit/reshape.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"

namespace vic::edit {

namespace {

constexpr int kLeastCell = 4, kMostCell = 256; // pixels a side, of a tile that can well be a cell

bool is_empty(const level::Grid& grid) {
    for (int y = 0; y < grid.chunks().h; ++y)
        for (int x = 0; x < grid.chunks().w; ++x)
            if (grid.chunk({x, y})) return false;
    return true;
}

bool is_empty(const level::Level& level) {
    return std::all_of(level.layers.begin(), level.layers.end(), [](const level::LayerRef& layer) {
        return is_empty(layer->grid()) && layer->props().empty() && !(layer->backdrop() && layer->backdrop()->sheet);
    });
}

} // namespace

BeginningShape shape_of(Beginning beginning) {
    switch (beginning) {
        case Beginning::from_above:
            return {level::View::from_above, LatticeKind::square, {40, 28}, {16, 16}};
        case Beginning::from_the_side:
            return {level::View::from_the_side, LatticeKind::square, {60, 34}, {16, 16}};
        case Beginning::isometric:
            return {level::View::from_above, LatticeKind::isometric, {24, 24}, {32, 16}};
    }
    return {};
}

level::Project begun(const std::string& name, Beginning beginning, const std::string& level_name,
                     const level::LayerNames& layers) {
    const BeginningShape shape = shape_of(beginning);
    level::Project out;
    out.name = name;
    level::Level level = level::make_level(out, level_name, shape.size, shape.cell, shape.view, layers);
    level.lattice = shape.lattice;
    out.put(std::move(level));
    return out;
}

FirstArt with_cells_of(level::Project project, level::SheetId sheet) {
    FirstArt out;
    const level::Sheet* first = project.sheet(sheet);
    const bool only = first && first->accepted && first->tiles.size() > 1 &&
                      std::none_of(project.sheets.begin(), project.sheets.end(),
                                   [&](const auto& s) { return s->id != sheet && s->accepted; });
    const bool untouched =
        std::all_of(project.levels.begin(), project.levels.end(), [](const auto& level) { return is_empty(*level); });
    if (only && untouched) {
        const Size tile = first->cut.tile;
        const bool sensible = std::min(tile.w, tile.h) >= kLeastCell && std::max(tile.w, tile.h) <= kMostCell;
        for (const auto& level : std::vector(project.levels)) {
            const bool goes = level->lattice == LatticeKind::square || tile.w == 2 * tile.h;
            if (!sensible || !goes || level->cell == tile) continue;
            project.put(rescaled(project, *level, tile, level->lattice).level);
            out.cell = tile;
        }
    }
    out.project = std::move(project);
    return out;
}

} // namespace vic::edit
