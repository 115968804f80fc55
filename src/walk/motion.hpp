// How the walker moves when it is in the air, tick by tick: the one model that the physics of Walk and the player, the
// arc that is drawn of a jump, and Reach share. Seen from the side; y goes down. Sideways it goes as it is steered, at
// once, in the air as on the ground.
#pragma once

#include <algorithm>
#include <cmath>

namespace vic::walk {

inline constexpr int kTicks = 60; // a second
inline constexpr float kTick = 1.0F / kTicks;
inline constexpr float kGravity = 40.0F;     // cells a second squared, of a plain walker
inline constexpr float kFastestFall = 24.0F; // cells a second, likewise
inline constexpr int kPushOff = 8;           // ticks after a jump off a wall in which it goes away from that

struct Motion {
    float gravity = kGravity;
    float fastest = kFastestFall;

    // The speed (cells a second, downwards) of the tick in which a jump of so many cells begins. Ticks are not
    // infinitesimal: half a tick of gravity makes the height exact.
    [[nodiscard]] float take_off(double height) const {
        return -(std::sqrt(2 * gravity * static_cast<float>(height)) - gravity * kTick / 2);
    }
    // The speed of the next tick in the air.
    [[nodiscard]] float falling(float speed) const { return std::min(speed + gravity * kTick, fastest); }
};

// A time of the walker's settings in ticks.
inline int ticks_of(int milliseconds) { return (milliseconds * kTicks + 500) / 1000; }

template <class Walker>
Motion motion_of(const Walker& walker) {
    return {static_cast<float>(walker.gravity), static_cast<float>(walker.fastest)};
}

} // namespace vic::walk
