#include "level/backdrop.hpp"

#include <algorithm>
#include <cmath>

#include "level/level.hpp"
#include "level/standing.hpp"

namespace vic::level {

Wash wash_of(const Backdrop& backdrop, const Level& level) {
    const auto stays = static_cast<unsigned>(100 - backdrop.steps_back);
    const auto goes = static_cast<unsigned>(backdrop.steps_back);
    const auto times = [&](unsigned v) { return static_cast<std::uint8_t>((v * stays + 50) / 100); };
    const auto plus = [&](unsigned v) { return static_cast<std::uint8_t>((v * goes + 50) / 100); };
    const Rgba t = backdrop.tint, g = level.ground;
    return {{times(t.r), times(t.g), times(t.b), t.a}, {plus(g.r), plus(g.g), plus(g.b), 0}};
}

Box seen_of(const Level& level, const Layer& layer) {
    const Box all = level.pixels();
    // The frame's corner goes from the level's to where its other side meets the level's other side. What is seen then
    // lies off by as much as the layer does not go along.
    const auto along = [](int from, int whole, int frame, int parallax) {
        const auto in_layer = [&](int corner) {
            return corner - static_cast<int>(std::lround(corner * (1 - parallax / 100.0)));
        };
        if (whole <= frame) return std::pair(in_layer(from), in_layer(from) + whole);
        return std::pair(in_layer(from), in_layer(from + whole - frame) + frame);
    };
    const auto [left, right] = along(all.x, all.w, level.frame.w, layer.parallax.x);
    const auto [top, bottom] = along(all.y, all.h, level.frame.h, layer.parallax.y);
    return {left, top, right - left, bottom - top};
}

Gaps gaps_of(const Level& level, const Layer& layer, Size picture) {
    const Backdrop& b = *layer.backdrop();
    const Box seen = seen_of(level, layer);
    const Box box = b.box(picture);
    Gaps out;
    if (!b.across) {
        out.left = std::clamp(box.x - seen.x, 0, seen.w);
        out.right = std::clamp(seen.right() - box.right(), 0, seen.w);
    }
    if (!b.down) {
        out.above = std::clamp(box.y - seen.y, 0, seen.h);
        out.below = std::clamp(seen.bottom() - box.bottom(), 0, seen.h);
    }
    return out;
}

} // namespace vic::level
