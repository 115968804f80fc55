// One picture with all that a level uses, every part with its edge pixels repeated once around it, so that sampling at
// the edge never shows a neighbour.
#pragma once

#include <optional>
#include <vector>

#include "base/image.hpp"

namespace vic::parcel {

struct Atlas {
    Image image;
    std::vector<Box> places; // of the pictures, in their order; without the repeated edge
};

// The pictures in shelves, tallest first; at least 1 × 1 pixel. Nothing where it would be larger than `most_side`.
std::optional<Atlas> pack(const std::vector<Image>& pictures, int most_side);

} // namespace vic::parcel
