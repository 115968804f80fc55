// The eight orientations of something square: mirrored left-right first (or not), then turned clockwise by quarters.
#pragma once

#include <array>
#include <cstdint>

#include "base/geometry.hpp"

namespace vic {

struct Turn {
    std::uint8_t code = 0; // bits 0-1: quarter turns clockwise; bit 2: mirrored

    [[nodiscard]] int quarters() const { return code & 3; }
    [[nodiscard]] bool mirrored() const { return (code & 4) != 0; }
    bool operator==(const Turn&) const = default;
};

inline Turn turned_right(Turn t) { return {static_cast<std::uint8_t>((t.code & 4) | ((t.code + 1) & 3))}; }
inline Turn turned_left(Turn t) { return {static_cast<std::uint8_t>((t.code & 4) | ((t.code + 3) & 3))}; }
// Left and right change places as one sees it now, whatever the turn was.
inline Turn mirrored(Turn t) { return {static_cast<std::uint8_t>(((t.code ^ 4) & 4) | ((4 - (t.code & 3)) & 3))}; }

// The first of `next`, next of next … that `allowed` has (a bit for each code; bit 0 is set), at the least the turn
// itself.
inline Turn allowed_turn(std::uint8_t allowed, Turn from, Turn (*next)(Turn)) {
    Turn t = next(from);
    for (int i = 0; i < 8 && t != from && !((allowed >> t.code) & 1); ++i) t = next(t);
    return ((allowed >> t.code) & 1) ? t : from;
}

// Where pixel `p` of the picture as laid comes from in the art, both `side` pixels square.
inline Point source_pixel(Turn t, Point p, int side) {
    for (int i = 0; i < t.quarters(); ++i) p = {p.y, side - 1 - p.x};
    if (t.mirrored()) p.x = side - 1 - p.x;
    return p;
}

// Where direction `d` of the art (0 north, 1 east, 2 south, 3 west) points once it is laid.
inline int turned_side(Turn t, int d) {
    if (t.mirrored() && (d & 1)) d ^= 2;
    return (d + t.quarters()) & 3;
}

// Where corner `c` of the art (0 north-east, 1 south-east, 2 south-west, 3 north-west) lies once it is laid.
inline int turned_corner(Turn t, int c) {
    if (t.mirrored()) c = 3 - c;
    return (c + t.quarters()) & 3;
}

// The one turn that does what `first` and then `second` do.
inline Turn after(Turn first, Turn second) {
    // Turned by q and then mirrored is mirrored and then turned by -q.
    const int q = second.mirrored() ? 4 - first.quarters() : first.quarters();
    return {static_cast<std::uint8_t>(((first.code ^ second.code) & 4) | ((q + second.quarters()) & 3))};
}

} // namespace vic
