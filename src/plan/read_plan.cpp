#include "plan/read_plan.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <unordered_map>

#include "base/error.hpp"
#include "sheet/png.hpp"

namespace vic::plan {

using level::kMostPlan;
using level::kMostPlanKeys;
using level::kNoKey;

namespace {

constexpr int kFarAway = 1000;
constexpr Rgba kNothing{0, 0, 0, 0};

// Half see-through pixels are taken for what they show.
Rgba plain(Rgba c) { return c.a < 128 ? kNothing : Rgba{c.r, c.g, c.b, 255}; }

std::uint32_t packed(Rgba c) {
    return (std::uint32_t{c.a} << 24) | (std::uint32_t{c.r} << 16) | (std::uint32_t{c.g} << 8) | c.b;
}

// How far a colour is from the mixtures of two others.
double from_mixtures(Rgba c, Rgba a, Rgba b) {
    if (c.a == 0 || a.a == 0 || b.a == 0) return kFarAway;
    const double d[3] = {double(b.r) - a.r, double(b.g) - a.g, double(b.b) - a.b};
    const double e[3] = {double(c.r) - a.r, double(c.g) - a.g, double(c.b) - a.b};
    const double length = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
    if (length == 0) return distance(c, a);
    const double t = std::clamp((d[0] * e[0] + d[1] * e[1] + d[2] * e[2]) / length, 0.0, 1.0);
    double off = 0;
    for (int i = 0; i < 3; ++i) off += (e[i] - t * d[i]) * (e[i] - t * d[i]);
    return std::sqrt(off);
}

// The key nearest to the colour within `gather`; kNoKey where none is.
std::uint8_t nearest(Rgba c, const std::vector<Rgba>& keys, int gather) {
    std::uint8_t best = kNoKey;
    int least = gather + 1;
    for (std::size_t i = 0; i < keys.size(); ++i)
        if (const int d = distance(c, keys[i]); d < least) {
            least = d;
            best = static_cast<std::uint8_t>(i);
        }
    return best;
}

// The keys of the eight neighbours of a pixel, each once.
std::vector<std::uint8_t> beside(const std::vector<std::uint8_t>& keys, Size size, int x, int y) {
    std::vector<std::uint8_t> out;
    for (int dy = -1; dy <= 1; ++dy)
        for (int dx = -1; dx <= 1; ++dx) {
            if ((dx == 0 && dy == 0) || x + dx < 0 || y + dy < 0 || x + dx >= size.w || y + dy >= size.h) continue;
            const std::uint8_t k = keys[static_cast<std::size_t>((y + dy) * size.w + x + dx)];
            if (k != kNoKey && std::find(out.begin(), out.end(), k) == out.end()) out.push_back(k);
        }
    return out;
}

} // namespace

int distance(Rgba a, Rgba b) {
    if (plain(a).a != plain(b).a) return kFarAway;
    if (plain(a).a == 0) return 0;
    const int r = int{a.r} - b.r;
    const int g = int{a.g} - b.g;
    const int bl = int{a.b} - b.b;
    return static_cast<int>(std::lround(std::sqrt(double(r * r + g * g + bl * bl))));
}

std::vector<std::uint8_t> assigned(const Image& picture, const std::vector<Rgba>& keys, int gather, bool snap) {
    const Size size = picture.size();
    std::vector<std::uint8_t> out(static_cast<std::size_t>(size.area()), kNoKey);
    std::unordered_map<std::uint32_t, std::uint8_t> known;
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x) {
            const Rgba c = plain(picture.at(x, y));
            const auto [found, fresh] = known.try_emplace(packed(c), kNoKey);
            if (fresh) found->second = nearest(c, keys, snap ? gather : 0);
            out[static_cast<std::size_t>(y * size.w + x)] = found->second;
        }
    if (!snap) return out;
    // A smoothed edge is the nearer one of the two that meet there. Several pixels wide ones are gone through from
    // their rims.
    for (int round = 0; round < 4; ++round) {
        const std::vector<std::uint8_t> before = out;
        bool any = false;
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                std::uint8_t& key = out[static_cast<std::size_t>(y * size.w + x)];
                if (key != kNoKey) continue;
                const Rgba c = plain(picture.at(x, y));
                const auto near = beside(before, size, x, y);
                for (std::size_t i = 0; i < near.size(); ++i)
                    for (std::size_t k = i + 1; k < near.size(); ++k) {
                        const Rgba a = keys[near[i]];
                        const Rgba b = keys[near[k]];
                        if (from_mixtures(c, a, b) > gather) continue;
                        const std::uint8_t mine = distance(c, a) <= distance(c, b) ? near[i] : near[k];
                        if (key == kNoKey || distance(c, keys[mine]) < distance(c, keys[key])) key = mine;
                        any = true;
                    }
            }
        if (!any) break;
    }
    return out;
}

std::vector<Colour> colours(const Image& picture, int gather) {
    std::unordered_map<std::uint32_t, Colour> histogram;
    for (const Rgba raw : picture.pixels()) {
        const Rgba c = plain(raw);
        Colour& entry = histogram[packed(c)];
        entry.colour = c;
        ++entry.count;
    }
    std::vector<Colour> all;
    for (const auto& [key, entry] : histogram) all.push_back(entry);
    std::sort(all.begin(), all.end(), [](const Colour& a, const Colour& b) {
        return std::pair(-a.count, packed(a.colour)) < std::pair(-b.count, packed(b.colour));
    });
    std::vector<Rgba> keys;
    for (const Colour& c : all)
        if (keys.size() < kMostPlanKeys && nearest(c.colour, keys, gather) == kNoKey) keys.push_back(c.colour);
    // From the rarest on: is it an edge wherever it occurs? Never where it has a solid spot of its own.
    for (std::size_t i = keys.size(); i-- > 2;) {
        std::vector<Rgba> others = keys;
        others.erase(others.begin() + static_cast<std::ptrdiff_t>(i));
        const std::vector<std::uint8_t> mine = assigned(picture, keys, gather, true);
        const std::vector<std::uint8_t> without = assigned(picture, others, gather, true);
        const Size size = picture.size();
        std::int64_t count = 0;
        std::int64_t edges = 0;
        bool spot = false;
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                const auto at = static_cast<std::size_t>(y * size.w + x);
                if (mine[at] != i) continue;
                ++count;
                edges += without[at] != kNoKey;
                bool whole = x + 1 < size.w && y + 1 < size.h;
                for (const std::size_t by :
                     {std::size_t{1}, static_cast<std::size_t>(size.w), static_cast<std::size_t>(size.w) + 1})
                    whole = whole && mine[at + by] == i;
                spot = spot || whole;
            }
        if (!spot && count > 0 && edges * 10 >= count * 9) keys = std::move(others);
    }
    std::vector<Colour> out;
    for (const Rgba k : keys) out.push_back({k, 0});
    for (const std::uint8_t k : assigned(picture, keys, gather, true))
        if (k != kNoKey) ++out[k].count;
    std::stable_sort(out.begin(), out.end(), [](const Colour& a, const Colour& b) { return a.count > b.count; });
    return out;
}

Image upright(const Image& picture, bool bottom_up) {
    if (!bottom_up) return picture;
    Image out(picture.size());
    for (int y = 0; y < picture.height(); ++y)
        for (int x = 0; x < picture.width(); ++x) out.set(x, picture.height() - 1 - y, picture.at(x, y));
    return out;
}

Image read_picture(const std::string& bytes, const std::string& file) {
    Image picture = sheet::decode_png(bytes, file);
    if (picture.width() > kMostPlan || picture.height() > kMostPlan)
        throw InputError(
            say("The picture is %1 × %2 pixels, and a plan has one pixel a cell", picture.width(), picture.height()),
            file, "", say("Make it smaller, at most %1 a side, or cut it as a sheet instead", kMostPlan));
    return picture;
}

} // namespace vic::plan
