#include <catch2/catch.hpp>

#include "sheet/cut.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::sheet;
using level::Cut;

namespace {
level::Sheet sheet_of(Size size) {
    level::Sheet s;
    s.id = 1;
    s.image = std::make_shared<const Image>(size, Rgba{9, 9, 9, 255});
    return s;
}
} // namespace

TEST_CASE("boxes lie on the lattice and inside the picture", "[cut]") {
    make::Random random(2);
    for (int round = 0; round < 300; ++round) {
        const Size image{8 + random.below(200), 8 + random.below(200)};
        const Cut cut{{1 + random.below(20), 1 + random.below(20)},
                      {random.below(4), random.below(4)},
                      {random.below(3), random.below(3)},
                      1};
        if (cut_trouble(cut, image)) continue;
        const Size count = columns_rows(cut, image);
        const auto boxes = cut_boxes(cut, image);
        REQUIRE(boxes.size() == static_cast<std::size_t>(count.area()));
        for (std::size_t i = 0; i < boxes.size(); ++i) {
            CHECK(box_of(image).contains(boxes[i]));
            for (std::size_t j = i + 1; j < std::min(boxes.size(), i + 30); ++j)
                CHECK(intersection(boxes[i], boxes[j]).empty());
        }
        // One more would not fit.
        CHECK(cut.margin.x + count.w * (cut.tile.w + cut.spacing.x) + cut.tile.w > image.w);
        CHECK(cut.margin.y + count.h * (cut.tile.h + cut.spacing.y) + cut.tile.h > image.h);
    }
}

TEST_CASE("impossible cuts say why", "[cut]") {
    const Size image{64, 64};
    CHECK_FALSE(cut_trouble({{64, 64}, {}, {}, 1}, image));
    for (const Cut& bad : {Cut{{65, 16}, {}, {}, 1}, Cut{{0, 16}, {}, {}, 1}, Cut{{16, 16}, {-1, 0}, {}, 1},
                           Cut{{16, 16}, {}, {0, -2}, 1}, Cut{{16, 16}, {}, {}, 0}, Cut{{16, 16}, {}, {}, 3},
                           Cut{{16, 16}, {60, 0}, {}, 1}}) {
        const auto trouble = cut_trouble(bad, image);
        REQUIRE(trouble);
        CHECK(trouble->english().size() > 10);
    }
    CHECK(cut_trouble({{1, 1}, {}, {}, 1}, {1, 1}) == std::nullopt);
    CHECK(cut_trouble({{1, 1}, {}, {}, 1}, {16000, 8000})); // more than a million tiles
}

TEST_CASE("tiles keep their identity through re-cutting, there and back", "[cut]") {
    std::uint32_t next = 1;
    const Cut a{{16, 16}, {}, {}, 1};
    const Cut b{{32, 16}, {}, {}, 1};
    level::Sheet first = recut(sheet_of({64, 32}), a, next);
    REQUIRE(first.tiles.size() == 8);
    first.tiles[3].name = "Corner";
    first.tiles[3].shape = level::TileShape::full;
    const level::Sheet wide = recut(first, b, next);
    CHECK(wide.tiles.size() == 4);
    CHECK(wide.retired.size() == 8);
    const level::Sheet back = recut(wide, a, next);
    REQUIRE(back.tiles.size() == 8);
    for (std::size_t i = 0; i < 8; ++i) CHECK(back.tiles[i] == first.tiles[i]);
    // The wide ones are kept in turn, and no id was given twice.
    std::set<level::TileId> ids;
    for (const auto& t : back.tiles) CHECK(ids.insert(t.id).second);
    for (const auto& t : back.retired) CHECK(ids.insert(t.id).second);
    CHECK(next == 13);
}

TEST_CASE("tiles whose box is the same in another lattice stay", "[cut]") {
    std::uint32_t next = 1;
    const level::Sheet one = recut(sheet_of({48, 16}), {{16, 16}, {}, {}, 1}, next);
    const level::Sheet shifted = recut(one, {{16, 16}, {16, 0}, {}, 1}, next);
    REQUIRE(shifted.tiles.size() == 2);
    CHECK(shifted.tiles[0].id == one.tiles[1].id);
    CHECK(shifted.tiles[1].id == one.tiles[2].id);
}

TEST_CASE("blank cells are known", "[cut]") {
    Image image({48, 16}, {0, 0, 0, 0});
    image.set(20, 3, {1, 1, 1, 1});
    for (int x = 32; x < 48; ++x) image.set(x, 0, {200, 100, 50, 0}); // colour under see-through is nothing
    level::Sheet s;
    s.image = std::make_shared<const Image>(image);
    std::uint32_t next = 1;
    const level::Sheet cut = recut(s, {{16, 16}, {}, {}, 1}, next);
    CHECK(cut.tiles[0].blank);
    CHECK_FALSE(cut.tiles[1].blank);
    CHECK(cut.tiles[2].blank);
}

TEST_CASE("enlarged art comes back as drawn", "[cut]") {
    const Image art = make::tile(255, 8, make::Style::textured, 4);
    level::Sheet s;
    s.image = std::make_shared<const Image>(resampled(art, {24, 24}));
    std::uint32_t next = 1;
    const level::Sheet cut = recut(s, {{24, 24}, {}, {}, 3}, next);
    CHECK(drawn_size(cut.cut) == Size{8, 8});
    CHECK(tile_art(cut, cut.tiles[0]) == art);
}

TEST_CASE("whether art fits a level's cells, and by what", "[cut]") {
    CHECK(fit_of({16, 16}, {16, 16}).kind == Fit::Kind::same);
    const Fit twice = fit_of({16, 16}, {32, 32});
    CHECK(twice.kind == Fit::Kind::enlarged);
    CHECK(twice.by == Size{2, 2});
    const Fit large = fit_of({32, 48}, {16, 16});
    CHECK(large.kind == Fit::Kind::cells);
    CHECK(large.by == Size{2, 3});
    CHECK(fit_of({16, 16}, {32, 16}).kind == Fit::Kind::uneven); // stretched one way only
    CHECK(fit_of({24, 24}, {16, 16}).kind == Fit::Kind::uneven);
    CHECK(fit_of({12, 12}, {16, 16}).kind == Fit::Kind::uneven);
    const Fit odd = fit_of({24, 12}, {32, 32}); // 1 1/3 across, 2 2/3 down; unchanged it keeps within the cell
    CHECK(odd.up == Size{4, 8});
    CHECK(odd.down == Size{3, 3});
    CHECK(odd.within == 1);
    CHECK(fit_of({48, 48}, {32, 32}).within == 0);
}

TEST_CASE("a place is honest where each pixel of the art has a whole number of its own", "[cut]") {
    CHECK(sheet::honest_in({16, 16}, {16, 16}).is);
    CHECK(sheet::honest_in({16, 16}, {48, 48}).is);
    const sheet::Honest odd = sheet::honest_in({20, 20}, {48, 48});
    CHECK_FALSE(odd.is);
    CHECK(odd.below == Size{40, 40});
    CHECK(odd.above == Size{60, 60});
    const sheet::Honest small = sheet::honest_in({32, 32}, {16, 16});
    CHECK_FALSE(small.is);
    CHECK(small.below.empty());
    CHECK(small.above == Size{32, 32});
    CHECK(sheet::honest_in({}, {16, 16}).is);
}
