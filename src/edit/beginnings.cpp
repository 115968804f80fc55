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

} // namespace

bool is_empty(const level::Level& level) {
    return std::all_of(level.layers.begin(), level.layers.end(), [](const level::LayerRef& layer) {
        return is_empty(layer->grid()) && layer->props().empty() && !(layer->backdrop() && layer->backdrop()->sheet);
    });
}

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

namespace {

bool takes(const level::Level& level, Size tile) {
    return (level.lattice == LatticeKind::square || tile.w == 2 * tile.h) && level.cell != tile;
}

} // namespace

Size cell_of_first_art(const level::Project& project, level::SheetId sheet) {
    const level::Sheet* first = project.sheet(sheet);
    if (!first || first->tiles.size() < 2) return {};
    const Size tile = first->cut.tile;
    if (std::min(tile.w, tile.h) < kLeastCell || std::max(tile.w, tile.h) > kMostCell) return {};
    const auto& levels = project.levels;
    const bool only = std::none_of(project.sheets.begin(), project.sheets.end(),
                                   [&](const auto& s) { return s->id != sheet && s->accepted; });
    const bool untouched = std::all_of(levels.begin(), levels.end(), [](const auto& l) { return is_empty(*l); });
    const bool changes = std::any_of(levels.begin(), levels.end(), [&](const auto& l) { return takes(*l, tile); });
    return only && untouched && changes ? tile : Size{};
}

level::Level with_cells(const level::Project& project, const level::Level& level, Size cell) {
    level::Level out = rescaled(project, level, cell, level.lattice).level;
    const auto scaled = [](int pixels, int to, int from) {
        return std::clamp(pixels * to / from, 1, level::kMostFrame);
    };
    out.frame = {scaled(level.frame.w, cell.w, level.cell.w), scaled(level.frame.h, cell.h, level.cell.h)};
    return out;
}

FirstArt with_cells_of(level::Project project, level::SheetId sheet) {
    FirstArt out;
    const level::Sheet* first = project.sheet(sheet);
    if (first && first->accepted) out.cell = cell_of_first_art(project, sheet);
    if (!out.cell.empty()) {
        const auto& levels = project.levels;
        const bool unit =
            std::all_of(levels.begin(), levels.end(), [&](const auto& l) { return l->cell.w == project.unit; });
        for (const auto& level : std::vector(levels))
            if (takes(*level, out.cell)) project.put(with_cells(project, *level, out.cell));
        if (unit) project.unit = out.cell.w;
    }
    out.project = std::move(project);
    return out;
}

} // namespace vic::edit
