// Several props as one: made of what was chosen, taken apart again, and edited in the place of one of its copies.
#pragma once

#include <string>

#include "edit/dress.hpp"
#include "level/project.hpp"

namespace vic::edit {

// A kind of the chosen props as they stand to one another, its pivot in the middle of their feet's lower edge. A copy of
// it takes their place, on the layer of the foremost. Throws InputError where fewer than two are chosen, or more than an
// ensemble may hold.
struct MadeEnsemble {
    level::Project project;
    level::PropKindId kind = 0;
    level::PropId prop = 0;
};
MadeEnsemble make_ensemble(level::Project project, const std::string& level, const Chosen& chosen,
                           const std::string& name);

// The chosen ensembles as props of their own, in a group each.
struct TakenApart {
    level::Project project;
    Chosen chosen; // the parts
};
TakenApart take_apart(level::Project project, const std::string& level, const Chosen& chosen);

// The level with one copy's parts as props on a layer of their own, right over the copy's, which is all that can be
// chosen in it; the copy is not there. The level as it is where the prop is no ensemble.
inline constexpr level::LayerId kPartsLayer = 0xFFFFFF00U;
inline constexpr level::PropId kFirstPart = 0xF0000000U; // a part's id as a prop: this and its own
level::Level opened(const level::Project& project, const level::Level& level, level::PropId prop);

// What was changed of the parts in an opened level, for every copy; pictures, tints and notes of parts that were there
// only in this one with `only_here`, and a part that was taken away is then missing here alone. Throws InputError where
// no part would be left, or where it would hold itself or too many.
level::Project closed(level::Project project, const level::Level& opened, const std::string& level,
                      level::PropId prop, bool only_here);

} // namespace vic::edit
