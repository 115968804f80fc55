// A made kit in a project, with its bodies at hand as when it is read from its files.
#pragma once

#include <string>

#include "edit/kits.hpp"
#include "kit/made_kit.hpp"
#include "scene/scene.hpp"

namespace kit_test {

inline level::Project taken(const Kit& made, scene::LoadedKit& kit, const kit::Told& told = {}) {
    kit = {};
    kit.file = made.file();
    kit.read = kit::read_kit(kit.file.bodies, told);
    edit::PutKit put = edit::put_kit({}, 0, "Walls", "w.png", "w.obj", kit.file, kit.read,
                                     kit::draw_sheet(kit.file, kit.read, 16), 16, {});
    kit.sheet = put.sheet;
    for (const level::KitPiece& p : put.project.sheet(put.sheet)->kit->pieces)
        for (std::size_t i = 0; i < kit.file.bodies.size(); ++i)
            if (kit.file.bodies[i].name == p.name) {
                kit.piece_of[p.tile] = i;
                if (p.turn != 0) kit.turn_of[p.tile] = p.turn;
            }
    return std::move(put.project);
}

} // namespace kit_test
