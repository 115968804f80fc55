#include "kit/rims.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace vic::kit {

namespace {

constexpr double kFlat = 0.0015; // metres: so near to a plane something lies in it
constexpr double kLeastRim = 0.05;
constexpr std::size_t kMostJoined = 500; // lines of a profile; what has more is compared as it is

using Place = std::tuple<long, long, long>; // tenths of a millimetre
Place place_of(Vec v) { return {std::lround(v.x * 1e4), std::lround(v.y * 1e4), std::lround(v.z * 1e4)}; }

using Line = std::array<int, 4>;
Line ordered(int ax, int ay, int bx, int by) {
    return std::pair(ax, ay) <= std::pair(bx, by) ? Line{ax, ay, bx, by} : Line{bx, by, ax, ay};
}

// Sorted, lines that come twice cancelled, those that go on straight as one.
Profile tidy(std::vector<Line> lines, bool cancel) {
    std::sort(lines.begin(), lines.end());
    std::vector<Line> once;
    for (std::size_t i = 0; i < lines.size();) {
        std::size_t j = i;
        while (j < lines.size() && lines[j] == lines[i]) ++j;
        if (!cancel || (j - i) % 2 == 1) once.push_back(lines[i]);
        i = j;
    }
    for (bool changed = once.size() <= kMostJoined; changed;) {
        changed = false;
        std::map<std::pair<int, int>, std::vector<std::size_t>> at;
        for (std::size_t i = 0; i < once.size(); ++i) {
            at[{once[i][0], once[i][1]}].push_back(i);
            at[{once[i][2], once[i][3]}].push_back(i);
        }
        for (const auto& entry : at) {
            const std::pair<int, int> point = entry.first;
            const std::vector<std::size_t>& which = entry.second;
            if (which.size() != 2 || which[0] == which[1]) continue;
            const Line &a = once[which[0]], &b = once[which[1]];
            const auto other = [&](const Line& l) {
                return std::pair(l[0], l[1]) == point ? std::pair(l[2], l[3]) : std::pair(l[0], l[1]);
            };
            const auto p = other(a), q = other(b);
            const long turn = static_cast<long>(point.first - p.first) * (q.second - p.second) -
                              static_cast<long>(point.second - p.second) * (q.first - p.first);
            const double length = std::hypot(q.first - p.first, q.second - p.second);
            if (std::abs(static_cast<double>(turn)) > length) continue; // more than a millimetre off
            const Line joined = ordered(p.first, p.second, q.first, q.second);
            once.erase(once.begin() + static_cast<std::ptrdiff_t>(std::max(which[0], which[1])));
            once.erase(once.begin() + static_cast<std::ptrdiff_t>(std::min(which[0], which[1])));
            if (p != q) once.push_back(joined);
            changed = true;
            break;
        }
    }
    std::sort(once.begin(), once.end());
    return once;
}

} // namespace

Bounds bounds_of(const Mesh& mesh) {
    Bounds out;
    if (mesh.points.empty()) return out;
    out.least = out.most = mesh.points.front();
    for (const Vec v : mesh.points) {
        out.least = {std::min(out.least.x, v.x), std::min(out.least.y, v.y), std::min(out.least.z, v.z)};
        out.most = {std::max(out.most.x, v.x), std::max(out.most.y, v.y), std::max(out.most.z, v.z)};
    }
    return out;
}

Mesh turned_up(Mesh mesh) {
    for (Vec& v : mesh.points) v = {v.x, v.z, -v.y};
    return mesh;
}

std::vector<Edge> open_edges(const Mesh& mesh) {
    std::map<std::pair<Place, Place>, std::pair<int, Edge>> all;
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            const Vec a = mesh.points[t[k]], b = mesh.points[t[(k + 1) % 3]];
            const Place pa = place_of(a), pb = place_of(b);
            if (pa == pb) continue;
            auto& entry = all[std::minmax(pa, pb)];
            ++entry.first;
            entry.second = {a, b};
        }
    std::vector<Edge> out;
    for (const auto& [ends, entry] : all)
        if (entry.first == 1) out.push_back(entry.second);
    return out;
}

std::vector<double> rim_planes(const std::vector<Edge>& open, int axis) {
    struct Found {
        double length = 0;
        std::map<Place, int> ends;
    };
    std::map<long, Found> planes; // in whole millimetres
    for (const Edge& e : open) {
        if (std::abs(along(e.from, axis) - along(e.to, axis)) > kFlat) continue;
        Found& found = planes[std::lround((along(e.from, axis) + along(e.to, axis)) * 500)];
        const Vec way = e.to - e.from;
        found.length += std::sqrt(dot(way, way));
        ++found.ends[place_of(e.from)];
        ++found.ends[place_of(e.to)];
    }
    std::vector<double> out;
    for (const auto& [at, found] : planes)
        // Edges of rims in other planes lie in this one, too, but do not go round.
        if (found.length >= kLeastRim &&
            std::all_of(found.ends.begin(), found.ends.end(), [](const auto& end) { return end.second > 1; }))
            out.push_back(static_cast<double>(at) / 1000);
    return out;
}

Profile profile_of(const Mesh& mesh, const std::vector<Edge>& open, int axis, double plane, double aside, double up,
                   bool turned) {
    const int across = axis == 0 ? 2 : 0;
    const auto in = [&](Vec v) { return std::abs(along(v, axis) - plane) <= kFlat; };
    const auto line = [&](Vec a, Vec b) {
        const auto u = [&](Vec v) {
            const int at = static_cast<int>(std::lround((along(v, across) + aside) * 1000));
            return turned ? -at : at;
        };
        const auto y = [&](Vec v) { return static_cast<int>(std::lround((v.y + up) * 1000)); };
        return ordered(u(a), y(a), u(b), y(b));
    };
    std::vector<Line> lines;
    for (const Edge& e : open)
        if (in(e.from) && in(e.to)) lines.push_back(line(e.from, e.to));
    if (!lines.empty()) return tidy(std::move(lines), false);
    for (const auto& t : mesh.triangles) {
        const Vec a = mesh.points[t[0]], b = mesh.points[t[1]], c = mesh.points[t[2]];
        if (!in(a) || !in(b) || !in(c)) continue;
        for (const auto& l : {line(a, b), line(b, c), line(c, a)})
            if (l[0] != l[2] || l[1] != l[3]) lines.push_back(l);
    }
    return tidy(std::move(lines), true);
}

Profile mirrored(const Profile& profile) {
    Profile out;
    for (const Line& l : profile) out.push_back(ordered(-l[0], l[1], -l[2], l[3]));
    std::sort(out.begin(), out.end());
    return out;
}

Profile part_of(const Profile& profile, int from, int to) {
    Profile out, upright;
    const int middle = (from + to) / 2;
    for (const Line& l : profile) {
        if (l[0] == l[2]) {
            if (l[0] < from || l[0] > to) continue;
            const bool at_end = l[0] - from <= 1 || to - l[0] <= 1;
            (at_end ? upright : out).push_back({l[0] - middle, l[1], l[2] - middle, l[3]});
            continue;
        }
        const int a = std::max(l[0], from), b = std::min(l[2], to);
        if (b - a <= 1) continue;
        const auto height = [&](int at) {
            return static_cast<int>(std::lround(l[1] + double(l[3] - l[1]) * (at - l[0]) / (l[2] - l[0])));
        };
        out.push_back(ordered(a - middle, height(a), b - middle, height(b)));
    }
    if (out.empty()) out = std::move(upright);
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace vic::kit
