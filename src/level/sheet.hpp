// A sheet: one image together with the way it is cut, and the tiles that come of it.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "base/image.hpp"
#include "base/text.hpp"
#include "level/area_kind.hpp"
#include "level/cell.hpp"
#include "level/kit.hpp"
#include "level/notes.hpp"
#include "level/shape.hpp"

namespace vic::level {

using SheetId = std::uint32_t;
using LayerId = std::uint32_t;

// The lattice by which a sheet is divided. Pixels of the image file, also where the art was enlarged.
struct Cut {
    Size tile{16, 16}; // at least 1 × 1
    Point margin;      // left and above the first tile; not negative
    Point spacing;     // between tiles; not negative
    int scale = 1;     // the whole factor by which the art was enlarged; divides all of the above
    Size count{};      // columns and rows at most; 0: as many as fit. For sheets with something below or beside them
    bool operator==(const Cut&) const = default;
};

// The sets of turns that are asked for by name.
inline constexpr std::uint8_t kNoTurns = 0x01, kMirrorOnly = 0x11, kQuarterTurns = 0x0F, kAllTurns = 0xFF;

// Several cells of the lattice that are laid as one. Its lower rows are the foot: they stand on the ground and block
// with the tile's shape, stretched over them; the rows above only stand up and are passed behind.
struct Block {
    Size cells{1, 1}; // columns and rows; 1 × 1 for a tile that is no block
    Point pivot;      // which of its cells lies where it is laid: column and row
    Point offset;     // by how much its picture is moved right and down, in 1/16 of the level's cell; -64 .. 64
    int stands = 0;   // rows above the foot; less than cells.h
    bool operator==(const Block&) const = default;
};
inline constexpr int kMostBlockCells = 32; // a side

inline constexpr int kMostRise = 32;

// One picture of an animated tile.
struct TileFrame {
    TileId tile = 0; // of the same sheet; its picture only
    int ms = 150;    // how long it is shown, 10 .. 60,000
    bool operator==(const TileFrame&) const = default;
};
inline constexpr std::size_t kMostFrames = 256;

struct Tile {
    TileId id = 0;
    Box box; // in pixels of the sheet's image; its identity when the sheet is cut anew
    std::string name;
    int chance = 100; // 0 .. 1000: how often it is chosen next to its fellows
    TileShape shape = TileShape::none;
    Polygons polygons;             // of a drawn shape; empty otherwise
    std::vector<LayerId> homes;    // at most one layer a level
    std::vector<std::string> tags; // sorted, no two the same, none empty
    Notes notes;                   // of kinds that the project has
    std::uint8_t turns = 255;      // the turns it may be laid with, bit by Turn::code; bit 0 is always set
    Block block{};
    AreaKindId tells = 0; // of the project: what its cells report; 0: nothing
    int rise =
        0; // 0: lies flat; else it stands up, its foot `rise` - 1 cells below its own lower edge; up to kMostRise
    std::vector<TileFrame> frames{}; // of an animated tile; all tiles with the same frames show the same one at a time
    bool blank = false;              // nothing but see-through pixels; follows from the image
    std::string collision_class{};   // of what it blocks; empty: that of the layer it lies on
    [[nodiscard]] bool is_block() const { return block.cells != Size{1, 1}; }
    bool operator==(const Tile&) const = default;
};

// The tile whose picture an animated tile shows `ms` milliseconds after the beginning; its own id without frames.
TileId frame_at(const Tile& tile, std::int64_t ms);

// Who made the art and on what terms it may be used.
struct Credits {
    std::string author;
    std::string licence;
    std::string source; // where it was got: an address, a shop, a friend
    std::string note;
    [[nodiscard]] bool empty() const { return author.empty() && licence.empty() && source.empty() && note.empty(); }
    // Whether it says what anybody must know who gives the art away.
    [[nodiscard]] bool enough() const { return !author.empty() && !licence.empty(); }
    bool operator==(const Credits&) const = default;
};

// One of the single pictures that a sheet was packed from.
struct Part {
    std::string name; // the picture's file name without its ending
    Box box;          // in pixels of the sheet's image
    bool operator==(const Part&) const = default;
};

// A tile made of the quarters of others: north-west, north-east, south-east, south-west. Each is the same quarter of
// its source as that looks when it is laid by the turn.
struct Quarter {
    TileId from = 0;
    Turn turn{};
    bool operator==(const Quarter&) const = default;
};
using Composed = std::array<Quarter, 4>;

// How the art of a derived sheet differs from that of another.
struct Recolour {
    SheetId of = 0;                           // the sheet whose picture is coloured anew
    int hue = 0;                              // degrees, -180 .. 180
    int saturation = 0;                       // per cent more or less, -100 .. 100
    int lightness = 0;                        // per cent towards white or black, -100 .. 100
    std::vector<std::pair<Rgba, Rgba>> swaps; // one colour for another, before all else; alpha is not looked at
    bool operator==(const Recolour&) const = default;
};
inline constexpr std::size_t kMostSwaps = 256;

struct Sheet {
    SheetId id = 0;
    std::string name;
    std::string file; // relative to the project folder
    Credits credits;
    std::vector<Composed> composed;   // of a derived sheet: how its tiles are made, row by row; empty otherwise
    std::optional<Recolour> recolour; // of a derived sheet: another in these colours; never together with `composed`
    std::vector<Part> parts;          // of a sheet packed from single pictures; by name
    std::optional<KitSource> kit;     // of a sheet of a kit's pieces, drawn from above: its cells are those of the cut
    Cut cut;
    bool smooth = false;   // whether its art is sampled smoothly where it is drawn at another size; else pixel by pixel
    bool any_size = false; // whether its tiles are to be drawn at the size of any cells, as the designer decided
    bool accepted = false; // false while the cut is only the program's proposal
    std::vector<Tile> tiles;   // those of the lattice row by row, then the blocks
    std::vector<Tile> retired; // tiles of earlier cuts that this cut has no box for; they come back with their box
    std::shared_ptr<const Image> image; // null where the file could not be read; then `trouble` says why
    Text trouble;
    // Whether its picture follows from other sheets.
    [[nodiscard]] bool derived() const { return !composed.empty() || recolour; }
};

} // namespace vic::level
