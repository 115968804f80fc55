// What a level has in three dimensions: its light, the eye by which the game looks at it, and the walker's body there.
#pragma once

#include <cstdint>

namespace vic::level {

// One sun. It is low in the east at six, in the south at noon, and low in the west at eighteen.
struct Light {
    int minute = 16 * 60; // of the day, 0 .. 1440
    int warmth = 5200;    // kelvins, 2500 .. 9000
    int fog = 0;          // cells from the eye to where half is hidden; 0: there is none
    bool operator==(const Light&) const = default;
};
inline constexpr int kMostMinute = 24 * 60;
inline constexpr int kLeastWarmth = 2500, kMostWarmth = 9000;
inline constexpr int kMostFog = 4096;

// How the game looks at it: so that the middle of the frame is as wide as the frame is.
struct Sight {
    int tilt = 40; // degrees downwards, 5 .. 90
    int lens = 30; // degrees that are seen from top to bottom, 5 .. 100; 0: all lines stay parallel
    int turn = 0;  // degrees to the right from the north, 0 .. 359
    bool operator==(const Sight&) const = default;
};
inline constexpr int kLeastTilt = 5, kMostTilt = 90;
inline constexpr int kLeastLens = 5, kMostLens = 100;

// The walker where he walks in height, in centimetres.
struct Upright {
    int wide = 60;
    int tall = 175;
    int eyes = 160; // above the ground
    int step = 35;  // that he goes up without a jump
    int slope = 45; // degrees that he walks up, 0 .. 80
    int pace = 400; // a second
    int jump = 90;  // high; 0: he does not
    int drop = 400; // that he falls without harm; what is lower is no way for him
    bool operator==(const Upright&) const = default;
};

// How a prop of a picture stands in three dimensions.
enum class Stands : std::uint8_t {
    facing, // it turns to whoever looks
    fixed,  // as it is laid: it looks to the south, and turns with the prop
    crossed // likewise, and once more at a right angle
};

} // namespace vic::level
