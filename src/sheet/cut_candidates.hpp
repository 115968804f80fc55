// What read_cut() chooses among: the lattices that each way of looking at a picture finds, with what speaks for them.
#pragma once

#include <cstdint>
#include <vector>

#include "base/image.hpp"
#include "sheet/axis.hpp"

namespace vic::sheet {

inline constexpr std::int64_t kLarge = 1 << 20; // pixels from which a second thread is worth its while

// What may lie between the tiles.
struct Ground {
    Rgba colour;
    int tolerance = 0;
};

// Rows of the picture that hold the lattice; what is above or below may be a caption.
struct Band {
    int from = 0;
    int to = 0;
};

struct Candidate {
    AxisFit x, y;
    double score = 0;
    double evidence = 0;
    bool strip = false; // something above or below the lattice is no part of it
    bool rules = false; // the gaps are lines of one colour
};

// What is told by differences alone, for one band of rows.
struct Seams {
    Band band;
    SeamProfiles profile;
    BothVotes votes;
    SeamProfile strip; // of the rows outside the band
    std::vector<double> across_repeats, down_repeats;
    std::vector<AxisFit> across, down;
};

// Grounds with how the art lies on them.
struct Grounded {
    std::vector<Ground> grounds;
    std::vector<ArtProfiles> wholes;
};

// What is told by differences, for the whole picture and for it without a strip that may be a caption.
std::vector<Seams> seams_of(const Image& drawn);

// The colours that may lie between tiles, with how the art lies on them.
Grounded grounded(const Image& drawn, int tolerance);

// All readings of the picture as drawn, for one set of grounds.
std::vector<Candidate> candidates(const Image& drawn, const std::vector<Seams>& seams, const Grounded& use,
                                  bool with_seams_alone);

} // namespace vic::sheet
