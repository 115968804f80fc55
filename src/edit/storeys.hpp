// Storeys of a level: layers that lie at one height, added, doubled and moved as one.
#pragma once

#include <vector>

#include "level/level.hpp"

namespace vic::edit {

// The storeys that layers of the level lie on, from below; at least the lowest.
std::vector<int> storeys_of(const level::Level& level);

// A storey right above, with what is above moved up by one: with a layer of tiles for each that the storey has, empty
// (`doubled` false), or with all its layers as they are. Ids are taken from `next_id` on. Nothing changes where the
// highest would be above kMostStorey.
level::Level with_storey_above(const level::Level& level, int storey, bool doubled, std::uint32_t& next_id);
// It changes places with the next one above (`up`) or below; nothing changes where there is none.
level::Level moved_storey(const level::Level& level, int storey, bool up);
// Without its layers; what is above comes down. Nothing changes where it is the only one.
level::Level without_storey(const level::Level& level, int storey);

// It is as high as that, in 1/64 cells; as the kit has it with 0.
level::Level with_storey_height(const level::Level& level, int storey, int height);

// What lies on a storey alone, as if that were the lowest.
level::Level storey_alone(level::Level level, int storey);
// As one looks at it while one works on a storey: those above are not seen, those below faintly.
level::Level seen_from_storey(level::Level level, int storey);

} // namespace vic::edit
