#include "outline/loose.hpp"

namespace vic::outline {

namespace {

Point units(int x, int y) { return {x * kUnit, y * kUnit}; }

} // namespace

Drawing drawing(const SolidSource& source, const Box& cells) {
    Drawing out;
    if (cells.empty()) return out;
    const int stride = cells.w + 2;
    std::vector<SolidCode> codes(static_cast<std::size_t>(stride) * static_cast<std::size_t>(cells.h + 2));
    Forms forms;
    source(cells.grown(1), codes.data(), static_cast<std::size_t>(stride), forms);
    out.edges = std::move(forms.one_way);
    const auto at = [&](int x, int y) {
        return codes[static_cast<std::size_t>(y - cells.y + 1) * static_cast<std::size_t>(stride) +
                     static_cast<std::size_t>(x - cells.x + 1)];
    };
    const auto is_form = [&](int x, int y) { return solid_of(at(x, y)) == kForm; };
    const auto covered = [&](int x, int y, int side) { return (kCovered[solid_of(at(x, y))] >> side & 1) != 0; };
    for (int y = cells.y; y <= cells.bottom(); ++y) {
        int run = -1;
        for (int x = cells.x; x <= cells.right(); ++x) {
            const bool loose = x < cells.right() && (is_form(x, y - 1) || is_form(x, y));
            if (loose)
                for (const Residue& r : residue(at(x, y - 1), at(x, y), false, forms))
                    out.lines.push_back({units(x, y) + Point{r.from, 0}, units(x, y) + Point{r.to, 0}});
            const bool line = x < cells.right() && !loose && covered(x, y - 1, 2) != covered(x, y, 0);
            if (line && run < 0) run = x;
            if (!line && run >= 0) {
                out.lines.push_back({units(run, y), units(x, y)});
                run = -1;
            }
        }
    }
    for (int x = cells.x; x <= cells.right(); ++x) {
        int run = -1;
        for (int y = cells.y; y <= cells.bottom(); ++y) {
            const bool loose = y < cells.bottom() && (is_form(x - 1, y) || is_form(x, y));
            if (loose)
                for (const Residue& r : residue(at(x - 1, y), at(x, y), true, forms))
                    out.lines.push_back({units(x, y) + Point{0, r.from}, units(x, y) + Point{0, r.to}});
            const bool line = y < cells.bottom() && !loose && covered(x - 1, y, 1) != covered(x, y, 3);
            if (line && run < 0) run = y;
            if (!line && run >= 0) {
                out.lines.push_back({units(x, run), units(x, y)});
                run = -1;
            }
        }
    }
    for (int y = cells.y; y < cells.bottom(); ++y) {
        for (int x = cells.x; x < cells.right(); ++x) {
            const SolidCode code = at(x, y);
            const Solid solid = solid_of(code);
            const Point nw = units(x, y), ne = units(x + 1, y), se = units(x + 1, y + 1), sw = units(x, y + 1);
            if (solid == kFull) {
                if (!out.runs.empty() && out.runs.back().y == y && out.runs.back().right() == x)
                    ++out.runs.back().w;
                else
                    out.runs.push_back({x, y, 1, 1});
            } else if (solid == kForm) {
                for (level::Polygon polygon : forms[code].polygons) {
                    for (Point& p : polygon) p = nw + p;
                    out.polygons.push_back(std::move(polygon));
                }
                for (const Form::Edge& e : forms[code].inner) out.lines.push_back({nw + e.from, nw + e.to});
            } else if (solid != kOpen) {
                level::Polygon corners{ne, se, sw, nw};
                corners.erase(corners.begin() + (solid - kSlopeNE + 2) % 4); // the one across from the mass
                out.polygons.push_back(corners);
                if (solid == kSlopeNE || solid == kSlopeSW)
                    out.lines.push_back({nw, se});
                else
                    out.lines.push_back({ne, sw});
            }
            for (int side = 0; side < 4; ++side)
                if ((one_way_of(code) & (1U << side)) && solid != kFull) out.one_way.emplace_back(Point{x, y}, side);
        }
    }
    return out;
}

} // namespace vic::outline
