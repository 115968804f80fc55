// Arithmetic on pixels 0xAARRGGBB, premultiplied.
#pragma once

#include <algorithm>
#include <cstdint>

#include "base/image.hpp"

namespace vic::picture {

inline std::uint32_t premultiplied(Rgba c) {
    const auto scale = [&](unsigned v) { return (v * c.a + 127) / 255; };
    return (std::uint32_t{c.a} << 24) | (scale(c.r) << 16) | (scale(c.g) << 8) | scale(c.b);
}

inline Rgba straight(std::uint32_t p) {
    const std::uint32_t a = p >> 24;
    const auto part = [&](int shift) {
        const std::uint32_t v = (p >> shift) & 255U;
        return static_cast<std::uint8_t>(a == 0 ? 0 : std::min(255U, (v * 255 + a / 2) / a));
    };
    return {part(16), part(8), part(0), static_cast<std::uint8_t>(a)};
}

// Each of the four bytes times f / 255, rounded; two bytes at a time.
inline std::uint32_t scaled_bytes(std::uint32_t p, std::uint32_t f) {
    std::uint32_t even = (p & 0x00FF00FF) * f + 0x00800080;
    std::uint32_t odd = ((p >> 8) & 0x00FF00FF) * f + 0x00800080;
    even = ((even + ((even >> 8) & 0x00FF00FF)) >> 8) & 0x00FF00FF;
    odd = (odd + ((odd >> 8) & 0x00FF00FF)) & 0xFF00FF00;
    return even | odd;
}

inline std::uint32_t over(std::uint32_t above, std::uint32_t below) {
    return above + scaled_bytes(below, 255 - (above >> 24));
}

inline std::uint32_t tinted(std::uint32_t p, Rgba tint) {
    const auto part = [&](int shift, unsigned by) { return (((p >> shift) & 255U) * by + 127) / 255; };
    return (part(24, tint.a) << 24) | (part(16, tint.r * tint.a / 255U) << 16) |
           (part(8, tint.g * tint.a / 255U) << 8) | part(0, tint.b * tint.a / 255U);
}

// Each colour of a premultiplied pixel times that of the tint.
inline std::uint32_t coloured(std::uint32_t p, Rgba tint) {
    const auto part = [&](int shift, unsigned by) { return ((((p >> shift) & 255U) * by + 127) / 255) << shift; };
    return (p & 0xFF000000U) | part(16, tint.r) | part(8, tint.g) | part(0, tint.b);
}

// One over the other where they cover different parts of the pixel, as neighbours do that share its rim: what is below
// gives way only where both have no room. Source: the operator "disjoint over" of the X Render extension, after T.
// Porter and T. Duff, "Compositing digital images", SIGGRAPH 1984.
inline std::uint32_t beside(std::uint32_t above, std::uint32_t below) {
    const std::uint32_t room = 255 - (above >> 24);
    const std::uint32_t taken = below >> 24;
    if (room == 0 || taken == 0) return above; // which most are
    return above + (taken <= room ? below : scaled_bytes(below, room * 255 / taken));
}

} // namespace vic::picture
