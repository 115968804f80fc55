// Whether a picture closes with itself where it is repeated.
#pragma once

#include <utility>
#include <vector>

#include "base/image.hpp"

namespace vic::sheet {

// Where the picture's last column meets its first one (or its last row its first), with what one would see there as a
// line: more jumps of colour than any two neighbouring columns of the picture itself have.
struct Seam {
    bool closes = true;
    std::vector<std::pair<int, int>> open; // from, to: the rows (or columns) where it does not, in order; else empty
    [[nodiscard]] int length() const {     // pixels
        int out = 0;
        for (const auto& [from, to] : open) out += to - from;
        return out;
    }
};
// Of a picture with at least 2 × 2 pixels; smaller ones close. Of a very large one a thousand rows are looked at.
Seam seam_of(const Image& image, bool across);

} // namespace vic::sheet
