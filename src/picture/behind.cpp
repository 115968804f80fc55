#include "picture/behind.hpp"

#include <algorithm>
#include <cstdint>

#include "base/image.hpp"
#include "level/level.hpp"
#include "level/sheet.hpp"
#include "picture/blend.hpp"

namespace vic::picture {

namespace {

// Where there is no ground: squares of two greys in the window, nothing in a picture that is kept.
void fill_nothing(Canvas& canvas, const Box& clip) {
    constexpr int kSquare = 8;
    for (int y = clip.y; y < clip.bottom(); ++y)
        for (int x = clip.x; x < clip.right(); ++x) {
            const bool light = ((floor_div(x, kSquare) + floor_div(y, kSquare)) & 1) == 0;
            canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                          static_cast<std::size_t>(x - canvas.box.x)] = canvas.see_through ? 0
                                                                        : light            ? 0xFF8A8F8CU
                                                                                           : 0xFF7A807DU;
        }
}

} // namespace

void fill_ground(const level::Level& level, Canvas& canvas, const Box& clip) {
    if (level.ground.a == 0) return fill_nothing(canvas, clip);
    const std::uint32_t ground = premultiplied({level.ground.r, level.ground.g, level.ground.b, 255});
    for (int y = clip.y; y < clip.bottom(); ++y) {
        std::uint32_t* row =
            &canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                           static_cast<std::size_t>(clip.x - canvas.box.x)];
        std::fill(row, row + clip.w, ground);
    }
}

void draw_reference(const level::Project& project, const level::Level& level, Canvas& canvas, const Box& clip,
                    int small, bool over_all) {
    if (!level.reference || !level.reference->shown || level.reference->over != over_all) return;
    const level::Reference& r = *level.reference;
    const level::Sheet* sheet = project.sheet(r.sheet);
    if (!sheet || !sheet->image) return;
    const Image& picture = *sheet->image;
    const auto alpha = static_cast<std::uint32_t>((r.opacity * 255 + 50) / 100);
    const int half = (1 << small) / 2;
    const auto place = [&](int at, int from) { // in the picture, of a pixel of the canvas
        const std::int64_t off = (std::int64_t{at} << small) + half - from;
        return off < 0 ? std::int64_t{-1} : off * 100 / r.scale;
    };
    for (int y = clip.y; y < clip.bottom(); ++y) {
        const std::int64_t v = place(y, r.at.y);
        if (v < 0 || v >= picture.height()) continue;
        for (int x = clip.x; x < clip.right(); ++x) {
            const std::int64_t u = place(x, r.at.x);
            if (u < 0 || u >= picture.width()) continue;
            std::uint32_t& to =
                canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                              static_cast<std::size_t>(x - canvas.box.x)];
            to = over(scaled_bytes(premultiplied(picture.at(static_cast<int>(u), static_cast<int>(v))), alpha), to);
        }
    }
}

} // namespace vic::picture
