// Collision classes of things: what the engine tells masses apart by, and which of them stop whom.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "edit/used.hpp"

namespace vic::edit {

// The class that all of them name, of blockers their layer, "" where they name none; nothing where they differ, or
// where there is none of them that could.
std::optional<std::string> class_of(const level::Project& project, const level::Level& level,
                                    const std::vector<Used>& things);
// All of them name that class from now on, tiles and kinds of props in all levels; "": that of their layer. Of blockers
// it is the layer, of the level alone. Ensembles and backdrops name none. A name is cut to kMostClassLetters.
level::Project with_class(level::Project project, const std::string& level, const std::vector<Used>& things,
                          const std::string& name);
// All classes that anything in the project names or a mover passes; sorted, "" not among them.
std::vector<std::string> classes_of(const level::Project& project);

} // namespace vic::edit
