// Hands that lay one thing.
#pragma once

#include "edit/stroke.hpp"

namespace make {

inline vic::edit::Hand material(int id) {
    vic::edit::Hand h;
    h.kind = vic::edit::Hand::Kind::material;
    h.material = static_cast<vic::level::MaterialId>(id);
    return h;
}

inline vic::edit::Hand laying(vic::level::TileId id, vic::Turn turn = {}) {
    vic::edit::Hand h;
    h.kind = vic::edit::Hand::Kind::tile;
    h.tile = id;
    h.turn = turn;
    return h;
}

inline vic::edit::Hand eraser() {
    vic::edit::Hand h;
    h.kind = vic::edit::Hand::Kind::eraser;
    return h;
}

} // namespace make
