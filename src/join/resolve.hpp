// Choosing the tile of every painted cell from its neighbourhood.
#pragma once

#include <cstdint>
#include <vector>

#include "join/mask.hpp"
#include "level/project.hpp"

namespace vic::join {

// The join sets of a project, laid out for speed. A case that has no tile is served by the nearest case that has one.
class Rules {
  public:
    explicit Rules(const level::Project& project);

    // The cell for material `m` (1 .. 255) with neighbourhood `mask` at `x`, `y`: a tile as drawn, not pinned. Empty
    // where the set has no tile at all. `seed` tells layers apart.
    [[nodiscard]] level::Cell choose(level::MaterialId m, Mask mask, int x, int y, std::uint32_t seed) const;

    // Whether the set has no tile of its own for the case, so that another serves.
    [[nodiscard]] bool missing(level::MaterialId m, Mask mask) const {
        return missing_[(std::size_t{m} << 8) | mask] != 0;
    }
    [[nodiscard]] bool beyond_is_same(level::MaterialId m) const { return beyond_same_[m] != 0; }

    // One row of `count` cells. The three rows of materials are read from index -1 to count. Cells without a material
    // and pinned ones are left as they are. Columns x0 .. x0 + count - 1, row y.
    void join_row(const level::MaterialId* above, const level::MaterialId* here, const level::MaterialId* below,
                  int count, int x0, int y, std::uint32_t seed, level::Cell* cells) const;

  private:
    struct Choice {
        std::uint32_t up_to; // running sum of weights
        std::uint32_t tile;
    };
    static constexpr std::uint32_t kMany = 1U << 31;
    std::vector<std::uint32_t> table_; // [material][mask]: a tile id, or kMany | index into choices_
    std::vector<Choice> choices_;      // per entry: one with the count and the total, then the variants
    std::vector<std::uint8_t> missing_;
    std::vector<std::uint8_t> beyond_same_;
};

// The neighbourhood of a cell within the grid; `beyond_is_same` says what lies outside it.
Mask neighbourhood(const level::Grid& grid, Point at, bool beyond_is_same);

// Gives every painted, unpinned cell inside `cells` the tile that its neighbourhood asks for. Chunks in which nothing
// changes stay shared.
void resolve(const Rules& rules, level::Grid& grid, const Box& cells, std::uint32_t seed);

} // namespace vic::join
