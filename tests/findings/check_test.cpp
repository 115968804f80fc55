#include <catch2/catch.hpp>

#include "edit/levels.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "findings/check.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::findings;

namespace {

std::map<std::string, int> counted(const level::Project& p) {
    std::map<std::string, int> out;
    for (const Finding& f : check(p)) {
        ++out[f.code];
        CHECK(f.what.english().size() > 10);
        CHECK(f.remedy.english().size() > 10);
        CHECK(std::string(word(f.severity)).size() > 3);
    }
    return out;
}

make::Small whole() {
    make::Small small;
    level::Level level = small.level();
    level.marks = {{80, "Start", level::MarkKind::start, {5, 5, 1, 1}},
                   {81, "Exit", level::MarkKind::exit, {9, 9, 1, 1}}};
    for (level::LevelSide& side : level.sides) side.kind = level::SideKind::blocks;
    small.set(level);
    return small;
}

} // namespace

TEST_CASE("a sound project has no findings", "[findings]") { CHECK(counted(whole().project).empty()); }

TEST_CASE("each fault is found, with its place", "[findings]") {
    make::Small small = whole();
    level::Level level = small.level();
    SECTION("a tile that is gone") {
        level.edit(small.ground).grid().set({7, 8}, level::Cell(40000), 0);
        level.edit(small.ground).grid().set({9, 8}, level::Cell(40000), 0);
        small.set(level);
        const auto all = check(small.project);
        REQUIRE(all.size() == 1);
        CHECK(all[0].code == "tile-gone");
        CHECK(all[0].severity == Severity::error);
        CHECK(all[0].cell == Point{7, 8});
        CHECK(all[0].layer == small.ground);
        CHECK(all[0].level == "place");
    }
    SECTION("a case without a tile, only where it is used") {
        small.project = edit::set_case(small.project, 1, 0, {});
        CHECK(counted(small.project).empty());
        edit::Hand hand{edit::held::Material{1}};
        const Point cells[] = {{12, 12}};
        small.set(edit::lay(small.project, join::Rules(small.project), small.level(), small.ground, hand, cells).level);
        const auto all = check(small.project);
        REQUIRE(all.size() == 1);
        CHECK(all[0].code == "case-missing");
        CHECK(all[0].cell == Point{12, 12});
        CHECK(all[0].what.english().find("alone") != std::string::npos);
    }
    SECTION("no start, no exit") {
        level.marks.clear();
        small.set(level);
        CHECK(counted(small.project) == std::map<std::string, int>{{"no-exit", 1}, {"no-start", 1}});
    }
    SECTION("a start inside a wall") {
        level.edit(small.ground).grid().set({5, 5}, level::Cell(10), 0);
        small.set(level);
        CHECK(counted(small.project) == std::map<std::string, int>{{"start-blocked", 1}});
    }
    SECTION("nothing blocks") {
        level.edit(small.ground).tiles()->solid = false;
        small.set(level);
        CHECK(counted(small.project) == std::map<std::string, int>{{"nothing-blocks", 1}});
    }
    SECTION("a layer of blockers blocks, too") {
        level.edit(small.ground).tiles()->solid = false;
        level = edit::add_layer(level, 700, "Fence", level::LayerKind::blockers, small.ground);
        small.set(level);
        CHECK(counted(small.project).empty());
    }
    SECTION("a hidden layer is a hint, for it is hidden in the game too") {
        level.edit(small.front).shown = false;
        small.set(level);
        CHECK(check(small.project)[0].severity == Severity::hint);
    }
    SECTION("a lost picture and an open cut") {
        level::Sheet lost = *small.project.sheets[0];
        lost.image.reset();
        lost.trouble = "gone";
        small.project.put(lost);
        level::Sheet open = *small.project.sheets[1];
        open.accepted = false;
        small.project.put(open);
        CHECK(counted(small.project) == std::map<std::string, int>{{"cut-open", 1}, {"picture-lost", 1}});
    }
    SECTION("art of nobody") {
        level::Sheet sheet = *small.project.sheets.front();
        sheet.credits.author.clear();
        small.project.put(sheet);
        CHECK(counted(small.project) == std::map<std::string, int>{{"no-credits", 1}});
    }
    SECTION("a backdrop without a picture") {
        level::Layer back;
        back.id = 900;
        back.name = "Sky";
        back.content = level::Backdrop{};
        level.layers.push_back(std::make_shared<const level::Layer>(back));
        small.set(level);
        CHECK(counted(small.project) == std::map<std::string, int>{{"backdrop-empty", 1}});
    }
}

TEST_CASE("checking again where something changed finds the same as checking all", "[findings]") {
    make::Small small({200, 150});
    small.project = edit::set_case(small.project, 1, 0, {});
    small.project = edit::set_case(small.project, 2, 31, {});
    Checker checker;
    CellChecker cells;
    make::Random random(11);
    int most = 0;
    for (int round = 0; round < 60; ++round) {
        level::Level level = small.level();
        const Box box{random.below(200), random.below(150), 1 + random.below(4), 1 + random.below(4)};
        if (random.flip(0.2))
            level.edit(small.front).grid().set(box.corner(), level::Cell(40000u + static_cast<unsigned>(round)), 0);
        else
            level = edit::lay(small.project, join::Rules(small.project), level, small.ground,
                              make::material(1 + random.below(2)), level::Region(box))
                        .level;
        if (round == 30) small.project = edit::set_case(small.project, 1, 0, {{1, 1}});
        small.set(level);
        const auto all = check(small.project);
        const auto again = checker.check(small.project);
        REQUIRE(all.size() == again.size());
        for (std::size_t i = 0; i < all.size(); ++i) {
            CHECK(all[i].what.english() == again[i].what.english());
            CHECK(all[i].cell == again[i].cell);
            CHECK(all[i].layer == again[i].layer);
        }
        cells.follow(small.project);
        CellChecker fresh;
        fresh.follow(small.project);
        const level::Layer& ground = *small.level().layer(small.ground);
        CHECK(cells.of("place", ground) == fresh.of("place", ground));
        if (round > 0 && round != 30) CHECK(cells.looked_at() <= 9 * level::kChunk * level::kChunk);
        most = std::max(most, static_cast<int>(all.size()));
    }
    CHECK(most >= 3);
}
