// Drawing a backdrop: placed, scaled, repeated, tinted and stepped back.
#pragma once

#include "picture/compose.hpp"

namespace vic::picture {

// What of the backdrop lies in the clip, which lies in the canvas's box. `small`: both are in small pixels. Where its
// picture is enlarged or made smaller it is sampled pixel by pixel, or smoothly; small pixels are means in either case.
void draw_backdrop(const level::Level& level, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                   int small);

// What the game shows while its frame's corner is there, in pixels of the level: each layer as far along as it goes.
// The canvas's box is the frame; it comes out filled.
void draw_frame(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas);

} // namespace vic::picture
