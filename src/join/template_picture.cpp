#include "join/template_picture.hpp"

#include <algorithm>
#include <cassert>

namespace vic::join {

namespace {

constexpr Rgba kWash{46, 125, 116, 70}, kLine{46, 125, 116, 200}, kLeftOver{120, 110, 95, 60};

// Whether the place, in pixels of a tile, is the material's in a tile of the case.
bool inside(Mask mask, level::JoinKind kind, Size tile, int x, int y) {
    const auto joins = [&](int bit) { return (mask & (1U << (bit & 7))) != 0; };
    if (kind == level::JoinKind::corners) {
        const bool east = 2 * x >= tile.w, south = 2 * y >= tile.h;
        return joins(east ? (south ? 3 : 1) : (south ? 5 : 7));
    }
    const int rim_x = std::max(1, tile.w / 5), rim_y = std::max(1, tile.h / 5);
    const bool west = x < rim_x, east = x >= tile.w - rim_x, north = y < rim_y, south = y >= tile.h - rim_y;
    if ((north && !joins(0)) || (east && !joins(2)) || (south && !joins(4)) || (west && !joins(6))) return false;
    if (kind != level::JoinKind::full) return true;
    return !((north && east && !joins(1)) || (south && east && !joins(3)) || (south && west && !joins(5)) ||
             (north && west && !joins(7)));
}

} // namespace

Size template_layout(level::JoinKind kind) {
    assert(kind != level::JoinKind::plain);
    return kind == level::JoinKind::full ? Size{8, 6} : Size{4, 4};
}

std::vector<std::optional<Mask>> template_masks(level::JoinKind kind) {
    std::vector<std::optional<Mask>> out(static_cast<std::size_t>(template_layout(kind).area()));
    const auto& all = cases(kind);
    for (std::size_t i = 0; i < all.size(); ++i) out[i] = all[i];
    return out;
}

Image template_picture(level::JoinKind kind, Size tile) {
    const Size layout = template_layout(kind);
    const auto masks = template_masks(kind);
    Image out({layout.w * tile.w, layout.h * tile.h}, {});
    for (std::size_t i = 0; i < masks.size(); ++i) {
        const Point at{static_cast<int>(i) % layout.w * tile.w, static_cast<int>(i) / layout.w * tile.h};
        for (int y = 0; y < tile.h; ++y)
            for (int x = 0; x < tile.w; ++x) {
                const Point p{at.x + x, at.y + y};
                if (!masks[i]) {
                    if ((x + y) % 4 == 0) out.set(p.x, p.y, kLeftOver);
                    continue;
                }
                if (!inside(*masks[i], kind, tile, x, y)) continue;
                const auto open = [&](int dx, int dy) {
                    const int nx = x + dx, ny = y + dy;
                    return nx >= 0 && ny >= 0 && nx < tile.w && ny < tile.h && !inside(*masks[i], kind, tile, nx, ny);
                };
                out.set(p.x, p.y, open(1, 0) || open(-1, 0) || open(0, 1) || open(0, -1) ? kLine : kWash);
            }
    }
    return out;
}

} // namespace vic::join
