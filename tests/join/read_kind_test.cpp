#include <catch2/catch.hpp>

#include "join/read_kind.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;
using level::JoinKind;

namespace {

// Tiles of a lattice of corners: each quarter has the material or not, and the border between is wavy.
std::vector<Image> corner_tiles(int side, unsigned seed, bool see_through) {
    make::Random random(seed);
    std::vector<Image> out;
    for (const Mask mask : cases(JoinKind::corners)) {
        Image tile({side, side});
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x) {
                const bool east = x >= side / 2, south = y >= side / 2;
                const Mask bit = east ? (south ? kSE : kNE) : (south ? kSW : kNW);
                const auto grain = static_cast<std::uint8_t>(random.below(24));
                if (mask & bit)
                    tile.set(x, y, {static_cast<std::uint8_t>(170 + grain), 120, 60, 255});
                else if (!see_through)
                    tile.set(x, y, {40, static_cast<std::uint8_t>(90 + grain), 120, 255});
            }
        out.push_back(std::move(tile));
    }
    return out;
}

std::vector<Image> edge_tiles(int side, make::Style style, unsigned seed) {
    std::vector<Mask> drawn;
    for (const Mask m : cases(JoinKind::edges)) {
        Mask with = m;
        for (int c = 1; c < 8; c += 2)
            if ((m & (1 << (c - 1))) && (m & (1 << ((c + 1) % 8)))) with = static_cast<Mask>(with | (1 << c));
        drawn.push_back(with);
    }
    return make::tiles(drawn, side, style, seed);
}

} // namespace

TEST_CASE("the kind a sheet was drawn for is told from its art", "[read-joins][kind]") {
    for (const make::Style style :
         {make::Style::outlined, make::Style::textured, make::Style::noisy, make::Style::see_through})
        for (const int side : {16, 24, 32}) {
            INFO("style " << static_cast<int>(style) << ", side " << side);
            CHECK(read_kinds(make::tiles(cases(JoinKind::full), side, style, 3)).front().kind == JoinKind::full);
            CHECK(read_kinds(edge_tiles(side, style, 4)).front().kind == JoinKind::edges);
        }
    for (const int side : {16, 24, 32}) {
        const auto read = read_kinds(corner_tiles(side, 5, true));
        CHECK(read.front().kind == JoinKind::corners);
        CHECK(read_kinds(corner_tiles(side, 6, false)).front().kind == JoinKind::corners);
    }
}

TEST_CASE("a few variants do not change the kind, and nothing at all has no fit", "[read-joins][kind]") {
    auto tiles = make::tiles(cases(JoinKind::full), 16, make::Style::textured, 3);
    const auto more = make::tiles({255, 255, 255, kSides}, 16, make::Style::textured, 9);
    tiles.insert(tiles.end(), more.begin(), more.end());
    const auto read = read_kinds(tiles);
    CHECK(read.front().kind == JoinKind::full);
    CHECK(read.front().fit < 1);
    CHECK(read.front().fit > 0.8);
    CHECK(read_kinds({}).front().fit <= 0);
    CHECK(proposed_kind({}) == JoinKind::full);
    CHECK(proposed_kind(corner_tiles(16, 5, true)) == JoinKind::corners);
}
