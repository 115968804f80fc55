#include "sheet/isometric.hpp"

#include <algorithm>
#include <cmath>

#include "sheet/cut.hpp"

namespace vic::sheet {

namespace {

int diamond_height(Size tile) { return std::min(tile.h, std::max(1, tile.w / 2)); }

// How far a pixel lies from the middle of the diamond that begins `top` rows down: below 1 inside, 1 on its rim.
double off_middle(Size tile, int top, int x, int y) {
    const int h = diamond_height(tile);
    return std::abs(2.0 * x + 1 - tile.w) / tile.w + std::abs(2.0 * (y - top) + 1 - h) / h;
}

// The share of a diamond's pixels that are opaque; its rim does not count.
double filled(const Image& art, int top) {
    const int h = diamond_height(art.size());
    const double rim = 2.0 / std::max(2, h);
    std::int64_t all = 0, full = 0;
    for (int y = top; y < top + h; ++y)
        for (int x = 0; x < art.width(); ++x) {
            if (off_middle(art.size(), top, x, y) > 1 - rim) continue;
            ++all;
            full += art.at(x, y).a >= 128;
        }
    return all > 0 ? static_cast<double>(full) / static_cast<double>(all) : 0;
}

} // namespace

bool is_isometric(const level::Sheet& sheet) {
    if (!sheet.image) return false;
    constexpr double kFull = 0.97;
    constexpr double kStray = 0.02; // of the pixels beside the diamonds
    std::int64_t beside = 0, stray = 0;
    bool any_full = false;
    for (const level::Tile& t : sheet.tiles) {
        if (t.blank || t.is_block()) continue;
        const Image art = tile_art(sheet, t);
        if (art.width() < 8 || art.height() < 4 || art.height() > 4 * art.width()) return false;
        const int h = diamond_height(art.size());
        const int top = art.height() - h;
        const double rim = 3.0 / h;
        for (int y = 0; y < art.height(); ++y)
            for (int x = 0; x < art.width(); ++x) {
                // What stands up has pixels beside the upper half; beside the lower half nothing may be.
                if (top > 0 && y < top + h / 2) continue;
                if (off_middle(art.size(), top, x, y) <= 1 + rim) continue;
                ++beside;
                stray += art.at(x, y).a >= 128;
            }
        any_full = any_full || filled(art, top) >= kFull;
    }
    return any_full && beside > 0 && static_cast<double>(stray) <= kStray * static_cast<double>(beside);
}

Image flattened(const Image& art) {
    const int w = art.width();
    const int h = diamond_height(art.size());
    const int bottom = art.height() - h;
    const int top = bottom > 0 && filled(art, 0) >= filled(art, bottom) ? 0 : bottom;
    // Half as many pixels a side as the diamond is wide: as many as it has, so that none is invented.
    const int side = std::max(1, w / 2);
    Image out({side, side});
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            // A pixel seen from above is a small diamond, two of the art's pixels wide.
            const double px = (x - y + side) * (w / (2.0 * side));
            const double py = (x + y + 1) * (h / (2.0 * side));
            unsigned sum[4] = {0, 0, 0, 0}, count = 0, opaque = 0;
            for (const double dx : {-0.5, 0.5})
                for (const double dy : {-0.25, 0.25}) {
                    const Rgba c = art.at(std::clamp(static_cast<int>(std::floor(px + dx)), 0, w - 1),
                                          top + std::clamp(static_cast<int>(std::floor(py + dy)), 0, h - 1));
                    ++count;
                    if (c.a < 128) continue;
                    ++opaque;
                    sum[0] += c.r, sum[1] += c.g, sum[2] += c.b, sum[3] += c.a;
                }
            // The rim's steps leave out some: one that is there tells.
            if (2 * opaque < count && !(opaque > 0 && (x == 0 || y == 0 || x == side - 1 || y == side - 1))) continue;
            const auto mean = [&](unsigned s) { return static_cast<std::uint8_t>(s / opaque); };
            out.set(x, y, {mean(sum[0]), mean(sum[1]), mean(sum[2]), mean(sum[3])});
        }
    return out;
}

Image ground_art(const level::Sheet& sheet, const level::Tile& tile, bool isometric) {
    Image art = tile_art(sheet, tile);
    return isometric && !art.empty() ? flattened(art) : art;
}

} // namespace vic::sheet
