#include "edit/why.hpp"

#include <algorithm>
#include <array>
#include <cstddef>

#include "edit/joins.hpp"
#include "level/material.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr std::size_t kOthers = 3;
constexpr double kClearly = 0.08;        // by how much another fits better where the rule is suspected
constexpr double kShows = 0.3;           // the error of a seam that one sees
constexpr std::size_t kMostTurned = 128; // tiles of a sheet that are tried in all turns

} // namespace

std::optional<Why> why(const Project& project, const join::Rules& rules, const Layer& layer, Point at) {
    if (!layer.tiles()) return std::nullopt;
    const Grid& grid = layer.grid();
    const Material* m = project.material(grid.material(at));
    if (!m) return std::nullopt;
    Why out;
    out.material = m->id;
    out.cell = grid.cell(at);
    const bool plain = m->joins.kind == JoinKind::plain;
    out.mask = plain ? join::Mask{255} : join::canonical(rules.mask(join::around(grid, at)), m->joins.kind);
    std::vector<Variant> serving = join::serving(m->joins, out.mask);
    std::erase_if(serving, [](const Variant& v) { return v.weight <= 0; });
    out.missing = serving.empty();
    out.of = static_cast<int>(serving.size());
    const auto is = [&](const Variant& v) { return v.tile == out.cell.tile() && v.turn == out.cell.turn(); };
    const auto mine = std::find_if(serving.begin(), serving.end(), is);
    if (mine != serving.end()) out.variant = static_cast<int>(mine - serving.begin()) + 1;
    std::array<Cell, 4> around;
    join::Seams seams(project);
    for (int side = 0; side < 4; ++side) {
        const auto s = static_cast<std::size_t>(side);
        around[s] = grid.cell(at + join::kNeighbour[2 * s]);
        if (!around[s].empty() && !out.cell.empty())
            out.seam = std::max(out.seam, seams.error(out.cell, around[s], side));
    }
    if (plain) return out;
    const SheetId main = main_sheet(project, m->joins);
    const Sheet* sheet = project.sheet(main);
    const std::uint8_t turns = sheet && sheet->tiles.size() <= kMostTurned ? kAllTurns : kNoTurns;
    // All of them: the one that is there is among them wherever it comes.
    auto all = join::candidates(project, m->joins, out.mask, {main}, turns, around, std::size_t{1} << 16);
    const auto own = std::find_if(all.begin(), all.end(), [&](const auto& c) { return is(c.variant); });
    if (own != all.end()) out.fit = own->fit;
    std::erase_if(all, [&](const auto& c) { return c.variant.tile == out.cell.tile(); });
    if (all.size() > kOthers) all.resize(kOthers);
    out.others = std::move(all);
    const double best = out.others.empty() ? 0 : out.others.front().fit;
    if (out.missing || best >= out.fit + kClearly)
        out.suspect = Why::Suspect::rule;
    else if (out.seam >= kShows)
        out.suspect = Why::Suspect::drawing;
    return out;
}

Region cells_of(const join::Rules& rules, const Layer& layer, const Box& box, MaterialId material, JoinKind kind,
                join::Mask mask) {
    Region out;
    each_cell(layer.grid(), intersection(box, layer.cells()), [&](Point at, Cell cell, MaterialId m) {
        if (m != material || cell.pinned()) return;
        if (kind == JoinKind::plain || join::canonical(rules.mask(join::around(layer.grid(), at)), kind) == mask)
            out.add(at);
    });
    return out;
}

Level pin(const Level& level, LayerId layer, Point cell, const Variant& variant) {
    Level out = level;
    Grid& grid = out.edit(layer).grid();
    grid.set(cell, Cell(variant.tile, variant.turn, true), grid.material(cell));
    return out;
}

} // namespace vic::edit
