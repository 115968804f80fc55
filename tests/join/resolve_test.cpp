#include <catch2/catch.hpp>

#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/proof.hpp"
#include "join/resolve.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;
using level::Cell;
using level::Grid;
using level::JoinKind;

namespace {

// Cell by cell, as the words say it: the tile of the case whose mask the neighbours give.
void naive(const level::Project& project, const Rules& rules, Grid& grid, std::uint32_t seed) {
    Grid out = grid;
    for (int y = 0; y < grid.size().h; ++y)
        for (int x = 0; x < grid.size().w; ++x) {
            const level::MaterialId m = grid.material({x, y});
            if (m == 0 || grid.cell({x, y}).pinned()) continue;
            Mask mask = 0;
            for (unsigned i = 0; i < 8; ++i) {
                const Point n = Point{x, y} + kNeighbour[i];
                const bool inside = box_of(grid.size()).contains(n);
                if (inside ? grid.material(n) == m : project.material(m)->joins.beyond_is_same)
                    mask = static_cast<Mask>(mask | (1U << i));
            }
            out.set({x, y}, rules.choose(m, mask, x, y, seed), m);
        }
    grid = out;
}

Grid random_grid(make::Random& random, Size size) {
    Grid grid(size);
    for (int i = 0; i < 40; ++i) {
        const Box box{random.below(size.w), random.below(size.h), 1 + random.below(20), 1 + random.below(12)};
        const auto m = static_cast<level::MaterialId>(random.below(3));
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x) grid.set({x, y}, {}, m);
    }
    for (int i = 0; i < 30; ++i)
        grid.set({random.below(size.w), random.below(size.h)}, Cell(5, {}, true),
                 static_cast<level::MaterialId>(random.below(2)));
    return grid;
}

} // namespace

TEST_CASE("rows of a level resolve as cell by cell", "[resolve]") {
    make::Small small;
    level::Material rock = *small.project.material(1);
    make::Random random(6);
    for (int round = 0; round < 20; ++round) {
        rock.joins.beyond_is_same = random.flip();
        small.project.put(rock);
        const Rules rules(small.project);
        Grid fast = random_grid(random, {150, 90});
        Grid slow = fast;
        resolve(rules, fast, box_of(fast.size()), 11);
        naive(small.project, rules, slow, 11);
        REQUIRE(fast == slow);
    }
}

TEST_CASE("strokes resolved one by one give the level resolved at once", "[resolve]") {
    make::Small small({90, 70});
    const Rules rules(small.project);
    make::Random random(12);
    level::Level level = small.level();
    for (int stroke = 0; stroke < 10000; ++stroke) {
        const int kind = random.below(10);
        const edit::Hand hand = kind < 5   ? make::material(1)
                                : kind < 7 ? make::material(2)
                                : kind < 9 ? make::eraser()
                                           : make::laying(static_cast<level::TileId>(1 + random.below(47)));
        const Point from{random.below(94) - 2, random.below(74) - 2};
        std::vector<Point> cells =
            random.flip(0.3) ? edit::box_cells({from.x, from.y, 1 + random.below(9), 1 + random.below(6)})
                             : edit::line_cells(from, {from.x + random.below(12) - 6, from.y + random.below(12) - 6});
        level = edit::lay(small.project, rules, level, small.ground, hand, cells).level;
        if (stroke % 250 != 249) continue;
        Grid again = level.layer(small.ground)->grid();
        resolve(rules, again, level.cells(), small.ground);
        REQUIRE(again == level.layer(small.ground)->grid());
        naive(small.project, rules, again, small.ground);
        REQUIRE(again == level.layer(small.ground)->grid());
    }
}

TEST_CASE("a resolve that changes nothing keeps chunks shared", "[resolve]") {
    make::Small small;
    const Rules rules(small.project);
    Grid grid({200, 200});
    for (int i = 0; i < 200; ++i) grid.set({i, 100}, {}, 1);
    resolve(rules, grid, box_of(grid.size()), 1);
    const Grid before = grid;
    resolve(rules, grid, box_of(grid.size()), 1);
    for (int cx = 0; cx < 4; ++cx) CHECK(grid.chunk({cx, 1}) == before.chunk({cx, 1}));
}

TEST_CASE("variants come by weight and stay where they are", "[resolve]") {
    make::Small small({200, 200});
    const level::Sheet& sand = *small.project.sheets[1];
    small.project = edit::set_case(
        small.project, 2, 255, {{sand.tiles[0].id, 300, {}}, {sand.tiles[1].id, 100, {}}, {sand.tiles[2].id, 0, {}}});
    const Rules rules(small.project);
    std::map<level::TileId, int> tally;
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 200; ++x) ++tally[rules.choose(2, 255, x, y, 3).tile()];
    CHECK(tally.size() == 2);
    CHECK(std::abs(tally[sand.tiles[0].id] - 30000) < 700);
    CHECK(tally[sand.tiles[2].id] == 0);
    CHECK(rules.choose(2, 255, 7, 8, 3) == Rules(small.project).choose(2, 255, 7, 8, 3));
}

TEST_CASE("a missing case is served by the nearest and known as missing", "[resolve]") {
    make::Small small;
    level::Project p = edit::set_case(small.project, 1, 255 & ~kNE, {});
    const Rules rules(p);
    CHECK(rules.missing(1, 255 & ~kNE));
    CHECK_FALSE(rules.complete(1));
    CHECK(Rules(small.project).complete(1));
    CHECK_FALSE(rules.missing(1, 255));
    // Only a corner is wrong with the tile for "joined all round".
    CHECK(rules.choose(1, 255 & ~kNE, 0, 0, 0).tile() == p.material(1)->joins.cases.at(255).front().tile);
    level::Material empty;
    empty.id = 9;
    empty.joins.kind = JoinKind::full;
    p.put(empty);
    CHECK(Rules(p).choose(9, 255, 0, 0, 0).empty());
    CHECK(Rules(p).missing(9, 255));
}

TEST_CASE("weights that are all nothing count as no tile", "[resolve]") {
    make::Small small;
    const level::Project p = edit::set_case(small.project, 1, 255, {{1, 0, {}}, {2, 0, {}}});
    CHECK(Rules(p).missing(1, 255));
}
