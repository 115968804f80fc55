// Brushes for drawing pixel art by program: the palette of Pell Saltern and a few ways to fill.
#pragma once

#include <array>
#include <functional>
#include <vector>

#include "base/image.hpp"
#include "join/mask.hpp"

namespace pell {

using vic::Box;
using vic::Image;
using vic::Point;
using vic::Rgba;
using vic::Size;

inline constexpr int kTile = 16;

constexpr Rgba rgb(unsigned v) {
    return {static_cast<std::uint8_t>(v >> 16), static_cast<std::uint8_t>(v >> 8), static_cast<std::uint8_t>(v), 255};
}

// Clay and salt, brine and creek, timber and brick; a restrained set, so that the place hangs together.
namespace ink {
inline constexpr Rgba none{0, 0, 0, 0};
inline constexpr Rgba dark = rgb(0x2B2622), umber = rgb(0x4A3A2A), peat = rgb(0x65503A), oak = rgb(0x8A6239),
                      plank = rgb(0xA97F4C), straw = rgb(0xC9A066);
inline constexpr Rgba clay_deep = rgb(0x93774C), clay_wet = rgb(0xA98B5C), clay = rgb(0xBFA171),
                      clay_dry = rgb(0xCBB083), clay_pale = rgb(0xDAC49A);
inline constexpr Rgba salt = rgb(0xF4EFE2), salt_shade = rgb(0xD5D6D0), salt_deep = rgb(0xA9B3B4);
inline constexpr Rgba brine_deep = rgb(0x3E8F8A), brine = rgb(0x57A8A0), brine_light = rgb(0x79BFB4),
                      brine_pale = rgb(0xA9D8CB);
inline constexpr Rgba creek_deep = rgb(0x2C5873), creek = rgb(0x366A86), creek_light = rgb(0x4C86A0),
                      creek_pale = rgb(0x7FB0C0);
inline constexpr Rgba moss_dark = rgb(0x2C3F27), moss_deep = rgb(0x3F5A33), moss = rgb(0x5A7A3F), reed = rgb(0x7F9A4C),
                      reed_pale = rgb(0xB3BC6A);
inline constexpr Rgba brick_deep = rgb(0x452E2C), brick_dark = rgb(0x573833), brick = rgb(0x8F5245),
                      brick_light = rgb(0xAD6B56), mortar = rgb(0x64493F), joint = rgb(0x38282A);
inline constexpr Rgba stone_dark = rgb(0x6B6A62), stone = rgb(0x96938A), stone_light = rgb(0xBDB8AA);
inline constexpr Rgba wall_deep = rgb(0x2E3436), wall = rgb(0x394143), wall_light = rgb(0x454E4F);
inline constexpr Rgba iron_dark = rgb(0x33383C), iron = rgb(0x56605F), iron_light = rgb(0x8B9690), rust = rgb(0xA35A32);
inline constexpr Rgba vermilion = rgb(0xC2452D), lamp = rgb(0xF2C84B);
} // namespace ink

// A steady random number in 0 .. 1 for a place.
double chance(int x, int y, int seed);

// How far the middle of pixel `p` of a tile lies inside a material whose neighbourhood is `mask`: the distance to the
// nearest place that is not the material, in pixels, at most 16. Outer corners are rounded by `round` pixels.
double depth_inside(vic::join::Mask mask, Point p, double round);

void fill(Image& image, const Box& box, Rgba c);
void line(Image& image, Point a, Point b, Rgba c, int thick = 1);
void polygon(Image& image, const std::vector<Point>& points, const std::function<Rgba(int, int)>& colour);
void disc(Image& image, Point centre, int radius, const std::function<Rgba(int, int)>& colour);
void paste(Image& image, const Image& part, Point at);
// Puts a dark line around everything opaque.
void outline(Image& image, Rgba c);

// The colour of a running bond of 8 × 4 pixel bricks at a place; periodic in 16 pixels.
Rgba brick_at(int x, int y, int seed, const std::array<Rgba, 3>& bricks, Rgba mortar);

// Lays pictures of one size into a sheet of `columns`, with a margin and gaps of `gap_colour`.
Image sheet_of(const std::vector<Image>& tiles, int columns, int margin, int gap, Rgba gap_colour);

} // namespace pell
