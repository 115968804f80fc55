// How far the walker jumps, worked out instead of tried.
#pragma once

#include <vector>

#include "level/level.hpp"
#include "walk/world.hpp"

namespace vic::walk {

// The way of the walker's foot in a jump at full speed to the right: in cells from where it leaves the ground, x to the
// right and y downwards, a place a tick, until it is `below` cells lower than it began. Only the beginning for a walker
// that does not jump.
std::vector<Position> jump_arc(const level::Walker& walker, double below);

// How many cells further it lands on the same height; 0 without a jump.
double jump_length(const level::Walker& walker);

} // namespace vic::walk
