// Cutting a sheet by a lattice, and keeping the identity of its tiles when it is cut anew.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/text.hpp"
#include "level/sheet.hpp"

namespace vic::sheet {

// Why a cut cannot be applied to a picture of `image` pixels, as a sentence; nothing where it can.
std::optional<Text> cut_trouble(const level::Cut& cut, Size image);

// Columns and rows of whole tiles that fit into the picture. The cut must be without trouble.
Size columns_rows(const level::Cut& cut, Size image);

// The pixel boxes of the tiles, row by row.
std::vector<Box> cut_boxes(const level::Cut& cut, Size image);

// The cut's tile size as the art was drawn, before it was enlarged.
inline Size drawn_size(const level::Cut& cut) { return {cut.tile.w / cut.scale, cut.tile.h / cut.scale}; }

// How art drawn at one size goes into cells of another.
struct Fit {
    enum class Kind : std::uint8_t { same, enlarged, cells, uneven } kind = Kind::same;
    Size by{1, 1}; // enlarged: the whole factor, both ways the same; cells: how many cells a tile is large
};
Fit fit_of(Size drawn, Size cell);

// The sheet cut anew. A tile whose pixel box is the same as before keeps its id and properties; one that no longer has
// a box is retired and comes back when a later cut has its box again. New tiles take ids from `next_tile`. The image
// must be there and the cut without trouble.
level::Sheet recut(const level::Sheet& sheet, const level::Cut& cut, std::uint32_t& next_tile);

// The tile's art as drawn: its box, shrunk by the cut's scale.
Image tile_art(const level::Sheet& sheet, const level::Tile& tile);

} // namespace vic::sheet
