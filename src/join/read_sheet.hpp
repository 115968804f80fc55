// How a sheet is cut, with what its joins say of it.
//
// Own method. Of a small sheet whose tiles lie side by side without gaps the lines between them are hard to tell from
// lines within them. Where it holds a set of joins, only one way of cutting it gives every case a tile, and no case
// two: the joins are read for each cut that sheet::read_cut() proposes, and for each that divides the picture into
// squares, and a whole set speaks for its cut.
#pragma once

#include "base/image.hpp"
#include "sheet/read_cut.hpp"

namespace vic::join {

// As sheet::read_cut(). Takes up to some tenths of a second longer where the sheet has fewer than some hundred tiles.
sheet::SheetReading read_sheet(const Image& image);

} // namespace vic::join
