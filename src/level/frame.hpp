// Where the game's frame stands in a level.
#pragma once

#include "level/level.hpp"

namespace vic::level {

// Pixels of the level: where the level says, else round the start, within the level where that is large enough.
Box frame_box(const Level& level);

} // namespace vic::level
