// Outlines after a change, of which only those that come near it are walked anew: from corner to corner, each looked
// for in the parts where it lies, instead of linking all of them first.
#include <algorithm>
#include <iterator>
#include <utility>

#include "outline/loose.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

namespace {

constexpr std::array<Point, 8> kStep{{{0, -1}, {1, -1}, {1, 0}, {1, 1}, {0, 1}, {-1, 1}, {-1, 0}, {-1, -1}}};

class Walker {
  public:
    explicit Walker(const Trace& trace) : trace_(trace), side_(static_cast<int>(trace.grain)) {
        first_of_.reserve(trace.parts.size());
        at_corners_.assign(trace.parts.size(), kUnknown);
        std::size_t all = 0;
        for (const auto& part : trace.parts) {
            first_of_.push_back(all);
            all += part ? part->corners.size() + part->loose.size() : 0;
        }
        walked_.assign(all, 0);
    }

    // All outlines that turn in those parts.
    void from_part(Point at, std::vector<Outline>& out) {
        const std::size_t number = number_of(at);
        const Part* const part = trace_.parts[number].get();
        if (!part) return;
        for (std::size_t i = 0; i < part->corners.size(); ++i) walk({number, i}, out);
        for (std::size_t i = at_corners(number); i < part->loose.size(); ++i)
            walk({number, part->corners.size() + i}, out);
    }
    // The one that turns at a place, and goes on towards another.
    void from(Point at, Point towards, std::vector<Outline>& out) {
        const auto ahead = [&](Point p) {
            const std::int64_t ax = towards.x - at.x, ay = towards.y - at.y, bx = p.x - at.x, by = p.y - at.y;
            return ax * by == ay * bx && ax * bx + ay * by > 0;
        };
        each_at(at, [&](Node node) {
            const LooseTurn turn = turn_of(node);
            const unsigned way = way_of(node);
            if (way == kLoose ? ahead(turn.to) : ahead(at + kStep[way])) walk(node, out);
        });
    }

  private:
    // A corner of a part by its number; after these a loose turn that is none.
    struct Node {
        std::size_t part, index;
        bool operator==(const Node&) const = default;
    };
    static constexpr std::size_t kUnknown = static_cast<std::size_t>(-1);

    [[nodiscard]] std::size_t number_of(Point at) const {
        return static_cast<std::size_t>(at.y * trace_.part_count.w + at.x);
    }
    [[nodiscard]] const Part& part(const Node& node) const { return *trace_.parts[node.part]; }
    [[nodiscard]] const Corner* corner(const Node& node) const {
        return node.index < part(node).corners.size() ? &part(node).corners[node.index] : nullptr;
    }
    [[nodiscard]] LooseTurn turn_of(const Node& node) const {
        const Corner* const c = corner(node);
        if (!c) return part(node).loose[node.index - part(node).corners.size()];
        if (c->in == kLoose || c->out == kLoose) return part(node).loose[c->turn];
        const Point at{c->x * kUnit, c->y * kUnit};
        return {at, at, at};
    }
    [[nodiscard]] unsigned way_of(const Node& node) const {
        const Corner* const c = corner(node);
        return c ? c->out : kLoose;
    }
    // How many of a part's loose turns are those of corners, which come first.
    [[nodiscard]] std::size_t at_corners(std::size_t number) {
        std::size_t& known = at_corners_[number];
        if (known == kUnknown) {
            const auto& corners = trace_.parts[number]->corners;
            known = static_cast<std::size_t>(std::count_if(
                corners.begin(), corners.end(), [](const Corner& c) { return c.in == kLoose || c.out == kLoose; }));
        }
        return known;
    }
    // The corners of a row of lattice points that lie in a part, as numbers of the first and beyond the last.
    [[nodiscard]] static std::pair<std::size_t, std::size_t> row(const Part& part, int y) {
        const auto r = static_cast<std::size_t>(y);
        return {part.row_start[r], part.row_start[r + 1]};
    }
    [[nodiscard]] const Part* part_of(Point lattice, std::size_t& number) const {
        const Point at{lattice.x / side_, lattice.y / side_};
        number = number_of(at);
        return trace_.parts[number].get();
    }
    template <class Visit>
    void each_corner_at(Point lattice, const Visit& visit) const {
        std::size_t number = 0;
        const Part* const there = part_of(lattice, number);
        if (!there) return;
        const auto [first, last] = row(*there, lattice.y % side_);
        const auto begin = there->corners.begin() + static_cast<std::ptrdiff_t>(first),
                   end = there->corners.begin() + static_cast<std::ptrdiff_t>(last);
        for (auto c = std::lower_bound(begin, end, lattice.x, [](const Corner&a, int x) { return a.x < x; });
             c != end && c->x == lattice.x; ++c)
            visit(Node{number, static_cast<std::size_t>(c - there->corners.begin())});
    }
    // All that turns at a place, in 1/64 cells.
    template <class Visit>
    void each_at(Point at, const Visit& visit) {
        if (at.x % kUnit == 0 && at.y % kUnit == 0) each_corner_at({at.x / kUnit, at.y / kUnit}, visit);
        std::size_t number = 0;
        const Part* const there = part_of({at.x / kUnit, at.y / kUnit}, number);
        if (!there) return;
        // By rows, then along each.
        const auto before = [](const LooseTurn& a, Point p) { return std::pair(a.at.y, a.at.x) < std::pair(p.y, p.x); };
        const auto begin = there->loose.begin() + static_cast<std::ptrdiff_t>(at_corners(number));
        for (auto t = std::lower_bound(begin, there->loose.end(), at, before); t != there->loose.end() && t->at == at;
             ++t)
            visit(Node{number, there->corners.size() + static_cast<std::size_t>(t - there->loose.begin())});
    }

    [[nodiscard]] Node next(const Node& node) {
        const unsigned way = way_of(node);
        Node found = node;
        if (way == kLoose) {
            const LooseTurn turn = turn_of(node);
            each_at(turn.to, [&](Node other) {
                const LooseTurn arrives = turn_of(other);
                if (arrives.from == turn.at && arrives.at == turn.to && is_loose_in(other)) found = other;
            });
            return found;
        }
        const Corner& c = *corner(node);
        const Point from{c.x, c.y}, step = kStep[way];
        if (step.y == 0) return along_row(node, from, static_cast<int>(way), step.x);
        const auto inside = [&](Point p) {
            return p.x >= 0 && p.y >= 0 && p.x <= trace_.cells.w && p.y <= trace_.cells.h;
        };
        for (Point p = from + step; inside(p) && found == node; p = p + step)
            each_corner_at(p, [&](Node other) {
                if (corner(other)->in == way) found = other;
            });
        return found;
    }
    [[nodiscard]] bool is_loose_in(const Node& node) const {
        const Corner* const c = corner(node);
        return !c || c->in == kLoose;
    }
    [[nodiscard]] Node along_row(const Node& node, Point from, int way, int step) const {
        const Point at{from.x / side_, from.y / side_};
        for (int px = at.x; px >= 0 && px < trace_.part_count.w; px += step) {
            const std::size_t number = number_of({px, at.y});
            const Part* const there = trace_.parts[number].get();
            if (!there) continue;
            const auto [first, last] = row(*there, from.y % side_);
            const auto arrives = [&](std::size_t i) {
                const Corner& c = there->corners[i];
                return c.in == way && (step > 0 ? c.x > from.x : c.x < from.x);
            };
            if (step > 0) {
                for (std::size_t i = first; i < last; ++i)
                    if (arrives(i)) return {number, i};
            } else {
                for (std::size_t i = last; i > first; --i)
                    if (arrives(i - 1)) return {number, i - 1};
            }
        }
        return node;
    }

    void walk(Node node, std::vector<Outline>& out) {
        if (walked_[first_of_[node.part] + node.index]) return;
        Outline outline;
        std::int64_t area = 0;
        for (char* here = nullptr; !*(here = &walked_[first_of_[node.part] + node.index]); node = next(node)) {
            *here = 1;
            const Point p = turn_of(node).at;
            if (!outline.points.empty())
                area += std::int64_t{outline.points.back().x} * p.y - std::int64_t{p.x} * outline.points.back().y;
            outline.points.push_back(p);
        }
        const Point a = outline.points.back(), b = outline.points.front();
        area += std::int64_t{a.x} * b.y - std::int64_t{b.x} * a.y;
        outline.hole = area < 0;
        out.push_back(std::move(outline));
    }

    const Trace& trace_;
    int side_;
    std::vector<std::size_t> first_of_, at_corners_; // by part
    std::vector<char> walked_;                       // by node
};

} // namespace

std::vector<Outline> outlines(const Trace& trace, const std::vector<Outline>& before, const std::vector<Box>& differ,
                              Point by) {
    if (differ.empty()) return before;
    Box near;
    for (const Box& box : differ) near = united(near, box);
    const Box turned{near.x * kUnit, near.y * kUnit, near.w * kUnit, near.h * kUnit}; // where those parts' points lie
    const Box window = turned.grown(2);
    // Those of which a line comes there are walked again.
    std::vector<char> goes(before.size(), 0);
    std::size_t all = 0, gone = 0;
    std::vector<std::pair<Point, Point>> starts; // beyond those parts, and where they go on to
    for (std::size_t i = 0; i < before.size(); ++i) {
        const std::vector<Point>& points = before[i].points;
        for (std::size_t k = 0; k < points.size(); ++k) {
            const Point a = points[k] - by, b = points[k + 1 < points.size() ? k + 1 : 0] - by;
            const Box line{std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x) + 1, std::abs(a.y - b.y) + 1};
            if (intersection(line, window).empty()) continue;
            goes[i] = 1;
            if (!turned.contains(a)) starts.emplace_back(a, b);
        }
        all += points.size();
        gone += goes[i] ? points.size() : 0;
    }
    const bool bent =
        std::any_of(trace.parts.begin(), trace.parts.end(), [](const auto& p) { return p && !p->bends.empty(); });
    std::vector<Outline> fresh;
    // Bends are left out where no line comes near, whosesoever: that is asked of all at once.
    const bool anew = bent || 2 * gone > all || all == 0;
    if (anew) {
        fresh = outlines(trace);
        std::fill(goes.begin(), goes.end(), char{1});
    } else {
        Walker walker(trace);
        const int side = static_cast<int>(trace.grain);
        const Box parts =
            intersection({near.x / side, near.y / side, near.w / side, near.h / side}, box_of(trace.part_count));
        for (int y = parts.y; y < parts.bottom(); ++y)
            for (int x = parts.x; x < parts.right(); ++x) walker.from_part({x, y}, fresh);
        for (const auto& [at, towards] : starts) walker.from(at, towards, fresh);
        tidy(fresh);
    }
    for (Outline& o : fresh)
        for (Point& p : o.points) p = p + by;
    std::vector<Outline> out;
    out.reserve(before.size() + fresh.size());
    auto next = fresh.begin();
    for (std::size_t i = 0; i < before.size(); ++i) {
        if (goes[i]) continue;
        for (; next != fresh.end() && earlier(*next, before[i]); ++next) out.push_back(std::move(*next));
        out.push_back(before[i]);
    }
    std::move(next, fresh.end(), std::back_inserter(out));
    return out;
}

} // namespace vic::outline
