// Putting pictures into a canvas. `clip` lies in the canvas's box.
#pragma once

#include <algorithm>
#include <cstdint>
#include <vector>

#include "level/standing.hpp"
#include "picture/blend.hpp"
#include "picture/compose.hpp"

namespace vic::picture {

// A premultiplied pixel, washed.
inline std::uint32_t washed_pixel(std::uint32_t p, const level::Wash& wash) {
    const std::uint32_t a = p >> 24;
    const auto part = [&](int shift, unsigned times, unsigned plus) {
        return std::min(a, (((p >> shift) & 255U) * times + plus * a + 127) / 255) << shift;
    };
    const std::uint32_t out = (a << 24) | part(16, wash.times.r, wash.plus.r) | part(8, wash.times.g, wash.plus.g) |
                              part(0, wash.times.b, wash.plus.b);
    return wash.times.a == 255 ? out : scaled_bytes(out, wash.times.a);
}

// The picture with its corner there, as the layer tints it and lets through.
void blit(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const level::Layer& layer);
void blit_washed(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const level::Layer& layer,
                 const level::Wash& wash);
// What stands for a picture that is gone: a crossed box, or diamond.
void draw_gone(Canvas& canvas, const Box& clip, const Box& cell, bool diamond = false);

// The pictures of a layer's props that are seen in the clip, what stands further down after the rest, and one of them.
struct ShownProp {
    level::Piece piece;
    Box box; // pixels of the level, at full size
};
std::vector<ShownProp> props_in(const level::PropKinds& kinds, const level::Layer& layer, const Box& clip, int small);
void draw_prop(const level::Project& project, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
               const ShownProp& prop, int small);
// The props of a layer, what stands further down in front. `small`: the canvas and the clip are in small pixels.
void draw_props(const level::Project& project, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                int small);

} // namespace vic::picture
