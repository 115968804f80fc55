#include <catch2/catch.hpp>
#include <set>

#include "join/mask.hpp"

using namespace vic;
using namespace vic::join;
using level::JoinKind;

TEST_CASE("there are 1, 16, 16 and 47 cases", "[mask]") {
    CHECK(cases(JoinKind::plain).size() == 1);
    CHECK(cases(JoinKind::edges).size() == 16);
    CHECK(cases(JoinKind::corners).size() == 16);
    CHECK(cases(JoinKind::full).size() == 47);
}

TEST_CASE("canonical masks are their own canonical mask", "[mask]") {
    for (const JoinKind kind : {JoinKind::plain, JoinKind::edges, JoinKind::corners, JoinKind::full})
        for (int m = 0; m < 256; ++m) {
            const Mask c = canonical(static_cast<Mask>(m), kind);
            CHECK(canonical(c, kind) == c);
            CHECK(std::binary_search(cases(kind).begin(), cases(kind).end(), c));
        }
}

TEST_CASE("of the full kind a corner counts only between two joined sides", "[mask]") {
    CHECK(canonical(kN | kNE, JoinKind::full) == kN);
    CHECK(canonical(kN | kNE | kE, JoinKind::full) == (kN | kNE | kE));
    CHECK(canonical(kNW | kW | kN, JoinKind::full) == (kNW | kW | kN));
    CHECK(canonical(kCorners, JoinKind::full) == 0);
    CHECK(canonical(255, JoinKind::full) == 255);
    CHECK(canonical(255, JoinKind::edges) == kSides);
    CHECK(canonical(255, JoinKind::corners) == 255);
    CHECK(canonical(kN | kNE | kE | kW, JoinKind::corners) == (kN | kNE | kE)); // a side counts with its corner only
    CHECK(canonical(kNE, JoinKind::corners) == 0);                              // and a corner with both its sides
    CHECK(of_corners(kNE | kSW) == (kN | kNE | kE | kS | kSW | kW));
    for (const Mask m : cases(JoinKind::corners)) CHECK(of_corners(m & kCorners) == m);
}

TEST_CASE("bits go clockwise from north", "[mask]") {
    CHECK(kNeighbour[0] == Point{0, -1});
    CHECK(kNeighbour[2] == Point{1, 0});
    CHECK(kNeighbour[5] == Point{-1, 1});
    for (std::size_t i = 0; i < 8; ++i) CHECK(kNeighbour[i] + kNeighbour[(i + 4) % 8] == Point{0, 0});
}

TEST_CASE("cases read as words", "[mask]") {
    CHECK(describe(255).english() == "joined all round");
    CHECK(describe(0).english() == "alone");
    CHECK(describe(kN | kE | kS | kW, JoinKind::edges).english() == "joined all round");
    CHECK(describe(kN | kE | kS, JoinKind::edges).english() == "open to the west");
    CHECK(describe(255 & ~kNE, JoinKind::full).english() == "inner corner north-east");
    CHECK(describe(kE | kS | kW).english() == "open to the north, inner corner south-east and south-west");
    CHECK(describe(255 & ~kNE).english() == "inner corner north-east");
    std::set<std::string> texts;
    for (const Mask m : cases(JoinKind::full)) texts.insert(describe(m).english());
    CHECK(texts.size() == 47);
    CHECK(joined_sides(kN | kS | kNE) == 2);
}

TEST_CASE("coverage counts cases that can be chosen", "[mask]") {
    level::JoinSet set;
    set.kind = JoinKind::full;
    set.cases[0] = {{1, 100}};
    set.cases[1] = {{2, 0}, {3, 0}};
    set.cases[255] = {{4, 0}, {5, 10}};
    const Coverage c = coverage(set);
    CHECK(c.have == 2);
    CHECK(c.of == 47);
}

TEST_CASE("cases of corners are told apart in words and by number", "[mask]") {
    std::set<std::string> words;
    for (const Mask m : cases(JoinKind::corners)) words.insert(describe(m).english());
    CHECK(words.size() == 16);
    CHECK(describe(255).english() == "joined all round");
    CHECK(describe(of_corners(kNE | kSW)).english() == "inner corner south-east and north-west");
    CHECK(describe(0).english() == "alone");
    CHECK(joined_corners(kNE | kSW | kS) == 2);
}

TEST_CASE("a turned mask is what the neighbours are seen as from the turned tile", "[mask]") {
    for (std::uint8_t code = 0; code < 8; ++code) {
        const Turn turn{code};
        for (unsigned i = 0; i < 8; ++i) {
            // The middle of a 3 x 3 picture and the neighbour in it, turned with the picture.
            const Mask now = turned(static_cast<Mask>(1U << i), turn);
            std::set<Point> seen;
            for (int y = 0; y < 3; ++y)
                for (int x = 0; x < 3; ++x)
                    if (source_pixel(turn, {x, y}, 3) == Point{1, 1} + kNeighbour[i]) seen.insert({x - 1, y - 1});
            REQUIRE(seen.size() == 1);
            for (unsigned k = 0; k < 8; ++k) CHECK(((now >> k) & 1) == (kNeighbour[k] == *seen.begin()));
        }
        // One turn after another is one turn.
        for (std::uint8_t second = 0; second < 8; ++second)
            for (const Mask m : {Mask{kN | kNE}, Mask{kE | kS | kNW}, Mask{kSW}})
                CHECK(turned(turned(m, turn), {second}) == turned(m, after(turn, {second})));
    }
}

TEST_CASE("a case is served by its own tile, else by a turned one the set allows", "[mask]") {
    level::JoinSet set;
    set.kind = JoinKind::edges;
    set.cases[kN] = {{7, 50, {}}};
    set.cases[0] = {{8, 0, {}}}; // no weight: no tile
    CHECK(serving(set, kE).empty());
    CHECK(serving(set, 0).empty());
    set.turns = level::kQuarterTurns;
    const auto east = serving(set, kE);
    REQUIRE(east.size() == 1);
    CHECK(east.front().tile == 7);
    CHECK(east.front().weight == 50);
    CHECK(turned(kN, east.front().turn) == kE);
    CHECK(coverage(set).have == 4);
    CHECK(coverage(set).drawn == 1);
    CHECK(coverage(set).of == 16);
    // Six tiles turned are all sixteen cases of edges, fifteen are all forty-seven.
    for (const auto& [kind, least] : {std::pair{JoinKind::edges, 6}, std::pair{JoinKind::full, 15}}) {
        level::JoinSet few;
        few.kind = kind;
        few.turns = level::kQuarterTurns;
        level::TileId id = 1;
        for (const Mask m : cases(kind))
            if (serving(few, m).empty()) few.cases[m] = {{id++, 100, {}}};
        CHECK(coverage(few).drawn == least);
        CHECK(coverage(few).have == coverage(few).of);
    }
}
