#include "level/shape.hpp"

#include <array>

namespace vic::level {

namespace {

constexpr int S = kShapeSide;
constexpr int H = kShapeSide / 2;

Point turned_point(Point p, Turn t) {
    if (t.mirrored()) p.x = S - p.x;
    for (int i = 0; i < t.quarters(); ++i) p = {S - p.y, p.x};
    return p;
}

// The first corner in reading order first, so that equal polygons are equal.
void start_first(Polygon& p) {
    std::rotate(p.begin(),
                std::min_element(p.begin(), p.end(),
                                 [](Point a, Point b) { return std::pair(a.y, a.x) < std::pair(b.y, b.x); }),
                p.end());
}

using Table = std::array<Polygons, kTileShapes>;

Table make_table() {
    Table table;
    const auto put = [&](TileShape first, const Polygon& p) {
        // Four to a family, each the one before turned clockwise.
        for (int quarter = 0; quarter < 4; ++quarter) {
            Polygon one = turned(Polygons{p}, {static_cast<std::uint8_t>(quarter)})[0];
            start_first(one);
            table[static_cast<std::size_t>(first) + static_cast<std::size_t>(quarter)] = {one};
        }
    };
    table[static_cast<std::size_t>(TileShape::full)] = {{{0, 0}, {S, 0}, {S, S}, {0, S}}};
    put(TileShape::slope_ne, {{0, 0}, {S, 0}, {S, S}});
    put(TileShape::half_north, {{0, 0}, {S, 0}, {S, H}, {0, H}});
    // Level wedges turn into steep ones by a quarter, so that their families are made of both.
    const auto mixed = [&](TileShape level, TileShape steep, const Polygon& ne, const Polygon& steep_ne) {
        for (int corner = 0; corner < 4; ++corner) {
            const Turn turn{static_cast<std::uint8_t>(corner)};
            Polygon a = turned(Polygons{corner % 2 == 0 ? ne : steep_ne}, turn)[0];
            Polygon b = turned(Polygons{corner % 2 == 0 ? steep_ne : ne}, turn)[0];
            start_first(a);
            start_first(b);
            table[static_cast<std::size_t>(level) + static_cast<std::size_t>(corner)] = {a};
            table[static_cast<std::size_t>(steep) + static_cast<std::size_t>(corner)] = {b};
        }
    };
    mixed(TileShape::thin_ne, TileShape::steep_thin_ne, {{0, 0}, {S, 0}, {S, H}}, {{H, 0}, {S, 0}, {S, S}});
    mixed(TileShape::thick_ne, TileShape::steep_thick_ne, {{0, 0}, {S, 0}, {S, S}, {0, H}},
          {{0, 0}, {S, 0}, {S, S}, {H, S}});
    return table;
}

const Table& table() {
    static const Table made = make_table();
    return made;
}

bool on_line(Point a, Point b, Point p) { return cross(a, b, p) == 0 && spanning(a, b).contains(p); }

bool meet(Point a, Point b, Point c, Point d) {
    const auto sign = [](std::int64_t v) { return (v > 0) - (v < 0); };
    const int c1 = sign(cross(a, b, c)), c2 = sign(cross(a, b, d));
    const int c3 = sign(cross(c, d, a)), c4 = sign(cross(c, d, b));
    if (c1 * c2 < 0 && c3 * c4 < 0) return true;
    return on_line(a, b, c) || on_line(a, b, d) || on_line(c, d, a) || on_line(c, d, b);
}

} // namespace

const Polygons& polygons_of(TileShape shape) { return table()[static_cast<std::size_t>(shape)]; }

std::int64_t area2(const Polygon& p) {
    std::int64_t sum = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const Point a = p[i];
        const Point b = p[(i + 1) % p.size()];
        sum += std::int64_t{a.x} * b.y - std::int64_t{b.x} * a.y;
    }
    return sum;
}

bool covers(const Polygons& polygons, Point place) {
    int around = 0;
    for (const Polygon& p : polygons)
        for (std::size_t i = 0; i < p.size(); ++i) {
            const Point a{2 * p[i].x, 2 * p[i].y};
            const Point b{2 * p[(i + 1) % p.size()].x, 2 * p[(i + 1) % p.size()].y};
            if ((a.y > place.y) == (b.y > place.y)) continue;
            if ((cross(a, b, place) > 0) == (b.y > a.y)) around += b.y > a.y ? 1 : -1;
        }
    return around != 0;
}

Polygons clockwise(Polygons polygons) {
    for (Polygon& p : polygons)
        if (area2(p) < 0) std::reverse(p.begin(), p.end());
    return polygons;
}

Polygons turned(const Polygons& polygons, Turn turn) {
    Polygons out = polygons;
    for (Polygon& p : out) {
        for (Point& corner : p) corner = turned_point(corner, turn);
        if (turn.mirrored()) std::reverse(p.begin(), p.end());
    }
    return out;
}

TileShape turned(TileShape shape, Turn turn) {
    if (is_one_way(shape))
        return static_cast<TileShape>(static_cast<int>(TileShape::one_way_north) +
                                      turned_side(turn, one_way_side(shape)));
    // Which shape a turned one is follows from their corners, once.
    static const auto turns = [] {
        std::array<std::array<TileShape, 8>, kTileShapes> all{};
        for (int s = 0; s < kTileShapes; ++s)
            for (std::uint8_t t = 0; t < 8; ++t) {
                auto& slot = all[static_cast<std::size_t>(s)][t] = static_cast<TileShape>(s);
                Polygons p = turned(table()[static_cast<std::size_t>(s)], {t});
                if (!p.empty()) slot = named_shape(p);
            }
        return all;
    }();
    return turns[static_cast<std::size_t>(shape)][turn.code];
}

Text shape_trouble(const Polygons& polygons) { return outline_trouble(polygons, {S, S}); }

Text outline_trouble(const Polygons& polygons, Size within) {
    std::size_t corners = 0;
    for (const Polygon& p : polygons) {
        corners += p.size();
        if (p.size() < 3) return "A shape has fewer than three corners";
        for (const Point c : p)
            if (c.x < 0 || c.y < 0 || c.x > within.w || c.y > within.h)
                return within == Size{S, S}
                           ? say("The corner %1, %2 lies outside the cell (0 to %3)", c.x, c.y, S)
                           : say("The corner %1, %2 lies outside the picture (%3 × %4)", c.x, c.y, within.w, within.h);
        if (area2(p) == 0) return "A shape has no area";
    }
    if (polygons.empty()) return "The shape has no corners";
    if (corners > kMostShapeCorners) return say("A shape has more than %1 corners", kMostShapeCorners);
    for (const Polygon& p : polygons)
        if (Text trouble = crossing_trouble(p); !trouble.empty()) return trouble;
    return {};
}

Text crossing_trouble(const Polygon& p) {
    for (std::size_t a = 0; a < p.size(); ++a) {
        const Point from = p[a], to = p[(a + 1) % p.size()], after = p[(a + 2) % p.size()];
        if (from == to) return "Two corners of the shape lie on each other";
        // A neighbour touches where it begins; it must not come back over this line.
        if (on_line(from, to, after) || on_line(to, after, from)) return "The line of the shape touches itself";
        for (std::size_t b = a + 2; b < p.size(); ++b)
            if ((b + 1) % p.size() != a && meet(from, to, p[b], p[(b + 1) % p.size()]))
                return "The line of the shape crosses or touches itself";
    }
    return {};
}

TileShape named_shape(Polygons& polygons) {
    for (Polygon& p : polygons) {
        for (std::size_t i = 0; i < p.size() && p.size() > 2;) {
            const std::size_t n = p.size();
            if (cross(p[(i + n - 1) % n], p[i], p[(i + 1) % n]) == 0) {
                p.erase(p.begin() + static_cast<std::ptrdiff_t>(i));
                i = i > 0 ? i - 1 : 0;
            } else {
                ++i;
            }
        }
        if (area2(p) < 0) std::reverse(p.begin(), p.end());
        start_first(p);
    }
    std::erase_if(polygons, [](const Polygon& p) { return area2(p) == 0; });
    if (polygons.empty()) return TileShape::none;
    if (polygons.size() == 1)
        for (int s = 0; s < kTileShapes; ++s)
            if (table()[static_cast<std::size_t>(s)] == polygons) {
                polygons.clear();
                return static_cast<TileShape>(s);
            }
    return TileShape::drawn;
}

} // namespace vic::level
