// Pictures of pieces, drawn without a display: as tiles, and as one looks at them.
#pragma once

#include <array>
#include <string>
#include <utility>
#include <vector>

#include "base/image.hpp"
#include "kit/read_kit.hpp"

namespace vic::kit {

// How many pixels a picture may have a side.
inline constexpr int kMostPictureSide = 4096;

// The piece's cells from above, `side` pixels each way a cell, 1 .. 256; what sticks out over them is left out, and
// nothing is drawn where there is no piece. What stands is cut as in a plan, at two fifths of a storey, so that doors
// are gaps and windows show their sill; where nothing is cut through all of it is seen. Higher surfaces are lighter,
// and a dark line lies where one stands half a metre or more above the next. North is up. Where all of it would be more
// than kMostPictureSide, or the module is 0, the picture is empty.
Image from_above(const KitFile& file, const KitReading& kit, std::size_t piece, int side);

// By what a piece that is turned is told apart in `before` and among its kind; the key itself where it is not turned.
std::string turned_key(const std::string& key, int turn);

// All pieces from above on one picture, a lattice of cells without gaps. What has several cells comes four times, as
// quarter turns make it. Pieces of `before` that come again with as many cells keep their place; what is new comes
// below. A piece without a place is one that is larger than the picture
// may be; where all is, the picture is empty.
struct Drawn {
    Image image;
    std::vector<Box> places;                // by piece, in pixels; empty ones have none
    std::vector<std::array<Box, 3>> turned; // likewise by one, two and three quarter turns to the right
};
inline constexpr int kSheetColumns = 8; // cells; more where a piece is wider
Drawn draw_sheet(const KitFile& file, const KitReading& kit, int side,
                 const std::vector<std::pair<std::string, Box>>& before = {});

// The piece seen aslant from the south-east, as large as fits, in the middle of a picture with nothing else in it.
// `turn`: quarter turns to the right before that, 0 .. 3.
Image aslant(const KitFile& file, const KitReading& kit, std::size_t piece, Size size, int turn = 0);

} // namespace vic::kit
