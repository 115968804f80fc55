// Probes: places where the walker must be stopped, or must get through.
#pragma once

#include <cstdint>

#include "level/level.hpp"

namespace vic::edit {

// The level with a probe at the place (1/64 cells, the middle of the walker's foot): the one that is there already
// turns into the other kind, or goes where it is of that kind. The same level where it has as many as it can.
level::Level with_probe(const level::Level& level, Point at, bool blocks);

} // namespace vic::edit
