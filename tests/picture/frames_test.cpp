#include <algorithm>
#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "edit/sheets.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "sheet/cut.hpp"
#include "sheet/pieces.hpp"
#include "sheet/png.hpp"
#include "store/fields.hpp"
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

TEST_CASE("an animated prop shows its frames beside each other, in the level, the parcel and while it goes on",
          "[frames][props]") {
    make::Small small;
    // Three frames of 6 by 8, and room for no fourth.
    const Rgba colours[] = {{200, 40, 40, 255}, {40, 200, 40, 255}, {40, 40, 200, 255}};
    Image strip({6 * 3 + 4 + 5, 8});
    for (int i = 0; i < 3; ++i)
        for (int y = 0; y < 8; ++y)
            for (int x = 0; x < 6; ++x) strip.set(4 + i * 6 + x, y, colours[i]);
    level::Sheet sheet = *small.project.sheets.front();
    sheet.id = 300;
    sheet.tiles.clear();
    sheet.image = std::make_shared<const Image>(std::move(strip));
    small.project.put(sheet);
    level::PropKind kind = *small.project.prop_kind(small.prop);
    kind.id = 301;
    kind.sheet = 300;
    kind.box = {4, 0, 6, 8};
    kind.pivot = {3, 7};
    kind.foot = {0, 6, 6, 2};
    kind.factor = 2;
    kind.piece = 0;
    kind.frames = 4; // the fourth is not there
    kind.frame_ms = 100;
    small.project.put(kind);
    CHECK(kind.frames_in(small.project.sheet(300)->image->size()) == 3);
    CHECK(kind.box_at(-1, small.project.sheet(300)->image->size()).x == 16);
    level::Level level = small.level();
    for (const level::LayerRef& l : small.level().layers)
        if (l->has_props()) level.edit(l->id).props() = level::Props();
    level.edit(small.props).props().put({900, kind.id, {100, 100}});
    small.set(level);
    picture::Art art;
    art.update(small.project);
    const auto seen = [&](std::int64_t ms) {
        art.set_clock(ms);
        picture::Canvas canvas(level.pixels());
        picture::draw(small.project, small.level(), art, canvas, canvas.box);
        const std::uint32_t p = canvas.pixels[static_cast<std::size_t>(95 * canvas.box.w + 100)];
        return Rgba{static_cast<std::uint8_t>(p >> 16), static_cast<std::uint8_t>(p >> 8), static_cast<std::uint8_t>(p),
                    255};
    };
    for (const std::int64_t ms : {0, 99, 100, 250, 300, 430, 1250}) CHECK(seen(ms) == colours[ms / 100 % 3]);
    art.set_clock(0);
    CHECK_FALSE(art.set_clock(99));
    CHECK(art.set_clock(100));
    // The same at half the size, where pictures are kept apart.
    picture::Canvas half(Box{0, 0, level.pixels().w / 2, level.pixels().h / 2});
    art.set_clock(200);
    picture::draw_small(small.project, small.level(), art, half, half.box, 1);
    const std::uint32_t p = half.pixels[static_cast<std::size_t>(47 * half.box.w + 50)];
    CHECK((p & 255U) == 200);
    // An engine finds them in the atlas.
    make::Folder dir;
    parcel::build(small.project, small.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    CHECK(store::parse_json(read_file(dir / "p/level.json"), "level.json")["version"] == 5); // it blocks, too
    const auto found = std::find_if(built.prop_kinds.begin(), built.prop_kinds.end(),
                                    [](const vicinum::PropKind& k) { return k.id == 301; });
    REQUIRE(found != built.prop_kinds.end());
    CHECK(found->frames == 3);
    CHECK((found->atlas.w == 12 && found->atlas.h == 16));
    const Image atlas = sheet::read_png(dir / "p" / built.atlas);
    for (const long long ms : {0LL, 150LL, 200LL, 310LL}) {
        const vicinum::Rect r = found->picture_at(ms);
        CHECK(atlas.at(r.x + 5, r.y + 5) == colours[ms / 100 % 3]);
    }
    // One in pieces stands still.
    kind.piece = sheet::kLeastPiece;
    small.project.put(kind);
    parcel::build(small.project, small.level(), dir / "q");
    CHECK(vicinum::load(dir / "q").prop_kinds.front().frames == 1);
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
