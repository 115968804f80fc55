#include "art.hpp"

#include <algorithm>
#include <cmath>

#include "base/chance.hpp"

namespace pell {

double chance(int x, int y, int seed) {
    return static_cast<double>(vic::place_hash(static_cast<std::uint64_t>(seed) * 7919 + 13, x, y) >> 11) /
           9007199254740992.0;
}

double depth_inside(vic::join::Mask mask, Point p, double round) {
    using namespace vic::join;
    const double x = p.x + 0.5;
    const double y = p.y + 0.5;
    const double far = kTile;
    const double to_n = mask & kN ? far : y;
    const double to_e = mask & kE ? far : kTile - x;
    const double to_s = mask & kS ? far : kTile - y;
    const double to_w = mask & kW ? far : x;
    double depth = std::min({to_n, to_e, to_s, to_w, far});
    // Outer corners: within `round` of both open sides the distance is to a circle.
    const auto corner = [&](double a, double b) {
        if (a < round && b < round) depth = std::min(depth, round - std::hypot(round - a, round - b));
    };
    corner(to_n, to_e);
    corner(to_e, to_s);
    corner(to_s, to_w);
    corner(to_w, to_n);
    // Inner corners: the distance to the corner point.
    const auto notch = [&](Mask before, Mask at, Mask after, double cx, double cy) {
        if ((mask & before) && (mask & after) && !(mask & at)) depth = std::min(depth, std::hypot(x - cx, y - cy));
    };
    notch(kN, kNE, kE, kTile, 0);
    notch(kE, kSE, kS, kTile, kTile);
    notch(kS, kSW, kW, 0, kTile);
    notch(kW, kNW, kN, 0, 0);
    return depth;
}

void fill(Image& image, const Box& box, Rgba c) {
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x) image.put(x, y, c);
}

void line(Image& image, Point a, Point b, Rgba c, int thick) {
    const int steps = std::max({std::abs(b.x - a.x), std::abs(b.y - a.y), 1});
    for (int i = 0; i <= steps; ++i) {
        const int x = a.x + static_cast<int>(std::lround(double(b.x - a.x) * i / steps));
        const int y = a.y + static_cast<int>(std::lround(double(b.y - a.y) * i / steps));
        fill(image, {x - thick / 2, y - thick / 2, thick, thick}, c);
    }
}

void polygon(Image& image, const std::vector<Point>& points, const std::function<Rgba(int, int)>& colour) {
    for (int y = 0; y < image.height(); ++y) {
        for (int x = 0; x < image.width(); ++x) {
            bool inside = false;
            for (std::size_t i = 0, j = points.size() - 1; i < points.size(); j = i++) {
                const double yi = points[i].y, yj = points[j].y;
                const double py = y + 0.5;
                if ((yi > py) == (yj > py)) continue;
                const double at = points[i].x + (py - yi) / (yj - yi) * (points[j].x - points[i].x);
                if (x + 0.5 < at) inside = !inside;
            }
            if (inside) image.set(x, y, colour(x, y));
        }
    }
}

void disc(Image& image, Point centre, int radius, const std::function<Rgba(int, int)>& colour) {
    for (int y = -radius; y <= radius; ++y)
        for (int x = -radius; x <= radius; ++x)
            if (x * x + y * y <= radius * radius + radius / 2)
                image.put(centre.x + x, centre.y + y, colour(centre.x + x, centre.y + y));
}

void paste(Image& image, const Image& part, Point at) {
    for (int y = 0; y < part.height(); ++y)
        for (int x = 0; x < part.width(); ++x)
            if (part.at(x, y).a) image.put(at.x + x, at.y + y, part.at(x, y));
}

void outline(Image& image, Rgba c) {
    const Image before = image;
    const auto opaque = [&](int x, int y) {
        return x >= 0 && y >= 0 && x < before.width() && y < before.height() && before.at(x, y).a != 0;
    };
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (!opaque(x, y) && (opaque(x - 1, y) || opaque(x + 1, y) || opaque(x, y - 1) || opaque(x, y + 1)))
                image.set(x, y, c);
}

Rgba brick_at(int x, int y, int seed, const std::array<Rgba, 3>& bricks, Rgba mortar) {
    const int course = ((y % 16) + 16) % 16 / 4;
    const int shift = course % 2 ? 4 : 0;
    const int along = (x + shift + 16) % 16;
    if (y % 4 == 3 || along % 8 == 7) return mortar;
    const double c = chance(along / 8, course, seed);
    Rgba colour = bricks[c < 0.3 ? 0 : c < 0.75 ? 1 : 2];
    // A lit upper edge on some bricks keeps the wall from lying flat.
    if (y % 4 == 0 && c > 0.4) colour = bricks[std::min<std::size_t>(2, (c < 0.75 ? 1U : 2U) + 1U)];
    return colour;
}

Image sheet_of(const std::vector<Image>& tiles, int columns, int margin, int gap, Rgba gap_colour) {
    const Size tile = tiles.front().size();
    const int rows = (static_cast<int>(tiles.size()) + columns - 1) / columns;
    Image out({2 * margin + columns * tile.w + (columns - 1) * gap, 2 * margin + rows * tile.h + (rows - 1) * gap},
              gap_colour);
    for (std::size_t i = 0; i < static_cast<std::size_t>(columns * rows); ++i) {
        const int cx = margin + static_cast<int>(i) % columns * (tile.w + gap);
        const int cy = margin + static_cast<int>(i) / columns * (tile.h + gap);
        for (int y = 0; y < tile.h; ++y)
            for (int x = 0; x < tile.w; ++x) out.set(cx + x, cy + y, i < tiles.size() ? tiles[i].at(x, y) : ink::none);
    }
    return out;
}

} // namespace pell
