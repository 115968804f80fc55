// What one cell of a tile layer holds, in 32 bits.
#pragma once

#include <cstdint>

#include "base/turn.hpp"

namespace vic::level {

using TileId = std::uint32_t;    // 1 .. 2^24 - 1 over the whole project; 0 is "no tile"
using MaterialId = std::uint8_t; // 1 .. 255 over the whole project; 0 is "no material"

inline constexpr TileId kMostTiles = (1U << 24) - 1;

// Bits 0-23 tile, 24-26 turn, 27 pinned; the rest are zero.
struct Cell {
    std::uint32_t bits = 0;

    Cell() = default;
    explicit constexpr Cell(std::uint32_t b) : bits(b) {}
    Cell(TileId tile, Turn turn, bool pinned)
        : bits((tile & kMostTiles) | (std::uint32_t{turn.code} << 24) | (pinned ? 1U << 27 : 0U)) {}

    [[nodiscard]] TileId tile() const { return bits & kMostTiles; }
    [[nodiscard]] Turn turn() const { return {static_cast<std::uint8_t>((bits >> 24) & 7U)}; }
    [[nodiscard]] bool pinned() const { return (bits & (1U << 27)) != 0; }
    [[nodiscard]] bool empty() const { return tile() == 0; }
    bool operator==(const Cell&) const = default;
};

} // namespace vic::level
