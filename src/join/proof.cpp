#include "join/proof.hpp"

#include <array>
#include <cmath>
#include <map>

#include "base/chance.hpp"
#include "join/resolve.hpp"
#include "join/seams.hpp"

namespace vic::join {

namespace {

// What has to be found, numbered: the cases of a kind, or the pairs of cases that can meet.
struct Wanted {
    explicit Wanted(level::JoinKind kind, ProofOf of) : pairs(of == ProofOf::pairs) {
        const auto& all = cases(kind);
        for (int m = 0; m < 256; ++m) {
            const Mask c = canonical(static_cast<Mask>(m), kind);
            index[static_cast<std::size_t>(m)] =
                static_cast<std::uint8_t>(std::lower_bound(all.begin(), all.end(), c) - all.begin());
        }
        const auto n = all.size();
        if (!pairs) {
            count = static_cast<int>(n);
            return;
        }
        for (const Mask a : all)
            for (const Mask b : all)
                for (const int side : {1, 2}) count += can_meet(kind, a, b, side);
    }
    bool pairs;
    int count = 0;
    std::array<std::uint8_t, 256> index{};
};

// Counts how often everything wanted occurs in a patch, and keeps the counts while single cells flip.
class Tally {
  public:
    Tally(ProofPatch& patch, const Wanted& wanted)
        : wanted_(wanted),
          size_(patch.size),
          stride_(patch.size.w + 2 * kRim),
          cells_(static_cast<std::size_t>(stride_ * (patch.size.h + 2 * kRim)), 0),
          counts_(wanted.pairs ? 2 * 64 * 64 : 64, 0) {
        for (int y = 0; y < size_.h; ++y)
            for (int x = 0; x < size_.w; ++x)
                cells_[at({x, y})] = patch.cells[static_cast<std::size_t>(y * size_.w + x)];
        for (int y = 0; y < size_.h; ++y)
            for (int x = 0; x < size_.w; ++x) count({x, y}, 1);
    }

    [[nodiscard]] int distinct() const { return distinct_; }

    void flip(Point p) {
        around(p, -1);
        cells_[at(p)] ^= 1;
        around(p, 1);
    }

    void put_into(ProofPatch& patch) const {
        for (int y = 0; y < size_.h; ++y)
            for (int x = 0; x < size_.w; ++x)
                patch.cells[static_cast<std::size_t>(y * size_.w + x)] = cells_[at({x, y})];
    }

  private:
    static constexpr int kRim = 3; // empty cells round the patch, so that nothing has to be asked

    [[nodiscard]] std::size_t at(Point p) const {
        return static_cast<std::size_t>((p.y + kRim) * stride_ + p.x + kRim);
    }

    // The cells whose case or pairs depend on the cell: those beside it, for pairs also their western and northern
    // neighbours.
    void around(Point p, int by) {
        const int back = wanted_.pairs ? 2 : 1;
        for (int y = p.y - back; y <= p.y + 1; ++y)
            for (int x = p.x - back; x <= p.x + 1; ++x) count({x, y}, by);
    }

    [[nodiscard]] unsigned case_at(std::size_t i) const {
        const std::uint8_t* c = &cells_[i];
        const std::uint8_t* a = c - stride_;
        const std::uint8_t* b = c + stride_;
        const int mask = a[0] | a[1] << 1 | c[1] << 2 | b[1] << 3 | b[0] << 4 | b[-1] << 5 | c[-1] << 6 | a[-1] << 7;
        return wanted_.index[static_cast<std::size_t>(mask)];
    }

    void tally(std::size_t which, int by) {
        int& n = counts_[which];
        if (n == 0) ++distinct_;
        n += by;
        if (n == 0) --distinct_;
    }

    void count(Point p, int by) {
        const std::size_t i = at(p);
        if (!cells_[i]) return;
        const unsigned own = case_at(i);
        if (!wanted_.pairs) return tally(own, by);
        if (cells_[i + 1]) tally(own * 64 + case_at(i + 1), by);
        const std::size_t south = i + static_cast<std::size_t>(stride_);
        if (cells_[south]) tally(64 * 64 + own * 64 + case_at(south), by);
    }

    const Wanted& wanted_;
    Size size_;
    int stride_;
    std::vector<std::uint8_t> cells_;
    std::vector<int> counts_;
    int distinct_ = 0;
};

// Where the search begins, how many flips one try has, and how much the patch grows after a try that failed.
struct Search {
    Size size;
    int steps;
};
Search search_of(level::JoinKind kind, ProofOf of) {
    if (of == ProofOf::pairs)
        return kind == level::JoinKind::full ? Search{{34, 24}, 200000} : Search{{20, 12}, 100000};
    if (kind == level::JoinKind::full) return {{12, 9}, 60000};
    return kind == level::JoinKind::edges ? Search{{6, 5}, 4000} : Search{{7, 6}, 8000};
}

} // namespace

ProofPatch make_proof(level::JoinKind kind, std::uint32_t seed, ProofOf of) {
    const Wanted wanted(kind, of);
    const Search search = search_of(kind, of);
    for (std::uint32_t attempt = 0;; ++attempt) {
        ProofPatch patch;
        patch.size = {search.size.w + static_cast<int>(attempt / 2), search.size.h + static_cast<int>(attempt / 4)};
        patch.cells.assign(static_cast<std::size_t>(patch.size.area()), 0);
        std::uint64_t state = mix((std::uint64_t{seed} << 32) | attempt);
        const auto below = [&state](std::uint32_t n) {
            state = mix(state);
            return scaled(static_cast<std::uint32_t>(state >> 32), n);
        };
        for (std::uint8_t& c : patch.cells) c = below(100) < 62;
        Tally tally(patch, wanted);
        for (int step = 0; step < search.steps && tally.distinct() < wanted.count; ++step) {
            const double heat = 0.9 * (1 - double(step) / search.steps) + 0.12;
            const Point at{static_cast<int>(below(static_cast<std::uint32_t>(patch.size.w))),
                           static_cast<int>(below(static_cast<std::uint32_t>(patch.size.h)))};
            const int before = tally.distinct();
            tally.flip(at);
            const int gain = tally.distinct() - before;
            if (gain < 0 && std::exp(gain / heat) * (1 << 20) < below(1 << 20)) tally.flip(at);
        }
        if (tally.distinct() < wanted.count) continue;
        tally.put_into(patch);
        return patch;
    }
}

int least_proof(level::JoinKind kind, ProofOf of) {
    const auto& all = cases(kind);
    int cells = 0;  // with the material
    int open = 0;   // their sides where it must not lie
    int inside = 0; // those that have it on all four sides
    for (const Mask a : all) {
        int times = 1;
        if (of == ProofOf::pairs) {
            // Each occurrence has one neighbour a side at the most.
            int beside[4] = {};
            for (const Mask b : all) {
                beside[0] += can_meet(kind, a, b, 1);
                beside[1] += can_meet(kind, b, a, 1);
                beside[2] += can_meet(kind, a, b, 2);
                beside[3] += can_meet(kind, b, a, 2);
            }
            times = std::max(times, *std::max_element(std::begin(beside), std::end(beside)));
        }
        cells += times;
        if (kind == level::JoinKind::corners) continue; // a side says nothing by itself there
        open += times * (4 - joined_sides(a));
        inside += joined_sides(a) == 4 ? times : 0;
    }
    // The smallest of all shapes. A cell without the material serves four open sides; the rim serves its length, but
    // nothing on it has the material all round.
    int best = 1 << 30;
    for (int w = 1; w <= 64; ++w)
        for (int h = w; h <= 64; ++h) {
            const int empty = std::max(0, (open - 2 * (w + h) + 3) / 4);
            if (w * h >= cells + empty && std::max(0, w - 2) * std::max(0, h - 2) >= inside)
                best = std::min(best, w * h);
        }
    return best;
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
