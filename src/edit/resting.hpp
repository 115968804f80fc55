// How a prop comes to stand on what lies there, where pieces of kits stand.
#pragma once

#include <set>

#include "edit/placing.hpp"
#include "scene/hit.hpp"

namespace vic::edit {

struct Resting {
    level::Prop prop;
    std::set<level::PropId> under; // props that end where it begins: they are not in its way
    bool on_top = false;           // it stands on something
};
// On the layer it will be on, or is on; `moving` carry nothing. On the storey it stays as it is, and where there is no
// kit.
Resting resting(const level::Project& project, const level::Level& level, scene::Models& models, level::LayerId layer,
                level::Prop prop, const std::set<level::PropId>& moving, Rests how);

} // namespace vic::edit
