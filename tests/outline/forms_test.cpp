// Shapes that are neither full nor a slope: their union in a cell, and how they merge with what lies around.
#include <catch2/catch.hpp>
#include <cstdint>

#include "outline/chains.hpp"
#include "outline/convex.hpp"
#include "outline/field.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using namespace outline_test;
using level::Polygon;
using level::Polygons;
using level::TileShape;

namespace {

Polygons in_units(Polygons polygons) {
    for (Polygon& p : polygons)
        for (Point& c : p) c = {c.x * 4, c.y * 4};
    return polygons;
}

// A polygon that is a shape, with corners often on the rim of the cell so that neighbours meet.
Polygon random_polygon(make::Random& random) {
    for (;;) {
        Polygon p;
        for (int i = 3 + random.below(4); i > 0; --i) {
            const int along = random.below(5) * 4, free = random.below(17);
            const Point rim[4]{{along, 0}, {16, along}, {along, 16}, {0, along}};
            p.push_back(random.flip(0.6) ? rim[random.below(4)] : Point{free, random.below(17)});
        }
        if (!level::shape_trouble({p}).empty()) continue;
        if (level::area2(p) < 0) std::reverse(p.begin(), p.end());
        return p;
    }
}

Patch random_field(make::Random& random, Size size) {
    Patch f{size, std::vector<SolidCode>(static_cast<std::size_t>(size.area())), {}};
    for (int i = 0; i < 12; ++i) f.forms.push_back(in_units({random_polygon(random)}));
    for (int i = static_cast<int>(TileShape::half_north); i < static_cast<int>(TileShape::drawn); ++i)
        f.forms.push_back(in_units(level::polygons_of(static_cast<TileShape>(i))));
    for (auto& c : f.codes) {
        if (random.flip(0.35)) c = kFull;
        if (random.flip(0.2)) c = static_cast<SolidCode>(kSlopeNE + random.below(4));
        if (random.flip(0.4)) c = kForm | static_cast<SolidCode>(random.below(static_cast<int>(f.forms.size()))) << 8;
    }
    return f;
}

double area(const std::vector<Outline>& all) {
    double sum = 0;
    for (const Outline& o : all) sum += static_cast<double>(area2(o)) / 2 / kUnit / kUnit;
    return sum;
}

double area(const Polygons& polygons) {
    double sum = 0;
    for (const Polygon& p : polygons) sum += static_cast<double>(level::area2(p)) / 2.0 / kUnit / kUnit;
    return sum;
}

// How near a point, in 1/64 cells, is to any line of the polygons.
double nearness(const Polygons& polygons, double x, double y) {
    double least = 1e9;
    for (const Polygon& p : polygons)
        for (std::size_t i = 0; i < p.size(); ++i) {
            const Point a = p[i], b = p[(i + 1) % p.size()];
            const double dx = b.x - a.x, dy = b.y - a.y;
            const double t = std::clamp(((x - a.x) * dx + (y - a.y) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
            least = std::min(least, std::hypot(x - a.x - t * dx, y - a.y - t * dy));
        }
    return least;
}

} // namespace

TEST_CASE("polygons that amount to a simple shape are that shape", "[forms]") {
    Forms forms;
    CHECK(forms.add(in_units(level::polygons_of(TileShape::full))) == kFull);
    CHECK(forms.add({}) == kOpen);
    CHECK(forms.code_of(TileShape::slope_sw) == kSlopeSW);
    CHECK(forms.add(in_units(level::polygons_of(TileShape::slope_nw))) == kSlopeNW);
    const SolidCode top = forms.code_of(TileShape::half_north), bottom = forms.code_of(TileShape::half_south);
    CHECK(solid_of(top) == kForm);
    CHECK(forms.united(top, bottom) == kFull);
    CHECK(forms.united(kFull, kSlopeNE) == kFull);
    CHECK(forms.united(kOpen, kSlopeSW) == kSlopeSW);
    CHECK(forms.united(kSlopeNE, kSlopeSW) == kFull);
    CHECK(forms.united(16, kSlopeSW) == (16 | kSlopeSW));
    CHECK(forms.united(top | 64, top) == (top | 64));
    // Two slopes that cross leave a notch: not full.
    const SolidCode notch = forms.united(kSlopeSE, kSlopeSW);
    CHECK(solid_of(notch) == kForm);
    CHECK(forms[notch].inner.size() == 2);
    CHECK(forms.united(kSlopeSW, kSlopeSE) == notch);
}

TEST_CASE("a union blocks where one of its polygons does", "[forms]") {
    make::Random random(8);
    for (int round = 0; round < 400; ++round) {
        Polygons parts;
        for (int i = 1 + random.below(4); i > 0; --i) parts.push_back(in_units({random_polygon(random)})[0]);
        const Patch f{{1, 1}, {kForm}, {parts}};
        const auto all = outlines(trace(f.size, f.source()));
        for (int i = 0; i < 60; ++i) {
            const double x = random.below(64000) / 1000.0 + 0.00037, y = random.below(64000) / 1000.0 + 0.00011;
            if (nearness(parts, x, y) < 1.5) continue; // crossings lie on whole units
            REQUIRE(winding(all, x / 64, y / 64) == (blocked(f, x / 64, y / 64) ? 1 : 0));
        }
    }
}

TEST_CASE("with any shapes, what lies inside the outlines is what blocks", "[forms][trace]") {
    make::Random random(51);
    for (int round = 0; round < make::rounds(40, 10'000); ++round) {
        const Patch f = random_field(random, {1 + random.below(80), 1 + random.below(80)});
        const auto all = outlines(trace(f.size, f.source()));
        double wanted = 0;
        for (const SolidCode c : f.codes)
            wanted += c == kFull ? 1 : solid_of(c) == kForm ? area(f.forms[c >> 8]) : c ? 0.5 : 0;
        CHECK(area(all) == Approx(wanted));
        for (const Outline& o : all) {
            REQUIRE(o.points.size() >= 3);
            CHECK(o.hole == (area2(o) < 0));
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point a = o.points[i], b = o.points[(i + 1) % o.points.size()],
                            c = o.points[(i + 2) % o.points.size()];
                REQUIRE(std::int64_t{b.x - a.x} * (c.y - b.y) != std::int64_t{b.y - a.y} * (c.x - b.x));
            }
        }
        for (int i = 0; i < 300; ++i) {
            const double x = random.below(f.size.w * 1000) / 1000.0 + 0.00037,
                         y = random.below(f.size.h * 1000) / 1000.0 + 0.00011;
            REQUIRE(winding(all, x, y) == (blocked(f, x, y) ? 1 : 0));
        }
        double drawn = 0, traced = 0;
        for (const auto& l : drawing(f.source(), box_of(f.size)).lines)
            drawn += std::hypot(l.to.x - l.from.x, l.to.y - l.from.y);
        for (const auto& o : all)
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point e = o.points[(i + 1) % o.points.size()] - o.points[i];
                traced += std::hypot(e.x, e.y);
            }
        CHECK(drawn == Approx(traced));
    }
}

TEST_CASE("with any shapes, re-traced chunks equal a trace from the start", "[forms][trace]") {
    make::Random random(34);
    Patch f = random_field(random, {180, 140});
    Trace live = trace(f.size, f.source());
    Trace fine = trace(f.size, f.source(), Grain::fine);
    std::vector<Outline> kept = outlines(fine);
    for (int round = 0; round < 200; ++round) {
        const Box box = intersection({random.below(180), random.below(140), 1 + random.below(6), 1 + random.below(6)},
                                     box_of(f.size));
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x)
                f.codes[static_cast<std::size_t>(y * 180 + x)] =
                    random.flip(0.3) ? kForm | static_cast<SolidCode>(random.below(28)) << 8
                    : random.flip()  ? 1
                                     : 0;
        const Trace before = live;
        const auto differ = retrace(live, f.source(), {box});
        CHECK(differ.empty() == (live == before));
        kept = outlines(fine, kept, retrace(fine, f.source(), {box}));
        if (round % 20 != 0) continue;
        REQUIRE(fine == trace(f.size, f.source(), Grain::fine));
        REQUIRE(outlines(fine) == outlines(live)); // however large the parts are
        REQUIRE(kept == outlines(fine));
        const Trace fresh = trace(f.size, f.source());
        REQUIRE(live == fresh);
        REQUIRE(outlines(live) == outlines(fresh));
    }
}

TEST_CASE("with any shapes far apart, outlines after a change are those linked from the start", "[forms][trace]") {
    make::Random random(36);
    Patch f = random_field(random, {150, 150});
    const auto code = [&] {
        return random.flip(0.12) ? (random.flip(0.7) ? kForm | static_cast<SolidCode>(random.below(28)) << 8 : 1)
                                 : SolidCode{0};
    };
    for (SolidCode& c : f.codes) c = code();
    Trace live = trace(f.size, f.source(), Grain::fine);
    std::vector<Outline> kept = outlines(live);
    for (int round = 0; round < 200; ++round) {
        const Box box = intersection({random.below(150), random.below(150), 1 + random.below(6), 1 + random.below(6)},
                                     box_of(f.size));
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x) f.codes[static_cast<std::size_t>(y * 150 + x)] = code();
        kept = outlines(live, kept, retrace(live, f.source(), {box}));
        REQUIRE(kept == outlines(trace(f.size, f.source(), Grain::fine)));
    }
}

TEST_CASE("a row of wedges is one ramp without corners between", "[forms][trace]") {
    Patch f{{4, 1},
            {kForm, kForm | 256, kFull, kFull},
            {in_units(level::polygons_of(TileShape::thin_se)), in_units(level::polygons_of(TileShape::thick_se))}};
    const auto all = outlines(trace(f.size, f.source()));
    REQUIRE(all.size() == 1);
    CHECK(all[0].points == std::vector<Point>{{128, 0}, {256, 0}, {256, 64}, {0, 64}});
    // Half a cell beside a full one: one step, no seam.
    Patch halves{{3, 1}, {kForm, kForm, kFull}, {in_units(level::polygons_of(TileShape::half_south))}};
    const auto step = outlines(trace(halves.size, halves.source()));
    REQUIRE(step.size() == 1);
    CHECK(step[0].points.size() == 6);
}

TEST_CASE("convex parts of any shapes cover what is enclosed", "[forms][convex]") {
    make::Random random(10);
    for (int round = 0; round < 30; ++round) {
        const Patch f = random_field(random, {1 + random.below(30), 1 + random.below(30)});
        const auto all = outlines(trace(f.size, f.source()));
        double sum = 0;
        for (const auto& part : convex_parts(all)) {
            CHECK(area2({part, false}) > 0);
            sum += static_cast<double>(area2({part, false})) / 2 / kUnit / kUnit;
        }
        // Corners on slanted sides are rounded to whole units.
        CHECK(std::abs(sum - area(all)) < 0.01 * area(all) + 0.05);
    }
}

TEST_CASE("Box2D is stopped by the chains of any shapes where they block", "[forms][physics]") {
    make::Random random(78);
    for (int round = 0; round < 10; ++round) {
        const Patch f = random_field(random, {20 + random.below(20), 20 + random.below(20)});
        b2World world(b2Vec2(0, 0));
        b2BodyDef def;
        b2Body* body = world.CreateBody(&def);
        add_chains(*body, outlines(trace(f.size, f.source())));
        for (int i = 0; i < 200; ++i) {
            const double y = random.below(f.size.h * 1000) / 1000.0 + 0.0004;
            const double from = -1, to = f.size.w + 1.0;
            Nearest nearest;
            world.RayCast(&nearest, b2Vec2(static_cast<float>(from), static_cast<float>(y)),
                          b2Vec2(static_cast<float>(to), static_cast<float>(y)));
            const double got = from + static_cast<double>(nearest.fraction) * (to - from);
            // Nothing blocks before the hit, and something does right behind it; tips can be very thin.
            for (double x = 0; x < got - 0.005; x += 0.002) REQUIRE_FALSE(blocked(f, x, y));
            bool stopped = got >= to - 1e-3;
            for (double x = got - 0.005; x < got + 0.005 && !stopped; x += 0.00005) stopped = blocked(f, x, y);
            REQUIRE(stopped);
        }
    }
}

TEST_CASE("convex parts of any triangle are off by no more than they say", "[outline][convex]") {
    make::Random random(17);
    int rounded = 0;
    for (int i = 0; i < 500; ++i) {
        Outline triangle;
        for (int k = 0; k < 3; ++k) triangle.points.push_back({random.below(640), random.below(640)});
        if (area2(triangle) == 0) continue;
        if (area2(triangle) < 0) std::swap(triangle.points[0], triangle.points[1]);
        std::int64_t slack = -1, sum = 0;
        for (const auto& part : convex_parts({triangle}, &slack)) sum += area2({part, false});
        CHECK(std::abs(sum - area2(triangle)) <= slack);
        CHECK(slack <= 2 * 640); // half a unit at four corners over its height
        rounded += slack > 0;
    }
    CHECK(rounded > 100);
    // Where nothing has to be rounded nothing may be off.
    std::int64_t slack = -1;
    convex_parts({Outline{{{0, 0}, {64, 0}, {64, 64}}, false}}, &slack);
    CHECK(slack == 0);
}
