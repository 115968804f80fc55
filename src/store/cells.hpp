// The cells of a level's tile layers as text: run lengths, a row of cells a line. Described in docs/formats/cells.md.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "level/level.hpp"

namespace vic::store {

std::string write_cells(const level::Level& level);

// The rows of a grid that hold anything, without a head, as they stand in a file of cells.
std::vector<std::string> write_rows(const level::Grid& grid);
// The grid of that size that they came from. Throws InputError; `where` is their place in the file.
level::Grid read_rows(const std::vector<std::string>& rows, Size size, const std::string& file,
                      const std::string& where, std::uint32_t next_tile);

// Fills the grids of the level's tile layers, which must be empty and have the level's size. A layer of the text that
// the level does not have is refused, as is a cell outside the level, a tile from `next_tile` on, or a second text for
// a layer. Throws InputError with the line.
void read_cells(std::string_view text, const std::string& file, std::uint32_t next_tile, level::Level& level);

} // namespace vic::store
