// Pieces as they are drawn: as large as they are, where they are, and on one sheet.
#include "kit/draw.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "kit/made_kit.hpp"
#include "support/make.hpp"

using namespace kit_test;

namespace {

int opaque(const Image& image) {
    int out = 0;
    for (const Rgba c : image.pixels()) out += c.a == 255;
    return out;
}

Box covered(const Image& image) {
    Box out;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (image.at(x, y).a != 0) out = united(out, {x, y, 1, 1});
    return out;
}

} // namespace

TEST_CASE("from above a piece covers the pixels that it stands on, wherever its origin is", "[kit][draw]") {
    make::Random random(4);
    for (const Origin origin : {Origin::middle, Origin::corner})
        for (int i = 0; i < 60; ++i) {
            Kit kit;
            kit.origin = origin;
            kit.first_bit = -1;
            kit.all_walls(); // by which the module is read
            const auto at = [&] { return random.below(17) / 8.0 - 1; };
            double l = at(), r = at(), n = at(), s = at();
            if (l > r) std::swap(l, r);
            if (n > s) std::swap(n, s);
            if (r - l < 0.1 || s - n < 0.1) continue;
            kit.put("Crate", {l, 0, n}, {r, 1, s});
            Told told;
            told.width = 2;
            told.height = 3;
            told.origin = origin;
            const KitReading read = read_kit(kit.bodies, told);
            const std::size_t crate = kit.bodies.size() - 1;
            INFO(l << " " << r << " " << n << " " << s);
            REQUIRE(read.pieces[crate].cells == Size{1, 1});
            if (read.pieces[crate].shift != Vec{}) continue; // it is put right
            const Image image = from_above(kit.file(), read, crate, 32);
            REQUIRE(image.size() == Size{32, 32});
            const Box box = covered(image);
            const auto pixel = [](double metres) { return static_cast<int>(std::lround((metres + 1) * 16)); };
            CHECK(box == Box{pixel(l), pixel(n), pixel(r) - pixel(l), pixel(s) - pixel(n)});
            CHECK(opaque(image) == box.size().area());
        }
}

TEST_CASE("what is higher is lighter, and has a line round it on what lies below", "[kit][draw]") {
    Kit kit;
    kit.first_bit = -1;
    kit.all_walls();
    kit.put("Floor", {-1, -0.1, -1}, {1, 0, 1});
    const std::size_t floor = kit.bodies.size() - 1;
    kit.add(kit.bodies[floor].mesh, {-0.5, 0, -0.5}, {0.5, 2, 0.5});
    const KitReading read = read_kit(kit.bodies);
    const Image image = from_above(kit.file(), read, floor, 32);
    REQUIRE(image.size() == Size{32, 32});
    CHECK(opaque(image) == 32 * 32);
    CHECK(image.at(16, 16).r > image.at(2, 2).r);     // the block, and the floor
    CHECK(image.at(7, 16).r < image.at(2, 2).r - 30); // right beside it
    // A piece that has no module cannot be drawn.
    KitReading none = read;
    none.module = {};
    CHECK(from_above(kit.file(), none, floor, 32).empty());
    CHECK(from_above(kit.file(), read, floor, 0).empty());
}

TEST_CASE("aslant a piece lies in the middle, and a picture of its surface is seen on it", "[kit][draw]") {
    Kit kit;
    kit.put("Floor", {-1, -0.1, -1}, {1, 0, 1});
    KitFile file = kit.file();
    Image chequer({2, 2}, {255, 0, 0, 255});
    chequer.set(0, 0, {0, 0, 255, 255});
    chequer.set(1, 1, {0, 0, 255, 255});
    file.pictures.push_back(chequer);
    file.finishes[0] = {"tiles", {255, 255, 255, 255}, 0, false, false};
    for (const Vec v : file.bodies[0].mesh.points)
        file.bodies[0].mesh.uv.push_back({static_cast<float>(v.x + 1) / 2, static_cast<float>(v.z + 1) / 2});
    Told told;
    told.width = 2;
    const KitReading read = read_kit(file.bodies, told);
    for (int turn = 0; turn < 4; ++turn) {
        const Image image = aslant(file, read, 0, {80, 60}, turn);
        REQUIRE(image.size() == Size{80, 60});
        const Box box = covered(image);
        CHECK(std::abs(box.x - (80 - box.right())) <= 2);
        CHECK(std::abs(box.y - (60 - box.bottom())) <= 2);
        CHECK((box.w > 70 || box.h > 52));
    }
    const Image above = from_above(file, read, 0, 16);
    CHECK(above.at(3, 3).b > 150);
    CHECK(above.at(12, 3).r > 150);
    CHECK(above.at(3, 12).r > 150);
    CHECK(above.at(12, 12).b > 150);
    CHECK(aslant(file, read, 0, {}).empty());
}

TEST_CASE("on the sheet of a kit each piece has its cells, and keeps them when the kit grows", "[kit][draw]") {
    Kit kit;
    kit.first_bit = -1;
    kit.all_walls();
    kit.put("Hall", {-2, 0, -1}, {2, 3, 1});
    kit.floors(2);
    const auto drawn_of = [&](const std::vector<std::pair<std::string, Box>>& before) {
        const KitReading read = read_kit(kit.bodies);
        return draw_sheet(kit.file(), read, 16, before);
    };
    const Drawn first = drawn_of({});
    REQUIRE(first.places.size() == kit.bodies.size());
    const auto apart = [](const Drawn& drawn) {
        for (std::size_t i = 0; i < drawn.places.size(); ++i) {
            CHECK(drawn.places[i].x % 16 == 0);
            CHECK(drawn.places[i].y % 16 == 0);
            CHECK(intersection(drawn.places[i], box_of(drawn.image.size())) == drawn.places[i]);
            for (std::size_t j = 0; j < i; ++j) CHECK(intersection(drawn.places[i], drawn.places[j]).empty());
            for (const Box& turned : drawn.turned[i])
                for (const Box& other : drawn.places) CHECK(intersection(turned, other).empty());
        }
    };
    apart(first);
    CHECK(first.places[16].size() == Size{32, 16});
    CHECK(first.turned[16][0].size() == Size{16, 32});
    CHECK(first.turned[16][1].size() == Size{32, 16});
    CHECK(first.turned[0][0].empty()); // of one cell: its tile is turned itself
    // As it is turned to the right, pixel by pixel.
    for (int y = 0; y < 32; ++y)
        for (int x = 0; x < 16; ++x)
            REQUIRE(first.image.at(first.turned[16][0].x + x, first.turned[16][0].y + y) ==
                    first.image.at(first.places[16].x + y, first.places[16].y + 15 - x));
    // Another order, one gone, two more.
    std::vector<std::pair<std::string, Box>> before;
    for (std::size_t i = 0; i < kit.bodies.size(); ++i) before.emplace_back(kit.bodies[i].name, first.places[i]);
    std::swap(kit.bodies[0], kit.bodies[5]);
    kit.bodies.erase(kit.bodies.begin() + 2);
    kit.floors(4);
    const Drawn again = drawn_of(before);
    apart(again);
    for (std::size_t i = 0; i < kit.bodies.size(); ++i)
        for (const auto& [name, box] : before)
            if (name == kit.bodies[i].name && i < 18) CHECK(again.places[i] == box);
}
