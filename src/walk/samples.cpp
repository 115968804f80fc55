#include "walk/samples.hpp"

#include <algorithm>

namespace vic::walk {

using outline::kUnit;

namespace {

constexpr int kRows = 64; // of cells that are read together

// The samples of a cell that polygons lie in, row by row: those with the middle of a unit in one.
std::array<std::uint16_t, 16> drawn(const level::Polygons& polygons, int grain) {
    std::array<std::uint16_t, 16> out{};
    const int side = kUnit / grain;
    for (int y = 0; y < kUnit; ++y) {
        std::vector<std::pair<double, int>> crossings;
        for (const level::Polygon& p : polygons)
            for (std::size_t i = 0; i < p.size(); ++i) {
                const Point a = p[i], b = p[(i + 1) % p.size()];
                if ((a.y > y) == (b.y > y)) continue;
                crossings.emplace_back(a.x + (y + 0.5 - a.y) / (b.y - a.y) * (b.x - a.x), b.y > a.y ? 1 : -1);
            }
        std::sort(crossings.begin(), crossings.end());
        int around = 0;
        for (std::size_t i = 0; i + 1 < crossings.size(); ++i) {
            around += crossings[i].second;
            if (around == 0) continue;
            for (int x = std::max(0, static_cast<int>(crossings[i].first));
                 x < kUnit && x + 0.5 < crossings[i + 1].first; ++x)
                if (x + 0.5 > crossings[i].first)
                    out[static_cast<std::size_t>(y / side)] |= static_cast<std::uint16_t>(1U << (x / side));
        }
    }
    return out;
}

int grain_of(Size cells, std::int64_t most) {
    int g = 16;
    while (g > 1 && cells.area() * g * g > most) g /= 2;
    return g;
}

} // namespace

Samples::Samples(const level::Level& level, const outline::Kinds& kinds, Size feet, int around, std::int64_t most)
    : grain(grain_of(level.size, most)),
      margin(around * grain),
      foot(in_samples(feet)),
      blocked({level.size.w * grain + 2 * margin, level.size.h * grain + 2 * margin}) {
    for (int top = 0; top < level.size.h; top += kRows) read_rows(level, kinds, top);
    gather_ways();
}

Size Samples::in_samples(Size units) const {
    const auto samples = [&](int v) { return std::max(1, (v + side() - 1) / side()); };
    return {samples(units.w), samples(units.h)};
}

const std::array<std::uint16_t, 16>& Samples::mask(outline::SolidCode code, const outline::Forms& forms) {
    code &= ~outline::SolidCode{0xF0};
    const auto known = masks_.find(code);
    if (known != masks_.end()) return known->second;
    static constexpr level::TileShape shapes[6] = {level::TileShape::none,     level::TileShape::full,
                                                   level::TileShape::slope_ne, level::TileShape::slope_se,
                                                   level::TileShape::slope_sw, level::TileShape::slope_nw};
    const outline::Solid solid = outline::solid_of(code);
    return masks_
        .emplace(code, drawn(solid == outline::kForm ? forms[code].polygons
                                                     : outline::units_of(level::polygons_of(shapes[solid])),
                             grain))
        .first->second;
}

void Samples::draw(Point cell, outline::SolidCode code, const outline::Forms& forms, OneWays& into) {
    const int left = margin + cell.x * grain, top = margin + cell.y * grain;
    if (outline::solid_of(code) == outline::kFull) {
        for (int y = 0; y < grain; ++y) blocked.set(top + y, left, left + grain);
    } else if (outline::solid_of(code) != outline::kOpen) {
        const auto& rows = mask(code, forms);
        for (int y = 0; y < grain; ++y) {
            // A cell's samples lie in one word.
            const std::uint64_t bits = rows[static_cast<std::size_t>(y)];
            blocked.row(top + y)[left / 64] |= bits << (left % 64);
        }
    }
    for (int way = 0; way < 4; ++way) {
        if ((outline::one_way_of(code) >> way & 1U) == 0) continue;
        const Point nw{cell.x * kUnit, cell.y * kUnit};
        const Point a = way == 1 ? nw + Point{kUnit, 0} : way == 2 ? nw + Point{0, kUnit} : nw;
        const Point b = way == 0 ? nw + Point{kUnit, 0} : way == 3 ? nw + Point{0, kUnit} : nw + Point{kUnit, kUnit};
        read_one_way(a, b, way, into);
    }
}

// Aslant ones are taken as lying level, or upright, in their middle.
void Samples::read_one_way(Point from, Point to, int looks, OneWays& into) {
    const auto sample = [&](int v) { return margin + floor_div(v + side() / 2, side()); };
    const bool flat = looks % 2 == 0;
    const int line = sample(flat ? (from.y + to.y) / 2 : (from.x + to.x) / 2);
    int first = sample(flat ? std::min(from.x, to.x) : std::min(from.y, to.y));
    const int last = sample(flat ? std::max(from.x, to.x) : std::max(from.y, to.y));
    if (flat) {
        const Run stopped{first - foot.w + 1, last};
        if (looks == 0) into.down[line - foot.h].push_back(stopped);
        if (looks == 2) into.up[line].push_back(stopped);
        return;
    }
    for (first = first - foot.h + 1; first < last; ++first) {
        // Between the place before `at` and `at` itself.
        const int at = looks == 3 ? line - foot.w + 1 : line;
        into.across[first].emplace_back(at, looks == 3);
    }
}

void Samples::read_rows(const level::Level& level, const outline::Kinds& kinds, int top) {
    const Box rows = intersection({0, top, level.size.w, kRows}, level.cells());
    const auto number = static_cast<std::size_t>(top / kRows);
    ways_of_.resize(std::max(ways_of_.size(), number + 1));
    OneWays& own = ways_of_[number] = {};
    std::vector<outline::SolidCode> codes(static_cast<std::size_t>(rows.size().area()));
    outline::Forms forms;
    masks_.clear();
    outline::read_solid(level, kinds, rows, codes.data(), static_cast<std::size_t>(rows.w), forms);
    for (int y = 0; y < rows.h; ++y)
        for (int x = 0; x < rows.w; ++x)
            if (const auto code =
                    codes[static_cast<std::size_t>(y) * static_cast<std::size_t>(rows.w) + static_cast<std::size_t>(x)];
                code != outline::kOpen)
                draw({x, top + y}, code, forms, own);
    for (const outline::OneWayEdge& e : forms.one_way) read_one_way(e.from, e.to, e.side, own);
}

void Samples::gather_ways() {
    ways = {};
    const auto add = [](auto& to, const auto& from) {
        for (const auto& [row, places] : from) to[row].insert(to[row].end(), places.begin(), places.end());
    };
    for (const OneWays& own : ways_of_) {
        add(ways.down, own.down);
        add(ways.up, own.up);
        add(ways.across, own.across);
    }
    for (auto& [row, places] : ways.across) std::sort(places.begin(), places.end());
}

std::vector<std::pair<int, int>> Samples::rows_of(Size cells, const std::vector<Box>& changed) {
    std::vector<std::pair<int, int>> out;
    for (int top = 0; top < cells.h; top += kRows) {
        const int bottom = std::min(cells.h, top + kRows);
        if (std::any_of(changed.begin(), changed.end(), [&](const Box& b) {
                return !intersection(b, {0, top, cells.w, bottom - top}).empty();
            }))
            out.emplace_back(top, bottom);
    }
    return out;
}

void Samples::redraw(const level::Level& level, const outline::Kinds& kinds, const std::vector<Box>& changed) {
    for (const auto& [top, bottom] : rows_of(level.size, changed)) {
        for (int y = margin + top * grain; y < margin + bottom * grain; ++y)
            blocked.clear(y, margin, margin + level.size.w * grain);
        read_rows(level, kinds, top);
    }
    gather_ways();
}

} // namespace vic::walk
