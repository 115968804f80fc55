// How the walker moves when it is in the air, tick by tick: the one model that the physics of Walk and the player, the
// arc that is drawn of a jump, and what is worked out from it share. Seen from the side; y goes down.
#pragma once

#include <algorithm>
#include <cmath>

namespace vic::walk {

inline constexpr int kTicks = 60; // a second
inline constexpr float kTick = 1.0F / kTicks;
inline constexpr float kGravity = 40.0F;     // cells a second squared
inline constexpr float kFastestFall = 24.0F; // cells a second

// The speed (cells a second, downwards) of the tick in which a jump of so many cells begins. Ticks are not
// infinitesimal: half a tick of gravity makes the height exact.
inline float take_off(double height) {
    return -(std::sqrt(2 * kGravity * static_cast<float>(height)) - kGravity * kTick / 2);
}

// The speed of the next tick in the air.
inline float falling(float speed) { return std::min(speed + kGravity * kTick, kFastestFall); }

} // namespace vic::walk
