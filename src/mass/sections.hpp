// A piece of a kit cut level by level: what it fills between one height and the next. All lengths are in 1/64 cells,
// heights too.
#pragma once

#include <vector>

#include "level/shape.hpp"
#include "scene/scene.hpp"

namespace vic::mass {

struct Section {
    int from = 0, to = 0;     // heights, from < to
    level::Polygons polygons; // clockwise, apart; x to the east and y to the south of the piece's north-western corner
    bool operator==(const Section&) const = default;
};

struct Sections {
    std::vector<Section> all; // from below, apart; those that follow one another differ
    int open = 0;             // lines that came to no end, where the mesh is not closed: what they bound is left out
};

// How far apart cuts through what is aslant are: it becomes steps of that height, each as wide as in its middle.
inline constexpr int kStep = 8;

// Own method. Corners are rounded to whole units; between two heights at which corners lie, and every kStep units where
// a face is aslant, the triangles are cut in the middle. Each gives a line from the side that rises to the one that
// falls, so that the lines of a closed mesh come to closed outlines by themselves, also where bodies touch or run into
// one another; what these go round is filled.
Sections sections_of(const scene::Model& model);

// What of them lies anywhere between two heights, seen from above: clockwise polygons without holes, which may touch.
level::Polygons seen_between(const Sections& sections, int from, int to);

} // namespace vic::mass
