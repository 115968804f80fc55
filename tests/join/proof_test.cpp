// The proof: complete by a count of its own, and not far from the least that is possible.
#include <catch2/catch.hpp>
#include <set>

#include "join/proof.hpp"
#include "join/seams.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;
using level::Grid;
using level::JoinKind;

namespace {

bool filled(const ProofPatch& patch, Point p) {
    return box_of(patch.size).contains(p) && patch.cells[static_cast<std::size_t>(p.y * patch.size.w + p.x)];
}

Mask case_at(const ProofPatch& patch, Point p, JoinKind kind) {
    unsigned mask = 0;
    for (unsigned i = 0; i < 8; ++i) mask |= filled(patch, p + kNeighbour[i]) ? 1U << i : 0U;
    return canonical(static_cast<Mask>(mask), kind);
}

} // namespace

TEST_CASE("every case occurs in a proof, for any seed, in at most three times the least", "[proof]") {
    for (const JoinKind kind : {JoinKind::edges, JoinKind::corners, JoinKind::full})
        for (std::uint32_t seed = 0; seed < 8; ++seed) {
            const ProofPatch patch = make_proof(kind, seed);
            std::set<Mask> seen;
            for (int y = 0; y < patch.size.h; ++y)
                for (int x = 0; x < patch.size.w; ++x)
                    if (filled(patch, {x, y})) seen.insert(case_at(patch, {x, y}, kind));
            CHECK(seen.size() == cases(kind).size());
            CHECK(patch.size.area() >= least_proof(kind));
            CHECK(patch.size.area() <= 3 * least_proof(kind));
        }
    CHECK(make_proof(JoinKind::full, 5).cells == make_proof(JoinKind::full, 5).cells);
    CHECK(make_proof(JoinKind::full, 5).cells != make_proof(JoinKind::full, 6).cells);
}

TEST_CASE("in a proof of pairs every case lies beside every other that it can meet", "[proof]") {
    for (const JoinKind kind : {JoinKind::edges, JoinKind::corners, JoinKind::full}) {
        const ProofPatch patch = make_proof(kind, 3, ProofOf::pairs);
        std::set<std::tuple<Mask, Mask, int>> seen;
        for (int y = 0; y < patch.size.h; ++y)
            for (int x = 0; x < patch.size.w; ++x)
                for (const int side : {1, 2}) {
                    const Point p{x, y};
                    const Point q = p + (side == 1 ? Point{1, 0} : Point{0, 1});
                    if (filled(patch, p) && filled(patch, q))
                        seen.insert({case_at(patch, p, kind), case_at(patch, q, kind), side});
                }
        std::size_t wanted = 0;
        for (const Mask a : cases(kind))
            for (const Mask b : cases(kind))
                for (const int side : {1, 2}) {
                    wanted += can_meet(kind, a, b, side);
                    if (seen.contains({a, b, side})) CHECK(can_meet(kind, a, b, side));
                }
        CHECK(seen.size() == wanted);
        CHECK(patch.size.area() >= least_proof(kind, ProofOf::pairs));
        CHECK(patch.size.area() <= 4 * least_proof(kind, ProofOf::pairs));
    }
}

TEST_CASE("a painted proof uses every tile of a full set", "[proof]") {
    make::Small small;
    const ProofPatch patch = make_proof(JoinKind::full, 2);
    const Grid grid = paint_proof(patch, small.project, 1);
    std::set<level::TileId> used;
    level::each_cell(grid, box_of(grid.size()),
                     [&](Point, level::Cell c, level::MaterialId) { used.insert(c.tile()); });
    CHECK(used.size() == 47);
}
