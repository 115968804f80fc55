// From the corners of a trace to its outlines.
#include <algorithm>
#include <array>
#include <bit>
#include <cassert>
#include <iterator>
#include <utility>

#include "base/parallel.hpp"
#include "outline/free.hpp"
#include "outline/loose.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

using level::kChunk;

namespace {

enum Way : unsigned { kNorth, kNorthEast, kEast, kSouth = 4, kWest = 6, kNorthWest };

constexpr std::uint32_t kNone = 0xFFFFFFFF;

// Turning points linked to the next along their outline: first corners part by part, so that those near one another lie
// near in memory, too, then the loose turns that are no corners of the lattice.
struct Links {
    struct Node {
        std::uint16_t x = 0, y = 0; // lattice point, of corners
        std::uint32_t next = kNone;
    };
    std::vector<Node> nodes;
    std::vector<std::uint32_t> first_of; // by part: its first corner's node
    std::vector<Point> beyond;           // 1/64 cells: where the nodes after all corners lie
    bool loose = false;
    // Of outlines along the lattice, which are linked and walked in two halves: the first node of the lower one, and
    // the nodes of each half that are entered from the other.
    std::uint32_t split = 0;
    std::array<std::vector<std::uint32_t>, 2> entered;

    [[nodiscard]] std::size_t corners() const { return nodes.size() - beyond.size(); }
    [[nodiscard]] Point at(std::size_t node) const {
        if (node >= corners()) return beyond[node - corners()];
        return {nodes[node].x * kUnit, nodes[node].y * kUnit};
    }
};

// visit(number of the part, its corners in that row), from top to bottom and left to right, for rows of parts.
template <class Visit>
void each_row(const Trace& trace, int from, int to, const Visit& visit) {
    for (int py = from; py < to; ++py)
        for (std::size_t row = 0; row < static_cast<std::size_t>(trace.grain); ++row)
            for (int px = 0; px < trace.part_count.w; ++px) {
                const auto number = static_cast<std::size_t>(py * trace.part_count.w + px);
                const Part* const part = trace.parts[number].get();
                if (part && part->row_start[row] != part->row_start[row + 1])
                    visit(number, std::size_t{part->row_start[row]}, std::size_t{part->row_start[row + 1]});
            }
}

// Gives the loose turns that are no corners their places, and links all loose lines.
void link_loose(const Trace& trace, std::vector<std::uint32_t>& node_of, Links& out) {
    struct End {
        std::uint64_t from, to; // of the line: its places, as one number each
        std::uint32_t node;
    };
    const auto place = [](Point p) {
        return std::uint64_t{static_cast<std::uint32_t>(p.x)} << 32 | static_cast<std::uint32_t>(p.y);
    };
    std::vector<End> arriving, leaving;
    std::size_t index = 0;
    for (const auto& part : trace.parts) {
        if (!part) continue;
        for (const LooseTurn& turn : part->loose) {
            std::uint32_t& node = node_of[index++];
            if (node == kNone) {
                node = static_cast<std::uint32_t>(out.nodes.size());
                out.nodes.emplace_back();
                out.beyond.push_back(turn.at);
            }
            if (turn.from != turn.at) arriving.push_back({place(turn.from), place(turn.at), node});
            if (turn.to != turn.at) leaving.push_back({place(turn.at), place(turn.to), node});
        }
    }
    assert(arriving.size() == leaving.size());
    // Each line is found where its two places lead in a table that stays half empty.
    const std::size_t room = std::bit_ceil(2 * leaving.size() + 1);
    std::vector<std::uint32_t> table(room, kNone); // of those that leave: which
    const auto home = [room](const End& e) {
        const std::uint64_t mixed = (e.from * 0x9E3779B97F4A7C15ULL ^ e.to) * 0xD6E8FEB86659FD93ULL;
        return static_cast<std::size_t>(mixed >> 32) & (room - 1);
    };
    for (std::uint32_t i = 0; i < leaving.size(); ++i) {
        std::size_t at = home(leaving[i]);
        while (table[at] != kNone) at = (at + 1) & (room - 1);
        table[at] = i;
    }
    for (const End& end : arriving)
        for (std::size_t at = home(end); table[at] != kNone; at = (at + 1) & (room - 1)) {
            End& other = leaving[table[at]];
            if (other.from != end.from || other.to != end.to || other.node == kNone) continue;
            out.nodes[std::exchange(other.node, kNone)].next = end.node;
            break;
        }
}

// The sweep over some rows of parts: which corner is open on each line of the lattice.
class Sweep {
  public:
    Sweep(const Trace& trace, Links& links, const std::vector<std::size_t>& first_loose,
          std::vector<std::uint32_t>& node_of)
        : trace_(trace),
          links_(links),
          first_loose_(first_loose),
          node_of_(node_of),
          height_(static_cast<std::size_t>(trace.cells.h) + 1) {
        const auto width = static_cast<std::size_t>(trace.cells.w) + 1;
        column_.resize(width, kNone);
        falling_.resize(width + height_, kNone);
        rising_.resize(width + height_, kNone);
    }
    void over(int from, int to) {
        each_row(trace_, from, to,
                 [&](std::size_t number, std::size_t begin, std::size_t end) { row(number, begin, end); });
    }
    // Links what lines from before the rows of another sweep led to; that one began right below this one.
    void close(const Sweep& below) {
        for (const Pending& p : below.pending_) {
            const std::uint32_t partner = open(p.way, p.corner);
            if (p.arrives)
                links_.nodes[partner].next = p.node;
            else
                links_.nodes[p.node].next = partner;
        }
    }

  private:
    struct Pending { // a corner whose partner lies above what is swept
        Corner corner;
        unsigned way; // to the partner
        std::uint32_t node;
        bool arrives; // whether the outline comes from there
    };
    std::uint32_t& open(unsigned way, const Corner& c) {
        switch (way & 3U) {
            case kNorth:
                return column_[c.x];
            case kNorthEast:
                return rising_[std::size_t{c.x} + c.y];
            case kEast:
                return row_;
            default:
                return falling_[std::size_t{c.x} + height_ - 1 - c.y];
        }
    }
    static bool backward(unsigned way) { return way <= kNorthEast || way >= kWest; }
    void row(std::size_t number, std::size_t begin, std::size_t end) {
        const Part& part = *trace_.parts[number];
        const std::uint32_t base = links_.first_of[number];
        for (std::size_t i = begin; i < end;) {
            const Corner* const head = &part.corners[i];
            const auto first = base + static_cast<std::uint32_t>(i);
            for (; i < end && part.corners[i].x == head->x; ++i) {
                links_.nodes[base + i].x = head->x;
                links_.nodes[base + i].y = head->y;
            }
            const auto count = base + static_cast<std::uint32_t>(i) - first;
            // All lines that end here are closed before others are opened on the same line.
            for (std::uint32_t k = 0; k < count; ++k) {
                const Corner& c = head[k];
                const std::uint32_t me = first + k;
                if (c.in == kLoose || c.out == kLoose) node_of_[first_loose_[number] + c.turn] = me;
                if (c.in != kLoose) {
                    const unsigned came_from = (c.in + 4U) & 7U;
                    if (backward(came_from)) {
                        if (const std::uint32_t partner = open(came_from, c); partner != kNone)
                            links_.nodes[partner].next = me;
                        else
                            pending_.push_back({c, came_from, me, true});
                    }
                }
                if (c.out != kLoose && backward(c.out)) {
                    if (const std::uint32_t partner = open(c.out, c); partner != kNone)
                        links_.nodes[me].next = partner;
                    else
                        pending_.push_back({c, c.out, me, false});
                }
            }
            for (std::uint32_t k = 0; k < count; ++k) {
                const Corner& c = head[k];
                const std::uint32_t me = first + k;
                if (c.in != kLoose) {
                    const unsigned came_from = (c.in + 4U) & 7U;
                    if (!backward(came_from)) open(came_from, c) = me;
                }
                if (c.out != kLoose && !backward(c.out)) open(c.out, c) = me;
            }
        }
    }

    const Trace& trace_;
    Links& links_;
    const std::vector<std::size_t>& first_loose_;
    std::vector<std::uint32_t>& node_of_;
    std::size_t height_;
    std::uint32_t row_ = kNone;
    std::vector<std::uint32_t> column_, falling_, rising_;
    std::vector<Pending> pending_;
};

// The same where there are neither slopes nor loose lines, as in most levels: a part at a time, each corner with one
// upright and one level line.
class StraightSweep {
  public:
    StraightSweep(const Trace& trace, Links& links)
        : trace_(trace),
          links_(links),
          in_part_(static_cast<std::uint16_t>(static_cast<int>(trace.grain) - 1)),
          column_(static_cast<std::size_t>(trace.cells.w) + 1, kNone) {}
    void over(int from, int to) {
        for (int py = from; py < to; ++py)
            for (int px = 0; px < trace_.part_count.w; ++px) {
                const auto number = static_cast<std::size_t>(py * trace_.part_count.w + px);
                if (const Part* const one = trace_.parts[number].get()) part(*one, links_.first_of[number]);
            }
    }
    void close(const StraightSweep& below) {
        for (const Pending& p : below.pending_) {
            const std::uint32_t partner = column_[p.x];
            if (p.arrives)
                links_.nodes[partner].next = p.node;
            else
                links_.nodes[p.node].next = partner;
            links_.entered[p.arrives ? 1 : 0].push_back(p.arrives ? p.node : partner);
        }
    }

  private:
    struct Pending { // a corner whose partner lies above what is swept
        std::uint16_t x;
        bool arrives; // whether the outline comes from there
        std::uint32_t node;
    };
    void join(std::uint32_t open, std::uint32_t me, bool arrives) {
        links_.nodes[arrives ? open : me].next = arrives ? me : open;
    }
    void close_level(const Corner& c, std::uint32_t me) {
        if (c.in == kEast || c.out == kWest) join(row_[c.y & in_part_], me, c.in == kEast);
    }
    void close_upright(const Corner& c, std::uint32_t me) {
        if (c.in != kSouth && c.out != kNorth) return;
        const std::uint32_t open = column_[c.x];
        if (open == kNone)
            pending_.push_back({c.x, c.in == kSouth, me});
        else
            join(open, me, c.in == kSouth);
    }
    void part(const Part& part, std::uint32_t first) {
        const std::size_t count = part.corners.size();
        for (std::size_t i = 0; i < count; ++i) {
            const Corner& c = part.corners[i];
            const std::uint32_t me = first + static_cast<std::uint32_t>(i);
            links_.nodes[me].x = c.x;
            links_.nodes[me].y = c.y;
            close_level(c, me);
            close_upright(c, me);
            if (i + 1 < count && part.corners[i + 1].x == c.x && part.corners[i + 1].y == c.y) {
                // Two masses meet here: what ends at the point is closed before anything is opened.
                const Corner& other = part.corners[++i];
                links_.nodes[me + 1].x = c.x;
                links_.nodes[me + 1].y = c.y;
                close_level(other, me + 1);
                close_upright(other, me + 1);
                row_[c.y & in_part_] = c.in == kWest || c.out == kEast ? me : me + 1;
                column_[c.x] = c.in == kNorth || c.out == kSouth ? me : me + 1;
                continue;
            }
            // Of a line that was closed nobody asks before another begins on it.
            row_[c.y & in_part_] = me;
            column_[c.x] = me;
        }
    }

    const Trace& trace_;
    Links& links_;
    std::uint16_t in_part_;                   // these bits of a row tell which it is of its part
    std::vector<std::uint32_t> column_;       // which corner is open on each upright line
    std::array<std::uint32_t, kChunk> row_{}; // and on each level one of the row of parts
    std::vector<Pending> pending_;
};

// Whether all outlines run along the lattice's own lines.
bool is_straight(const Trace& trace) {
    return std::all_of(trace.parts.begin(), trace.parts.end(),
                       [](const auto& part) { return part == nullptr || part->straight; });
}

Links link(const Trace& trace) {
    Links out;
    std::uint32_t total = 0;
    for (const auto& part : trace.parts) {
        out.first_of.push_back(total);
        total += part ? static_cast<std::uint32_t>(part->corners.size()) : 0;
    }
    out.nodes.resize(total);
    std::vector<std::size_t> first_loose(trace.parts.size() + 1, 0);
    for (std::size_t i = 0; i < trace.parts.size(); ++i)
        first_loose[i + 1] = first_loose[i] + (trace.parts[i] ? trace.parts[i]->loose.size() : 0);
    std::vector<std::uint32_t> node_of(first_loose.back(), kNone);
    out.loose = !node_of.empty();
    // In two halves of as many corners.
    constexpr std::uint32_t kLarge = 20'000; // corners from which on a second thread is worth its while
    int half = trace.part_count.h;
    if (total >= kLarge)
        for (half = 0; half < trace.part_count.h &&
                       out.first_of[static_cast<std::size_t>(half * trace.part_count.w)] < total / 2;)
            ++half;
    out.split = half < trace.part_count.h ? out.first_of[static_cast<std::size_t>(half * trace.part_count.w)] : total;
    const auto sweep = [&](auto upper, auto lower) {
        parallel_both(
            half < trace.part_count.h, [&] { upper.over(0, half); }, [&] { lower.over(half, trace.part_count.h); });
        upper.close(lower);
    };
    if (is_straight(trace))
        sweep(StraightSweep(trace, out), StraightSweep(trace, out));
    else
        sweep(Sweep(trace, out, first_loose, node_of), Sweep(trace, out, first_loose, node_of));
    if (out.loose) link_loose(trace, node_of, out);
    return out;
}

} // namespace

bool earlier(const Outline& a, const Outline& b) {
    const Point p = a.points.front(), q = b.points.front();
    return p == q ? a.points < b.points : std::pair(p.y, p.x) < std::pair(q.y, q.x);
}

// Loose lines may go on straight, and their points come in no order.
void tidy(std::vector<Outline>& all) {
    std::vector<Point> kept;
    for (Outline& o : all) {
        kept.clear();
        const std::size_t n = o.points.size();
        const auto straight = [](Point a, Point b, Point c) {
            return std::int64_t{b.x - a.x} * (c.y - b.y) == std::int64_t{b.y - a.y} * (c.x - b.x);
        };
        // From a point that surely stays: the first in reading order is a corner of the outline.
        const auto first = static_cast<std::size_t>(
            std::min_element(o.points.begin(), o.points.end(),
                             [](Point a, Point b) { return std::pair(a.y, a.x) < std::pair(b.y, b.x); }) -
            o.points.begin());
        for (std::size_t i = 0; i < n; ++i) {
            const Point p = o.points[(first + i) % n];
            while (kept.size() >= 2 && straight(kept[kept.size() - 2], kept.back(), p)) kept.pop_back();
            kept.push_back(p);
        }
        while (kept.size() >= 3 && straight(kept[kept.size() - 2], kept.back(), kept.front())) kept.pop_back();
        o.points.assign(kept.begin(), kept.end());
    }
    std::sort(all.begin(), all.end(), earlier);
}

namespace {

// In the reading order of the first points: by rows, then along each.
std::vector<Outline> in_reading_order(std::vector<Outline> all, int rows) {
    std::vector<std::uint32_t> begin(static_cast<std::size_t>(rows) + 2, 0);
    const auto row_of = [](const Outline& o) { return static_cast<std::size_t>(o.points.front().y / kUnit); };
    for (const Outline& o : all) ++begin[row_of(o) + 1];
    for (std::size_t y = 1; y < begin.size(); ++y) begin[y] += begin[y - 1];
    std::vector<std::pair<int, std::uint32_t>> order(all.size()); // where it begins in its row, and which it is
    std::vector<std::uint32_t> next = begin;
    for (std::uint32_t i = 0; i < all.size(); ++i) order[next[row_of(all[i])]++] = {all[i].points.front().x, i};
    std::vector<Outline> sorted;
    sorted.reserve(all.size());
    for (std::size_t y = 0; y + 1 < begin.size(); ++y) {
        std::sort(order.begin() + begin[y], order.begin() + begin[y + 1]);
        for (std::uint32_t i = begin[y]; i < begin[y + 1]; ++i) sorted.push_back(std::move(all[order[i].second]));
    }
    return sorted;
}

// A part of an outline along the lattice's lines, from where it enters one half to where it leaves it.
struct Stretch {
    std::uint32_t from, to; // its first node, and the first one after it, in the other half
    std::vector<Point> points;
};

// Which is a hole needs no area: from its first point in reading order a mass goes on to the right, a hole down.
Outline closed(const std::vector<Point>& way, std::size_t first) {
    Outline out;
    out.points.reserve(way.size());
    const auto middle = way.begin() + static_cast<std::ptrdiff_t>(first);
    out.points.insert(out.points.end(), middle, way.end());
    out.points.insert(out.points.end(), way.begin(), middle);
    out.hole = out.points[0].y != out.points[1].y;
    return out;
}

// Walks all that lies in one half.
void walk_half(std::vector<Links::Node>& nodes, std::uint32_t begin, std::uint32_t end,
               const std::vector<std::uint32_t>& entered, std::vector<Stretch>& stretches, std::vector<Outline>& out) {
    for (const std::uint32_t from : entered) {
        Stretch& stretch = stretches.emplace_back(Stretch{from, from, {}});
        do {
            Links::Node& node = nodes[stretch.to];
            stretch.points.push_back({node.x * kUnit, node.y * kUnit});
            stretch.to = std::exchange(node.next, kNone);
        } while (stretch.to >= begin && stretch.to < end);
    }
    std::vector<Point> way; // of one outline, so that each is copied once, as long as it is
    for (std::uint32_t start = begin; start < end; ++start) {
        if (nodes[start].next == kNone) continue; // walked already
        way.clear();
        std::uint32_t least = 0xFFFFFFFF;
        std::size_t first = 0;
        for (std::uint32_t at = start; nodes[at].next != kNone;) {
            Links::Node& node = nodes[at];
            const std::uint32_t place = std::uint32_t{node.y} << 16 | node.x;
            first = place < least ? way.size() : first;
            least = std::min(least, place);
            way.push_back({node.x * kUnit, node.y * kUnit});
            at = std::exchange(node.next, kNone);
        }
        out.push_back(closed(way, first));
    }
}

// Puts together what runs through both halves.
void join_stretches(std::vector<Stretch>& stretches, std::vector<Outline>& out) {
    std::sort(stretches.begin(), stretches.end(), [](const Stretch& a, const Stretch& b) { return a.from < b.from; });
    std::vector<Point> way;
    for (Stretch& start : stretches) {
        if (start.points.empty()) continue; // used already
        way.clear();
        for (Stretch* at = &start; !at->points.empty();) {
            way.insert(way.end(), at->points.begin(), at->points.end());
            at->points.clear();
            at = &*std::lower_bound(stretches.begin(), stretches.end(), at->to,
                                    [](const Stretch& s, std::uint32_t node) { return s.from < node; });
        }
        const auto first = std::min_element(way.begin(), way.end(),
                                            [](Point a, Point b) { return std::pair(a.y, a.x) < std::pair(b.y, b.x); });
        out.push_back(closed(way, static_cast<std::size_t>(first - way.begin())));
    }
}

// Of outlines along the lattice's lines. They are walked as their corners lie in memory, in two halves, and put in
// order afterwards: going over the corners row by row, through all parts, took most of the time.
std::vector<Outline> straight_outlines(const Trace& trace) {
    Links links = link(trace);
    const auto all = static_cast<std::uint32_t>(links.nodes.size());
    std::array<std::vector<Stretch>, 2> stretches;
    std::vector<Outline> out, lower;
    parallel_both(
        links.split < all, [&] { walk_half(links.nodes, 0, links.split, links.entered[0], stretches[0], out); },
        [&] { walk_half(links.nodes, links.split, all, links.entered[1], stretches[1], lower); });
    std::move(stretches[1].begin(), stretches[1].end(), std::back_inserter(stretches[0]));
    out.insert(out.end(), std::move_iterator(lower.begin()), std::move_iterator(lower.end()));
    join_stretches(stretches[0], out);
    return in_reading_order(std::move(out), trace.cells.h);
}

} // namespace

std::vector<Outline> outlines(const Trace& trace) {
    if (is_straight(trace)) return straight_outlines(trace);
    Links links = link(trace);
    std::vector<Outline> out;
    std::vector<Point> way; // of one outline, so that each is copied once, as long as it is
    const auto walk = [&](std::size_t start) {
        if (links.nodes[start].next == kNone) return; // walked already
        way.clear();
        std::int64_t area = 0;
        for (std::size_t at = start; links.nodes[at].next != kNone;) {
            const Point p = links.at(at);
            if (!way.empty()) area += std::int64_t{way.back().x} * p.y - std::int64_t{p.x} * way.back().y;
            way.push_back(p);
            at = std::exchange(links.nodes[at].next, kNone);
        }
        area += std::int64_t{way.back().x} * way.front().y - std::int64_t{way.front().x} * way.back().y;
        out.push_back({way, area < 0});
    };
    each_row(trace, 0, trace.part_count.h, [&](std::size_t number, std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) walk(links.first_of[number] + i);
    });
    for (std::size_t loose = links.corners(); loose < links.nodes.size(); ++loose) walk(loose);
    if (!links.loose) {
        // Those that begin at one point came as its corners lie.
        for (std::size_t i = 1; i < out.size(); ++i)
            if (earlier(out[i], out[i - 1])) std::swap(out[i], out[i - 1]);
        return out;
    }
    std::vector<Point> bends;
    for (const auto& part : trace.parts)
        if (part) bends.insert(bends.end(), part->bends.begin(), part->bends.end());
    std::sort(bends.begin(), bends.end());
    if (!bends.empty()) straighten(out, bends);
    tidy(out);
    return out;
}

} // namespace vic::outline
