// Which cells of a level block, and with what shape: the input of tracing.
#pragma once

#include <cstdint>
#include <vector>

#include "level/project.hpp"

namespace vic::outline {

// What a cell blocks, all solid layers taken together. Different slopes of two layers in one cell make it full.
enum Solid : std::uint8_t { kOpen = 0, kFull = 1, kSlopeNE = 2, kSlopeSE = 3, kSlopeSW = 4, kSlopeNW = 5 };

// One byte a cell: the low half a Solid, the high half the one-way sides as bits N 16, E 32, S 64, W 128.
using SolidCode = std::uint8_t;
inline Solid solid_of(SolidCode code) { return static_cast<Solid>(code & 15); }
inline unsigned one_way_of(SolidCode code) { return code >> 4; }

// The sides of a cell that a Solid covers, as bits N 1, E 2, S 4, W 8.
inline constexpr std::uint8_t kCovered[6] = {0, 15, 1 | 2, 2 | 4, 4 | 8, 8 | 1};

SolidCode code_of(level::TileShape shape);
SolidCode merged(SolidCode a, SolidCode b);

// Reads the codes of `cells` from the shown or hidden solid layers into rows of `stride` bytes; kOpen outside the
// level. Returns how many cells of single layers have a shape (a cell that blocks in two layers counts twice).
int read_solid(const level::Level& level, const level::TileTable& tiles, const Box& cells, SolidCode* out,
               std::size_t stride);

} // namespace vic::outline
