// How strongly each place was painted: 0 .. 255 for squares of pixels. A value: copies share what does not change.
#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <memory>
#include <utility>

#include "base/geometry.hpp"

namespace vic::level {

class Painted {
  public:
    static constexpr int kSide = 64; // samples of a chunk
    using Chunk = std::array<std::uint8_t, std::size_t{kSide} * kSide>;

    // Samples; any place, also left of and above 0.
    [[nodiscard]] int at(Point sample) const;
    void set(Point sample, int strength); // cut to 0 .. 255
    [[nodiscard]] bool empty() const { return chunks_.empty(); }
    void clear() { chunks_.clear(); }
    // The least box of whole chunks that has all that is painted.
    [[nodiscard]] Box bounds() const;
    // Of a box of samples, row by row.
    void read(const Box& samples, std::uint8_t* out) const;
    [[nodiscard]] Painted moved(Point by) const; // samples
    // visit(sample, length, strength) for the runs of one strength above 0 in each row of a chunk, chunk by chunk.
    template <class Visit>
    void each_run(Visit visit) const {
        for (const auto& [where, chunk] : chunks_)
            for (int y = 0; y < kSide; ++y)
                for (int x = 0, to = 0; x < kSide; x = to) {
                    const std::uint8_t v = (*chunk)[index({x, y})];
                    for (to = x + 1; to < kSide && (*chunk)[index({to, y})] == v;) ++to;
                    if (v != 0) visit(Point{where.second * kSide + x, where.first * kSide + y}, to - x, int{v});
                }
    }
    friend bool operator==(const Painted& a, const Painted& b);

  private:
    static std::size_t index(Point in_chunk) {
        return static_cast<std::size_t>(in_chunk.y) * kSide + static_cast<std::size_t>(in_chunk.x);
    }
    std::map<std::pair<int, int>, std::shared_ptr<const Chunk>> chunks_; // by y, then x; none without anything
};

} // namespace vic::level
