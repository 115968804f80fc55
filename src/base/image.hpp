// Pictures as plain values: 8-bit RGBA, not premultiplied, rows from the top without padding.
#pragma once

#include <cstdint>
#include <vector>

#include "base/geometry.hpp"

namespace vic {

struct Rgba {
    std::uint8_t r = 0;
    std::uint8_t g = 0;
    std::uint8_t b = 0;
    std::uint8_t a = 0;
    bool operator==(const Rgba&) const = default;
};

// Two see-through pixels look the same whatever colour hides in them.
inline bool looks_same(Rgba a, Rgba b) { return a == b || (a.a == 0 && b.a == 0); }

class Image {
  public:
    Image() = default;
    explicit Image(Size size, Rgba fill = {}) : size_(size), pixels_(static_cast<std::size_t>(size.area()), fill) {}

    [[nodiscard]] Size size() const { return size_; }
    [[nodiscard]] int width() const { return size_.w; }
    [[nodiscard]] int height() const { return size_.h; }
    [[nodiscard]] bool empty() const { return pixels_.empty(); }

    // Both need 0 <= x < width and 0 <= y < height.
    [[nodiscard]] Rgba at(int x, int y) const { return pixels_[index(x, y)]; }
    void set(int x, int y, Rgba c) { pixels_[index(x, y)] = c; }
    // Outside the picture nothing happens.
    void put(int x, int y, Rgba c) {
        if (x >= 0 && y >= 0 && x < size_.w && y < size_.h) set(x, y, c);
    }

    [[nodiscard]] const Rgba* row(int y) const { return pixels_.data() + index(0, y); }
    [[nodiscard]] Rgba* row(int y) { return pixels_.data() + index(0, y); }
    [[nodiscard]] const std::vector<Rgba>& pixels() const { return pixels_; }

    bool operator==(const Image&) const = default;

  private:
    [[nodiscard]] std::size_t index(int x, int y) const {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(size_.w) + static_cast<std::size_t>(x);
    }

    Size size_;
    std::vector<Rgba> pixels_;
};

// The part of `image` inside `box`; what lies outside the picture comes out see-through.
Image cropped(const Image& image, const Box& box);

// Taken to a new size; both sizes at least 1 × 1. Pixel by pixel (nearest), or smoothly: between pixels where it grows
// (bilinear), the mean of those under a pixel where it shrinks, weighted by their opacity.
Image resampled(const Image& image, Size size, bool smooth = false);

} // namespace vic
