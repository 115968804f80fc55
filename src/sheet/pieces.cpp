#include "sheet/pieces.hpp"

#include <cassert>

#include "sheet/inspect.hpp"

namespace vic::sheet {

Pieces pieces_of(const Image& picture, int most) {
    assert(most >= kLeastPiece);
    Pieces out;
    const auto cut = [most](int side, int& count, int& size) {
        count = (side + most - 1) / most;
        size = count > 0 ? (side + count - 1) / count : 0;
    };
    cut(picture.width(), out.count.w, out.size.w);
    cut(picture.height(), out.count.h, out.size.h);
    for (int y = 0; y < out.count.h; ++y)
        for (int x = 0; x < out.count.w; ++x) {
            const Box box{x * out.size.w, y * out.size.h, out.size.w, out.size.h};
            if (is_blank(picture, intersection(box, box_of(picture.size()))))
                ++out.empty;
            else
                out.boxes.push_back(box);
        }
    return out;
}

} // namespace vic::sheet
