// Rows of bits and runs of them: places by the thousand that are looked at at once.
#pragma once

#include <algorithm>
#include <bit>
#include <cstddef>
#include <cstdint>
#include <numeric>
#include <vector>

#include "base/geometry.hpp"

namespace vic::walk {

struct Bits {
    Size size;
    std::size_t words = 0; // of a row; bit 0 of the first is the leftmost
    std::vector<std::uint64_t> of;

    explicit Bits(Size s);
    [[nodiscard]] std::uint64_t* row(int y) { return of.data() + static_cast<std::size_t>(y) * words; }
    [[nodiscard]] const std::uint64_t* row(int y) const { return of.data() + static_cast<std::size_t>(y) * words; }
    void set(int y, int from, int to);   // to: one more than the last
    void clear(int y, int from, int to); // likewise
};

// Each bit becomes what any of it and the next ones to the right, and below, was: `box` of them.
void spread_from(Bits& bits, Size box);
// Each row becomes what any of it and the rows above it was, `rows` of them.
void spread_down(Bits& bits, int rows);

struct Run {
    int from, to; // one more than the last
};

// visit(from, to) for all runs of ones (or of zeros) of a row below `width`.
template <class Visit>
void each_run(const std::uint64_t* row, int width, bool ones, const Visit& visit) {
    int from = -1;
    for (int x = 0; x < width;) {
        std::uint64_t word = row[x / 64];
        if (!ones) word = ~word;
        word >>= x % 64;
        const int left = 64 - x % 64;
        if (from < 0) {
            const int skip = word == 0 ? left : std::countr_zero(word);
            if (skip >= left) {
                x += left;
                continue;
            }
            x += skip;
            if (x < width) from = x;
            continue;
        }
        const int count = std::min(left, std::countr_one(word));
        x += count;
        if (count < left || x >= width) {
            visit(from, std::min(x, width));
            from = -1;
        }
    }
    if (from >= 0) visit(from, width);
}

struct Runs {
    std::vector<Run> all;
    std::vector<std::size_t> row_start; // one more than rows

    Runs(const Bits& bits, Size within, bool ones);
    [[nodiscard]] int rows() const { return static_cast<int>(row_start.size()) - 1; }
    [[nodiscard]] std::size_t begin(int y) const { return row_start[static_cast<std::size_t>(y)]; }
    [[nodiscard]] std::size_t end(int y) const { return row_start[static_cast<std::size_t>(y) + 1]; }
    // The first run of the row that ends beyond x.
    [[nodiscard]] std::size_t first_beyond(int y, int x) const {
        const auto b = all.begin() + static_cast<std::ptrdiff_t>(begin(y)),
                   e = all.begin() + static_cast<std::ptrdiff_t>(end(y));
        return static_cast<std::size_t>(std::partition_point(b, e, [&](const Run& r) { return r.to <= x; }) -
                                        all.begin());
    }
};

// Runs that hang together have the same root.
struct Together {
    std::vector<std::uint32_t> parent;
    explicit Together(std::size_t n) : parent(n) { std::iota(parent.begin(), parent.end(), 0U); }
    std::uint32_t root(std::uint32_t i) {
        while (parent[i] != i) i = parent[i] = parent[parent[i]];
        return i;
    }
    void join(std::size_t a, std::size_t b) {
        parent[root(static_cast<std::uint32_t>(a))] = root(static_cast<std::uint32_t>(b));
    }
    explicit Together(const Runs& runs) : Together(runs.all.size()) {
        for (int y = 0; y + 1 < runs.rows(); ++y)
            for (std::size_t i = runs.begin(y); i < runs.end(y); ++i)
                for (std::size_t j = runs.first_beyond(y + 1, runs.all[i].from);
                     j < runs.end(y + 1) && runs.all[j].from < runs.all[i].to; ++j)
                    join(i, j);
    }
};

} // namespace vic::walk
