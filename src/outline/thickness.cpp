#include "outline/thickness.hpp"

#include <algorithm>
#include <cmath>
#include <polyclipping/clipper.hpp>
#include <utility>

#include "outline/simplify.hpp"

namespace vic::outline {

namespace {

using ClipperLib::Path;
using ClipperLib::Paths;

constexpr int kFine = 16;        // steps of a unit in which offsets are made
constexpr double kSharpest = 12; // mitre: tips of ten degrees stay whole
constexpr int kDust = 6;         // steps: what is thinner than twice that comes of rounding
constexpr int kRounds = 8;       // what grows can make a cleft beside itself

Paths paths_of(const std::vector<Outline>& outlines) {
    Paths out;
    out.reserve(outlines.size());
    for (const Outline& o : outlines) {
        out.emplace_back();
        for (const Point p : o.points) out.back().push_back({p.x * kFine, p.y * kFine});
    }
    return out;
}

Paths offset(const Paths& paths, double by, double mitre = kSharpest) {
    ClipperLib::ClipperOffset work(mitre);
    work.AddPaths(paths, ClipperLib::jtMiter, ClipperLib::etClosedPolygon);
    Paths out;
    work.Execute(out, by);
    return out;
}

Paths combined(ClipperLib::ClipType how, const Paths& a, const Paths& b, bool strict = false) {
    ClipperLib::Clipper work;
    work.StrictlySimple(strict);
    work.AddPaths(a, ClipperLib::ptSubject, true);
    work.AddPaths(b, ClipperLib::ptClip, true);
    Paths out;
    work.Execute(how, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    return out;
}

// What of `more` is not in `less`, without what came of rounding.
Paths beyond(const Paths& more, const Paths& less) {
    return offset(offset(combined(ClipperLib::ctDifference, more, less), -kDust), kDust);
}

// A part by itself: its outer line, and its holes behind it.
std::vector<Paths> apart(const Paths& all) {
    std::vector<Paths> out;
    for (const Path& p : all)
        if (ClipperLib::Orientation(p)) out.push_back({p});
    for (const Path& p : all) {
        if (ClipperLib::Orientation(p)) continue;
        for (Paths& part : out)
            if (ClipperLib::PointInPolygon(p.front(), part.front()) != 0) {
                part.push_back(p);
                break;
            }
    }
    return out;
}

// How thick a hair is: of what is long and thin twice its area goes to half its rim.
double thickness(const Paths& part) {
    double area = 0, rim = 0;
    for (const Path& p : part) {
        area += ClipperLib::Area(p);
        for (std::size_t i = 0; i < p.size(); ++i) {
            const auto& a = p[i];
            const auto& b = p[(i + 1) % p.size()];
            rim += std::hypot(static_cast<double>(b.X - a.X), static_cast<double>(b.Y - a.Y));
        }
    }
    return rim > 0 ? 2 * area / rim : 0;
}

Paths in_units(Paths paths) {
    for (Path& p : paths)
        for (auto& c : p) {
            c.X = static_cast<ClipperLib::cInt>(std::lround(static_cast<double>(c.X) / kFine)) * kFine;
            c.Y = static_cast<ClipperLib::cInt>(std::lround(static_cast<double>(c.Y) / kFine)) * kFine;
        }
    return paths;
}

std::vector<Outline> outlines_of(const Paths& paths) {
    std::vector<Outline> out;
    for (const Path& p : paths) {
        Outline o;
        for (const auto& c : p) {
            const Point at{static_cast<int>(std::lround(static_cast<double>(c.X) / kFine)),
                           static_cast<int>(std::lround(static_cast<double>(c.Y) / kFine))};
            if (o.points.empty() || o.points.back() != at) o.points.push_back(at);
        }
        while (o.points.size() > 1 && o.points.front() == o.points.back()) o.points.pop_back();
        const std::int64_t area = o.points.size() < 3 ? 0 : area2(o);
        if (area == 0) continue;
        o.hole = area < 0;
        std::rotate(o.points.begin(),
                    std::min_element(o.points.begin(), o.points.end(),
                                     [](Point a, Point b) { return std::pair(a.y, a.x) < std::pair(b.y, b.x); }),
                    o.points.end());
        out.push_back(std::move(o));
    }
    std::stable_sort(out.begin(), out.end(), [](const Outline& a, const Outline& b) {
        return std::pair(a.points.front().y, a.points.front().x) < std::pair(b.points.front().y, b.points.front().x);
    });
    return out;
}

} // namespace

std::vector<Outline> no_thinner(const std::vector<Outline>& outlines, int least, const Box& within) {
    if (least <= 0 || outlines.empty()) return outlines;
    const double half = least * kFine / 2.0 - 1; // what is exactly as thick stays
    const auto steps = [](int units) { return ClipperLib::cInt{units} * kFine; };
    const Paths box{{{steps(within.x), steps(within.y)},
                     {steps(within.right()), steps(within.y)},
                     {steps(within.right()), steps(within.bottom())},
                     {steps(within.x), steps(within.bottom())}}};
    Paths now = paths_of(outlines);
    bool changed = false;
    for (int round = 0; round < kRounds; ++round) {
        const Paths closed = offset(offset(now, half), -half);
        // A cleft is filled up to its mouth, and a little into what blocks on both its sides.
        Paths added = combined(ClipperLib::ctIntersection, offset(beyond(closed, now), kFine, 2), closed);
        for (const Paths& hair : apart(beyond(now, offset(offset(now, -half), half))))
            for (Path& p : offset(hair, std::max(0.0, half - thickness(hair) / 2) + kFine, 2))
                added.push_back(std::move(p));
        added = in_units(combined(ClipperLib::ctIntersection, added, box));
        if (beyond(added, now).empty()) break;
        changed = true;
        // Lines that were cut meet in fractions: through whole units once, so that the next round sees what is kept.
        now = paths_of(outlines_of(combined(ClipperLib::ctUnion, now, added, true)));
    }
    if (!changed) return outlines;
    ClipperLib::SimplifyPolygons(now, ClipperLib::pftNonZero);
    return outlines_of(now);
}

std::vector<Outline> for_engine(const level::Project& project, const level::Level& level,
                                const std::vector<Outline>& outlines) {
    return no_thinner(simplified(outlines, project.deviation), project.thinnest,
                      {0, 0, level.size.w * kUnit, level.size.h * kUnit});
}

} // namespace vic::outline
