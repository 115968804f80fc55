// Thresholds that are spread over the plane: places next to each other have values far apart, all values come equally
// often, and no lines or diagonals show.
#pragma once

#include <cstdint>

namespace vic {

// 0 .. 2^32 - 1 for a place; evenly distributed. The pattern repeats every 64 places; the bits below its 12 come from
// the place itself. Source: R. Ulichney, "The void-and-cluster method for dither array generation", SPIE 1913 (1993).
std::uint32_t spread_threshold(std::uint32_t seed, int x, int y);

// The upper 12 bits of it for a row: of place x + i, `ranks[(start + i) % 64]`. The row stands there twice, so that up
// to 64 can be read from any start without going round.
struct SpreadRow {
    const std::uint16_t* ranks;
    std::uint32_t start;
};
SpreadRow spread_row(std::uint32_t seed, int x, int y);

} // namespace vic
