#include "walk/jump.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "edit/stroke.hpp"
#include "parcel/build.hpp"
#include "support/make.hpp"

using namespace vic;

TEST_CASE("the jump that is drawn is the jump that the physics makes", "[walk]") {
    for (const double high : {1.5, 3.2, 5.0}) {
        make::Small small({60, 30}, level::View::from_the_side);
        level::Level level = small.level();
        edit::Hand rock{edit::held::Material{1}};
        level = edit::lay(small.project, join::Rules(small.project), level, small.ground, rock,
                          edit::box_cells({0, 20, 60, 10}))
                    .level;
        level.walker.jump = high;
        level.marks.push_back({900, "Start", level::MarkKind::start, {3, 19, 1, 1}});
        small.set(level);
        make::Folder dir;
        parcel::build(small.project, level, dir / "out");
        const vicinum::Level built = vicinum::load((dir / "out").string());
        walk::World world(built);
        walk::Input run;
        run.right = true;
        for (int i = 0; i < 90; ++i) world.tick(run); // at full speed
        const walk::Position from = world.foot();
        double highest = 0;
        int ticks = 0;
        run.jump = true;
        do {
            world.tick(run);
            highest = std::max(highest, from.y - world.foot().y);
            ++ticks;
        } while ((ticks < 5 || !world.grounded()) && ticks < 400);
        CHECK(highest == Approx(high).margin(0.08));
        CHECK(world.foot().x - from.x == Approx(walk::jump_length(level.walker)).margin(0.35));
        const auto arc = walk::jump_arc(level.walker, 0);
        double top = 0;
        for (const walk::Position& p : arc) top = std::min(top, p.y);
        CHECK(-top == Approx(high).margin(0.02));
        CHECK(arc.back().x == Approx(walk::jump_length(level.walker)).margin(level.walker.speed / walk::kTicks));
    }
}

TEST_CASE("falling far the walker keeps to the arc that is drawn, also where it falls no faster", "[walk]") {
    // A ledge high up, and the floor of a shaft 25 cells below it.
    make::Small small({60, 40}, level::View::from_the_side);
    level::Level level = small.level();
    edit::Hand rock{edit::held::Material{1}};
    const join::Rules rules(small.project);
    level = edit::lay(small.project, rules, level, small.ground, rock, edit::box_cells({0, 10, 12, 30})).level;
    level = edit::lay(small.project, rules, level, small.ground, rock, edit::box_cells({12, 35, 48, 5})).level;
    level.walker.jump = 3;
    level.marks.push_back({900, "Start", level::MarkKind::start, {1, 9, 1, 1}});
    small.set(level);
    make::Folder dir;
    parcel::build(small.project, level, dir / "out");
    const vicinum::Level built = vicinum::load((dir / "out").string());
    walk::World world(built);
    walk::Input run;
    run.right = true;
    while (world.foot().x < 10) world.tick(run);
    const walk::Position from = world.foot();
    run.jump = true;
    const auto arc = walk::jump_arc(level.walker, 24);
    double furthest = 0;
    for (std::size_t i = 1; i < arc.size(); ++i) {
        world.tick(run);
        const walk::Position at = world.foot();
        furthest = std::max(furthest, std::hypot(at.x - from.x - arc[i].x, at.y - from.y - arc[i].y));
    }
    CHECK(arc.back().y >= 24);
    CHECK(furthest < 0.1); // cells
    CHECK(world.foot().y > from.y + 20);
}

TEST_CASE("who does not jump has no arc", "[walk]") {
    level::Walker none;
    none.jump = 0;
    CHECK(walk::jump_length(none) == 0);
    CHECK(walk::jump_arc(none, 2).size() == 1);
}
