// The inner loops of joining: a part of a row at a time, without a branch for a cell. Each has a version for processors
// with wide registers, chosen once; both give the same bytes.
#pragma once

#include <array>
#include <cstdint>

#include "level/cell.hpp"

namespace vic::join {

inline constexpr int kRowPart = 256; // cells that are done at once at most

// What of a row was looked up, and whether it is another one than before.
struct RowState {
    std::uint32_t any = 0;     // all bits of the looked-up entries
    std::uint32_t changed = 0; // not 0 where an entry differs from before
};

// Looks up the entries of `n` cells by their materials and the masks of those around, where only the same material
// joins. The rows of materials are read from index -1 to n. A cell without a material or pinned stays as it is in
// `old`. `masks` is a buffer of `n` bytes; `table` is [material][mask].
RowState look_up_row(const level::MaterialId* above, const level::MaterialId* here, const level::MaterialId* below,
                     int n, std::uint8_t* masks, const std::uint32_t* table, const std::uint32_t* old,
                     std::uint32_t* out);

// Variants of one case to choose from, laid out so that a threshold tells which: the last whose `from` it reaches.
struct Variants {
    static constexpr int kFew = 8; // up to which a whole row is chosen at once

    std::uint32_t count = 0;
    std::uint32_t always = 0; // all bits: every place takes the spread threshold
    std::uint32_t lively = 0; // otherwise those do whose dice lie below this
    std::array<std::uint32_t, kFew> from{};
    std::array<std::uint32_t, kFew> cells{};
};

// Chooses for those of `n` cells from column x of row y on that hold `entry`. At most Variants::kFew variants.
void choose_row(const Variants& variants, std::uint32_t entry, std::uint32_t seed, int x, int y, int n,
                std::uint32_t* cells);

namespace plain { // what the above does where registers are narrow; for tests that both are the same
RowState look_up_row(const level::MaterialId* above, const level::MaterialId* here, const level::MaterialId* below,
                     int n, std::uint8_t* masks, const std::uint32_t* table, const std::uint32_t* old,
                     std::uint32_t* out);
void choose_row(const Variants& variants, std::uint32_t entry, std::uint32_t seed, int x, int y, int n,
                std::uint32_t* cells);
} // namespace plain

} // namespace vic::join
