#include "picture/backdrop.hpp"

#include <algorithm>
#include <cmath>
#include <vector>

#include "picture/behind.hpp"
#include "picture/blend.hpp"
#include "picture/blit.hpp"

namespace vic::picture {

namespace {

int wrapped(int v, int size) { return v - floor_div(v, size) * size; }

// Which pixels of a picture are seen along one axis: two and how much of the second there is in 256, so that smooth and
// crisp are one. None where the first is -1.
struct Sample {
    int first = -1, second = -1;
    std::uint32_t share = 0;
};

struct Axis {
    int at, drawn; // pixels of the level
    int picture;   // pixels of the picture that is sampled
    bool repeats, smooth;
};

Sample sample_at(const Axis& a, int pixel, int small) {
    const int size = 1 << small;
    if (small == 0 && !a.smooth) {
        const int t = pixel - a.at;
        if (!a.repeats && (t < 0 || t >= a.drawn)) return {};
        const auto from = static_cast<int>(std::int64_t{a.repeats ? wrapped(t, a.drawn) : t} * a.picture / a.drawn);
        return {from, from, 0};
    }
    const double middle = double(pixel) * size + size / 2.0 - a.at;
    if (!a.repeats && (middle < 0 || middle >= a.drawn)) return {};
    const double in_picture = middle * a.picture / a.drawn - 0.5;
    const double below = std::floor(in_picture);
    const auto share = static_cast<std::uint32_t>(std::lround((in_picture - below) * 256));
    const auto within = [&](double v) {
        if (!a.repeats) return static_cast<int>(std::clamp(v, 0.0, double(a.picture - 1)));
        return static_cast<int>(v - std::floor(v / a.picture) * a.picture);
    };
    return {within(below), within(below + 1), share};
}

std::vector<Sample> samples(const Axis& axis, int from, int to, int small) {
    std::vector<Sample> out;
    out.reserve(static_cast<std::size_t>(std::max(0, to - from)));
    for (int v = from; v < to; ++v) out.push_back(sample_at(axis, v, small));
    return out;
}

std::uint32_t between(std::uint32_t a, std::uint32_t b, std::uint32_t share) {
    if (share == 0 || a == b) return a;
    const auto part = [&](int shift) {
        const std::uint32_t from = (a >> shift) & 255U, to = (b >> shift) & 255U;
        return ((from * (256 - share) + to * share + 128) >> 8) << shift;
    };
    return part(24) | part(16) | part(8) | part(0);
}

// How often the picture must be halved so that a pixel of the result has no more than two of it under it.
int halvings(double pixels_under_one) {
    int out = 0;
    for (; pixels_under_one >= 2 && out < 15; pixels_under_one /= 2) ++out;
    return out;
}

} // namespace

void draw_backdrop(const level::Level& level, const level::Layer& layer, Art& art, Canvas& canvas, const Box& clip,
                   int small) {
    const level::Backdrop& backdrop = *layer.backdrop();
    const Art::Picture* full = art.whole_picture(backdrop.sheet);
    if (!full || full->size.area() == 0) return;
    Box box = backdrop.box(full->size);
    const bool as_it_is = box.size() == full->size;
    const Art::Picture* from = full;
    bool smooth = backdrop.smooth && !as_it_is;
    if (small > 0 && as_it_is && backdrop.across && backdrop.down && wrapped(box.x, 1 << small) == 0 &&
        wrapped(box.y, 1 << small) == 0) {
        // Exact means, of as many repetitions as come out as whole small pixels.
        from = art.whole_picture(backdrop.sheet, small);
        box = {box.x >> small, box.y >> small, from->size.w, from->size.h};
        small = 0;
    } else if (small > 0 || smooth) {
        const double under = std::max(double(full->size.w) / box.w, double(full->size.h) / box.h);
        from = art.halved_picture(backdrop.sheet, halvings(std::ldexp(under, small)));
        smooth = true;
    }
    level::Wash wash = level::wash_of(backdrop, level);
    wash.times.a = static_cast<std::uint8_t>((wash.times.a * layer.opacity + 50) / 100);
    const bool washes = wash.changes();
    const auto across = samples({box.x, box.w, from->size.w, backdrop.across, smooth}, clip.x, clip.right(), small);
    const auto down = samples({box.y, box.h, from->size.h, backdrop.down, smooth}, clip.y, clip.bottom(), small);
    for (int y = clip.y; y < clip.bottom(); ++y) {
        const Sample row = down[static_cast<std::size_t>(y - clip.y)];
        if (row.first < 0) continue;
        const std::uint32_t* upper =
            &from->pixels[static_cast<std::size_t>(row.first) * static_cast<std::size_t>(from->size.w)];
        const std::uint32_t* lower =
            &from->pixels[static_cast<std::size_t>(row.second) * static_cast<std::size_t>(from->size.w)];
        std::uint32_t* to =
            &canvas.pixels[static_cast<std::size_t>(y - canvas.box.y) * static_cast<std::size_t>(canvas.box.w) +
                           static_cast<std::size_t>(clip.x - canvas.box.x)];
        for (const Sample& s : across) {
            std::uint32_t& pixel = *to++;
            if (s.first < 0) continue;
            std::uint32_t p = between(upper[s.first], upper[s.second], s.share);
            if (row.share != 0) p = between(p, between(lower[s.first], lower[s.second], s.share), row.share);
            if (p >> 24) pixel = over(washes ? washed_pixel(p, wash) : p, pixel);
        }
    }
}

void draw_frame(const level::Project& project, const level::Level& level, Art& art, Canvas& canvas) {
    art.update(project);
    const Box frame = canvas.box;
    level::Level bare = level;
    bare.reference.reset();
    for (std::size_t i = 0; i < bare.layers.size(); ++i) bare.edit(bare.layers[i]->id).shown = false;
    fill_ground(level, canvas, frame);
    for (std::size_t i = 0; i < level.layers.size();) {
        const level::Layer& first = *level.layers[i];
        // Pixels by which it lies aside, as the player has it.
        const Point aside{static_cast<int>(std::lround(frame.x * (1 - first.parallax.x / 100.0))),
                          static_cast<int>(std::lround(frame.y * (1 - first.parallax.y / 100.0)))};
        const Box there = frame.moved({-aside.x, -aside.y});
        if (first.backdrop()) { // goes on beyond the level
            if (first.shown && first.opacity > 0) {
                canvas.box = there;
                draw_backdrop(level, first, art, canvas, there, 0);
                canvas.box = frame;
            }
            ++i;
            continue;
        }
        // Those that go along as far are one, for the sake of the order of feet.
        level::Level some = bare;
        some.ground.a = 0;
        std::size_t end = i;
        for (; end < level.layers.size() && level.layers[end]->parallax == first.parallax &&
               !level.layers[end]->backdrop();
             ++end)
            some.layers[end] = level.layers[end];
        Canvas laid(there);
        laid.see_through = true;
        draw(project, some, art, laid, there);
        for (std::size_t p = 0; p < laid.pixels.size(); ++p)
            if (laid.pixels[p] >> 24) canvas.pixels[p] = over(laid.pixels[p], canvas.pixels[p]);
        i = end;
    }
}

} // namespace vic::picture
