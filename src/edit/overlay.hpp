// Laying without wiping out: see-through tiles go to the overlay of their layer where something lies already, and the
// eraser takes from the overlay first.
#pragma once

#include "edit/stroke.hpp"

namespace vic::edit {

// Whether any pixel of the tile lets something show through; not where its picture is lost. Of an isometric tile only
// the diamond of its cell counts, at the lower edge of its picture, without the pixels along its rim.
bool see_through(const level::Project& project, level::TileId tile, const Lattice& lattice = {});

// The overlay of the layer in this level; 0 where it has none.
level::LayerId overlay_of(const level::Level& level, level::LayerId layer);

struct LaidOver {
    level::Level level;
    Box touched;
    int joined = 0;
    std::uint32_t next_id = 0;   // of the project afterwards: an overlay that was made has an id of it
    level::LayerId overlay = 0;  // that took or gave some of the cells; 0 where none was concerned
    std::int64_t on_overlay = 0; // cells that went there, or were erased there
    std::int64_t stayed_out = 0; // cells that would belong on the overlay, but that is locked or hidden
};

// Lays the Hand on the cells. What lay there when the stroke began decides: a see-through tile over something else goes
// to the overlay, which is made right in front of the layer when first needed; unless `replaces`. So does a material of
// a kit's pieces that let something show through, all of it at once, so that walls over floors meet. The eraser takes
// what the overlay has, and from the layer itself where that has nothing. A level that grows must have been grown for
// the cells.
struct LayingOver {
    level::LayerId layer = 0;
    const Hand& hand;
    const level::Region& cells;
    bool replaces = false;
    std::string overlay_name = {};        // of one that has to be made
    const level::Level* before = nullptr; // as the stroke found it; null: as it is
};
LaidOver lay_over(const level::Project& project, const join::Rules& rules, const level::Level& level,
                  const LayingOver& how);

// What lies on the layer itself where the Hand would be laid: the names of what gives way, each once, and how many
// cells stay because they were laid by hand. Where the eraser takes from the overlay first, the layer keeps what it
// has.
struct Under {
    std::vector<Text> gives_way;
    int stays = 0;
};
Under under(const level::Project& project, const level::Level& level, level::LayerId layer, const Hand& hand,
            std::span<const Point> cells);

} // namespace vic::edit
