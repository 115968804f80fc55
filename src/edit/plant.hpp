// Planting: a layer's props set out by chance over the ground that its recipe names.
#pragma once

#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

// The cells that the recipe names: those of the layer it grows on (of any shown layer of tiles where it names none)
// that hold its material, or anything where it names none.
level::Region planting_ground(const level::Level& level, const level::Planting& planting);

// The layer's props set out anew; what stood there goes. Places are cast in an order that depends on place and seed
// alone, and one is taken where no earlier one is nearer than `apart` (dart throwing; R. L. Cook, "Stochastic sampling
// in computer graphics", 1986), so a change of the ground is felt near it only. Feet stand on the ground's cells.
// Throws InputError where more than a million places would have to be tried.
struct Planted {
    level::Level level;
    std::uint32_t next_id = 0; // of the project afterwards
    int count = 0;
};
Planted planted(const level::Project& project, const level::Level& level, level::LayerId layer);

} // namespace vic::edit
