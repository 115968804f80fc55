// The union of crooked polygons covers what any of them covers.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cstdint>
#include <cstdlib>

#include "outline/solid.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {

// How often the polygons go round a point, given in half units so that it lies on no corner.
int winding(const Polygons& polygons, Point twice) {
    int around = 0;
    for (const Polygon& p : polygons)
        for (std::size_t i = 0; i < p.size(); ++i) {
            const Point a{2 * p[i].x, 2 * p[i].y};
            const Point b{2 * p[(i + 1) % p.size()].x, 2 * p[(i + 1) % p.size()].y};
            if ((a.y > twice.y) == (b.y > twice.y)) continue;
            const std::int64_t side =
                std::int64_t{b.x - a.x} * (twice.y - a.y) - std::int64_t{b.y - a.y} * (twice.x - a.x);
            if (b.y > a.y ? side < 0 : side > 0) around += b.y > a.y ? 1 : -1;
        }
    return around;
}

} // namespace

TEST_CASE("a union covers what one of its polygons covers, and has masses and holes", "[outline]") {
    make::Random random(3);
    for (int round = 0; round < 40; ++round) {
        Polygons polygons;
        for (int k = 0; k < 4; ++k) {
            Polygon p;
            for (int i = 0; i < 5; ++i) p.push_back({random.below(17) * 4, random.below(17) * 4});
            if (area2(p) == 0) continue;
            if (area2(p) < 0) std::reverse(p.begin(), p.end());
            polygons.push_back(p);
        }
        const Polygons all = outline::united(polygons);
        int differ = 0, samples = 0;
        for (int y = 1; y < 128; y += 6)
            for (int x = 1; x < 128; x += 6) {
                ++samples;
                const int around = winding(all, {x, y});
                CHECK(std::abs(around) <= 1);
                differ += (winding(polygons, {x, y}) != 0) != (around != 0);
            }
        CHECK(differ <= samples / 25); // crossings are rounded to whole units
    }
    CHECK(outline::united({}).empty());
    const Polygons frame = outline::united({{{0, 0}, {64, 0}, {64, 16}, {0, 16}},
                                            {{0, 48}, {64, 48}, {64, 64}, {0, 64}},
                                            {{0, 0}, {16, 0}, {16, 64}, {0, 64}},
                                            {{48, 0}, {64, 0}, {64, 64}, {48, 64}}});
    REQUIRE(frame.size() == 2);
    CHECK(area2(frame[0]) + area2(frame[1]) == 2 * (64 * 64 - 32 * 32));
    CHECK(std::min(area2(frame[0]), area2(frame[1])) == -2 * 32 * 32);
}
