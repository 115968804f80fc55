#include "edit/backdrop.hpp"

#include <algorithm>
#include <cmath>

#include "level/backdrop.hpp"

namespace vic::edit {

using namespace level;

namespace {

int drawn_side(double v) { return static_cast<int>(std::clamp(std::lround(v), 1L, long{kMostBackdropPixels})); }

// Of whole pixels, kept within what a level may say.
int place(double v) {
    return static_cast<int>(std::clamp(std::lround(v), -long{kMostBackdropPixels}, long{kMostBackdropPixels}));
}

Size times(Size picture, double by) {
    const Size out{drawn_side(picture.w * by), drawn_side(picture.h * by)};
    return out == picture ? Size{} : out;
}

// Where the walker stands, in pixels of the layer while the frame is around him.
int floor_of(const Level& level, const Layer& layer) {
    const Box seen = seen_of(level, layer);
    const Mark* start = level.first_mark(MarkKind::start);
    if (!start || level.view != View::from_the_side) return seen.bottom();
    const Box all = level.pixels();
    const int foot = start->cells.bottom() * level.cell.h;
    const int frame = all.h <= level.frame.h
                          ? all.y + (all.h - level.frame.h) / 2
                          : std::clamp(foot - level.cell.h - level.frame.h / 2, all.y, all.bottom() - level.frame.h);
    return foot - static_cast<int>(std::lround(frame * (1 - layer.parallax.y / 100.0)));
}

} // namespace

Backdrop fitted(const Level& level, const Layer& layer, Size picture, Fit to) {
    Backdrop out = *layer.backdrop();
    const Box seen = seen_of(level, layer);
    switch (to) {
        case Fit::frame: {
            out.drawn = times(picture, std::max(double(level.frame.w) / picture.w, double(level.frame.h) / picture.h));
            const Size size = out.box(picture).size();
            out.at = {seen.x - (size.w - level.frame.w) / 2, seen.y - (size.h - level.frame.h) / 2};
            break;
        }
        case Fit::height:
            out.drawn = times(picture, double(seen.h) / picture.h);
            out.at = {out.at.x, seen.y};
            break;
        case Fit::width:
            out.drawn = times(picture, double(seen.w) / picture.w);
            out.at = {seen.x, out.at.y};
            break;
        case Fit::floor:
            out.at.y = floor_of(level, layer) - out.box(picture).h;
            break;
    }
    return out;
}

Backdrop drawn_at_scale(const Backdrop& backdrop, Size picture, double by, Point about) {
    Backdrop out = backdrop;
    const Box old = backdrop.box(picture);
    out.drawn = times(picture, by);
    const Box now = out.box(picture);
    out.at = {place(about.x - double(about.x - old.x) * now.w / old.w),
              place(about.y - double(about.y - old.y) * now.h / old.h)};
    return out;
}

double scale_of(const Backdrop& backdrop, Size picture) { return double(backdrop.box(picture).w) / picture.w; }

double whole_scale(double wished) {
    constexpr double kNear = 0.1;
    const double whole = wished >= 1 - kNear ? std::max(1.0, std::round(wished)) : 1 / std::round(1 / wished);
    if (whole < 0.25 - 1e-9) return wished;
    return std::abs(whole - wished) <= kNear * whole ? whole : wished;
}

} // namespace vic::edit
