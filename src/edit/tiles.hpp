// How tiles stand and move: animation, and the numbers of blocks.
#pragma once

#include <optional>
#include <set>
#include <vector>

#include "level/project.hpp"

namespace vic::edit {

// The first of the tiles shows all of them in turn, in their order, each for `ms` milliseconds; at most kMostFrames.
level::Project animate(level::Project project, const std::vector<level::TileId>& tiles, int ms);
// How long the frames of an animated tile at these places are shown; of all frames where `places` is empty.
level::Project time_frames(level::Project project, level::TileId tile, const std::set<int>& places, int ms);

// How many rows the material's tiles stand up by, at the most: 0 lie flat; 1 all stand on their own cell; more: those
// that are open to the south stand on theirs, the others one row above it, as the top of a wall over its face.
level::Project stand_up(level::Project project, level::MaterialId material, int rows);
// What it would have to be told for that: 0, 1 or 2; nothing where its tiles say otherwise.
std::optional<int> stands_up(const level::Project& project, level::MaterialId material);

// The block's numbers as near to the wanted ones as its size allows: the pivot is one of its cells, one row is its
// foot at least. The size stays.
level::Block fitted(const level::Block& block);

} // namespace vic::edit
