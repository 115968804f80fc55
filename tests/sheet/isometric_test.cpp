// Art drawn aslant: known as such, and its joins read from the ground it shows.
#include <catch2/catch.hpp>

#include "base/lattice.hpp"
#include "edit/sheets.hpp"
#include "join/read_joins.hpp"
#include "sheet/cut.hpp"
#include "sheet/isometric.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

// A flat picture as a diamond of 2 : 1, `above` pixels below the picture's upper edge.
Image tilted(const Image& flat, int wide, int above) {
    const int high = wide / 2;
    Image out({wide, high + above});
    const Lattice l{LatticeKind::isometric, {wide, high}};
    for (int y = 0; y < high; ++y)
        for (int x = 0; x < wide; ++x) {
            const CellPlace at = l.place_of(x + 0.5 - wide / 2.0, y + 0.5);
            if (at.x < 0 || at.y < 0 || at.x >= 1 || at.y >= 1) continue;
            out.set(x, y + above,
                    flat.at(static_cast<int>(at.x * flat.width()), static_cast<int>(at.y * flat.height())));
        }
    return out;
}

level::Sheet sheet_of(const std::vector<Image>& tiles, int columns) {
    level::Project p;
    level::SheetId id = 0;
    const Size tile = tiles.front().size();
    p = edit::add_sheet(std::move(p), "sheets/a.png", make::sheet(tiles, columns, {0, 0}, {0, 0}), "A",
                        {tile, {}, {}, 1}, true, id);
    return *p.sheet(id);
}

} // namespace

TEST_CASE("A set of 47 that is drawn aslant is read like one seen from above", "[aslant]") {
    const auto masks = join::cases(level::JoinKind::full);
    for (const make::Style style : {make::Style::outlined, make::Style::textured, make::Style::shaded}) {
        std::vector<Image> tiles;
        for (const Image& flat : make::tiles(masks, 32, style, 5)) tiles.push_back(tilted(flat, 64, 0));
        const level::Sheet sheet = sheet_of(tiles, 8);
        REQUIRE(sheet::is_isometric(sheet));
        const join::JoinReading read = join::read_joins(edit::tile_pictures(sheet), level::JoinKind::full);
        int right = 0;
        for (const auto& t : read.tiles)
            if (t.index < static_cast<int>(masks.size())) right += t.mask == masks[static_cast<std::size_t>(t.index)];
        INFO("style " << static_cast<int>(style));
        CHECK(right >= 45);
    }
}

TEST_CASE("Sheets seen from above are not taken for aslant ones", "[aslant]") {
    const auto masks = join::cases(level::JoinKind::full);
    for (const make::Style style : {make::Style::outlined, make::Style::see_through, make::Style::noisy})
        CHECK_FALSE(sheet::is_isometric(sheet_of(make::tiles(masks, 16, style, 3), 8)));
    CHECK_FALSE(sheet::is_isometric(level::Sheet{}));
    // Small things in the middle of their cells are no diamonds.
    Image dot({16, 16});
    for (int y = 6; y < 11; ++y)
        for (int x = 6; x < 11; ++x) dot.set(x, y, {200, 0, 0, 255});
    CHECK_FALSE(sheet::is_isometric(sheet_of({dot, dot, dot, dot}, 2)));
}

TEST_CASE("Of what stands up the top is what its joins are read from", "[aslant]") {
    Image top({16, 16}, {10, 200, 30, 255});
    Image block = tilted(top, 32, 0);
    Image tall({32, 40});
    for (int y = 0; y < 40; ++y)
        for (int x = 0; x < 32; ++x) {
            const int from = 8 + (x < 16 ? x / 2 : (31 - x) / 2);
            if (y >= from && y < from + 24) tall.set(x, y, {120, 60, 20, 255});
        }
    for (int y = 0; y < 16; ++y)
        for (int x = 0; x < 32; ++x)
            if (block.at(x, y).a > 0) tall.set(x, y, block.at(x, y));
    const Image ground = sheet::flattened(tall);
    REQUIRE(ground.size() == Size{16, 16});
    int green = 0;
    for (const Rgba c : ground.pixels()) green += c == Rgba{10, 200, 30, 255};
    CHECK(green >= 240);
}
