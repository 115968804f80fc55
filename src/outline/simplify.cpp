#include "outline/simplify.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <unordered_map>
#include <utility>

namespace vic::outline {

namespace {

constexpr std::size_t kMostLeftOut = 64; // corners between two that are kept
constexpr int kSquare = 2 * kUnit;       // units a side of the grid's squares

// Above 0 where c lies to the right of the way from a to b, on screen (y down).
std::int64_t side_of(Point a, Point b, Point c) {
    return std::int64_t{b.x - a.x} * (c.y - a.y) - std::int64_t{b.y - a.y} * (c.x - a.x);
}

bool between(Point a, Point b, Point p) { // of a point on the line through them
    return std::min(a.x, b.x) <= p.x && p.x <= std::max(a.x, b.x) && std::min(a.y, b.y) <= p.y &&
           p.y <= std::max(a.y, b.y);
}

struct Line {
    Point a, b;
    bool operator==(const Line&) const = default;
};

// Whether they meet anywhere but in an end that they share.
bool meet(const Line& one, const Line& other) {
    const auto a = side_of(one.a, one.b, other.a), b = side_of(one.a, one.b, other.b);
    const auto c = side_of(other.a, other.b, one.a), d = side_of(other.a, other.b, one.b);
    if (((a > 0 && b < 0) || (a < 0 && b > 0)) && ((c > 0 && d < 0) || (c < 0 && d > 0))) return true;
    const auto touches = [](const Line& line, Point p, std::int64_t side) {
        return side == 0 && p != line.a && p != line.b && between(line.a, line.b, p);
    };
    return touches(one, other.a, a) || touches(one, other.b, b) || touches(other, one.a, c) ||
           touches(other, one.b, d) || (one.a == other.b && one.b == other.a) || one == other;
}

// All lines as they are now, by the squares that they go through.
class Lines {
  public:
    void add(const Line& line) {
        each_square(line, [&](std::uint64_t key) { squares_[key].push_back(line); });
    }
    void remove(const Line& line) {
        each_square(line, [&](std::uint64_t key) {
            auto& all = squares_[key];
            const auto at = std::find(all.begin(), all.end(), line);
            if (at == all.end()) return;
            *at = all.back();
            all.pop_back();
        });
    }
    // Whether any(line) holds for one of those near the box around two points.
    template <class Any>
    [[nodiscard]] bool any(Point a, Point b, const Any& any) const {
        bool out = false;
        each_square({a, b}, [&](std::uint64_t key) {
            const auto found = squares_.find(key);
            if (out || found == squares_.end()) return;
            out = std::any_of(found->second.begin(), found->second.end(), any);
        });
        return out;
    }

  private:
    template <class Visit>
    static void each_square(const Line& line, const Visit& visit) {
        const auto [x0, x1] = std::minmax({floor_div(line.a.x, kSquare), floor_div(line.b.x, kSquare)});
        const auto [y0, y1] = std::minmax({floor_div(line.a.y, kSquare), floor_div(line.b.y, kSquare)});
        const bool straight = line.a.x == line.b.x || line.a.y == line.b.y;
        for (int y = y0; y <= y1; ++y)
            for (int x = x0; x <= x1; ++x)
                if (straight || passes(line, x, y))
                    visit((std::uint64_t{static_cast<std::uint32_t>(y)} << 32) | static_cast<std::uint32_t>(x));
    }
    // Whether it comes into the square, its rim counted.
    static bool passes(const Line& line, int x, int y) {
        const Point corner{x * kSquare, y * kSquare};
        bool left = false, right = false;
        for (const Point c :
             {corner, corner + Point{kSquare, 0}, corner + Point{0, kSquare}, corner + Point{kSquare, kSquare}}) {
            const auto side = side_of(line.a, line.b, c);
            left = left || side <= 0;
            right = right || side >= 0;
        }
        return left && right;
    }
    std::unordered_map<std::uint64_t, std::vector<Line>> squares_;
};

double distance(const Line& line, Point p) {
    const double dx = line.b.x - line.a.x, dy = line.b.y - line.a.y;
    const double t = std::clamp(((p.x - line.a.x) * dx + (p.y - line.a.y) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
    return std::hypot(line.a.x + t * dx - p.x, line.a.y + t * dy - p.y);
}

class Simplifier {
  public:
    Simplifier(const std::vector<Outline>& outlines, int deviation) : deviation_(deviation) {
        for (const Outline& o : outlines)
            for (std::size_t i = 0; i < o.points.size(); ++i)
                lines_.add({o.points[i], o.points[(i + 1) % o.points.size()]});
    }
    Outline of(const Outline& outline) {
        const std::vector<Point>& p = outline.points;
        Outline out{{p.front()}, outline.hole};
        const std::size_t n = p.size();
        std::size_t kept = 1;
        for (std::size_t i = 0; i < n;) {
            const std::size_t to = furthest(p, i, kept, n);
            if (to > i + 1) {
                for (std::size_t k = i; k < to; ++k) lines_.remove({p[k], p[(k + 1) % n]});
                lines_.add({p[i], p[to % n]});
            }
            if (to < n) {
                out.points.push_back(p[to]);
                ++kept;
            }
            i = to;
        }
        return out;
    }

  private:
    // The last corner up to which all may be left out after i; three stay of every outline.
    std::size_t furthest(const std::vector<Point>& p, std::size_t i, std::size_t kept, std::size_t n) const {
        std::size_t best = i + 1;
        for (std::size_t to = i + 2; to <= n && to - i <= kMostLeftOut; ++to) {
            if (to == n && kept < 3) break;
            // What would be left to keep must make three corners.
            if (kept + (n - to) < 3) break;
            const Line line{p[i], p[to % n]};
            if (line.a == line.b) break;
            bool near = true, inside = true;
            for (std::size_t k = i + 1; k < to; ++k) {
                near = near && distance(line, p[k]) <= deviation_;
                inside = inside && side_of(line.a, line.b, p[k]) <= 0;
            }
            if (!near) break;
            if (inside && free(p, i, to, line)) best = to;
        }
        return best;
    }
    // Whether the line meets nothing, and nothing lies between it and the corners that it leaves out.
    bool free(const std::vector<Point>& p, std::size_t i, std::size_t to, const Line& line) const {
        const std::size_t n = p.size();
        const auto own = [&](const Line& l) {
            for (std::size_t k = i; k < to; ++k)
                if (l.a == p[k] && l.b == p[(k + 1) % n]) return true;
            return false;
        };
        if (lines_.any(line.a, line.b, [&](const Line& l) { return !own(l) && meet(line, l); })) return false;
        Point least = line.a, most = line.a;
        for (std::size_t k = i; k <= to; ++k) {
            least = {std::min(least.x, p[k % n].x), std::min(least.y, p[k % n].y)};
            most = {std::max(most.x, p[k % n].x), std::max(most.y, p[k % n].y)};
        }
        for (int y = floor_div(least.y, kSquare); y <= floor_div(most.y, kSquare); ++y) {
            const Point from{least.x, y * kSquare}, end{most.x, y * kSquare};
            if (lines_.any(from, end, [&](const Line& l) { return !own(l) && within(p, i, to, l.a); })) return false;
        }
        return true;
    }
    // Whether a point lies inside what is cut off, its rim left out.
    static bool within(const std::vector<Point>& p, std::size_t i, std::size_t to, Point at) {
        bool in = false;
        for (std::size_t k = i; k <= to; ++k) {
            const Point a = p[k % p.size()], b = k == to ? p[i] : p[(k + 1) % p.size()];
            if (side_of(a, b, at) == 0 && between(a, b, at)) return false;
            if ((a.y > at.y) == (b.y > at.y)) continue;
            const auto side = side_of(a, b, at);
            in ^= (b.y > a.y) == (side > 0);
        }
        return in;
    }
    Lines lines_;
    int deviation_;
};

} // namespace

std::vector<Outline> simplified(const std::vector<Outline>& outlines, int deviation) {
    if (deviation <= 0) return outlines;
    Simplifier simplifier(outlines, deviation);
    std::vector<Outline> out;
    out.reserve(outlines.size());
    for (const Outline& o : outlines) out.push_back(o.points.size() > 3 ? simplifier.of(o) : o);
    return out;
}

} // namespace vic::outline
