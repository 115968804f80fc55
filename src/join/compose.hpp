// Tiles made of the quarters of others, and what has to be drawn at the least.
//
// Own method. A quarter of a tile shows only what lies on its two sides and its corner, so that the same quarter of any
// tile with the same neighbours there may take its place: five kinds of quarters in a set of edges + corners, four in
// one of edges, eight in one of corners. A tile that is laid turned lends its quarters turned. Of several sources those
// are taken whose pixels go on into each other along the lines where the quarters meet.
#pragma once

#include <set>

#include "join/mask.hpp"
#include "level/project.hpp"

namespace vic::join {

// What of a case shows in one quarter (0 north-west, 1 north-east, 2 south-east, 3 south-west).
int quarter_state(level::JoinKind kind, Mask mask, int quarter);

struct Made {
    Mask mask = 0;
    level::Composed of;
    double error = 0; // how much the lines show where the quarters meet, 0 .. 1
    int sources = 1;  // different tiles
};
// The cases that no tile of the set serves, each made of the quarters of tiles that it has, as far as that goes. Tiles
// whose pictures differ in size are left out; `turns` says how sources may be turned.
std::vector<Made> composable(const level::Project& project, const level::JoinSet& set, std::uint8_t turns);

// The picture of a composed tile; empty where a source has none or another size.
Image composed_art(const level::TileTable& tiles, const level::Composed& of, Size tile);

// The fewest cases that have to be drawn besides those of `have`, so that all of the kind are served: by turning alone,
// or by composing as well. The answer is exact.
std::vector<Mask> least_to_draw(level::JoinKind kind, const std::set<Mask>& have, std::uint8_t turns, bool composing);

} // namespace vic::join
