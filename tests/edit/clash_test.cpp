// Art of another size than the cells, and what settles it.
#include "edit/clash.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "edit/beginnings.hpp"
#include "edit/clips.hpp"
#include "edit/close_up.hpp"
#include "edit/homes.hpp"
#include "edit/sheets.hpp"
#include "picture/compose.hpp"
#include "sheet/cut.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

// A level of 16 px cells, empty, and a sheet of tiles of that size.
struct Two {
    explicit Two(Size tile, int scale = 1) {
        project = begun("Two", Beginning::from_the_side, "First", {"Back", "Ground", "Front"});
        std::vector<Image> tiles;
        for (int i = 0; i < 12; ++i) {
            Image art({tile.w / scale, tile.h / scale});
            for (int y = 0; y < art.height(); ++y)
                for (int x = 0; x < art.width(); ++x)
                    art.set(x, y, {static_cast<std::uint8_t>(x * 7 + i), static_cast<std::uint8_t>(y * 5), 90, 255});
            tiles.push_back(resampled(art, tile));
        }
        project = add_sheet(std::move(project), "sheets/art.png", make::sheet(tiles, 4, {}, {}), "Art",
                            {tile, {}, {}, scale}, true, sheet);
    }
    [[nodiscard]] const level::Level& level() const { return *project.levels[0]; }
    [[nodiscard]] std::optional<Clash> clash() const { return clash_of(project, level(), sheet); }
    [[nodiscard]] level::LayerId solid() const {
        for (const auto& l : level().layers)
            if (l->solid()) return l->id;
        return 0;
    }
    level::Project project;
    level::SheetId sheet = 0;
};

} // namespace

TEST_CASE("a clash is told by whole numbers, and there is none where sizes agree", "[clash]") {
    CHECK_FALSE(Two({16, 16}).clash());
    CHECK_FALSE(Two({32, 32}, 2).clash()); // drawn at 16 px
    const auto twice = Two({32, 32}).clash();
    REQUIRE(twice);
    CHECK(twice->larger == 2);
    CHECK(twice->smaller == 0);
    const auto half = Two({8, 8}).clash();
    REQUIRE(half);
    CHECK(half->smaller == 2);
    for (const Size odd : {Size{20, 20}, Size{16, 32}, Size{24, 24}}) {
        const auto uneven = Two(odd).clash();
        REQUIRE(uneven);
        CHECK(uneven->larger == 0);
        CHECK(uneven->smaller == 0);
        CHECK(settlements(Two(odd).level(), *uneven) == std::vector{Settlement::cells, Settlement::drawn});
    }
    // On diamonds it is widths that count, and what is drawn as squares is asked nothing.
    Two isometric({32, 32});
    level::Level level = isometric.level();
    level.view = level::View::from_above;
    level.lattice = LatticeKind::isometric;
    level.cell = {32, 16};
    CHECK_FALSE(clash_of(isometric.project, level, isometric.sheet));
    level.cell = {16, 8};
    CHECK_FALSE(clash_of(isometric.project, level, isometric.sheet));
    for (const int wide : {16, 32, 48, 64}) {
        Image diamond({wide, wide / 2 + 6}, {}); // stands six pixels high
        for (int y = 0; y < wide / 2; ++y)
            for (int x = 0; x < wide; ++x)
                if (std::abs(2.0 * x + 1 - wide) / wide + std::abs(2.0 * y + 1 - wide / 2.0) / (wide / 2.0) <= 1)
                    for (int down = 0; down <= 6; ++down) diamond.set(x, y + down, {90, 120, 80, 255});
        level::Project p = isometric.project;
        level::SheetId id = 0;
        p = add_sheet(std::move(p), "sheets/aslant.png", make::sheet({diamond, diamond, diamond, diamond}, 2, {}, {}),
                      "Aslant", {diamond.size(), {}, {}, 1}, true, id);
        level.cell = {32, 16};
        const auto clash = clash_of(p, level, id);
        REQUIRE(clash.has_value() == (wide != 32));
        if (!clash) continue;
        CHECK(clash->art == Size{wide, wide / 2});
        CHECK(clash->larger == (wide == 64 ? 2 : 0));
        CHECK(clash->smaller == (wide == 16 ? 2 : 0));
        REQUIRE(settlements(level, *clash) == std::vector{Settlement::cells, Settlement::drawn});
        p.put(level);
        const Settled done = settled(p, level, *clash, Settlement::cells, 0);
        const level::Level& now = *done.project.level(level.id);
        CHECK(now.cell == Size{wide, wide / 2});
        CHECK_FALSE(clash_of(done.project, now, id));
        CHECK_FALSE(clash_of(settled(p, level, *clash, Settlement::drawn, 0).project, level, id));
    }
}

TEST_CASE("each way settles it, and only the level that is empty changes its cells", "[clash]") {
    Two two({32, 32});
    const Clash clash = *two.clash();
    CHECK(settlements(two.level(), clash) == std::vector{Settlement::cells, Settlement::layer, Settlement::drawn});
    SECTION("cells") {
        two.project = settled(two.project, two.level(), clash, Settlement::cells, 0).project;
        CHECK(two.level().cell == Size{32, 32});
        CHECK_FALSE(two.clash());
    }
    SECTION("drawn") {
        two.project = settled(two.project, two.level(), clash, Settlement::drawn, 0).project;
        CHECK(two.level().cell == Size{16, 16});
        CHECK_FALSE(two.clash());
        make::Folder folder;
        store::save(two.project, folder / "p");
        CHECK(store::load(folder / "p").sheets[0]->any_size);
    }
    SECTION("not while something lies there") {
        level::Level level = two.level();
        level.edit(two.solid()).grid().set({2, 2}, level::Cell(two.project.sheets[0]->tiles[0].id), 0);
        CHECK_FALSE(is_empty(level));
        CHECK(settlements(level, clash) == std::vector{Settlement::layer, Settlement::drawn});
    }
}

TEST_CASE("a layer of its own takes the art pixel by pixel, and is found again", "[clash]") {
    Two two({32, 32});
    const level::LayerId ground = two.solid();
    REQUIRE(ground != 0);
    const Settled done = settled(two.project, two.level(), *two.clash(), Settlement::layer, ground);
    two.project = done.project;
    CHECK_FALSE(two.clash());
    const level::Layer* layer = two.level().layer(done.layer);
    REQUIRE(layer);
    CHECK(layer->grain() == level::Grain{1, 2});
    CHECK(layer->solid()); // as the one beside it
    CHECK(two.level().index_of(done.layer) == two.level().index_of(ground) + 1);
    const level::TileId tile = two.project.sheets[0]->tiles[5].id;
    CHECK(home_of(two.project, two.level(), make::laying(tile)) == done.layer);
    CHECK(layer_for(two.project, two.level(), make::laying(tile), ground) == done.layer);

    const join::Rules rules(two.project);
    level::Level close = close_up(two.level(), done.layer);
    close = lay(two.project, rules, close, done.layer, make::laying(tile), level::Region(Box{3, 2, 1, 1})).level;
    const Image picture = picture::render(two.project, put_back(two.level(), close, done.layer), 1);
    CHECK(cropped(picture, {96, 64, 32, 32}) ==
          sheet::tile_art(*two.project.sheets[0], two.project.sheets[0]->tiles[5]));

    // Several at once come in their arrangement, in these cells.
    const level::Sheet& sheet = *two.project.sheets[0];
    const level::Stamp stamp = stamp_of_tiles(sheet, {sheet.tiles[0].id, sheet.tiles[1].id}, two.level());
    CHECK(stamp.size == Size{4, 2});
    CHECK(stamp.layers.front().grid().size() == Size{2, 1});
    CHECK(stamp.layers.front().from == done.layer);
    CHECK(sheet_of(two.project, {held::Stamp{std::make_shared<const level::Stamp>(stamp)}}) == two.sheet);

    // A second sheet of that size goes to the same layer; one of the cells' size goes back to the ground.
    level::SheetId second = 0;
    two.project = add_sheet(std::move(two.project), "sheets/more.png", Image({128, 64}, {1, 2, 3, 255}), "More",
                            {{32, 32}, {}, {}, 1}, true, second);
    const auto again = clash_of(two.project, two.level(), second);
    REQUIRE(again);
    const Settled same = settled(two.project, two.level(), *again, Settlement::layer, ground);
    CHECK(same.layer == done.layer);
    CHECK(same.project.levels[0]->layers.size() == two.level().layers.size());
    level::SheetId small = 0;
    two.project = add_sheet(same.project, "sheets/small.png", Image({64, 64}, {9, 9, 9, 255}), "Small",
                            {{16, 16}, {}, {}, 1}, true, small);
    const level::LayerId back =
        layer_for(two.project, two.level(), make::laying(two.project.sheet(small)->tiles[0].id), done.layer);
    CHECK_FALSE(two.level().layer(back)->grain().own());
}

TEST_CASE("smaller art gets a layer of finer cells", "[clash]") {
    Two two({8, 8});
    const Settled done = settled(two.project, two.level(), *two.clash(), Settlement::layer, two.solid());
    const level::Layer* layer = done.project.levels[0]->layer(done.layer);
    REQUIRE(layer);
    CHECK(layer->grain() == level::Grain{2, 1});
    CHECK_FALSE(layer->solid());
    CHECK_FALSE(clash_of(done.project, *done.project.levels[0], two.sheet));
}
