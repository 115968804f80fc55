// The proof: a small patch of a material in which every case of its join set occurs.
#pragma once

#include "join/mask.hpp"
#include "level/grid.hpp"
#include "level/project.hpp"

namespace vic::join {

// What a patch shows: every case, or every case beside every other that it can have to its east and to its south.
enum class ProofOf : std::uint8_t { cases, pairs };

// Where the material lies, as 1 and 0, row by row; what lies beyond the patch counts as not the material.
struct ProofPatch {
    Size size;
    std::vector<std::uint8_t> cells;
};

// Found by simulated annealing (Kirkpatrick, Gelatt and Vecchi, "Optimization by simulated annealing", Science 220,
// 1983). The same `seed` gives the same patch. At most kProofCells cells for the kind; see least_proof() for how close
// that is to the least possible. `kind` must not be plain.
ProofPatch make_proof(level::JoinKind kind, std::uint32_t seed, ProofOf of = ProofOf::cases);

// Cells that no patch can do without, by counting: each case as often as it has different neighbours on one side (of
// ProofOf::cases once), beside them cells without the material for their open sides, of which one serves four and the
// rim of the patch its whole length; what joins on all sides lies inside the rim.
int least_proof(level::JoinKind kind, ProofOf of = ProofOf::cases);

// The patch painted with the material and resolved by the rules of `project`.
level::Grid paint_proof(const ProofPatch& patch, const level::Project& project, level::MaterialId material);

} // namespace vic::join
