// Reading a cut from the pixels: proposals for tile size, margin, spacing and scale, each with a confidence and a
// reason.
//
// Own method. First the whole factor by which the art was enlarged: the greatest that divides every place where a
// column (row) differs from its neighbour. Then, on the art shrunk by it, two readings per axis:
//   gaps   columns of one plain or see-through colour; a lattice is as good as the share of its gap columns that are
//          plain with art on both sides, times the share of all plain columns that it explains;
//   seams  the mean difference between neighbouring columns; a lattice is as good as the surplus at its lines over the
//          rest, in standard errors, so that half and double the true size both lose, and as the share of the
//          differences' variance that goes by the place within a tile.
// Proposals are ranked by strength times how common the size is; the confidence also falls with the runner-up's
// strength.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/image.hpp"
#include "base/text.hpp"
#include "level/sheet.hpp"

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
};

SheetReading read_cut(const Image& image);

// The greatest factor of 1 .. 16 by which the whole picture may have been enlarged pixel by pixel.
int read_scale(const Image& image);

} // namespace vic::sheet
