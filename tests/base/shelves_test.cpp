// Boxes on shelves: none over another, all within the width, whatever their sizes.
#include "base/shelves.hpp"

#include <algorithm>
#include <catch2/catch.hpp>

#include "support/make.hpp"

using namespace vic;

TEST_CASE("boxes on shelves lie apart and within", "[shelves]") {
    make::Random random(5);
    for (int round = 0; round < 60; ++round) {
        const int gap = random.below(3);
        const int top = random.below(50);
        std::vector<Size> sizes;
        for (int i = random.below(40); i >= 0; --i) sizes.push_back({1 + random.below(90), 1 + random.below(90)});
        const int width = shelf_width(sizes, 64, gap);
        const Shelves shelves = on_shelves(sizes, width, gap, top);
        REQUIRE(shelves.corners.size() == sizes.size());
        int lowest = 0;
        for (std::size_t i = 0; i < sizes.size(); ++i) {
            const Box box{shelves.corners[i].x, shelves.corners[i].y, sizes[i].w, sizes[i].h};
            CHECK(box.x >= 0);
            CHECK(box.right() <= width);
            CHECK(box.y >= top);
            lowest = std::max(lowest, box.bottom());
            for (std::size_t j = 0; j < i; ++j) {
                const Box other{shelves.corners[j].x, shelves.corners[j].y, sizes[j].w, sizes[j].h};
                CHECK(intersection(Box{box.x - gap, box.y - gap, box.w + 2 * gap, box.h + 2 * gap}, other).empty());
            }
        }
        CHECK(shelves.height == lowest - top);
    }
    CHECK(on_shelves({}, 64, 1).height == 0);
}
