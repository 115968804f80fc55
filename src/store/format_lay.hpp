// The parts of the files that laying needs: a layer's finer settings, plans, guides, stamps, frames of devices.
#pragma once

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

// Only what differs from a plain layer is written.
Json backdrop_json(const level::Backdrop& backdrop);
level::Backdrop read_backdrop(const Field& f, const level::Project& project);
void put_layer_settings(Json& j, const level::Layer& layer);
void read_layer_settings(const Field& f, level::Layer& layer);

// Growing, guides, the frame's place, the stronger lines, the plan.
// Light, sight and heights of storeys; only what is not as it is in a new level.
void put_depth(Json& j, const level::Level& level);
void put_level_extras(Json& j, const level::Level& level);
void read_level_extras(const Field& f, level::Level& level);

Json stamp_json(const level::Stamp& stamp);
// Tiles must be below the project's next; kinds of props must be the project's. Throws InputError.
level::Stamp read_stamp(const Field& f, const level::Project& project);

// The cells of a layer, of a level or a stamp.
void put_grain(Json& layer, level::Grain grain);
level::Grain read_grain(const Field& layer);

} // namespace vic::store
