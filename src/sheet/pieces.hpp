// Cutting a large picture into pieces that an engine can load: all of the same size, none of them empty.
#pragma once

#include <vector>

#include "base/image.hpp"

namespace vic::sheet {

inline constexpr int kLeastPiece = 64; // pixels a side

struct Pieces {
    Size count;             // columns and rows
    Size size;              // of every piece, in pixels; the last column and row may reach over the picture's edge
    std::vector<Box> boxes; // of those with anything in them, row by row, in pixels of the picture
    int empty = 0;          // pieces left out, as all of their pixels are see-through
};

// As few pieces of at most `most` (>= kLeastPiece) pixels a side as cover the picture.
Pieces pieces_of(const Image& picture, int most);

} // namespace vic::sheet
