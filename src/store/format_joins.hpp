// The parts of project.json that tell how tiles meet: materials, order cards, composed tiles.
#pragma once

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

Json material_json(const level::Material& m);
// Tiles must be below `next_tile`. Throws InputError.
level::Material read_material(const Field& f, std::uint32_t next_tile);

Json order_card_json(const level::OrderCard& card);
level::OrderCard read_order_card(const Field& f);

Json composed_json(const std::vector<level::Composed>& all);
std::vector<level::Composed> read_composed(const Field& f, std::uint32_t next_tile);
Json recolour_json(const level::Recolour& by);
level::Recolour read_recolour(const Field& f);

// The layers named as homes; none where the field is absent.
std::vector<level::LayerId> read_homes(const Field& f);

} // namespace vic::store
