// Isometric levels through the chain: laid, drawn, turned, built, walked through.
#include <catch2/catch.hpp>

#include "edit/clips.hpp"
#include "edit/levels.hpp"
#include "edit/overlay.hpp"
#include "edit/reshape.hpp"
#include "edit/sheets.hpp"
#include "level/block.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::edit;
using level::Region;

namespace {

// The small project with its level laid on diamonds of 32 x 16 pixels, and a sheet of diamonds: tile 1 flat and full,
// tile 2 a block 24 pixels high, its left side red and its right side green.
struct Aslant {
    Aslant() : small({12, 10}) {
        level::Level level = small.level();
        level.cell = {32, 16};
        level.lattice = LatticeKind::isometric;
        small.set(level);
        Image art({64, 40});
        for (int i = 0; i < 2; ++i)
            for (int y = 0; y < 40; ++y)
                for (int x = 0; x < 32; ++x) {
                    const int top = i == 0 ? 24 : 0;
                    const double off = std::abs(2.0 * x + 1 - 32) / 32 + std::abs(2.0 * (y - top) + 1 - 16) / 16;
                    if (off < 1) art.set(x + i * 32, y, {200, 200, 90, 255});
                    const int from = 8 + (x < 16 ? x / 2 : (31 - x) / 2);
                    if (i == 1 && off >= 1 && y >= from && y < from + 24)
                        art.set(x + i * 32, y, x < 16 ? Rgba{200, 0, 0, 255} : Rgba{0, 160, 0, 255});
                }
        level::SheetId id = 0;
        small.project = edit::add_sheet(std::move(small.project), "sheets/aslant.png", art, "Aslant",
                                        {{32, 40}, {}, {}, 1}, true, id);
        flat = small.project.sheet(id)->tiles[0].id;
        tall = small.project.sheet(id)->tiles[1].id;
        sheet = id;
    }
    level::Level laid(level::Level level, level::LayerId layer, level::TileId tile, const Box& cells, Turn turn = {}) {
        Hand h{held::Tile{tile}};
        h.turn = turn;
        return lay(small.project, join::Rules(small.project), level, layer, h, Region(cells)).level;
    }
    level::Level busy(unsigned seed) {
        make::Random random(seed);
        level::Level level = small.level();
        for (int i = 0; i < 10; ++i)
            level = laid(level, random.flip() ? small.ground : small.front, random.flip() ? flat : tall,
                         {random.below(12), random.below(10), 1 + random.below(4), 1 + random.below(4)},
                         random.flip() ? mirrored(Turn{}) : Turn{});
        for (int i = 0; i < 6; ++i)
            level = add_prop(level, small.props,
                             {small.project.next_id++,
                              small.prop,
                              level.geometry().stand({random.below(12), random.below(10)}),
                              {random.flip()}});
        return level;
    }
    make::Small small;
    level::TileId flat = 0, tall = 0;
    level::SheetId sheet = 0;
};

Rgba at(const picture::Canvas& c, int x, int y) {
    const std::uint32_t p = c.pixels[static_cast<std::size_t>((y - c.box.y) * c.box.w + x - c.box.x)];
    return {static_cast<std::uint8_t>(p >> 16), static_cast<std::uint8_t>(p >> 8), static_cast<std::uint8_t>(p), 255};
}

} // namespace

TEST_CASE("Diamonds fill the ground without a gap, and what stands further down stands in front", "[isometric]") {
    Aslant a;
    level::Level level = a.laid(a.small.level(), a.small.ground, a.flat, a.small.level().cells());
    picture::Art art;
    picture::Canvas canvas(picture::extent(a.small.project, level));
    CHECK(canvas.box.contains(level.pixels()));
    picture::draw(a.small.project, level, art, canvas, canvas.box);
    for (int y = 0; y < level.pixels().h; ++y)
        for (int x = level.pixels().x; x < level.pixels().right(); ++x)
            if (level.cells().contains(level.geometry().cell_at({x, y}))) {
                INFO(x << ", " << y);
                REQUIRE(at(canvas, x, y) == Rgba{200, 200, 90, 255});
            }
    // A block in front hides the foot of the one behind it, wherever it was laid first.
    level = a.laid(a.laid(a.small.level(), a.small.ground, a.tall, {5, 5, 1, 1}), a.small.ground, a.tall, {4, 4, 1, 1});
    picture::draw(a.small.project, level, art, canvas, canvas.box);
    const Box front = level::picture_box(a.small.project.sheet(a.sheet)->tiles[1], {5, 5}, {}, level.geometry());
    CHECK(front.size() == Size{32, 40});
    CHECK(front.bottom() == level.geometry().box(Point{5, 5}).bottom());
    CHECK(at(canvas, front.x + 16, front.y + 8) == Rgba{200, 200, 90, 255});
    // Mirrored, its sides change places.
    level = a.laid(a.small.level(), a.small.ground, a.tall, {5, 5, 1, 1}, mirrored(Turn{}));
    picture::draw(a.small.project, level, art, canvas, canvas.box);
    CHECK(at(canvas, front.x + 4, front.y + 24) == Rgba{0, 160, 0, 255});
    CHECK(level.layer(a.small.ground)->grid().cell({5, 5}).turn() == Lattice::kChangedOver);
}

TEST_CASE("A part of an isometric level drawn anew is the same as the whole", "[isometric]") {
    Aslant a;
    const level::Level level = a.busy(9);
    picture::Art art;
    picture::Canvas whole(picture::extent(a.small.project, level));
    picture::draw(a.small.project, level, art, whole, whole.box);
    make::Random random(4);
    for (int i = 0; i < 80; ++i) {
        const Box part =
            intersection(whole.box, {whole.box.x + random.below(whole.box.w), whole.box.y + random.below(whole.box.h),
                                     1 + random.below(90), 1 + random.below(70)});
        picture::Canvas canvas(part);
        picture::draw(a.small.project, level, art, canvas, part);
        for (int y = part.y; y < part.bottom(); ++y)
            for (int x = part.x; x < part.right(); ++x) REQUIRE(at(canvas, x, y) == at(whole, x, y));
    }
}

TEST_CASE("What a change of an isometric level can be seen in is told by its difference", "[isometric]") {
    Aslant a;
    make::Random random(21);
    picture::Art art;
    level::Level level = a.busy(3);
    for (int i = 0; i < 25; ++i) {
        level::Level next = random.flip(0.7)
                                ? a.laid(level, random.flip() ? a.small.ground : a.small.front,
                                         random.flip() ? a.flat : a.tall, {random.below(12), random.below(10), 1, 1})
                                : add_prop(level, a.small.props,
                                           {a.small.project.next_id++,
                                            a.small.prop,
                                            level.geometry().stand({random.below(12), random.below(10)}),
                                            {}});
        const auto difference = level::difference(level, next, a.small.project);
        REQUIRE_FALSE(difference.everything);
        picture::Canvas before(picture::extent(a.small.project, level)), after(before.box);
        picture::draw(a.small.project, level, art, before, before.box);
        picture::draw(a.small.project, next, art, after, after.box);
        for (int y = before.box.y; y < before.box.bottom(); ++y)
            for (int x = before.box.x; x < before.box.right(); ++x) {
                if (at(before, x, y) == at(after, x, y)) continue;
                const bool told = std::any_of(difference.cells.begin(), difference.cells.end(), [&](const Box& cells) {
                    return next.geometry().box(cells).contains(Point{x, y});
                });
                REQUIRE(told);
            }
        level = next;
    }
}

TEST_CASE("Turning an isometric level four times, or mirroring it twice, is nothing", "[isometric]") {
    Aslant a;
    const level::Level level = a.busy(5);
    const join::Rules rules(a.small.project);
    level::Level round = level;
    for (int i = 0; i < 4; ++i) {
        round = turned(a.small.project, rules, round, turned_right(Turn{}));
        for (const auto& p : round.layer(a.small.props)->props()) // they stay in the middle of their cells
            CHECK(p.at == round.geometry().stand(round.geometry().cell_at(p.at)));
    }
    CHECK(round.layer(a.small.ground)->grid() == level.layer(a.small.ground)->grid());
    CHECK(round.layer(a.small.props)->props() == level.layer(a.small.props)->props());
    // Left and right as one sees them: the picture is the mirrored one.
    level::Level flats = a.laid(a.small.level(), a.small.ground, a.flat, {1, 2, 5, 3});
    const Turn over = flats.geometry().of_places(mirrored(Turn{}));
    const level::Level other = turned(a.small.project, rules, flats, over);
    CHECK(other.size == Size{10, 12});
    CHECK(other.layer(a.small.ground)->grid().bounds() == Box{2, 1, 3, 5});
    CHECK(turned(a.small.project, rules, other, over).layer(a.small.ground)->grid() ==
          flats.layer(a.small.ground)->grid());
    const Image here = picture::render(a.small.project, flats, 1), there = picture::render(a.small.project, other, 1);
    REQUIRE(here.size() == there.size());
    int unlike = 0;
    for (int y = 0; y < here.height(); ++y)
        for (int x = 0; x < here.width(); ++x) unlike += !(here.at(x, y) == there.at(here.width() - 1 - x, y));
    CHECK(unlike == 0);
}

TEST_CASE("Stamps, extending and another lattice keep things in their cells", "[isometric]") {
    Aslant a;
    const join::Rules rules(a.small.project);
    level::Level level = a.laid(a.small.level(), a.small.ground, a.tall, {3, 3, 2, 1});
    level =
        add_prop(level, a.small.props, {a.small.project.next_id++, a.small.prop, level.geometry().stand({3, 4}), {}});
    const auto cell_of_prop = [&](const level::Level& l) {
        return l.geometry().cell_at(l.layer(a.small.props)->props().all().back().at);
    };
    const level::Stamp taken = take(level, Region(Box{3, 3, 2, 2}), concerned(level, 0, true));
    CHECK(taken.lattice == LatticeKind::isometric);
    const Stamped laid = stamp(a.small.project, rules, level, taken, {.at = {7, 2}});
    CHECK(laid.props == 1);
    CHECK(cell_of_prop(laid.level) == Point{7, 3});
    CHECK(laid.level.layer(a.small.ground)->grid().cell({8, 2}).tile() == a.tall);
    CHECK(cell_of_prop(extended(rules, level, {4, 1, 0, 3})) == Point{7, 5});
    CHECK(content(level) == Box{3, 3, 2, 2});
    const Rescaled square = rescaled(a.small.project, level, {16, 16}, LatticeKind::square);
    CHECK(cell_of_prop(square.level) == Point{3, 4});
    CHECK(square.says.english().find("boxes") != std::string::npos);
    const Rescaled back = rescaled(a.small.project, square.level, {32, 16}, LatticeKind::isometric);
    CHECK(cell_of_prop(back.level) == Point{3, 4});
    CHECK(back.level.layer(a.small.ground)->grid() == level.layer(a.small.ground)->grid());
    CHECK(snapped(level, level.geometry().stand({6, 2}) + Point{3, -2}) == level.geometry().stand({6, 2}));
    // A tile whose diamond is full wipes out what it is laid on; only its corners are see-through.
    CHECK_FALSE(see_through(a.small.project, a.flat, level.geometry()));
    CHECK(see_through(a.small.project, a.flat));
}

TEST_CASE("An isometric level is kept, built and walked through by the keys of the screen", "[isometric]") {
    Aslant a;
    make::Folder folder;
    level::Level level = a.laid(a.small.level(), a.small.front, a.flat, a.small.level().cells());
    level::Sheet sheet = *a.small.project.sheet(a.sheet);
    sheet.tiles[1].shape = level::TileShape::full;
    a.small.project.put(sheet);
    level = a.laid(level, a.small.ground, a.tall, {8, 0, 1, 10}); // a wall across the way of x
    level = place_mark(level, a.small.project.next_id++, level::MarkKind::start, "Start", {5, 5});
    level.walker = {32, 64, 5, 0};
    level::Project p = a.small.project;
    p.put(level);
    store::save(p, folder / "p");
    const level::Project back = store::load(folder / "p");
    CHECK(back.level(a.small.id)->lattice == LatticeKind::isometric);

    const vicinum::Level engine = vicinum::load(parcel::build(p, level, folder / "out").dir);
    REQUIRE(engine.isometric);
    const auto& front = engine.layers.back();
    for (const Point cell : {Point{0, 0}, {11, 9}, {3, 7}}) {
        const vicinum::Rect r = engine.picture_place(front, cell.x, cell.y, front.cell(cell.x, cell.y));
        const Box own = level::picture_box(sheet.tiles[0], cell, {}, level.geometry());
        CHECK(Box{r.x, r.y, r.w, r.h} == own);
        const auto [px, py] = engine.pixel(cell.x + 0.5, cell.y + 0.5);
        CHECK(level.geometry().cell_at({static_cast<int>(px), static_cast<int>(py)}) == cell);
        const auto [x, y] = engine.place(px, py);
        CHECK(x == Approx(cell.x + 0.5));
        CHECK(y == Approx(cell.y + 0.5));
    }
    walk::World world(engine);
    CHECK(world.foot().x == Approx(5.5));
    CHECK(world.foot().y == Approx(5.5).margin(0.01));
    for (int i = 0; i < 12; ++i) world.tick({.right = true});
    CHECK(world.foot().x > 5.9);
    CHECK(world.foot().y < 5.1);
    CHECK(world.foot().x - 5.5 == Approx(5.5 - world.foot().y).margin(0.02));
    // Down and right at once is along x; the wall's side at 8 stops the foot of half a cell.
    for (int i = 0; i < 200; ++i) world.tick({.right = true, .down = true});
    CHECK(world.foot().x == Approx(8 - 0.25).margin(0.03));
    const auto frame = walk::frame_around(engine, world.foot(), {64, 48});
    const auto [fx, fy] = engine.pixel(world.foot().x, world.foot().y);
    CHECK(fx > frame.x);
    CHECK(fx < frame.x + frame.w);
    CHECK(fy > frame.y);
    CHECK(fy < frame.y + frame.h + 1);
}

TEST_CASE("An isometric level from the side is refused with its place", "[isometric]") {
    Aslant a;
    make::Folder folder;
    level::Level level = a.small.level();
    level.view = level::View::from_the_side;
    level::Project p = a.small.project;
    p.put(level);
    try {
        store::save(p, folder / "p"); // which reads back what it is about to write
        FAIL("it was saved");
    } catch (const InputError& e) {
        CHECK(e.problem.english() == "An isometric level is seen from above");
        CHECK(e.where.english().find("lattice") != std::string::npos);
    }
}
