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
    // The factor across and down that makes a tile as large as the cell: up / down of each, without common divisors.
    Size up{1, 1}, down{1, 1};
    // uneven: the largest whole factor, both ways the same, at which a tile still keeps within the cell; 0: none does.
    int within = 0;
};
Fit fit_of(Size drawn, Size cell);

// Whether each pixel of art is a whole number of pixels of a place, across and down; and the places nearest to that
// where it is, smaller and larger. Nothing smaller than the art itself is one: there pixels are dropped.
struct Honest {
    bool is = true;
    Size below; // empty where the place is smaller than the art
    Size above;
};
Honest honest_in(Size art, Size place);

// The sheet cut anew. A tile whose pixel box is the same as before keeps its id and properties; one that no longer has
// a box is retired and comes back when a later cut has its box again. New tiles take ids from `next_tile`. The image
// must be there and the cut without trouble.
level::Sheet recut(const level::Sheet& sheet, const level::Cut& cut, std::uint32_t& next_tile);

// Tiles of the lattice, without the blocks.
std::size_t lattice_tiles(const level::Sheet& sheet);

// The pixel box of a block: from the first to the last of `cells` (columns and rows of the lattice), gaps included.
// Empty where they do not all lie in the picture.
Box block_box(const level::Cut& cut, Size image, const Box& cells);
// The columns and rows that a pixel box is made of; empty where it is not made of whole ones.
Box block_cells(const level::Cut& cut, Size image, const Box& box);

// A block of these columns and rows: pivot in the middle of its lowest row, all but that row standing up, laid as drawn
// or mirrored. The box must be in the picture, and no block of the sheet have it.
level::Sheet add_block(const level::Sheet& sheet, const Box& cells, std::uint32_t& next_tile);

// The tile's art as drawn: its box, shrunk by the cut's scale; of a block without the gaps between its cells.
Image tile_art(const level::Sheet& sheet, const level::Tile& tile);

} // namespace vic::sheet
