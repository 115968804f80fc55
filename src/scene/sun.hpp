// The light of a level: where it comes from, and of what colour it is.
#pragma once

#include <array>

#include "level/depth.hpp"

namespace vic::scene {

// Towards the sun, of length 1; x to the east, y up, z to the south. Never below the land: at night one works by a
// high moon.
std::array<double, 3> sun_way(const level::Light& light);
// Red, green and blue, about 1: between a low sun's and a blue sky's.
std::array<double, 3> sun_colour(const level::Light& light);

} // namespace vic::scene
