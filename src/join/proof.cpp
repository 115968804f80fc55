#include "join/proof.hpp"

#include <array>

#include "base/chance.hpp"
#include "join/resolve.hpp"

namespace vic::join {

namespace {

// Counts how often each case occurs in a patch, and keeps the counts while single cells flip.
class Tally {
  public:
    Tally(ProofPatch& patch, level::JoinKind kind) : patch_(patch), kind_(kind) {
        for (int y = 0; y < patch.size.h; ++y)
            for (int x = 0; x < patch.size.w; ++x) count({x, y}, 1);
    }

    [[nodiscard]] int distinct() const { return distinct_; }

    void flip(Point at) {
        around(at, -1);
        patch_.cells[index(at)] ^= 1;
        around(at, 1);
    }

  private:
    [[nodiscard]] std::size_t index(Point p) const { return static_cast<std::size_t>(p.y * patch_.size.w + p.x); }
    [[nodiscard]] bool filled(Point p) const { return box_of(patch_.size).contains(p) && patch_.cells[index(p)] != 0; }

    void around(Point at, int by) {
        for (int y = at.y - 1; y <= at.y + 1; ++y)
            for (int x = at.x - 1; x <= at.x + 1; ++x)
                if (box_of(patch_.size).contains(Point{x, y})) count({x, y}, by);
    }

    void count(Point at, int by) {
        if (!filled(at)) return;
        unsigned mask = 0;
        for (unsigned i = 0; i < 8; ++i)
            if (filled(at + kNeighbour[i])) mask |= 1U << i;
        int& n = counts_[canonical(static_cast<Mask>(mask), kind_)];
        if (n == 0) ++distinct_;
        n += by;
        if (n == 0) --distinct_;
    }

    ProofPatch& patch_;
    level::JoinKind kind_;
    std::array<int, 256> counts_{};
    int distinct_ = 0;
};

} // namespace

ProofPatch make_proof(level::JoinKind kind, std::uint32_t seed) {
    const int wanted = static_cast<int>(cases(kind).size());
    ProofPatch patch{{24, 10}, {}};
    // Climb from a random patch by flips that lose no case; start anew, a little larger, in the rare event of a
    // standstill.
    for (std::uint32_t attempt = 0;; ++attempt) {
        patch.size = {std::min(24 + static_cast<int>(attempt), 28), attempt < 5 ? 10 : 12};
        patch.cells.assign(static_cast<std::size_t>(patch.size.area()), 0);
        // Coarse blocks first: a patch that reads as land and water, not as noise.
        for (int y = 0; y < patch.size.h; ++y)
            for (int x = 0; x < patch.size.w; ++x)
                patch.cells[static_cast<std::size_t>(y * patch.size.w + x)] =
                    (place_hash(seed + attempt * 977, x / 4, y / 3) & 7) < 5;
        Tally tally(patch, kind);
        for (int step = 0; step < 20000 && tally.distinct() < wanted; ++step) {
            const std::uint64_t h = place_hash(seed + attempt * 977 + 1, step, 7);
            const Point at{
                static_cast<int>(scaled(static_cast<std::uint32_t>(h), static_cast<std::uint32_t>(patch.size.w))),
                static_cast<int>(
                    scaled(static_cast<std::uint32_t>(h >> 32), static_cast<std::uint32_t>(patch.size.h)))};
            const int before = tally.distinct();
            tally.flip(at);
            if (tally.distinct() < before) tally.flip(at);
        }
        if (tally.distinct() == wanted) return patch;
    }
}

level::Grid paint_proof(const ProofPatch& patch, const level::Project& project, level::MaterialId material) {
    level::Grid grid(patch.size);
    for (int y = 0; y < patch.size.h; ++y)
        for (int x = 0; x < patch.size.w; ++x)
            if (patch.cells[static_cast<std::size_t>(y * patch.size.w + x)]) grid.set({x, y}, {}, material);
    // The patch is judged against what is not the material all round it, whatever the set says of the level's edge.
    level::Project own;
    if (const level::Material* m = project.material(material)) {
        level::Material copy = *m;
        copy.joins.beyond_is_same = false;
        own.put(std::move(copy));
    }
    resolve(Rules(own), grid, box_of(patch.size), 0);
    return grid;
}

} // namespace vic::join
