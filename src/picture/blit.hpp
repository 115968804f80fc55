// Putting pictures into a canvas. `clip` lies in the canvas's box.
#pragma once

#include "level/standing.hpp"
#include "picture/compose.hpp"

namespace vic::picture {

// The picture with its corner there, as the layer tints it and lets through.
void blit(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const level::Layer& layer);
void blit_washed(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const level::Layer& layer,
                 const level::Wash& wash);
// What stands for a picture that is gone: a crossed box, or diamond.
void draw_gone(Canvas& canvas, const Box& clip, const Box& cell, bool diamond = false);

// The props of a layer, what stands further down in front. `small`: the canvas and the clip are in small pixels.
void draw_props(const level::Project& project, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                int small);

} // namespace vic::picture
