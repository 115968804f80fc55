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
    CHECK(canonical(255, JoinKind::corners) == kCorners);
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
    CHECK(describe(kCorners).english() == "joined at all corners");
    CHECK(describe(kNE | kSW).english().find("north-east") != std::string::npos);
    CHECK(describe(0).english() == "alone");
    CHECK(joined_corners(kNE | kSW | kS) == 2);
}
