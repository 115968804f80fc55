#include "base/image.hpp"

namespace vic {

Image cropped(const Image& image, const Box& box) {
    Image out(box.size());
    const Box inside = intersection(box, box_of(image.size()));
    for (int y = inside.y; y < inside.bottom(); ++y) {
        const Rgba* from = image.row(y) + inside.x;
        std::copy(from, from + inside.w, out.row(y - box.y) + (inside.x - box.x));
    }
    return out;
}

Image resampled(const Image& image, Size size) {
    if (image.size() == size) return image;
    Image out(size);
    for (int y = 0; y < size.h; ++y) {
        const int from_y = static_cast<int>(std::int64_t{y} * image.height() / size.h);
        for (int x = 0; x < size.w; ++x) {
            out.set(x, y, image.at(static_cast<int>(std::int64_t{x} * image.width() / size.w), from_y));
        }
    }
    return out;
}

} // namespace vic
