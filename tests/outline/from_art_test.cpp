#include <catch2/catch.hpp>
#include <cmath>

#include "outline/field.hpp"
#include "outline/from_art.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using level::Polygons;
using level::TileShape;

namespace {

// Pixels whose middle lies in the polygons (1/16 cells).
Image painted(const Polygons& polygons, Size size) {
    Image art(size);
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x)
            for (const auto& p : polygons)
                if (outline_test::holds(p, (x + 0.4999) * 16 / size.w, (y + 0.5001) * 16 / size.h))
                    art.set(x, y, {120, 90, 60, 255});
    return art;
}

} // namespace

TEST_CASE("art painted as a named shape is read as that shape", "[from-art]") {
    for (const int side : {16, 32, 48})
        for (int i = 1; i < level::kTileShapes; ++i) {
            const auto shape = static_cast<TileShape>(i);
            if (level::polygons_of(shape).empty()) continue;
            ArtShape read = shape_from_art(painted(level::polygons_of(shape), {side, side}), 1.0);
            CHECK(read.deviation <= 1 + side / 16.0); // and one step of the lattice
            INFO("shape " << i << " at " << side);
            // Stairs of pixels: the corners may be a sixteenth off for shapes that are cut through pixels.
            REQUIRE(read.polygons.size() == 1);
            CHECK(std::abs(level::area2(read.polygons[0]) - level::area2(level::polygons_of(shape)[0])) <= 48);
            if (shape == TileShape::full ||
                (i >= static_cast<int>(TileShape::half_north) && i <= static_cast<int>(TileShape::half_west)))
                CHECK(level::named_shape(read.polygons) == shape);
        }
}

TEST_CASE("a read shape keeps within the deviation, and is a shape, for any blob", "[from-art]") {
    make::Random random(12);
    for (int round = 0; round < 200; ++round) {
        const Size size{8 + random.below(60), 8 + random.below(60)};
        Image art(size);
        for (int i = 1 + random.below(5); i > 0; --i) {
            const double cx = random.below(size.w), cy = random.below(size.h), r = 1 + random.below(size.w / 2);
            for (int y = 0; y < size.h; ++y)
                for (int x = 0; x < size.w; ++x)
                    if (std::hypot(x - cx, y - cy) < r) art.set(x, y, {10, 200, 30, 255});
        }
        const double wanted = 0.5 + random.below(4);
        const ArtShape read = shape_from_art(art, wanted);
        if (read.polygons.empty()) continue;
        CHECK(level::shape_trouble(read.polygons).empty());
        const double lattice = std::max(size.w, size.h) / 16.0; // one step of the 1/16 lattice in pixels
        CHECK(read.deviation <= wanted + lattice);
        // Inside and outside agree but for a rim as wide as the deviation.
        std::int64_t wrong = 0;
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                bool in = false;
                for (const auto& p : read.polygons)
                    in = in || outline_test::holds(p, (x + 0.5) * 16 / size.w, (y + 0.5) * 16 / size.h);
                wrong += in != (art.at(x, y).a > 0);
            }
        CHECK(static_cast<double>(wrong) <= (wanted + lattice) * 4 * (size.w + size.h) / 2 + 0.02 * size.w * size.h);
    }
}

TEST_CASE("see-through art has no shape, specks and holes are passed over", "[from-art]") {
    CHECK(shape_from_art(Image({16, 16}), 1).polygons.empty());
    Image ring({32, 32});
    for (int y = 4; y < 28; ++y)
        for (int x = 4; x < 28; ++x)
            if (x < 10 || y < 10 || x > 20 || y > 20) ring.set(x, y, {1, 2, 3, 255});
    ring.set(0, 0, {1, 2, 3, 255});
    const ArtShape read = shape_from_art(ring, 0.5);
    REQUIRE(read.polygons.size() == 1);
    CHECK(read.polygons[0] == level::Polygon{{2, 2}, {14, 2}, {14, 14}, {2, 14}});
}

TEST_CASE("convex parts are counted", "[from-art]") {
    CHECK(convex_count({}) == 0);
    CHECK(convex_count(level::polygons_of(TileShape::full)) == 1);
    CHECK(convex_count(level::polygons_of(TileShape::thick_se)) == 1);
    // An L is two, a plus three, two apart two.
    CHECK(convex_count({{{0, 0}, {8, 0}, {8, 8}, {16, 8}, {16, 16}, {0, 16}}}) == 2);
    CHECK(convex_count({{{0, 0}, {4, 0}, {4, 4}, {0, 4}}, {{8, 8}, {12, 8}, {12, 12}, {8, 12}}}) == 2);
    const int plus = convex_count(
        {{{6, 0}, {10, 0}, {10, 6}, {16, 6}, {16, 10}, {10, 10}, {10, 16}, {6, 16}, {6, 10}, {0, 10}, {0, 6}, {6, 6}}});
    CHECK(plus >= 3);
    CHECK(plus <= 5);
}
