// The fewest rectangles: proved by trying all ways on small grids, and by what a formula asks on large ones.
#include "outline/rectangles.hpp"

#include <algorithm>
#include <catch2/catch.hpp>
#include <unordered_map>

#include "outline/trace.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;

namespace {

std::vector<std::uint8_t> random_grid(make::Random& random, Size size, double share) {
    std::vector<std::uint8_t> out(static_cast<std::size_t>(size.area()));
    for (auto& c : out) c = random.flip(share);
    return out;
}

// Cellular caves: walls that hang together, with dents enough.
std::vector<std::uint8_t> caves(make::Random& random, Size size) {
    auto now = random_grid(random, size, 0.47);
    for (int round = 0; round < 4; ++round) {
        auto next = now;
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                int around = 0;
                for (int v = y - 1; v <= y + 1; ++v)
                    for (int u = x - 1; u <= x + 1; ++u)
                        around += !box_of(size).contains(Point{u, v}) || now[static_cast<std::size_t>(v * size.w + u)];
                next[static_cast<std::size_t>(y * size.w + x)] = around >= 5;
            }
        now = std::move(next);
    }
    return now;
}

// Whether the boxes are apart and together all that is full.
bool covers(const std::vector<Box>& boxes, Size size, std::vector<std::uint8_t> full) {
    for (const Box& b : boxes)
        for (int y = b.y; y < b.bottom(); ++y)
            for (int x = b.x; x < b.right(); ++x) {
                auto& c = full[static_cast<std::size_t>(y * size.w + x)];
                if (c != 1) return false;
                c = 2;
            }
    return std::count(full.begin(), full.end(), 1) == 0;
}

// The fewest by trying every rectangle for the first cell that is left.
struct Tried {
    Size size;
    std::unordered_map<std::uint32_t, int> known;
    int fewest(std::uint32_t left) {
        if (left == 0) return 0;
        if (const auto found = known.find(left); found != known.end()) return found->second;
        int first = 0;
        while ((left >> first & 1) == 0) ++first;
        const int x = first % size.w, y = first / size.w;
        int best = 99;
        for (int h = 1; y + h <= size.h; ++h)
            for (int w = 1; x + w <= size.w; ++w) {
                std::uint32_t mask = 0;
                for (int v = y; v < y + h; ++v)
                    for (int u = x; u < x + w; ++u) mask |= 1U << (v * size.w + u);
                if ((left & mask) != mask) break;
                best = std::min(best, 1 + fewest(left & ~mask));
            }
        return known[left] = best;
    }
};

int outlines_of(Size size, const std::vector<std::uint8_t>& full, int& holes, int& dents) {
    const auto all = outlines(trace(size, [&](const Box& box, SolidCode* out, std::size_t stride, Forms&) {
        for (int y = 0; y < box.h; ++y)
            for (int x = 0; x < box.w; ++x) {
                const Point p{box.x + x, box.y + y};
                out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)] =
                    box_of(size).contains(p) && full[static_cast<std::size_t>(p.y * size.w + p.x)] ? kFull : kOpen;
            }
        return 0;
    }));
    holes = dents = 0;
    for (const Outline& o : all) {
        holes += o.hole;
        const std::size_t n = o.points.size();
        for (std::size_t i = 0; i < n; ++i)
            dents += cross(o.points[i], o.points[(i + 1) % n], o.points[(i + 2) % n]) < 0;
    }
    return static_cast<int>(all.size());
}

} // namespace

TEST_CASE("no way has fewer rectangles: all ways of small grids were tried", "[rectangles]") {
    make::Random random(12);
    for (int round = 0; round < 600; ++round) {
        const Size size{2 + random.below(5), 2 + random.below(3)};
        const auto full = random_grid(random, size, 0.4 + 0.1 * random.below(6));
        const auto boxes = fewest_rectangles(size, full);
        REQUIRE(covers(boxes, size, full));
        std::uint32_t all = 0;
        for (std::size_t i = 0; i < full.size(); ++i) all |= std::uint32_t{full[i]} << i;
        Tried tried{size, {}};
        CHECK(static_cast<int>(boxes.size()) == tried.fewest(all));
    }
}

TEST_CASE("of caves they cover each cell once, are no more than dents ask for, and fewer than the greedy split",
          "[rectangles]") {
    make::Random random(4);
    for (int round = 0; round < 6; ++round) {
        const Size size{90 + random.below(80), 60 + random.below(80)};
        const auto full = caves(random, size);
        const auto boxes = fewest_rectangles(size, full);
        CHECK(covers(boxes, size, full));
        int holes = 0, dents = 0;
        const int all = outlines_of(size, full, holes, dents);
        CHECK(static_cast<int>(boxes.size()) <= dents + (all - holes) - holes); // each dent cut off by itself
        CHECK(static_cast<int>(boxes.size()) < rectangle_count(size, full));
    }
}

TEST_CASE("one rectangle is one, a frame four, nothing none", "[rectangles]") {
    CHECK(fewest_rectangles({3, 2}, {1, 1, 1, 1, 1, 1}) == std::vector<Box>{{0, 0, 3, 2}});
    CHECK(fewest_rectangles({3, 3}, {1, 1, 1, 1, 0, 1, 1, 1, 1}).size() == 4);
    CHECK(fewest_rectangles({3, 2}, {0, 0, 0, 0, 0, 0}).empty());
    CHECK(fewest_rectangles({0, 0}, {}).empty());
    // A cross takes three.
    CHECK(fewest_rectangles({3, 3}, {0, 1, 0, 1, 1, 1, 0, 1, 0}).size() == 3);
}
