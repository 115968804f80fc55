#include <catch2/catch.hpp>

#include "base/chance.hpp"
#include "base/geometry.hpp"
#include "base/turn.hpp"
#include "support/make.hpp"

using namespace vic;

TEST_CASE("boxes intersect and unite as sets of cells do", "[base]") {
    make::Random random(1);
    for (int round = 0; round < 500; ++round) {
        const auto any = [&] {
            return Box{random.below(12) - 6, random.below(12) - 6, random.below(7), random.below(7)};
        };
        const Box a = any();
        const Box b = any();
        const Box both = intersection(a, b);
        const Box whole = united(a, b);
        for (int y = -8; y < 14; ++y)
            for (int x = -8; x < 14; ++x) {
                const Point p{x, y};
                CHECK(both.contains(p) == (a.contains(p) && b.contains(p)));
                if (a.contains(p) || b.contains(p)) CHECK(whole.contains(p));
            }
        if (!a.empty()) CHECK(whole.contains(a));
    }
}

TEST_CASE("spanning takes corners in any order", "[base]") {
    CHECK(spanning({3, 4}, {1, 9}) == Box{1, 4, 3, 6});
    CHECK(spanning({1, 9}, {3, 4}) == Box{1, 4, 3, 6});
    CHECK(spanning({2, 2}, {2, 2}) == Box{2, 2, 1, 1});
}

TEST_CASE("division rounds towards minus infinity", "[base]") {
    CHECK(floor_div(7, 4) == 1);
    CHECK(floor_div(-1, 4) == -1);
    CHECK(floor_div(-4, 4) == -1);
    CHECK(floor_div(-5, 4) == -2);
    CHECK(floor_div(0, 4) == 0);
}

namespace {
// A 3 x 3 picture that is different under all eight orientations, laid with a turn.
std::vector<int> laid(Turn t) {
    std::vector<int> out;
    for (int y = 0; y < 3; ++y)
        for (int x = 0; x < 3; ++x) {
            const Point p = source_pixel(t, {x, y}, 3);
            out.push_back(p.y * 3 + p.x);
        }
    return out;
}
} // namespace

TEST_CASE("the eight turns are eight different pictures", "[base]") {
    std::set<std::vector<int>> seen;
    for (std::uint8_t code = 0; code < 8; ++code) seen.insert(laid({code}));
    CHECK(seen.size() == 8);
}

TEST_CASE("turning right moves the upper left corner to the upper right", "[base]") {
    CHECK(laid(turned_right({0})) == std::vector<int>{6, 3, 0, 7, 4, 1, 8, 5, 2});
    for (std::uint8_t code = 0; code < 8; ++code) {
        const Turn t{code};
        CHECK(turned_left(turned_right(t)) == t);
        CHECK(turned_right(turned_right(turned_right(turned_right(t)))) == t);
        CHECK(mirrored(mirrored(t)) == t);
    }
}

TEST_CASE("mirroring flips what one sees, whatever the turn was", "[base]") {
    for (std::uint8_t code = 0; code < 8; ++code) {
        const auto before = laid({code});
        const auto after = laid(mirrored({code}));
        for (int y = 0; y < 3; ++y)
            for (int x = 0; x < 3; ++x)
                CHECK(after[static_cast<std::size_t>(y * 3 + x)] == before[static_cast<std::size_t>(y * 3 + 2 - x)]);
    }
}

TEST_CASE("sides and corners turn with the picture", "[base]") {
    // Of a 3 x 3 picture the middle of a side and the corners have known places.
    const Point sides[4] = {{1, 0}, {2, 1}, {1, 2}, {0, 1}};
    const Point corners[4] = {{2, 0}, {2, 2}, {0, 2}, {0, 0}};
    for (std::uint8_t code = 0; code < 8; ++code)
        for (int i = 0; i < 4; ++i) {
            CHECK(source_pixel({code}, sides[turned_side({code}, i)], 3) == sides[i]);
            CHECK(source_pixel({code}, corners[turned_corner({code}, i)], 3) == corners[i]);
        }
}

TEST_CASE("chance depends on the place and is even", "[base]") {
    std::vector<int> tally(10);
    for (int y = 0; y < 200; ++y)
        for (int x = 0; x < 200; ++x)
            ++tally[scaled(cell_hash(5, static_cast<std::uint32_t>(x), static_cast<std::uint32_t>(y)), 10)];
    for (const int n : tally) CHECK(std::abs(n - 4000) < 300);
    CHECK(place_hash(1, 2, 3) == place_hash(1, 2, 3));
    CHECK(place_hash(1, 2, 3) != place_hash(1, 3, 2));
    CHECK(place_hash(1, -2, 3) != place_hash(1, 2, 3));
}

TEST_CASE("neighbouring cells choose independently", "[base]") {
    // Repeats next to each other no oftener than chance would have it, in both directions.
    int across = 0, down = 0;
    for (std::uint32_t y = 0; y < 150; ++y)
        for (std::uint32_t x = 0; x < 150; ++x) {
            const auto here = scaled(cell_hash(9, x, y), 4);
            across += here == scaled(cell_hash(9, x + 1, y), 4);
            down += here == scaled(cell_hash(9, x, y + 1), 4);
        }
    CHECK(std::abs(across - 22500 / 4) < 400);
    CHECK(std::abs(down - 22500 / 4) < 400);
}
