// What brings a ledge within reach: a cell filled in, or the ledge moved.
#pragma once

#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

// The level after a cell was filled with what blocks at another one, on that layer and joined; where nothing does that
// can be laid, by the cell's own word that one may not walk there. May take `next_id` for a new layer, called `words`.
level::Level filled_in(const level::Project& project, const level::Level& level, Point cell, Point like,
                       const std::string& words, std::uint32_t& next_id);

// The level after a mass was moved by so many cells: what blocks in its cells, on layers that are not locked, with the
// props, marks and probes that stand in the row right over it. What lies behind it stays.
level::Level with_ledge_moved(const level::Project& project, const level::Level& level, const level::Region& mass,
                              Point by);

} // namespace vic::edit
