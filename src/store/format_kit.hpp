// The kit of a sheet in the project's file.
#pragma once

#include "level/sheet.hpp"
#include "store/fields.hpp"

namespace vic::store {

Json kit_json(const level::KitSource& kit);
// Pieces whose tile is none of `tiles` are left out.
level::KitSource read_kit_source(const Field& f, const std::vector<level::Tile>& tiles);

} // namespace vic::store
