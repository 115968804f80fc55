#include "sheet/islands.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <numeric>
#include <unordered_map>

#include "sheet/cut.hpp"

namespace vic::sheet {

namespace {

constexpr int kFarthest = 64; // the widest join gap
constexpr int kFaint = 8;     // alpha up to which a pixel counts as see-through
constexpr int kTolerance = 10;
constexpr int kMostGapProposed = 10;
constexpr int kLargestSpeck = 14; // pixels; among very large things more
constexpr int kMostSpeck = 64;

struct Joined {
    std::vector<int> parent;
    explicit Joined(std::size_t n) : parent(n) { std::iota(parent.begin(), parent.end(), 0); }
    int find(int i) {
        while (parent[static_cast<std::size_t>(i)] != i) {
            auto& p = parent[static_cast<std::size_t>(i)];
            p = parent[static_cast<std::size_t>(p)];
            i = p;
        }
        return i;
    }
    bool join(int a, int b) {
        a = find(a);
        b = find(b);
        if (a == b) return false;
        parent[static_cast<std::size_t>(std::max(a, b))] = std::min(a, b);
        return true;
    }
};

bool is_ground(Rgba c, Rgba ground) {
    if (ground.a == 0) return c.a <= kFaint;
    return std::abs(c.r - ground.r) <= kTolerance && std::abs(c.g - ground.g) <= kTolerance &&
           std::abs(c.b - ground.b) <= kTolerance && std::abs(c.a - ground.a) <= kTolerance;
}

} // namespace

Rgba ground_of(const Image& image) {
    for (const Rgba& c : image.pixels())
        if (c.a <= kFaint) return {};
    std::unordered_map<std::uint32_t, int> tally;
    const auto count = [&](int x, int y) {
        const Rgba c = image.at(x, y);
        ++tally[c.r | (std::uint32_t{c.g} << 8) | (std::uint32_t{c.b} << 16) | (std::uint32_t{c.a} << 24)];
    };
    for (int x = 0; x < image.width(); ++x) count(x, 0), count(x, image.height() - 1);
    for (int y = 0; y < image.height(); ++y) count(0, y), count(image.width() - 1, y);
    std::pair<std::uint32_t, int> most{0, 0};
    for (const auto& [key, n] : tally)
        if (n > most.second || (n == most.second && key < most.first)) most = {key, n};
    const auto byte = [&](int shift) { return static_cast<std::uint8_t>(most.first >> shift); };
    return {byte(0), byte(8), byte(16), byte(24)};
}

IslandMap::IslandMap(const Image& image, std::optional<level::Cut> lattice) {
    if (image.empty()) return;
    const int w = image.width();
    const int h = image.height();
    const Rgba ground = ground_of(image);
    // Labels from 1; first by runs of a row, joined with the runs above.
    std::vector<std::int32_t> label(static_cast<std::size_t>(w) * static_cast<std::size_t>(h), 0);
    const auto at = [&](int x, int y) {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x);
    };
    Joined same(1);
    for (int y = 0; y < h; ++y) {
        const Rgba* row = image.row(y);
        for (int x = 0; x < w;) {
            if (is_ground(row[x], ground)) {
                ++x;
                continue;
            }
            const int from = x;
            int mine = 0;
            for (; x < w && !is_ground(row[x], ground); ++x) label[at(x, y)] = -1;
            for (int above = std::max(0, from - 1); y > 0 && above <= std::min(w - 1, x); ++above) {
                const int other = label[at(above, y - 1)];
                if (other == 0) continue;
                if (mine == 0)
                    mine = other;
                else
                    same.join(mine, other);
            }
            if (mine == 0) {
                mine = static_cast<int>(same.parent.size());
                same.parent.push_back(mine);
            }
            for (int i = from; i < x; ++i) label[at(i, y)] = mine;
        }
    }
    std::vector<int> number(same.parent.size(), -1);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            auto& l = label[at(x, y)];
            if (l == 0) continue;
            auto& n = number[static_cast<std::size_t>(same.find(l))];
            if (n < 0) {
                n = static_cast<int>(parts_.size());
                parts_.push_back({{x, y, 1, 1}, 0});
            }
            Part& part = parts_[static_cast<std::size_t>(n)];
            part.box = united(part.box, {x, y, 1, 1});
            ++part.area;
            l = n + 1;
        }
    // The wave: each ground pixel belongs to the component that it is nearest to.
    std::vector<std::uint8_t> far(label.size(), 0);
    std::vector<std::uint32_t> front;
    const auto around = [&](std::uint32_t i, auto&& see) {
        const int x = static_cast<int>(i % static_cast<std::uint32_t>(w));
        const int y = static_cast<int>(i / static_cast<std::uint32_t>(w));
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx)
                if ((dx || dy) && x + dx >= 0 && y + dy >= 0 && x + dx < w && y + dy < h)
                    see(static_cast<std::uint32_t>(at(x + dx, y + dy)));
    };
    for (std::uint32_t i = 0; i < label.size(); ++i) {
        if (label[i] == 0) continue;
        bool rim = false;
        around(i, [&](std::uint32_t j) { rim = rim || label[j] == 0; });
        if (rim) front.push_back(i);
    }
    for (int distance = 1; distance <= kFarthest / 2 + 1 && !front.empty(); ++distance) {
        std::vector<std::uint32_t> next;
        for (const std::uint32_t i : front)
            around(i, [&](std::uint32_t j) {
                if (label[j] != 0) return;
                label[j] = label[i];
                far[j] = static_cast<std::uint8_t>(distance);
                next.push_back(j);
            });
        front = std::move(next);
    }
    std::unordered_map<std::uint64_t, int> nearest;
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const auto i = at(x, y);
            if (label[i] == 0) continue;
            const auto meet = [&](std::size_t j) {
                if (label[j] == 0 || label[j] == label[i]) return;
                const auto a = static_cast<std::uint64_t>(std::min(label[i], label[j]) - 1);
                const auto b = static_cast<std::uint64_t>(std::max(label[i], label[j]) - 1);
                const int gap = far[i] + far[j];
                const auto [known, fresh] = nearest.emplace((a << 32) | b, gap);
                if (!fresh) known->second = std::min(known->second, gap);
            };
            if (x + 1 < w) meet(at(x + 1, y));
            if (y + 1 < h) meet(at(x, y + 1));
            if (x + 1 < w && y + 1 < h) meet(at(x + 1, y + 1));
            if (x > 0 && y + 1 < h) meet(at(x - 1, y + 1));
        }
    for (const auto& [key, gap] : nearest)
        neighbours_.push_back({static_cast<int>(key >> 32), static_cast<int>(key & 0xFFFFFFFFU), gap});
    std::sort(neighbours_.begin(), neighbours_.end(), [](const Neighbours& p, const Neighbours& q) {
        return std::tuple(p.gap, p.a, p.b) < std::tuple(q.gap, q.a, q.b);
    });
    if (lattice) find_cells(*lattice, image);
    propose();
}

void IslandMap::find_cells(const level::Cut& lattice, const Image& image) {
    constexpr std::size_t kFewestCells = 4;
    const Rgba ground = ground_of(image);
    const auto art = [&](int x, int y) { return !is_ground(image.at(x, y), ground); };
    std::vector<Group> found;
    std::int64_t rims = 0, crossed = 0, covered = 0;
    for (const Box& cell : cut_boxes(lattice, image.size())) {
        Group g;
        for (int y = cell.y; y < cell.bottom(); ++y)
            for (int x = cell.x; x < cell.right(); ++x)
                if (art(x, y)) {
                    g.box = g.area == 0 ? Box{x, y, 1, 1} : united(g.box, {x, y, 1, 1});
                    ++g.area;
                }
        if (g.area == 0) continue;
        covered += g.area;
        rims += 2 * (cell.w + cell.h);
        for (int y = cell.y; y < cell.bottom(); ++y) {
            crossed += cell.x > 0 && art(cell.x, y) && art(cell.x - 1, y);
            crossed += cell.right() < image.width() && art(cell.right() - 1, y) && art(cell.right(), y);
        }
        for (int x = cell.x; x < cell.right(); ++x) {
            crossed += cell.y > 0 && art(x, cell.y) && art(x, cell.y - 1);
            crossed += cell.bottom() < image.height() && art(x, cell.bottom() - 1) && art(x, cell.bottom());
        }
        found.push_back(g);
    }
    std::int64_t all = 0;
    for (const Part& p : parts_) all += p.area;
    // Little goes over the lines, and nothing of note lies beside the cells.
    if (found.size() < kFewestCells || crossed * 100 > rims * 3 || covered * 100 < all * 97) return;
    cells_ = std::move(found);
}

std::vector<IslandMap::Group> IslandMap::groups(int join_gap, bool cells) const {
    if (cells && has_cells()) return cells_;
    Joined joined(parts_.size());
    for (const Neighbours& n : neighbours_) {
        if (n.gap > join_gap) break;
        joined.join(n.a, n.b);
    }
    std::vector<Group> out;
    std::vector<int> number(parts_.size(), -1);
    for (std::size_t i = 0; i < parts_.size(); ++i) {
        auto& n = number[static_cast<std::size_t>(joined.find(static_cast<int>(i)))];
        if (n < 0) {
            n = static_cast<int>(out.size());
            out.emplace_back();
        }
        Group& g = out[static_cast<std::size_t>(n)];
        g.box = united(g.box, parts_[i].box);
        g.area += parts_[i].area;
    }
    // What lies wholly within another's box belongs to it: the spark in a ring.
    std::sort(out.begin(), out.end(), [](const Group& a, const Group& b) {
        return std::tuple(-a.box.size().area(), a.box) < std::tuple(-b.box.size().area(), b.box);
    });
    std::vector<Group> kept;
    for (const Group& g : out) {
        const auto holder =
            std::find_if(kept.begin(), kept.end(), [&](const Group& k) { return k.box.contains(g.box); });
        if (holder == kept.end())
            kept.push_back(g);
        else
            holder->area += g.area;
    }
    return kept;
}

void IslandMap::propose() {
    if (parts_.empty()) return;
    if (has_cells()) { // parts of two cells never belong together
        proposed_ = {0, 1, true};
        return;
    }
    // The area that half of all pixels lie in parts of at least.
    std::vector<int> areas;
    for (const Part& p : parts_) areas.push_back(p.area);
    std::sort(areas.begin(), areas.end());
    const auto total = std::accumulate(areas.begin(), areas.end(), std::int64_t{0});
    std::int64_t sum = 0;
    int typical = areas.back();
    for (auto a = areas.rbegin(); a != areas.rend() && 2 * sum < total; ++a) {
        sum += *a;
        typical = *a;
    }
    const int largest = std::clamp(typical / 100, kLargestSpeck, kMostSpeck);
    const auto speck_below = [&](std::vector<int> of) {
        std::sort(of.begin(), of.end());
        int least = 1;
        double jump = 2.2;
        for (std::size_t i = 0; i + 1 < of.size() && of[i] <= largest && of[i] * 8 < typical; ++i) {
            const double ratio = double(of[i + 1]) / of[i];
            if (ratio >= jump) {
                jump = ratio;
                least = of[i] + 1;
            }
        }
        return least;
    };
    // Specks are left out before gaps are judged, lest they bridge them.
    const int small = speck_below(areas);
    std::vector<int> counts;
    for (int gap = 0; gap <= kMostGapProposed; ++gap) {
        int n = 0;
        for (const Group& g : groups(gap)) n += g.area >= small;
        counts.push_back(n);
    }
    int best_from = 0;
    int best_length = 0;
    for (int from = 0; from <= kMostGapProposed;) {
        int to = from;
        while (to < kMostGapProposed &&
               counts[static_cast<std::size_t>(to + 1)] == counts[static_cast<std::size_t>(from)])
            ++to;
        const int length = to - from + 1;
        // Joining that leaves but a few of many is no reading of a sheet: it has gone over the room between its things.
        const bool lumped = 5 * counts[static_cast<std::size_t>(from)] < 2 * counts.front();
        if (!lumped && (length > best_length || (length == best_length && from <= 3))) {
            best_length = length;
            best_from = from;
        }
        from = to + 1;
    }
    // Where the number falls with every pixel, parts and things stand equally close; only touching parts are joined.
    if (best_length < 2) best_from = 5 * counts[1] >= 3 * counts[0] ? 1 : 0;
    proposed_.join_gap = best_from;
    std::vector<int> joined_areas;
    for (const Group& g : groups(best_from)) joined_areas.push_back(g.area);
    proposed_.least_area = speck_below(joined_areas);
}

std::vector<Box> IslandMap::boxes(const IslandSettings& settings) const {
    std::vector<Box> found;
    for (const Group& g : groups(settings.join_gap, settings.cells))
        if (g.area >= settings.least_area) found.push_back(g.box);
    // Reading order: what overlaps the topmost's upper half in height stands in its row.
    std::sort(found.begin(), found.end(),
              [](const Box& a, const Box& b) { return std::tuple(a.y, a.x) < std::tuple(b.y, b.x); });
    std::vector<Box> out;
    while (!found.empty()) {
        const Box first = found.front();
        std::vector<Box> row;
        std::vector<Box> rest;
        for (const Box& b : found)
            (2 * b.y < 2 * first.y + first.h || b.bottom() <= first.bottom() ? row : rest).push_back(b);
        std::sort(row.begin(), row.end(),
                  [](const Box& a, const Box& b) { return std::tuple(a.x, a.y) < std::tuple(b.x, b.y); });
        out.insert(out.end(), row.begin(), row.end());
        found = std::move(rest);
    }
    return out;
}

int IslandMap::specks(const IslandSettings& settings) const {
    const auto all = groups(settings.join_gap, settings.cells);
    return static_cast<int>(
        std::count_if(all.begin(), all.end(), [&](const Group& g) { return g.area < settings.least_area; }));
}

} // namespace vic::sheet
