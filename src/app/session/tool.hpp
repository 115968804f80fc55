// Which tool is in use: an identity, told by its name. What the tools do, and their list, is in gesture/tools.hpp.
#pragma once

#include <cstring>

#include "edit/fill.hpp"

namespace vic::app {

struct Tool {
    const char* id;       // never changes; the name of its icon's button follows from it
    bool dresses = false; // belongs to Dress; the others to Lay and Bound
    bool operator==(const Tool& other) const { return std::strcmp(id, other.id) == 0; }

    // Those that code of other rooms names.
    static const Tool pencil, rectangle, eraser, select, pick, props;
};
inline constexpr Tool Tool::pencil{"Pencil"};
inline constexpr Tool Tool::rectangle{"Rectangle"};
inline constexpr Tool Tool::eraser{"Eraser"};
inline constexpr Tool Tool::select{"Select"};
inline constexpr Tool Tool::pick{"Pick"};
inline constexpr Tool Tool::props{"Props", true};

// How the tools of Lay go about it.
struct ToolOptions {
    bool rim = false;       // rectangle and ellipse: the rim alone
    edit::FillOptions fill; // fill, replace, and what is selected as alike
    bool replaces = false;  // see-through tiles take the place of what is there
    bool allLayers = true;  // a selection concerns every shown layer, not only the active one
};

} // namespace vic::app
