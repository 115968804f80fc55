#include "sheet/islands.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "support/make.hpp"

using namespace vic;
using namespace vic::sheet;

namespace {

struct PropSheet {
    Image image;
    std::set<Box> boxes;
    int specks = 0;
};

void fill(Image& image, const Box& box, Rgba c) {
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x) image.set(x, y, c);
}

// Props in rows without a lattice: some in two or three parts a little apart, stray specks between them.
PropSheet prop_sheet(make::Random& random, bool opaque, int most_apart, int least_between, int specks) {
    PropSheet out;
    const Rgba ground = opaque ? Rgba{200, 210, 190, 255} : Rgba{};
    out.image = Image({260 + random.below(120), 220 + random.below(100)}, ground);
    int y = 4 + random.below(6);
    while (true) {
        const int row = 18 + random.below(34);
        if (y + row + 4 > out.image.height()) break;
        int x = 3 + random.below(8);
        while (true) {
            const Size size{10 + random.below(34), 10 + random.below(row - 9)};
            if (x + size.w + 3 > out.image.width()) break;
            const Box box{x, y + row - size.h, size.w, size.h};
            const Rgba c{static_cast<std::uint8_t>(30 + random.below(120)),
                         static_cast<std::uint8_t>(random.below(160)), 40, 255};
            const int apart = most_apart > 0 && random.flip(0.35) ? 1 + random.below(most_apart) : 0;
            if (apart > 0 && size.h > 3 * apart + 6) {
                const int upper = 3 + random.below(size.h - apart - 6);
                fill(out.image, {box.x, box.y, box.w, upper}, c);
                fill(out.image, {box.x, box.y + upper + apart, box.w, box.h - upper - apart}, c);
            } else {
                // A rounded thing: the corners are free, the box is not.
                fill(out.image, box, c);
                for (const Point corner : {Point{box.x, box.y}, Point{box.right() - 1, box.y},
                                           Point{box.x, box.bottom() - 1}, Point{box.right() - 1, box.bottom() - 1}})
                    out.image.set(corner.x, corner.y, ground);
            }
            out.boxes.insert(box);
            x += size.w + least_between + random.below(8);
        }
        y += row + least_between + random.below(6);
    }
    for (int i = 0; i < specks; ++i) {
        const Point p{random.below(out.image.width() - 3), random.below(out.image.height() - 3)};
        const Box near = Box{p.x, p.y, 2, 2}.grown(most_apart + 1);
        bool free = true;
        for (const Box& b : out.boxes) free = free && intersection(near, b).empty();
        if (!free) continue;
        fill(out.image, {p.x, p.y, 1 + random.below(2), 1 + random.below(2)}, {10, 10, 10, 255});
        ++out.specks;
    }
    return out;
}

std::set<Box> as_set(const std::vector<Box>& boxes) { return {boxes.begin(), boxes.end()}; }

} // namespace

TEST_CASE("islands are found on generated prop sheets without being told anything", "[islands]") {
    make::Random random(8);
    int right = 0;
    int all = 0;
    std::string wrong;
    for (int i = 0; i < 60; ++i) {
        const int apart = i % 3;
        const PropSheet sheet =
            prop_sheet(random, i % 4 == 3, apart, apart + 3 + random.below(3), i % 2 ? 2 + random.below(6) : 0);
        const IslandMap map(sheet.image);
        const bool good = as_set(map.boxes(map.proposed())) == sheet.boxes;
        right += good;
        ++all;
        if (!good)
            wrong += "sheet " + std::to_string(i) + ": parts up to " + std::to_string(apart) + " apart, " +
                     std::to_string(sheet.specks) + " specks: " + std::to_string(map.boxes(map.proposed()).size()) +
                     " instead of " + std::to_string(sheet.boxes.size()) + ", join gap " +
                     std::to_string(map.proposed().join_gap) + ", least area " +
                     std::to_string(map.proposed().least_area) + "\n";
    }
    INFO(right << " of " << all << "\n" << wrong);
    CHECK(right * 10 >= all * 9);
}

TEST_CASE("the join gap counts the pixels between two parts, diagonally too", "[islands]") {
    for (const Point step : {Point{1, 0}, Point{0, 1}, Point{1, 1}, Point{-1, 1}}) {
        for (int gap = 0; gap <= 12; ++gap) {
            Image image({80, 80});
            const Point a{40, 20};
            fill(image, {a.x, a.y, 4, 4}, {1, 2, 3, 255});
            const Point b{a.x + step.x * (4 + gap), a.y + step.y * (4 + gap)};
            fill(image, {b.x, b.y, 4, 4}, {1, 2, 3, 255});
            const IslandMap map(image);
            for (int join = 0; join <= 14; ++join) {
                INFO("step " << step.x << "," << step.y << " gap " << gap << " join " << join);
                CHECK(map.boxes({join, 1}).size() == (join >= gap ? 1U : 2U));
            }
        }
    }
}

TEST_CASE("more gap never makes more islands, more area never more, and every box holds pixels at its rim",
          "[islands]") {
    make::Random random(3);
    for (int round = 0; round < 20; ++round) {
        Image image({60, 50});
        for (int i = 0; i < 120; ++i) image.set(random.below(60), random.below(50), {9, 9, 9, 255});
        const IslandMap map(image);
        std::size_t before = 10000;
        for (int gap = 0; gap <= 10; ++gap) {
            const auto boxes = map.boxes({gap, 1});
            CHECK(boxes.size() <= before);
            before = boxes.size();
            CHECK(map.boxes({gap, 4}).size() + static_cast<std::size_t>(map.specks({gap, 4})) == boxes.size());
            int inside = 0;
            for (int y = 0; y < 50; ++y)
                for (int x = 0; x < 60; ++x)
                    if (image.at(x, y).a)
                        inside += std::any_of(boxes.begin(), boxes.end(), [&](const Box& b) {
                            return b.contains(Point{x, y});
                        });
            CHECK(inside ==
                  std::count_if(image.pixels().begin(), image.pixels().end(), [](Rgba c) { return c.a != 0; }));
            for (const Box& b : boxes) {
                bool sides[4] = {};
                for (int x = b.x; x < b.right(); ++x)
                    sides[0] |= image.at(x, b.y).a != 0, sides[1] |= image.at(x, b.bottom() - 1).a != 0;
                for (int y = b.y; y < b.bottom(); ++y)
                    sides[2] |= image.at(b.x, y).a != 0, sides[3] |= image.at(b.right() - 1, y).a != 0;
                CHECK((sides[0] && sides[1] && sides[2] && sides[3]));
            }
        }
    }
}

TEST_CASE("the dot in a ring belongs to the ring; an empty picture has no islands", "[islands]") {
    Image image({40, 40});
    fill(image, {5, 5, 30, 30}, {1, 1, 1, 255});
    fill(image, {8, 8, 24, 24}, {});
    fill(image, {18, 18, 3, 3}, {200, 1, 1, 255});
    const IslandMap map(image);
    CHECK(map.boxes({0, 1}) == std::vector<Box>{{5, 5, 30, 30}});
    CHECK(IslandMap(Image({30, 30})).boxes({0, 1}).empty());
    CHECK(IslandMap(Image()).boxes({0, 1}).empty());
    CHECK(IslandMap(Image({5, 5}, {9, 9, 9, 255})).boxes({0, 1}).empty()); // one colour: nothing stands out
}

TEST_CASE("islands come in reading order", "[islands]") {
    Image image({100, 60});
    const std::vector<Box> order{{2, 10, 10, 10}, {20, 4, 10, 16}, {40, 8, 20, 12}, {3, 30, 20, 20}, {50, 34, 10, 10}};
    for (const Box& b : order) fill(image, b, {1, 1, 1, 255});
    CHECK(IslandMap(image).boxes({0, 1}) == order);
}
