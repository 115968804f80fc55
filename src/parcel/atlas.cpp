#include "parcel/atlas.hpp"

#include <algorithm>

#include "base/shelves.hpp"

namespace vic::parcel {

namespace {

constexpr int kLeastSide = 64;

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
    std::vector<Size> sizes; // with the repeated edge
    for (const Image& p : pictures) sizes.push_back({p.width() + 2, p.height() + 2});
    const int width = shelf_width(sizes, kLeastSide, 0);
    const Shelves shelves = on_shelves(sizes, width, 0);
    Atlas out;
    for (std::size_t i = 0; i < sizes.size(); ++i)
        out.places.push_back({shelves.corners[i].x + 1, shelves.corners[i].y + 1, sizes[i].w - 2, sizes[i].h - 2});
    const int height = std::max(1, shelves.height);
    if (width > most_side || height > most_side) return std::nullopt;
    out.image = Image({width, height});
    for (std::size_t i = 0; i < pictures.size(); ++i) place_extruded(out.image, pictures[i], out.places[i].corner());
    return out;
}

} // namespace vic::parcel
