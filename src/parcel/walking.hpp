// How a parcel tells who walks, what stops whom, what places tell, and what was tried. Parts of build().
#pragma once

#include "level/project.hpp"
#include "outline/solid.hpp"
#include "outline/trace.hpp"
#include "store/fields.hpp"

namespace vic::parcel {

using store::Json;

// Whether any prop of the level blocks: since the fifth version its shape is in the outlines.
bool props_block(const level::Project& project, const level::Level& level);
// Outlines and one-way edges, solid shapes as the project asks for them, and all of it by collision class.
void put_blocking(Json& j, const level::Project& project, const level::Level& level, const outline::Kinds& kinds,
                  std::vector<level::Notes>& surfaces);
Json walker_json(const level::Walker& walker);
// The project's movers, the areas that the level tells, its probes and proofs.
void put_walking(Json& j, const level::Project& project, const level::Level& level, const outline::Kinds& kinds,
                 std::vector<level::Notes>& surfaces);

} // namespace vic::parcel
