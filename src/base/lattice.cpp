#include "base/lattice.hpp"

namespace vic {

namespace {

std::int64_t floor_div64(std::int64_t a, std::int64_t b) { return a >= 0 ? a / b : -((-a + b - 1) / b); }

} // namespace

Box Lattice::box(const Box& cells) const {
    if (cells.empty()) return {};
    if (square()) return {cells.x * cell.w, cells.y * cell.h, cells.w * cell.w, cells.h * cell.h};
    const int left = corner({cells.x, cells.bottom() - 1}).x;
    const int right = corner({cells.right() - 1, cells.y}).x + cell.w;
    const int top = corner({cells.x, cells.y}).y;
    const int bottom = corner({cells.right() - 1, cells.bottom() - 1}).y + cell.h;
    return {left, top, right - left, bottom - top};
}

Point Lattice::cell_at(Point pixel) const {
    if (square()) return {floor_div(pixel.x, cell.w), floor_div(pixel.y, cell.h)};
    // The pixel's middle, in 1 / (2 w h) of x and y: exact.
    const std::int64_t across = std::int64_t{2 * pixel.x + 1} * cell.h;
    const std::int64_t down = std::int64_t{2 * pixel.y + 1} * cell.w;
    const std::int64_t whole = std::int64_t{2} * cell.w * cell.h;
    return {static_cast<int>(floor_div64(down + across, whole)), static_cast<int>(floor_div64(down - across, whole))};
}

Box Lattice::cells_in(const Box& pixels) const {
    if (pixels.empty()) return {};
    if (square()) {
        const Point first = cell_at(pixels.corner());
        const Point last = cell_at({pixels.right() - 1, pixels.bottom() - 1});
        return spanning(first, last);
    }
    // A box has a pixel in common when its corner lies within these bounds; x + y and x - y follow from it.
    const int left = floor_div(2 * (pixels.x - cell.w), cell.w) + 1; // of x - y
    const int right = floor_div(2 * pixels.right(), cell.w) + 2;
    const int top = floor_div(2 * (pixels.y - cell.h), cell.h); // of x + y
    const int bottom = floor_div(2 * pixels.bottom(), cell.h) + 1;
    return spanning({floor_div(top + left, 2), floor_div(top - right, 2)},
                    {floor_div(bottom + right + 1, 2), floor_div(bottom - left + 1, 2)});
}

} // namespace vic
