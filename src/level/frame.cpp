#include "level/frame.hpp"

#include <algorithm>

namespace vic::level {

Box frame_box(const Level& level) {
    if (level.frame_at) return {level.frame_at->x, level.frame_at->y, level.frame.w, level.frame.h};
    const Mark* start = level.first_mark(MarkKind::start);
    const Box all = level.pixels();
    const Lattice l = level.geometry();
    Point foot{all.x + all.w / 2, all.y + all.h / 2};
    if (start) {
        const Lattice::Pixels at =
            l.pixel_of({start->cells.x + start->cells.w / 2.0,
                        l.square() ? double(start->cells.bottom()) : start->cells.y + start->cells.h / 2.0});
        foot = {static_cast<int>(at.x), static_cast<int>(at.y)};
    }
    const auto along = [](int middle, int shown, int from, int whole) {
        return from + (whole <= shown ? (whole - shown) / 2 : std::clamp(middle - from - shown / 2, 0, whole - shown));
    };
    return {along(foot.x, level.frame.w, all.x, all.w), along(foot.y - l.upright(), level.frame.h, all.y, all.h),
            level.frame.w, level.frame.h};
}

} // namespace vic::level
