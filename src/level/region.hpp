// A set of cells of any shape: what is filled, selected or touched. Sparse, and quick where it is solid: 64 cells of a
// row are one word. Cells may lie outside a level, also left of and above its origin.
#pragma once

#include <array>
#include <bit>
#include <climits>
#include <cstdint>
#include <map>
#include <memory>
#include <span>
#include <vector>

#include "base/geometry.hpp"
#include "level/grid.hpp"

namespace vic::level {

class Region {
  public:
    // The cells of one chunk: bit x of word y.
    using Rows = std::array<std::uint64_t, kChunk>;
    static_assert(kChunk == 64);

    Region() = default;
    explicit Region(const Box& box) { add(box); }
    explicit Region(std::span<const Point> cells);

    [[nodiscard]] bool empty() const { return chunks_.empty(); }
    [[nodiscard]] bool contains(Point cell) const;
    [[nodiscard]] std::int64_t count() const;
    [[nodiscard]] Box bounds() const;

    void add(Point cell);
    void add(const Box& cells);
    void add(const Region& other);
    void remove(Point cell);
    void remove(const Region& other);
    void keep(const Region& other); // what lies in both
    void keep(const Box& box);
    void clear() { chunks_.clear(); }

    [[nodiscard]] Region moved(Point by) const;
    // With the neighbours of its cells: the four, or the eight where `corners`.
    [[nodiscard]] Region grown(bool corners) const;
    // Without the cells that have a neighbour outside it; what lies outside `within` counts as inside.
    [[nodiscard]] Region shrunk(bool corners, const Box& within) const;
    // Its cells that have one of the four neighbours outside it.
    [[nodiscard]] Region rim() const;

    // Null where it has no cell of the chunk. Chunks are counted from that of cell 0, 0.
    [[nodiscard]] const Rows* rows(Point chunk) const;
    // Takes over the cells of a chunk as they are.
    void put(Point chunk, const Rows& rows);

    // visit(chunk, rows), from top to bottom and left to right.
    template <class Visit>
    void each_chunk(Visit visit) const {
        for (const auto& [at, rows] : chunks_) visit(Point{at.second, at.first}, rows);
    }
    // The same for the rows of chunks `from` .. `to` - 1.
    template <class Visit>
    void each_chunk_of(int from, int to, Visit visit) const {
        for (auto at = chunks_.lower_bound({from, INT_MIN}); at != chunks_.end() && at->first.first < to; ++at)
            visit(Point{at->first.second, at->first.first}, at->second);
    }
    // visit(cell), chunk by chunk in the same order.
    template <class Visit>
    void each(Visit visit) const {
        for (const auto& [at, rows] : chunks_)
            for (int y = 0; y < kChunk; ++y)
                for (std::uint64_t bits = rows[static_cast<std::size_t>(y)]; bits != 0; bits &= bits - 1)
                    visit(Point{at.second * kChunk + std::countr_zero(bits), at.first * kChunk + y});
    }
    [[nodiscard]] std::vector<Point> cells() const; // in reading order

    bool operator==(const Region&) const = default;

  private:
    Rows& at(Point chunk) { return chunks_[{chunk.y, chunk.x}]; }
    void tidy();                                 // chunks without a cell vanish
    std::map<std::pair<int, int>, Rows> chunks_; // by row and column; none is blank
};

// The sides of a region's cells beyond which it does not reach, merged into straight lines: for drawing its outline. In
// corners of cells; `within` cuts off what is not wanted.
struct Side {
    Point from, to;
    bool operator==(const Side&) const = default;
};
std::vector<Side> sides(const Region& region, const Box& within);

// The cells that hang together with `from` over what is open; `open` gives the open cells of a chunk. Nothing where
// `from` is not open. Cells hang together by their sides, or also at their corners. Words of a row at a time, after
// the parallel prefix fill of P. M. Kogge and H. S. Stone, "A parallel algorithm for the efficient solution of a
// general class of recurrence equations", IEEE Trans. Computers C-22, 1973.
template <class Open>
Region flood(Point from, bool corners, const Box& within, Open open);

namespace detail {

// The bits that hang together with those of `seed` within `open`, along a row.
inline std::uint64_t along(std::uint64_t seed, std::uint64_t open) {
    seed &= open;
    if (seed == 0) return 0;
    if (open == ~std::uint64_t{0}) return open;
    // Upwards the carry of an addition runs from the lowest seed to the end of its run.
    std::uint64_t out = (((open + seed) ^ open) | seed) & open;
    std::uint64_t way = open;
    for (int by = 1; by < 64; by *= 2) {
        out |= way & (out >> by);
        way &= way >> by;
    }
    return out;
}

inline std::uint64_t beside(std::uint64_t bits) { return bits | (bits << 1) | (bits >> 1); }

// Spreads `reached` over the open cells of one chunk.
inline void spread(Region::Rows& reached, const Region::Rows& open, bool corners) {
    std::uint64_t everywhere = ~std::uint64_t{0};
    std::uint64_t any = 0;
    for (std::size_t y = 0; y < kChunk; ++y) {
        everywhere &= open[y];
        any |= reached[y];
    }
    if (everywhere == ~std::uint64_t{0} && any != 0) {
        reached = open;
        return;
    }
    for (std::size_t y = 0; y < kChunk; ++y)
        if (reached[y] != 0) reached[y] = along(reached[y], open[y]);
    for (bool again = true; again;) {
        again = false;
        const auto row = [&](std::size_t y, std::uint64_t from) {
            const std::uint64_t fresh = (corners ? beside(from) : from) & open[y] & ~reached[y];
            if (fresh == 0) return;
            reached[y] |= along(fresh, open[y]);
            again = true;
        };
        for (std::size_t y = 1; y < kChunk; ++y) row(y, reached[y - 1]);
        for (std::size_t y = kChunk - 1; y-- > 0;) row(y, reached[y + 1]);
    }
}

} // namespace detail

template <class Open>
Region flood(Point from, bool corners, const Box& within, Open open_cells) {
    struct Part {
        Region::Rows open{}, reached{}, seeds{};
        bool waits = false;
        bool done = false; // all that is open is reached
    };
    Region out;
    if (!within.contains(from)) return out;
    const Point first{floor_div(within.x, kChunk), floor_div(within.y, kChunk)};
    const Point last{floor_div(within.right() - 1, kChunk), floor_div(within.bottom() - 1, kChunk)};
    const auto columns = static_cast<std::size_t>(last.x - first.x + 1);
    std::vector<std::unique_ptr<Part>> parts(columns * static_cast<std::size_t>(last.y - first.y + 1));
    std::vector<Point> waiting;
    const auto part_at = [&](Point chunk) -> Part* {
        if (chunk.x < first.x || chunk.y < first.y || chunk.x > last.x || chunk.y > last.y) return nullptr;
        auto& slot =
            parts[static_cast<std::size_t>(chunk.y - first.y) * columns + static_cast<std::size_t>(chunk.x - first.x)];
        if (!slot) {
            slot = std::make_unique<Part>();
            slot->open = open_cells(chunk);
            const Box inner = intersection(within, {chunk.x * kChunk, chunk.y * kChunk, kChunk, kChunk});
            if (inner.w < kChunk || inner.h < kChunk) {
                const std::uint64_t row = (inner.w == kChunk ? ~std::uint64_t{0} : (std::uint64_t{1} << inner.w) - 1)
                                          << (inner.x - chunk.x * kChunk);
                for (int y = 0; y < kChunk; ++y)
                    slot->open[static_cast<std::size_t>(y)] &=
                        y >= inner.y - chunk.y * kChunk && y < inner.bottom() - chunk.y * kChunk ? row : 0;
            }
        }
        return slot.get();
    };
    const auto wake = [&](Part& part, Point chunk) {
        if (!part.waits) waiting.push_back(chunk);
        part.waits = true;
    };
    const auto seed = [&](Point chunk, std::size_t row, std::uint64_t bits) {
        if (bits == 0) return;
        Part* part = part_at(chunk);
        if (!part || part->done) return;
        bits &= part->open[row] & ~part->reached[row] & ~part->seeds[row];
        if (bits == 0) return;
        part->seeds[row] |= bits;
        wake(*part, chunk);
    };
    // The rows of a neighbour's outermost column.
    const auto seed_column = [&](Point chunk, std::uint64_t rows, std::uint64_t column) {
        if (rows == 0) return;
        Part* part = part_at(chunk);
        if (!part || part->done) return;
        std::uint64_t any = 0;
        for (; rows != 0; rows &= rows - 1) {
            const auto y = static_cast<std::size_t>(std::countr_zero(rows));
            const std::uint64_t bit = column & part->open[y] & ~part->reached[y] & ~part->seeds[y];
            part->seeds[y] |= bit;
            any |= bit;
        }
        if (any != 0) wake(*part, chunk);
    };
    const Point start{floor_div(from.x, kChunk), floor_div(from.y, kChunk)};
    seed(start, static_cast<std::size_t>(from.y - start.y * kChunk), std::uint64_t{1} << (from.x - start.x * kChunk));
    constexpr std::uint64_t kLeft = 1;
    constexpr std::uint64_t kRight = std::uint64_t{1} << 63;
    // First come, first served: a chunk collects what reaches it from all sides before its turn comes.
    for (std::size_t next = 0; next < waiting.size(); ++next) {
        const Point at = waiting[next];
        Part& part = *part_at(at);
        part.waits = false;
        const Region::Rows before = part.reached;
        for (std::size_t y = 0; y < kChunk; ++y) part.reached[y] |= part.seeds[y];
        part.seeds = {};
        detail::spread(part.reached, part.open, corners);
        part.done = part.reached == part.open;
        std::uint64_t left = 0; // rows in which the outermost cell is newly reached
        std::uint64_t right = 0;
        for (std::size_t y = 0; y < kChunk; ++y) {
            const std::uint64_t fresh = part.reached[y] & ~before[y];
            left |= (fresh & kLeft) << y;
            right |= (fresh >> (kChunk - 1)) << y;
        }
        const std::uint64_t top = part.reached[0] & ~before[0];
        const std::uint64_t bottom = part.reached[kChunk - 1] & ~before[kChunk - 1];
        seed(at + Point{0, -1}, kChunk - 1, corners ? detail::beside(top) : top);
        seed(at + Point{0, 1}, 0, corners ? detail::beside(bottom) : bottom);
        seed_column(at + Point{-1, 0}, corners ? detail::beside(left) : left, kRight);
        seed_column(at + Point{1, 0}, corners ? detail::beside(right) : right, kLeft);
        if (!corners) continue;
        seed(at + Point{-1, -1}, kChunk - 1, (top & kLeft) != 0 ? kRight : 0);
        seed(at + Point{1, -1}, kChunk - 1, (top & kRight) != 0 ? kLeft : 0);
        seed(at + Point{-1, 1}, 0, (bottom & kLeft) != 0 ? kRight : 0);
        seed(at + Point{1, 1}, 0, (bottom & kRight) != 0 ? kLeft : 0);
    }
    for (int cy = first.y; cy <= last.y; ++cy)
        for (int cx = first.x; cx <= last.x; ++cx) {
            const auto& part =
                parts[static_cast<std::size_t>(cy - first.y) * columns + static_cast<std::size_t>(cx - first.x)];
            if (part) out.put({cx, cy}, part->reached);
        }
    return out;
}

} // namespace vic::level
