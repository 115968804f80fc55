// Recipes of plantings as text, for the clipboard and files: from level to level, and from project to project by the
// names of what they grow and of what they grow on.
#pragma once

#include <string>

#include "level/project.hpp"

namespace vic::edit {

// The recipe without what belongs to its place: what was painted, cleared and taken by hand.
std::string recipe_text(const level::Project& project, const level::Level& level, const level::Planting& recipe);

// What the text says for another level. Props, materials, layers and sheets are those of the same names; props that the
// project does not have do not grow, and terms of what is not there are left out; where that
// leaves none of its area, it is what will be painted. Throws InputError where it is no
// recipe.
level::Planting recipe_of(const level::Project& project, const level::Level& level, const std::string& text);

} // namespace vic::edit
