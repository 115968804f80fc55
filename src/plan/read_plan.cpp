#include "plan/read_plan.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <unordered_map>
#include <utility>

#include "base/error.hpp"
#include "sheet/png.hpp"

namespace vic::plan {

using level::kMostPlan;
using level::kMostPlanKeys;
using level::kNoKey;

namespace {

constexpr int kFarAway = 1000;
constexpr int kMostMoved = 110;   // how far compression or noise moves a colour
constexpr double kBeside = 0.25;  // what a neighbour of the key is worth
constexpr double kClearly = 0.75; // of the distance of the second
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
    for (std::size_t i = 0; i < keys.size(); ++i) {
        if (std::abs(int{c.r} - keys[i].r) >= least && c.a != 0 && keys[i].a != 0) continue;
        if (const int d = distance(c, keys[i]); d < least) {
            least = d;
            best = static_cast<std::uint8_t>(i);
        }
    }
    return best;
}

// The keys of the eight neighbours of a pixel, each once.
struct Beside {
    std::array<std::uint8_t, 8> keys{};
    std::size_t count = 0;
    Beside(const std::vector<std::uint8_t>& all, Size size, int x, int y) {
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                if ((dx == 0 && dy == 0) || x + dx < 0 || y + dy < 0 || x + dx >= size.w || y + dy >= size.h) continue;
                const std::uint8_t k = all[static_cast<std::size_t>((y + dy) * size.w + x + dx)];
                if (k != kNoKey && std::find(keys.begin(), keys.begin() + count, k) == keys.begin() + count)
                    keys[count++] = k;
            }
    }
};

// A smoothed edge is the nearer one of the two that meet there. Several pixels wide ones are gone through from their
// rims. `open` are the pixels that have no key yet; those that get one leave it.
void snap_edges(const Image& picture, const std::vector<Rgba>& keys, int gather, std::vector<std::uint8_t>& out,
                std::vector<int> open) {
    const Size size = picture.size();
    for (int round = 0; round < 4 && !open.empty(); ++round) {
        std::vector<std::pair<int, std::uint8_t>> found;
        std::vector<int> left;
        for (const int at : open) {
            const int x = at % size.w, y = at / size.w;
            const Rgba c = plain(picture.at(x, y));
            const Beside near(out, size, x, y);
            std::uint8_t key = kNoKey;
            for (std::size_t i = 0; i < near.count; ++i)
                for (std::size_t k = i + 1; k < near.count; ++k) {
                    const Rgba a = keys[near.keys[i]];
                    const Rgba b = keys[near.keys[k]];
                    if (from_mixtures(c, a, b) > gather) continue;
                    const std::uint8_t mine = distance(c, a) <= distance(c, b) ? near.keys[i] : near.keys[k];
                    if (key == kNoKey || distance(c, keys[mine]) < distance(c, keys[key])) key = mine;
                }
            if (key == kNoKey)
                left.push_back(at);
            else
                found.emplace_back(at, key);
        }
        if (found.empty()) break;
        for (const auto& [at, key] : found) out[static_cast<std::size_t>(at)] = key;
        open = std::move(left);
    }
}

// Compression and noise move colours further than that. What is still open is the nearest key where that is clearly
// nearer than any other, or near enough and already lies beside the pixel more than any other.
void take_near(const Image& picture, const std::vector<Rgba>& keys, std::vector<std::uint8_t>& out) {
    const Size size = picture.size();
    const std::vector<std::uint8_t> before = out;
    for (int y = 0; y < size.h; ++y)
        for (int x = 0; x < size.w; ++x) {
            const auto at = static_cast<std::size_t>(y * size.w + x);
            const Rgba c = plain(picture.at(x, y));
            if (before[at] != kNoKey || c.a == 0) continue;
            std::array<int, kMostPlanKeys> beside{};
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    if (x + dx < 0 || y + dy < 0 || x + dx >= size.w || y + dy >= size.h) continue;
                    const std::uint8_t k = before[static_cast<std::size_t>((y + dy) * size.w + x + dx)];
                    if (k != kNoKey) ++beside[k];
                }
            // A neighbour counts as if the colour were nearer.
            double least = 1e9, second = 1e9;
            std::uint8_t best = kNoKey;
            for (std::size_t i = 0; i < keys.size(); ++i) {
                const int d = distance(c, keys[i]);
                if (d > kMostMoved) continue;
                const double weighed = d / (1 + kBeside * beside[i]);
                if (weighed < least) {
                    second = std::exchange(least, weighed);
                    best = static_cast<std::uint8_t>(i);
                } else {
                    second = std::min(second, weighed);
                }
            }
            if (best != kNoKey && least <= kClearly * second) out[at] = best;
        }
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
    std::vector<int> open;
    for (std::size_t i = 0; i < out.size(); ++i)
        if (out[i] == kNoKey) open.push_back(static_cast<int>(i));
    snap_edges(picture, keys, gather, out, std::move(open));
    for (int round = 0; round < 2 && gather > 0; ++round) take_near(picture, keys, out);
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
    // From the rarest on: is it an edge wherever it occurs? Never where it has a solid spot of its own. Only the pixels
    // that are its own are looked at, so that all of it costs little more than the picture has pixels.
    const Size size = picture.size();
    std::vector<std::uint8_t> mine = assigned(picture, keys, gather, true);
    std::vector<std::vector<int>> pixels(keys.size());
    for (std::size_t at = 0; at < mine.size(); ++at)
        if (mine[at] != kNoKey) pixels[mine[at]].push_back(static_cast<int>(at));
    std::vector<Rgba> others = keys;
    for (std::size_t i = keys.size(); i-- > 2;) {
        const auto is_mine = [&](int x, int y) {
            return x < size.w && y < size.h && mine[static_cast<std::size_t>(y * size.w + x)] == i;
        };
        const bool spot = std::any_of(pixels[i].begin(), pixels[i].end(), [&](int at) {
            const int x = at % size.w, y = at / size.w;
            return is_mine(x + 1, y) && is_mine(x, y + 1) && is_mine(x + 1, y + 1);
        });
        if (spot || pixels[i].empty()) continue;
        std::vector<Rgba> without = others;
        without.erase(without.begin() + static_cast<std::ptrdiff_t>(i));
        std::vector<std::uint8_t> again = mine;
        std::vector<int> open;
        for (const int at : pixels[i]) {
            std::uint8_t key = nearest(plain(picture.at(at % size.w, at / size.w)), without, gather);
            if (key != kNoKey && key >= i) ++key;
            again[static_cast<std::size_t>(at)] = key;
            if (key == kNoKey) open.push_back(at);
        }
        snap_edges(picture, others, gather, again, std::move(open));
        const auto edges = std::count_if(pixels[i].begin(), pixels[i].end(),
                                         [&](int at) { return again[static_cast<std::size_t>(at)] != kNoKey; });
        if (edges * 10 < static_cast<std::int64_t>(pixels[i].size()) * 9) continue;
        for (const int at : pixels[i])
            if (const std::uint8_t key = again[static_cast<std::size_t>(at)]; key != kNoKey) pixels[key].push_back(at);
        mine = std::move(again);
        others.erase(others.begin() + static_cast<std::ptrdiff_t>(i));
        pixels.erase(pixels.begin() + static_cast<std::ptrdiff_t>(i));
        for (std::uint8_t& key : mine)
            if (key != kNoKey && key > i) --key;
    }
    keys = std::move(others);
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
