// Recipes of plantings in files of levels.
#pragma once

#include "level/planting.hpp"
#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

Json planting_json(const level::Planting& planting);
// Throws InputError where it is none. Also reads those of one pass that older programs wrote. Kinds that are gone grow
// no more.
level::Planting read_planting(const Field& f, const level::Project& project);

} // namespace vic::store
