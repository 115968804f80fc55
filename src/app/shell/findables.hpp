// What can be found by name, beside the commands.
#pragma once

#include <vector>

#include "app/shell/finder.hpp"
#include "app/view/level_view.hpp"

namespace vic::app {

class LevelView;
class Session;

// Levels, sheets, tiles that have a name or tags, materials and props of the project. The session must outlive them.
void findInProject(Session& session, std::vector<Findable>& all);
// Layers and marks of the level that is open.
void findInLevel(Session& session, LevelView& view, std::vector<Findable>& all);

} // namespace vic::app
