// Reading joins from what is like a centre; a part of read_joins().
#pragma once

#include <vector>

#include "base/image.hpp"
#include "join/read_joins.hpp"
#include "join/side_kinds.hpp"

namespace vic::join {

// How much nearer to its own kind than to others a side is that leaves no doubt.
inline constexpr double kSureSide = 0.35;

// In all of these `drawn` are the indices of the tiles that are not blank, at least one; all have one size.

// The tile whose outermost pixels look most like its inside.
int centre_of(const std::vector<Image>& tiles, const std::vector<int>& drawn, const Stop& stop);

// The material's pixels are those of the tile `middle`, or those of the middles of all tiles.
JoinReading read_from_centre(const std::vector<Image>& tiles, const std::vector<int>& drawn, level::JoinKind kind,
                             int middle, const Stop& stop);

// Which sides join is known; only the corners are read.
JoinReading read_with_sides(const std::vector<Image>& tiles, const std::vector<int>& drawn, level::JoinKind kind,
                            int middle, const SideReading& sides, const Stop& stop);

// Fills `missing` and `doubled` from the tiles.
void list_cases(JoinReading& reading, level::JoinKind kind);

// How opaque the corner patch of a tile is, 0 .. 255; `bit` as in masks.
double corner_alpha(const Image& tile, int bit);

} // namespace vic::join
