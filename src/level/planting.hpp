// A planting: a recipe by which props grow over an area.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "base/image.hpp"
#include "level/cell.hpp"
#include "level/painted.hpp"
#include "level/prop.hpp"
#include "level/sheet.hpp"

namespace vic::level {

inline constexpr std::size_t kMostPasses = 64;
inline constexpr std::size_t kMostTerms = 32;
inline constexpr std::size_t kMostGrown = 128; // kinds of a pass
inline constexpr int kMostPlantApart = 4096;   // pixels

// One thing that an area follows from: a set of places, and how far from its rim.
enum class AreaOf : std::uint8_t {
    everywhere, // all cells of the level
    painted,    // where the recipe's area was painted, as strongly
    material,   // cells where it is painted; on any layer: where it is what one walks on, with nothing over it
    layer,      // cells of a layer of tiles that hold anything
    tile,       // cells where it lies
    marks,      // the cells of marks
    props,      // the feet of props on other layers, of a kind or any; of plantings those under its own
    pass,       // what an earlier pass of the recipe planted
    tops,       // the strip above what blocks
    undersides, // the strip below what blocks
    picture,    // a picture stretched over the level, as brightly
    frame,      // the middle of the frame
};
enum class AreaJoin : std::uint8_t { with, or_else, without };
struct AreaTerm {
    AreaOf of = AreaOf::everywhere;
    AreaJoin join = AreaJoin::with; // with what the terms before it give
    LayerId layer = 0;              // of material, layer, tile: on which; 0: on any that is shown
    MaterialId material = 0;
    TileId tile = 0;
    PropKindId kind = 0; // of props: 0 for any
    SheetId sheet = 0;   // of a picture
    int pass = 0;        // index of an earlier one
    // Pixels from the set's rim, below 0 inside of it; without one however far inside, and outside.
    std::optional<int> from{}, to = 0;
    int falloff = 0; // pixels beyond those over which it fades
    bool operator==(const AreaTerm&) const = default;
};

struct PlantKind {
    PropKindId kind = 0;
    int weight = 100; // 0 .. 1000
    int apart = 0;    // pixels, at 100 per cent; 0: as wide as its foot
    bool operator==(const PlantKind&) const = default;
};

// How many of a pass there are.
struct Covers {
    enum class How : std::uint8_t {
        full,      // no room left for another
        part,      // per cent of full
        area,      // per cent of the area lie under their feet
        per_cells, // on 100 cells
    };
    How how = How::full;
    int amount = 50; // 1 .. 100 of shares, 1 .. 10000 on 100 cells
    bool operator==(const Covers&) const = default;
};

// That they stand in groups.
struct Clumps {
    int size = 0;         // pixels across; 0: they do not
    int apart = 0;        // pixels between the middles of two; 0: three times the size
    int most = 0;         // in one; 0: as many as there is room for
    bool by_kind = false; // those of one are of one kind
    bool operator==(const Clumps&) const = default;
};

struct Pass {
    std::string name;
    bool muted = false;
    std::vector<PlantKind> kinds;
    int apart = 0; // pixels, for all its kinds; 0: each has its own
    Covers covers;
    Clumps clumps;
    bool even = false;                       // spread out as far as there is room, where it is not full
    std::vector<AreaTerm> where;             // within the recipe's area
    std::uint64_t ignores = 0;               // of earlier passes, a bit each: which it does not keep off
    bool minds_placed = true;                // keeps off props that were placed on layers that are shown
    int least_scale = 100, most_scale = 100; // per cent
    int rim = 100;                           // per cent of that at the rim of where it grows; 10 .. 1000
    int rim_wide = 32;                       // pixels over which that goes over into the rest
    int least_turn = 0, most_turn = 0;       // tenths of a degree, -1800 .. 1800
    bool mirrors = true;                     // every other one
    int least_light = 0, most_light = 0;     // per cent, -100 .. 100
    int opacity = 100;
    Rgba tint{255, 255, 255, 255};
    std::optional<Rgba> tint_to{}; // each has a tint on the way from the other to this one; all the same without
    bool operator==(const Pass&) const = default;
};

// Something that was taken away by hand, and does not come again.
struct TakenAway {
    Point at;       // pixels
    int radius = 0; // pixels around it where nothing grows
    bool operator==(const TakenAway&) const = default;
};

struct Planting {
    std::vector<AreaTerm> area; // one after the other; everywhere without any
    std::vector<Pass> passes;
    std::uint32_t seed = 1;
    Painted painted; // of squares of planting_grain()
    Painted cleared; // where it was thinned or cleared: how much of it is gone
    std::vector<TakenAway> taken;
    bool operator==(const Planting&) const = default;
};

// The same where everything of a level with such cells has come to lie that many pixels further.
void move_planting(Planting& planting, Size cell, Point pixels);

// Pixels of a sample of what is painted: about a quarter of a cell, and a whole part of it.
int planting_grain(Size cell);

} // namespace vic::level
