// A level from a picture and back: the level follows its plan, and what was changed by hand stays.
#pragma once

#include <memory>
#include <vector>

#include "edit/stroke.hpp"
#include "plan/read_plan.hpp"

namespace vic::edit {

// A plan for the picture: its colours as keys. Those that an earlier plan of the level gave a meaning keep it; colours
// near the mean colour of a material's tiles are proposed to mean that; all others mean nothing.
level::Plan proposed_plan(const level::Project& project, const level::Level* level, const Image& picture,
                          const std::string& file, int gather, bool bottom_up);

// How many pixels of the picture, as the level shows it, each key of the plan has.
std::vector<std::int64_t> key_counts(const level::Plan& plan, const Image& upright);

struct Followed {
    level::Level level;
    std::uint32_t next_id = 0;  // of the project afterwards
    std::int64_t laid = 0;      // cells, props and marks that are others now
    std::vector<Point> by_hand; // cells that the plan would change, but that were changed by hand since: they stay
    std::int64_t unknown = 0;   // pixels whose colour is none of the keys
};
// Lays what the plan asks for, and keeps it in the level as the plan that it follows. Where the level follows a plan
// already, only cells that mean something else now are touched. A level that is too small grows to the right and
// below. `picture` is as the file has it.
Followed follow_plan(const level::Project& project, const join::Rules& rules, const level::Level& level,
                     level::Plan plan, const Image& picture);

// The level as a plan picture: a pixel a cell, in the colours of the level's plan where it has one, else in the mean
// colours of its materials and tiles; what lies frontmost counts. With the keys that it can be read by.
struct Drawn {
    Image picture;
    std::vector<level::PlanKey> keys;
};
Drawn drawn_plan(const level::Project& project, const level::Level& level);

// The mean colour of a tile's pixels that show anything; see-through where none does.
Rgba mean_colour(const level::Project& project, level::TileId tile);

} // namespace vic::edit
