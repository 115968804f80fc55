// Stamps: blocks of cells with their layers, laid as one. What is copied is a stamp without a name.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "level/level.hpp"

namespace vic::level {

using StampId = std::uint32_t;

// What a stamp holds of one layer.
struct StampLayer {
    LayerId from = 0; // the layer it was taken from, where it is laid again if the level has it
    std::string name; // of that layer: in other levels, the layer of this name takes it
    LayerKind kind = LayerKind::tiles;
    int subdivision = 1;     // as of a Layer
    Grid grid;               // tiles and blockers: as large as the stamp, in its own cells
    std::vector<Prop> props; // props: in pixels from the corner of the stamp's first cell
    bool operator==(const StampLayer&) const = default;
};

struct Stamp {
    StampId id = 0;    // 0 for what is only copied
    std::string name;  // no two stamps have the same
    Size size;         // cells
    Size cell{16, 16}; // pixels, of the level it was taken from
    LatticeKind lattice = LatticeKind::square;
    bool nine = false;              // whether it is stretched: its corners stay, its rims and middle repeat
    std::vector<StampLayer> layers; // back to front
    bool operator==(const Stamp&) const = default;
};

// What a device shows.
struct FrameSize {
    std::string name;
    Size size; // pixels
    bool operator==(const FrameSize&) const = default;
};

} // namespace vic::level
