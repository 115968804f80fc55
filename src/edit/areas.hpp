// Areas that tell: the project's list of them, and what tells which.
#pragma once

#include <string>
#include <vector>

#include "base/text.hpp"
#include "edit/used.hpp"
#include "level/project.hpp"

namespace vic::edit {

// A new kind at the end of the list; its name is made one that no other has. Its colour is that of what it means.
level::AreaKindId add_area_kind(level::Project& project, const std::string& name, level::AreaMeans means);
// Why the project cannot have it so: a name that is empty or that another has; "" where it can.
Text area_kind_trouble(const level::Project& project, const level::AreaKind& kind);
// The one with its id is that from now on; parts of props go by its new name.
level::Project change_area_kind(level::Project project, const level::AreaKind& kind);
// Takes it away with all that tells it: tiles, free blockers and parts of props.
level::Project without_area_kind(level::Project project, level::AreaKindId kind);

// What all of the things tell: tiles of a material, a tile, a kind of props by a part of it with the area's name. 0
// where they tell nothing, or not all of them the same.
level::AreaKindId told_by(const level::Project& project, const std::vector<Used>& things);
// All of them tell that from now on, in all levels, and block nothing; with 0 they tell nothing. Of a prop it is the
// whole picture that does.
level::Project with_telling(level::Project project, const std::vector<Used>& things, level::AreaKindId kind);

// A kind of props tells it with its whole picture, whatever it tells and blocks besides. An ensemble stays as it is.
level::Project with_area(level::Project project, level::PropKindId prop, level::AreaKindId kind);
// The area of the list that a word names ("ladder" the one that is climbed, else the one called so); a new one at its
// end where there is none. 0 where the list is full.
level::AreaKindId area_for(level::Project& project, const std::string& word);

// Movers, by name; the name is made one that no other has.
std::string add_mover(level::Project& project, const std::string& name);
// By another name, wherever it is named; the project must not have that name yet.
level::Project rename_mover(level::Project project, const std::string& name, const std::string& to);
level::Project without_mover(level::Project project, const std::string& name);
// Whether things of a collision class stop it.
level::Project with_stopping(level::Project project, const std::string& mover, const std::string& collision_class,
                             bool stops);

} // namespace vic::edit
