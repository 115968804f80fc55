// Choosing the tile of every painted cell from its neighbourhood.
#pragma once

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "join/mask.hpp"
#include "join/rows.hpp"
#include "level/project.hpp"

namespace vic::join {

// What lies round a cell.
struct Around {
    level::MaterialId own = 0;
    std::array<level::MaterialId, 8> others{}; // clockwise from north; 0 beyond the level
    Mask beyond = 0;                           // which of them lie beyond the level
};
Around around(const level::Grid& grid, Point at);

// The join sets of a project, laid out for speed. A case that has no tile is served by another case turned, where the
// set allows it, else by the nearest case that has one.
class Rules {
  public:
    explicit Rules(const level::Project& project);

    // The cell for material `m` (1 .. 255) with neighbourhood `mask` at `x`, `y`: not pinned. Empty where the set has
    // no tile at all. `seed` tells layers apart.
    [[nodiscard]] level::Cell choose(level::MaterialId m, Mask mask, int x, int y, std::uint32_t seed) const {
        return Cell(picked(table_[(std::size_t{m} << 8) | mask], x, y, seed));
    }
    // The same with all that is known of the neighbours: what counts as the same, and tiles drawn for two materials.
    [[nodiscard]] level::Cell choose(const Around& at, int x, int y, std::uint32_t seed) const;

    // Which neighbours count as the same.
    [[nodiscard]] Mask mask(const Around& at) const;

    // Whether the set has no tile for the case, so that the nearest stands in.
    [[nodiscard]] bool missing(level::MaterialId m, Mask mask) const {
        return missing_[(std::size_t{m} << 8) | mask] != 0;
    }
    [[nodiscard]] bool missing(const Around& at) const;
    // Whether no case of the material is missing.
    [[nodiscard]] bool complete(level::MaterialId m) const { return !lacking_[m]; }

    // Of a material that lies over those it meets: the tile that shows through its rim. Empty for all others.
    [[nodiscard]] level::Cell below(const Around& at, int x, int y, std::uint32_t seed) const;
    // Whether any material lies over others.
    [[nodiscard]] bool any_over() const { return any_over_; }
    [[nodiscard]] bool over(level::MaterialId m) const { return over_[m] != 0; }

    // The one cell that any place inside the material gets; nothing where it depends on the place.
    [[nodiscard]] std::optional<level::Cell> inside(level::MaterialId m) const {
        const std::uint32_t entry = table_[(std::size_t{m} << 8) | 255U];
        return m == 0 || (entry & kMany) || related_[m] ? std::nullopt : std::optional(Cell(entry));
    }

    // Chooses for a box of places inside the material, `w` a row; false where there is no choice, or too many to choose
    // from at once, or it depends on the neighbours.
    bool inside_rows(level::MaterialId m, int x, int y, int w, int h, std::uint32_t seed, level::Cell* out) const;

    // One row of `count` cells, into `out`, which may be `was` itself. The three rows of materials are read
    // from index -1 to count. Cells without a material and pinned ones are left as they are. Columns x0 .. x0 + count -
    // 1, row y. Gives whether anything changed.
    bool join_row(const level::MaterialId* above, const level::MaterialId* here, const level::MaterialId* below,
                  int count, int x0, int y, std::uint32_t seed, const level::Cell* was, level::Cell* out) const;

  private:
    using Cell = level::Cell;
    struct Choice {
        std::uint32_t up_to; // running sum of weights
        std::uint32_t cell;
    };
    struct Pair {
        level::MaterialId other;
        std::uint32_t table; // index of its 256 entries
    };
    static constexpr std::uint32_t kMany = 1U << 31;

    void lay_out(const level::JoinSet& set, const level::Cases& cases, std::size_t at, std::uint8_t* missing);
    [[nodiscard]] std::uint32_t entry_of(const std::vector<level::Variant>& variants, int lively);
    [[nodiscard]] std::uint32_t picked(std::uint32_t entry, int x, int y, std::uint32_t seed) const {
        return entry & kMany ? variant(entry, x, y, seed) : entry;
    }
    [[nodiscard]] std::uint32_t variant(std::uint32_t entry, int x, int y, std::uint32_t seed) const;
    // Replaces what there is to choose from in `n` cells of a row, at most kRowPart, by the choice.
    void pick_row(std::uint32_t* cells, int x, int y, std::uint32_t seed, int n) const;
    [[nodiscard]] const Pair* pair(const Around& at) const;

    std::vector<std::uint32_t>
        table_; // [material][mask], then the pairs: bits of a cell, or kMany | index into choices_ and few_
    std::vector<std::vector<Choice>> choices_; // one with strength and total, then the variants
    std::vector<Variants> few_;                // the same as a row chooses, where they are few
    std::vector<std::uint8_t> missing_;
    std::vector<std::uint8_t> same_; // [own][other]: counts as the same; [own][0]: beyond the level does
    std::vector<std::vector<Pair>> pairs_;
    std::array<std::uint8_t, 256> related_{}; // materials that look at which other one they meet
    std::array<std::uint8_t, 256> over_{};
    std::array<std::uint8_t, 256> lacking_{};
    bool any_related_ = false;
    bool any_over_ = false;
};

// The neighbourhood of a cell within the grid, where only its own material counts as the same; `beyond_is_same` says
// what lies outside it.
Mask neighbourhood(const level::Grid& grid, Point at, bool beyond_is_same);

// Gives every painted, unpinned cell inside `cells` the tile that its neighbourhood asks for. Chunks in which nothing
// changes stay shared.
void resolve(const Rules& rules, level::Grid& grid, const Box& cells, std::uint32_t seed);

// What shows through the rims of materials that lie over others, for the cells inside `cells`; no materials in it.
level::Grid underlay(const Rules& rules, const level::Grid& grid, const Box& cells, std::uint32_t seed);

// How often two cells side by side or one above the other show the same tile, among pairs whose two cells have the
// same material and the same variants to choose from; and how often they would by chance.
struct Repetition {
    std::int64_t pairs = 0;
    std::int64_t alike = 0;
    double by_chance = 0; // 0 .. 1
    [[nodiscard]] double share() const { return pairs == 0 ? 0 : double(alike) / double(pairs); }
};
Repetition repetition(const level::Project& project, const level::Grid& grid, level::MaterialId material);

} // namespace vic::join
