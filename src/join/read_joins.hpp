// Reading from the art which neighbours each tile of a sheet expects.
//
// Own method. The centre tile is the one whose outermost pixels look most like its inside. A border strip (the middle
// half of a side, an eighth of the tile deep) or a corner patch belongs to the material as far as its pixels occur in
// the centre tile and its mean colour is the centre's; the two groups are told apart where the variance between them is
// greatest (Otsu, "A threshold selection method from gray-level histograms", IEEE Trans. SMC 9, 1979). How far a strip
// lies from the threshold, in units of the distance between the groups, is its confidence; a tile's is that of its
// weakest strip. Where cases stay without a tile, the sheet is read once more with the middles of all tiles as the
// material, for art that changes from its rim inwards; the reading that leaves less open is taken. A weak side is asked
// at its seams: whether it goes on into sides that join for sure, or looks like sides that are open for sure.
// Art without such a centre (lines, rims, soft blobs) is read from its sides alone, see side_kinds.hpp. Both readings
// are judged on one scale; the better is taken, and what only one of them says is doubted. Tiles of more than 95 pixels
// are read smaller.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/error.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "join/mask.hpp"

namespace vic::join {

struct TileReading {
    int index = 0; // in the list of pictures
    Mask mask = 0;
    double confidence = 0; // 0 .. 1
};

struct JoinReading {
    std::vector<TileReading> tiles; // blank pictures are left out
    int centre = -1;                // the tile taken as joined all round; -1 where there is none
    std::vector<Mask> missing;      // canonical masks that no tile has
    struct Doubt {
        int index;
        Text why;
    };
    std::vector<Doubt> doubtful;
    std::vector<Doubt> contradictory; // tiles whose parts say different things, or that no other tile meets
    struct Double {
        Mask mask;
        std::vector<int> indices;
    };
    std::vector<Double> doubled; // several tiles with the same mask; they may be variants
    // The next best reading, where that is nearly as good: of two grounds that meet, either may be the material. At
    // most one, without others of its own.
    std::vector<JoinReading> others;
};

// `tiles`: pictures of one size, as drawn; blank or empty ones are left out. `kind` must not be plain. `centre`: the
// index of the tile joined all round, where the designer knows better. Throws Stopped where `stop` says so; it is asked
// every few milliseconds.
JoinReading read_joins(const std::vector<Image>& tiles, level::JoinKind kind, std::optional<int> centre = {},
                       const Stop& stop = {});

} // namespace vic::join
