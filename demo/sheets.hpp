// The sheets of Pell Saltern.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "art.hpp"

namespace pell {

struct PropArt {
    std::string name;
    Box box; // pixels of the sheet
    bool blocks = false;
    bool flat = false;
    int frames = 1, frame_ms = 150; // beside each other; `box` is the first
    int height = 0;                 // pixels; 0: not told
    std::optional<Box> foot{};      // pixels of its picture; as it is proposed without
};

// Tile sets of the kind edges + corners: the 47 cases in the order of their masks, then more tiles for "joined all
// round".
Image clay_sheet();
Image brine_sheet(); // gaps of 1 px, margin of 2
Image creek_sheet(); // its last tile is meant to lie under bridges
Image marsh_sheet();
Image boardwalk_sheet();
Image brick_sheet();
// Plain sets.
Image cellar_wall_sheet();
Image catwalk_sheet();
Image slope_sheet(); // north-east, south-east, south-west, north-west
Image water_sheet(); // surface, then deep
Image crust_sheet(); // see-through: four of salt crust, one of pebbles, one of straw
// Pictures for backdrops.
Image silt_backdrop();
Image vaults_backdrop(); // repeats across; see-through within its arches
Image depths_backdrop(); // repeats across
Image props_sheet(std::vector<PropArt>& props);
Image shore_sheet(std::vector<PropArt>& props); // what grows and lies along the marsh
Image figures_sheet(std::vector<PropArt>& props);
Image arch_prop(); // around an opening of 5 × 6 cells, half a cell wider to each side

// Seen aslant, of diamonds of 32 × 16 pixels: a floor of 47 cases, four of the yard, and what stands up: two walls, two
// heaps of salt, two crates.
Image store_floor_sheet();
Image yard_sheet();
Image store_sheet();

// A set that the demo does not use yet, for the first level of the guide: dry gravel paths.
Image gravel_sheet();
// A level as a picture, one pixel a cell: pans, a creek and a boardwalk in 32 by 32.
Image north_pans_plan();

} // namespace pell
