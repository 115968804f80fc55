// Cuts of small sets without gaps, where the lines between tiles are hard to tell from lines within them.
#include "join/read_sheet.hpp"

#include <catch2/catch.hpp>
#include <map>
#include <string>
#include <vector>

#include "join/mask.hpp"
#include "support/make.hpp"

using namespace vic;
using make::Style;

TEST_CASE("a whole set of joins says how its sheet is cut", "[join][read-sheet]") {
    const std::pair<const char*, Style> styles[] = {{"outlined", Style::outlined},
                                                    {"textured", Style::textured},
                                                    {"noisy", Style::noisy},
                                                    {"shaded", Style::shaded},
                                                    {"see-through", Style::see_through},
                                                    {"line", Style::line},
                                                    {"blob", Style::blob},
                                                    {"line on ground", Style::line_on_ground},
                                                    {"rim only", Style::rim_only}};
    int sheets = 0, first = 0, by_lines = 0, surely_wrong = 0;
    for (const auto& [name, style] : styles) {
        int right = 0, of = 0;
        for (const auto& sized : {std::pair{16, 4}, {20, 8}, {24, 4}, {48, 8}}) {
            const int side = sized.first, columns = sized.second;
            const auto tiles = make::tiles(join::cases(level::JoinKind::edges), side, style, 31);
            const Image image = make::sheet(tiles, columns, {}, {});
            const auto is_right = [&](const sheet::SheetReading& r) {
                return r.best && r.best->cut.tile == Size{side, side} && r.best->cut.spacing == Point{} &&
                       r.best->columns == columns;
            };
            const sheet::SheetReading read = join::read_sheet(image);
            ++of;
            right += is_right(read);
            by_lines += is_right(sheet::read_cut(image));
            surely_wrong += !is_right(read) && read.best && read.best->confidence >= 0.9;
            if (is_right(read)) CHECK(read.what.best.what == sheet::What::tiles);
        }
        WARN(name << ": " << right << " of " << of);
        sheets += of;
        first += right;
    }
    WARN("right " << first << " of " << sheets << ", by their lines alone " << by_lines);
    CHECK(first >= 0.9 * sheets);
    CHECK(first > by_lines);
    CHECK(surely_wrong == 0);
}

TEST_CASE("what is no set of joins is cut as its lines say", "[join][read-sheet]") {
    std::vector<Image> tiles;
    for (unsigned i = 0; i < 30; ++i) tiles.push_back(make::tile(255, 16, Style::textured, i));
    for (const Point gap : {Point{0, 0}, Point{2, 2}}) {
        const Image image = make::sheet(tiles, 6, {}, gap, {255, 0, 255, 255});
        const auto alone = sheet::read_cut(image);
        const auto read = join::read_sheet(image);
        REQUIRE(read.best);
        CHECK(read.best->cut == alone.best->cut);
        CHECK(read.best->confidence == alone.best->confidence);
    }
}

TEST_CASE("whether a picture is tiles, a thing, things or a backdrop", "[sheet][what]") {
    using sheet::What;
    const auto what = [](const Image& image) { return join::read_sheet(image).what; };
    const auto blob = [](Image& image, int cx, int cy, int rx, int ry) {
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                if ((x - cx) * (x - cx) * ry * ry + (y - cy) * (y - cy) * rx * rx < rx * rx * ry * ry)
                    image.set(x, y, {static_cast<std::uint8_t>(100 + x), static_cast<std::uint8_t>(80 + y), 60, 255});
    };
    Image lone({44, 82});
    blob(lone, 22, 41, 22, 41);
    CHECK(what(lone).best.what == What::prop);
    CHECK(what(lone).things == 1);
    Image several({200, 90});
    for (const Point at : {Point{25, 30}, {80, 44}, {151, 37}}) blob(several, at.x, at.y, 17, 24);
    CHECK(what(several).best.what == What::things);
    CHECK(what(several).bounds.w > 140);
    Image hills({320, 120});
    for (int y = 0; y < 120; ++y)
        for (int x = 0; x < 320; ++x)
            if (y > 70 + (x - 160) * (x - 160) / 900)
                hills.set(x, y,
                          {static_cast<std::uint8_t>(60 + y / 2), static_cast<std::uint8_t>(90 + x / 8), 80, 255});
    CHECK(what(hills).best.what == What::backdrop);
    // Each is offered as something else, too.
    for (const Image* image : {&lone, &several, &hills}) CHECK_FALSE(what(*image).others.empty());
    CHECK(what(make::sheet(make::tiles(join::cases(level::JoinKind::full), 16, Style::outlined, 1), 8, {1, 1}, {1, 1}))
              .best.what == What::tiles);
    CHECK(what(Image({1, 1}, {9, 9, 9, 255})).best.what == What::prop);
}
