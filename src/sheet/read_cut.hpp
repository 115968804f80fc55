// Reading a cut from the pixels: proposals for tile size, margin, spacing, count and scale, each with a confidence and
// a reason.
//
// Own method. First the whole factor by which the art was enlarged: the greatest that divides every place where a
// column (row) differs from its neighbour. Then, on the art shrunk by it, each axis by itself (axis.hpp):
//   gaps     runs of lines of one colour, just as wide as the gap, with art on both sides;
//   clear    boundaries that no art goes over, where most boundaries have some: things that keep within their cells;
//   seams    the log of the mean difference between neighbouring lines is another at the lattice's lines than between
//            them (variance explained, as log odds, less the cost of its parameters), or goes by the place within a
//            period; a lattice loses by what speaks for every second, third … of its lines only. Where nothing has
//            gaps, every piece of 4 px of a line votes, too: the picture breaks off there, or runs through.
// Besides these: rules (ruled.hpp), a small square as one tile, a strip of equal squares.
// What is plain is tried for the colours that whole lines have (exactly, then with a tolerance for pictures that were
// saved with loss). Above and below, a flat strip that begins where rows change most may be a caption. All pairs of
// the axes' lattices are ranked by the sum of their evidence and of the logs of how common such numbers are (sizes,
// square tiles, equal gaps, nothing left over). The confidence is a proposal's share among the rest, less where there
// was little to go by. Rates by class of sheet: tests/sheet/read_cut_test.cpp.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "base/text.hpp"
#include "level/sheet.hpp"
#include "sheet/what.hpp"

namespace vic::sheet {

struct CutReading {
    level::Cut cut; // in image pixels
    int columns = 0;
    int rows = 0;
    double confidence = 0; // 0 .. 1; 1 is never claimed
    Text reason;           // in words, for the designer
};

struct SheetReading {
    std::optional<CutReading> best; // nothing where no lattice was found
    std::vector<CutReading> others; // at most three, best first
    std::vector<int> blank;         // cells of `best` with nothing in them, row by row from 0
    std::vector<int> straddling;    // cells of `best` whose art goes over a line that should be clear
    WhatReading what;               // whether it is a sheet of tiles at all
};

SheetReading read_cut(const Image& image);

// The reading of a picture whose proposals are ranked already, best first; what follows from the best is worked out.
SheetReading reading_of(const Image& image, std::vector<CutReading> ranked);

// The lattice whose cells hold a thing each, where the reading says so clearly enough: of a picture with things on a
// ground, not of one that tiles fill.
std::optional<level::Cut> cells_read(const SheetReading& reading);

// The greatest factor of 1 .. 16 by which the whole picture may have been enlarged pixel by pixel.
int read_scale(const Image& image);

} // namespace vic::sheet
