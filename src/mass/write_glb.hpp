// A level of kit pieces as a file that any engine loads alone: binary glTF 2.0.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <vector>

#include "mass/shell.hpp"
#include "scene/scene.hpp"

namespace vic::mass {

// Metres, y up, x to the east and z to the south from the upper left corner of the level. Below the level's node one
// for each storey with a node for each piece, its mesh shared and named as in its kit; "Blocks" with a mesh for each
// storey of what is merged, without a finish, `extras.blocks` true; likewise "Flat blocks", with the ground that
// carries
// (`extras.ground`) and what is flat and blocks, raised; the marks with their kind and notes in `extras`; "Ground" with
// a picture of what lies flat; "Standing" with a cut-out picture for each prop that stands up
// (`extras.stands`: those that are "facing" are to be turned to the eye); the sun (KHR_lights_punctual); and the game's
// camera. The same level gives the same bytes; empty where neither pieces nor props stand.
std::string level_glb(const level::Project& project, const level::Level& level,
                      const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits);

// What goes into the parcel of a level beside its other files: "level.glb", where the project has kits, and pieces or
// props stand in it. `dir`: of the project. Throws InputError where a kit cannot be read.
std::map<std::string, std::string> files_along(const level::Project& project, const level::Level& level,
                                               const fs::path& dir);

} // namespace vic::mass
