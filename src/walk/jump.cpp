#include "walk/jump.hpp"

#include <cmath>

namespace vic::walk {

std::vector<Position> jump_arc(const level::Walker& walker, double below) {
    std::vector<Position> out{{0, 0}};
    if (walker.jump <= 0) return out;
    const double up = std::sqrt(2 * kGravity * walker.jump);
    constexpr int kLongest = 60 * kTicks;
    for (int i = 1; i <= kLongest; ++i) {
        const double t = double(i) / kTicks;
        const double y = -(up * t - kGravity * t * t / 2);
        out.push_back({static_cast<float>(walker.speed * t), static_cast<float>(y)});
        if (y >= below && up - kGravity * t < 0) break;
    }
    return out;
}

double jump_length(const level::Walker& walker) {
    if (walker.jump <= 0) return 0;
    return walker.speed * 2 * std::sqrt(2 * walker.jump / kGravity);
}

} // namespace vic::walk
