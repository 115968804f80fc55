// The collision shape of a tile, and how it turns with the tile.
#pragma once

#include <cstdint>
#include <vector>

#include "base/geometry.hpp"
#include "base/text.hpp"
#include "base/turn.hpp"

namespace vic::level {

// Slopes are triangles with legs of a whole cell, named by the corner where the right angle, and so the mass, lies.
// Halves are named by the side at which the mass lies. Two wedges, a thin and a thick one, make a slope of 1 : 2 over
// two cells; they are named by the corner as slopes are. Steep wedges are those that climb two cells on one.
// One-way edges stop what comes from outside across that side of the cell, and let pass what leaves through it.
enum class TileShape : std::uint8_t {
    none,
    full,
    slope_ne,
    slope_se,
    slope_sw,
    slope_nw,
    one_way_north,
    one_way_east,
    one_way_south,
    one_way_west,
    half_north,
    half_east,
    half_south,
    half_west,
    thin_ne,
    thin_se,
    thin_sw,
    thin_nw,
    thick_ne,
    thick_se,
    thick_sw,
    thick_nw,
    steep_thin_ne,
    steep_thin_se,
    steep_thin_sw,
    steep_thin_nw,
    steep_thick_ne,
    steep_thick_se,
    steep_thick_sw,
    steep_thick_nw,
    opens, // nothing that lies below it blocks in its cell
    drawn, // by the polygons that the tile carries
};
inline constexpr int kTileShapes = static_cast<int>(TileShape::drawn) + 1;

inline constexpr int kShapeSide = 16; // the corners of a polygon are in 1/16 of the cell, 0 .. 16 each way
inline constexpr int kMostShapeCorners = 64;

// A closed line without its first point again, clockwise on screen: what blocks lies to the right of the way.
using Polygon = std::vector<Point>;
using Polygons = std::vector<Polygon>;

inline bool is_slope(TileShape s) { return s >= TileShape::slope_ne && s <= TileShape::slope_nw; }
inline bool is_one_way(TileShape s) { return s >= TileShape::one_way_north && s <= TileShape::one_way_west; }
// The side of a one-way shape: 0 north, 1 east, 2 south, 3 west.
inline int one_way_side(TileShape s) { return static_cast<int>(s) - static_cast<int>(TileShape::one_way_north); }

// What a shape with a name blocks; nothing for none, one-way edges, `opens` and `drawn`.
const Polygons& polygons_of(TileShape shape);

TileShape turned(TileShape shape, Turn turn);
// Still clockwise where the turn mirrors.
Polygons turned(const Polygons& polygons, Turn turn);

// Twice the area, in the square of the corners' unit; positive where the corners go clockwise on screen.
std::int64_t area2(const Polygon& polygon);
// Whether the place lies in what the polygons cover, those that go round it either way counted (winding not 0). It is
// given in half units, so that it can lie between corners.
bool covers(const Polygons& polygons, Point half_units);
// The polygons, each clockwise on screen.
Polygons clockwise(Polygons polygons);

// Why these polygons are no shape, "" where they are one: fewer than three corners, corners outside the cell, more than
// kMostShapeCorners of them, no area, a line that crosses or touches itself. Several polygons may overlap.
Text shape_trouble(const Polygons& polygons);
// The same of where the line of one polygon crosses or touches itself, or two corners lie on each other.
Text crossing_trouble(const Polygon& polygon);
// The same of polygons within another box: 0 .. `within` each way.
Text outline_trouble(const Polygons& polygons, Size within);

// The same without needless corners, every polygon clockwise, and with the name of a shape where it is one of those:
// the polygons are emptied then.
TileShape named_shape(Polygons& polygons);

} // namespace vic::level
