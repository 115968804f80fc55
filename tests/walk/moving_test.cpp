// How the walker moves beyond walking and jumping, what stops whom, and tries that are kept.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "edit/areas.hpp"
#include "edit/pins.hpp"
#include "findings/check.hpp"
#include "findings/tries.hpp"
#include "parcel/build.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "walk/bones.hpp"
#include "walk/proofs.hpp"
#include "walk/soak.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::walk;

namespace {

// '#' full, 'H' a tile that tells a ladder, '~' one that tells a water.
struct Hall {
    explicit Hall(const std::vector<std::string>& rows, level::View view = level::View::from_the_side)
        : small({static_cast<int>(rows.back().size()), static_cast<int>(rows.size())}, view) {
        level::Sheet s = *small.project.sheets[0];
        s.tiles[5].shape = s.tiles[6].shape = level::TileShape::none;
        small.project.put(s);
        ladder = edit::add_area_kind(small.project, "Ladder", level::AreaMeans::ladder);
        water = edit::add_area_kind(small.project, "Water", level::AreaMeans::water);
        small.project = edit::with_telling(small.project, {{edit::UsedKind::tile, 6}}, ladder);
        small.project = edit::with_telling(small.project, {{edit::UsedKind::tile, 7}}, water);
        level::Level level = small.level();
        level.walker = {48, 96, 6, 3};
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < static_cast<int>(rows[static_cast<std::size_t>(y)].size()); ++x) {
                const char c = rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)];
                const level::TileId tile = c == '#' ? 10 : c == 'H' ? 6 : c == '~' ? 7 : 0;
                if (tile) level.edit(small.ground).grid().set({x, y}, level::Cell(tile, {}, true), 0);
            }
        small.set(level);
    }
    void change(const std::function<void(level::Level&)>& what) {
        level::Level level = small.level();
        what(level);
        small.set(level);
    }
    [[nodiscard]] vicinum::Level bones() const { return bones_of(small.project, small.level()); }
    make::Small small;
    level::AreaKindId ladder = 0, water = 0;
};

const std::vector<std::string> kFloor{"            ", "            ", "            ", "            ",
                                      "            ", "            ", "            ", "############"};

// The highest that his foot comes while that is held, from the floor at 7.
double highest(World& world, const Input& held, int ticks, int holds = 10'000) {
    double best = 0;
    for (int i = 0; i < ticks; ++i) {
        world.tick(i < holds ? held : Input{});
        best = std::max(best, 7 - world.foot().y);
    }
    return best;
}

Input jumping() {
    Input in;
    in.jump = true;
    return in;
}

void settle_down(World& world) {
    for (int i = 0; i < 20; ++i) world.tick({});
}

} // namespace

TEST_CASE("a key let go early makes the jump lower, but not lower than asked", "[walk][moving]") {
    Hall hall(kFloor);
    hall.change([](level::Level& l) { l.walker.least_jump = 1; });
    const vicinum::Level bones = hall.bones();
    World world(bones);
    world.place({6, 7});
    settle_down(world);
    CHECK(highest(world, jumping(), 60) == Approx(3).margin(0.05));
    settle_down(world);
    const double tapped = highest(world, jumping(), 60, 2);
    CHECK(tapped >= 0.95);
    CHECK(tapped < 1.4);
    settle_down(world);
    const double half = highest(world, jumping(), 60, 9);
    CHECK(half > tapped);
    CHECK(half < 2.9);
}

TEST_CASE("he runs while the key is held, climbs ladders, swims, and jumps off walls", "[walk][moving]") {
    SECTION("runs") {
        Hall hall(kFloor);
        hall.change([](level::Level& l) { l.walker.run = 9; });
        const vicinum::Level bones = hall.bones();
        World world(bones);
        world.place({2, 7});
        settle_down(world);
        Input right;
        right.right = right.run = true;
        for (int i = 0; i < 30; ++i) world.tick(right);
        CHECK(world.foot().x == Approx(2 + 4.5).margin(0.2));
    }
    SECTION("climbs, and stays where he is with nothing held") {
        Hall hall({"          ", "     H    ", "     H    ", "     H    ", "     H    ", "     H    ", "     H    ",
                   "##########"});
        const vicinum::Level bones = hall.bones();
        World world(bones);
        world.place({5.5, 7});
        settle_down(world);
        Input up;
        up.up = true;
        for (int i = 0; i < 45; ++i) world.tick(up);
        CHECK(world.climbing());
        const double y = world.foot().y;
        CHECK(y == Approx(7 - 3).margin(0.3));
        settle_down(world);
        CHECK(world.foot().y == Approx(y).margin(0.1));
        world.tick(jumping());
        CHECK_FALSE(world.climbing());
    }
    SECTION("swims up, sinks slowly, and leaps out") {
        Hall hall({"          ", "          ", "~~~~~~~~~~", "~~~~~~~~~~", "~~~~~~~~~~", "~~~~~~~~~~", "~~~~~~~~~~",
                   "##########"});
        const vicinum::Level bones = hall.bones();
        World world(bones);
        world.place({5, 7});
        settle_down(world);
        CHECK(world.swimming());
        Input up;
        up.up = true;
        for (int i = 0; i < 30; ++i) world.tick(up);
        CHECK(world.foot().y == Approx(7 - 1.5).margin(0.2));
        CHECK(std::any_of(world.happenings().begin(), world.happenings().end(),
                          [](const Happening& h) { return h.kind == Happening::Kind::told; }));
        CHECK(highest(world, up, 90) > 5.5); // out of it
    }
    SECTION("off walls") {
        Hall hall({"#   #", "#   #", "#   #", "#   #", "#   #", "#   #", "#   #", "#   #", "#####"});
        hall.change([](level::Level& l) { l.walker.wall_jump = 2; });
        const vicinum::Level bones = hall.bones();
        World world(bones);
        world.place({2.5, 8});
        settle_down(world);
        double best = 0;
        for (int i = 0; i < 240; ++i) {
            Input in;
            in.right = (i / 20) % 2 == 0;
            in.left = !in.right;
            in.jump = i % 4 < 2;
            world.tick(in);
            best = std::max(best, 8 - world.foot().y);
        }
        CHECK(best > 4); // a jump alone is three cells
    }
}

TEST_CASE("of four ways one goes at most one at a time, and a foot that is less deep passes more", "[walk][moving]") {
    Hall hall({"      ", "      ", "      ", "      ", "      ", "      "}, level::View::from_above);
    hall.change([](level::Level& l) { l.walker.ways = 4; });
    const vicinum::Level bones = hall.bones();
    World world(bones);
    world.place({2, 2});
    Input both;
    both.right = true;
    for (int i = 0; i < 10; ++i) world.tick(both);
    both.down = true;
    const Position before = world.foot();
    for (int i = 0; i < 10; ++i) world.tick(both);
    CHECK(world.foot().x == Approx(before.x).margin(0.01));
    CHECK(world.foot().y > before.y + 0.5);
    level::Level level = hall.small.level();
    level.walker = {48, 96, 6, 0};
    CHECK(foot_of(level) == Size{48, 48});
    level.walker.foot = 16;
    CHECK(foot_of(level) == Size{48, 16});
}

TEST_CASE("of all ways one is led to any place, and what was done so holds as a proof", "[walk][moving]") {
    const auto angle = GENERATE(0, 17, 63, 90, 141, 200, 270, 333, 359);
    Hall hall(std::vector<std::string>(12, std::string(12, ' ')), level::View::from_above);
    hall.change([](level::Level& l) { l.walker.ways = level::kAllWays; });
    const vicinum::Level bones = hall.bones();
    World world(bones);
    world.place({6, 6});
    const double turn = angle * 3.14159265358979 / 180;
    const Position goal{6 + 4 * std::cos(turn), 6 + 4 * std::sin(turn)};
    CHECK(towards({6, 6}, goal) == angle);
    Recorder recorder({6, 6});
    int ticks = 0;
    while (towards(world.foot(), goal) >= 0 && ticks < 100) {
        Input in;
        in.left = true; // counts for nothing beside it
        in.towards = towards(world.foot(), goal);
        world.tick(in);
        recorder.note(in, world.foot());
        ++ticks;
    }
    CHECK(std::hypot(world.foot().x - goal.x, world.foot().y - goal.y) < 0.1);
    CHECK(ticks == Approx(4 / hall.small.level().walker.speed * kTicks).margin(2)); // as straight as can be
    const level::Proof proof = recorder.proof("There", {});
    CHECK(prove(bones, as_built(proof)).holds);
    // Of eight ways it is not led.
    hall.change([](level::Level& l) { l.walker.ways = 8; });
    CHECK_FALSE(prove(hall.bones(), as_built(proof)).holds);
}

TEST_CASE("a mover passes the classes that do not stop it, and nothing else", "[walk][movers]") {
    Hall hall({"            ", "            ", "            ", "            ", "            ", "            ",
               "            ", "############"});
    const level::LayerId ground = hall.small.ground;
    hall.change([&](level::Level& l) {
        level::Layer bars;
        bars.id = 4000;
        bars.name = "Bars";
        bars.collision_class = "bars";
        level::Blockers b(l.size);
        for (int y = 0; y < 7; ++y) b.set({6, y}, level::TileShape::full);
        bars.content = std::move(b);
        l.layers.push_back(std::make_shared<const level::Layer>(std::move(bars)));
    });
    REQUIRE(ground != 0);
    const std::string shots = edit::add_mover(hall.small.project, "Shots");
    hall.small.project = edit::with_stopping(hall.small.project, shots, "bars", false);
    make::Folder dir;
    parcel::build(hall.small.project, hall.small.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    REQUIRE(built.movers.size() == 1);
    CHECK(built.movers[0].own);
    CHECK(built.blocked(6.5, 3.5));
    CHECK_FALSE(built.blocked(6.5, 3.5, "Shots"));
    CHECK(built.blocked(6.5, 7.5, "Shots"));
    CHECK(built.outlines_for("no such").size() == built.outlines.size());
    const auto walks_to = [&](const std::string& mover) {
        World world(built, mover);
        world.place({2, 7});
        Input right;
        right.right = true;
        for (int i = 0; i < 90; ++i) world.tick(right);
        return world.foot().x;
    };
    CHECK(walks_to("") < 6);
    CHECK(walks_to("Shots") > 8);
    hall.small.project = edit::with_stopping(hall.small.project, shots, "bars", true);
    CHECK(hall.small.project.movers[0].passes.empty());
    hall.small.project = edit::without_mover(hall.small.project, shots);
    CHECK(hall.small.project.movers.empty());
}

TEST_CASE("what tells is in the parcel by its outlines, whatever tells it", "[walk][areas]") {
    Hall hall({"            ", "  ~~~~      ", "  ~~~~      ", "            ", "            ", "            ",
               "            ", "############"});
    level::FreeBlocker pool;
    pool.id = 1;
    pool.points = {{500, 100}, {620, 100}, {620, 200}, {500, 200}};
    pool.tells = hall.water;
    hall.change([&](level::Level& l) {
        level::Layer drawn;
        drawn.id = 4000;
        drawn.name = "Own words";
        level::Blockers b(l.size);
        b.set_free({pool});
        drawn.content = std::move(b);
        l.layers.push_back(std::make_shared<const level::Layer>(std::move(drawn)));
    });
    make::Folder dir;
    parcel::build(hall.small.project, hall.small.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    REQUIRE(built.telling.size() == 1);
    CHECK(built.telling[0].name == "Water");
    CHECK(built.telling[0].means == "water");
    CHECK(built.told(3.5, 1.5) == std::vector<std::size_t>{0});
    CHECK(built.told(8.5, 2.5) == std::vector<std::size_t>{0}); // drawn free
    CHECK(built.told(1.5, 1.5).empty());
    CHECK_FALSE(built.blocked(3.5, 1.5));
    CHECK_FALSE(built.blocked(8.5, 2.5));
    // It goes with all that tells it, and the file with both.
    hall.small.project.put(hall.small.level());
    const level::Project without = edit::without_area_kind(hall.small.project, hall.water);
    CHECK(without.area_kinds.size() == 1);
    CHECK(bones_of(without, *without.levels[0]).telling.empty());
}

TEST_CASE("areas, movers, the walker's ways, probes and proofs come back from the files as they were",
          "[walk][store]") {
    Hall hall(kFloor);
    hall.small.project.movers = {{"Walkers", {}}, {"Shots", {"", "bars"}}};
    hall.change([](level::Level& l) {
        l.walker.run = 9;
        l.walker.least_jump = 1.5;
        l.walker.gravity = 30;
        l.walker.grace_edge = 120;
        l.walker.ways = GENERATE(4, level::kAllWays);
        l.walker.foot = 20;
        l.walker.slack = {64, 32};
        l.walker.mover = "Shots";
        l.probes = {{1, {100, 448}, true}, {2, {300, 448}, false}};
        l.proofs = {{1, "To Exit", {128, 448}, {{30, 2}, {12, 18}, {7, 0, 271}}, {{200, 448}, {260, 420}}, "Exit"}};
    });
    make::Folder dir;
    store::save(hall.small.project, dir.path());
    const level::Project back = store::load(dir.path());
    CHECK(back.area_kinds == hall.small.project.area_kinds);
    CHECK(back.movers == hall.small.project.movers);
    const level::Level& level = *back.levels[0];
    CHECK(level.walker == hall.small.level().walker);
    CHECK(level.probes == hall.small.level().probes);
    CHECK(level.proofs == hall.small.level().proofs);
    CHECK(back.sheets[0]->tiles[5].tells == hall.ladder);
}

TEST_CASE("a try that is kept holds until the way is barred, and says where it went astray", "[walk][proofs]") {
    Hall hall(kFloor);
    hall.change([](level::Level& l) {
        l.marks = {{1, "Start", level::MarkKind::start, {1, 5, 1, 2}},
                   {2, "Exit", level::MarkKind::exit, {10, 5, 1, 2}}};
    });
    const vicinum::Level bones = hall.bones();
    World world(bones);
    Recorder recorder(world.foot());
    Input right;
    right.right = true;
    while (!world.reached_exit()) {
        REQUIRE(recorder.ticks() < 300);
        world.tick(right);
        recorder.note(right, world.foot());
    }
    level::Proof proof = recorder.proof("To Exit", "Exit");
    proof.id = 1;
    hall.change([&](level::Level& l) { l.proofs = {proof}; });
    CHECK(findings::failed_tries(hall.small.project, hall.small.level()).empty());
    hall.change([&](level::Level& l) {
        for (int y = 3; y < 7; ++y) l.edit(hall.small.ground).grid().set({7, y}, level::Cell(10, {}, true), 0);
    });
    const auto failed = findings::failed_tries(hall.small.project, hall.small.level());
    REQUIRE(failed.size() == 1);
    CHECK(failed[0].code == "proof-broken");
    CHECK(failed[0].severity == findings::Severity::error);
    REQUIRE(failed[0].cell);
    CHECK(failed[0].cell->x == 6); // before the wall
    const auto all = findings::check(hall.small.project, hall.small.level());
    CHECK(std::any_of(all.begin(), all.end(), [](const auto& f) { return f.code == "proof-broken"; }));
}

TEST_CASE("probes say where he must be stopped, and where he must get through", "[walk][proofs]") {
    Hall hall(kFloor);
    hall.change([](level::Level& l) { l.probes = {{1, {5 * 64, 7 * 64}, false}, {2, {5 * 64, 7 * 64 + 32}, true}}; });
    CHECK(findings::failed_tries(hall.small.project, hall.small.level()).empty());
    hall.change([](level::Level& l) {
        for (level::Probe& p : l.probes) p.blocks = !p.blocks;
    });
    const auto failed = findings::failed_tries(hall.small.project, hall.small.level());
    REQUIRE(failed.size() == 2);
    CHECK(failed[0].code == "probe-open");
    CHECK(failed[1].code == "probe-blocked");
}

TEST_CASE("a walker goes on in a level that was built anew, and is put upon what has grown under him",
          "[walk][moving]") {
    Hall hall(kFloor);
    const vicinum::Level before = hall.bones();
    World world(before);
    world.place({3, 7});
    Input right;
    right.right = true;
    for (int i = 0; i < 30; ++i) world.tick(right);
    const Position was = world.foot();
    hall.change([&](level::Level& l) {
        for (int x = 0; x < 12; ++x) l.edit(hall.small.ground).grid().set({x, 6}, level::Cell(10, {}, true), 0);
    });
    const vicinum::Level after = hall.bones();
    World next(after);
    next.take_over(world);
    CHECK(next.ticks() == world.ticks());
    CHECK(next.foot().x == Approx(was.x));
    CHECK(next.foot().y <= 6.01);
    CHECK_FALSE(next.stuck(next.foot()));
    settle_down(next);
    CHECK(next.foot().y == Approx(6).margin(0.05));
}

TEST_CASE("who leans on a wall stays where he is when the level is built anew", "[walk][moving]") {
    Hall hall(kFloor);
    hall.change([&](level::Level& l) {
        for (int y = 4; y < 7; ++y) l.edit(hall.small.ground).grid().set({8, y}, level::Cell(10, {}, true), 0);
    });
    const vicinum::Level bones = hall.bones();
    World world(bones);
    world.place({3, 7});
    Input right;
    right.right = true;
    for (int i = 0; i < 120; ++i) world.tick(right);
    REQUIRE(world.foot().x > 7.5);
    CHECK_FALSE(world.stuck(world.foot()));
    World next(bones);
    next.take_over(world);
    CHECK(next.foot().y == Approx(world.foot().y));
    CHECK(next.stuck({8.1, 6.9})); // and who is in it is
}

TEST_CASE("every bump names what stopped him, and what he passes through is named with its layer", "[walk][pins]") {
    Hall hall(kFloor);
    hall.change([&](level::Level& l) {
        for (int y = 4; y < 7; ++y) l.edit(hall.small.ground).grid().set({8, y}, level::Cell(10, {}, true), 0);
        level::Layer behind;
        behind.id = 4000;
        behind.name = "Background";
        level::TileCells cells{level::Grid(l.size), false, {}, 0};
        cells.grid.set({5, 6}, level::Cell(10, {}, true), 0);
        behind.content = std::move(cells);
        l.layers.push_back(std::make_shared<const level::Layer>(std::move(behind)));
    });
    const vicinum::Level bones = hall.bones();
    World world(bones);
    world.place({3, 7});
    Recorder recorder(world.foot());
    Input right;
    right.right = true;
    for (int i = 0; i < 120; ++i) {
        world.tick(right);
        recorder.note(right, world.foot());
    }
    const auto pins = edit::pins_of(hall.small.project, hall.small.level(), bones, world.happenings(), recorder.way());
    const auto of = [&](edit::Pin::Kind kind) {
        return std::find_if(pins.begin(), pins.end(), [kind](const edit::Pin& p) { return p.kind == kind; });
    };
    REQUIRE(of(edit::Pin::Kind::bump) != pins.end());
    CHECK(of(edit::Pin::Kind::bump)->title.english().find("8, ") != std::string::npos);
    CHECK(of(edit::Pin::Kind::bump)->says.english() == "\"Full 10\" on \"Ground\" blocks here");
    REQUIRE(of(edit::Pin::Kind::passed) != pins.end());
    CHECK(of(edit::Pin::Kind::passed)->says.english().find("Background") != std::string::npos);
    CHECK(of(edit::Pin::Kind::passed)->tick < of(edit::Pin::Kind::bump)->tick);
}

namespace {

// How often he is held up on his way to the right over so many cells: ticks in which he gets on by less than that share
// of his pace. At the foot of a slope it is half for one tick.
int catches(const vicinum::Level& level, double from, double floor, int cells, double share = 0.4) {
    World world(level);
    world.place({from, floor});
    settle_down(world);
    Input right;
    right.right = true;
    int out = 0, ticks = 0;
    double before = world.foot().x;
    const double pace = level.walker.speed / kTicks;
    while (world.foot().x < from + cells && ticks++ < cells * 40) {
        world.tick(right);
        out += world.foot().x - before < share * pace && ticks > 2;
        before = world.foot().x;
    }
    CHECK(world.foot().x >= from + cells);
    return out;
}

} // namespace

TEST_CASE("ten thousand cells of floor, level and aslant, without being caught once", "[walk][moving][slow]") {
    constexpr int kLong = 10'020;
    make::Small small({kLong, 8}, level::View::from_the_side);
    level::Sheet s = *small.project.sheets[0];
    s.tiles[1].shape = level::TileShape::slope_se; // up to the right
    s.tiles[2].shape = level::TileShape::slope_sw;
    small.project.put(s);
    level::Level level = small.level();
    level.walker = {48, 96, 6, 3};
    level::Grid& grid = level.edit(small.ground).grid();
    for (int x = 0; x < kLong; ++x) {
        // Up a step and down again, every twenty cells; the floor is at 6, between the steps at 5.
        const int in = x % 20;
        const bool high = in > 5 && in < 12;
        if (in == 5) grid.set({x, 5}, level::Cell(2, {}, true), 0);
        if (in == 12) grid.set({x, 5}, level::Cell(3, {}, true), 0);
        if (high) grid.set({x, 5}, level::Cell(10, {}, true), 0);
        for (int y = 6; y < 8; ++y) grid.set({x, y}, level::Cell(10, {}, true), 0);
    }
    small.set(level);
    const vicinum::Level merged = bones_of(small.project, small.level());
    CHECK(catches(merged, 2, 6, 10'000) == 0);
    CHECK(catches(merged, 2, 6, 1'000, 0.8) > 0); // on slopes he is slower: the count can be other than 0
}

TEST_CASE("no walker gets into what blocks, or out of a closed level", "[walk][moving][slow]") {
    make::Random random(91);
    int inside = 0, out = 0, walkers = 0;
    for (int round = 0; round < make::rounds(10, 50); ++round) {
        make::Small small({24, 18}, round % 2 ? level::View::from_above : level::View::from_the_side);
        level::Sheet s = *small.project.sheets[0];
        for (std::size_t i = 0; i < 4; ++i)
            s.tiles[i].shape =
                static_cast<level::TileShape>(static_cast<int>(level::TileShape::slope_ne) + static_cast<int>(i));
        small.project.put(s);
        level::Level level = small.level();
        level.walker = {48, 96, 6, 3};
        for (auto& side : level.sides) side.kind = level::SideKind::blocks;
        level::Grid& grid = level.edit(small.ground).grid();
        for (int i = 0; i < 70; ++i) {
            const Point at{random.below(24), random.below(18)};
            if (at.x < 5 && at.y > 12) continue;
            grid.set(at, level::Cell(random.flip(0.6) ? 10 : 2 + static_cast<level::TileId>(random.below(3)), {}, true),
                     0);
        }
        level.marks = {{1, "Start", level::MarkKind::start, {2, 15, 1, 2}}};
        small.set(level);
        const vicinum::Level bones = bones_of(small.project, small.level());
        for (int walker = 0; walker < 20; ++walker) {
            ++walkers;
            World world(bones);
            Input held;
            for (int tick = 0; tick < 60 * kTicks; ++tick) {
                if (tick % (5 + random.below(30)) == 0) held = input_of(static_cast<unsigned>(random.below(32)));
                world.tick(held);
                const Position p = world.foot();
                const double middle = bones.from_the_side ? p.y - 0.75 : p.y - 0.375;
                inside += bones.blocked(p.x, middle);
                out += p.x < 0 || p.y < 0 || p.x > 24 || p.y > 18.05;
            }
        }
    }
    CHECK(walkers == make::rounds(200, 1000));
    CHECK(inside == 0);
    CHECK(out == 0);
}
