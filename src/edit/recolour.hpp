// Things in other colours: a material, a tile or a kind of prop as a copy of another, whose art follows that of the
// other. The art of a copy is a derived sheet, cut as the other's is.
#pragma once

#include <string>

#include "base/image.hpp"
#include "base/text.hpp"
#include "edit/hand.hpp"
#include "level/project.hpp"

namespace vic::edit {

// The sheets that a thing's art lies on. Of a material all that its cases use; none for what is no material, tile or
// prop.
std::vector<level::SheetId> sheets_of(const level::Project& project, const Hand& hand);

// Why a thing cannot be had in other colours, as a sentence; empty where it can.
Text recolour_trouble(const level::Project& project, const Hand& hand, const std::string& name);

// What the Hand holds in other colours, called `name`: the derived sheets that it takes (those that there are in just
// these colours are used again), and the copy. `by.of` is not looked at. Must be without trouble.
struct Recoloured {
    level::Project project;
    Hand hand; // holds the copy
};
Recoloured recoloured(level::Project project, const Hand& hand, const std::string& name, const level::Recolour& by);

// Some of the thing's art side by side, as it is before it is coloured: up to 4 × 4 tiles, or the prop.
Image colour_sample(const level::Project& project, const Hand& hand);

// The derived sheets of what the Hand holds, in other colours from now on.
level::Project recolour_again(level::Project project, const Hand& hand, level::Recolour by);
// The colours that the thing's sheet has; null where it is no derived one.
const level::Recolour* recolour_of(const level::Project& project, const Hand& hand);

} // namespace vic::edit
