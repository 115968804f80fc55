#include "parcel/atlas.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace vic::parcel {

namespace {

void place_extruded(Image& atlas, const Image& picture, Point at) {
    for (int y = -1; y <= picture.height(); ++y) {
        for (int x = -1; x <= picture.width(); ++x) {
            const int from_x = std::clamp(x, 0, picture.width() - 1);
            const int from_y = std::clamp(y, 0, picture.height() - 1);
            atlas.set(at.x + x, at.y + y, picture.at(from_x, from_y));
        }
    }
}

} // namespace

std::optional<Atlas> pack(const std::vector<Image>& pictures, int most_side) {
    std::vector<std::size_t> order(pictures.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return pictures[a].height() > pictures[b].height(); });
    std::int64_t area = 1;
    int widest = 1;
    for (const Image& p : pictures) {
        area += Size{p.width() + 2, p.height() + 2}.area();
        widest = std::max(widest, p.width() + 2);
    }
    // The least power of two that makes the atlas about square.
    int width = 64;
    while (width < widest || std::int64_t{width} * width < area) width *= 2;

    Atlas out;
    out.places.resize(pictures.size());
    Point at{0, 0};
    int shelf = 0;
    for (const std::size_t i : order) {
        const Size size{pictures[i].width() + 2, pictures[i].height() + 2};
        if (at.x + size.w > width) at = {0, at.y + shelf}, shelf = 0;
        shelf = std::max(shelf, size.h);
        out.places[i] = {at.x + 1, at.y + 1, size.w - 2, size.h - 2};
        at.x += size.w;
    }
    const int height = std::max(1, at.y + shelf);
    if (width > most_side || height > most_side) return std::nullopt;
    out.image = Image({width, height});
    for (std::size_t i = 0; i < pictures.size(); ++i) place_extruded(out.image, pictures[i], out.places[i].corner());
    return out;
}

} // namespace vic::parcel
