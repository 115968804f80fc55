#include "outline/convex.hpp"

#include <algorithm>
#include <cmath>
#include <set>

namespace vic::outline {

namespace {

// A side that is not level, from its upper to its lower end.
struct Side {
    Point top;
    Point bottom;
    [[nodiscard]] double exact_x_at(int y) const {
        return top.x + double(bottom.x - top.x) * (y - top.y) / (bottom.y - top.y);
    }
    [[nodiscard]] bool whole_at(int y) const {
        return std::int64_t{bottom.x - top.x} * (y - top.y) % (bottom.y - top.y) == 0;
    }
    [[nodiscard]] int x_at(int y) const { return static_cast<int>(std::lround(exact_x_at(y))); }
};

struct Trapezoid {
    std::size_t left, right; // sides
    int from, to;            // heights
};

} // namespace

std::vector<std::vector<Point>> convex_parts(const std::vector<Outline>& outlines, std::int64_t* slack) {
    std::vector<Side> sides;
    std::set<int> heights;
    for (const Outline& o : outlines) {
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            const Point a = o.points[i];
            const Point b = o.points[(i + 1) % o.points.size()];
            heights.insert(a.y);
            if (a.y != b.y) sides.push_back(a.y < b.y ? Side{a, b} : Side{b, a});
        }
    }
    std::sort(sides.begin(), sides.end(), [](const Side& a, const Side& b) { return a.top.y < b.top.y; });
    std::vector<Trapezoid> done;
    std::vector<Trapezoid> growing;
    std::vector<std::size_t> active;
    std::size_t next = 0;
    for (auto h = heights.begin(); h != heights.end(); ++h) {
        const auto following = std::next(h);
        if (following == heights.end()) break;
        const int y = *h;
        const int below = *following;
        std::erase_if(active, [&](std::size_t i) { return sides[i].bottom.y <= y; });
        while (next < sides.size() && sides[next].top.y <= y) active.push_back(next++);
        // In the middle of a slab no two sides meet; compared at twice their place there.
        std::sort(active.begin(), active.end(), [&](std::size_t a, std::size_t b) {
            return sides[a].exact_x_at(y) + sides[a].exact_x_at(below) <
                   sides[b].exact_x_at(y) + sides[b].exact_x_at(below);
        });
        std::vector<Trapezoid> now;
        for (std::size_t i = 0; i + 1 < active.size(); i += 2) {
            Trapezoid part{active[i], active[i + 1], y, below};
            const auto same = std::find_if(growing.begin(), growing.end(), [&](const Trapezoid& g) {
                return g.left == part.left && g.right == part.right;
            });
            if (same != growing.end()) {
                part.from = same->from;
                growing.erase(same);
            }
            now.push_back(part);
        }
        done.insert(done.end(), growing.begin(), growing.end());
        growing = std::move(now);
    }
    done.insert(done.end(), growing.begin(), growing.end());

    std::vector<std::vector<Point>> parts;
    if (slack) *slack = 0;
    for (const Trapezoid& t : done) {
        // Each end of a side that is not whole is off by half a unit at the most.
        for (const std::size_t side : {t.left, t.right})
            for (const int y : {t.from, t.to})
                if (slack && !sides[side].whole_at(y)) *slack += (t.to - t.from + 1) / 2;
        std::vector<Point> points{{sides[t.left].x_at(t.from), t.from},
                                  {sides[t.right].x_at(t.from), t.from},
                                  {sides[t.right].x_at(t.to), t.to},
                                  {sides[t.left].x_at(t.to), t.to}};
        points.erase(std::unique(points.begin(), points.end()), points.end());
        if (points.front() == points.back()) points.pop_back();
        if (points.size() < 3) continue; // thinner than the units can tell
        parts.push_back(std::move(points));
    }
    std::sort(parts.begin(), parts.end(), [](const auto& a, const auto& b) {
        return std::pair(a.front().y, a.front().x) < std::pair(b.front().y, b.front().x);
    });
    return parts;
}

} // namespace vic::outline
