#include "outline/solid.hpp"

#include <polyclipping/clipper.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>
#include <tuple>

#include "outline/convex.hpp"

namespace vic::outline {

using level::Polygon;
using level::Polygons;
using level::TileShape;

namespace {

using Edge = Form::Edge;

bool inside(const Edge& e, Point p) {
    return p != e.from && p != e.to && cross(e.from, e.to, p) == 0 && spanning(e.from, e.to).contains(p);
}

// Where the edges meet other than at a common end: `p`, rounded to whole units.
bool meeting(const Edge& a, const Edge& b, Point& p) {
    for (const Point end : {b.from, b.to})
        if (inside(a, end)) {
            p = end;
            return true;
        }
    for (const Point end : {a.from, a.to})
        if (inside(b, end)) {
            p = end;
            return true;
        }
    const std::int64_t c1 = cross(a.from, a.to, b.from), c2 = cross(a.from, a.to, b.to);
    const std::int64_t c3 = cross(b.from, b.to, a.from), c4 = cross(b.from, b.to, a.to);
    if ((c1 > 0) == (c2 > 0) || (c3 > 0) == (c4 > 0) || c1 == 0 || c2 == 0 || c3 == 0 || c4 == 0) return false;
    const double t = static_cast<double>(c1) / static_cast<double>(c1 - c2);
    p = {static_cast<int>(std::lround(b.from.x + t * (b.to.x - b.from.x))),
         static_cast<int>(std::lround(b.from.y + t * (b.to.y - b.from.y)))};
    return true;
}

// Cuts edges where they meet until none do. Rounding can make new meetings, so that it goes round a few times; false
// where that came to no end.
bool cut_at_meetings(std::vector<Edge>& edges) {
    for (int round = 0; round < 64; ++round) {
        bool changed = false;
        for (std::size_t i = 0; i < edges.size(); ++i)
            for (std::size_t j = i + 1; j < edges.size(); ++j) {
                Point p;
                if (!meeting(edges[i], edges[j], p)) continue;
                for (const std::size_t k : {i, j}) {
                    if (p == edges[k].from || p == edges[k].to) continue;
                    edges.push_back({p, edges[k].to});
                    edges[k].to = p;
                    changed = true;
                }
            }
        if (!changed) return true;
    }
    return false;
}

std::vector<Edge> edges_of(const Polygons& polygons) {
    std::vector<Edge> edges;
    for (const Polygon& p : polygons)
        for (std::size_t i = 0; i < p.size(); ++i)
            if (p[i] != p[(i + 1) % p.size()]) edges.push_back({p[i], p[(i + 1) % p.size()]});
    return edges;
}

bool before(Point a, Point b) { return std::pair(a.y, a.x) < std::pair(b.y, b.x); }

// The side of the cell that an edge lies on, -1 for none.
int side_of(const Edge& e) {
    if (e.from.y == 0 && e.to.y == 0) return 0;
    if (e.from.x == kUnit && e.to.x == kUnit) return 1;
    if (e.from.y == kUnit && e.to.y == kUnit) return 2;
    if (e.from.x == 0 && e.to.x == 0) return 3;
    return -1;
}

bool covers_rim(const Form& f, int side) {
    const auto& spans = f.rim[static_cast<std::size_t>(side)];
    return spans.size() == 1 && spans[0] == Form::Span{0, kUnit};
}

void add_to(ClipperLib::Clipper& clipper, const Polygons& polygons, ClipperLib::PolyType as) {
    for (const Polygon& p : polygons) {
        ClipperLib::Path path;
        for (const Point c : p) path.emplace_back(c.x, c.y);
        clipper.AddPath(path, as, true);
    }
}

Polygons executed(ClipperLib::Clipper& clipper, ClipperLib::ClipType what) {
    ClipperLib::Paths paths;
    clipper.Execute(what, paths, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    Polygons out;
    for (const ClipperLib::Path& path : paths) {
        Polygon p;
        for (const ClipperLib::IntPoint& c : path) p.push_back({static_cast<int>(c.X), static_cast<int>(c.Y)});
        out.push_back(std::move(p));
    }
    return out;
}

constexpr std::size_t kMostInForm = 12; // polygons that overlap in one cell before their union takes their place

// Outlines, masses and holes, as polygons without holes.
Polygons without_holes(const Polygons& outlines) {
    if (std::none_of(outlines.begin(), outlines.end(), [](const Polygon& p) { return level::area2(p) < 0; }))
        return outlines;
    std::vector<Outline> all;
    for (const Polygon& p : outlines) all.push_back({p, level::area2(p) < 0});
    return convex_parts(all);
}

// What of a polygon lies in the box of one cell, from that cell's corner (Sutherland and Hodgman 1974). Lines that run
// twice along the rim cancel when the form is made.
Polygon in_cell(const Polygon& polygon, Point corner) {
    Polygon p = polygon;
    for (Point& c : p) c = c - corner;
    for (int side = 0; side < 4 && !p.empty(); ++side) {
        const auto inner = [&](Point c) {
            const int v = side % 2 == 0 ? c.y : c.x;
            return side == 0 || side == 3 ? v : kUnit - v; // how far inside the side it lies
        };
        Polygon kept;
        for (std::size_t i = 0; i < p.size(); ++i) {
            const Point a = p[i], b = p[(i + 1) % p.size()];
            const int da = inner(a), db = inner(b);
            if (da >= 0) kept.push_back(a);
            if ((da >= 0) == (db >= 0) || da == 0 || db == 0) continue;
            const double t = static_cast<double>(da) / (da - db);
            kept.push_back({static_cast<int>(std::lround(a.x + t * (b.x - a.x))),
                            static_cast<int>(std::lround(a.y + t * (b.y - a.y)))});
        }
        p = std::move(kept);
    }
    return p;
}

} // namespace

Polygons units_of(Polygons polygons) {
    for (Polygon& p : polygons)
        for (Point& c : p) c = {c.x * (kUnit / level::kShapeSide), c.y * (kUnit / level::kShapeSide)};
    return polygons;
}

Polygons united(const Polygons& polygons) {
    ClipperLib::Clipper clipper;
    add_to(clipper, polygons, ClipperLib::ptSubject);
    return executed(clipper, ClipperLib::ctUnion);
}

Form form_of(Polygons polygons) {
    polygons = level::clockwise(std::move(polygons));
    std::vector<Edge> edges = edges_of(polygons);
    if (!cut_at_meetings(edges)) edges = edges_of(united(polygons));

    Form form;
    form.polygons = std::move(polygons);
    std::set<std::tuple<int, int, int, int>> done; // pieces, from the end that comes first in reading order
    for (const Edge& e : edges) {
        const Point a = before(e.from, e.to) ? e.from : e.to;
        const Point b = before(e.from, e.to) ? e.to : e.from;
        if (!done.insert({a.x, a.y, b.x, b.y}).second) continue;
        // How often the polygons go round a place right beside the middle of the piece: lines to its right that go
        // down less those that go up, the piece itself set aside. Doubled, so that the middle is whole; a middle on
        // the height of a corner counts as a hair lower.
        const Point middle = a + b;
        int around = 0, own = 0;
        for (const Edge& o : edges) {
            if ((o.from == a && o.to == b) || (o.from == b && o.to == a)) {
                own += o.from == a ? 1 : -1;
                continue;
            }
            const Point p{2 * o.from.x, 2 * o.from.y}, q{2 * o.to.x, 2 * o.to.y};
            if ((p.y > middle.y) == (q.y > middle.y)) continue;
            const Point upper = p.y < q.y ? p : q, lower = p.y < q.y ? q : p;
            if (cross(upper, lower, middle) > 0) around += p.y < q.y ? 1 : -1; // the middle lies west of the line
        }
        // `a` to `b` goes down, or level to the east. Left of it, seen along the way, is east or above.
        const bool level_line = a.y == b.y;
        const bool right_blocks = level_line ? around > 0 : around + own > 0;
        const bool left_blocks = level_line ? around - own > 0 : around > 0;
        if (right_blocks == left_blocks) continue;
        const Edge kept = right_blocks ? Edge{a, b} : Edge{b, a};
        const int side = side_of(kept);
        if (side < 0)
            form.inner.push_back(kept);
        else
            form.rim[static_cast<std::size_t>(side)].push_back(side % 2 == 0 ? Form::Span{a.x, b.x}
                                                                             : Form::Span{a.y, b.y});
    }
    std::sort(form.inner.begin(), form.inner.end(),
              [](const Edge& a, const Edge& b) { return std::pair(a.from, a.to) < std::pair(b.from, b.to); });
    for (auto& spans : form.rim) {
        std::sort(spans.begin(), spans.end(), [](const auto& a, const auto& b) { return a.from < b.from; });
        std::vector<Form::Span> joined;
        for (const Form::Span& s : spans)
            if (!joined.empty() && joined.back().to == s.from)
                joined.back().to = s.to;
            else
                joined.push_back(s);
        spans = std::move(joined);
    }
    return form;
}

bool Forms::same(SolidCode a, const Form& form) const {
    return solid_of(a) == kForm && (*this)[a].inner == form.inner && (*this)[a].rim == form.rim;
}

SolidCode Forms::add(Polygons polygons, SolidCode known) {
    Form form = form_of(std::move(polygons));
    if (same(known, form)) return known;
    std::uint8_t covered = 0;
    bool touched = false;
    for (int side = 0; side < 4; ++side) {
        if (covers_rim(form, side)) covered = static_cast<std::uint8_t>(covered | (1U << side));
        touched = touched || !form.rim[static_cast<std::size_t>(side)].empty();
    }
    if (form.inner.empty()) return touched ? kFull : kOpen;
    if (form.inner.size() == 1) {
        const Edge& e = form.inner[0];
        const Point d = e.to - e.from;
        if (std::abs(d.x) == kUnit && std::abs(d.y) == kUnit)
            for (const Solid slope : {kSlopeNE, kSlopeSE, kSlopeSW, kSlopeNW})
                if (covered == kCovered[slope]) return slope;
    }
    return put(std::move(form));
}

SolidCode Forms::put(Form form) {
    const auto number = static_cast<SolidCode>(forms_.size());
    forms_.push_back(std::move(form));
    return kForm | (number << 8);
}

SolidCode Forms::code_of_foot(TileShape shape, const Polygons& drawn, Size foot, Point cell) {
    if (level::is_one_way(shape)) {
        const int side = level::one_way_side(shape);
        const bool there = side == 0   ? cell.y == 0
                           : side == 1 ? cell.x == foot.w - 1
                           : side == 2 ? cell.y == foot.h - 1
                                       : cell.x == 0;
        return there ? code_of(shape) : SolidCode{kOpen};
    }
    Polygons parts;
    for (Polygon p : units_of(shape == TileShape::drawn ? drawn : level::polygons_of(shape))) {
        for (Point& c : p) c = {c.x * foot.w, c.y * foot.h};
        p = in_cell(p, {cell.x * kUnit, cell.y * kUnit});
        if (p.size() >= 3) parts.push_back(std::move(p));
    }
    return add(std::move(parts));
}

SolidCode Forms::code_of(TileShape shape) {
    if (level::is_one_way(shape)) return 16U << level::one_way_side(shape);
    switch (shape) {
        case TileShape::full:
            return kFull;
        case TileShape::slope_ne:
            return kSlopeNE;
        case TileShape::slope_se:
            return kSlopeSE;
        case TileShape::slope_sw:
            return kSlopeSW;
        case TileShape::slope_nw:
            return kSlopeNW;
        default:
            return level::polygons_of(shape).empty() ? SolidCode{kOpen} : add(units_of(level::polygons_of(shape)));
    }
}

Polygons Forms::polygons(SolidCode code) const {
    static constexpr TileShape shapes[6] = {TileShape::none,     TileShape::full,     TileShape::slope_ne,
                                            TileShape::slope_se, TileShape::slope_sw, TileShape::slope_nw};
    if (solid_of(code) == kForm) return (*this)[code].polygons;
    return units_of(level::polygons_of(shapes[solid_of(code)]));
}

SolidCode Forms::without(SolidCode code, const Polygons& polygons) {
    SolidCode out = kOpen;
    // In half units, a little inside the cell, so that a side that is covered up to its line counts.
    const Point middles[4] = {{kUnit, 1}, {2 * kUnit - 1, kUnit}, {kUnit, 2 * kUnit - 1}, {1, kUnit}};
    for (unsigned side = 0; side < 4; ++side)
        if ((code >> (4 + side) & 1U) != 0 && !level::covers(polygons, middles[side])) out |= 16U << side;
    if (solid_of(code) == kOpen) return out;
    ClipperLib::Clipper clipper;
    add_to(clipper, this->polygons(code), ClipperLib::ptSubject);
    add_to(clipper, polygons, ClipperLib::ptClip);
    return out | add(without_holes(executed(clipper, ClipperLib::ctDifference)));
}

SolidCode Forms::united(SolidCode a, SolidCode b) {
    const SolidCode sides = (a | b) & 0xF0U;
    a &= ~SolidCode{0xF0};
    b &= ~SolidCode{0xF0};
    if (a == b || b == kOpen || a == kFull) return a | sides;
    if (a == kOpen || b == kFull) return b | sides;
    const std::pair key = std::minmax(a, b);
    const auto known = unions_.find(key);
    if (known != unions_.end()) return known->second | sides;
    Polygons both = polygons(a);
    for (Polygon& p : polygons(b)) both.push_back(std::move(p));
    // Where much lies on one spot its union goes on, so that the work stays in proportion.
    if (both.size() > kMostInForm) both = without_holes(outline::united(both));
    const SolidCode code = add(std::move(both), a);
    unions_.emplace(key, code);
    return code | sides;
}

SolidCode Forms::united(SolidCode a, Polygons b) {
    const SolidCode sides = a & 0xF0U;
    a &= ~SolidCode{0xF0};
    if (a == kFull) return a | sides;
    for (Polygon& p : polygons(a)) b.push_back(std::move(p));
    if (b.size() > kMostInForm) b = without_holes(outline::united(level::clockwise(std::move(b))));
    return add(std::move(b), a) | sides;
}

} // namespace vic::outline
