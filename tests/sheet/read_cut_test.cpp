#include <catch2/catch.hpp>

#include "join/mask.hpp"
#include "sheet/read_cut.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::sheet;

namespace {

struct Case {
    std::string name;
    Image image;
    level::Cut cut;
};

// Sheets as people make them: sizes, gaps, margins, enlargements, art styles.
std::vector<Case> corpus() {
    std::vector<Case> out;
    make::Random random(17);
    const auto& masks = join::cases(level::JoinKind::full);
    for (const int side : {8, 16, 24, 32}) {
        for (const make::Style style :
             {make::Style::outlined, make::Style::textured, make::Style::noisy, make::Style::see_through}) {
            for (const auto& [gap, margin] : {std::pair{0, 0}, {1, 0}, {1, 1}, {2, 2}, {2, 0}}) {
                auto order = masks;
                std::shuffle(order.begin(), order.end(), random.engine);
                const int columns = 6 + random.below(5);
                const Rgba colour = random.flip() ? Rgba{} : Rgba{255, 0, 255, 255};
                Image image = make::sheet(make::tiles(order, side, style, static_cast<unsigned>(random.below(1000))),
                                          columns, {margin, margin}, {gap, gap}, colour);
                level::Cut cut{{side, side}, {margin, margin}, {gap, gap}, 1};
                if (side <= 16 && random.flip(0.3)) {
                    image = resampled(image, {image.width() * 2, image.height() * 2});
                    cut = {{2 * side, 2 * side}, {2 * margin, 2 * margin}, {2 * gap, 2 * gap}, 2};
                }
                out.push_back({std::to_string(side) + " px, style " + std::to_string(static_cast<int>(style)) +
                                   ", gap " + std::to_string(gap) + ", margin " + std::to_string(margin) + ", scale " +
                                   std::to_string(cut.scale),
                               std::move(image), cut});
            }
        }
    }
    return out;
}

} // namespace

TEST_CASE("the first proposal is right on typical sheets", "[read-cut]") {
    int right = 0;
    int sure_and_wrong = 0;
    std::string wrong;
    const auto all = corpus();
    for (const Case& c : all) {
        const SheetReading r = read_cut(c.image);
        const bool good = r.best && r.best->cut.tile == c.cut.tile && r.best->cut.spacing == c.cut.spacing &&
                          r.best->cut.margin == c.cut.margin && r.best->cut.scale == c.cut.scale;
        right += good;
        if (!good && r.best && r.best->confidence > 0.9) ++sure_and_wrong;
        if (!good) wrong += c.name + "\n";
    }
    INFO(right << " of " << all.size() << "; wrong:\n" << wrong);
    CHECK(right * 20 >= static_cast<int>(all.size()) * 19);
    CHECK(sure_and_wrong == 0);
}

TEST_CASE("a reading says why, and offers others", "[read-cut]") {
    const Image image =
        make::sheet(make::tiles(join::cases(level::JoinKind::full), 16, make::Style::outlined, 1), 8, {2, 2}, {1, 1});
    const SheetReading r = read_cut(image);
    REQUIRE(r.best);
    CHECK(r.best->columns == 8);
    CHECK(r.best->rows == 6);
    CHECK(r.best->reason.english().find("gaps of 1 px") != std::string::npos);
    CHECK(r.best->confidence > 0.5);
    CHECK(r.best->confidence < 1.0);
    CHECK(r.others.size() <= 3);
    for (const auto& o : r.others) CHECK(o.confidence <= r.best->confidence);
    CHECK(r.blank == std::vector<int>{47});
    CHECK(r.straddling.empty());
}

TEST_CASE("a tile that goes over its line is marked", "[read-cut]") {
    auto tiles = make::tiles(join::cases(level::JoinKind::full), 16, make::Style::textured, 1);
    Image image = make::sheet(tiles, 8, {1, 1}, {2, 2}, {255, 0, 255, 255});
    // Tile 10 (row 1, column 2) bleeds one pixel to the right.
    const Point at{1 + 2 * 18, 1 + 18};
    for (int y = 0; y < 16; ++y) image.set(at.x + 16, at.y + y, {5, 5, 5, 255});
    const SheetReading r = read_cut(image);
    REQUIRE(r.best);
    CHECK(r.best->cut.tile == Size{16, 16});
    CHECK(r.straddling == std::vector<int>{10});
}

TEST_CASE("noise and plain pictures never claim certainty", "[read-cut]") {
    make::Random random(4);
    for (int round = 0; round < 20; ++round) {
        Image noise({64 + random.below(80), 64 + random.below(80)});
        for (int y = 0; y < noise.height(); ++y)
            for (int x = 0; x < noise.width(); ++x)
                noise.set(x, y,
                          {static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(random.below(256)),
                           40, 255});
        const SheetReading r = read_cut(noise);
        if (r.best) CHECK(r.best->confidence < 0.6);
    }
    const SheetReading plain = read_cut(Image({100, 80}, {50, 60, 70, 255}));
    if (plain.best) CHECK(plain.best->confidence < 0.6);
}

TEST_CASE("tiny pictures are read without a lattice or as one tile", "[read-cut]") {
    CHECK_FALSE(read_cut(Image({1, 1}, {1, 2, 3, 255})).best);
    CHECK_FALSE(read_cut(Image()).best);
    const SheetReading one = read_cut(make::tile(0, 16, make::Style::outlined, 1));
    REQUIRE(one.best);
    CHECK(one.best->cut.tile == Size{16, 16});
    CHECK(one.best->confidence < 0.9);
    for (const Size size : {Size{1, 50}, Size{50, 1}, Size{3, 3}, Size{4, 4}, Size{5, 90}}) {
        const SheetReading r = read_cut(Image(size, {1, 2, 3, 255})); // must not fall over
        if (r.best) CHECK(r.best->cut.tile.w <= size.w);
    }
}

TEST_CASE("the scale is the greatest factor of the pixels", "[read-cut]") {
    const Image art = make::tile(85, 16, make::Style::textured, 2);
    for (int k = 1; k <= 8; ++k) CHECK(read_scale(resampled(art, {16 * k, 16 * k})) == k);
    CHECK(read_scale(Image({64, 64}, {1, 1, 1, 255})) == 1); // flat: no pixels to measure
    Image spoiled = resampled(art, {64, 64});
    spoiled.set(13, 7, {255, 255, 255, 255});
    CHECK(read_scale(spoiled) == 1);
}
