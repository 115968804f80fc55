// Where a thing belongs: the home that the program proposes, and how homes are given.
#pragma once

#include <optional>

#include "base/text.hpp"
#include "edit/stroke.hpp"

namespace vic::edit {

struct HomeProposal {
    level::LayerId layer = 0;
    Text why;
};

// A home in the level for what the Hand holds (a tile, or a material): the layer where most of it lies already, here or
// by name in other levels; else by its looks: what is solid ground goes to the layer that blocks, what is see-through
// and blocks nothing on the ground's overlay or in front, the rest on the lowest layer. Nothing where it has a home in
// the level, or there is no layer that could be one.
std::optional<HomeProposal> propose_home(const level::Project& project, const level::Level& level, const Hand& hand);

// Gives what the Hand holds its home in the level; 0 takes it away. Nothing changes for other Hands.
level::Project set_home(level::Project project, const level::Level& level, const Hand& hand, level::LayerId layer);

// The home that it has in the level; 0 for none.
level::LayerId home_of(const level::Project& project, const level::Level& level, const Hand& hand);

} // namespace vic::edit
