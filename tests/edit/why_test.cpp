// Pointing at a cell that looks wrong.
#include "edit/why.hpp"

#include <catch2/catch.hpp>
#include <optional>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

// A blob of the material in the middle of the ground layer.
make::Small painted() {
    make::Small small({12, 10});
    const join::Rules rules(small.project);
    const edit::Hand rock{edit::held::Material{1}};
    small.set(edit::lay(small.project, rules, small.level(), small.ground, rock, level::Region(Box{3, 3, 5, 4})).level);
    return small;
}

const level::Layer& ground(const make::Small& small) { return *small.level().layer(small.ground); }

} // namespace

TEST_CASE("a cell says which case it is, and that nothing is to be suspected", "[why]") {
    const make::Small small = painted();
    const join::Rules rules(small.project);
    const auto found = edit::why(small.project, rules, ground(small), {3, 3});
    REQUIRE(found);
    CHECK(found->mask == (join::kE | join::kSE | join::kS));
    CHECK(found->variant == 1);
    CHECK(found->of == 1);
    CHECK_FALSE(found->missing);
    CHECK(found->suspect == edit::Why::Suspect::nothing);
    CHECK_FALSE(edit::why(small.project, rules, ground(small), {0, 0}));
}

TEST_CASE("a tile that serves the wrong case is the rule's fault, and the right one is offered first", "[why]") {
    make::Small small = painted();
    // The north-west corner and the inside change places in the table.
    const join::Mask corner = join::kE | join::kSE | join::kS;
    const auto cases = small.project.material(1)->joins.cases;
    const level::TileId right = cases.at(corner).front().tile;
    const level::TileId wrong = cases.at(255).front().tile;
    small.project = edit::change_set(small.project, 1, [&](level::JoinSet& set) {
        set.cases[corner] = {{wrong, 100, {}}};
    });
    const join::Rules rules(small.project);
    REQUIRE(ground(small).grid().cell({3, 3}).tile() == wrong);
    const auto found = edit::why(small.project, rules, ground(small), {3, 3});
    REQUIRE(found);
    CHECK(found->suspect == edit::Why::Suspect::rule);
    REQUIRE_FALSE(found->others.empty());
    CHECK(found->others.front().variant.tile == right);
    // All that would change with it, and nothing else.
    const auto like = edit::cells_of(rules, ground(small), small.level().cells(), 1, level::JoinKind::full, corner);
    CHECK(like.cells() == std::vector<Point>{{3, 3}});
    const auto mended = edit::rejoin(edit::set_case(small.project, 1, corner, {{right, 100, {}}}));
    const auto changed = level::differences(ground(small).grid(), mended.level(small.id)->layer(small.ground)->grid());
    REQUIRE(changed.size() == 1);
    CHECK(changed.front() == like.bounds());
    // Pinned alone it stays when the rest is joined anew.
    small.set(edit::pin(small.level(), small.ground, {3, 3}, {right, 100, {}}));
    CHECK(ground(small).grid().cell({3, 3}).pinned());
    const auto again = edit::rejoin(small.project);
    CHECK(again.level(small.id)->layer(small.ground)->grid().cell({3, 3}).tile() == right);
}

TEST_CASE("a case without a tile is said to be that", "[why]") {
    make::Small small = painted();
    const join::Mask corner = join::kE | join::kSE | join::kS;
    small.project = edit::change_set(small.project, 1, [&](level::JoinSet& set) { set.cases.erase(corner); });
    const join::Rules rules(small.project);
    const auto found = edit::why(small.project, rules, ground(small), {3, 3});
    REQUIRE(found);
    CHECK(found->missing);
    CHECK(found->variant == 0);
    CHECK(found->suspect == edit::Why::Suspect::rule);
}
