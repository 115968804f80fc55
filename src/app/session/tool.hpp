// Which tool is in use: an identity, told by its name. What the tools do, and their list, is in gesture/tools.hpp.
#pragma once

#include <cstring>

#include "edit/fill.hpp"
#include "edit/placing.hpp"

namespace vic::app {

struct Tool {
    const char* id;       // never changes; the name of its icon's button follows from it
    bool dresses = false; // belongs to Dress; the others to Lay and Bound
    bool bounds = false;  // belongs to Bound alone
    bool operator==(const Tool& other) const { return std::strcmp(id, other.id) == 0; }

    // Those that code of other rooms names.
    static const Tool pencil, rectangle, eraser, select, lasso, pick, props, choose, chooseRound, plantArea, plantThin;
};
inline constexpr Tool Tool::pencil{"Pencil"};
inline constexpr Tool Tool::rectangle{"Rectangle"};
inline constexpr Tool Tool::eraser{"Eraser"};
inline constexpr Tool Tool::select{"Select"};
inline constexpr Tool Tool::pick{"Pick"};
inline constexpr Tool Tool::lasso{"Lasso"};
inline constexpr Tool Tool::props{"Props", true};
inline constexpr Tool Tool::choose{"Choose", true};
inline constexpr Tool Tool::chooseRound{"ChooseRound", true};
inline constexpr Tool Tool::plantArea{"PlantArea", true};
inline constexpr Tool Tool::plantThin{"PlantThin", true};

// How the tools of Lay go about it.
struct ToolOptions {
    bool rim = false;       // rectangle and ellipse: the rim alone
    edit::FillOptions fill; // fill, replace, and what is selected as alike
    bool replaces = false;  // see-through tiles take the place of what is there
    bool allLayers = true;  // a selection concerns every shown layer, not only the active one
    // Where props come to stand.
    edit::Lattices lattice = edit::Lattices::cells;
    bool toProps = true; // to edges, middles and equal distances of others, with a free lattice
    edit::Rests rests = edit::Rests::storey;
    bool drops = false;        // onto the ground, tilted where it slopes
    bool curve = true;         // rows along a line that is drawn: as a curve
    int rowApart = 0;          // pixels from one of a row to the next; 0: as wide as its foot
    bool rowFaces = false;     // those of a row look along it
    bool blockerLine = false;  // blockers are drawn as lines with a width
    bool blockerOpens = false; // and let one walk, instead of blocking
    bool onlyHere = false;     // what is changed of an ensemble's parts is changed in this copy alone
};

} // namespace vic::app
