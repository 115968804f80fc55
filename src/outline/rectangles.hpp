// Cutting full cells into the fewest rectangles, for engines that want boxes.
#pragma once

#include <cstdint>
#include <vector>

#include "base/geometry.hpp"

namespace vic::outline {

// `full`: a byte a cell, row-major, 0 is open. Each full cell lies in one of the rectangles, and there is no way with
// fewer. Sorted by row, then column.
//
// Corners where the mass is dented must be cut off; a cut from dent to dent settles two at once, and as many of those
// as possible, no two of which meet, are found by the largest matching of the upright with the level ones that they
// meet (W. Lipski, E. Lodi, F. Luccio, C. Mugnai and L. Pagli, "On two-dimensional data organization II", 1979;
// T. Ohtsuki, "Minimum dissection of rectilinear regions", 1982; J. Hopcroft and R. Karp, "An n^5/2 algorithm for
// maximum matchings in bipartite graphs", 1973).
std::vector<Box> fewest_rectangles(Size cells, const std::vector<std::uint8_t>& full);

} // namespace vic::outline
