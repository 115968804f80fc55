// A level as the physics knows it, straight from the project: no files, no pictures.
#pragma once

#include "level/project.hpp"
#include "vicinum_level.hpp"

namespace vic::walk {

// What a parcel of the level has of outlines, one-way edges, sides, marks, walker, movers and areas, probes and proofs;
// no tiles and no layers.
vicinum::Level bones_of(const level::Project& project, const level::Level& level);

} // namespace vic::walk
