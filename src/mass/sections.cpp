#include "mass/sections.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <utility>

#include "outline/convex.hpp"
#include "outline/solid.hpp"

namespace vic::mass {

namespace {

using Place = std::array<int, 3>; // x, height, z
using Corners = std::array<Place, 3>;

constexpr int kFurthest = 1 << 14; // units, 256 cells, that a corner may lie from the piece's own; the rest is left out

std::vector<Corners> rounded(const scene::Model& model) {
    std::vector<Corners> out;
    for (std::size_t i = 0; i + 2 < model.corners.size(); i += 3) {
        Corners triangle;
        bool fits = true;
        for (std::size_t k = 0; k < 3; ++k)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const double v = std::round(double{model.corners[i + k].at[axis]} * outline::kUnit);
                fits = fits && std::abs(v) < kFurthest;
                triangle[k][axis] = fits ? static_cast<int>(v) : 0;
            }
        if (fits) out.push_back(triangle);
    }
    return out;
}

// The heights at which it is cut.
std::vector<int> heights_of(const std::vector<Corners>& triangles) {
    std::set<int> out;
    for (const Corners& t : triangles) {
        for (const Place& p : t) out.insert(p[1]);
        // Neither level nor upright: its sides move from height to height.
        const std::int64_t ux = t[1][0] - t[0][0], uy = t[1][1] - t[0][1], uz = t[1][2] - t[0][2];
        const std::int64_t vx = t[2][0] - t[0][0], vy = t[2][1] - t[0][1], vz = t[2][2] - t[0][2];
        const bool upright = uz * vx == ux * vz;
        const bool level = uy * vz == uz * vy && ux * vy == uy * vx;
        if (upright || level) continue;
        const auto [least, most] = std::minmax({t[0][1], t[1][1], t[2][1]});
        for (int y = least + kStep; y < most; y += kStep) out.insert(y);
    }
    return {out.begin(), out.end()};
}

// Where the line between two corners is at twice a height; the same whichever way it is asked.
Point crossing(const Place& one, const Place& other, int twice) {
    const Place &a = std::min(one, other), &b = std::max(one, other);
    const double t = (twice / 2.0 - a[1]) / (b[1] - a[1]);
    return {static_cast<int>(std::lround(a[0] + t * (b[0] - a[0]))),
            static_cast<int>(std::lround(a[2] + t * (b[2] - a[2])))};
}

// Closed ways along lines, each of which is gone once. Returns how many lines came to no end.
int close(const std::vector<std::pair<Point, Point>>& lines, level::Polygons& out) {
    std::map<Point, std::vector<std::size_t>> from;
    for (std::size_t i = 0; i < lines.size(); ++i) from[lines[i].first].push_back(i);
    int open = 0;
    for (auto& [first, leaving] : from)
        while (!leaving.empty()) {
            level::Polygon way;
            Point at = first;
            do {
                const auto next = from.find(at);
                if (next == from.end() || next->second.empty()) break;
                way.push_back(at);
                const std::size_t line = next->second.back();
                next->second.pop_back();
                at = lines[line].second;
            } while (at != first);
            if (at != first)
                open += static_cast<int>(way.size());
            else if (way.size() > 2)
                out.push_back(std::move(way));
        }
    return open;
}

// What the triangles fill in the middle between two heights; `reaching` are those that may.
level::Polygons filled(const std::vector<Corners>& triangles, const std::vector<std::size_t>& reaching, int from,
                       int to, int& open) {
    std::vector<std::pair<Point, Point>> lines;
    for (const std::size_t i : reaching) {
        const Corners& t = triangles[i];
        std::optional<Point> rises, falls;
        for (std::size_t k = 0; k < 3; ++k) {
            const Place &a = t[k], &b = t[(k + 1) % 3];
            const bool below = 2 * a[1] < from + to, then_below = 2 * b[1] < from + to;
            if (below == then_below) continue;
            (below ? rises : falls) = crossing(a, b, from + to);
        }
        if (rises && falls && *rises != *falls) lines.emplace_back(*rises, *falls);
    }
    level::Polygons ways;
    open += close(lines, ways);
    if (ways.empty()) return {};
    std::vector<outline::Outline> outlines;
    for (level::Polygon& p : outline::united(ways)) {
        const bool hole = level::area2(p) < 0;
        outlines.push_back({std::move(p), hole});
    }
    level::Polygons parts = outline::convex_parts(outlines);
    std::sort(parts.begin(), parts.end());
    return parts;
}

} // namespace

Sections sections_of(const scene::Model& model) {
    Sections out;
    std::vector<Corners> triangles = rounded(model);
    const auto lowest = [](const Corners& t) { return std::min({t[0][1], t[1][1], t[2][1]}); };
    const auto highest = [](const Corners& t) { return std::max({t[0][1], t[1][1], t[2][1]}); };
    std::stable_sort(triangles.begin(), triangles.end(),
                     [&](const Corners& a, const Corners& b) { return lowest(a) < lowest(b); });
    const std::vector<int> heights = heights_of(triangles);
    // From below, so that each height looks at the triangles alone that reach it.
    std::vector<std::size_t> reaching;
    std::size_t next = 0;
    for (std::size_t i = 0; i + 1 < heights.size(); ++i) {
        Section section{heights[i], heights[i + 1], {}};
        for (; next < triangles.size() && lowest(triangles[next]) <= section.from; ++next) reaching.push_back(next);
        std::erase_if(reaching, [&](std::size_t k) { return highest(triangles[k]) <= section.from; });
        section.polygons = filled(triangles, reaching, section.from, section.to, out.open);
        if (section.polygons.empty()) continue;
        if (!out.all.empty() && out.all.back().to == section.from && out.all.back().polygons == section.polygons)
            out.all.back().to = section.to;
        else
            out.all.push_back(std::move(section));
    }
    return out;
}

level::Polygons seen_between(const Sections& sections, int from, int to) {
    level::Polygons all;
    for (const Section& s : sections.all)
        if (s.from < to && s.to > from) all.insert(all.end(), s.polygons.begin(), s.polygons.end());
    all = outline::united(all);
    if (std::none_of(all.begin(), all.end(), [](const level::Polygon& p) { return level::area2(p) < 0; })) return all;
    std::vector<outline::Outline> outlines;
    for (level::Polygon& p : all) {
        const bool hole = level::area2(p) < 0;
        outlines.push_back({std::move(p), hole});
    }
    return outline::convex_parts(outlines);
}

} // namespace vic::mass
