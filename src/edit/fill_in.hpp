// Filling in a cell that is to be stood on.
#pragma once

#include "level/project.hpp"

namespace vic::edit {

// The level after a cell was filled with what blocks at another one, on that layer and joined; where nothing does that
// can be laid, by the cell's own word that one may not walk there. May take `next_id` for a new layer, called `words`.
level::Level filled_in(const level::Project& project, const level::Level& level, Point cell, Point like,
                       const std::string& words, std::uint32_t& next_id);

} // namespace vic::edit
