// Passages that end without anything at their end.
#pragma once

#include <vector>

#include "walk/soak.hpp"

namespace vic::walk {

// Of a level soaked from a place (1/64 cells); see Soaked::DeadEnd. Shorter ones than three cells are niches.
//
// Own method: cells, and squares of two by two of them, whose middles are wet hang together as a graph; from each with
// one neighbour the way is followed up to where it forks.
std::vector<Soaked::DeadEnd> dead_ends(const level::Level& level, const outline::Kinds& kinds, const Soaked& soaked,
                                       Point from);

} // namespace vic::walk
