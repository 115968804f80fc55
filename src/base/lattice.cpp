#include "base/lattice.hpp"

#include <algorithm>

namespace vic {

namespace {

std::int64_t floor_div64(std::int64_t a, std::int64_t b) { return a >= 0 ? a / b : -((-a + b - 1) / b); }

} // namespace

Box Lattice::box(const Box& cells) const {
    if (cells.empty()) return {};
    if (square()) {
        const Point c = corner(cells.corner());
        return {c.x, c.y, cells.w * cell.w, cells.h * cell.h};
    }
    const int left = corner({cells.x, cells.bottom() - 1}).x;
    const int right = corner({cells.right() - 1, cells.y}).x + cell.w;
    const int top = corner({cells.x, cells.y}).y;
    const int bottom = corner({cells.right() - 1, cells.bottom() - 1}).y + cell.h;
    return {left, top, right - left, bottom - top};
}

Point Lattice::cell_at(Point pixel) const {
    if (square()) return {floor_div(pixel.x - origin.x, cell.w), floor_div(pixel.y - origin.y, cell.h)};
    // The pixel's middle, in 1 / (2 w h) of x and y: exact.
    const std::int64_t across = std::int64_t{2 * pixel.x + 1} * cell.h;
    const std::int64_t down = std::int64_t{2 * pixel.y + 1} * cell.w;
    const std::int64_t whole = std::int64_t{2} * cell.w * cell.h;
    return {static_cast<int>(floor_div64(down + across, whole)), static_cast<int>(floor_div64(down - across, whole))};
}

namespace {

// The box around an isometric cell has a pixel in common with others when its corner lies within these bounds; x + y
// and x - y follow from it.
struct Bounds {
    int left, right; // of x - y
    int top, bottom; // of x + y
};
Bounds bounds_of(const Box& pixels, Size cell) {
    return {floor_div(2 * (pixels.x - cell.w), cell.w) + 1, floor_div(2 * pixels.right(), cell.w) + 2,
            floor_div(2 * (pixels.y - cell.h), cell.h), floor_div(2 * pixels.bottom(), cell.h) + 1};
}

} // namespace

Box Lattice::cells_in(const Box& pixels) const {
    if (pixels.empty()) return {};
    if (square()) {
        const Point first = cell_at(pixels.corner());
        const Point last = cell_at({pixels.right() - 1, pixels.bottom() - 1});
        return spanning(first, last);
    }
    const Bounds b = bounds_of(pixels, cell);
    return spanning({floor_div(b.top + b.left, 2), floor_div(b.top - b.right, 2)},
                    {floor_div(b.bottom + b.right + 1, 2), floor_div(b.bottom - b.left + 1, 2)});
}

Lattice::Row Lattice::row_in(const Box& pixels, int y) const {
    if (square()) {
        const Box cells = cells_in(pixels);
        return y >= cells.y && y < cells.bottom() ? Row{cells.x, cells.right()} : Row{};
    }
    if (pixels.empty()) return {};
    const Bounds b = bounds_of(pixels, cell);
    const Row row{std::max(b.left + y, b.top - y), std::min(b.right + y, b.bottom - y) + 1};
    return row.from < row.to ? row : Row{};
}

} // namespace vic
