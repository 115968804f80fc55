// Blocks of cells: taken from a level, turned, stretched, and laid again; and what is done to the cells of a selection.
#pragma once

#include "edit/stroke.hpp"

namespace vic::edit {

// The layers of tiles and props that a selection concerns: one, or all that are shown and not locked.
std::vector<level::LayerId> concerned(const level::Level& level, level::LayerId one, bool all);

// What lies on the layers within the region, as a stamp without a name as large as the region's bounds. Props belong
// to the cell that their pivot is in. The region must not be empty.
level::Stamp take(const level::Level& level, const level::Region& region, const std::vector<level::LayerId>& layers);

// Tiles of a sheet as they are arranged there, as a stamp of one layer without a name, for the cells of the level, or
// those of their home in it. Blocks are left out. Empty where the sheet has none of them.
level::Stamp stamp_of_tiles(const level::Sheet& sheet, const std::vector<level::TileId>& tiles,
                            const level::Level& level);

// What a stamp was taken from without what it has of it: cells erased, props removed.
level::Level cleared(const level::Project& project, const join::Rules& rules, const level::Level& level,
                     const level::Region& region, const std::vector<level::LayerId>& layers);

struct Stamped {
    level::Level level;
    std::uint32_t next_id = 0; // of the project afterwards: props that were laid have ids of it
    Box touched;
    std::int64_t cells = 0; // that were laid
    int props = 0;
    int no_layer = 0; // layers of the stamp that have no place in this level, or a locked or hidden one
};
// Lays the stamp with its corner at the cell. What it took from a layer goes to that layer, else to the layer of its
// name, else, if the stamp has one layer only, to `fallback`; `only` overrides all that for stamps of one layer. Empty
// cells leave what is there. Painted cells join anew, or stay as they were taken where `pins`. Props are snapped to
// nothing.
struct Stamping {
    Point at;
    level::LayerId fallback = 0;
    level::LayerId only = 0;
    bool pins = false;
};
Stamped stamp(const level::Project& project, const join::Rules& rules, const level::Level& level,
              const level::Stamp& stamp, const Stamping& how);

// The stamp as it is laid turned: places and the turns of its tiles alike. Tiles that must not be turned so, and
// blocks, keep their own turn; props are mirrored only. Quarter turns need square cells.
level::Stamp turned(const level::Project& project, const level::Stamp& stamp, Turn turn);

// The stamp at another size: its rims and middle repeat, its corners stay (the first and last third of its columns and
// rows, at least one each, do not repeat). Smaller ones lose their middle first.
level::Stamp stretched(const level::Stamp& stamp, Size size);
// The stamp repeated over the box, so that cell 0, 0 of the level is always the same cell of it.
level::Stamp patterned(const level::Stamp& stamp, const Box& box);

// What lies on the layers within the region, moved by so many cells; what it is moved onto is replaced. `marks`: marks
// and probes that stand there come along, as far as the level reaches.
Stamped moved(const level::Project& project, const join::Rules& rules, const level::Level& level,
              const level::Region& region, const std::vector<level::LayerId>& layers, Point by, bool marks = false);
// What lies on one layer within the region, moved to another of the same kind.
Stamped moved_to(const level::Project& project, const join::Rules& rules, const level::Level& level,
                 const level::Region& region, level::LayerId from, level::LayerId to);

// So many per cent of what lies on the layer within the region is taken away, steady for a seed: 1 .. 100.
Laid thinned(const level::Project& project, const join::Rules& rules, const level::Level& level, level::LayerId layer,
             const level::Region& region, int per_cent, std::uint32_t seed);
// The spread of the Hand is cast again over the region with its seed: cells that are empty or hold one of its things.
Laid rerolled(const level::Project& project, const join::Rules& rules, const level::Level& level, level::LayerId layer,
              const level::Region& region, const Hand& hand);

// Lays the Hand wherever within the region the layers hold what `what` (a material or a tile, of any turn) stands for.
struct Replaced {
    level::Level level;
    std::int64_t cells = 0;
};
Replaced replaced(const level::Project& project, const join::Rules& rules, const level::Level& level,
                  const level::Region& region, const std::vector<level::LayerId>& layers, const Hand& what,
                  const Hand& by);

// The cells whose middle lies within the closed line through the points, given in cells and parts of them.
struct Place {
    double x = 0;
    double y = 0;
};
level::Region lasso(const std::vector<Place>& line, const Box& within);

// The project with the stamp under a name that is free.
level::Project keep_stamp(level::Project project, level::Stamp stamp, const std::string& name);
level::Project remove_stamp(level::Project project, level::StampId id);

} // namespace vic::edit
