#include "base/shelves.hpp"

#include <algorithm>
#include <cstdint>
#include <numeric>

namespace vic {

int shelf_width(const std::vector<Size>& sizes, int least, int gap) {
    std::int64_t area = 1;
    int widest = 1;
    for (const Size s : sizes) {
        area += Size{s.w + gap, s.h + gap}.area();
        widest = std::max(widest, s.w);
    }
    int width = least;
    while (width < widest || std::int64_t{width} * width < area) width *= 2;
    return width;
}

Shelves on_shelves(const std::vector<Size>& sizes, int width, int gap, int top) {
    std::vector<std::size_t> order(sizes.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return sizes[a].h > sizes[b].h; });
    Shelves out;
    out.corners.resize(sizes.size());
    Point at{0, top};
    int shelf = 0;
    for (const std::size_t i : order) {
        if (at.x > 0 && at.x + sizes[i].w > width) {
            at = {0, at.y + shelf + gap};
            shelf = 0;
        }
        out.corners[i] = at;
        at.x += sizes[i].w + gap;
        shelf = std::max(shelf, sizes[i].h);
    }
    out.height = at.y + shelf - top;
    return out;
}

} // namespace vic
