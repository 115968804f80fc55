// Layers that lie half a cell aside block where they are seen.
#include <catch2/catch.hpp>

#include "edit/used.hpp"
#include "outline/field.hpp"
#include "outline/trace.hpp"
#include "store/format.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using level::TileShape;

namespace {

// A level of one layer whose tiles, one for each shape, lie here and there, two cells away from its edges.
struct Aside {
    explicit Aside(Point shift, unsigned seed = 1) {
        make::Random random(seed);
        level::Sheet sheet = *small.project.sheets.front();
        const auto shapes = static_cast<std::size_t>(TileShape::one_way_west) + 1;
        for (std::size_t i = 0; i < std::min(shapes, sheet.tiles.size()); ++i) {
            sheet.tiles[i].shape = static_cast<TileShape>(i);
            tiles.push_back(sheet.tiles[i].id);
        }
        small.project.put(sheet);
        level::Level next = small.level();
        for (const level::LayerRef& l : small.level().layers)
            if (l->tiles()) next.edit(l->id).tiles()->solid = false;
        level::Layer& layer = next.edit(small.ground);
        layer.tiles()->solid = true;
        layer.shift = shift;
        for (int y = 2; y < next.size.h - 2; ++y)
            for (int x = 2; x < next.size.w - 2; ++x) {
                const level::TileId tile =
                    tiles[static_cast<std::size_t>(random.below(static_cast<int>(tiles.size())))];
                layer.grid().set({x, y}, random.flip() ? level::Cell(tile, {}, true) : level::Cell{}, 0);
            }
        small.set(next);
    }
    [[nodiscard]] level::TileTable table() const { return level::TileTable(small.project); }
    make::Small small{{30, 24}};
    std::vector<level::TileId> tiles;
};

} // namespace

TEST_CASE("what lies half a cell aside has the same outlines, half a cell aside", "[trace][aside]") {
    const Point shift = GENERATE(Point{1, 1}, Point{1, 0}, Point{0, -1}, Point{-1, 1});
    const Aside straight({0, 0}), aside(shift);
    REQUIRE(straight.tiles.size() > 4);
    const Trace a = trace(straight.small.level(), straight.table()), b = trace(aside.small.level(), aside.table());
    const Point by{shift.x * kUnit / 2, shift.y * kUnit / 2};
    // Where masses meet at a corner alone they may be told as one or as two: places are asked.
    const std::vector<Outline> here = outlines(a), there = outlines(b);
    REQUIRE(here.size() > 20);
    std::int64_t area = 0, moved = 0;
    for (const Outline& o : here) area += area2(o);
    for (const Outline& o : there) moved += area2(o);
    CHECK(moved == area);
    make::Random random(3);
    for (int i = 0; i < 4000; ++i) {
        const double x = random.below(30 * 1000) / 1000.0 + 0.0003, y = random.below(24 * 1000) / 1000.0 + 0.0007;
        REQUIRE(outline_test::winding(there, x + shift.x / 2.0, y + shift.y / 2.0) ==
                outline_test::winding(here, x, y));
    }
    CHECK(b.shape_count() == a.shape_count());
    // What is one-way stops beside its neighbours as before; those that these cover may be told longer.
    std::vector<OneWayEdge> edges = one_way_edges(a);
    const std::vector<OneWayEdge> beside = one_way_edges(b);
    for (OneWayEdge& e : edges) {
        e.from = e.from + by;
        e.to = e.to + by;
        CHECK(std::any_of(beside.begin(), beside.end(),
                          [&](const OneWayEdge& o) { return o.side == e.side && o.from <= e.from && o.to >= e.to; }));
    }
}

TEST_CASE("half a cell aside, too, only what changed is traced again, and who decides is named", "[trace][aside]") {
    Aside aside({1, -1}, 5);
    const level::TileTable tiles = aside.table();
    Trace live = trace(aside.small.level(), tiles);
    make::Random random(8);
    for (int round = 0; round < 40; ++round) {
        const level::Level before = aside.small.level();
        level::Level next = before;
        next.edit(aside.small.ground)
            .grid()
            .set({random.below(30), random.below(24)},
                 level::Cell(aside.tiles[static_cast<std::size_t>(random.below(5))], {}, true), 0);
        const auto changed = level::difference(before, next, aside.small.project);
        REQUIRE_FALSE(changed.everything);
        aside.small.set(next);
        retrace(live, next, tiles, changed.cells);
        CHECK(live == trace(next, tiles));
    }
    level::Level next = aside.small.level();
    level::Grid& grid = next.edit(aside.small.ground).grid();
    for (int y = 8; y < 14; ++y)
        for (int x = 8; x < 14; ++x) grid.set({x, y}, {}, 0);
    grid.set({10, 10}, level::Cell(aside.tiles[static_cast<std::size_t>(TileShape::full)], {}, true), 0);
    aside.small.set(next);
    for (const Point cell : {Point{10, 10}, Point{11, 10}, Point{10, 9}, Point{11, 9}})
        CHECK(edit::decided_at(aside.small.project, next, cell).blocks);
    for (const Point cell : {Point{9, 10}, Point{10, 11}, Point{12, 10}})
        CHECK_FALSE(edit::decided_at(aside.small.project, next, cell).blocks);
    // It is kept.
    const level::Level again = store::level_from_text(store::level_to_text(next), "level", aside.small.project);
    CHECK(again.layer(aside.small.ground)->shift == Point{1, -1});
    CHECK(again.layer(aside.small.ground)->solid());
}

TEST_CASE("what opens half a cell aside opens just there", "[trace][aside]") {
    make::Small small({10, 10});
    level::Sheet sheet = *small.project.sheets.front();
    sheet.tiles[0].shape = TileShape::full;
    sheet.tiles[1].shape = TileShape::opens;
    small.project.put(sheet);
    level::Level level = small.level();
    for (int y = 0; y < 10; ++y)
        for (int x = 0; x < 10; ++x)
            level.edit(small.ground).grid().set({x, y}, level::Cell(sheet.tiles[0].id, {}, true), 0);
    level.edit(small.ground).tiles()->solid = true;
    level::Layer& front = level.edit(small.front);
    front.shift = {1, 1};
    front.grid().set({4, 4}, level::Cell(sheet.tiles[1].id, {}, true), 0);
    const level::TileTable tiles(small.project);
    const auto all = outlines(trace(level, tiles));
    REQUIRE(all.size() == 2);
    CHECK(all[1].hole);
    CHECK(area2(all[1]) == -2 * 64 * 64);
    CHECK(all[1].points.front() == Point{4 * 64 + 32, 4 * 64 + 32});
}
