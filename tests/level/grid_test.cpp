#include <catch2/catch.hpp>
#include <map>

#include "level/grid.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {
Cell any_cell(make::Random& random) {
    return Cell(static_cast<TileId>(1 + random.below(500)), {static_cast<std::uint8_t>(random.below(8))},
                random.flip());
}
} // namespace

TEST_CASE("a cell keeps tile, turn and pin", "[grid]") {
    const Cell c(kMostTiles, {5}, true);
    CHECK(c.tile() == kMostTiles);
    CHECK(c.turn().code == 5);
    CHECK(c.pinned());
    CHECK_FALSE(c.empty());
    CHECK(Cell().empty());
    CHECK(sizeof(Cell) == 4);
}

TEST_CASE("a grid is what was put into it", "[grid]") {
    make::Random random(3);
    const Size size{150, 97};
    Grid grid(size);
    std::map<Point, std::pair<Cell, MaterialId>> truth;
    for (int i = 0; i < 6000; ++i) {
        const Point p{random.below(170) - 10, random.below(117) - 10};
        const bool clear = random.flip(0.3);
        const Cell c = clear ? Cell() : any_cell(random);
        const auto m = static_cast<MaterialId>(clear ? 0 : random.below(4));
        grid.set(p, c, m);
        if (!box_of(size).contains(p)) continue;
        if (clear)
            truth.erase(p);
        else
            truth[p] = {c, m};
    }
    for (int y = -3; y < size.h + 3; ++y)
        for (int x = -3; x < size.w + 3; ++x) {
            const auto found = truth.find({x, y});
            const auto wanted = found == truth.end() ? std::pair<Cell, MaterialId>{} : found->second;
            REQUIRE(grid.cell({x, y}) == wanted.first);
            REQUIRE(grid.material({x, y}) == wanted.second);
        }
    CHECK(grid.count() == static_cast<std::int64_t>(truth.size()));
    std::size_t visited = 0;
    each_cell(grid, box_of(size), [&](Point p, Cell c, MaterialId m) {
        ++visited;
        REQUIRE(truth.at(p) == std::pair(c, m));
    });
    CHECK(visited == truth.size());
}

TEST_CASE("copies share until one changes", "[grid]") {
    Grid a({200, 200});
    a.set({10, 10}, Cell(1), 1);
    a.set({150, 150}, Cell(2), 1);
    const Grid b = a;
    CHECK(a.chunk({0, 0}) == b.chunk({0, 0}));
    a.set({11, 10}, Cell(3), 1);
    CHECK(a.chunk({0, 0}) != b.chunk({0, 0}));
    CHECK(a.chunk({2, 2}) == b.chunk({2, 2}));
    CHECK(b.cell({11, 10}).empty());
    const Chunk* own = a.chunk({0, 0});
    a.set({12, 10}, Cell(3), 1);
    CHECK(a.chunk({0, 0}) == own); // nobody else holds it now: changed in place
}

TEST_CASE("blank chunks vanish", "[grid]") {
    Grid grid({130, 130});
    grid.set({70, 70}, Cell(4), 2);
    CHECK(grid.chunk({1, 1}) != nullptr);
    grid.set({70, 70}, {}, 0);
    CHECK(grid.chunk({1, 1}) == nullptr);
    CHECK(grid == Grid({130, 130}));
    grid.set({70, 70}, {}, 0);
    CHECK(grid.chunk({1, 1}) == nullptr);
}

TEST_CASE("differences are exactly where cells differ", "[grid]") {
    make::Random random(8);
    for (int round = 0; round < 60; ++round) {
        Grid a({140, 100});
        for (int i = 0; i < 300; ++i)
            a.set({random.below(140), random.below(100)}, any_cell(random), static_cast<MaterialId>(random.below(3)));
        Grid b = a;
        std::set<Point> changed;
        for (int i = random.below(6); i > 0; --i) {
            const Point p{random.below(140), random.below(100)};
            const Cell c = random.flip(0.3) ? Cell() : any_cell(random);
            b.set(p, c, 1);
            changed.insert(p);
        }
        const auto boxes = differences(a, b);
        std::set<Point> outside = changed;
        for (const Box& box : boxes) {
            bool any = false;
            for (int y = box.y; y < box.bottom(); ++y)
                for (int x = box.x; x < box.right(); ++x) {
                    outside.erase({x, y});
                    any = any || a.cell({x, y}) != b.cell({x, y}) || a.material({x, y}) != b.material({x, y});
                }
            CHECK(any);
        }
        for (const Point p : outside) CHECK((a.cell(p) == b.cell(p) && a.material(p) == b.material(p)));
    }
}

TEST_CASE("materials are read with a rim", "[grid]") {
    make::Random random(4);
    Grid grid({90, 70});
    for (int i = 0; i < 3000; ++i)
        grid.set({random.below(90), random.below(70)}, {}, static_cast<MaterialId>(1 + random.below(9)));
    for (int round = 0; round < 100; ++round) {
        const Box box{random.below(100) - 8, random.below(80) - 8, 1 + random.below(80), 1 + random.below(30)};
        std::vector<MaterialId> plane(static_cast<std::size_t>((box.w + 3) * box.h), 77);
        grid.read_materials(box, plane.data(), static_cast<std::size_t>(box.w + 3), 200);
        for (int y = 0; y < box.h; ++y) {
            for (int x = 0; x < box.w; ++x) {
                const Point p{box.x + x, box.y + y};
                const MaterialId wanted = box_of(grid.size()).contains(p) ? grid.material(p) : MaterialId{200};
                REQUIRE(plane[static_cast<std::size_t>(y * (box.w + 3) + x)] == wanted);
            }
            REQUIRE(plane[static_cast<std::size_t>(y * (box.w + 3) + box.w)] == 77); // not a byte too far
        }
    }
}

TEST_CASE("a grid of another size keeps what fits", "[grid]") {
    Grid grid({100, 100});
    grid.set({5, 5}, Cell(1), 1);
    grid.set({80, 80}, Cell(2), 1);
    const Grid smaller = grid.resized({70, 70});
    CHECK(smaller.cell({5, 5}) == Cell(1));
    CHECK(smaller.count() == 1);
    CHECK(smaller.resized({100, 100}).count() == 1);
    CHECK(grid.resized({300, 200}).cell({80, 80}) == Cell(2));
}

TEST_CASE("the largest level costs nothing while it is empty", "[grid]") {
    Grid grid({kMostCells, kMostCells});
    grid.set({kMostCells - 1, kMostCells - 1}, Cell(9), 3);
    const Grid copy = grid;
    CHECK(copy.cell({kMostCells - 1, kMostCells - 1}) == Cell(9));
    CHECK(grid.count() == 1);
}
