// What somebody else has changed in a project's files while it was open here, and what becomes of it. Nothing of either
// side is lost without having been asked for.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "edit/document.hpp"
#include "level/project.hpp"
#include "store/seen.hpp"

namespace vic::edit {

// What is taken over as a whole: a level, or all that is not levels (sheets, materials, props, trays).
struct Unit {
    std::string level;   // its id; empty: all that is not levels
    std::string name;    // of the level
    bool theirs = false; // it has changed on the disk
    bool ours = false;   // it has changed here since it was read or saved
    bool gone = false;   // a level that is no longer on the disk
    [[nodiscard]] bool conflict() const { return theirs && ours; }
};

struct Outside {
    ProjectState disk; // as it is on the disk; shares with what is open what is the same
    std::shared_ptr<store::Seen> seen;
    std::vector<Unit> units; // that have changed on the disk
    [[nodiscard]] bool conflict() const;
    // Where all that is not levels has changed on both sides, numbers that each gave out mean different things: then
    // one choice holds for everything.
    [[nodiscard]] bool whole() const;
};

// Reads what has changed on the disk since `saving` was taken; for any thread. No units: nothing has. Throws
// InputError where what is on the disk cannot be read.
Outside read_outside(const Document::Saving& saving);

enum class Keep {
    theirs, // what is on the disk
    ours,   // what is open here: the next save writes it over the other
    both,   // of a level: ours becomes a level of its own beside theirs; of the rest: as theirs, ours is kept elsewhere
};

// The project with what changed on the disk only taken over, and for each conflict what was chosen, by the level's id;
// theirs where nothing was. Our copies of levels are named by `ours_name`. Throws InputError where the parts do not fit
// together (a level of ours has props of a kind that is gone in theirs): then one side has to be taken as a whole.
ProjectState settled(const ProjectState& ours, const Outside& outside, const std::map<std::string, Keep>& choices,
                     const std::function<std::string(const std::string&)>& ours_name);

} // namespace vic::edit
