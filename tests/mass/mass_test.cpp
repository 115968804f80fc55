// What pieces fill, merged in height: against what each of them fills by itself.
#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <utility>

#include "base/files.hpp"
#include "edit/own_word.hpp"
#include "edit/storeys.hpp"
#include "kit/made_house.hpp"
#include "kit/open_kit.hpp"
#include "mass/shell.hpp"
#include "mass/write_glb.hpp"
#include "support/make.hpp"

namespace {

using kit_test::House;
using namespace vic;

const char* const kNames[] = {"Wall 0x", "Wall 1x", "Wall 5x", "Wall 3x", "Wall 11x", "Wall 15x", "Hall", "Lean-to"};

// Two storeys with pieces here and there, in all turns; halls run into their neighbours.
House random_house(unsigned seed, double filled) {
    House house;
    make::Random random(seed);
    std::uint32_t next = house.project.next_id + 1000;
    house.level = edit::with_storey_above(house.level, 0, false, next);
    for (std::size_t layer = 0; layer < house.level.layers.size(); ++layer) {
        if (!house.level.layers[layer]->tiles()) continue;
        for (int y = 0; y < 10; ++y)
            for (int x = 0; x < 12; ++x)
                if (random.flip(filled)) house.lay({x, y}, kNames[random.below(8)], random.below(8), layer);
    }
    return house;
}

std::vector<scene::Placed> placed_in(const House& house) {
    return scene::placed_in(house.project, house.level, house.kits, level::kMostStorey);
}

// A piece's triangles where they stand, in 1/64 cells.
using Triangle = std::array<std::array<double, 3>, 3>;
std::vector<Triangle> standing(const House& house, const scene::Placed& p) {
    const scene::Model model = scene::model_of(*house.kit, p.piece);
    const scene::Placing by = scene::placing_of(p, house.kit->read.pieces[p.piece].cells, scene::Storeys(house.kits));
    std::vector<Triangle> out;
    for (std::size_t i = 0; i + 2 < model.corners.size(); i += 3) {
        Triangle t{};
        for (std::size_t k = 0; k < 3; ++k)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const auto& at = model.corners[i + k].at;
                t[k][axis] =
                    std::round(64.0 * (by[axis][0] * at[0] + by[axis][1] * at[1] + by[axis][2] * at[2] + by[axis][3]));
            }
        out.push_back(t);
    }
    return out;
}

// Whether a place lies in what triangles bound: how often they are met on the way up from it, one way and the other.
bool inside(const std::vector<Triangle>& triangles, double x, double y, double z) {
    int round = 0;
    for (const Triangle& t : triangles) {
        const auto side = [&](int a, int b) {
            const auto &p = t[static_cast<std::size_t>(a)], &q = t[static_cast<std::size_t>(b)];
            return (q[0] - p[0]) * (z - p[2]) - (q[2] - p[2]) * (x - p[0]);
        };
        const double a = side(1, 2), b = side(2, 0), c = side(0, 1), all = a + b + c;
        if (all == 0 || (a > 0) != (all > 0) || (b > 0) != (all > 0) || (c > 0) != (all > 0)) continue;
        if ((a * t[0][1] + b * t[1][1] + c * t[2][1]) / all > y) round += all > 0 ? 1 : -1;
    }
    return round != 0;
}

bool inside(const mass::Mass& mass, double x, double y, double z) {
    for (const mass::Slab& slab : mass.slabs) {
        if (y < slab.from || y > slab.to) continue;
        bool in = false;
        for (const outline::Outline& o : *slab.outlines)
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const Point a = o.points[i], b = o.points[(i + 1) % o.points.size()];
                if ((a.y > z) != (b.y > z) && x < a.x + (z - a.y) * (b.x - a.x) / (b.y - a.y)) in = !in;
            }
        if (in) return true;
    }
    return false;
}

// Sides of triangles without one that goes the other way.
int open_sides(const mass::Shell& shell) {
    std::map<std::pair<std::uint32_t, std::uint32_t>, int> sides;
    for (const auto& t : shell.triangles)
        for (std::size_t i = 0; i < 3; ++i) {
            const std::uint32_t a = t.corners[i], b = t.corners[(i + 1) % 3];
            sides[std::minmax(a, b)] += a < b ? 1 : -1;
        }
    int open = 0;
    for (const auto& [side, count] : sides) open += std::abs(count);
    return open;
}

std::int64_t volume6(const mass::Shell& shell) {
    std::int64_t sum = 0;
    for (const auto& t : shell.triangles) {
        const auto &a = shell.points[t.corners[0]], &b = shell.points[t.corners[1]], &c = shell.points[t.corners[2]];
        sum += std::int64_t{a[0]} * (std::int64_t{b[1]} * c[2] - std::int64_t{b[2]} * c[1]) +
               std::int64_t{a[1]} * (std::int64_t{b[2]} * c[0] - std::int64_t{b[0]} * c[2]) +
               std::int64_t{a[2]} * (std::int64_t{b[0]} * c[1] - std::int64_t{b[1]} * c[0]);
    }
    return sum;
}

} // namespace

TEST_CASE("what is merged fills what its pieces fill, and nothing else", "[mass]") {
    for (int round = 0; round < make::rounds(6, 100); ++round) {
        const House house = random_house(static_cast<unsigned>(round), 0.1 + 0.1 * (round % 6));
        const auto placed = placed_in(house);
        const mass::Mass mass = mass::merged(placed, house.kits, scene::Storeys(house.kits));
        std::vector<std::vector<Triangle>> pieces;
        for (const scene::Placed& p : placed) pieces.push_back(standing(house, p));
        make::Random random(static_cast<unsigned>(round) + 99);
        int wrong = 0, filled = 0;
        for (int i = 0; i < 2000; ++i) {
            // Within a cube of one unit, so that no face goes through it, and above no side of a triangle.
            const double x = random.below(14 * 64) - 63.487, y = random.below(3 * 64 + 20) - 9.5,
                         z = random.below(12 * 64) - 63.241;
            const bool truly =
                std::any_of(pieces.begin(), pieces.end(), [&](const auto& p) { return inside(p, x, y, z); });
            wrong += inside(mass, x, y, z) != truly;
            filled += truly;
        }
        CHECK(wrong == 0);
        CHECK(filled > 20);
        CHECK(mass.pieces == static_cast<int>(placed.size()));
        CHECK(mass.open == 0);
    }
}

TEST_CASE("the shell of what is merged is closed and holds as much", "[mass]") {
    for (int round = 0; round < make::rounds(8, 200); ++round) {
        const House house = random_house(static_cast<unsigned>(round) + 7, 0.1 * (1 + round % 9));
        const mass::Mass mass = mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits));
        const mass::Shell shell = mass::shell_of(mass);
        CHECK(open_sides(shell) == 0);
        CHECK(volume6(shell) == 3 * mass::volume2(mass));
        CHECK(volume6(shell) > 0);
    }
}

TEST_CASE("faces between pieces that touch are gone", "[mass]") {
    House house;
    for (int x = 2; x < 9; ++x) house.lay({x, 4}, "Wall 5x", 1);
    const mass::Mass mass = mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits));
    REQUIRE(mass.slabs.size() == 1);
    CHECK(mass.slabs[0].from == 0);
    CHECK(mass.slabs[0].to == 96);
    REQUIRE(mass.slabs[0].outlines->size() == 1);
    CHECK(mass.slabs[0].outlines->front().points.size() == 4);
    // A box: two triangles for each of its sides.
    CHECK(mass::shell_of(mass).triangles.size() == 12);
}

TEST_CASE("a wall is not cut where something else begins or ends at that height", "[mass]") {
    House house;
    for (int x = 2; x < 6; ++x) house.lay({x, 4}, "Wall 5x", 1);
    const auto shell = [&] {
        return mass::shell_of(mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits)));
    };
    const int alone = shell().polygons;
    CHECK(alone == 6);
    house.lay({9, 8}, "Lean-to"); // half as high, and far away
    const mass::Mass mass = mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits));
    CHECK(mass.slabs.size() == 2);
    CHECK(mass::walls_of(mass).size() == 2);
    CHECK(shell().polygons == 2 * alone);
    CHECK(open_sides(shell()) == 0);
}

TEST_CASE("a piece whose mesh is not closed is told, and the rest stands", "[mass]") {
    House house;
    house.lay({2, 2}, "Wall 15x");
    house.lay({4, 2}, "Lean-to");
    auto kit = std::make_shared<scene::LoadedKit>(*house.kit);
    for (kit::Body& body : kit->file.bodies)
        if (body.name == "Lean-to") {
            // A side of it is gone, from the ground up.
            body.mesh.triangles.erase(body.mesh.triangles.begin(), body.mesh.triangles.begin() + 2);
            body.mesh.finish.resize(body.mesh.triangles.size());
            body.mesh.node.resize(body.mesh.triangles.size());
        }
    house.kit = kit;
    house.kits = {kit};
    const mass::Mass mass = mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits));
    CHECK(mass.open == 1);
    CHECK(mass.pieces == 1);
    CHECK(inside(mass, 2 * 64 + 32, 40, 2 * 64 + 32));
    CHECK(open_sides(mass::shell_of(mass)) == 0); // what stands is closed all the same
}

TEST_CASE("a corner far away does not make a piece as large as the land", "[mass]") {
    House house;
    house.lay({2, 2}, "Wall 15x");
    auto kit = std::make_shared<scene::LoadedKit>(*house.kit);
    for (kit::Body& body : kit->file.bodies)
        if (body.name == "Wall 15x") body.mesh.points[0] = {9e5, 1, -9e5};
    house.kit = kit;
    house.kits = {kit};
    const mass::Mass mass = mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits));
    for (const mass::Slab& slab : mass.slabs)
        for (const outline::Outline& o : *slab.outlines)
            for (const Point p : o.points) CHECK((std::abs(p.x) < (1 << 15) && std::abs(p.y) < (1 << 15)));
}

TEST_CASE("a roof becomes steps that are not higher than they may be, and stays closed", "[mass]") {
    House house;
    // A wedge: as wide as its cell, up to one and a half metres in the north.
    kit::Body wedge;
    wedge.name = "Wedge";
    wedge.nodes = {"Wedge"};
    wedge.mesh.points = {{-1, 0, -1}, {1, 0, -1}, {1, 0, 1}, {-1, 0, 1}, {-1, 1.5, -1}, {1, 1.5, -1}};
    wedge.mesh.triangles = {{0, 1, 2}, {0, 2, 3}, {4, 3, 2}, {4, 2, 5}, {0, 4, 5}, {0, 5, 1}, {0, 3, 4}, {1, 5, 2}};
    wedge.mesh.finish.assign(8, 0);
    wedge.mesh.node.assign(8, 0);
    auto kit = std::make_shared<scene::LoadedKit>(*house.kit);
    for (kit::Body& body : kit->file.bodies)
        if (body.name == "Lean-to") body.mesh = wedge.mesh;
    house.kit = kit;
    house.kits = {kit};
    house.lay({3, 3}, "Lean-to");
    house.lay({4, 3}, "Lean-to", 1);
    const mass::Mass mass = mass::merged(placed_in(house), house.kits, scene::Storeys(house.kits));
    REQUIRE(mass.slabs.size() >= 6);
    for (const mass::Slab& slab : mass.slabs) CHECK(slab.to - slab.from <= mass::kStep);
    const mass::Shell shell = mass::shell_of(mass);
    CHECK(open_sides(shell) == 0);
    // Two wedges of 64 × 64 × 48 / 2 units, to what steps may be off in the middle of each.
    CHECK(std::abs(static_cast<double>(volume6(shell)) / 6 - 2 * 64.0 * 64 * 24) < 64.0 * 64 * 4);
}

TEST_CASE("a level is written as a file that is read again", "[mass][glb]") {
    House house = random_house(3, 0.3);
    std::uint32_t next = 9000;
    house.level =
        edit::with_own_word(house.level, level::Region(Box{1, 1, 1, 1}), edit::OwnWord::may_not_walk, "Own", next);
    const auto placed = placed_in(house);
    const std::string bytes = mass::level_glb(house.project, house.level, house.kits);
    CHECK(bytes == mass::level_glb(house.project, house.level, house.kits));
    const make::Folder dir;
    write_file(dir.path() / "level.glb", bytes);
    const kit::KitFile file = kit::open_kit(dir.path() / "level.glb");
    std::int64_t volume = 0, flat = 0, triangles = 0;
    for (const kit::Body& body : file.bodies)
        for (std::size_t i = 0; i < body.mesh.triangles.size(); ++i) {
            const std::string& node = body.nodes[body.mesh.node[i]];
            const bool is_flat = node.rfind("Flat ", 0) == 0;
            if (node.rfind("Blocks", 0) != 0 && !is_flat) {
                ++triangles;
                continue;
            }
            const auto& t = body.mesh.triangles[i];
            const kit::Vec a = body.mesh.points[t[0]], b = body.mesh.points[t[1]], c = body.mesh.points[t[2]];
            (is_flat ? flat : volume) +=
                std::llround(kit::dot(a, kit::cross(b, c)) * 32 * 32 * 32); // a cell is two metres
        }
    CHECK(std::abs(volume - 3 * mass::volume2(mass::merged(placed, house.kits, scene::Storeys(house.kits)))) < 50);
    // The ground carries, and a cell that is said to be closed blocks as high as a storey.
    const std::int64_t cell = 64 * 64;
    CHECK(std::abs(flat - 6 * (house.level.size.area() * cell * 16 + cell * 96)) < 50);
    std::int64_t all = 0;
    for (const scene::Placed& p : placed)
        all += static_cast<std::int64_t>(house.kit->file.bodies[p.piece].mesh.triangles.size());
    CHECK(triangles == all + 2); // the ground
    // A level without a piece has none.
    House empty;
    CHECK(mass::level_glb(empty.project, empty.level, empty.kits).empty());
}
