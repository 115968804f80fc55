// Whatever of the core runs in several threads, large enough to do so: for ThreadSanitizer, and for the result, which
// is the same as that of the parts one by one.
#include <catch2/catch.hpp>
#include <thread>

#include "base/parallel.hpp"
#include "edit/stroke.hpp"
#include "findings/check.hpp"
#include "kit/made_house.hpp"
#include "mass/merge.hpp"
#include "parcel/build.hpp"
#include "sheet/read_cut.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "support/sheets.hpp"

using namespace vic;

namespace {

constexpr int kSide = 1280; // cells: many rows of chunks

edit::Hand rock() {
    edit::Hand hand{edit::held::Material{1}};
    return hand;
}

} // namespace

TEST_CASE("a large fill is the same as its parts one after the other", "[snapshots]") {
    const make::Small small({kSide, kSide});
    const join::Rules rules(small.project);
    const level::Level whole =
        edit::lay(small.project, rules, small.level(), small.ground, rock(), level::Region(Box{0, 0, kSide, kSide}))
            .level;
    level::Level parts = small.level();
    for (int y = 0; y < kSide; y += 160)
        parts =
            edit::lay(small.project, rules, parts, small.ground, rock(), level::Region(Box{0, y, kSide, 160})).level;
    CHECK(whole.layer(small.ground)->grid() == parts.layer(small.ground)->grid());
}

TEST_CASE("a level that is built and looked through while one goes on laying is that of the snapshot", "[snapshots]") {
    make::Small small({kSide, kSide}, level::View::from_the_side);
    const join::Rules rules(small.project);
    level::Level level =
        edit::lay(small.project, rules, small.level(), small.ground, rock(), level::Region(Box{0, 600, kSide, 80}))
            .level;
    level.marks.push_back({900, "Start", level::MarkKind::start, {3, 599, 1, 1}});
    small.set(level);
    make::Folder dir;
    make::save_with_pictures(small.project, dir / "project");
    const auto snapshot = std::make_shared<const level::Project>(small.project);
    std::size_t found = 0;
    std::thread background([&] {
        findings::Checker checker;
        found = checker.check(*snapshot).size();
        parcel::build(*snapshot, *snapshot->levels.front(), dir / "parcel");
    });
    for (int y = 0; y < kSide; y += 128)
        level = edit::lay(small.project, rules, level, small.ground, rock(), level::Region(Box{0, y, kSide, 64})).level;
    background.join();
    findings::Checker again;
    CHECK(again.check(*snapshot).size() == found);
    CHECK(store::load(dir / "project").levels.front()->layer(small.ground)->grid() ==
          snapshot->levels.front()->layer(small.ground)->grid());
}

TEST_CASE("a large picture is read in two threads as in one", "[snapshots]") {
    Image image({1200, 1200});
    for (int y = 0; y < 1200; ++y)
        for (int x = 0; x < 1200; ++x)
            if (x % 34 >= 2 && y % 34 >= 2)
                image.set(x, y,
                          {static_cast<std::uint8_t>(x / 34 * 7), static_cast<std::uint8_t>(y / 34 * 7),
                           static_cast<std::uint8_t>((x * y) % 97), 255});
    const auto first = sheet::read_cut(image);
    REQUIRE(first.best);
    CHECK(first.best->cut.tile == Size{32, 32});
    for (int i = 0; i < 2; ++i) {
        const auto again = sheet::read_cut(image);
        REQUIRE(again.best);
        CHECK(again.best->cut == first.best->cut);
        CHECK(again.best->confidence == first.best->confidence);
        CHECK(again.blank == first.blank);
    }
}

TEST_CASE("pieces are merged in several threads as in one, also where only some changed", "[snapshots]") {
    kit_test::House house;
    make::Random random(4);
    const char* const names[] = {"Wall 0x", "Wall 5x", "Wall 11x", "Hall", "Lean-to"};
    level::Level level = level::make_level(house.project, "Wide", {40, 30}, {16, 16}, level::View::from_above);
    house.level = level;
    for (int y = 1; y < 29; ++y)
        for (int x = 2; x < 38; ++x)
            if (random.flip(0.3)) house.lay({x, y}, names[random.below(5)], random.below(8));
    const scene::Storeys storeys(house.kits);
    const auto placed = [&] { return scene::placed_in(house.project, house.level, house.kits, level::kMostStorey); };
    mass::Merger merger;
    REQUIRE(merger.update(placed(), house.kits, storeys).pieces > 200);
    house.lay({20, 15}, "Wall 5x", 1);
    house.lay({9, 9}, "Lean-to", 2);
    const mass::Mass several = merger.update(placed(), house.kits, storeys);
    const WithWorkers one(1);
    const mass::Mass alone = mass::merged(placed(), house.kits, storeys);
    REQUIRE(several.slabs.size() == alone.slabs.size());
    for (std::size_t i = 0; i < alone.slabs.size(); ++i) CHECK(*several.slabs[i].outlines == *alone.slabs[i].outlines);
    REQUIRE(several.levels.size() == alone.levels.size());
    for (std::size_t i = 0; i < alone.levels.size(); ++i)
        CHECK(*several.levels[i].outlines == *alone.levels[i].outlines);
}
