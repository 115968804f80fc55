// A level that follows a picture.
#include "edit/plans.hpp"

#include <catch2/catch.hpp>

#include "base/files.hpp"
#include "edit/levels.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using level::PlanKey;

namespace {

constexpr Rgba kRock{90, 90, 90, 255};
constexpr Rgba kSand{220, 200, 150, 255};
constexpr Rgba kPost{120, 60, 20, 255};
constexpr Rgba kStart{255, 0, 0, 255};
constexpr Rgba kNone{255, 255, 255, 255};

level::Plan plan_of(const make::Small& small) {
    level::Plan plan;
    plan.file = "plans/place.png";
    plan.layer = small.ground;
    plan.keys = {{kNone, PlanKey::Kind::nothing, 0, ""},
                 {kRock, PlanKey::Kind::material, 1, ""},
                 {kSand, PlanKey::Kind::material, 2, ""},
                 {kPost, PlanKey::Kind::prop, small.prop, ""},
                 {kStart, PlanKey::Kind::start, 0, "Where one begins"}};
    return plan;
}

Image painting() {
    Image p({12, 10}, kNone);
    for (int y = 0; y < 5; ++y)
        for (int x = 0; x < 12; ++x) p.set(x, y, kRock);
    for (int y = 5; y < 8; ++y)
        for (int x = 3; x < 9; ++x) p.set(x, y, kSand);
    p.set(1, 8, kPost);
    p.set(10, 9, kStart);
    return p;
}

} // namespace

TEST_CASE("a level is laid from a picture, joins and all, whichever way up", "[plan]") {
    for (const bool bottom_up : {false, true}) {
        make::Small small({12, 10});
        const join::Rules rules(small.project);
        level::Plan plan = plan_of(small);
        plan.bottom_up = bottom_up;
        const Followed f = follow_plan(small.project, rules, small.level(), plan, plan::upright(painting(), bottom_up));
        CHECK(f.laid == 60 + 18 + 1 + 1);
        CHECK(f.unknown == 0);
        CHECK(f.by_hand.empty());
        Hand rock{held::Material{1}};
        const Hand sand = make::material(2);
        level::Level wanted =
            lay(small.project, rules, small.level(), small.ground, rock, box_cells({0, 0, 12, 5})).level;
        wanted = lay(small.project, rules, wanted, small.ground, sand, box_cells({3, 5, 6, 3})).level;
        CHECK(f.level.layer(small.ground)->grid() == wanted.layer(small.ground)->grid());
        REQUIRE(f.level.layer(small.props)->props().size() == 1);
        CHECK(f.level.layer(small.props)->props().all()[0].at == Point{1 * 16 + 8, 9 * 16 - 1});
        REQUIRE(f.level.first_mark(level::MarkKind::start));
        CHECK(f.level.first_mark(level::MarkKind::start)->cells == Box{10, 9, 1, 1});
        // A thing in the midst of a material stands on it.
        Image amidst = painting();
        amidst.set(5, 2, kPost);
        const Followed on = follow_plan(small.project, rules, small.level(), plan, plan::upright(amidst, bottom_up));
        CHECK(on.level.layer(small.ground)->grid().material({5, 2}) == 1);
        CHECK(on.level.layer(small.props)->props().size() == 2);
        // It is kept with the level.
        level::Project p = small.project;
        p.put(f.level);
        const std::string text = store::level_to_text(f.level);
        CHECK(store::level_from_text(text, "level.json", p).plan == f.level.plan);
    }
}

TEST_CASE("when the picture changes the level follows, and what was changed by hand stays", "[plan]") {
    make::Small small({12, 10});
    const join::Rules rules(small.project);
    const Image first = painting();
    small.set(follow_plan(small.project, rules, small.level(), plan_of(small), first).level);
    small.project.next_id += 10;
    // Nothing has changed: nothing is done.
    const Followed idle = follow_plan(small.project, rules, small.level(), *small.level().plan, first);
    CHECK(idle.laid == 0);
    CHECK(idle.level.layer(small.ground)->grid() == small.level().layer(small.ground)->grid());
    // By hand: sand on two cells of rock, and something where the plan has nothing.
    Hand sand{held::Material{2}};
    small.set(lay(small.project, rules, small.level(), small.ground, sand, std::vector<Point>{{2, 2}, {3, 2}, {11, 8}})
                  .level);
    Image second = first;
    for (int x = 0; x < 12; ++x) second.set(x, 2, kNone); // a gap in the rock
    second.set(11, 8, kRock);
    second.set(1, 8, kNone);  // the post goes
    second.set(5, 9, kStart); // the start moves
    second.set(10, 9, kNone);
    const Followed f = follow_plan(small.project, rules, small.level(), *small.level().plan, second);
    CHECK(f.by_hand == std::vector<Point>{{2, 2}, {3, 2}, {11, 8}});
    const level::Grid& grid = f.level.layer(small.ground)->grid();
    for (int x = 0; x < 12; ++x) CHECK(grid.material({x, 2}) == (x == 2 || x == 3 ? 2 : 0));
    CHECK(grid.material({11, 8}) == 2);
    CHECK(grid.material({5, 1}) == 1);
    CHECK(f.level.layer(small.props)->props().empty());
    REQUIRE(f.level.first_mark(level::MarkKind::start));
    CHECK(f.level.first_mark(level::MarkKind::start)->cells == Box{5, 9, 1, 1});
    // A larger picture enlarges the level.
    Image large({15, 12}, kRock);
    const Followed grown = follow_plan(small.project, rules, f.level, *f.level.plan, large);
    CHECK(grown.level.size == Size{15, 12});
    CHECK(grown.level.layer(small.ground)->grid().material({14, 11}) == 1);
}

TEST_CASE("a level drawn as a plan and laid again from it is the level", "[plan]") {
    make::Small small({20, 16});
    const join::Rules rules(small.project);
    level::Level level = small.level();
    make::Random random(6);
    for (int i = 0; i < 8; ++i) {
        const Hand hand = make::material(1 + random.below(2));
        level = lay(small.project, rules, level, small.ground, hand,
                    box_cells({random.below(20), random.below(16), 1 + random.below(8), 1 + random.below(6)}))
                    .level;
    }
    const Drawn drawn = drawn_plan(small.project, level);
    CHECK(drawn.picture.size() == Size{20, 16});
    CHECK(drawn.keys.size() == 2);
    level::Plan plan;
    plan.layer = small.ground;
    plan.keys = drawn.keys;
    const Followed again = follow_plan(small.project, rules, small.level(), plan, drawn.picture);
    CHECK(again.level.layer(small.ground)->grid() == level.layer(small.ground)->grid());
    // Colours near those of a material are proposed to mean it.
    const level::Plan proposed = proposed_plan(small.project, nullptr, drawn.picture, "x.png", 24, false);
    int meant = 0;
    for (const PlanKey& k : proposed.keys) meant += k.kind == PlanKey::Kind::material;
    CHECK(meant >= 1); // the other has nearly the same mean colour and was told apart by another one
}

TEST_CASE("start and exit are kinds of their own, and plans that told them by name are read", "[plan]") {
    make::Small small({12, 10});
    const join::Rules rules(small.project);
    level::Plan plan = plan_of(small);
    plan.keys.push_back({{1, 2, 250, 255}, PlanKey::Kind::exit, 0, "Out"});
    plan.keys.push_back({{250, 2, 250, 255}, PlanKey::Kind::mark, 0, "Winch"});
    Image picture = painting();
    picture.set(2, 9, {1, 2, 250, 255});
    picture.set(4, 9, {250, 2, 250, 255});
    const level::Level level = follow_plan(small.project, rules, small.level(), plan, picture).level;
    REQUIRE(level.marks.size() == 3);
    const auto named = [&](level::MarkKind kind) { return level.first_mark(kind) ? level.first_mark(kind)->name : ""; };
    CHECK(named(level::MarkKind::start) == "Where one begins");
    CHECK(named(level::MarkKind::exit) == "Out");
    CHECK(named(level::MarkKind::note) == "Winch");
    // Renamed by hand, the start still is the plan's, and goes when its dot does.
    level::Level renamed = level;
    for (level::Mark& m : renamed.marks)
        if (m.kind == level::MarkKind::start) m.name = "Quay";
    Image without = picture;
    without.set(10, 9, kNone);
    const Followed f = follow_plan(small.project, rules, renamed, plan, without);
    CHECK(f.by_hand.empty());
    CHECK_FALSE(f.level.first_mark(level::MarkKind::start));
    // As written before.
    make::Folder dir;
    small.project.put(level);
    make::save_with_pictures(small.project, dir.path());
    const fs::path file = dir / "levels" / (small.id + ".json");
    std::string text = read_file(file);
    const auto change = [&](const std::string& from, const std::string& to) {
        const auto at = text.find(from);
        REQUIRE(at != std::string::npos);
        text.replace(at, from.size(), to);
    };
    change("\"is\":\"start\",\"name\":\"Where one begins\"", "\"is\":\"mark\",\"name\":\"Start\"");
    change("\"is\":\"exit\",\"name\":\"Out\"", "\"is\":\"mark\",\"name\":\"Exit\"");
    write_file(file, text);
    const level::Project back = store::load(dir.path());
    const auto& keys = back.level(small.id)->plan->keys;
    CHECK(keys[4].kind == PlanKey::Kind::start);
    CHECK(keys[5].kind == PlanKey::Kind::exit);
    CHECK(keys[6].kind == PlanKey::Kind::mark);
}
