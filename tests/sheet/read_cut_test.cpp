#include <algorithm>
#include <catch2/catch.hpp>
#include <cstdlib>
#include <map>

#include "join/mask.hpp"
#include "sheet/read_cut.hpp"
#include "support/make.hpp"
#include "support/sheets.hpp"

using namespace vic;
using namespace vic::sheet;

namespace {

std::string text_of(const CutReading& r) {
    const auto pair = [](int a, int b) { return std::to_string(a) + "x" + std::to_string(b); };
    return pair(r.cut.tile.w, r.cut.tile.h) + " margin " + pair(r.cut.margin.x, r.cut.margin.y) + " gap " +
           pair(r.cut.spacing.x, r.cut.spacing.y) + " count " + pair(r.columns, r.rows) + " scale " +
           std::to_string(r.cut.scale) + ": " + r.reason.english();
}

// What of a tile lies in a hexagon, the tips of which touch two sides of a box; see-through outside.
Image six_sided(const Image& tile, Size box) {
    Image out(box);
    const bool wide = box.w > box.h; // tips to the west and east
    const int length = wide ? box.w : box.h, across = wide ? box.h : box.w;
    for (int y = 0; y < box.h; ++y)
        for (int x = 0; x < box.w; ++x) {
            const int along = std::min(wide ? x : y, length - 1 - (wide ? x : y));
            const int off = std::abs(2 * (wide ? y : x) - (across - 1)); // 0 in the middle
            if (4 * along * across >= length * (off - 1)) out.set(x, y, tile.at(x, y));
        }
    return out;
}

bool right(const make::SheetCase& c, const std::optional<CutReading>& r) {
    return r && r->cut.tile == c.cut.tile && r->cut.margin == c.cut.margin && r->cut.spacing == c.cut.spacing &&
           r->cut.scale == c.cut.scale && Size{r->columns, r->rows} == c.count;
}

} // namespace

TEST_CASE("the first proposal is right on typical sheets, and a wrong one is not certain", "[read-cut]") {
    struct Rate {
        int right = 0, all = 0;
    };
    std::map<std::string, Rate> rates;
    Rate whole;
    int sure_and_wrong = 0;
    int offered = 0;
    std::string wrong;
    double confidence[2] = {0, 0};
    for (const unsigned seed : {11U, 12U}) {
        for (const make::SheetCase& c : make::sheet_corpus(seed, 20)) {
            const SheetReading r = read_cut(c.image);
            const bool good = right(c, r.best);
            Rate& rate = rates[c.kind];
            rate.right += good;
            ++rate.all;
            whole.right += good;
            ++whole.all;
            if (r.best) confidence[good] += r.best->confidence;
            if (good) continue;
            sure_and_wrong += r.best && r.best->confidence > 0.9;
            for (const CutReading& o : r.others) offered += right(c, o);
            wrong += c.kind + ", " + c.name + "\n    read as " +
                     (r.best ? text_of(*r.best) + " at " + std::to_string(r.best->confidence) : "nothing") + "\n";
        }
    }
    std::string table;
    for (const auto& [kind, rate] : rates)
        table += kind + ": " + std::to_string(rate.right) + " of " + std::to_string(rate.all) + "\n";
    INFO(table << whole.right << " of " << whole.all << "; of the wrong ones " << offered
               << " are right in a later proposal\n"
               << wrong);
    CHECK(whole.right * 100 >= whole.all * 95);
    for (const auto& [kind, rate] : rates) {
        INFO(kind);
        CHECK(rate.right * 100 >= rate.all * 85);
    }
    CHECK(sure_and_wrong * 50 <= whole.all - whole.right + 50);
    CHECK(2 * offered >= whole.all - whole.right);
    // What it says of its certainty means something.
    CHECK(confidence[1] / whole.right > confidence[0] / std::max(1, whole.all - whole.right) + 0.2);
}

TEST_CASE("sheets with joins in four styles are read right", "[read-cut]") {
    make::Random random(17);
    int good = 0;
    int all = 0;
    std::string wrong;
    for (const int side : {8, 16, 24, 32}) {
        for (const make::Style style :
             {make::Style::outlined, make::Style::textured, make::Style::noisy, make::Style::see_through}) {
            for (const auto& [gap, margin] : {std::pair{0, 0}, {1, 0}, {1, 1}, {2, 2}, {2, 0}}) {
                auto order = join::cases(level::JoinKind::full);
                std::shuffle(order.begin(), order.end(), random.engine);
                const Image image = make::sheet(
                    make::tiles(order, side, style, static_cast<unsigned>(random.below(1000))), 6 + random.below(5),
                    {margin, margin}, {gap, gap}, random.flip() ? Rgba{} : Rgba{255, 0, 255, 255});
                const SheetReading r = read_cut(image);
                const bool is_right =
                    r.best && r.best->cut == level::Cut{{side, side}, {margin, margin}, {gap, gap}, 1, {}};
                good += is_right;
                if (!is_right)
                    wrong += std::to_string(side) + " style " + std::to_string(static_cast<int>(style)) + " gap " +
                             std::to_string(gap) + " margin " + std::to_string(margin) + " read as " +
                             (r.best ? text_of(*r.best) : "nothing") + "\n";
                ++all;
            }
        }
    }
    INFO(good << " of " << all << "\n" << wrong);
    CHECK(good * 100 >= all * 95);
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

TEST_CASE("ruled sheets, strips and odd sizes are cut right", "[read-cut]") {
    make::Random random(29), apart(61); // of its own, so that the other classes stay what they were
    struct Rate {
        int right = 0, all = 0;
    };
    std::map<std::string, Rate> rates;
    const auto count = [&](const char* kind, const Image& image, Size tile, Point gap) {
        const SheetReading r = read_cut(image);
        Rate& rate = rates[kind];
        rate.right += r.best && r.best->cut.tile == tile && r.best->cut.spacing == gap;
        ++rate.all;
    };
    const auto some = [&](int n, int side) {
        std::vector<Image> out;
        const auto all = join::cases(level::JoinKind::full);
        for (int i = 0; i < n; ++i) {
            const auto mask = all[static_cast<std::size_t>(random.below(static_cast<int>(all.size())))];
            out.push_back(make::tile(mask, side, random.flip() ? make::Style::textured : make::Style::outlined,
                                     static_cast<unsigned>(random.below(999))));
        }
        return out;
    };
    for (int i = 0; i < 24; ++i) {
        const int sizes[] = {10, 16, 20, 24, 30, 32, 40, 48};
        const int side = sizes[random.below(8)];
        const int line = 1 + random.below(3);
        const auto part = [&] { return static_cast<std::uint8_t>(random.below(256)); };
        const Rgba colour{part(), part(), part(), 255};
        count("ruled",
              make::sheet(some(24 + random.below(24), side), 5 + random.below(4), {line, line}, {line, line}, colour),
              {side, side}, {line, line});
        // Things in the middle of see-through cells, some as wide as a cell: the rules are the most that there is.
        const Size tall{40 + 8 * apart.below(3), 72};
        std::vector<Image> things;
        const Image wide = make::tile(255, tall.w, make::Style::textured, static_cast<unsigned>(i));
        for (int k = 0; k < 12 * 9; ++k) {
            Image cell(tall, {});
            const bool full = k / 12 % 3 == 0;
            const int w = full ? tall.w : 6 + apart.below(20), h = full ? tall.w : 4 + apart.below(16);
            if (k % 12 < 11 - apart.below(3)) // nothing was drawn in the last of a row
                for (int y = 0; y < h; ++y)
                    for (int x = 0; x < w; ++x) cell.set((tall.w - w) / 2 + x, (tall.h - h) / 2 + y, wide.at(x, y));
            things.push_back(cell);
        }
        count("ruled, see-through", make::sheet(things, 12, {line, line}, {line, line}, colour), tall, {line, line});
        const int square = sizes[3 + random.below(5)];
        const int n = 4 + random.below(12);
        count("strip", make::sheet(some(n, square), n, {}, {}), {square, square}, {});
        const Size hexagon = i % 2 == 0 ? Size{square, square * 7 / 8} : Size{square * 7 / 8, square};
        std::vector<Image> hexagons;
        for (const Image& tile : some(24 + random.below(12), square)) hexagons.push_back(six_sided(tile, hexagon));
        const int gap = random.below(3);
        count("hexagons", make::sheet(hexagons, 6, {}, {gap, gap}), hexagon, {gap, gap});
    }
    std::string table;
    for (const auto& [kind, rate] : rates)
        table += kind + ": " + std::to_string(rate.right) + " of " + std::to_string(rate.all) + "\n";
    INFO(table);
    WARN(table);
    for (const auto& [kind, rate] : rates) CHECK(rate.right * 100 >= rate.all * 85);
}
