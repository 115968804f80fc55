#include <catch2/catch.hpp>

#include "parcel/build.hpp"
#include "support/make.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::walk;

namespace {

// A level seen from the side, built through tiles and traced like any other.
struct Course {
    explicit Course(Size cells, level::View view = level::View::from_the_side) : small(cells, view) {
        level::Level level = small.level();
        level.walker = {44, 96, 6, 3};
        if (view == level::View::from_above) level.walker = {48, 64, 5, 0};
        small.set(level);
        level::Sheet s = *small.project.sheets[0];
        for (std::size_t i = 0; i < 4; ++i)
            s.tiles[i].shape =
                static_cast<level::TileShape>(static_cast<int>(level::TileShape::slope_ne) + static_cast<int>(i));
        s.tiles[4].shape = level::TileShape::one_way_north;
        small.project.put(s);
    }

    // '#' full, '/' slope up to the right, '\' down to the right, '=' one-way top.
    void draw(const std::vector<std::string>& rows) {
        level::Level level = small.level();
        for (int y = 0; y < static_cast<int>(rows.size()); ++y)
            for (int x = 0; x < static_cast<int>(rows[static_cast<std::size_t>(y)].size()); ++x) {
                const char c = rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)];
                const level::TileId tile = c == '#' ? 10 : c == '/' ? 2 : c == '\\' ? 3 : c == '=' ? 5 : 0;
                if (tile) level.edit(small.ground).grid().set({x, y}, level::Cell(tile, {}, true), 0);
            }
        small.set(level);
    }

    void fill(const Box& box) {
        level::Level level = small.level();
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x) level.edit(small.ground).grid().set({x, y}, level::Cell(10), 0);
        small.set(level);
    }

    const vicinum::Level& built() {
        parcel::build(small.project, small.level(), dir / "p");
        parcel = vicinum::load(dir / "p");
        return parcel;
    }

    make::Small small;
    make::Folder dir;
    vicinum::Level parcel;
};

void rest(World& world) {
    for (int i = 0; i < 30; ++i) world.tick({});
}

const Input kRight{false, true, false, false, false};
const Input kLeft{true, false, false, false, false};
const Input kJump{false, false, false, false, true};

} // namespace

TEST_CASE("two hundred cells of flat floor without one tick of vertical motion", "[walk]") {
    Course course({260, 12});
    course.fill({0, 8, 260, 4});
    // The floor is 260 tiles and one straight side: no seam to stumble over.
    const vicinum::Level& level = course.built();
    REQUIRE(level.outlines.size() == 1);
    CHECK(level.outlines[0].points.size() == 4);
    World world(level);
    world.place({10, 8});
    rest(world);
    const Position start = world.foot();
    int moved = 0, ticks = 0;
    while (world.foot().x < start.x + 200) {
        REQUIRE(ticks++ < 4000);
        const Position before = world.foot();
        world.tick(kRight);
        moved += world.foot().y != before.y;
        REQUIRE(world.foot().x > before.x);
        REQUIRE(world.grounded());
    }
    CHECK(moved == 0);
    CHECK(ticks == Approx(200 / 6.0 * kTicks).margin(3));
}

TEST_CASE("a jump is as high as it says", "[walk]") {
    for (const double height : {1.0, 2.0, 3.2}) {
        Course course({30, 20});
        course.fill({0, 15, 30, 5});
        level::Level level = course.small.level();
        level.walker.jump = height;
        course.small.set(level);
        World world(course.built());
        world.place({10, 15});
        rest(world);
        const double floor = world.foot().y;
        double top = floor;
        world.tick(kJump);
        for (int i = 0; i < 120; ++i) {
            world.tick({});
            top = std::min(top, world.foot().y);
        }
        CHECK(floor - top == Approx(height).margin(0.03));
        CHECK(world.foot().y == Approx(floor).margin(0.01));
    }
}

TEST_CASE("the walker goes up and down slopes and keeps to the ground", "[walk]") {
    Course course({40, 14});
    course.draw({"", "", "", "", "", "", "", "", "            /####\\", "           /######\\", "          /########\\",
                 "########################################"});
    World world(course.built());
    world.place({4, 11});
    rest(world);
    double top = 99;
    int air = 0;
    for (int i = 0; i < 260 && world.foot().x < 24; ++i) {
        world.tick(kRight);
        top = std::min(top, world.foot().y);
        air += !world.grounded();
    }
    CHECK(world.foot().x >= 24);
    CHECK(top == Approx(8).margin(0.2)); // the brow is left along the slope for a tick or two
    CHECK(world.foot().y == Approx(11).margin(0.05));
    CHECK(air <= 6); // a tick or two at the brows
    // And back.
    for (int i = 0; i < 260 && world.foot().x > 4; ++i) world.tick(kLeft);
    CHECK(world.foot().x <= 4);
}

TEST_CASE("a standing walker does not slide down a slope", "[walk]") {
    Course course({20, 14});
    course.draw({"", "", "", "", "", "", "", "", "            /###", "           /####", "          /#####",
                 "####################"});
    World world(course.built());
    world.place({11.5, 9.4});
    rest(world);
    const Position p = world.foot();
    for (int i = 0; i < 120; ++i) world.tick({});
    CHECK(world.foot().x == Approx(p.x).margin(0.01));
    CHECK(world.foot().y == Approx(p.y).margin(0.02));
}

TEST_CASE("walls stop, with the walker's side at the wall", "[walk]") {
    Course course({20, 12});
    course.fill({0, 8, 20, 4});
    course.fill({12, 4, 1, 4});
    World world(course.built());
    world.place({5, 8});
    rest(world);
    for (int i = 0; i < 200; ++i) world.tick(kRight);
    CHECK(world.foot().x == Approx(12 - 44.0 / 128).margin(0.03));
    CHECK(world.foot().y == Approx(8).margin(0.03));
}

TEST_CASE("one-way edges carry from above, let pass from below, and drop on demand", "[walk]") {
    Course course({20, 14});
    course.draw({"", "", "", "", "", "", "", "", "     ======", "", "", "####################"});
    level::Level level = course.small.level();
    level.walker.jump = 2.5;
    course.small.set(level);
    World world(course.built());
    world.place({7, 11});
    rest(world);
    world.tick(kJump);
    for (int i = 0; i < 100; ++i) world.tick({});
    REQUIRE(world.foot().y == Approx(11).margin(0.03)); // through the edge with the head, and down again
    level.walker.jump = 3.6;
    course.small.set(level);
    World higher(course.built());
    higher.place({7, 11});
    rest(higher);
    higher.tick(kJump);
    for (int i = 0; i < 100; ++i) higher.tick({});
    CHECK(higher.foot().y == Approx(8).margin(0.03));
    for (int i = 0; i < 60; ++i) higher.tick(kRight);
    CHECK(higher.foot().x > 10);
    higher.place({7, 8});
    rest(higher);
    CHECK(higher.foot().y == Approx(8).margin(0.03));
    Input down;
    down.down = true;
    for (int i = 0; i < 20; ++i) higher.tick(down);
    rest(higher);
    rest(higher);
    CHECK(higher.foot().y == Approx(11).margin(0.03));
}

TEST_CASE("from above one walks in eight directions and slides along walls", "[walk]") {
    Course course({30, 30}, level::View::from_above);
    course.fill({15, 5, 1, 20});
    World world(course.built());
    world.place({10, 15});
    Input diagonal;
    diagonal.right = diagonal.down = true;
    const Position before = world.foot();
    for (int i = 0; i < 12; ++i) world.tick(diagonal);
    const double step = std::hypot(world.foot().x - before.x, world.foot().y - before.y);
    CHECK(step == Approx(5.0 * 12 / kTicks).margin(0.01));
    for (int i = 0; i < 90; ++i) world.tick(diagonal);
    CHECK(world.foot().x == Approx(15 - 48.0 / 128).margin(0.03));
    CHECK(world.foot().y > 20);
    const Position still = world.foot();
    for (int i = 0; i < 20; ++i) world.tick({});
    CHECK(world.foot() == still);
}

TEST_CASE("feet of props that block stop the walker", "[walk]") {
    Course course({30, 30}, level::View::from_above);
    level::Level level = course.small.level();
    level.edit(course.small.props).props() = level::Props({{900, course.small.prop, {15 * 16, 15 * 16}, {false}}});
    course.small.set(level);
    World world(course.built());
    world.place({10, 15});
    for (int i = 0; i < 120; ++i) world.tick(kRight);
    CHECK(world.foot().x < 15);
    CHECK(world.foot().x > 13.5);
}

TEST_CASE("marks are noted in the order they are touched, the exit as the exit", "[walk]") {
    Course course({30, 12});
    course.fill({0, 8, 30, 4});
    level::Level level = course.small.level();
    level.marks = {{70, "Exit", level::MarkKind::exit, {20, 6, 1, 2}},
                   {71, "Here", level::MarkKind::note, {10, 7, 2, 1}},
                   {72, "Start", level::MarkKind::start, {4, 7, 1, 1}},
                   {73, "Up", level::MarkKind::note, {12, 0, 1, 1}}};
    course.small.set(level);
    const Try t = play(course.built(), {{30, {}}, {240, kRight}});
    CHECK(t.touched == std::vector<std::uint32_t>{72, 71, 70});
    CHECK(t.reached_exit);
    CHECK_FALSE(t.fell_out);
    CHECK(t.ticks == 270);
    CHECK(t.path.front().first == 0);
    CHECK(t.path.back().first == 270);
}

TEST_CASE("who walks off the level falls out, and the try ends", "[walk]") {
    Course course({20, 12});
    course.fill({0, 8, 10, 4});
    const Try t = play(course.built(), {{20, {}}, {1000, kRight}});
    CHECK(t.fell_out);
    CHECK(t.ticks < 600);
}

TEST_CASE("the same inputs give the same path", "[walk]") {
    Course course({40, 14});
    course.draw({"", "", "", "", "", "", "", "", "            /####\\", "     ===   /######\\", "          /########\\",
                 "########################################"});
    const vicinum::Level& level = course.built();
    const std::vector<Step> script{
        {20, {}}, {40, kRight}, {30, Input{false, true, false, false, true}}, {100, kRight}, {50, kLeft}};
    const Try a = play(level, script), b = play(level, script);
    CHECK(a.end == b.end);
    CHECK(a.path == b.path);
}

TEST_CASE("the frame follows and stays inside the level", "[walk]") {
    vicinum::Level level;
    level.size = {100, 50};
    level.cell = {16, 16};
    level.walker.height = 64;
    make::Random random(1);
    for (int i = 0; i < 500; ++i) {
        const Position p{random.below(1200) / 10.0 - 10, random.below(700) / 10.0 - 10};
        const vicinum::Rect f = frame_around(level, p, {320, 224});
        CHECK(f.x >= 0);
        CHECK(f.y >= 0);
        CHECK(f.x + 320 <= 1600);
        CHECK(f.y + 224 <= 800);
    }
    const vicinum::Rect middle = frame_around(level, {50, 25}, {320, 224});
    CHECK(middle.x == 50 * 16 - 160);
    const vicinum::Rect larger = frame_around(level, {1, 1}, {2000, 1000});
    CHECK(larger.x == -200);
    CHECK(larger.y == -100);
}

TEST_CASE("scripts are timed inputs, and wrong lines are named", "[walk]") {
    const auto steps = parse_script("# a try\n30\n 12 right jump # over\n\n5 left up down\n9 run towards 45\n", "a.walk");
    REQUIRE(steps.size() == 4);
    CHECK(steps[0].ticks == 30);
    CHECK(steps[1].input.jump);
    CHECK(steps[1].input.right);
    CHECK(steps[2].input.up);
    CHECK(steps[2].input.towards < 0);
    CHECK(steps[3].input.towards == 45);
    for (const auto& [text, line] : {std::pair{"30\nxx right\n", "line 2"},
                                     {"12 fly\n", "line 1"},
                                     {"-3 left\n", "line 1"},
                                     {"1\n2\n99999999 left\n", "line 3"},
                                     {"300000\n", "line 1"},
                                     {"5 towards\n", "line 1"},
                                     {"5\n5 towards 360\n", "line 2"},
                                     {"5 towards left\n", "line 1"}}) {
        try {
            parse_script(text, "a.walk");
            FAIL(text);
        } catch (const InputError& e) {
            CHECK(e.where.english() == line);
            CHECK(e.file == "a.walk");
        }
    }
}
