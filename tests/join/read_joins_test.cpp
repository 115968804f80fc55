#include <catch2/catch.hpp>

#include "join/read_joins.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;
using level::JoinKind;

namespace {
const make::Style kRead[] = {make::Style::outlined, make::Style::textured, make::Style::noisy,
                             make::Style::see_through};
}

TEST_CASE("masks are read from the art, whatever order and size", "[read-joins]") {
    make::Random random(3);
    int right = 0, all = 0;
    std::string wrong;
    for (const make::Style style : kRead) {
        for (const int side : {8, 16, 24, 32, 64}) {
            auto order = cases(JoinKind::full);
            std::shuffle(order.begin(), order.end(), random.engine);
            const JoinReading r =
                read_joins(make::tiles(order, side, style, static_cast<unsigned>(side)), JoinKind::full);
            REQUIRE(r.tiles.size() == 47);
            for (const auto& t : r.tiles) {
                ++all;
                const bool good = t.mask == order[static_cast<std::size_t>(t.index)];
                right += good;
                if (!good)
                    wrong += "style " + std::to_string(static_cast<int>(style)) + " side " + std::to_string(side) +
                             ": " + describe(order[static_cast<std::size_t>(t.index)]).english() + " read as " +
                             describe(t.mask).english() + "\n";
            }
        }
    }
    INFO(right << " of " << all << "\n" << wrong);
    CHECK(right * 100 >= all * 98);
}

TEST_CASE("edges alone are read with sides only", "[read-joins]") {
    for (const make::Style style : kRead) {
        const auto& order = cases(JoinKind::edges);
        std::vector<Mask> drawn;
        // A set of edges is drawn as if all corners between joined sides were joined.
        for (const Mask m : order) {
            Mask with = m;
            for (int c = 1; c < 8; c += 2)
                if ((m & (1 << (c - 1))) && (m & (1 << ((c + 1) % 8)))) with = static_cast<Mask>(with | (1 << c));
            drawn.push_back(with);
        }
        const JoinReading r = read_joins(make::tiles(drawn, 16, style, 5), JoinKind::edges);
        int right = 0;
        for (const auto& t : r.tiles) right += t.mask == order[static_cast<std::size_t>(t.index)];
        CHECK(right == 16);
        CHECK(r.missing.empty());
    }
}

TEST_CASE("missing and doubled cases are listed", "[read-joins]") {
    auto order = cases(JoinKind::full);
    order.erase(std::find(order.begin(), order.end(), Mask{255 & ~kSW}));
    order.push_back(255);
    order.push_back(kN);
    const JoinReading r = read_joins(make::tiles(order, 16, make::Style::outlined, 1), JoinKind::full);
    CHECK(r.missing == std::vector<Mask>{255 & ~kSW});
    REQUIRE(r.doubled.size() == 2);
    std::set<Mask> twice{r.doubled[0].mask, r.doubled[1].mask};
    CHECK(twice == std::set<Mask>{kN, 255});
    for (const auto& d : r.doubled) CHECK(d.indices.size() == 2);
}

TEST_CASE("blank tiles are left out, and a sheet of nothing reads as nothing", "[read-joins]") {
    auto tiles = make::tiles(cases(JoinKind::full), 16, make::Style::outlined, 1);
    tiles.insert(tiles.begin() + 3, Image({16, 16}));
    const JoinReading r = read_joins(tiles, JoinKind::full);
    CHECK(r.tiles.size() == 47);
    for (const auto& t : r.tiles) CHECK(t.index != 3);
    CHECK(r.missing.empty());
    const JoinReading none = read_joins({Image({16, 16}), Image({16, 16})}, JoinKind::full);
    CHECK(none.tiles.empty());
    CHECK(none.missing.size() == 47);
    CHECK(read_joins({}, JoinKind::edges).missing.size() == 16);
}

TEST_CASE("the designer may name the centre", "[read-joins]") {
    const auto& order = cases(JoinKind::full);
    const auto tiles = make::tiles(order, 16, make::Style::outlined, 1);
    const int centre = static_cast<int>(std::find(order.begin(), order.end(), Mask{255}) - order.begin());
    CHECK(read_joins(tiles, JoinKind::full).centre == centre);
    CHECK(read_joins(tiles, JoinKind::full, 5).centre == 5);
}

TEST_CASE("a tile between inside and outside is doubted, not guessed in silence", "[read-joins]") {
    auto tiles = make::tiles(cases(JoinKind::full), 16, make::Style::textured, 1);
    // The upper rim half one thing, half the other.
    Image odd = make::tile(255, 16, make::Style::textured, 99);
    for (int x = 0; x < 8; ++x)
        for (int y = 0; y < 3; ++y) odd.set(x, y, {190, 160, 110, 255});
    tiles.push_back(odd);
    const JoinReading r = read_joins(tiles, JoinKind::full);
    bool doubted = false;
    for (const auto& d : r.doubtful)
        doubted = doubted || (d.index == 47 && d.why.english().find("north") != std::string::npos);
    CHECK(doubted);
}

TEST_CASE("confidence is a share", "[read-joins]") {
    for (const make::Style style : kRead)
        for (const auto& t : read_joins(make::tiles(cases(JoinKind::full), 16, style, 2), JoinKind::full).tiles) {
            CHECK(t.confidence >= 0);
            CHECK(t.confidence <= 1);
        }
}

TEST_CASE("reading ends soon after it is told to", "[read-joins]") {
    // Tiles that leave much open are read in all ways.
    make::Random random(3);
    std::vector<Image> tiles;
    for (int i = 0; i < 300; ++i) {
        Image tile({16, 16});
        for (int y = 0; y < 16; ++y)
            for (int x = 0; x < 16; ++x)
                tile.set(x, y, {static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(i), 90, 255});
        tiles.push_back(tile);
    }
    for (const JoinKind kind : {JoinKind::full, JoinKind::corners}) {
        int asked = 0;
        read_joins(tiles, kind, {}, [&] { return ++asked < 0; });
        const int all = asked;
        REQUIRE(all > 3000);
        for (const int at : {1, all / 4, all / 2, all - 1}) {
            asked = 0;
            CHECK_THROWS_AS(read_joins(tiles, kind, {}, [&] { return ++asked >= at; }), vic::Stopped);
            CHECK(asked == at);
        }
    }
}
