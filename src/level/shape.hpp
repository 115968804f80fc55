// The collision shape of a tile, and how it turns with the tile.
#pragma once

#include <cstdint>

#include "base/turn.hpp"

namespace vic::level {

// Slopes are triangles with legs of a whole cell, named by the corner where the right angle, and so the mass, lies.
// One-way edges stop what comes from outside across that side of the cell, and let pass what leaves through it.
enum class TileShape : std::uint8_t {
    none,
    full,
    slope_ne,
    slope_se,
    slope_sw,
    slope_nw,
    one_way_north, // "one-way top": the only one-way shape a tile is given; the others come from turning it
    one_way_east,
    one_way_south,
    one_way_west,
};

inline bool is_slope(TileShape s) { return s >= TileShape::slope_ne && s <= TileShape::slope_nw; }
inline bool is_one_way(TileShape s) { return s >= TileShape::one_way_north; }

inline TileShape turned(TileShape s, Turn t) {
    if (is_slope(s)) {
        const int corner = static_cast<int>(s) - static_cast<int>(TileShape::slope_ne);
        return static_cast<TileShape>(static_cast<int>(TileShape::slope_ne) + turned_corner(t, corner));
    }
    if (is_one_way(s)) {
        const int side = static_cast<int>(s) - static_cast<int>(TileShape::one_way_north);
        return static_cast<TileShape>(static_cast<int>(TileShape::one_way_north) + turned_side(t, side));
    }
    return s;
}

} // namespace vic::level
