// What soaking a level from its start shows: open rims, marks that are shut in, water that one walks on.
#include "findings/leaks.hpp"

#include <algorithm>
#include <catch2/catch.hpp>

#include "support/make.hpp"

using namespace vic;
using namespace vic::findings;

namespace {

// A yard with a wall of blockers all around and a start in it, at another cell size than the demo's.
struct Yard {
    make::Small small{{12, 9}};
    level::LayerId fence = 0;
    Yard() {
        level::Level level = small.level();
        level.cell = {32, 32};
        level.marks = {{900, "Start", level::MarkKind::start, {2, 2, 1, 1}},
                       {901, "Way out", level::MarkKind::exit, {9, 6, 1, 1}}};
        level::Layer layer;
        layer.id = fence = small.project.next_id++;
        layer.name = "Fence";
        level::Blockers b(level.size);
        for (int x = 0; x < 12; ++x)
            for (const int y : {0, 8}) b.set({x, y}, level::TileShape::full);
        for (int y = 0; y < 9; ++y)
            for (const int x : {0, 11}) b.set({x, y}, level::TileShape::full);
        layer.content = b;
        level.layers.push_back(std::make_shared<const level::Layer>(layer));
        small.set(level);
    }
    void set(Point cell, level::TileShape shape) {
        level::Level level = small.level();
        level.edit(fence).blockers()->set(cell, shape);
        small.set(level);
    }
    [[nodiscard]] std::vector<Leak> found() const { return leaks(small.project, small.level()); }
};

} // namespace

TEST_CASE("a yard that is closed has no leak; one post taken away, and it has", "[findings][leaks]") {
    Yard yard;
    CHECK(yard.found().empty());
    yard.set({0, 4}, level::TileShape::none);
    yard.set({0, 6}, level::TileShape::none);
    auto all = yard.found();
    REQUIRE(all.size() == 1);
    CHECK(all[0].kind == Leak::Kind::rim);
    CHECK(all[0].side == 3);
    CHECK(all[0].rims == std::vector<Box>{{0, 4, 1, 1}, {0, 6, 1, 1}});
    CHECK(finding_of(yard.small.level(), all[0]).code == "rim-open");
    // Where that side leads on it is meant.
    level::Level level = yard.small.level();
    level.sides[3].kind = level::SideKind::leads;
    yard.small.set(level);
    CHECK(yard.found().empty());
}

TEST_CASE("marks and ground that no one gets to are told", "[findings][leaks]") {
    Yard yard;
    for (int y = 1; y < 8; ++y) yard.set({6, y}, level::TileShape::full);
    const auto all = yard.found();
    REQUIRE(all.size() == 2);
    CHECK(all[0].kind == Leak::Kind::mark);
    CHECK(all[0].mark == 901);
    CHECK(finding_of(yard.small.level(), all[0]).severity == Severity::warning);
    CHECK(all[1].kind == Leak::Kind::dry); // four by seven cells behind the wall
    CHECK(all[1].cells.x > 6);
    yard.set({6, 3}, level::TileShape::none);
    CHECK(yard.found().empty());
}

TEST_CASE("who walks on what is called water is told so, unless something lies over it", "[findings][leaks]") {
    Yard yard;
    level::Material lake = *yard.small.project.material(1);
    lake.name = "Blue water";
    yard.small.project.put(lake);
    level::Level level = yard.small.level();
    for (int x = 3; x < 7; ++x) level.edit(yard.small.ground).grid().set({x, 5}, level::Cell(10), 1);
    level.edit(yard.small.ground).tiles()->solid = false;
    level.plane = 3;
    yard.small.set(level);
    auto all = yard.found();
    REQUIRE(all.size() == 1);
    CHECK(all[0].kind == Leak::Kind::telling);
    CHECK(all[0].cells == Box{3, 5, 1, 1});
    CHECK(all[0].what.english().find("4 cells") != std::string::npos);
    // It blocks: all is well. A bridge lies over it: likewise.
    level.edit(yard.small.ground).tiles()->solid = true;
    yard.small.set(level);
    CHECK(yard.found().empty());
    level.edit(yard.small.ground).tiles()->solid = false;
    for (int x = 3; x < 7; ++x) level.edit(yard.small.front).grid().set({x, 5}, level::Cell(48, {}, true), 0);
    yard.small.set(level);
    CHECK(yard.found().empty());
}

TEST_CASE("who has no room at the start is told; levels from the side do not leak at their rim", "[findings][leaks]") {
    Yard yard;
    level::Level level = yard.small.level();
    level.walker.width = 64 * 20;
    yard.small.set(level);
    const auto all = yard.found();
    REQUIRE(all.size() == 1);
    CHECK(all[0].kind == Leak::Kind::shut_in);
    CHECK(finding_of(level, all[0]).severity == Severity::error);
    level.walker.width = 48;
    level.sides[0].kind = level::SideKind::open;
    level.view = level::View::from_the_side;
    yard.small.set(level);
    for (const Leak& leak : yard.found()) CHECK(leak.kind != Leak::Kind::rim); // Reach tells of them
}

TEST_CASE("asked again and again, leaks are those that were found anew", "[findings][leaks]") {
    Yard yard;
    LeakChecker checker;
    make::Random random(3);
    for (int i = 0; i < 60; ++i) {
        const auto& known = checker.of(yard.small.project, yard.small.level());
        const auto anew = yard.found();
        REQUIRE(known.size() == anew.size());
        for (std::size_t k = 0; k < anew.size(); ++k) {
            CHECK(known[k].kind == anew[k].kind);
            CHECK(known[k].cells == anew[k].cells);
        }
        if (random.flip(0.8))
            yard.set({random.below(12), random.below(9)},
                     random.flip() ? level::TileShape::full : level::TileShape::none);
    }
}
