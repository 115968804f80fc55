#include "walk/jump.hpp"

#include <algorithm>

#include "walk/motion.hpp"

namespace vic::walk {

std::vector<Position> jump_arc(const level::Walker& walker, double below) {
    std::vector<Position> out{{0, 0}};
    if (walker.jump <= 0) return out;
    constexpr int kLongest = 60 * kTicks;
    const Motion motion = motion_of(walker);
    const double pace = std::max(walker.speed, walker.run);
    float speed = motion.take_off(walker.jump);
    double y = 0;
    for (int i = 1; i <= kLongest; ++i) {
        y += double{speed} * kTick;
        out.push_back({pace * i * kTick, y});
        if (y >= below && speed > 0) break;
        speed = motion.falling(speed);
    }
    return out;
}

double jump_length(const level::Walker& walker) {
    if (walker.jump <= 0) return 0;
    const std::vector<Position> arc = jump_arc(walker, 0);
    // It lands between the last two ticks.
    const Position& over = arc[arc.size() - 2];
    const Position& under = arc.back();
    return over.x + (under.x - over.x) * (0 - over.y) / (under.y - over.y);
}

} // namespace vic::walk
