// How lively what was planted looks: whether the eye finds the same twice, or all of it evenly spread or in heaps.
#pragma once

#include <vector>

#include "level/project.hpp"

namespace vic::plant {

struct Lively {
    double alike = 0; // pixels from one to the nearest that looks the same; 0 where no two do
    // The mean distance to the nearest of all against what it would be by chance alone: 0 all in heaps, 1 by chance,
    // 2.15 on a lattice of triangles; 0 where there are not two. Source: P. J. Clark and F. C. Evans, "Distance to
    // nearest neighbor as a measure of spatial relationships in populations", 1954.
    double evenness = 0;
    double covered = 0; // share of the ground, in squares that hold several on the average, which their pictures hide
    struct Heat {
        Point middle;   // of the picture
        int radius = 0; // pixels
        double hot = 0; // 0 .. 1: the same is seen nowhere near, right beside
    };
    std::vector<Heat> heat; // of those that are not cold, the coolest first
};

// Of the props of a layer. Two look the same where they are of one kind and mirrored alike, and no eye tells them apart
// by turn, scale, lightness or tint. They count as near within four widths of their picture.
Lively lively_of(const level::Project& project, const level::Level& level, const level::Layer& layer);

} // namespace vic::plant
