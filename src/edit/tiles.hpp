// How tiles stand and move: animation, and the numbers of blocks.
#pragma once

#include <set>
#include <vector>

#include "level/project.hpp"

namespace vic::edit {

// The first of the tiles shows all of them in turn, in their order, each for `ms` milliseconds; at most kMostFrames.
level::Project animate(level::Project project, const std::vector<level::TileId>& tiles, int ms);
// How long the frames of an animated tile at these places are shown; of all frames where `places` is empty.
level::Project time_frames(level::Project project, level::TileId tile, const std::set<int>& places, int ms);

// The block's numbers as near to the wanted ones as its size allows: the pivot is one of its cells, one row is its
// foot at least. The size stays.
level::Block fitted(const level::Block& block);

} // namespace vic::edit
