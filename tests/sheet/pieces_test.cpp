#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "edit/levels.hpp"
#include "edit/sheets.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "sheet/pieces.hpp"
#include "sheet/png.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;

namespace {

Image blotches(Size size, unsigned seed) {
    make::Random random(seed);
    Image out(size);
    for (int i = 0; i < 6; ++i) {
        const Box b{random.below(size.w), random.below(size.h), 1 + random.below(60), 1 + random.below(60)};
        for (int y = b.y; y < std::min(b.bottom(), size.h); ++y)
            for (int x = b.x; x < std::min(b.right(), size.w); ++x)
                out.set(x, y,
                        {static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(x & 255),
                         static_cast<std::uint8_t>(y & 255), static_cast<std::uint8_t>(55 + random.below(200))});
    }
    return out;
}

} // namespace

TEST_CASE("pieces are equal, none is empty, and together they are the picture", "[pieces]") {
    make::Random random(5);
    for (unsigned round = 0; round < 60; ++round) {
        const Image picture = blotches({1 + random.below(700), 1 + random.below(500)}, round);
        const int most = sheet::kLeastPiece + random.below(200);
        const sheet::Pieces cut = sheet::pieces_of(picture, most);
        CHECK(cut.size.w <= most);
        CHECK(cut.size.h <= most);
        CHECK(static_cast<int>(cut.boxes.size()) + cut.empty == cut.count.area());
        // No fewer pieces would do.
        CHECK((cut.count.w - 1) * most < picture.width());
        CHECK((cut.count.h - 1) * most < picture.height());
        Image again(picture.size());
        for (const Box& box : cut.boxes) {
            CHECK(box.size() == cut.size);
            const Image piece = cropped(picture, box);
            bool any = false;
            for (int y = 0; y < box.h; ++y)
                for (int x = 0; x < box.w; ++x) {
                    any = any || piece.at(x, y).a != 0;
                    again.put(box.x + x, box.y + y, piece.at(x, y));
                }
            CHECK(any);
        }
        for (int y = 0; y < picture.height(); ++y)
            for (int x = 0; x < picture.width(); ++x) REQUIRE(looks_same(again.at(x, y), picture.at(x, y)));
    }
}

TEST_CASE("a large picture is one prop here and pieces in the parcel", "[pieces][parcel]") {
    make::Small small;
    level::SheetId sheet = 0;
    small.project = edit::add_sheet(small.project, "ground.png", blotches({300, 170}, 3), "Ground",
                                    {{300, 170}, {}, {}, 1}, true, sheet);
    edit::LargePicture made = edit::add_large_picture(small.project, sheet);
    CHECK(edit::add_large_picture(made.project, sheet).kind == made.kind); // not twice
    small.project = made.project;
    level::PropKind kind = *small.project.prop_kind(made.kind);
    CHECK(kind.piece == 512);
    kind.piece = 64;
    kind.factor = 2;
    small.project.put(kind);
    level::Level level = small.level();
    level.edit(small.props).props().put({4001, kind.id, {10, 20}, {false}});
    small.set(level);
    make::Folder dir;
    make::save_with_pictures(small.project, dir / "p");
    const level::Project loaded = store::load(dir / "p");
    CHECK(*loaded.prop_kind(kind.id) == kind);
    const auto built = parcel::build(loaded, *loaded.levels[0], dir / "out");
    const vicinum::Level back = vicinum::load(built.dir);
    REQUIRE(back.prop_kinds.size() == 1);
    CHECK(back.prop_kinds[0].atlas.w == 600);
    REQUIRE(back.prop_kinds[0].pieces.size() > 10);
    // The pieces, put together, are what the level view shows.
    const Image shown = picture::render(loaded, *loaded.levels[0], 1);
    Image whole({600, 340});
    for (const auto& piece : back.prop_kinds[0].pieces) {
        const Image part = sheet::read_png(built.dir / piece.file);
        CHECK(part.width() == 60);
        for (int y = 0; y < part.height(); ++y)
            for (int x = 0; x < part.width(); ++x) whole.put(piece.at.x + x, piece.at.y + y, part.at(x, y));
    }
    const Image& art = *loaded.sheet(sheet)->image;
    for (int y = 0; y < 340; ++y)
        for (int x = 0; x < 600; ++x) {
            REQUIRE(looks_same(whole.at(x, y), art.at(x / 2, y / 2)));
            if (whole.at(x, y).a == 255) REQUIRE(shown.at(10 + x, 20 + y) == whole.at(x, y));
        }
    // An enlarged prop is hit where it is seen, and not beside it.
    Point solid{-1, -1};
    for (int y = 0; y < 170; ++y)
        for (int x = 0; x < 300; ++x)
            if (art.at(x, y).a > 200) solid = {10 + 2 * x + 1, 20 + 2 * y + 1};
    REQUIRE(solid.x >= 0);
    const auto hit = edit::prop_at(loaded, *loaded.levels[0], solid);
    REQUIRE(hit);
    CHECK(hit->prop.id == 4001);
}

TEST_CASE("smooth sampling keeps what is even and means what is not", "[image]") {
    const Image even({7, 5}, {10, 20, 30, 255});
    CHECK(resampled(even, {31, 2}, true) == Image({31, 2}, {10, 20, 30, 255}));
    // Shrunk to one pixel it is the mean; what is see-through lends no colour.
    Image two({2, 1});
    two.set(0, 0, {200, 100, 0, 255});
    const Rgba mean = resampled(two, {1, 1}, true).at(0, 0);
    CHECK(mean == Rgba{200, 100, 0, 128});
    // Grown, it goes up in steps instead of one; pixel by pixel it does not.
    Image edge({2, 1});
    edge.set(0, 0, {0, 0, 0, 255});
    edge.set(1, 0, {200, 200, 200, 255});
    const Image smooth = resampled(edge, {8, 1}, true), crisp = resampled(edge, {8, 1});
    std::set<int> in_smooth, in_crisp;
    for (int x = 0; x < 8; ++x) {
        in_smooth.insert(smooth.at(x, 0).r);
        in_crisp.insert(crisp.at(x, 0).r);
        if (x > 0) CHECK(smooth.at(x, 0).r >= smooth.at(x - 1, 0).r);
    }
    CHECK(in_crisp.size() == 2);
    CHECK(in_smooth.size() > 4);
}

TEST_CASE("a smooth sheet is drawn smooth at another size, as drawn at its own; the unit goes along", "[pieces]") {
    make::Small small;
    level::Level level = small.level();
    level.edit(small.ground).grid().set({3, 3}, level::Cell(5, {}, true), 0);
    small.set(level);
    level::Sheet sheet = *small.project.sheets[0];
    sheet.smooth = true;
    level::Project smooth = small.project;
    smooth.put(sheet);
    smooth.unit = 32;
    CHECK(picture::render(smooth, small.level(), 1) == picture::render(small.project, small.level(), 1));
    level::Level large = small.level();
    large.cell = {40, 40};
    CHECK_FALSE(picture::render(smooth, large, 1) == picture::render(small.project, large, 1));
    make::Folder dir;
    make::save_with_pictures(smooth, dir / "p");
    const level::Project loaded = store::load(dir / "p");
    CHECK(loaded.unit == 32);
    CHECK(loaded.sheets[0]->smooth);
    CHECK(vicinum::load(parcel::build(loaded, *loaded.levels[0], dir / "out").dir).unit == 32);
}
