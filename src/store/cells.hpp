// The cells of a level's tile layers as text: run lengths, a row of cells a line. Described in docs/formats/cells.md.
#pragma once

#include <atomic>
#include <cstdint>
#include <map>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "join/resolve.hpp"
#include "level/level.hpp"

namespace vic::store {

// Levels with more cells a side than this are kept in blocks of as many cells, a file each.
inline constexpr int kBlock = 512;

// The block files that a level needs: none for a level that is kept in one file, else those blocks in which a layer has
// anything, in reading order.
bool in_blocks(const level::Level& level);
std::vector<Point> blocks_of(const level::Level& level);

// The cells inside `part`. Painted cells that are as the rules say are written without their tile: so a level is as
// short as what was painted, and a changed cell changes no other's text.
std::string write_cells(const level::Level& level, const join::Rules& rules, const Box& part);

// The rows of a grid that hold anything, without a head, as they stand in a file of cells; every tile is told.
std::vector<std::string> write_rows(const level::Grid& grid);
// The grid of that size that they came from. Throws InputError; `where` is their place in the file.
level::Grid read_rows(const std::vector<std::string>& rows, Size size, const std::string& file,
                      const std::string& where, std::uint32_t next_tile);

// What of a layer could not be read.
struct DamagedCells {
    level::LayerId layer = 0;
    std::string file;
    Text what; // with the line
};

// How many cells that hold something may still be read: run lengths say in a few bytes what takes five a cell in
// memory.
struct CellBudget {
    std::atomic<std::int64_t> left = std::int64_t{1} << 30;
};

// Fills the grids of a level's tile layers, which must have the level's size and be empty where it reads, from one text
// or several.
// Texts of different rows of blocks may be read by different threads at once.
class CellReader {
  public:
    // `budget`, where given, outlives the reader and may serve several at once.
    CellReader(level::Level& level, std::uint32_t next_tile, CellBudget* budget = nullptr);

    // A layer of the text that the level does not have is refused, as is a cell outside `part`, a tile that was never
    // given out, or a second text for a layer. Throws InputError with the line; where `damaged` is given, what is wrong
    // within one layer is listed there instead, and the layer keeps what stands before it. More than the budget allows
    // is always thrown.
    void read(std::string_view text, const std::string& file, const Box& part,
              std::vector<DamagedCells>* damaged = nullptr);
    // Gives the cells that are as the rules say their tiles. To be called once, after all texts.
    void finish(const join::Rules& rules);
    // The same where only cells of the level inside these boxes were read.
    void finish(const join::Rules& rules, const std::vector<Box>& parts);

  private:
    struct Told { // a painted cell that is not as the rules say
        Point at;
        level::Cell cell;
    };
    struct Part {
        std::map<level::LayerId, std::vector<Told>> told;
        std::map<level::LayerId, bool> by_rule;
    };
    level::Level& level_;
    std::uint32_t next_tile_;
    CellBudget* budget_;
    std::map<level::LayerId, level::Grid*> grids_;
    std::map<level::LayerId, level::Grain> grains_;
    std::map<level::LayerId, level::CellsAre> are_;
    std::vector<Part> rows_; // by row of blocks, so that threads do not meet
};

} // namespace vic::store
