// What lies behind all layers of a level: its ground, and the picture it is built after.
#pragma once

#include "level/project.hpp"
#include "picture/compose.hpp"

namespace vic::picture {

// The ground's colour; where there is none squares of two greys, or nothing on a canvas that may be see-through.
void fill_ground(const level::Level& level, Canvas& canvas, const Box& clip);

// The picture that the level is built after, where it lies on this side of the layers: each pixel of the canvas, which
// is at 1/2^small of the level's scale, shows the one in the middle of what it covers.
void draw_reference(const level::Project& project, const level::Level& level, Canvas& canvas, const Box& clip,
                    int small, bool over_all);

} // namespace vic::picture
