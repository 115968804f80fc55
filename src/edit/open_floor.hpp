// Openings in floors, as stairs need them.
#pragma once

#include <vector>

#include "level/project.hpp"

namespace vic::edit {

// Without the pieces of kits that lie in those cells of a storey, and the materials they were painted with; what is of
// no kit stays. Locked layers are left as they are.
level::Level with_floor_open(const level::Project& project, const level::Level& level, int storey,
                             const std::vector<Point>& cells);

} // namespace vic::edit
