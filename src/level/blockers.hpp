// What blocks without being seen: a shape for each cell of a lattice, and shapes that lie free of it. A value, as cheap
// to copy as a grid.
#pragma once

#include <memory>

#include "level/free_blocker.hpp"
#include "level/grid.hpp"
#include "level/shape.hpp"

namespace vic::level {

class Blockers {
  public:
    Blockers() = default;
    explicit Blockers(Size cells) : cells_(cells) {} // 1 .. kMostCells a side
    // Of cells that came out of cells() of others, moved or cut to size; none that lie free.
    static Blockers of(Grid cells) {
        Blockers out;
        out.cells_ = std::move(cells);
        return out;
    }

    // Outside a shape is none.
    [[nodiscard]] TileShape shape(Point at) const { return shape_of(cells_.cell(at)); }
    void set(Point at, TileShape shape) { cells_.set(at, cell_of(shape), 0); } // outside nothing happens

    // As cells, for what moves, copies, compares or writes cells whatever they hold. Only cell_of() and shape_of() know
    // what is in them; what is put there must have come out of cell_of() or of other blockers.
    [[nodiscard]] const Grid& cells() const { return cells_; }
    [[nodiscard]] Grid& cells() { return cells_; }

    // Those that lie free, in the order in which they were drawn. They come after the cells: what opens opens those,
    // too.
    [[nodiscard]] const std::vector<FreeBlocker>& free() const {
        static const std::vector<FreeBlocker> none;
        return free_ ? *free_ : none;
    }
    void set_free(std::vector<FreeBlocker> free) {
        free_ = free.empty() ? nullptr : std::make_shared<const std::vector<FreeBlocker>>(std::move(free));
    }

    static Cell cell_of(TileShape shape) {
        return shape == TileShape::none ? Cell() : Cell(1 + static_cast<TileId>(shape), {}, true);
    }
    static TileShape shape_of(Cell cell) {
        return cell.empty() ? TileShape::none : turned(static_cast<TileShape>(cell.tile() - 1), cell.turn());
    }
    // Whether a cell that was read from a file can stand in blockers: all that shape_of() takes.
    static bool holds(Cell cell) { return cell.tile() < kTileShapes; }

    bool operator==(const Blockers& other) const {
        return cells_ == other.cells_ && (free_ == other.free_ || free() == other.free());
    }

  private:
    Grid cells_;
    std::shared_ptr<const std::vector<FreeBlocker>> free_;
};

} // namespace vic::level
