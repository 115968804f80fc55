#include "outline/from_art.hpp"

#include <algorithm>
#include <cmath>

#include "outline/trace.hpp"

namespace vic::outline {

using level::Polygon;
using level::Polygons;

namespace {

double distance(Point p, Point a, Point b) {
    const double dx = b.x - a.x, dy = b.y - a.y;
    const double length = dx * dx + dy * dy;
    const double t = length == 0 ? 0 : std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / length, 0.0, 1.0);
    return std::hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}

// Keeps of ring[from] … ring[to] (to may be the ring's length: its first point again) what is needed.
void simplify(const Polygon& ring, std::size_t from, std::size_t to, double deviation, std::vector<bool>& keep) {
    const auto at = [&](std::size_t i) { return ring[i % ring.size()]; };
    double worst = -1;
    std::size_t where = from;
    for (std::size_t i = from + 1; i < to; ++i) {
        const double d = distance(at(i), at(from), at(to));
        if (d > worst) {
            worst = d;
            where = i;
        }
    }
    if (worst <= deviation) return;
    keep[where] = true;
    simplify(ring, from, where, deviation, keep);
    simplify(ring, where, to, deviation, keep);
}

Polygon simplified(const Polygon& ring, double deviation) {
    // The two corners furthest apart surely stay; from the first in reading order that is one of them, nearly.
    std::size_t far = 0;
    for (std::size_t i = 1; i < ring.size(); ++i)
        if (std::hypot(ring[i].x - ring[0].x, ring[i].y - ring[0].y) >
            std::hypot(ring[far].x - ring[0].x, ring[far].y - ring[0].y))
            far = i;
    std::vector<bool> keep(ring.size(), false);
    keep[0] = keep[far] = true;
    simplify(ring, 0, far, deviation, keep);
    simplify(ring, far, ring.size(), deviation, keep);
    Polygon out;
    for (std::size_t i = 0; i < ring.size(); ++i)
        if (keep[i]) out.push_back(ring[i]);
    return out;
}

Polygon without_needless(Polygon p) {
    for (std::size_t i = 0; i < p.size() && p.size() > 2;) {
        const std::size_t n = p.size();
        if (p[i] == p[(i + 1) % n] || cross(p[(i + n - 1) % n], p[i], p[(i + 1) % n]) == 0) {
            p.erase(p.begin() + static_cast<std::ptrdiff_t>(i));
            i = i > 0 ? i - 1 : 0;
        } else {
            ++i;
        }
    }
    return p;
}

// From units of 1/64 pixels to 1/16 cells.
Polygon on_cell(const Polygon& ring, Size art) {
    Polygon out;
    for (const Point p : ring) {
        const auto to = [](int v, int side) {
            return static_cast<int>(std::lround(double(v) * level::kShapeSide / (double(side) * kUnit)));
        };
        out.push_back({to(p.x, art.w), to(p.y, art.h)});
    }
    return without_needless(std::move(out));
}

double deviation_of(const Polygon& ring, const Polygons& shapes, Size art) {
    double worst = 0;
    for (const Point p : ring) {
        double nearest = 1e9;
        const auto back = [&](Point q) {
            return Point{q.x * art.w * kUnit / level::kShapeSide, q.y * art.h * kUnit / level::kShapeSide};
        };
        for (const Polygon& shape : shapes)
            for (std::size_t i = 0; i < shape.size(); ++i)
                nearest = std::min(nearest, distance(p, back(shape[i]), back(shape[(i + 1) % shape.size()])));
        worst = std::max(worst, nearest);
    }
    return worst / kUnit;
}

// Where the line comes back to a place it was at, as it may after rounding, it is parted there.
Polygons parted(const Polygon& ring) {
    Polygons out;
    std::vector<Polygon> left{ring};
    while (!left.empty()) {
        Polygon p = std::move(left.back());
        left.pop_back();
        const std::size_t n = p.size();
        bool cut = false;
        for (std::size_t i = 0; i < n && !cut; ++i)
            for (std::size_t j = 0; j < n && !cut; ++j) {
                const Point a = p[j], b = p[(j + 1) % n];
                if (i == j || (j + 1) % n == i || cross(a, b, p[i]) != 0 || !spanning(a, b).contains(p[i])) continue;
                // From corner i on to the line that comes back to it, and the rest.
                Polygon one, other;
                for (std::size_t k = i;; k = (k + 1) % n) {
                    one.push_back(p[k]);
                    if (k == j) break;
                }
                for (std::size_t k = (j + 1) % n; k != i; k = (k + 1) % n) other.push_back(p[k]);
                other.push_back(p[i]);
                if (one.size() >= n || other.size() >= n) continue;
                left.push_back(std::move(one));
                left.push_back(std::move(other));
                cut = true;
            }
        if (!cut) out.push_back(std::move(p));
    }
    Polygons whole;
    for (const Polygon& p : out) {
        Polygon straight = without_needless(p);
        if (straight.size() >= 3 && level::area2(straight) > 0) whole.push_back(std::move(straight));
    }
    return whole;
}

// The convex hull, clockwise on screen (Andrew 1979).
Polygon hull(Polygon points) {
    std::sort(points.begin(), points.end());
    points.erase(std::unique(points.begin(), points.end()), points.end());
    Polygon out;
    for (int pass = 0; pass < 2; ++pass) {
        const std::size_t base = out.size();
        for (const Point p : points) {
            while (out.size() >= base + 2 && cross(out[out.size() - 2], out.back(), p) <= 0) out.pop_back();
            out.push_back(p);
        }
        out.pop_back();
        std::reverse(points.begin(), points.end());
    }
    return out;
}

// One mass as a shape. Coarser lines may cross where the art's do not; finer ones, down to the art's own, are tried
// then, and at last what goes round all of it.
Polygons parts_of(const Polygon& ring, double deviation, Size art) {
    for (double within = deviation; within >= 0.2; within /= 2) {
        Polygons parts = parted(on_cell(simplified(ring, within * kUnit), art));
        if (parts.empty() || level::shape_trouble(parts).empty()) return parts;
    }
    Polygons round{hull(on_cell(ring, art))};
    if (!level::shape_trouble(round).empty()) round.clear();
    return round;
}

} // namespace

ArtShape shape_from_art(const Image& art, double deviation) {
    const auto opaque = [&](int x, int y) {
        return x >= 0 && y >= 0 && x < art.width() && y < art.height() && art.at(x, y).a >= 128;
    };
    const auto rings = outlines(trace(art.size(), [&](const Box& box, SolidCode* out, std::size_t stride, Forms&) {
        for (int y = 0; y < box.h; ++y)
            for (int x = 0; x < box.w; ++x)
                out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)] =
                    opaque(box.x + x, box.y + y) ? kFull : kOpen;
        return 0;
    }));
    const double least = 0.01 * 2 * static_cast<double>(art.size().area()) * kUnit * kUnit;
    std::vector<const Outline*> masses;
    for (const Outline& o : rings)
        if (!o.hole && static_cast<double>(area2(o)) >= least) masses.push_back(&o);
    ArtShape out;
    std::size_t corners = 0;
    for (const Outline* mass : masses) {
        Polygons parts = parts_of(mass->points, deviation, art.size());
        if (parts.empty()) continue;
        for (const Polygon& p : parts) corners += p.size();
        out.deviation = std::max(out.deviation, deviation_of(mass->points, parts, art.size()));
        out.polygons.insert(out.polygons.end(), parts.begin(), parts.end());
    }
    if (corners > level::kMostShapeCorners) return shape_from_art(art, deviation * 2);
    return out;
}

namespace {

bool convex_at(const Polygon& p, std::size_t i) {
    const std::size_t n = p.size();
    return cross(p[(i + n - 1) % n], p[i], p[(i + 1) % n]) >= 0;
}

bool convex(const Polygon& p) {
    for (std::size_t i = 0; i < p.size(); ++i)
        if (!convex_at(p, i)) return false;
    return true;
}

std::vector<Polygon> triangles(Polygon p) {
    std::vector<Polygon> out;
    while (p.size() > 3) {
        bool cut = false;
        for (std::size_t i = 0; i < p.size() && !cut; ++i) {
            const std::size_t n = p.size();
            const Point a = p[(i + n - 1) % n], b = p[i], c = p[(i + 1) % n];
            if (cross(a, b, c) <= 0) continue;
            bool ear = true;
            for (const Point q : p)
                if (q != a && q != b && q != c && cross(a, b, q) >= 0 && cross(b, c, q) >= 0 && cross(c, a, q) >= 0)
                    ear = false;
            if (!ear) continue;
            out.push_back({a, b, c});
            p.erase(p.begin() + static_cast<std::ptrdiff_t>(i));
            cut = true;
        }
        if (!cut) break; // what is left is flat
    }
    if (p.size() == 3 && cross(p[0], p[1], p[2]) > 0) out.push_back(p);
    return out;
}

// The two joined along the line they share, where they do and stay convex.
bool join(const Polygon& a, const Polygon& b, Polygon& out) {
    for (std::size_t i = 0; i < a.size(); ++i)
        for (std::size_t j = 0; j < b.size(); ++j) {
            if (a[i] != b[(j + 1) % b.size()] || a[(i + 1) % a.size()] != b[j]) continue;
            out.clear();
            for (std::size_t k = 1; k <= a.size(); ++k) out.push_back(a[(i + k) % a.size()]);
            for (std::size_t k = 2; k < b.size(); ++k) out.push_back(b[(j + k) % b.size()]);
            return convex(out);
        }
    return false;
}

} // namespace

int convex_count(const Polygons& polygons) {
    int count = 0;
    for (const Polygon& p : polygons) {
        std::vector<Polygon> parts = triangles(p);
        for (bool joined = true; joined;) {
            joined = false;
            for (std::size_t i = 0; i < parts.size() && !joined; ++i)
                for (std::size_t j = i + 1; j < parts.size() && !joined; ++j) {
                    Polygon both;
                    if (!join(parts[i], parts[j], both)) continue;
                    parts[i] = std::move(both);
                    parts.erase(parts.begin() + static_cast<std::ptrdiff_t>(j));
                    joined = true;
                }
        }
        count += static_cast<int>(parts.size());
    }
    return count;
}

} // namespace vic::outline
