// Shapes that lie free of the lattice: shared out among cells, merged with what the cells block, and opened again.
#include "outline/free.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <cstdint>

#include "outline/field.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using level::Polygon;
using level::Polygons;
using level::TileShape;

namespace {

double total_area(const std::vector<Outline>& all) {
    double sum = 0;
    for (const Outline& o : all) sum += static_cast<double>(area2(o)) / 2;
    return sum;
}

// How near a place, in 1/64 cells, is to any line of the polygon.
double nearness(const Polygon& p, double x, double y) {
    double least = 1e9;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const Point a = p[i], b = p[(i + 1) % p.size()];
        const double dx = b.x - a.x, dy = b.y - a.y;
        const double t = std::clamp(((x - a.x) * dx + (y - a.y) * dy) / std::max(1.0, dx * dx + dy * dy), 0.0, 1.0);
        least = std::min(least, std::hypot(x - a.x - t * dx, y - a.y - t * dy));
    }
    return least;
}

Polygon random_polygon(make::Random& random, Point within) {
    for (;;) {
        Polygon p;
        for (int i = 3 + random.below(4); i > 0; --i) p.push_back({random.below(within.x), random.below(within.y)});
        if (level::area2(p) == 0 || !level::crossing_trouble(p).empty()) continue;
        if (level::area2(p) < 0) std::reverse(p.begin(), p.end());
        return p;
    }
}

// Whether two outlines, or one with itself, have lines that cross; those that only touch do not.
int crossings(const std::vector<Outline>& all) {
    struct Line {
        Point a, b;
    };
    std::vector<Line> lines;
    for (const Outline& o : all)
        for (std::size_t i = 0; i < o.points.size(); ++i)
            lines.push_back({o.points[i], o.points[(i + 1) % o.points.size()]});
    int out = 0;
    for (std::size_t i = 0; i < lines.size(); ++i)
        for (std::size_t j = i + 1; j < lines.size(); ++j) {
            const auto [a, b] = lines[i];
            const auto [c, d] = lines[j];
            const auto sign = [](std::int64_t v) { return (v > 0) - (v < 0); };
            out += sign(cross(a, b, c)) * sign(cross(a, b, d)) < 0 && sign(cross(c, d, a)) * sign(cross(c, d, b)) < 0;
        }
    return out;
}

// A level with cells that block, slopes among them, and props of two kinds that block, turned and scaled.
struct Furnished {
    make::Small small{{24, 18}};
    explicit Furnished(make::Random& random, bool turned = true) {
        level::PropKind crate = *small.project.prop_kind(small.prop);
        crate.blocks = true;
        crate.foot = box_of(crate.box.size());
        small.project.put(crate);
        level::PropKind rock = crate;
        rock.id = small.project.next_id++;
        rock.shape = TileShape::drawn;
        rock.polygons = {{{0, crate.box.h}, {crate.box.w / 2, 0}, {crate.box.w, crate.box.h}}};
        small.project.put(rock);
        level::Level level = small.level();
        level.edit(small.ground).tiles()->solid = true;
        for (int i = 0; i < 60; ++i) {
            const Point at{random.below(24), random.below(18)};
            const auto tile = static_cast<level::TileId>(1 + random.below(40));
            level.edit(small.ground).grid().set(at, level::Cell(tile, {}, true), 0);
        }
        for (int i = 0; i < 14; ++i) {
            level::Prop p{small.project.next_id++,
                          random.flip() ? crate.id : rock.id,
                          {random.below(24 * 16), random.below(18 * 16)}};
            p.look.mirrored = random.flip();
            if (turned) p.look.turn = static_cast<std::int16_t>(random.below(3600));
            p.look.scale = static_cast<std::int16_t>(50 + random.below(250));
            level.edit(small.props).props().put(p);
        }
        small.set(level);
    }
};

struct Things {
    explicit Things(const level::Project& project) : tiles(project), props(project) {}
    level::TileTable tiles;
    level::PropKinds props;
    [[nodiscard]] Kinds kinds() const { return {tiles, props}; }
};

} // namespace

TEST_CASE("a polygon is shared out among its cells: nothing is lost, and neighbours agree about their sides",
          "[free]") {
    make::Random random(5);
    for (int round = 0; round < 200; ++round) {
        const Polygon p = random_polygon(random, {8 * kUnit, 6 * kUnit});
        const auto pieces = by_cells(p, {-2, -2, 20, 20});
        double sum = 0;
        std::map<Point, Form> forms;
        for (const CellPiece& piece : pieces) {
            sum += static_cast<double>(level::area2(piece.polygon)) / 2;
            for (const Point c : piece.polygon) CHECK(Box{0, 0, kUnit + 1, kUnit + 1}.contains(c));
            forms[piece.cell] = form_of({piece.polygon});
            // The same whatever else is asked for.
            const auto alone = by_cells(p, {piece.cell.x, piece.cell.y, 1, 1});
            REQUIRE(alone.size() == 1);
            CHECK(form_of({alone[0].polygon}).inner == forms[piece.cell].inner);
            CHECK(form_of({alone[0].polygon}).rim == forms[piece.cell].rim);
        }
        // Each line goes astray by half a unit at most.
        double length = 0;
        for (std::size_t i = 0; i < p.size(); ++i) {
            const Point d = p[(i + 1) % p.size()] - p[i];
            length += std::hypot(d.x, d.y);
        }
        CHECK(std::abs(sum - static_cast<double>(level::area2(p)) / 2) <= length / 2);
        for (const auto& [cell, form] : forms) {
            const auto east = forms.find(cell + Point{1, 0}), south = forms.find(cell + Point{0, 1});
            // What is covered of a side on one hand only lies along a line of the polygon itself.
            const auto agree = [&](const std::vector<Form::Span>& a, const std::vector<Form::Span>& b, Point from,
                                   Point step) {
                const auto holds = [](const std::vector<Form::Span>& spans, int at) {
                    return std::any_of(spans.begin(), spans.end(),
                                       [&](const auto& s) { return s.from <= at && at < s.to; });
                };
                int wrong = 0;
                for (int k = 0; k < kUnit; ++k)
                    wrong += holds(a, k) != holds(b, k) &&
                             nearness(p, from.x + step.x * (k + 0.5), from.y + step.y * (k + 0.5)) > 1;
                return wrong == 0;
            };
            const Point corner{cell.x * kUnit, cell.y * kUnit};
            if (east != forms.end()) CHECK(agree(form.rim[1], east->second.rim[3], corner + Point{kUnit, 0}, {0, 1}));
            if (south != forms.end()) CHECK(agree(form.rim[2], south->second.rim[0], corner + Point{0, kUnit}, {1, 0}));
        }
    }
}

TEST_CASE("an open sliver beside a slanted line stays open, though an outline comes back to its corner", "[free]") {
    make::Small small({14, 12});
    level::Level level = small.level();
    level::Layer layer;
    layer.id = small.project.next_id++;
    level::Blockers b(level.size);
    b.set({1, 2}, TileShape::full);
    b.set({2, 3}, TileShape::full);
    b.set_free({{1, {{100, 100}, {700, 180}, {300, 600}}, 0, false, 0, {}, {}}});
    layer.content = b;
    level.layers.push_back(std::make_shared<const level::Layer>(layer));
    const auto all = outlines(trace(level, level::TileTable(small.project)));
    CHECK(outline_test::winding(all, 128.53 / 64, 173.8 / 64) == 0);
    CHECK(outline_test::winding(all, 126.9 / 64, 173.8 / 64) == 1);
    CHECK(outline_test::winding(all, 130.9 / 64, 173.8 / 64) == 1);
}

TEST_CASE("a turned box comes out of tracing with four corners", "[free]") {
    for (const int turn : {0, 100, 333, 450, 900, 1234}) {
        make::Random random(1);
        Furnished f(random);
        level::Level level = f.small.level();
        level.edit(f.small.ground).tiles()->grid = level::Grid(level.size);
        level.edit(f.small.props).props().clear();
        level::Prop p{1, f.small.prop, {180, 140}};
        p.look.turn = static_cast<std::int16_t>(turn);
        p.look.scale = 400;
        level.edit(f.small.props).props().put(p);
        const Things things(f.small.project);
        const auto all = outlines(trace(level, things.kinds()));
        INFO(turn);
        REQUIRE(all.size() == 1);
        CHECK(all[0].points.size() == 4);
    }
}

TEST_CASE("props merge with cells: what is blocked is what a cell or a prop covers, and lines never cross", "[free]") {
    make::Random random(11);
    int looked = 0, wrong = 0;
    for (int round = 0; round < make::rounds(30, 10'000); ++round) {
        const Furnished f(random);
        const level::Level& level = f.small.level();
        const Things things(f.small.project);
        const auto all = outlines(trace(level, things.kinds()));
        const auto cells_only = outlines(trace(level, things.tiles));
        CHECK(crossings(all) == 0);
        Polygons props;
        for (const level::Prop& prop : level.layer(f.small.props)->props())
            things.props.each_piece(prop, [&](const level::Piece& piece) {
                for (Polygon& p : blocking_units(piece, level.geometry())) props.push_back(std::move(p));
            });
        for (int i = 0; i < 400; ++i) {
            const double x = random.below(24 * 1000) / 1000.0 + 0.0003, y = random.below(18 * 1000) / 1000.0 + 0.0007;
            bool expected = outline_test::winding(cells_only, x, y) != 0, near = false;
            for (const Polygon& p : props) {
                expected = expected || outline_test::holds(p, x * kUnit, y * kUnit);
                near = near || nearness(p, x * kUnit, y * kUnit) < 1.5;
            }
            if (near) continue;
            ++looked;
            const int around = outline_test::winding(all, x, y);
            CHECK((around == 0 || around == 1));
            wrong += (around == 1) != expected;
        }
    }
    CHECK(wrong == 0);
    CHECK(looked > 9000);
}

TEST_CASE("outlines of crowded props never cross, whatever stands on what", "[free]") {
    make::Random random(101);
    int crossed = 0, corners = 0;
    for (int round = 0; round < make::rounds(120, 10'000); ++round) {
        const Furnished f(random);
        const Things things(f.small.project);
        const auto all = outlines(trace(f.small.level(), things.kinds()));
        crossed += crossings(all);
        for (const Outline& o : all) corners += static_cast<int>(o.points.size());
    }
    CHECK(crossed == 0);
    CHECK(corners > 10'000);
}

TEST_CASE("after a change of props, cells and free blockers it is as if all were traced anew", "[free]") {
    make::Random random(17);
    Furnished f(random);
    level::Layer blockers;
    blockers.id = f.small.project.next_id++;
    blockers.content = level::Blockers({24, 18});
    level::Level level = f.small.level();
    level.layers.push_back(std::make_shared<const level::Layer>(blockers));
    Things things(f.small.project);
    Trace live = trace(level, things.kinds());
    std::uint32_t next = 1;
    for (int step = 0; step < 120; ++step) {
        level::Level after = level;
        if (const int what = random.below(3); what == 0) {
            const auto all = level.layer(f.small.props)->props().all();
            level::Prop p = all[static_cast<std::size_t>(random.below(static_cast<int>(all.size())))];
            p.at = {random.below(24 * 16), random.below(18 * 16)};
            p.look.turn = static_cast<std::int16_t>(random.below(3600));
            after.edit(f.small.props).props().put(p);
        } else if (what == 1) {
            after.edit(f.small.ground)
                .grid()
                .set({random.below(24), random.below(18)}, level::Cell(random.flip() ? 1U : 0U, {}, true), 0);
        } else {
            auto free = level.layer(blockers.id)->blockers()->free();
            if (free.size() > 4) free.erase(free.begin() + random.below(static_cast<int>(free.size())));
            level::FreeBlocker b{next++, random_polygon(random, {24 * kUnit, 18 * kUnit}), 0, random.flip(0.4), 0, {},
                                 {}};
            if (random.flip(0.3)) {
                b.points.resize(2);
                b.width = 1 + random.below(3 * kUnit);
            }
            free.push_back(std::move(b));
            after.edit(blockers.id).blockers()->set_free(std::move(free));
        }
        const auto difference = level::difference(level, after, f.small.project);
        REQUIRE(!difference.everything);
        retrace(live, after, things.kinds(), difference.cells);
        level = after;
        REQUIRE(live == trace(level, things.kinds()));
    }
    CHECK(crossings(outlines(live)) == 0);
}

TEST_CASE("what opens takes away all that lies below it, and nothing above", "[free]") {
    make::Small small({8, 6});
    const auto with = [&](TileShape below, TileShape above) {
        level::Level level = small.level();
        level.layers.clear();
        for (const TileShape shape : {below, above}) {
            level::Layer layer;
            layer.id = small.project.next_id++;
            level::Blockers b({8, 6});
            for (int x = 0; x < 8; ++x) b.set({x, 3}, shape);
            layer.content = b;
            level.layers.push_back(std::make_shared<const level::Layer>(layer));
        }
        return total_area(outlines(trace(level, level::TileTable(small.project)))) / (kUnit * kUnit);
    };
    CHECK(with(TileShape::full, TileShape::none) == 8);
    CHECK(with(TileShape::full, TileShape::opens) == 0);
    CHECK(with(TileShape::opens, TileShape::full) == 8);
    CHECK(with(TileShape::slope_se, TileShape::opens) == 0);
}

TEST_CASE("a free blocker that opens cuts a way through what lies below, to the unit", "[free]") {
    make::Small small({8, 6});
    level::Level level = small.level();
    level::Layer layer;
    layer.id = small.project.next_id++;
    level::Blockers b({8, 6});
    for (int x = 0; x < 8; ++x)
        for (int y = 0; y < 6; ++y) b.set({x, y}, TileShape::full);
    // Across the middle, 40 units high, and a bit of a line of 16.
    b.set_free({{1, {{0, 170}, {512, 170}, {512, 210}, {0, 210}}, 0, true, 0, "Ford", {}},
                {2, {{100, 190}, {400, 190}}, 16, false, 0, "Chain", {}}});
    layer.content = b;
    level.layers.push_back(std::make_shared<const level::Layer>(layer));
    const auto all = outlines(trace(level, level::TileTable(small.project)));
    CHECK(all.size() == 3);
    CHECK(total_area(all) == 8 * 6 * kUnit * kUnit - 512 * 40 + 300 * 16);
    CHECK(outline_test::winding(all, 4.01, 190.3 / 64) == 1);
    CHECK(outline_test::winding(all, 4.01, 175.3 / 64) == 0);
}

TEST_CASE("thousands of blockers on one spot are one outline, and soon", "[free]") {
    make::Small small({8, 6});
    make::Random random(23);
    level::Level level = small.level();
    level::Layer layer;
    layer.id = small.project.next_id++;
    level::Blockers b({8, 6});
    std::vector<level::FreeBlocker> free;
    for (std::uint32_t i = 1; i <= 10'000; ++i) {
        const int x = 90 + random.below(20), y = 90 + random.below(20);
        free.push_back({i, {{x, y}, {x + 60, y + 7}, {x + 40, y + 70}}, 0, false, 0, {}, {}});
    }
    b.set_free(free);
    layer.content = b;
    level.layers.push_back(std::make_shared<const level::Layer>(layer));
    const auto all = outlines(trace(level, level::TileTable(small.project)));
    CHECK(all.size() == 1);
    CHECK(crossings(all) == 0);
}

TEST_CASE("a prop's one-way edge lies where it stands, turned as it is", "[free]") {
    make::Random random(2);
    Furnished f(random);
    level::PropKind table = *f.small.project.prop_kind(f.small.prop);
    table.shape = TileShape::one_way_north;
    table.foot = {0, 4, table.box.w, table.box.h - 4};
    table.pivot = {0, 0};
    f.small.project.put(table);
    level::Level level = f.small.level();
    level.edit(f.small.ground).tiles()->grid = level::Grid(level.size);
    level.edit(f.small.props).props().clear();
    level.edit(f.small.props).props().put({1, table.id, {48, 32}});
    const Things things(f.small.project);
    auto edges = one_way_edges(trace(level, things.kinds()));
    REQUIRE(edges.size() == 1);
    const int units = kUnit / 16;
    CHECK(edges[0] == OneWayEdge{{48 * units, 36 * units}, {(48 + table.box.w) * units, 36 * units}, 0});
    CHECK(outlines(trace(level, things.kinds())).empty());
    level::Prop turned{1, table.id, {80, 80}};
    turned.look.turn = 900;
    level.edit(f.small.props).props().put(turned);
    edges = one_way_edges(trace(level, things.kinds()));
    REQUIRE(edges.size() == 1);
    CHECK(edges[0].side == 1); // its top looks to the east now
    CHECK(edges[0].from.x == edges[0].to.x);
    CHECK(edges[0].to.y - edges[0].from.y == table.box.w * units);
}

TEST_CASE("what opens takes a one-way edge away where it lies over its middle, and else leaves it", "[free]") {
    Forms forms;
    const SolidCode top = forms.code_of(TileShape::one_way_north), bottom = forms.code_of(TileShape::one_way_south);
    const SolidCode both = forms.united(top, bottom);
    const Polygons upper{{{0, 0}, {kUnit, 0}, {kUnit, 20}, {0, 20}}};
    CHECK(forms.without(both, upper) == bottom);
    CHECK(forms.without(top, {{{0, 0}, {20, 0}, {20, 20}, {0, 20}}}) == top);
    CHECK(forms.without(kFull, upper) != kFull);
    CHECK(forms.without(kFull, {{{0, 0}, {kUnit, 0}, {kUnit, kUnit}, {0, kUnit}}}) == kOpen);
}

TEST_CASE("of a class only its layers block, but all that opens opens", "[free]") {
    make::Small small({4, 4});
    level::Level level = small.level();
    level.layers.clear();
    const auto add = [&](const std::string& name, TileShape shape, int y) {
        level::Layer layer;
        layer.id = small.project.next_id++;
        layer.collision_class = name;
        level::Blockers b({4, 4});
        for (int x = 0; x < 4; ++x) b.set({x, y}, shape);
        if (shape == TileShape::opens) b.set({0, y}, TileShape::none);
        layer.content = b;
        level.layers.push_back(std::make_shared<const level::Layer>(layer));
    };
    add("water", TileShape::full, 1);
    add("wall", TileShape::full, 2);
    add("", TileShape::opens, 1);
    const level::TileTable tiles(small.project);
    const std::string water = "water", wall = "wall";
    Kinds kinds(tiles);
    CHECK(total_area(outlines(trace(level, kinds))) == 5 * kUnit * kUnit);
    kinds.collision_class = &water;
    CHECK(total_area(outlines(trace(level, kinds))) == 1 * kUnit * kUnit);
    kinds.collision_class = &wall;
    CHECK(total_area(outlines(trace(level, kinds))) == 4 * kUnit * kUnit);
}
