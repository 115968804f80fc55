#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "edit/sheets.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "sheet/cut.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;

TEST_CASE("an animated tile shows each frame for its time, round and round", "[frames]") {
    level::Tile tile;
    tile.id = 7;
    CHECK(level::frame_at(tile, 1234) == 7);
    tile.frames = {{7, 100}, {8, 250}, {9, 50}};
    CHECK(level::frame_at(tile, 0) == 7);
    CHECK(level::frame_at(tile, 99) == 7);
    CHECK(level::frame_at(tile, 100) == 8);
    CHECK(level::frame_at(tile, 349) == 8);
    CHECK(level::frame_at(tile, 350) == 9);
    CHECK(level::frame_at(tile, 400) == 7);
    CHECK(level::frame_at(tile, 400LL * 1000000 + 120) == 8);
    CHECK(level::frame_at(tile, -1) == 9);
}

TEST_CASE("the level is drawn with the frame of the moment, and the parcel plays the same", "[frames]") {
    make::Small small;
    small.project = edit::change_tiles(small.project, {3}, [](level::Tile& t) {
        t.frames = {{3, 100}, {5, 200}, {9999, 100}}; // the last is gone: its own picture then
    });
    level::Level level = small.level();
    level.edit(small.ground).grid().set({4, 5}, level::Cell(3, {1}, true), 0);
    small.set(level);
    const level::Sheet& s = *small.project.sheets[0];
    picture::Art art;
    art.update(small.project);
    const auto shown = [&](std::int64_t ms) {
        art.set_clock(ms);
        picture::Canvas canvas(level.pixels());
        picture::draw(small.project, small.level(), art, canvas, canvas.box);
        return canvas.pixels;
    };
    const auto laid = [&](level::TileId id) {
        level::Level other = small.level();
        other.edit(small.ground).grid().set({4, 5}, level::Cell(id, {1}, true), 0);
        level::Project still = edit::change_tiles(small.project, {3}, [](level::Tile& t) { t.frames.clear(); });
        picture::Art fresh;
        picture::Canvas canvas(level.pixels());
        picture::draw(still, other, fresh, canvas, canvas.box);
        return canvas.pixels;
    };
    CHECK(shown(0) == laid(3));
    CHECK(shown(150) == laid(5));
    CHECK(shown(350) == laid(3));
    CHECK(shown(150) != shown(0));
    art.set_clock(0);
    CHECK(art.set_clock(150));
    CHECK_FALSE(art.set_clock(160));

    make::Folder dir;
    make::save_with_pictures(small.project, dir / "p");
    const level::Project loaded = store::load(dir / "p");
    CHECK(loaded.sheets[0]->tiles[2].frames == s.tiles[2].frames);
    const vicinum::Level back = vicinum::load(parcel::build(loaded, *loaded.levels[0], dir / "out").dir);
    REQUIRE(back.tiles.size() == 2);
    REQUIRE(back.tiles[0].frames.size() == 2); // without the one that is gone
    CHECK(&vicinum::picture_at(back.tiles, 0, 50) == &back.tiles[0].atlas);
    CHECK(&vicinum::picture_at(back.tiles, 0, 150) == &back.tiles[1].atlas);
    CHECK(&vicinum::picture_at(back.tiles, 0, 310) == &back.tiles[0].atlas);
    CHECK(&vicinum::picture_at(back.tiles, 1, 150) == &back.tiles[1].atlas);
}
