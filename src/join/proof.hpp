// The proof: a small patch of a material in which every case of its join set occurs.
#pragma once

#include "join/mask.hpp"
#include "level/grid.hpp"
#include "level/project.hpp"

namespace vic::join {

// Where the material lies, as 1 and 0, row by row. Every canonical mask of the kind occurs at least once; what lies
// beyond the patch counts as not the material. The same `seed` gives the same patch. At most 28 × 12 cells.
struct ProofPatch {
    Size size;
    std::vector<std::uint8_t> cells;
};
ProofPatch make_proof(level::JoinKind kind, std::uint32_t seed);

// The patch painted with the material and resolved by the rules of `project`.
level::Grid paint_proof(const ProofPatch& patch, const level::Project& project, level::MaterialId material);

} // namespace vic::join
