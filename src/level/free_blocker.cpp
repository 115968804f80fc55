#include "level/free_blocker.hpp"

#include <algorithm>
#include <cmath>

#include "level/shape.hpp"

namespace vic::level {

namespace {

constexpr double kPi = 3.14159265358979323846;

// The corners of a joint between two stretches of a line: a circle for all that it matters.
Polygon round_joint(Point at, double radius) {
    Polygon out;
    for (int i = 0; i < 8; ++i) {
        const double angle = (i + 0.5) * kPi / 4;
        out.push_back({at.x + static_cast<int>(std::lround(radius * std::cos(angle))),
                       at.y + static_cast<int>(std::lround(radius * std::sin(angle)))});
    }
    return out;
}

} // namespace

Box cells_of(const FreeBlocker& blocker) {
    if (blocker.points.empty()) return {};
    Point least = blocker.points.front(), most = least;
    for (const Point p : blocker.points) {
        least = {std::min(least.x, p.x), std::min(least.y, p.y)};
        most = {std::max(most.x, p.x), std::max(most.y, p.y)};
    }
    const int around = (blocker.width + 1) / 2 + 1;
    const auto cell = [](int v) { return floor_div(v, kBlockerUnit); };
    return spanning({cell(least.x - around), cell(least.y - around)}, {cell(most.x + around), cell(most.y + around)});
}

Polygons covered(const FreeBlocker& blocker) {
    if (!blocker.line()) return clockwise({blocker.points});
    Polygons out;
    const double half = blocker.width / 2.0;
    for (std::size_t i = 0; i + 1 < blocker.points.size(); ++i) {
        const Point a = blocker.points[i], b = blocker.points[i + 1];
        const double dx = b.x - a.x, dy = b.y - a.y, length = std::hypot(dx, dy);
        if (length == 0) continue;
        const Point aside{static_cast<int>(std::lround(-dy / length * half)),
                          static_cast<int>(std::lround(dx / length * half))};
        if (aside == Point{}) continue;
        out.push_back({a - aside, b - aside, b + aside, a + aside});
        if (i > 0 && half >= 2) out.push_back(round_joint(a, half));
    }
    return clockwise(std::move(out));
}

Text blocker_trouble(const FreeBlocker& blocker) {
    const auto& p = blocker.points;
    if (p.size() > kMostBlockerCorners) return say("A blocker has more than %1 corners", kMostBlockerCorners);
    if (blocker.line()) {
        if (p.size() < 2) return "A line has fewer than two places";
        for (std::size_t i = 0; i + 1 < p.size(); ++i)
            if (p[i] == p[i + 1]) return "A line has a stretch of no length";
        return {};
    }
    if (p.size() < 3) return "A blocker has fewer than three corners";
    if (area2(p) == 0) return "A blocker has no area";
    return crossing_trouble(p);
}

} // namespace vic::level
