// Art that is drawn aslant, for isometric lattices: diamonds on a see-through ground, some with height.
#pragma once

#include "level/sheet.hpp"

namespace vic::sheet {

// Whether the sheet's tiles are such: nothing beside the lower half of their diamonds, and at least one of them with
// its diamond full. A diamond is as wide as the tile and half as high, or lower where the tile is.
bool is_isometric(const level::Sheet& sheet);

// The ground that a tile of such a sheet shows, seen straight from above: a square half as wide as the tile.
// Of tiles that stand up it is what lies on top.
Image flattened(const Image& art);

// The art of a tile as its joins are to be read: flattened where `is_aslant`, else as it is.
Image ground_art(const level::Sheet& sheet, const level::Tile& tile, bool isometric);

} // namespace vic::sheet
