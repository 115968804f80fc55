// Whole-number geometry. Units are the caller's (cells, pixels or 1/64 cells) and stated where it is used. y grows
// downwards.
#pragma once

#include <algorithm>
#include <compare>
#include <cstdint>

namespace vic {

struct Point {
    int x = 0;
    int y = 0;
    auto operator<=>(const Point&) const = default;
};

inline Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
inline Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }

struct Size {
    int w = 0;
    int h = 0;
    auto operator<=>(const Size&) const = default;
    [[nodiscard]] bool empty() const { return w <= 0 || h <= 0; }
    [[nodiscard]] std::int64_t area() const { return empty() ? 0 : std::int64_t{w} * h; }
};

// A half-open rectangle: it holds x .. x + w - 1 and y .. y + h - 1.
struct Box {
    int x = 0;
    int y = 0;
    int w = 0;
    int h = 0;
    auto operator<=>(const Box&) const = default;

    [[nodiscard]] bool empty() const { return w <= 0 || h <= 0; }
    [[nodiscard]] int right() const { return x + w; }
    [[nodiscard]] int bottom() const { return y + h; }
    [[nodiscard]] Point corner() const { return {x, y}; }
    [[nodiscard]] Size size() const { return {w, h}; }
    [[nodiscard]] bool contains(Point p) const { return p.x >= x && p.y >= y && p.x < right() && p.y < bottom(); }
    [[nodiscard]] bool contains(const Box& b) const {
        return b.x >= x && b.y >= y && b.right() <= right() && b.bottom() <= bottom();
    }
    [[nodiscard]] Box grown(int by) const { return {x - by, y - by, w + 2 * by, h + 2 * by}; }
    [[nodiscard]] Box moved(Point by) const { return {x + by.x, y + by.y, w, h}; }
};

inline Box box_of(Size size) { return {0, 0, size.w, size.h}; }

// Empty (all zero) where the two do not overlap.
inline Box intersection(const Box& a, const Box& b) {
    const int x = std::max(a.x, b.x);
    const int y = std::max(a.y, b.y);
    const int right = std::min(a.right(), b.right());
    const int bottom = std::min(a.bottom(), b.bottom());
    if (right <= x || bottom <= y) return {};
    return {x, y, right - x, bottom - y};
}

// The least box that holds both; an empty one adds nothing.
inline Box united(const Box& a, const Box& b) {
    if (a.empty()) return b;
    if (b.empty()) return a;
    const int x = std::min(a.x, b.x);
    const int y = std::min(a.y, b.y);
    return {x, y, std::max(a.right(), b.right()) - x, std::max(a.bottom(), b.bottom()) - y};
}

// The box that has both points in it, in whatever order they come.
inline Box spanning(Point a, Point b) {
    return {std::min(a.x, b.x), std::min(a.y, b.y), std::abs(a.x - b.x) + 1, std::abs(a.y - b.y) + 1};
}

// Division that rounds towards minus infinity, for coordinates left of or above the origin. b > 0.
inline int floor_div(int a, int b) { return a >= 0 ? a / b : -((-a + b - 1) / b); }

// Twice the area of the triangle a, b, c; above 0 where one turns clockwise (y grows downwards).
inline std::int64_t cross(Point a, Point b, Point c) {
    return std::int64_t{b.x - a.x} * (c.y - a.y) - std::int64_t{b.y - a.y} * (c.x - a.x);
}

} // namespace vic
