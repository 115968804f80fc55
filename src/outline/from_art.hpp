// A tile's shape read from its art: the outline of what is not see-through.
#pragma once

#include "base/image.hpp"
#include "level/shape.hpp"

namespace vic::outline {

struct ArtShape {
    level::Polygons polygons; // 1/16 cells, clockwise, apart from one another; empty where the art is all see-through
    double deviation = 0;     // pixels: how far the shape is from the art's outline at the worst corner of it
};

// The outline of the pixels of at least half opacity, with as few corners as keep within `deviation` pixels of it
// (Douglas and Peucker 1973, on each ring, then to the nearest 1/16 of the cell). Holes are filled and islands under a
// hundredth of the cell left out: no walker would tell. Where a simplified line would cross itself it is kept finer.
ArtShape shape_from_art(const Image& art, double deviation);

// Into how few convex parts the polygons were cut: by ears, and then parts joined while they stay convex (Hertel and
// Mehlhorn 1983, at most four times the least number).
int convex_count(const level::Polygons& polygons);

} // namespace vic::outline
