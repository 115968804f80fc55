// What is read of kits: against kits that were made with a module, an origin, faults and codes that are known.
#include "kit/read_kit.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "kit/made_kit.hpp"
#include "kit/models.hpp"
#include "kit/read_gltf.hpp"
#include "support/make.hpp"

using namespace kit_test;

TEST_CASE("walls that are numbered by their neighbours are read, whatever the counting", "[kit][read-kit]") {
    for (const int first : {0, 1, 2, 3})
        for (const int step : {1, -1}) {
            Kit kit;
            kit.first_bit = first;
            kit.step = step;
            kit.all_walls();
            const KitReading read = read_kit(kit.bodies);
            CHECK(read.module == Module{2, 3});
            CHECK(read.origin == Origin::middle);
            REQUIRE(read.codes.size() == 1);
            CHECK(read.codes[0].stem == "wall_");
            CHECK_FALSE(read.codes[0].corners);
            CHECK_FALSE(read.codes[0].inverted);
            CHECK(read.codes[0].agree == 64);
            for (int side = 0; side < 4; ++side)
                CHECK(read.codes[0].bit_of_side[static_cast<std::size_t>(side)] == ((first + step * side) % 4 + 4) % 4);
            REQUIRE(read.couplings.size() == 1);
            CHECK(read.couplings[0].symmetric);
            CHECK(read.couplings[0].sides == 32);
        }
}

TEST_CASE("which bits are corners is told by the meshes, whatever comes first", "[kit][read-kit]") {
    // Numbered by sides, then corners, these from any of them either way round: dykes whose corners are filled in.
    const std::array<int, 4> sides{0, 1, 2, 3};
    for (int first = 0; first < 4; ++first)
        for (const int step : {1, 3}) {
            std::array<int, 4> corners{};
            for (int i = 0; i < 4; ++i) corners[static_cast<std::size_t>(i)] = 4 + (first + step * i) % 4;
            Kit kit;
            const double t = kit.thick / 2, h = kit.width / 2;
            for (int mask = 0; mask < 256; ++mask) { // sides in bits 0 .. 3, corners from the north-east in 4 .. 7
                int number = mask & 15;
                bool all = true;
                for (int corner = 0; corner < 4; ++corner) {
                    const bool there = (mask >> (4 + corner) & 1) != 0;
                    all = all && (!there || ((mask >> corner & 1) && (mask >> ((corner + 1) % 4) & 1)));
                    if (there) number |= 1 << corners[static_cast<std::size_t>(corner)];
                }
                if (!all) continue; // a corner counts between sides that meet
                kit.wall("dyke_" + std::to_string(number), static_cast<unsigned>(mask) & 15U);
                Mesh& mesh = kit.bodies.back().mesh;
                const double x[] = {t, t, -h, -h}, z[] = {-h, t, t, -h};
                for (std::size_t corner = 0; corner < 4; ++corner)
                    if (mask >> (4 + corner) & 1)
                        kit.add(mesh, {x[corner], 0, z[corner]}, {x[corner] + h - t, kit.height, z[corner] + h - t});
            }
            REQUIRE(kit.bodies.size() == 47);
            const KitReading read = read_kit(kit.bodies);
            REQUIRE(read.codes.size() == 1);
            CHECK(read.codes[0].taken);
            CHECK(read.codes[0].corners);
            CHECK(read.codes[0].bit_of_side == sides);
            REQUIRE(read.codes[0].bit_of_corner);
            CHECK(*read.codes[0].bit_of_corner == corners);
            CHECK(read.codes[0].corners_of > 20);
            CHECK(read.codes[0].corners_agree == read.codes[0].corners_of);
        }
}

TEST_CASE("a floor that floats, a roof that sticks out and a stair of two storeys are told", "[kit][read-kit]") {
    Kit kit;
    kit.first_bit = -1;
    kit.all_walls();
    kit.floors(3);
    kit.put("Floor off", {-1, -0.1, -1}, {1, 0, 1}, {0, 0.004, 0});
    kit.put("Wall aside", {-1, 0, -0.1}, {1, 3, 0.1}, {0.012, 0, 0});
    kit.put("Tower", {-1, 0, -1}, {1, 6, 1});
    kit.put("Hall", {-2, 0, -1}, {2, 3, 1});
    const KitReading read = read_kit(kit.bodies);
    CHECK(read.module == Module{2, 3});
    CHECK(std::none_of(read.codes.begin(), read.codes.end(), [](const Codes& c) { return c.taken; }));
    const auto of = [&](const char* name) -> const PieceReading& {
        for (std::size_t i = 0; i < kit.bodies.size(); ++i)
            if (kit.bodies[i].name == name) return read.pieces[i];
        FAIL(name);
        return read.pieces[0];
    };
    CHECK(of("Floor off").shift.y == Approx(-0.004));
    CHECK(of("Floor a").shift == Vec{});
    CHECK(of("Floor a").fills);
    CHECK(of("Wall aside").shift.x == Approx(-0.012));
    CHECK(of("Tower").storeys == 2);
    CHECK(of("Hall").cells == Size{2, 1});
    CHECK(read.reasons.size() >= 5);
    std::size_t at = 0;
    while (kit.bodies[at].name != "Floor off") ++at;
    for (const Vec v : as_read(kit.bodies[at], read, at).points)
        CHECK((std::abs(v.y) < 1e-9 || std::abs(v.y + 0.1) < 1e-9));
}

TEST_CASE("what sticks out is told by the rims that lie where they should", "[kit][read-kit]") {
    Kit kit;
    kit.first_bit = -1;
    kit.open = true;
    kit.all_walls();
    kit.floors(2);
    kit.wall("Eaves", 10); // from west to east, with a ledge in front
    kit.add(kit.bodies.back().mesh, {-0.5, 2.8, 0.1}, {0.5, 3, 0.45});
    const KitReading read = read_kit(kit.bodies);
    CHECK(read.module == Module{2, 3});
    CHECK(read.pieces.back().couplings[1] != 0);
    CHECK(read.pieces.back().couplings[1] == read.pieces.back().couplings[3]);
    CHECK(read.pieces.back().couplings[0] == 0);
}

TEST_CASE("a rim with a step in it couples with its other half", "[kit][read-kit]") {
    Kit kit;
    kit.first_bit = -1;
    kit.all_walls();
    // Stairs go up along x: west low, east high, and a landing for each.
    kit.put("Low", {-1, 0, -0.9}, {1, 1, 0.4});
    kit.put("Low turned", {-0.4, 0, -1}, {0.9, 1, 1});
    const KitReading read = read_kit(kit.bodies);
    const PieceReading &a = read.pieces[16], &b = read.pieces[17];
    REQUIRE(a.couplings[1] != 0);
    const Coupling& c = read.couplings[static_cast<std::size_t>(a.couplings[1] - 1)];
    CHECK_FALSE(c.symmetric);
    CHECK(c.sides == 4);
    // East and west of the one fit to one another; and to the turned one where its gap is on the same hand.
    CHECK(a.couplings[1] == a.couplings[3]);
    CHECK(a.mirrored[1] != a.mirrored[3]);
    CHECK(b.couplings[0] == a.couplings[1]);
    CHECK(b.mirrored[0] != b.mirrored[2]);
}

TEST_CASE("of twenty kits with planted faults nineteen are read right", "[kit][read-kit]") {
    make::Random random(20);
    int right = 0;
    std::string wrong;
    for (int i = 0; i < 20; ++i) {
        Kit kit;
        static constexpr double widths[] = {1, 2, 2.5, 3, 4, 0.5}, heights[] = {2, 2.5, 3, 3.5, 4};
        kit.width = widths[random.below(6)];
        kit.height = heights[random.below(5)] * (kit.width < 1 ? 0.5 : 1);
        kit.thick = kit.width * (0.05 + 0.05 * random.below(4));
        kit.origin = random.flip() ? Origin::corner : Origin::middle;
        kit.open = random.flip();
        kit.first_bit = random.below(5) - 1;
        kit.step = random.flip() ? 1 : -1;
        kit.all_walls();
        kit.floors(1 + random.below(5));
        const double off = 0.001 * (1 + random.below(20)), h = kit.width / 2;
        kit.put("Plank", {-h, -0.05, -h}, {h, 0, h}, {0, off, 0});
        const std::size_t floats = kit.bodies.size() - 1;
        // What is on no lattice: a barrel, a post, a sign.
        for (int k = 0; k < random.below(4); ++k)
            kit.put("Thing " + std::string(1, static_cast<char>('a' + k)), {-0.13 * kit.width, 0, -0.17 * kit.width},
                    {0.16 * kit.width, 0.31 * kit.height, 0.14 * kit.width});
        // Given in any order, and as a file.
        std::shuffle(kit.bodies.begin() + 5, kit.bodies.end() - 6, random.engine);
        const KitReading read = read_kit(kit.bodies);
        bool good = std::abs(read.module.width - kit.width) < 1e-6 &&
                    std::abs(read.module.height - kit.height) < 1e-6 && read.origin == kit.origin &&
                    !read.couplings.empty() && !read.z_up;
        for (std::size_t p = 0; p < kit.bodies.size(); ++p)
            if (kit.bodies[p].name == "Plank") good = good && std::abs(read.pieces[p].shift.y + off) < 1e-6;
        good = good && floats < kit.bodies.size();
        if (kit.first_bit >= 0) {
            good = good && read.codes.size() == 1;
            for (int side = 0; side < 4 && good; ++side)
                good = good && read.codes[0].bit_of_side[static_cast<std::size_t>(side)] ==
                                   ((kit.first_bit + kit.step * side) % 4 + 4) % 4;
        } else {
            good = good && read.codes.empty();
        }
        right += good;
        if (!good) wrong += " " + std::to_string(i);
    }
    INFO("wrong:" << wrong);
    CHECK(right >= 19);
}

TEST_CASE("a thing as long as a street may not be in metres", "[kit][read-kit]") {
    const auto doubted = [](double long_side) {
        Kit kit;
        kit.put("Boat", {-long_side / 2, 0, -long_side / 6}, {long_side / 2, long_side / 5, long_side / 6});
        Told told;
        told.width = 1; // as for any thing in a project that has no kit yet
        const KitReading read = read_kit(kit.bodies, told);
        CHECK(read.things);
        return std::any_of(read.reasons.begin(), read.reasons.end(), [](const Text& reason) {
            return reason.english().find("does not count metres") != std::string::npos;
        });
    };
    CHECK(doubted(460.5)); // 4.605 m in centimetres
    CHECK_FALSE(doubted(4.605));
}

TEST_CASE("nothing is read of nothing", "[kit][read-kit]") {
    CHECK(read_kit({}).module == Module{});
    Body flat;
    flat.name = "Flat";
    CHECK(read_kit({flat, flat}).module == Module{});
    CHECK(read_kit({flat, flat}).pieces.size() == 2);
}

TEST_CASE("a file with z up is read as if it had been turned", "[kit][read-kit]") {
    Kit kit;
    kit.first_bit = -1;
    for (const char* name : {"Wall a", "Wall b", "Wall c", "Wall d"}) kit.put(name, {-1, 0, -0.1}, {1, 3, 0.1});
    kit.floors(4);
    const KitReading upright = read_kit(kit.bodies);
    for (Body& b : kit.bodies)
        for (Vec& v : b.mesh.points) v = {v.x, -v.z, v.y};
    const KitReading lying = read_kit(kit.bodies);
    CHECK_FALSE(upright.z_up);
    CHECK(lying.z_up);
    CHECK(lying.module == upright.module);
    CHECK(lying.module == Module{2, 3});
}
