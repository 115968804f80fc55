// Actors in the picture of a level.
#pragma once

#include "level/project.hpp"

namespace vic::picture {

// The level with a layer of props at the walker's plane: the figures of its marks, but for the start's, which the
// walker wears. Seen from above they are in the order of feet. The same level where there are none.
level::Level with_figures(const level::Project& project, const level::Level& level);

} // namespace vic::picture
