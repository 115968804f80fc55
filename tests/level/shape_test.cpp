#include <catch2/catch.hpp>
#include <set>

#include "level/shape.hpp"

using namespace vic;
using namespace vic::level;

namespace {
TileShape shape(int i) { return static_cast<TileShape>(i); }
} // namespace

TEST_CASE("every named shape turns into a named shape, by the corners of what it blocks", "[shape]") {
    for (int i = 0; i < kTileShapes; ++i)
        for (std::uint8_t code = 0; code < 8; ++code) {
            const Polygons& polygons = polygons_of(shape(i));
            if (polygons.empty()) continue;
            const TileShape other = turned(shape(i), {code});
            REQUIRE(other != TileShape::drawn);
            // The same corners, whichever is first.
            const Polygons by_corners = turned(polygons, {code});
            const std::set<Point> wanted(by_corners[0].begin(), by_corners[0].end());
            const std::set<Point> got(polygons_of(other)[0].begin(), polygons_of(other)[0].end());
            CHECK(got == wanted);
            CHECK(area2(by_corners[0]) == area2(polygons[0]));
            CHECK(area2(polygons[0]) > 0);
            CHECK(shape_trouble(polygons).empty());
        }
    std::set<TileShape> wedges;
    for (std::uint8_t code = 0; code < 8; ++code) wedges.insert(turned(TileShape::thin_se, {code}));
    CHECK(wedges.size() == 8);
    CHECK(wedges.contains(TileShape::steep_thin_nw));
    CHECK(turned(TileShape::thin_se, {4}) == TileShape::thin_sw);
    CHECK(turned(TileShape::half_north, {1}) == TileShape::half_east);
}

TEST_CASE("the two wedges of a pair make a slope of one in two", "[shape]") {
    // Thin, then thick, going up to the right: what they block together is a triangle of 2 × 1 cells.
    CHECK(area2(polygons_of(TileShape::thin_se)[0]) + area2(polygons_of(TileShape::thick_se)[0]) == 2 * 16 * 16);
    const Polygon& thin = polygons_of(TileShape::thin_se)[0];
    const Polygon& thick = polygons_of(TileShape::thick_se)[0];
    CHECK(std::count(thin.begin(), thin.end(), Point{16, 8}) == 1);
    CHECK(std::count(thick.begin(), thick.end(), Point{0, 8}) == 1);
    CHECK(std::count(thick.begin(), thick.end(), Point{16, 0}) == 1);
}

TEST_CASE("polygons that are a named shape get its name", "[shape]") {
    for (int i = 1; i < kTileShapes; ++i) {
        Polygons p = polygons_of(shape(i));
        if (p.empty()) continue;
        std::reverse(p[0].begin(), p[0].end());
        std::rotate(p[0].begin(), p[0].begin() + 1, p[0].end());
        p[0].insert(p[0].begin() + 1, {(p[0][0].x + p[0][1].x) / 2, (p[0][0].y + p[0][1].y) / 2});
        CHECK(named_shape(p) == shape(i));
        CHECK(p.empty());
    }
    Polygons own{{{0, 0}, {16, 5}, {3, 16}}};
    CHECK(named_shape(own) == TileShape::drawn);
    CHECK(own.size() == 1);
    Polygons nothing{{{0, 0}, {8, 8}, {16, 16}}};
    CHECK(named_shape(nothing) == TileShape::none);
}

TEST_CASE("what is no shape is refused with its reason", "[shape]") {
    CHECK(shape_trouble({{{0, 0}, {16, 0}, {16, 16}}}).empty());
    CHECK(shape_trouble({}).english().find("no corners") != std::string::npos);
    CHECK(shape_trouble({{{0, 0}, {16, 0}}}).english().find("three corners") != std::string::npos);
    CHECK(shape_trouble({{{0, 0}, {17, 0}, {4, 9}}}).english().find("17, 0") != std::string::npos);
    CHECK(shape_trouble({{{0, 0}, {8, 0}, {16, 0}}}).english().find("area") != std::string::npos);
    CHECK(shape_trouble({{{0, 0}, {16, 16}, {16, 0}, {0, 12}}}).english().find("crosses") != std::string::npos);
    CHECK(shape_trouble({{{0, 0}, {8, 0}, {4, 0}, {4, 9}}}).english().find("touches") != std::string::npos);
    CHECK(shape_trouble({{{0, 0}, {8, 0}, {8, 8}}, {{4, 2}, {12, 2}, {12, 9}}}).empty());
    Polygon many;
    for (int i = 0; i < 40; ++i) many.push_back({i % 2, i % 16});
    CHECK_FALSE(shape_trouble({many, many}).empty());
}
