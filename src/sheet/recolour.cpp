#include "sheet/recolour.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <unordered_map>
#include <utility>

namespace vic::sheet {

namespace {

std::uint32_t key_of(Rgba c) {
    return c.r | (std::uint32_t{c.g} << 8) | (std::uint32_t{c.b} << 16) | (std::uint32_t{c.a} << 24);
}

struct Hsl {
    double h = 0, s = 0, l = 0; // h in sixths of a turn
};

Hsl hsl_of(Rgba c) {
    const double r = c.r / 255.0, g = c.g / 255.0, b = c.b / 255.0;
    const double most = std::max({r, g, b}), least = std::min({r, g, b}), range = most - least;
    Hsl out{0, 0, (most + least) / 2};
    if (range <= 0) return out;
    out.s = range / (1 - std::abs(2 * out.l - 1));
    out.h = most == r ? (g - b) / range : most == g ? 2 + (b - r) / range : 4 + (r - g) / range;
    return out;
}

Rgba rgb_of(const Hsl& c, std::uint8_t alpha) {
    const double range = (1 - std::abs(2 * c.l - 1)) * c.s;
    const double h = c.h - 6 * std::floor(c.h / 6);
    const double middle = range * (1 - std::abs(std::fmod(h, 2.0) - 1));
    const double least = c.l - range / 2;
    const double parts[6][3] = {{range, middle, 0}, {middle, range, 0}, {0, range, middle},
                                {0, middle, range}, {middle, 0, range}, {range, 0, middle}};
    const auto& p = parts[std::min(5, static_cast<int>(h))];
    const auto part = [&](double v) {
        return static_cast<std::uint8_t>(std::clamp<long>(std::lround((v + least) * 255), 0, 255));
    };
    return {part(p[0]), part(p[1]), part(p[2]), alpha};
}

} // namespace

Rgba recoloured(Rgba colour, const level::Recolour& by) {
    for (const auto& [from, to] : by.swaps)
        if (from.r == colour.r && from.g == colour.g && from.b == colour.b) return {to.r, to.g, to.b, colour.a};
    if (colour.a == 0 || (by.hue == 0 && by.saturation == 0 && by.lightness == 0)) return colour;
    Hsl c = hsl_of(colour);
    c.h += by.hue / 60.0;
    c.s = std::clamp(c.s * (1 + by.saturation / 100.0), 0.0, 1.0);
    const double light = by.lightness / 100.0;
    c.l = light > 0 ? c.l + (1 - c.l) * light : c.l * (1 + light);
    return rgb_of(c, colour.a);
}

Image recoloured(const Image& image, const level::Recolour& by) {
    Image out = image;
    std::unordered_map<std::uint32_t, Rgba> known;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const Rgba c = image.at(x, y);
            const auto [at, fresh] = known.try_emplace(key_of(c));
            if (fresh) at->second = recoloured(c, by);
            out.set(x, y, at->second);
        }
    return out;
}

std::vector<Rgba> common_colours(const Image& image, const std::vector<Box>& of, std::size_t most) {
    std::unordered_map<std::uint32_t, std::pair<std::int64_t, Rgba>> counts;
    for (const Box& wanted : of) {
        const Box box = intersection(wanted, box_of(image.size()));
        for (int y = box.y; y < box.bottom(); ++y)
            for (int x = box.x; x < box.right(); ++x) {
                Rgba c = image.at(x, y);
                if (c.a < 128) continue;
                c.a = 255;
                auto& [count, colour] = counts[key_of(c)];
                ++count;
                colour = c;
            }
    }
    std::vector<std::pair<std::int64_t, Rgba>> all;
    for (const auto& [key, counted] : counts) all.push_back(counted);
    std::sort(all.begin(), all.end(), [](const auto& a, const auto& b) {
        return a.first != b.first ? a.first > b.first : key_of(a.second) < key_of(b.second);
    });
    std::vector<Rgba> out;
    for (std::size_t i = 0; i < std::min(most, all.size()); ++i) out.push_back(all[i].second);
    return out;
}

} // namespace vic::sheet
