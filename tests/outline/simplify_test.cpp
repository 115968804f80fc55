// Outlines with fewer corners: what must hold of them whatever was traced.
#include <catch2/catch.hpp>
#include <cmath>

#include "outline/field.hpp"
#include "outline/simplify.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using namespace outline_test;

namespace {

Patch crooked(make::Random& random, Size size, double full) {
    Patch f{size, std::vector<SolidCode>(static_cast<std::size_t>(size.area()))};
    for (auto& c : f.codes) {
        c = random.flip(full) ? kFull : kOpen;
        if (random.flip(0.2)) c = static_cast<SolidCode>(kSlopeNE + random.below(4));
        if (!random.flip(0.15)) continue;
        level::Polygon p;
        for (int i = 0; i < 3 + random.below(4); ++i) p.push_back({random.below(65), random.below(65)});
        if (area2({p, false}) < 0) std::reverse(p.begin(), p.end());
        if (area2({p, false}) == 0) continue;
        f.forms.resize(std::max<std::size_t>(f.forms.size(), 1));
        c = static_cast<SolidCode>(kForm + 256 * f.forms.size());
        f.forms.push_back({p});
    }
    return f;
}

double distance(Point a, Point b, Point p) {
    const double dx = b.x - a.x, dy = b.y - a.y;
    const double t = std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
    return std::hypot(a.x + t * dx - p.x, a.y + t * dy - p.y);
}

double distance(const Outline& o, Point p) {
    double least = 1e9;
    for (std::size_t i = 0; i < o.points.size(); ++i)
        least = std::min(least, distance(o.points[i], o.points[(i + 1) % o.points.size()], p));
    return least;
}

std::int64_t turn(Point a, Point b, Point c) {
    return std::int64_t{b.x - a.x} * (c.y - a.y) - std::int64_t{b.y - a.y} * (c.x - a.x);
}

// How many pairs of lines cross, each strictly through the other.
int lines_crossing(const std::vector<Outline>& all) {
    std::vector<std::pair<Point, Point>> lines;
    for (const Outline& o : all)
        for (std::size_t i = 0; i < o.points.size(); ++i)
            lines.emplace_back(o.points[i], o.points[(i + 1) % o.points.size()]);
    int out = 0;
    for (std::size_t i = 0; i < lines.size(); ++i)
        for (std::size_t k = i + 1; k < lines.size(); ++k) {
            const auto& [a, b] = lines[i];
            const auto& [c, d] = lines[k];
            const auto w = turn(a, b, c), x = turn(a, b, d), y = turn(c, d, a), z = turn(c, d, b);
            out += ((w > 0) != (x > 0)) && w != 0 && x != 0 && ((y > 0) != (z > 0)) && y != 0 && z != 0;
        }
    return out;
}

std::size_t corners(const std::vector<Outline>& all) {
    std::size_t out = 0;
    for (const Outline& o : all) out += o.points.size();
    return out;
}

} // namespace

TEST_CASE("a flight of steps becomes a slope, and what blocks gets smaller", "[outline][simplify]") {
    // Steps of an eighth of a cell, four cells up.
    Outline steps;
    for (int i = 0; i < 32; ++i) {
        steps.points.push_back({i * 8, 256 - i * 8});
        steps.points.push_back({i * 8 + 8, 256 - i * 8});
    }
    steps.points.push_back({256, 256 + 64});
    steps.points.push_back({0, 256 + 64});
    std::rotate(steps.points.begin(), steps.points.end() - 4, steps.points.end());
    CHECK(simplified({steps}, 0) == std::vector<Outline>{steps});
    const auto fewer = simplified({steps}, 6);
    REQUIRE(fewer.size() == 1);
    CHECK(fewer[0].points.size() < 8);
    CHECK(area2(fewer[0]) < area2(steps));
    CHECK(area2(fewer[0]) > area2(steps) - 2 * 300 * 6 * 2);
    CHECK(simplified({steps}, 3)[0].points.size() == steps.points.size()); // too little for a step of 8 by 8
}

TEST_CASE("with fewer corners nothing crosses, goes, or grows", "[outline][simplify]") {
    make::Random random(31);
    std::size_t before = 0, after = 0;
    for (int round = 0; round < make::rounds(40, 10'000); ++round) {
        const Patch f = crooked(random, {4 + random.below(20), 4 + random.below(20)}, 0.3 + 0.1 * random.below(5));
        const auto all = outlines(trace(f.size, f.source()));
        const int deviation = 1 << random.below(7);
        const auto fewer = simplified(all, deviation);
        REQUIRE(fewer.size() == all.size());
        before += corners(all);
        after += corners(fewer);
        REQUIRE(lines_crossing(fewer) <= lines_crossing(all));
        for (std::size_t i = 0; i < all.size(); ++i) {
            CHECK(fewer[i].hole == all[i].hole);
            REQUIRE(fewer[i].points.size() >= 3);
            CHECK((area2(fewer[i]) < 0) == all[i].hole);
            REQUIRE(fewer[i].points.front() == all[i].points.front());
            for (const Point p : all[i].points) REQUIRE(distance(fewer[i], p) <= deviation + 1e-9);
            std::size_t at = 0; // what is left are corners of before, in their order
            for (const Point p : fewer[i].points) {
                while (at < all[i].points.size() && all[i].points[at] != p) ++at;
                REQUIRE(at++ < all[i].points.size());
            }
        }
        // Nowhere does more block; each place is told by winding, off every line.
        for (int i = 0; i < 400; ++i) {
            const double x = random.below(f.size.w * 1000) / 1000.0 + 0.00037,
                         y = random.below(f.size.h * 1000) / 1000.0 + 0.00011;
            const int was = winding(all, x, y), is = winding(fewer, x, y);
            REQUIRE((is == 0 || is == 1));
            REQUIRE(is <= was);
        }
    }
    CHECK(after * 20 < before * 19);
}

TEST_CASE("a thin wall keeps both its sides, and a hole right behind a bay is not laid bare", "[outline][simplify]") {
    // A wall of four units between two rooms, both its faces crooked.
    Outline wall;
    for (int i = 0; i <= 10; ++i) wall.points.push_back({i * 64, i % 2 == 0 ? 0 : 2});
    for (int i = 10; i >= 0; --i) wall.points.push_back({i * 64, i % 2 == 0 ? 4 : 6});
    const auto fewer = simplified({wall}, 8);
    REQUIRE(fewer.size() == 1);
    CHECK(area2(fewer[0]) > 0);
    CHECK(lines_crossing(fewer) == 0);
    // A bump whose foot would be cut off straight, with a hole in it.
    const Outline bump{{{100, 0}, {110, 0}, {110, 20}, {200, 20}, {200, 100}, {0, 100}, {0, 20}, {100, 20}}, false};
    const Outline hole{{{104, 6}, {104, 10}, {107, 10}, {107, 6}}, true};
    const auto alone = simplified({bump}, 30);
    const auto both = simplified({bump, hole}, 30);
    CHECK(alone[0].points.size() < bump.points.size());
    REQUIRE(both.size() == 2);
    CHECK(winding(both, 105.5 / 64, 8.5 / 64) == 0);
    CHECK(winding(both, 102.5 / 64, 8.5 / 64) == 1);
    CHECK(lines_crossing(both) == 0);
}
