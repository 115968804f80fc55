// Boxes of many sizes in one large box, on shelves: the tallest first, one beside the other, a new shelf where the
// width is used up.
#pragma once

#include <vector>

#include "base/geometry.hpp"

namespace vic {

// The least width of `least` times a power of two in which the widest has room, and the whole is about square; each box
// is taken to be `gap` larger.
int shelf_width(const std::vector<Size>& sizes, int least, int gap);

struct Shelves {
    std::vector<Point> corners; // of the boxes, in their order
    int height = 0;             // of all shelves, from `top` on
};
// With `gap` free pixels between boxes; the first shelf at `top`. Of equally tall boxes the earlier come first.
Shelves on_shelves(const std::vector<Size>& sizes, int width, int gap, int top = 0);

} // namespace vic
