// How props stand: turned, scaled, mirrored, in ensembles; pictures, feet and shapes all by one rule.
#include "level/standing.hpp"

#include <algorithm>
#include <array>
#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {

PropKind plain_kind(Size size, Point pivot) {
    PropKind k;
    k.id = 1;
    k.box = box_of(size);
    k.pivot = pivot;
    k.foot = {1, size.h - 4, size.w - 2, 4};
    return k;
}

Look looking(bool mirrored, int turn, int scale) {
    Look l;
    l.mirrored = mirrored;
    l.turn = static_cast<std::int16_t>(turn);
    l.scale = static_cast<std::int16_t>(scale);
    return l;
}

} // namespace

TEST_CASE("a plain prop shows each pixel at its place, mirrored around its pivot", "[standing]") {
    const PropKind k = plain_kind({7, 9}, {2, 8});
    const Placing plain(k, {100, 50}, {});
    CHECK(plain.around(box_of(k.drawn())) == Box{98, 42, 7, 9});
    CHECK(plain.seen_in({100, 50}) == Point{2, 8});
    const Placing mirrored(k, {100, 50}, {true});
    CHECK(mirrored.around(box_of(k.drawn())) == Box{96, 42, 7, 9});
    for (int x = 0; x < 7; ++x) CHECK(mirrored.seen_in({96 + x, 45}).x == 6 - x);
}

TEST_CASE("quarter turns and whole scales show every pixel of a picture, each as often as the other", "[standing]") {
    for (const bool mirrored : {false, true})
        for (const int turn : {0, 900, 1800, 2700})
            for (const int scale : {100, 200, 300, 500}) {
                const PropKind k = plain_kind({5, 8}, {3, 6});
                const Placing placing(k, {-20, 33}, looking(mirrored, turn, scale));
                const Box box = placing.around(box_of(k.drawn()));
                const int factor = scale / 100;
                INFO(mirrored << " " << turn << " " << scale);
                CHECK(box.size().area() == k.box.size().area() * factor * factor);
                std::array<int, 40> seen{};
                for (int y = box.y; y < box.bottom(); ++y)
                    for (int x = box.x; x < box.right(); ++x) {
                        const Point p = placing.seen_in({x, y});
                        REQUIRE(k.box.contains(p));
                        ++seen[static_cast<std::size_t>(p.y * 5 + p.x)];
                    }
                CHECK(std::all_of(seen.begin(), seen.end(), [&](int n) { return n == factor * factor; }));
            }
}

TEST_CASE("any turn and scale leads into the level and back, and keeps the area", "[standing]") {
    std::mt19937 cast(7);
    const auto any = [&](int least, int most) { return std::uniform_int_distribution<int>(least, most)(cast); };
    for (int i = 0; i < 500; ++i) {
        PropKind k = plain_kind({any(3, 40), any(6, 40)}, {});
        k.pivot = {any(0, k.box.w - 1), any(0, k.box.h - 1)};
        k.factor = any(1, 3);
        const Look look = looking(any(0, 1) == 1, any(0, kFullTurn - 1), any(kLeastScale, 800));
        const Placing placing(k, {any(-500, 500), any(-500, 500)}, look);
        const Spot p{any(0, 1000) / 10.0, any(0, 1000) / 10.0};
        const Spot back = placing.in_picture(placing.in_level(p));
        CHECK(back.x == Approx(p.x).margin(1e-6));
        CHECK(back.y == Approx(p.y).margin(1e-6));
        // The pivot's pixel stands where the prop does.
        const Point pivot = k.drawn_pivot();
        const Spot middle = placing.in_level({pivot.x + 0.5, pivot.y + 0.5});
        CHECK(std::floor(middle.x + 1e-6) - middle.x == Approx(-0.5).margin(1e-5));
        const Spots foot = placing.corners(k.drawn_foot());
        double area2 = 0;
        for (std::size_t c = 0; c < 4; ++c) area2 += foot[c].x * foot[(c + 1) % 4].y - foot[(c + 1) % 4].x * foot[c].y;
        const double scale = look.scale / 100.0;
        CHECK(area2 / 2 == Approx(double(k.drawn_foot().size().area()) * scale * scale)); // clockwise, too
        for (const Spot& s : foot) {
            const Box around = placing.around(k.drawn_foot()).grown(1);
            CHECK(s.x >= around.x);
            CHECK(s.x <= around.right());
        }
    }
}

TEST_CASE("outlines overlap where a fine raster says that they do", "[standing]") {
    std::mt19937 cast(3);
    const auto any = [&](int least, int most) { return std::uniform_int_distribution<int>(least, most)(cast); };
    int both = 0;
    for (int i = 0; i < 400; ++i) {
        const PropKind k = plain_kind({any(4, 20), any(4, 20)}, {2, 2});
        const auto foot = [&] {
            return Placing(k, {any(0, 30), any(0, 30)}, looking(false, any(0, kFullTurn - 1), any(50, 200)))
                .corners(box_of(k.drawn()));
        };
        const Spots a = foot(), b = foot();
        const auto inside = [](const Spots& s, double x, double y) {
            for (std::size_t c = 0; c < s.size(); ++c) {
                const Spot &p = s[c], &q = s[(c + 1) % s.size()];
                if ((q.x - p.x) * (y - p.y) - (q.y - p.y) * (x - p.x) < 0) return false;
            }
            return true;
        };
        int shared = 0;
        for (double y = -40; y < 80; y += 0.5)
            for (double x = -40; x < 80; x += 0.5) shared += inside(a, x, y) && inside(b, x, y);
        if (shared > 0) CHECK(overlap(a, b));
        if (!overlap(a, b)) CHECK(shared == 0);
        both += shared > 0;
    }
    CHECK(both > 50);
    CHECK(both < 350);
}

TEST_CASE("colours are tinted, then lightened, and two washes after one another are one", "[standing]") {
    Look dark;
    dark.light = -50;
    dark.tint = {200, 100, 255, 255};
    CHECK(wash_of(dark) == Wash{{100, 50, 128, 255}, {0, 0, 0, 0}});
    Look light;
    light.light = 100;
    light.opacity = 50;
    CHECK(wash_of(light) == Wash{{0, 0, 0, 128}, {255, 255, 255, 0}});
    const auto through = [](const Wash& w, int v) { return v * w.times.r / 255.0 + w.plus.r; };
    light.light = 40;
    const Wash both = washed(wash_of(light), wash_of(dark));
    for (int v = 0; v <= 255; v += 5)
        CHECK(std::abs(through(both, v) - through(wash_of(dark), static_cast<int>(through(wash_of(light), v)))) <= 2);
}

TEST_CASE("an ensemble stands as its parts do, turned and scaled as a whole", "[standing]") {
    make::Small small;
    Project& p = small.project;
    PropKind stall;
    stall.id = 900;
    stall.name = "Stall";
    stall.parts = {{1, small.prop, {-10, 0}}, {2, small.prop, {10, 4}, looking(true, 0, 100)}};
    p.put(stall);
    fit_ensembles(p);
    const PropKinds kinds(p);
    Prop prop{1, 900, {100, 100}};
    CHECK(kinds.pieces(prop).size() == 2);
    CHECK(kinds.find(900)->drawn() == kinds.box(prop).size());
    prop.look = looking(false, 900, 200);
    const auto pieces = kinds.pieces(prop);
    REQUIRE(pieces.size() == 2);
    CHECK(pieces[0].at == Point{100, 80}); // left becomes up, twice as far
    CHECK(pieces[1].at == Point{92, 120});
    CHECK(pieces[0].look == looking(false, 900, 200));
    // Mirrored, the right one comes to stand on the left.
    prop.look = looking(true, 0, 100);
    CHECK(kinds.pieces(prop)[1].at == Point{90, 104});
    CHECK(kinds.pieces(prop)[1].look == Look{});
    // A copy's own: another tint, a part that is missing.
    PropOwn own;
    own.changes[1].kind = 0;
    own.changes[2].tint = Rgba{255, 0, 0, 255};
    prop.set_own(own);
    REQUIRE(kinds.pieces(prop).size() == 1);
    CHECK(kinds.pieces(prop)[0].wash.times == Rgba{255, 0, 0, 255});
    CHECK(piece_counts(p).at(900) == 2);
    CHECK(ensembles_trouble(p).empty());
    // One that holds itself, by a slip, ends all the same.
    PropKind round = *p.prop_kind(900);
    round.parts.push_back({3, 900, {0, 0}});
    p.put(round);
    CHECK_FALSE(ensembles_trouble(p).empty());
    CHECK(PropKinds(p).pieces({1, 900, {}}).size() < 100);
}

TEST_CASE("what of a prop blocks is its shape over its foot, as it stands", "[standing]") {
    PropKind k = plain_kind({20, 20}, {10, 19});
    k.foot = {2, 12, 16, 8};
    const Lattice lattice{LatticeKind::square, {16, 16}};
    const auto of = [&](const Look& look) { return blocking_of(Piece{&k, 1, {}, {100, 100}, look}, lattice); };
    CHECK(of({}).empty());
    k.blocks = true;
    REQUIRE(of({}).size() == 1);
    const auto area = [](const Spots& s) {
        double sum = 0;
        for (std::size_t c = 0; c < s.size(); ++c) {
            const Spot& n = s[(c + 1) % s.size()];
            sum += s[c].x * n.y - n.x * s[c].y;
        }
        return sum / 2;
    };
    CHECK(area(of({})[0]) == Approx(16 * 8));
    k.shape = TileShape::slope_se;
    for (const bool mirrored : {false, true}) CHECK(area(of(looking(mirrored, 300, 100))[0]) == Approx(16 * 8 / 2));
    k.shape = TileShape::drawn;
    k.polygons = {{{4, 12}, {16, 12}, {10, 20}}};
    CHECK(area(of(looking(true, 1234, 200))[0]) == Approx(12 * 8 / 2 * 4));
}

TEST_CASE("ensembles that are too deep, too many or within themselves are told, whatever their order", "[standing]") {
    make::Small small;
    const auto ensemble = [&](PropKindId id, std::vector<PropKindId> of) {
        PropKind k;
        k.id = id;
        k.name = "E" + std::to_string(id);
        PartId part = 1;
        for (const PropKindId kind : of) k.parts.push_back({part++, kind, {}});
        small.project.put(k);
    };
    // A chain, the deepest first or last.
    for (const bool backwards : {false, true})
        for (const int deep : {kMostEnsembleDepth, kMostEnsembleDepth + 1}) {
            small = make::Small();
            for (int i = 0; i < deep; ++i) {
                const int at = backwards ? deep - 1 - i : i;
                ensemble(500 + static_cast<PropKindId>(at), {at == 0 ? small.prop : 499 + static_cast<PropKindId>(at)});
            }
            CHECK(ensembles_trouble(small.project).empty() == (deep == kMostEnsembleDepth));
        }
    // 64 times 64 is as many as may be.
    small = make::Small();
    ensemble(500, std::vector<PropKindId>(64, small.prop));
    ensemble(501, std::vector<PropKindId>(64, 500));
    CHECK(piece_counts(small.project).at(501) == kMostPieces);
    CHECK(ensembles_trouble(small.project).empty());
    ensemble(502, {501, small.prop});
    CHECK_FALSE(ensembles_trouble(small.project).empty());
    // Two that hold each other.
    small = make::Small();
    ensemble(500, {501, small.prop});
    ensemble(501, {500});
    CHECK_FALSE(ensembles_trouble(small.project).empty());
}
