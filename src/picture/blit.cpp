#include "picture/blit.hpp"

#include <algorithm>
#include <cmath>

#include "picture/blend.hpp"

namespace vic::picture {

namespace {

constexpr std::uint32_t kGoneInk = 0xFFC2452D;
constexpr std::uint32_t kGonePaper = 0xFFF1ECE0;

// row(from, to, pixels) for what of a picture with its corner there lies in the clip.
template <class Row>
void each_row(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, Row row) {
    const Box seen = intersection({at.x, at.y, picture.size.w, picture.size.h}, clip);
    for (int y = seen.y; y < seen.bottom(); ++y)
        row(&picture.pixels[static_cast<std::size_t>((y - at.y) * picture.size.w + seen.x - at.x)],
            &canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                           static_cast<std::size_t>(seen.x - canvas.box.x)],
            seen.w);
}

} // namespace

void blit(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const level::Layer& layer) {
    const auto alpha = static_cast<std::uint32_t>((layer.opacity * 255 + 50) / 100);
    const bool tints = layer.tint.r != 255 || layer.tint.g != 255 || layer.tint.b != 255;
    each_row(canvas, clip, picture, at, [&](const std::uint32_t* from, std::uint32_t* to, int w) {
        if (tints)
            for (int x = 0; x < w; ++x) to[x] = over(scaled_bytes(coloured(from[x], layer.tint), alpha), to[x]);
        else if (picture.opaque && alpha == 255)
            std::copy(from, from + w, to);
        else if (alpha == 255)
            for (int x = 0; x < w; ++x) to[x] = over(from[x], to[x]);
        else
            for (int x = 0; x < w; ++x) to[x] = over(scaled_bytes(from[x], alpha), to[x]);
    });
}

void blit_washed(Canvas& canvas, const Box& clip, const Art::Picture& picture, Point at, const level::Layer& layer,
                 const level::Wash& wash) {
    if (!wash.changes()) return blit(canvas, clip, picture, at, layer);
    // The layer's tint comes after the prop's own.
    level::Wash all = level::washed(wash, {{layer.tint.r, layer.tint.g, layer.tint.b, 255}, {}});
    all.times.a = static_cast<std::uint8_t>((all.times.a * layer.opacity + 50) / 100);
    each_row(canvas, clip, picture, at, [&](const std::uint32_t* from, std::uint32_t* to, int w) {
        for (int x = 0; x < w; ++x)
            if (from[x] >> 24) to[x] = over(washed_pixel(from[x], all), to[x]);
    });
}

void draw_gone(Canvas& canvas, const Box& clip, const Box& cell, bool diamond) {
    const Box seen = intersection(cell, clip);
    for (int y = seen.y; y < seen.bottom(); ++y) {
        for (int x = seen.x; x < seen.right(); ++x) {
            const int dx = x - cell.x;
            const int dy = y - cell.y;
            bool rim = dx == 0 || dy == 0 || dx == cell.w - 1 || dy == cell.h - 1;
            bool cross = dx * cell.h / cell.w == dy || dx * cell.h / cell.w == cell.h - 1 - dy;
            if (diamond) {
                const double off = std::abs(2.0 * dx + 1 - cell.w) / cell.w + std::abs(2.0 * dy + 1 - cell.h) / cell.h;
                if (off > 1) continue;
                cross = dx == cell.w / 2 || dy == cell.h / 2;
                rim = off > 1 - 4.0 / cell.h;
            }
            canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                          static_cast<std::size_t>(x - canvas.box.x)] = rim || cross ? kGoneInk : kGonePaper;
        }
    }
}

} // namespace vic::picture
