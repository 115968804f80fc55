#include <catch2/catch.hpp>

#include "edit/stroke.hpp"
#include "level/standing.hpp"
#include "picture/compose.hpp"
#include "sheet/cut.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::picture;

namespace {

level::Level random_level(make::Small& small, unsigned seed) {
    make::Random random(seed);
    level::Level level = small.level();
    for (int i = 0; i < 200; ++i) {
        const Point p{random.below(40), random.below(30)};
        level.edit(random.flip() ? small.ground : small.front)
            .grid()
            .set(p,
                 level::Cell(static_cast<level::TileId>(1 + random.below(51)),
                             {static_cast<std::uint8_t>(random.below(8))}, false),
                 1);
    }
    for (int i = 0; i < 30; ++i)
        level.edit(small.props)
            .props()
            .put({static_cast<std::uint32_t>(1000 + i),
                  small.prop,
                  {random.below(640), random.below(480)},
                  {random.flip()}});
    level.edit(small.front).opacity = 60;
    return level;
}

std::uint32_t pixel(const Canvas& c, int x, int y) {
    return c.pixels[static_cast<std::size_t>((y - c.box.y) * c.box.w + x - c.box.x)];
}

} // namespace

TEST_CASE("a part drawn anew is the same as the whole", "[compose]") {
    make::Small small;
    const level::Level level = random_level(small, 3);
    Art art;
    Canvas whole(level.pixels());
    draw(small.project, level, art, whole, whole.box);
    make::Random random(4);
    for (int i = 0; i < 60; ++i) {
        const Box part{random.below(640) - 10, random.below(480) - 10, 1 + random.below(90), 1 + random.below(90)};
        const Box inside = intersection(part, whole.box);
        if (inside.empty()) continue;
        Canvas canvas(inside);
        draw(small.project, level, art, canvas, inside);
        for (int y = inside.y; y < inside.bottom(); ++y)
            for (int x = inside.x; x < inside.right(); ++x) REQUIRE(pixel(canvas, x, y) == pixel(whole, x, y));
    }
}

TEST_CASE("tiles are drawn as in the sheet, turned as asked", "[compose]") {
    make::Small small;
    level::Level level = small.level();
    for (std::uint8_t code = 0; code < 8; ++code)
        level.edit(small.ground).grid().set({code, 0}, level::Cell(3, {code}, true), 0);
    const Image picture = render(small.project, level, 1);
    const level::Sheet& s = *small.project.sheets[0];
    const Image art = sheet::tile_art(s, s.tiles[2]);
    for (std::uint8_t code = 0; code < 8; ++code)
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x) {
                const Point from = source_pixel({code}, {x, y}, 16);
                REQUIRE(picture.at(code * 16 + x, y) == art.at(from.x, from.y));
            }
    CHECK(picture.at(200, 200) == small.level().ground);
    CHECK(render(small.project, level, 3).size() == Size{40 * 48, 30 * 48});
}

TEST_CASE("layers lie over one another with their opacity, hidden ones not at all", "[compose]") {
    make::Small small;
    level::Level level = small.level();
    level.ground = {0, 0, 0, 255};
    level.edit(small.front).grid().set({0, 0}, level::Cell(47), 1); // opaque
    const Image full = render(small.project, level, 1);
    level.edit(small.front).opacity = 50;
    const Image half = render(small.project, level, 1);
    for (int i = 0; i < 16; ++i) CHECK(std::abs(half.at(i, i).g - full.at(i, i).g / 2) <= 1);
    level.edit(small.front).shown = false;
    CHECK(render(small.project, level, 1).at(5, 5) == Rgba{0, 0, 0, 255});
}

TEST_CASE("props stand in the order of their pivots", "[compose]") {
    make::Small small;
    level::PropKind second = *small.project.prop_kind(small.prop);
    second.id = 777;
    second.box = {32, 0, 16, 32};
    small.project.put(second);
    level::Level level = small.level();
    level.edit(small.props).props() =
        level::Props({{1, 777, {100, 110}, {false}}, {2, small.prop, {104, 100}, {false}}});
    const Image a = render(small.project, level, 1);
    level.edit(small.props).props() =
        level::Props({{2, small.prop, {104, 100}, {false}}, {1, 777, {100, 110}, {false}}});
    CHECK(render(small.project, level, 1) == a);
    const Image& art = *small.project.sheets[0]->image;
    CHECK(a.at(100, 100) == art.at(32 + 8, 21)); // the one further down covers
    CHECK(level::Placing(second, {100, 110}, {true}).around(box_of(second.drawn())).x == 100 - 7);
    CHECK(level::Placing(second, {100, 110}, {false}).around(second.drawn_foot()) == Box{94, 103, 12, 8});
    CHECK(level::Placing(second, {100, 110}, {true}).around(second.drawn_foot()) == Box{95, 103, 12, 8});
}

TEST_CASE("what is gone is seen, not silent", "[compose]") {
    make::Small small;
    level::Level level = small.level();
    level.edit(small.ground).grid().set({2, 2}, level::Cell(60000), 0);
    level.edit(small.ground).grid().set({4, 2}, {}, 1); // painted, but not yet joined
    const Image picture = render(small.project, level, 1);
    for (const int x : {32, 64}) CHECK(picture.at(x, 32) == Rgba{0xC2, 0x45, 0x2D, 255});
}

TEST_CASE("a backdrop repeats over the level and is tinted", "[compose]") {
    make::Small small;
    level::Level level = small.level();
    level::Layer back;
    back.id = 900;
    back.content = level::Backdrop{small.project.sheets[1]->id, {255, 128, 0, 255}};
    level.layers.insert(level.layers.begin(), std::make_shared<const level::Layer>(back));
    const Image picture = render(small.project, level, 1);
    const Image& art = *small.project.sheets[1]->image;
    for (const Point p : {Point{0, 0}, {70, 20}, {639, 479}}) {
        const Rgba a = art.at(p.x % art.width(), p.y % art.height());
        CHECK(std::abs(picture.at(p.x, p.y).r - a.r) <= 1);
        CHECK(std::abs(picture.at(p.x, p.y).g - a.g * 128 / 255) <= 1);
        CHECK(picture.at(p.x, p.y).b == 0);
    }
}

TEST_CASE("changed art is drawn anew", "[compose]") {
    make::Small small;
    level::Level level = small.level();
    level.edit(small.ground).grid().set({0, 0}, level::Cell(47), 1);
    Art art;
    Canvas canvas({0, 0, 16, 16});
    draw(small.project, level, art, canvas, canvas.box);
    const std::uint32_t before = pixel(canvas, 8, 8);
    level::Sheet s = *small.project.sheets[0];
    s.image = std::make_shared<const Image>(s.image->size(), Rgba{1, 2, 3, 255});
    small.project.put(s);
    draw(small.project, level, art, canvas, canvas.box);
    CHECK(pixel(canvas, 8, 8) != before);
    CHECK(pixel(canvas, 8, 8) == 0xFF010203);
}
