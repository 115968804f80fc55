// Hands that lay one thing.
#pragma once

#include "edit/stroke.hpp"

namespace make {

inline vic::edit::Hand material(int id) { return {vic::edit::held::Material{static_cast<vic::level::MaterialId>(id)}}; }

inline vic::edit::Hand laying(vic::level::TileId id, vic::Turn turn = {}) { return {vic::edit::held::Tile{id}, turn}; }

inline vic::edit::Hand eraser() { return {vic::edit::held::Eraser{}}; }

} // namespace make
