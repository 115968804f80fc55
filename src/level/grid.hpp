// The cells of one tile layer. A grid is a value: copying it is cheap, because chunks are shared until one changes.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "base/geometry.hpp"
#include "level/cell.hpp"

namespace vic::level {

inline constexpr int kChunk = 64;        // cells a side
inline constexpr int kMostCells = 16384; // cells a side of a level

struct Chunk {
    std::array<Cell, kChunk * kChunk> cells{};           // row by row
    std::array<MaterialId, kChunk * kChunk> materials{}; // what was painted there; 0 for tiles laid by hand
    [[nodiscard]] bool blank() const;
    bool operator==(const Chunk&) const = default;
};

// A chunk to be put into grids. Chunks are many and large, so they come out of a pool; make them nowhere else.
std::shared_ptr<Chunk> make_chunk();
std::shared_ptr<Chunk> make_chunk(const Chunk& like);

class Grid {
  public:
    Grid() = default;
    explicit Grid(Size cells); // 1 .. kMostCells a side

    [[nodiscard]] Size size() const { return size_; }
    [[nodiscard]] Size chunks() const; // how many chunks a row and a column

    // Outside the grid a cell is empty.
    [[nodiscard]] Cell cell(Point at) const;
    [[nodiscard]] MaterialId material(Point at) const;
    // Outside the grid nothing happens.
    void set(Point at, Cell cell, MaterialId material);

    // Null where no cell of the chunk holds anything.
    [[nodiscard]] const Chunk* chunk(Point chunk) const;
    // Unshares and, where absent, makes the chunk. Call tidy() when done, so that blank chunks vanish.
    Chunk& edit(Point chunk);
    // The chunk to be changed in its place, where no other grid shares it; else null.
    [[nodiscard]] Chunk* own(Point chunk);
    void tidy(Point chunk);
    // Takes over a chunk as it is; null empties it. The chunk must not be blank nor hold cells outside the grid.
    void put(Point chunk, std::shared_ptr<const Chunk> content);

    // The materials of `cells` into rows of `stride` bytes; `beyond` where the grid ends.
    void read_materials(const Box& cells, MaterialId* out, std::size_t stride, MaterialId beyond = 0) const;

    // The same cells in a grid of another size; what falls outside is gone.
    [[nodiscard]] Grid resized(Size cells) const;
    // The same, with every cell moved. Chunks stay shared where `by` is whole chunks and nothing is cut off.
    [[nodiscard]] Grid moved(Point by, Size cells) const;
    // The least box that holds all cells with anything in them.
    [[nodiscard]] Box bounds() const;

    // How many cells hold a tile.
    [[nodiscard]] std::int64_t count() const;

    // The least boxes, at most one a chunk, outside of which `a` and `b` are equal. Same sizes. Shared chunks cost
    // nothing.
    friend std::vector<Box> differences(const Grid& a, const Grid& b);
    // How many chunks of `a` are not shared with `b`.
    friend std::size_t unshared(const Grid& a, const Grid& b);
    friend bool operator==(const Grid& a, const Grid& b);

  private:
    using Row = std::vector<std::shared_ptr<const Chunk>>;
    Size size_;
    std::vector<std::shared_ptr<const Row>> rows_; // null where a whole row of chunks is empty
};

std::vector<Box> differences(const Grid& a, const Grid& b);
std::size_t unshared(const Grid& a, const Grid& b);
bool operator==(const Grid& a, const Grid& b);

// Calls visit(chunk, first cell, its index in the chunk, count of cells) for each row of each chunk that is there, cut
// to `within`, in reading order of the chunks.
template <class Visit>
void each_run(const Grid& grid, const Box& within, Visit visit) {
    const Box box = intersection(within, box_of(grid.size()));
    if (box.empty()) return;
    for (int cy = box.y / kChunk; cy <= (box.bottom() - 1) / kChunk; ++cy) {
        for (int cx = box.x / kChunk; cx <= (box.right() - 1) / kChunk; ++cx) {
            const Chunk* chunk = grid.chunk({cx, cy});
            if (!chunk) continue;
            const Box part = intersection(box, {cx * kChunk, cy * kChunk, kChunk, kChunk});
            for (int y = part.y; y < part.bottom(); ++y)
                visit(*chunk, Point{part.x, y},
                      static_cast<std::size_t>((y - cy * kChunk) * kChunk + (part.x - cx * kChunk)), part.w);
        }
    }
}

// Calls visit(cell position, Cell, MaterialId) for each cell of `within` that holds a tile or a material, in reading
// order of the chunks.
template <class Visit>
void each_cell(const Grid& grid, const Box& within, Visit visit) {
    each_run(grid, within, [&](const Chunk& chunk, Point at, std::size_t i, int count) {
        for (int k = 0; k < count; ++k, ++i)
            if (chunk.cells[i].bits != 0 || chunk.materials[i] != 0)
                visit(Point{at.x + k, at.y}, chunk.cells[i], chunk.materials[i]);
    });
}

} // namespace vic::level
