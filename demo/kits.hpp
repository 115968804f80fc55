// The kits of Pell Saltern: modular pieces in three dimensions, as OBJ with finishes in an MTL beside it.
#pragma once

#include <string>

#include "base/image.hpp"

namespace pell {

struct KitText {
    std::string obj, mtl;
};
// For the pump house: brick walls, floors, stairs, railings, a roof, and what stands in it. Cells of 2 m, storeys of 3
// m.
KitText pump_house_kit();
// Walls of salt blocks numbered by their neighbours (north 1, east 2, south 4, west 8), and three floors. Cells of 2 m.
KitText salt_walls_kit();
// Whole things that stand on a quay, to be placed anywhere: a salt cart, a hoist, a brine vat, a stack of planks.
KitText quay_things_kit();
// Where the walls of a maze stand, a pixel a cell.
vic::Image salt_maze_plan();

} // namespace pell
