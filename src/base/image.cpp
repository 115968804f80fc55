#include "base/image.hpp"

#include <cmath>

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

namespace {

// Which pixels of a line make one of the new line, and by what shares.
struct Share {
    int from = 0;
    std::vector<double> weights;
};

std::vector<Share> shares(int before, int after) {
    std::vector<Share> out(static_cast<std::size_t>(after));
    const double step = static_cast<double>(before) / after;
    for (int i = 0; i < after; ++i) {
        Share& s = out[static_cast<std::size_t>(i)];
        if (step > 1) {
            const double begin = i * step, end = (i + 1) * step;
            s.from = static_cast<int>(begin);
            for (int p = s.from; p < before && p < end; ++p)
                s.weights.push_back(std::min<double>(end, p + 1) - std::max<double>(begin, p));
        } else {
            const double middle = (i + 0.5) * step - 0.5;
            const int left = static_cast<int>(std::floor(middle));
            const double share = middle - left;
            s.from = std::clamp(left, 0, before - 1);
            if (left < 0 || left + 1 >= before)
                s.weights = {1.0};
            else
                s.weights = {1 - share, share};
        }
    }
    return out;
}

Image smoothly(const Image& image, Size size) {
    const auto across = shares(image.width(), size.w), down = shares(image.height(), size.h);
    Image out(size);
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x) {
            const Share &sx = across[static_cast<std::size_t>(x)], &sy = down[static_cast<std::size_t>(y)];
            double r = 0, g = 0, b = 0, a = 0, all = 0;
            for (std::size_t j = 0; j < sy.weights.size(); ++j)
                for (std::size_t i = 0; i < sx.weights.size(); ++i) {
                    const Rgba c = image.at(sx.from + static_cast<int>(i), sy.from + static_cast<int>(j));
                    const double w = sx.weights[i] * sy.weights[j];
                    r += w * c.r * c.a;
                    g += w * c.g * c.a;
                    b += w * c.b * c.a;
                    a += w * c.a;
                    all += w;
                }
            const auto byte = [](double v) { return static_cast<std::uint8_t>(std::clamp(v + 0.5, 0.0, 255.0)); };
            if (a > 0) out.set(x, y, {byte(r / a), byte(g / a), byte(b / a), byte(a / all)});
        }
    return out;
}

} // namespace

Image resampled(const Image& image, Size size, bool smooth) {
    if (image.size() == size) return image;
    if (smooth) return smoothly(image, size);
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
