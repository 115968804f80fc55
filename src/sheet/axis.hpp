// What the lines of a picture say about a lattice along one axis: profiles, and the lattices that explain them.
// Used by read_cut(); the method is described there.
#pragma once

#include <vector>

#include "base/image.hpp"

namespace vic::sheet {

inline constexpr int kLeastTile = 4; // pixels as drawn, a side

// What the ground's colour tells of each column (or row): shares of its pixels, 0 .. 1.
struct ArtProfile {
    std::vector<float> art;      // not of the ground's colour
    std::vector<float> crossing; // art on both sides of the boundary to the line before; index 0 is unused
    [[nodiscard]] int lines() const { return static_cast<int>(art.size()); }
};
struct ArtProfiles {
    ArtProfile across; // columns
    ArtProfile down;   // rows
};
// A pixel within `tolerance` (per channel) of `ground` is ground.
ArtProfiles art_profiles(const Image& image, const Box& part, Rgba ground, int tolerance);

// The mean difference of colour over the boundary to the line before, 0 .. 255; index 0 is unused.
using SeamProfile = std::vector<float>;
struct SeamProfiles {
    SeamProfile across;
    SeamProfile down;
};
SeamProfiles seam_profiles(const Image& image, const Box& part);

// What the pieces of a boundary, 4 px long, say by themselves: in how many the picture breaks off there, and in how
// many it runs through. Index 0 is unused.
struct SeamVotes {
    std::vector<float> breaks, through;
};
struct BothVotes {
    SeamVotes across, down;
};
BothVotes seam_votes(const Image& image, const Box& part);

// How much of a seam profile follows from the place within a period: log odds by period, 0 where it does not.
std::vector<double> repetition(const SeamProfile& profile);

// A lattice along one axis, in lines: `count` tiles, the first at `margin`, `gap` lines between them.
struct AxisFit {
    enum class Kind { gaps, clear, seams, single };
    Kind kind = Kind::seams;
    int tile = 0;
    int gap = 0;
    int margin = 0;
    int count = 0;
    double evidence = 0; // log odds against chance, from the pixels alone
    double prior = 0;    // log of how common such numbers are; 0 for the commonest
    double voted = 0;    // what the votes of its lines add to the evidence, for lattices without gaps

    [[nodiscard]] int end() const { return margin + count * (tile + gap) - gap; }
    [[nodiscard]] double score() const { return evidence + prior; }
};

// The best lattices that the ground's colour tells of (gaps, and lines that things keep clear of), best first.
// `see_through`: that colour is none.
std::vector<AxisFit> ground_fits(const ArtProfile& profile, const std::vector<double>& repeats, bool see_through);
// The best that the differences tell of; the same for every ground.
std::vector<AxisFit> seam_fits(const SeamProfile& profile, const SeamVotes& votes, const std::vector<double>& repeats);

// Log of how common a tile of that many pixels a side is.
double size_prior(int size);

} // namespace vic::sheet
