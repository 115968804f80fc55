#include "mass/shell.hpp"

#include <algorithm>
#include <map>
#include <unordered_map>
#include <utility>

#include "outline/convex.hpp"

namespace vic::mass {

namespace {

// The corners that lie at one height, found along the lines that they may lie on.
class Lines {
  public:
    void add(Point p) {
        rows_[p.y].push_back(p.x);
        columns_[p.x].push_back(p.y);
    }
    void settle() {
        for (auto* lines : {&rows_, &columns_})
            for (auto& [at, along] : *lines) {
                std::sort(along.begin(), along.end());
                along.erase(std::unique(along.begin(), along.end()), along.end());
            }
    }
    // a, and those between a and b in their order.
    void along(Point a, Point b, std::vector<Point>& out) const {
        out.push_back(a);
        const std::size_t first = out.size();
        if (a.y == b.y) {
            each(rows_, a.y, std::min(a.x, b.x), std::max(a.x, b.x), [&](int x) { out.push_back({x, a.y}); });
        } else if (a.x == b.x) {
            each(columns_, a.x, std::min(a.y, b.y), std::max(a.y, b.y), [&](int y) { out.push_back({a.x, y}); });
        } else {
            const std::int64_t dx = b.x - a.x, dy = b.y - a.y;
            for (auto row = rows_.upper_bound(std::min(a.y, b.y));
                 row != rows_.end() && row->first < std::max(a.y, b.y); ++row)
                if (const std::int64_t over = (row->first - a.y) * dx; over % dy == 0)
                    if (const auto x = static_cast<int>(a.x + over / dy);
                        std::binary_search(row->second.begin(), row->second.end(), x))
                        out.push_back({x, row->first});
        }
        const auto from = out.begin() + static_cast<std::ptrdiff_t>(first);
        if (std::pair(b.y, b.x) < std::pair(a.y, a.x)) std::reverse(from, out.end());
    }

  private:
    using ByPlace = std::map<int, std::vector<int>>;
    template <class Visit>
    static void each(const ByPlace& lines, int at, int from, int to, const Visit& visit) {
        const auto line = lines.find(at);
        if (line == lines.end()) return;
        for (auto it = std::upper_bound(line->second.begin(), line->second.end(), from);
             it != line->second.end() && *it < to; ++it)
            visit(*it);
    }
    ByPlace rows_, columns_;
};

class Builder {
  public:
    explicit Builder(const Mass& mass) : mass_(mass) {}

    Shell build() {
        std::vector<std::vector<std::vector<Point>>> parts; // by level
        for (const Level& level : mass_.levels) {
            parts.push_back(outline::convex_parts(*level.outlines));
            for (const auto& part : parts.back())
                for (const Point p : part) corners_[level.height].add(p);
        }
        const std::vector<Wall> walls = walls_of(mass_);
        for (const Wall& w : walls)
            for (const Point p : w.outline->points) {
                corners_[w.from].add(p);
                corners_[w.to].add(p);
            }
        for (auto& [height, corners] : corners_) corners.settle();
        for (std::size_t i = 0; i < mass_.levels.size(); ++i)
            for (const auto& part : parts[i]) floor(mass_.levels[i], part);
        for (const Wall& w : walls)
            for (std::size_t i = 0; i < w.outline->points.size(); ++i)
                wall(w, w.outline->points[i], w.outline->points[(i + 1) % w.outline->points.size()]);
        for (const auto& body : mass_.bodies) {
            out_.polygons += static_cast<int>(body->points.size()); // about as many faces as corners
            for (const auto& t : body->triangles) {
                Shell::Triangle& triangle = out_.triangles.emplace_back();
                triangle.storey = body->storey;
                for (std::size_t k = 0; k < 3; ++k) {
                    const std::array<int, 3>& p = body->points[t[k]];
                    triangle.corners[k] = number({p[0], p[2]}, p[1]);
                }
            }
        }
        return std::move(out_);
    }

  private:
    std::uint32_t number(Point p, int height) {
        constexpr int kFar = 1 << 20; // 21 bits each: levels and pieces end before
        const auto bits = [](int v) {
            return static_cast<std::uint64_t>(static_cast<std::uint32_t>(v + kFar) & 0x1FFFFFU);
        };
        const auto [found, fresh] = numbers_.try_emplace(bits(p.x) << 42 | bits(height) << 21 | bits(p.y),
                                                         static_cast<std::uint32_t>(out_.points.size()));
        if (fresh) out_.points.push_back({p.x, height, p.y});
        return found->second;
    }

    // A convex part, clockwise on the plan: with y up that is counter-clockwise from above seen in x and -z.
    void floor(const Level& level, const std::vector<Point>& part) {
        std::vector<Point> round;
        for (std::size_t i = 0; i < part.size(); ++i)
            corners_.at(level.height).along(part[i], part[(i + 1) % part.size()], round);
        ++out_.polygons;
        const auto turn = [](Point a, Point b, Point c) {
            return std::int64_t{b.x - a.x} * (c.y - b.y) - std::int64_t{b.y - a.y} * (c.x - b.x);
        };
        // Corner by corner is cut off, those first that lie beside a corner on a straight line: so none of these is
        // left without anything to be cut off with.
        while (round.size() > 3) {
            const std::size_t n = round.size();
            const auto at = [&](std::size_t i) { return round[i % n]; };
            const auto straight = [&](std::size_t i) { return turn(at(i + n - 1), at(i), at(i + 1)) == 0; };
            std::size_t cut = n;
            for (std::size_t i = 0; i < n; ++i) {
                if (straight(i)) continue;
                if (cut == n) cut = i;
                if (straight((i + 1) % n) || straight((i + n - 1) % n)) {
                    cut = i;
                    break;
                }
            }
            if (cut == n) return; // nothing but a line
            triangle(level, at(cut + n - 1), at(cut), at(cut + 1));
            round.erase(round.begin() + static_cast<std::ptrdiff_t>(cut));
        }
        if (round.size() == 3 && turn(round[0], round[1], round[2]) != 0) triangle(level, round[0], round[1], round[2]);
    }
    void triangle(const Level& level, Point a, Point b, Point c) {
        const std::uint32_t x = number(a, level.height), y = number(b, level.height), z = number(c, level.height);
        // Clockwise on the plan looks down.
        if (level.up)
            out_.triangles.push_back({{x, z, y}, level.storey});
        else
            out_.triangles.push_back({{x, y, z}, level.storey});
    }

    // What blocks lies to the right of the way from a to b; outside is to the left.
    void wall(const Wall& slab, Point a, Point b) {
        std::vector<Point> lower, upper;
        corners_.at(slab.from).along(a, b, lower);
        corners_.at(slab.to).along(a, b, upper);
        lower.push_back(b);
        upper.push_back(b);
        ++out_.polygons;
        // From end to end, whichever of the two comes less far first.
        const auto far = [&](Point p) { return std::abs(p.x - a.x) + std::abs(p.y - a.y); };
        std::size_t i = 0, k = 0;
        while (i + 1 < lower.size() || k + 1 < upper.size()) {
            const bool below =
                k + 1 == upper.size() || (i + 1 < lower.size() && far(lower[i + 1]) <= far(upper[k + 1]));
            const std::uint32_t l = number(lower[i], slab.from), u = number(upper[k], slab.to);
            if (below)
                out_.triangles.push_back({{l, u, number(lower[++i], slab.from)}, slab.storey});
            else
                out_.triangles.push_back({{l, u, number(upper[++k], slab.to)}, slab.storey});
        }
    }

    const Mass& mass_;
    Shell out_;
    std::map<int, Lines> corners_;                             // by height
    std::unordered_map<std::uint64_t, std::uint32_t> numbers_; // by place
};

} // namespace

std::vector<Wall> walls_of(const Mass& mass) {
    std::vector<Wall> out, open; // those that reach up to the slab at hand
    const auto less = [](const Wall& a, const Wall& b) { return a.outline->points < b.outline->points; };
    for (std::size_t i = 0; i < mass.slabs.size(); ++i) {
        const Slab& slab = mass.slabs[i];
        const bool goes_on = i > 0 && mass.slabs[i - 1].to == slab.from && mass.slabs[i - 1].storey == slab.storey;
        if (!goes_on) {
            out.insert(out.end(), open.begin(), open.end());
            open.clear();
        }
        std::vector<Wall> here;
        for (const outline::Outline& o : *slab.outlines) here.push_back({&o, slab.from, slab.to, slab.storey});
        std::sort(here.begin(), here.end(), less);
        auto before = open.begin();
        for (Wall& w : here) {
            for (; before != open.end() && less(*before, w); ++before) out.push_back(*before);
            if (before == open.end() || less(w, *before)) continue;
            w.from = before->from;
            ++before;
        }
        out.insert(out.end(), before, open.end());
        open = std::move(here);
    }
    out.insert(out.end(), open.begin(), open.end());
    return out;
}

Shell shell_of(const Mass& mass) { return Builder(mass).build(); }

} // namespace vic::mass
