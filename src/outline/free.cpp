#include "outline/free.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <map>
#include <set>
#include <utility>

namespace vic::outline {

using level::Polygon;
using level::Polygons;
using level::Spots;

namespace {

// The whole number nearest to a / b; of halves the upper one. b > 0.
std::int64_t nearest(std::int64_t a, std::int64_t b) {
    const std::int64_t twice = 2 * a + b;
    return twice >= 0 ? twice / (2 * b) : -((-twice + 2 * b - 1) / (2 * b));
}

// Where the line from `a` to `b` crosses the lattice, its ends left out, in order from `a`. Worked out from the end
// that comes first, so that a line that is gone along the other way gets the same.
std::vector<Point> crossings(Point a, Point b) {
    const bool turned = b < a;
    if (turned) std::swap(a, b);
    std::vector<Point> out;
    const auto along = [&](bool upright) {
        const int from = upright ? a.x : a.y, to = upright ? b.x : b.y;
        const int other_from = upright ? a.y : a.x, other_to = upright ? b.y : b.x;
        if (from == to) return;
        const int low = std::min(from, to), high = std::max(from, to);
        for (int line = (floor_div(low, kUnit) + 1) * kUnit; line < high; line += kUnit) {
            const std::int64_t length = std::abs(to - from), done = std::abs(line - from);
            const auto other = static_cast<int>(other_from + nearest(done * (other_to - other_from), length));
            out.push_back(upright ? Point{line, other} : Point{other, line});
        }
    };
    along(true);
    along(false);
    const Point way = b - a;
    std::sort(out.begin(), out.end(), [&](Point p, Point q) {
        const auto far = [&](Point c) {
            return std::int64_t{c.x - a.x} * (way.x >= 0 ? 1 : -1) + std::int64_t{c.y - a.y} * (way.y >= 0 ? 1 : -1);
        };
        return far(p) < far(q);
    });
    out.erase(std::unique(out.begin(), out.end()), out.end());
    std::erase_if(out, [&](Point p) { return p == a || p == b; });
    if (turned) std::reverse(out.begin(), out.end());
    return out;
}

Polygon with_crossings(const Polygon& polygon, std::vector<Point>* which = nullptr) {
    Polygon out;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        out.push_back(polygon[i]);
        const std::vector<Point> points = crossings(polygon[i], polygon[(i + 1) % polygon.size()]);
        out.insert(out.end(), points.begin(), points.end());
        if (which) which->insert(which->end(), points.begin(), points.end());
    }
    return out;
}

// Sutherland and Hodgman's cut at a level or upright line on which the polygon has corners wherever it crosses it.
Polygon cut(const Polygon& p, bool upright, int line, bool keep_more) {
    Polygon out;
    for (const Point c : p) {
        const int v = (upright ? c.x : c.y) - line;
        if (keep_more ? v >= 0 : v <= 0)
            if (out.empty() || out.back() != c) out.push_back(c);
    }
    while (out.size() > 1 && out.back() == out.front()) out.pop_back();
    return out;
}

} // namespace

std::vector<CellPiece> by_cells(const Polygon& polygon, const Box& cells) {
    std::vector<CellPiece> out;
    if (polygon.size() < 3 || cells.empty()) return out;
    std::vector<Point> bends;
    Polygon with = with_crossings(polygon, &bends);
    std::sort(bends.begin(), bends.end());
    // To the box first, so that what lies far from it costs little.
    const Box units{cells.x * kUnit, cells.y * kUnit, cells.w * kUnit, cells.h * kUnit};
    with = with_crossings(cut(cut(with, true, units.x, true), true, units.right(), false));
    with = with_crossings(cut(cut(with, false, units.y, true), false, units.bottom(), false));
    if (with.size() < 3) return out;
    int top = with[0].y, bottom = with[0].y;
    for (const Point p : with) {
        top = std::min(top, p.y);
        bottom = std::max(bottom, p.y);
    }
    for (int y = std::max(cells.y, floor_div(top, kUnit)); y < cells.bottom() && y * kUnit < bottom; ++y) {
        const Polygon row = with_crossings(cut(cut(with, false, y * kUnit, true), false, (y + 1) * kUnit, false));
        if (row.size() < 3) continue;
        int left = row[0].x, right = row[0].x;
        for (const Point p : row) {
            left = std::min(left, p.x);
            right = std::max(right, p.x);
        }
        for (int x = std::max(cells.x, floor_div(left, kUnit)); x < cells.right() && x * kUnit < right; ++x) {
            CellPiece piece{{x, y}, cut(cut(row, true, x * kUnit, true), true, (x + 1) * kUnit, false)};
            for (Point& p : piece.polygon) {
                const Point at = p;
                p = p - Point{x * kUnit, y * kUnit};
                if (std::binary_search(bends.begin(), bends.end(), at)) piece.bends.push_back(p);
            }
            if (piece.polygon.size() >= 3 && level::area2(piece.polygon) != 0) out.push_back(std::move(piece));
        }
    }
    return out;
}

Polygon in_units(const Spots& pixels, const Lattice& lattice) {
    Polygon out;
    for (const level::Spot& s : pixels) {
        const CellPlace at = lattice.place_of(s.x, s.y);
        const Point p{static_cast<int>(std::lround(at.x * kUnit)), static_cast<int>(std::lround(at.y * kUnit))};
        if (out.empty() || out.back() != p) out.push_back(p);
    }
    while (out.size() > 1 && out.back() == out.front()) out.pop_back();
    return out;
}

Polygons blocking_units(const level::Piece& piece, const Lattice& lattice) {
    Polygons out;
    for (const Spots& spots : level::blocking_of(piece, lattice)) {
        Polygon p = in_units(spots, lattice);
        const std::int64_t area = level::area2(p);
        if (p.size() < 3 || area == 0) continue;
        if (area < 0) std::reverse(p.begin(), p.end());
        out.push_back(std::move(p));
    }
    return out;
}

std::optional<OneWayEdge> one_way_of(const level::Piece& piece, const Lattice& lattice) {
    if (!piece.kind->blocks || !level::is_one_way(piece.kind->shape)) return std::nullopt;
    const Polygon foot = in_units(level::foot_corners(piece, lattice), lattice);
    if (foot.size() != 4) return std::nullopt;
    const auto side = static_cast<std::size_t>(level::one_way_side(piece.kind->shape));
    const Point a = foot[side], b = foot[(side + 1) % 4];
    const Point out = a + b - foot[(side + 2) % 4] - foot[(side + 3) % 4]; // from the foot's middle to the edge's
    const bool upright = std::abs(out.y) >= std::abs(out.x);
    OneWayEdge edge{a, b, upright ? (out.y < 0 ? 0 : 2) : (out.x > 0 ? 1 : 3)};
    if (std::pair(edge.to.y, edge.to.x) < std::pair(edge.from.y, edge.from.x)) std::swap(edge.from, edge.to);
    return edge;
}

namespace {

// A line that stands for several: the bends on its way were left out.
struct Straight {
    Point from, to;
    std::vector<Point> dropped;
};

// Whether `p` is where the line from `a` to `b` crosses the lattice, to the nearest unit.
bool lies_on(Point a, Point b, Point p) {
    // An outline may come back to where it was: what lies between is no straight way.
    if (a == b || !spanning(a, b).contains(p)) return false;
    const std::int64_t off = std::int64_t{b.x - a.x} * (p.y - a.y) - std::int64_t{b.y - a.y} * (p.x - a.x);
    return (p.x % kUnit == 0 && 2 * std::abs(off) <= std::abs(std::int64_t{b.x - a.x})) ||
           (p.y % kUnit == 0 && 2 * std::abs(off) <= std::abs(std::int64_t{b.y - a.y}));
}

// The outline without the bends that lie on the line that goes on without them.
Polygon without_bends(const Polygon& outline, const std::vector<Point>& bends, const std::set<Point>& stay,
                      std::vector<Straight>& chords) {
    const std::size_t n = outline.size();
    const auto bent = [&](std::size_t i) {
        const Point p = outline[i % n];
        return std::binary_search(bends.begin(), bends.end(), p) && !stay.contains(p);
    };
    std::size_t first = 0;
    while (first < n && bent(first)) ++first;
    if (first == n) return outline;
    Polygon out;
    std::vector<Straight> made;
    for (std::size_t i = 0; i < n;) {
        const Point a = outline[(first + i) % n];
        out.push_back(a);
        // As far as all bends on the way lie on the line.
        std::size_t next = i + 1;
        for (std::size_t end = i + 2; end <= n && bent(first + end - 1); ++end) {
            const Point b = outline[(first + end) % n];
            bool all = true;
            for (std::size_t k = i + 1; k < end && all; ++k) all = lies_on(a, b, outline[(first + k) % n]);
            if (all) next = end;
        }
        if (next > i + 1) {
            made.push_back({a, outline[(first + next) % n], {}});
            for (std::size_t k = i + 1; k < next; ++k) made.back().dropped.push_back(outline[(first + k) % n]);
        }
        i = next;
    }
    if (out.size() < 3) return outline;
    chords.insert(chords.end(), made.begin(), made.end());
    return out;
}

// visit(cell) for all cells that the line may touch.
template <class Visit>
void each_cell_along(Point a, Point b, const Visit& visit) {
    if (b.y < a.y) std::swap(a, b);
    for (int y = floor_div(a.y - 1, kUnit); y <= floor_div(b.y, kUnit); ++y) {
        const auto x_at = [&](int line) {
            const int at = std::clamp(line, a.y, b.y);
            return a.y == b.y ? double(a.x) : a.x + double(b.x - a.x) * (at - a.y) / (b.y - a.y);
        };
        double left = x_at(y * kUnit), right = x_at((y + 1) * kUnit);
        if (a.y == b.y) right = b.x;
        if (right < left) std::swap(left, right);
        for (int x = floor_div(static_cast<int>(std::floor(left)) - 1, kUnit);
             x <= floor_div(static_cast<int>(std::ceil(right)), kUnit); ++x)
            visit(Point{x, y});
    }
}

// Whether the lines cross, or one ends within the other.
bool meet(Point a, Point b, Point p, Point q) {
    const auto sign = [](std::int64_t v) { return (v > 0) - (v < 0); };
    const int c1 = sign(cross(a, b, p)), c2 = sign(cross(a, b, q)), c3 = sign(cross(p, q, a)),
              c4 = sign(cross(p, q, b));
    if (c1 * c2 < 0 && c3 * c4 < 0) return true;
    const auto within = [](Point from, Point to, Point at, int side) {
        return side == 0 && at != from && at != to && spanning(from, to).contains(at);
    };
    return within(a, b, p, c1) || within(a, b, q, c2) || within(p, q, a, c3) || within(p, q, b, c4);
}

} // namespace

void straighten(std::vector<Outline>& outlines, const std::vector<Point>& bends) {
    constexpr int kMostRounds = 8;
    std::vector<std::size_t> which;
    std::vector<Polygon> before;
    for (std::size_t i = 0; i < outlines.size(); ++i)
        if (std::any_of(outlines[i].points.begin(), outlines[i].points.end(),
                        [&](Point p) { return std::binary_search(bends.begin(), bends.end(), p); })) {
            which.push_back(i);
            before.push_back(outlines[i].points);
        }
    std::set<Point> stay;
    for (int round = 0; round < kMostRounds; ++round) {
        std::vector<Straight> chords;
        for (std::size_t k = 0; k < which.size(); ++k)
            outlines[which[k]].points = without_bends(before[k], bends, stay, chords);
        std::map<Point, std::vector<std::size_t>> there; // chords by cell
        for (std::size_t c = 0; c < chords.size(); ++c)
            each_cell_along(chords[c].from, chords[c].to, [&](Point cell) { there[cell].push_back(c); });
        // Where a line comes so near to another that it would cross it, its bends stay.
        bool crossed = false;
        for (const Outline& o : outlines)
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point p = o.points[i], q = o.points[(i + 1) % o.points.size()];
                each_cell_along(p, q, [&](Point cell) {
                    const auto found = there.find(cell);
                    if (found == there.end()) return;
                    for (const std::size_t c : found->second) {
                        if (!meet(chords[c].from, chords[c].to, p, q)) continue;
                        stay.insert(chords[c].dropped.begin(), chords[c].dropped.end());
                        crossed = true;
                    }
                });
            }
        if (!crossed) return;
    }
    for (std::size_t k = 0; k < which.size(); ++k) outlines[which[k]].points = std::move(before[k]);
}

} // namespace vic::outline
