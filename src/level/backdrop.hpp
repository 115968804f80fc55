// A picture behind or in front of everything: once or repeated, as large as one likes, further or nearer.
#pragma once

#include <string>

#include "base/geometry.hpp"
#include "base/image.hpp"
#include "level/sheet.hpp"

namespace vic::level {

struct Level;
struct Layer;
struct Wash;

inline constexpr int kMostBackdropPixels = 1 << 20; // that one picture takes of the level, a side; and off its corner

struct Backdrop {
    SheetId sheet = 0;
    Rgba tint{255, 255, 255, 255}; // multiplied with the picture
    bool across = true;            // repeated to the left and right
    bool down = true;              // repeated upwards and downwards
    Point at{};                    // pixels of the level: the upper left corner of its picture, of one of them
    Size drawn{};                  // pixels of the level that the picture takes; 0 × 0: as many as it has
    bool smooth = false;           // how it is sampled where it is not as large as it is
    int steps_back = 0;            // per cent that its colours go towards the level's background, 0 .. 100
    bool operator==(const Backdrop&) const = default;

    [[nodiscard]] bool repeats() const { return across || down; }
    // The pixels of the level that its picture takes; `picture` is the picture's size.
    [[nodiscard]] Box box(Size picture) const {
        const Size size = drawn == Size{} ? picture : drawn;
        return {at.x, at.y, size.w, size.h};
    }
};

// Tint and stepping back in one.
Wash wash_of(const Backdrop& backdrop, const Level& level);

// The pixels of a layer that can be seen while the frame goes over all of the level, which for a layer that goes along
// by half are those of half the way. A level smaller than the frame is seen whole.
Box seen_of(const Level& level, const Layer& layer);

// Where the frame would see past the picture: pixels at each side of seen_of(), 0 where it does not end before.
struct Gaps {
    int left = 0, right = 0, above = 0, below = 0;
    [[nodiscard]] bool any() const { return left > 0 || right > 0 || above > 0 || below > 0; }
    bool operator==(const Gaps&) const = default;
};
Gaps gaps_of(const Level& level, const Layer& layer, Size picture); // the layer is a backdrop

} // namespace vic::level
