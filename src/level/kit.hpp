// Where the pieces of a kit come from whose pictures a sheet shows.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "level/cell.hpp"

namespace vic::level {

// What of a piece blocks.
enum class PieceBlocks : std::uint8_t {
    mesh,    // what it fills
    box,     // all of the box around it
    hull,    // what is between any two places of it
    ramp,    // a wedge that rises from its front to its back, for stairs
    another, // what another piece of the kit fills
    nothing,
    node // what a node of its own fills, which is not seen
};

inline bool names_another(PieceBlocks blocks) { return blocks == PieceBlocks::another || blocks == PieceBlocks::node; }

// A piece: a tile with a body.
struct KitPiece {
    std::string name; // of its node, or its file; by this it is found again
    TileId tile = 0;  // of the sheet: its picture from above
    Size cells{1, 1}; // as it is turned
    int storeys = 1;
    PieceBlocks blocks = PieceBlocks::mesh;
    std::string as; // another: by its name; node: likewise
    int turn = 0;   // quarter turns to the right: pieces of several cells have a picture, and so a tile, for each
    bool operator==(const KitPiece&) const = default;
};
inline constexpr std::size_t kMostKitPieces = 4096;

struct KitSource {
    std::string file;             // relative to the project: a file, or a folder of them
    double width = 0, height = 0; // of a cell, in metres; height of a storey, 0 where nothing tells it
    bool z_up = false;            // as the file has it
    int turn = 0;                 // quarter turns to the right by which its front comes to look to the south
    bool whole = false;           // whether each file is one piece, whatever its nodes
    bool corner = false;          // whether pieces have their origin at a corner of their cells, else in the middle
    std::vector<KitPiece> pieces; // in the kit's order
    bool operator==(const KitSource&) const = default;
};

} // namespace vic::level
