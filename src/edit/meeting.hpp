// How a material meets another one.
#pragma once

#include "join/read_joins.hpp"
#include "level/project.hpp"

namespace vic::edit {

// The material ends where the other begins (and shows its rim there), or counts it as itself. Either takes away tiles
// that it had for meeting the other.
level::Project set_meeting(level::Project project, level::MaterialId material, level::MaterialId other, bool same);

// The material meets the other by tiles of the sheet, each for the case that the reading says.
level::Project meet_by_tiles(level::Project project, level::MaterialId material, level::MaterialId other,
                             const level::Sheet& sheet, const join::JoinReading& reading);

} // namespace vic::edit
