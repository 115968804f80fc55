#include "base/blue_noise.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/chance.hpp"

namespace vic {

namespace {

constexpr int kSide = 64;
constexpr int kAll = kSide * kSide;
constexpr int kReach = 6;      // how far a point is felt
constexpr double kSigma = 1.1; // of its Gaussian; small, because it is direct neighbours that matter

// How crowded each place is by the points that are set, on a plane that goes round.
class Crowd {
  public:
    Crowd() : felt_(kAll, 0.0), set_(kAll, false) {
        for (int dy = -kReach; dy <= kReach; ++dy)
            for (int dx = -kReach; dx <= kReach; ++dx)
                weight_[static_cast<std::size_t>((dy + kReach) * (2 * kReach + 1) + dx + kReach)] =
                    std::exp(-(dx * dx + dy * dy) / (2 * kSigma * kSigma));
    }
    void put(int at, bool on) {
        set_[static_cast<std::size_t>(at)] = on;
        const int x = at % kSide, y = at / kSide;
        for (int dy = -kReach; dy <= kReach; ++dy)
            for (int dx = -kReach; dx <= kReach; ++dx) {
                const int to = ((y + dy) & (kSide - 1)) * kSide + ((x + dx) & (kSide - 1));
                const double w = weight_[static_cast<std::size_t>((dy + kReach) * (2 * kReach + 1) + dx + kReach)];
                felt_[static_cast<std::size_t>(to)] += on ? w : -w;
            }
    }
    // The most crowded point that is set, or the emptiest place that is not.
    [[nodiscard]] int extreme(bool of_set) const {
        int best = -1;
        for (int i = 0; i < kAll; ++i) {
            const auto at = static_cast<std::size_t>(i);
            if (set_[at] != of_set) continue;
            if (best < 0 || (of_set ? felt_[at] > felt_[static_cast<std::size_t>(best)]
                                    : felt_[at] < felt_[static_cast<std::size_t>(best)]))
                best = i;
        }
        return best;
    }

  private:
    std::vector<double> felt_;
    std::vector<bool> set_;
    std::array<double, (2 * kReach + 1) * (2 * kReach + 1)> weight_{};
};

std::array<std::uint16_t, kAll> ranks() {
    std::array<std::uint16_t, kAll> out{};
    Crowd crowd;
    std::vector<int> first;
    for (int i = 0; i < kAll && first.size() < kAll / 10; ++i)
        if (const int at = static_cast<int>(mix(static_cast<std::uint64_t>(i)) % kAll);
            std::find(first.begin(), first.end(), at) == first.end()) {
            first.push_back(at);
            crowd.put(at, true);
        }
    // The tightest cluster moves into the largest void until that changes nothing.
    std::vector<bool> prototype(kAll, false);
    for (const int at : first) prototype[static_cast<std::size_t>(at)] = true;
    for (int round = 0; round < kAll; ++round) {
        const int from = crowd.extreme(true);
        crowd.put(from, false);
        prototype[static_cast<std::size_t>(from)] = false;
        const int to = crowd.extreme(false);
        crowd.put(to, true);
        prototype[static_cast<std::size_t>(to)] = true;
        if (from == to) break;
    }
    // Ranks downwards from the prototype, then upwards by filling voids.
    Crowd down = crowd;
    for (int rank = static_cast<int>(first.size()) - 1; rank >= 0; --rank) {
        const int at = down.extreme(true);
        down.put(at, false);
        out[static_cast<std::size_t>(at)] = static_cast<std::uint16_t>(rank);
    }
    for (int rank = static_cast<int>(first.size()); rank < kAll; ++rank) {
        const int at = crowd.extreme(false);
        crowd.put(at, true);
        out[static_cast<std::size_t>(at)] = static_cast<std::uint16_t>(rank);
    }
    return out;
}

// Every row twice.
const auto& table() {
    static const auto all = [] {
        const auto once = ranks();
        std::array<std::uint16_t, 2 * kAll> twice{};
        for (std::size_t i = 0; i < twice.size(); ++i) twice[i] = once[i / (2 * kSide) * kSide + i % kSide];
        return twice;
    }();
    return all;
}

} // namespace

SpreadRow spread_row(std::uint32_t seed, int x, int y) {
    // Seeds look at other parts of the pattern.
    const std::uint32_t shift = cell_hash(seed, 0, 0);
    const auto u = (static_cast<std::uint32_t>(x) + shift) & (kSide - 1);
    const auto v = (static_cast<std::uint32_t>(y) + (shift >> 8)) & (kSide - 1);
    return {&table()[std::size_t{v} * 2 * kSide], u};
}

std::uint32_t spread_threshold(std::uint32_t seed, int x, int y) {
    const SpreadRow row = spread_row(seed, x, y);
    return (std::uint32_t{row.ranks[row.start]} << 20) |
           (cell_hash(seed, static_cast<std::uint32_t>(x), static_cast<std::uint32_t>(y)) & 0xFFFFFU);
}

} // namespace vic
