// Shapes that lie free of the lattice, shared out among the cells that they cover, so that they are traced as cells
// are.
#pragma once

#include <vector>

#include "level/standing.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

// What of a polygon lies in one cell.
struct CellPiece {
    Point cell;
    level::Polygon polygon;     // 1/64 cells, from the cell's corner
    std::vector<Point> bends{}; // corners of it that are none of the whole polygon, likewise
};

// `polygon`: corners in 1/64 cells of the level, clockwise. Where its lines cross the lattice they get corners at the
// nearest whole unit, which are the same for the cells on both sides: no gap comes about, and no line goes further
// astray than half a unit. Only cells of the box; the same pieces whatever the box (clipping: I. Sutherland and
// G. Hodgman, "Reentrant polygon clipping", 1974, which cuts nothing here but at corners).
std::vector<CellPiece> by_cells(const level::Polygon& polygon, const Box& cells);

// Places of a level in pixels as corners in 1/64 cells: to the nearest, those that fall together once.
level::Polygon in_units(const level::Spots& pixels, const Lattice& lattice);

// What of a piece of a prop blocks, clockwise, in 1/64 cells of the level; nothing where it does not or where it is too
// thin for that.
level::Polygons blocking_units(const level::Piece& piece, const Lattice& lattice);
// The one-way edge of a piece whose kind has one. Its side is the one that it looks to, turned as it is, or the nearest
// to that; nothing where it has no length.
std::optional<OneWayEdge> one_way_of(const level::Piece& piece, const Lattice& lattice);

// Takes the bends out of outlines again: corners among `bends` (sorted) that lie within half a unit of the line that
// goes on without them, measured along the line of the lattice that they lie on; but for those without which that line
// would cross or touch another.
void straighten(std::vector<Outline>& outlines, const std::vector<Point>& bends);

} // namespace vic::outline
