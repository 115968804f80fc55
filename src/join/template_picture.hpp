// The empty picture of a join set, for somebody to draw on: a cell for each case, with guides that say which sides
// join.
#pragma once

#include <optional>
#include <vector>

#include "base/image.hpp"
#include "join/mask.hpp"

namespace vic::join {

inline constexpr int kLeastTemplate = 8, kMostTemplate = 512; // pixels of a cell, a side

// Columns and rows of the picture, and the case of each cell, row by row; none for cells that are left over. `kind`
// must not be plain.
Size template_layout(level::JoinKind kind);
std::vector<std::optional<Mask>> template_masks(level::JoinKind kind);

// What joins is washed, with a line where the material ends; all else is see-through.
Image template_picture(level::JoinKind kind, Size tile);

} // namespace vic::join
