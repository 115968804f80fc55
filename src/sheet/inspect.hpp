// Looking at a cut picture: which cells are blank, and whose art does not keep to the lattice.
#pragma once

#include <optional>
#include <vector>

#include "level/sheet.hpp"

namespace vic::sheet {

// The colour that nearly all of the gaps have (see-through included); nothing for a cut without gaps, or where they
// are of many colours.
std::optional<Rgba> gap_colour(const Image& image, const level::Cut& cut);

// Whether all pixels of `box` are see-through, or of the gaps' colour.
bool is_blank(const Image& image, const Box& box, const std::optional<Rgba>& gaps = {});

// Cells, row by row from 0, whose art goes over a line that should be clear. With gaps: foreign pixels in the gap right
// beside the cell; between two cells one pixel apart the one that looks shifted is blamed. Without gaps only where most
// lines are clear of art: both cells whose art meets across the line.
std::vector<int> straddling_cells(const Image& image, const level::Cut& cut);

} // namespace vic::sheet
