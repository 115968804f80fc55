// Drawing a level into pixels, as the engine would show it. The window, `render` and the previews all use this.
#pragma once

#include <cstdint>
#include <vector>

#include "level/standing.hpp"
#include "picture/art.hpp"

namespace vic::picture {

// Opaque pixels as 0xFFRRGGBB, row by row: the format that is fastest to show. With `see_through` 0xAARRGGBB,
// premultiplied.
struct Canvas {
    Box box; // which pixels of the level these are, at its full scale
    std::vector<std::uint32_t> pixels;
    bool see_through = false; // whether a level without a ground leaves nothing where nothing lies, or squares of grey

    Canvas() = default;
    explicit Canvas(const Box& b) : box(b), pixels(static_cast<std::size_t>(b.size().area())) {}
};

// Draws the pixels `part` (cut to the canvas) of the level. Cells whose tile is gone, and painted cells without a tile,
// get a crossed box, so that no hole is silent.
void draw(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part);

// What is drawn after the walker who stands there, on a canvas that is see-through and empty: the layers in front of
// his plane, and where that is at layers sorted by feet, of those what stands further down. `foot` in pixels of the
// level.
void draw_before(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, level::Spot foot);

// The same at 1/2^small of its size: `canvas` and `part` are in small pixels. Where cells come out as whole small
// pixels this is the mean of the whole; elsewhere pictures that share a small pixel lie side by side in it, which is
// the same but for rims that overlap.
void draw_small(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas, const Box& part,
                int small);

// The pixels in which a level shows anything: those of its cells, and above an isometric level what its highest tiles
// can reach.
Box extent(const level::Project& project, const level::Level& level);

// A prop as it stands, see-through around it, and nothing else. Empty where nothing of it is to be seen, or it is
// larger than 4096 pixels a side.
Image prop_picture(const level::Project& project, Art& art, const level::Prop& prop);

// The whole level without the picture it is built after, see-through where it has no ground; each pixel enlarged
// `scale` times (1 .. 16).
Image render(const level::Project& project, const level::Level& level, int scale);

} // namespace vic::picture
