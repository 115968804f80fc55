// Outlines with fewer corners, for engines that pay for each.
#pragma once

#include <vector>

#include "outline/trace.hpp"

namespace vic::outline {

// The outlines with corners left out, so that no point of the old ones is further from the new ones than `deviation`
// (1/64 cells; 0: as they are). What blocks only gets smaller: a passage never becomes narrower. No line comes to cross
// or to touch another that it did not touch, no outline goes and none comes between a line and what it replaces: what
// was one mass stays one, and no gap opens in it. Their order stays.
//
// Own method: along each outline a corner is kept, and the furthest later one sought to which a straight line leads
// through what blocks, with all corners between on its open side and near enough. A grid of all lines tells whether it
// meets another.
std::vector<Outline> simplified(const std::vector<Outline>& outlines, int deviation);

} // namespace vic::outline
