// A field of cells that block or not, and whether a point of it is blocked: an oracle that knows nothing of outlines.
#pragma once

#include <algorithm>
#include <cmath>
#include <map>
#include <vector>

#include "outline/trace.hpp"

namespace outline_test {

using namespace vic;
using namespace vic::outline;

// Whether the polygon has the point in it.
inline bool holds(const level::Polygon& p, double x, double y) {
    bool odd = false;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const Point a = p[i], b = p[(i + 1) % p.size()];
        if ((a.y > y) != (b.y > y) && a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x) > x) odd = !odd;
    }
    return odd;
}

struct Patch {
    Size size;
    std::vector<SolidCode> codes;
    std::vector<level::Polygons> forms{}; // 1/64 cells; a code kForm + 256 * n stands for the n-th
    [[nodiscard]] SolidCode at(int x, int y) const {
        return box_of(size).contains(Point{x, y}) ? codes[static_cast<std::size_t>(y * size.w + x)] : SolidCode{0};
    }
    [[nodiscard]] SolidSource source() const {
        return [this](const Box& box, SolidCode* out, std::size_t stride, Forms& list) {
            int shapes = 0;
            std::map<SolidCode, SolidCode> known;
            for (int y = 0; y < box.h; ++y)
                for (int x = 0; x < box.w; ++x) {
                    const SolidCode c = at(box.x + x, box.y + y);
                    if (solid_of(c) == kForm && !known.contains(c)) known[c] = list.add(forms[c >> 8]);
                    out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)] =
                        solid_of(c) == kForm ? known[c] : c;
                    shapes += c != 0;
                }
            return shapes;
        };
    }
};

// Whether a point, in cells, lies in what the field blocks; an oracle that knows nothing of outlines.
inline bool blocked(const Patch& f, double x, double y) {
    const int cx = static_cast<int>(std::floor(x)), cy = static_cast<int>(std::floor(y));
    const double fx = x - cx, fy = y - cy;
    switch (solid_of(f.at(cx, cy))) {
        case kFull:
            return true;
        case kSlopeNE:
            return fx > fy;
        case kSlopeSE:
            return fx + fy > 1;
        case kSlopeSW:
            return fy > fx;
        case kSlopeNW:
            return fx + fy < 1;
        case kForm:
            return std::any_of(f.forms[f.at(cx, cy) >> 8].begin(), f.forms[f.at(cx, cy) >> 8].end(),
                               [&](const auto& p) { return holds(p, fx * kUnit, fy * kUnit); });
        default:
            return false;
    }
}

// The winding number of all outlines round a point; x, y in cells and off every line.
inline int winding(const std::vector<Outline>& outlines, double x, double y) {
    int w = 0;
    for (const Outline& o : outlines)
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            const Point a = o.points[i], b = o.points[(i + 1) % o.points.size()];
            const double ay = a.y / 64.0, by = b.y / 64.0, ax = a.x / 64.0, bx = b.x / 64.0;
            if ((ay > y) == (by > y)) continue;
            if (ax + (y - ay) / (by - ay) * (bx - ax) > x) w += by > ay ? 1 : -1;
        }
    return w;
}

} // namespace outline_test
