#include "scene/sun.hpp"

#include <algorithm>
#include <cmath>

namespace vic::scene {

std::array<double, 3> sun_way(const level::Light& light) {
    const double turn = (light.minute / 60.0 - 12) / 12 * 3.14159265358979;
    const double up = std::max(0.25, std::cos(turn) * 0.9 + 0.1), east = -std::sin(turn), south = 0.55;
    const double length = std::sqrt(east * east + up * up + south * south);
    return {east / length, up / length, south / length};
}

std::array<double, 3> sun_colour(const level::Light& light) {
    const double t = std::clamp((light.warmth - 2500) / 6500.0, 0.0, 1.0);
    return {1.08 - 0.22 * t, 0.82 + 0.12 * t, 0.52 + 0.48 * t};
}

} // namespace vic::scene
