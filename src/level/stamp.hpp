// Stamps: blocks of cells with their layers, laid as one. What is copied is a stamp without a name.
#pragma once

#include <memory>
#include <string>
#include <variant>
#include <vector>

#include "level/level.hpp"

namespace vic::level {

using StampId = std::uint32_t;

// What a stamp holds of one layer: cells as large as the stamp, in the layer's own cells, or props, in pixels from the
// corner of the stamp's first cell.
struct StampTiles {
    Grid grid;
    Grain grain{}; // as of TileCells
    bool operator==(const StampTiles&) const = default;
};
struct StampProps {
    std::vector<Prop> props;
    bool planted = false; // whether they were taken from a layer that is planted
    bool operator==(const StampProps&) const = default;
};
struct StampLayer {
    LayerId from = 0; // the layer it was taken from, where it is laid again if the level has it
    std::string name; // of that layer: in other levels, the layer of this name takes it
    std::variant<StampTiles, StampProps, Blockers, Facts> content;

    [[nodiscard]] LayerKind kind() const; // of the layers that take it
    [[nodiscard]] CellsAre cells_are() const {
        return kind() == LayerKind::blockers ? CellsAre::shapes
               : kind() == LayerKind::facts  ? CellsAre::values
                                             : CellsAre::tiles;
    }
    [[nodiscard]] Grain grain() const;
    // As those of a Layer: of no cells, and none, where it holds the other. To change them it must hold them.
    [[nodiscard]] const Grid& grid() const;
    [[nodiscard]] Grid& grid();
    [[nodiscard]] bool has_cells() const { return !std::holds_alternative<StampProps>(content); }
    [[nodiscard]] const StampProps* props() const {
        return std::get_if<StampProps>(&content);
    } // null where it has cells
    [[nodiscard]] StampProps* props() { return std::get_if<StampProps>(&content); }
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
