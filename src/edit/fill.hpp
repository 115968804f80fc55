// What a fill would fill, and what hangs together by what it holds: the same calculation serves fill and selection.
#pragma once

#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

// What makes two cells alike.
enum class Alike : std::uint8_t {
    content,  // the same material where it was painted, else the same tile in the same turn, or nothing
    tile,     // the same tile, whatever its turn
    material, // the same material, also where a tile of it was laid by hand
};

struct FillOptions {
    Alike alike = Alike::content;
    bool corners = false;    // cells hang together at their corners, too
    bool all_layers = false; // alike on every shown layer of tiles, not only on one
};

// The cells that hang together with `at` and are like it; none beyond `within`, nor beyond `bound` where that is given
// and has any.
level::Region fill_cells(const level::Level& level, level::LayerId layer, Point at, const Box& within,
                         const FillOptions& options = {}, const level::Region* bound = nullptr);

// All cells of `within` that are like `at`, whether they hang together or not.
level::Region alike_cells(const level::Level& level, level::LayerId layer, Point at, const Box& within,
                          const FillOptions& options = {}, const level::Region* bound = nullptr);

} // namespace vic::edit
