#include "level/planting.hpp"

#include <algorithm>
#include <numeric>

namespace vic::level {

int planting_grain(Size cell) {
    const int side = std::gcd(cell.w, cell.h);
    for (int grain = std::clamp(std::min(cell.w, cell.h) / 4, 1, 64); grain > 1; --grain)
        if (side % grain == 0) return grain;
    return 1;
}

void move_planting(Planting& planting, Size cell, Point pixels) {
    const int grain = planting_grain(cell);
    const Point samples{floor_div(pixels.x, grain), floor_div(pixels.y, grain)};
    planting.painted = planting.painted.moved(samples);
    planting.cleared = planting.cleared.moved(samples);
    for (TakenAway& t : planting.taken) t.at = t.at + pixels;
}

} // namespace vic::level
