// A field of cells that block or not, and whether a point of it is blocked: an oracle that knows nothing of outlines.
#pragma once

#include <cmath>
#include <vector>

#include "outline/trace.hpp"

namespace outline_test {

using namespace vic;
using namespace vic::outline;

struct Field {
    Size size;
    std::vector<SolidCode> codes;
    [[nodiscard]] SolidCode at(int x, int y) const {
        return box_of(size).contains(Point{x, y}) ? codes[static_cast<std::size_t>(y * size.w + x)] : SolidCode{0};
    }
    [[nodiscard]] SolidSource source() const {
        return [this](const Box& box, SolidCode* out, std::size_t stride) {
            int shapes = 0;
            for (int y = 0; y < box.h; ++y)
                for (int x = 0; x < box.w; ++x) {
                    const SolidCode c = at(box.x + x, box.y + y);
                    out[static_cast<std::size_t>(y) * stride + static_cast<std::size_t>(x)] = c;
                    shapes += c != 0;
                }
            return shapes;
        };
    }
};

// Whether a point, in cells, lies in what the field blocks; an oracle that knows nothing of outlines.
inline bool blocked(const Field& f, double x, double y) {
    const int cx = static_cast<int>(std::floor(x)), cy = static_cast<int>(std::floor(y));
    const double fx = x - cx, fy = y - cy;
    switch (solid_of(f.at(cx, cy))) {
        case kFull:
            return true;
        case kSlopeNE:
            return fx > fy;
        case kSlopeSE:
            return fx + fy > 1;
        case kSlopeSW:
            return fy > fx;
        case kSlopeNW:
            return fx + fy < 1;
        default:
            return false;
    }
}

} // namespace outline_test
