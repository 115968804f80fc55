// Sheets that are ruled: lines of one colour between and around the tiles.
#pragma once

#include <optional>

#include "base/image.hpp"
#include "sheet/axis.hpp"

namespace vic::sheet {

struct Ruled {
    AxisFit x, y;
    Rgba colour;
    bool closed = false; // a rule at each of the four rims, and none missing between
};

// Own method. A rule is a line of 1 to 4 px that has one opaque colour over more than half its length, so that captions
// and parts that are not ruled do not hide it. Rules of the same colour that stand in an even step, both ways, are a
// lattice; one at the picture's very rim has to be as wide as the others, or it is but the frame that each tile was
// drawn with. Nothing where there is no such lattice.
std::optional<Ruled> ruled(const Image& image);

// The same for a picture of which a part is ruled: a rule is a line with a stretch of one opaque colour over a sixth of
// its length, and half of the lines that have one are rules of the lattice. Less sure than the above.
std::optional<Ruled> ruled_in_part(const Image& image);

// Whether rules in part (six lines of a colour and more) go through the tiles of this lattice: then it is not
// what the picture is ruled by, or not all of it.
bool ruled_otherwise(const Image& image, const AxisFit& x, const AxisFit& y);

} // namespace vic::sheet
