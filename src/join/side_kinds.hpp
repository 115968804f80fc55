// Which sides of a set of tiles join, told from the sides alone: without knowing any centre.
//
// Own method. A side's profile is its colours along the edge. The profiles of all north and south sides are gathered
// into kinds by how alike they are as they would lie against each other (agglomerative clustering, average linkage:
// Sokal and Michener, "A statistical method for evaluating systematic relationships", 1958), those of west and east
// likewise. A side that joins lies against one of the opposite side that joins, so the kind that joins has both. Each
// choice of a kind for the rows and one for the columns is a reading; that is best which has the most different cases,
// whose kinds are told apart best, whose joining sides are most like the middles of their tiles, and across and along
// most like each other.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "base/error.hpp"
#include "base/image.hpp"
#include "join/mask.hpp"

namespace vic::join {

// Which sides join, per tile: north, east, south, west.
using SideLabels = std::vector<std::array<bool, 4>>;

struct SideReading {
    SideLabels joins;
    std::vector<std::array<double, 4>> sure; // 0 .. 1: how much nearer to its own kind than to any other
    double score = 0;                        // how good the reading as a whole is; comparable for the same tiles
    double cases = 0;                        // of the cases that as many tiles can have: 0 .. 1
    double apart = 0;                        // how well the kinds are told apart: -1 .. 1
    double inside = 0; // how much liker the middles the joining sides are than the others: -1 .. 1
};

class SideKinds {
  public:
    // Tiles of one size, none blank. `corners`: whether what lies in the corners is not the side's own, so that only
    // its middle half counts. Costs the square of the tiles up to 96, beyond that in proportion to them.
    // Throws Stopped, as all that takes a Stop.
    SideKinds(const std::vector<const Image*>& tiles, bool corners, const Stop& stop);

    // The readings that the kinds allow, the best first; at most `most`, none of them twice. Empty where all sides are
    // alike.
    [[nodiscard]] std::vector<SideReading> readings(std::size_t most, const Stop& stop) const;
    // How good a reading that was made otherwise is, on the same scale.
    [[nodiscard]] SideReading judged(const SideLabels& labels) const;

  private:
    static constexpr int kBins = 12;
    struct Colour {
        float r = 0, g = 0, b = 0, a = 0;
    };
    using Profile = std::array<Colour, kBins>;
    // The sides of one direction: of tile i north (west) at 2 i, south (east) at 2 i + 1.
    struct Direction {
        std::vector<Profile> profiles;
        std::vector<float> inside;     // how unlike the middle of its tile each side is
        std::vector<std::size_t> some; // the sides that are compared with one another
        std::vector<float> far;        // between those, a square
        std::vector<float> to_some;    // between each side and those, a row for a side
    };
    using Labels = std::vector<bool>; // of one direction
    [[nodiscard]] float distance(const Profile& a, const Profile& b) const;
    void gather(Direction& d, const Stop& stop) const;
    [[nodiscard]] std::vector<std::vector<int>> cuts(const Direction& d, const Stop& stop) const; // kinds of `some`, finer and finer
    [[nodiscard]] std::vector<Labels> candidates(const Direction& d, const Stop& stop) const;
    struct Judged {
        double apart = 0, inside = 0;
        std::vector<double> sure;
        Profile joins; // the mean of what joins
    };
    [[nodiscard]] Judged judge(const Direction& d, const Labels& labels) const;
    [[nodiscard]] SideReading combined(const Labels& rows, const Judged& r, const Labels& columns,
                                       const Judged& c) const;

    std::size_t tiles_;
    std::array<float, kBins> weight_{};
    Direction rows_, columns_;
};

} // namespace vic::join
