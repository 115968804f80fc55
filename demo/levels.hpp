// The levels of Pell Saltern, laid with the same strokes that the window uses.
#pragma once

#include <map>
#include <string>

#include "level/project.hpp"

namespace pell {

// Materials, single tiles and props by name, as main.cpp has made them.
struct Stock {
    std::map<std::string, vic::level::MaterialId> materials;
    std::map<std::string, vic::level::TileId> tiles;
    std::map<std::string, vic::level::PropKindId> props;
    vic::level::SheetId silt = 0, vaults = 0, depths = 0;
};

// What grows along the marsh of Brine Pans: a recipe of seven passes over the layer "Marsh".
vic::level::Planting creek_bank(const Stock& stock, const vic::level::Level& level);

vic::level::Level brine_pans(vic::level::Project& project, const Stock& stock);
vic::level::Level pump_cellar(vic::level::Project& project, const Stock& stock);
vic::level::Level salt_store(vic::level::Project& project, const Stock& stock); // isometric

} // namespace pell
