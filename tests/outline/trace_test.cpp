#include <catch2/catch.hpp>
#include <queue>

#include "edit/stroke.hpp"
#include "outline/convex.hpp"
#include "outline/field.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using namespace outline_test;

namespace {

Patch random_field(make::Random& random, Size size, double full, bool slopes) {
    Patch f{size, std::vector<SolidCode>(static_cast<std::size_t>(size.area()))};
    for (auto& c : f.codes) {
        c = random.flip(full) ? kFull : kOpen;
        if (slopes && random.flip(0.2)) c = static_cast<SolidCode>(kSlopeNE + random.below(4));
    }
    return f;
}

int flood(const Patch& f, bool solid, bool corners, bool outside_too) {
    const Box area = outside_too ? box_of(f.size).grown(1) : box_of(f.size);
    std::set<Point> left;
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x)
            if ((f.at(x, y) != 0) == solid) left.insert({x, y});
    int parts = 0;
    while (!left.empty()) {
        ++parts;
        std::queue<Point> open;
        open.push(*left.begin());
        left.erase(left.begin());
        while (!open.empty()) {
            const Point p = open.front();
            open.pop();
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    if (!corners && dx != 0 && dy != 0) continue;
                    const auto found = left.find({p.x + dx, p.y + dy});
                    if (found == left.end()) continue;
                    open.push(*found);
                    left.erase(found);
                }
        }
    }
    return parts;
}

} // namespace

TEST_CASE("one cell is one square", "[trace]") {
    Patch f{{5, 4}, std::vector<SolidCode>(20)};
    f.codes[1 * 5 + 2] = kFull;
    const auto o = outlines(trace(f.size, f.source()));
    REQUIRE(o.size() == 1);
    CHECK_FALSE(o[0].hole);
    CHECK(o[0].points == std::vector<Point>{{128, 64}, {192, 64}, {192, 128}, {128, 128}});
    CHECK(area2(o[0]) == 2 * 64 * 64);
}

TEST_CASE("cells that touch at a corner are apart, holes that do are one", "[trace]") {
    Patch f{{2, 2}, {kFull, kOpen, kOpen, kFull}};
    CHECK(outlines(trace(f.size, f.source())).size() == 2);
    Patch ring{{4, 4}, std::vector<SolidCode>(16, kFull)};
    ring.codes[5] = ring.codes[10] = kOpen;
    const auto o = outlines(trace(ring.size, ring.source()));
    CHECK(o.size() == 2); // one mass, one hole of two cells that touch
    CHECK(o[1].hole);
}

TEST_CASE("area, perimeter, components and holes agree with flood filling", "[trace]") {
    make::Random random(21);
    for (int round = 0; round < make::rounds(60, 10'000); ++round) {
        const Patch f = random_field(random, {1 + random.below(150), 1 + random.below(90)},
                                     0.2 + 0.6 * random.below(100) / 100.0, false);
        const auto all = outlines(trace(f.size, f.source()));
        std::int64_t area = 0, length = 0;
        int holes = 0;
        for (const Outline& o : all) {
            CHECK(o.points.size() >= 4);
            area += area2(o);
            holes += o.hole;
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point a = o.points[i], b = o.points[(i + 1) % o.points.size()],
                            c = o.points[(i + 2) % o.points.size()];
                length += std::abs(a.x - b.x) + std::abs(a.y - b.y);
                // No collinear points.
                const std::int64_t cross =
                    std::int64_t{b.x - a.x} * (c.y - b.y) - std::int64_t{b.y - a.y} * (c.x - b.x);
                REQUIRE(cross != 0);
            }
        }
        std::int64_t cells = 0, sides = 0;
        for (int y = 0; y < f.size.h; ++y)
            for (int x = 0; x < f.size.w; ++x) {
                if (!f.at(x, y)) continue;
                ++cells;
                sides += !f.at(x - 1, y) + !f.at(x + 1, y) + !f.at(x, y - 1) + !f.at(x, y + 1);
            }
        CHECK(area == 2 * cells * 64 * 64);
        CHECK(length == sides * 64);
        CHECK(static_cast<int>(all.size()) - holes == flood(f, true, false, false));
        CHECK(holes == flood(f, false, true, true) - 1);
    }
}

TEST_CASE("with slopes, what lies inside the outlines is what blocks", "[trace]") {
    make::Random random(5);
    for (int round = 0; round < make::rounds(60, 10'000); ++round) {
        const Patch f = random_field(random, {1 + random.below(70), 1 + random.below(70)}, 0.45, true);
        const auto all = outlines(trace(f.size, f.source()));
        double area = 0;
        for (const auto& o : all) area += static_cast<double>(area2(o)) / 2 / 64 / 64;
        double wanted = 0;
        for (const SolidCode c : f.codes) wanted += c == kFull ? 1 : c ? 0.5 : 0;
        CHECK(area == Approx(wanted));
        for (int i = 0; i < 300; ++i) {
            const double x = random.below(f.size.w * 1000) / 1000.0 + 0.00037,
                         y = random.below(f.size.h * 1000) / 1000.0 + 0.00011;
            REQUIRE(winding(all, x, y) == (blocked(f, x, y) ? 1 : 0));
        }
    }
}

TEST_CASE("re-traced chunks equal a trace from the start", "[trace]") {
    make::Random random(33);
    Patch f = random_field(random, {200, 150}, 0.5, true);
    Trace live = trace(f.size, f.source());
    Trace fine = trace(f.size, f.source(), Grain::fine);
    for (int round = 0; round < 400; ++round) {
        const Box box{random.below(200), random.below(150), 1 + random.below(8), 1 + random.below(8)};
        const Box inside = intersection(box, box_of(f.size));
        for (int y = inside.y; y < inside.bottom(); ++y)
            for (int x = inside.x; x < inside.right(); ++x)
                f.codes[static_cast<std::size_t>(y * 200 + x)] = static_cast<SolidCode>(random.flip()      ? 1
                                                                                        : random.flip(0.2) ? 16
                                                                                                           : 0);
        retrace(live, f.source(), {box});
        retrace(fine, f.source(), {box});
        if (round % 20 == 0) {
            REQUIRE(fine == trace(f.size, f.source(), Grain::fine));
            REQUIRE(outlines(fine) == outlines(live));
            REQUIRE(one_way_edges(fine) == one_way_edges(live));
            const Trace fresh = trace(f.size, f.source());
            REQUIRE(live == fresh);
            REQUIRE(outlines(live) == outlines(fresh));
            REQUIRE(one_way_edges(live) == one_way_edges(fresh));
            REQUIRE(live.shape_count() == fresh.shape_count());
        }
    }
}

TEST_CASE("outlines after a change are those linked from the start", "[trace]") {
    make::Random random(35);
    for (const bool slopes : {false, true})
        for (const double share : {0.05, 0.15, 0.3}) {
            Patch f = random_field(random, {170, 130}, share, false);
            Trace live = trace(f.size, f.source(), Grain::fine);
            const Point by{7 * kUnit, -3 * kUnit};
            const auto moved = [&](std::vector<Outline> all) {
                for (Outline& o : all)
                    for (Point& p : o.points) p = p + by;
                return all;
            };
            std::vector<Outline> kept = moved(outlines(live));
            int stayed = 0;
            const auto code = [&](int with) -> SolidCode {
                if (with == 0) return kOpen;
                if (with == 1) return kFull;
                if (slopes) return static_cast<SolidCode>(kSlopeNE + random.below(4));
                return random.flip(share) ? kFull : kOpen;
            };
            for (int round = 0; round < 120; ++round) {
                std::vector<Box> changed;
                for (int i = 0; i < 1 + round % 3; ++i) {
                    const Box box =
                        intersection({random.below(170), random.below(130), 1 + random.below(9), 1 + random.below(9)},
                                     box_of(f.size));
                    changed.push_back(box);
                    const int with = random.below(3);
                    for (int y = box.y; y < box.bottom(); ++y)
                        for (int x = box.x; x < box.right(); ++x)
                            f.codes[static_cast<std::size_t>(y * 170 + x)] = code(with);
                }
                const std::vector<Outline> before = kept;
                kept = outlines(live, kept, retrace(live, f.source(), changed), by);
                REQUIRE(kept == moved(outlines(trace(f.size, f.source(), Grain::fine))));
                stayed += before == kept;
            }
            CHECK(stayed < 60);
        }
    // A wall across is one outline through all parts.
    Patch f{{100, 100}, std::vector<SolidCode>(10'000, 0)};
    std::vector<Outline> none;
    Trace live = trace(f.size, f.source(), Grain::fine);
    for (int x = 0; x < 100; ++x) f.codes[static_cast<std::size_t>(50 * 100 + x)] = 1;
    std::vector<Outline> kept = outlines(live, none, retrace(live, f.source(), {{0, 50, 100, 1}}));
    REQUIRE(kept.size() == 1);
    // A gap right where no corner was.
    f.codes[50 * 100 + 40] = 0;
    kept = outlines(live, kept, retrace(live, f.source(), {{40, 50, 1, 1}}));
    CHECK(kept.size() == 2);
    CHECK(kept == outlines(trace(f.size, f.source())));
}

TEST_CASE("an untouched chunk is not traced again", "[trace]") {
    make::Random random(3);
    Patch f = random_field(random, {200, 200}, 0.5, false);
    Trace live = trace(f.size, f.source());
    const Trace before = live;
    f.codes[100 * 200 + 100] ^= 1;
    retrace(live, f.source(), {{100, 100, 1, 1}});
    int fresh = 0;
    for (std::size_t i = 0; i < live.parts.size(); ++i) fresh += live.parts[i] != before.parts[i];
    CHECK(fresh == 1);
}

TEST_CASE("one-way edges join along their line and end at walls", "[trace]") {
    Patch f{{10, 3}, std::vector<SolidCode>(30)};
    for (int x = 1; x < 8; ++x) f.codes[static_cast<std::size_t>(10 + x)] = 16; // north
    f.codes[4] = kFull;                                                         // buries the edge below it
    const auto edges = one_way_edges(trace(f.size, f.source()));
    REQUIRE(edges.size() == 2);
    CHECK(edges[0] == OneWayEdge{{64, 64}, {256, 64}, 0});
    CHECK(edges[1] == OneWayEdge{{320, 64}, {512, 64}, 0});
}

TEST_CASE("convex parts cover what the outlines enclose, each place once", "[convex]") {
    make::Random random(9);
    for (int round = 0; round < 60; ++round) {
        const Patch f = random_field(random, {1 + random.below(60), 1 + random.below(60)}, 0.55, round % 2 == 0);
        const auto all = outlines(trace(f.size, f.source()));
        const auto parts = convex_parts(all);
        std::int64_t area = 0, sum = 0;
        for (const auto& o : all) area += area2(o);
        for (const auto& part : parts) {
            REQUIRE(part.size() >= 3);
            const Outline as{part, false};
            CHECK(area2(as) > 0);
            sum += area2(as);
            for (std::size_t i = 0; i < part.size(); ++i) {
                const Point a = part[i], b = part[(i + 1) % part.size()], c = part[(i + 2) % part.size()];
                CHECK(std::int64_t{b.x - a.x} * (c.y - b.y) - std::int64_t{b.y - a.y} * (c.x - b.x) > 0);
            }
        }
        CHECK(sum == area);
        for (int i = 0; i < 100; ++i) {
            const double x = random.below(f.size.w * 1000) / 1000.0 + 0.00037,
                         y = random.below(f.size.h * 1000) / 1000.0 + 0.00011;
            int holding = 0;
            for (const auto& part : parts) holding += winding({Outline{part, false}}, x, y);
            REQUIRE(holding == (blocked(f, x, y) ? 1 : 0));
        }
    }
}

TEST_CASE("rectangles cover the cells without overlap", "[trace]") {
    CHECK(rectangle_count({3, 3}, {1, 1, 1, 1, 0, 1, 1, 1, 1}) == 4);
    CHECK(rectangle_count({4, 1}, {1, 1, 0, 1}) == 2);
    CHECK(rectangle_count({2, 2}, {0, 0, 0, 0}) == 0);
    CHECK(rectangle_count({2, 2}, {1, 1, 1, 1}) == 1);
}

TEST_CASE("only solid layers block, turned tiles with their shape turned", "[trace]") {
    make::Small small;
    level::Level level = small.level();
    const level::TileTable tiles(small.project);
    level.edit(small.front).grid().set({3, 3}, level::Cell(1), 1);
    CHECK(outlines(trace(level, tiles)).empty());
    level.edit(small.ground).grid().set({3, 3}, level::Cell(1), 1);
    CHECK(trace(level, tiles).shape_count() == 1);
    level.edit(small.front).tiles()->solid = true;
    CHECK(trace(level, tiles).shape_count() == 2);
    CHECK(outlines(trace(level, tiles)).size() == 1);

    level::Project p = small.project;
    level::Sheet s = *p.sheets[0];
    s.tiles[0].shape = level::TileShape::slope_ne;
    p.put(s);
    level::Level turned = small.level();
    turned.edit(small.ground).grid().set({3, 3}, level::Cell(1, {1}, true), 0);
    SolidCode code = 0;
    Forms forms;
    read_solid(turned, level::TileTable(p), {3, 3, 1, 1}, &code, 1, forms);
    CHECK(code == kSlopeSE);
}

TEST_CASE("what is drawn of a region is what is traced", "[trace]") {
    make::Random random(14);
    for (int round = 0; round < 30; ++round) {
        const Patch f = random_field(random, {40, 30}, 0.5, true);
        const Drawing d = drawing(f.source(), box_of(f.size));
        double drawn = 0, traced = 0;
        for (const auto& l : d.lines) drawn += std::hypot(l.to.x - l.from.x, l.to.y - l.from.y);
        for (const auto& o : outlines(trace(f.size, f.source())))
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point e = o.points[(i + 1) % o.points.size()] - o.points[i];
                traced += std::hypot(e.x, e.y);
            }
        CHECK(drawn == Approx(traced));
        std::int64_t full = 0;
        for (const Box& run : d.runs) full += run.w;
        CHECK(full == std::count(f.codes.begin(), f.codes.end(), SolidCode{kFull}));
    }
}
