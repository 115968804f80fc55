// What holds a walker up in a level of kit pieces, or lets him fall: with its place and a remedy.
#pragma once

#include <memory>
#include <vector>

#include "base/text.hpp"
#include "findings/finding.hpp"
#include "level/project.hpp"
#include "upright/ground.hpp"

namespace vic::upright {

struct Snag {
    enum class Kind : std::uint8_t {
        shut_in,   // there is no room at the start
        mark,      // a mark that one does not get to
        stair,     // one knocks one's head on a stair, for the floor above has no opening
        low,       // beyond a place that is too low there would be more
        narrow,    // likewise too narrow
        high,      // likewise a step that is too high
        steep,     // likewise a ramp that is too steep
        no_return, // from there one does not come back
        hole       // a floor has a hole
    };
    Kind kind = Kind::hole;
    Point cell;
    int storey = 0;
    int height = 0; // 1/64 cells
    Text what, remedy;
    level::MarkId mark = 0;
    std::vector<Point> opening; // stair: the cells of the storey above that are to be opened
    bool operator==(const Snag& o) const {
        return kind == o.kind && cell == o.cell && storey == o.storey && mark == o.mark;
    }
};

// All that there is to know of walking in a level; made at once, in whatever thread.
struct Survey {
    mass::Mass mass;
    mass::Plain plain;
    std::unique_ptr<Ground> ground;
    Soaked soaked;
    double metres = 1; // of a cell
};
// From the start mark of the level; without one nothing is reached. `mass`: what its pieces fill.
Survey survey(const level::Project& project, const level::Level& level,
              const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits, mass::Mass mass);
Survey survey(const level::Project& project, const level::Level& level,
              const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits);

// Own method. What is too low, too narrow or too high is found by soaking once more with a body for which it is not: it
// is told where that one gets to more than a cell's area of other places.
std::vector<Snag> snags(const Survey& survey, const level::Project& project, const level::Level& level,
                        const std::vector<std::shared_ptr<const scene::LoadedKit>>& kits);

// As a finding of its level.
findings::Finding finding_of(const level::Level& level, const Snag& snag);
// Of all levels of a project in which pieces of kits stand. `dir`: of the project. Throws InputError where a kit cannot
// be read.
std::vector<findings::Finding> check(const level::Project& project, const fs::path& dir);

// The middle of its cells, in 1/64 cells.
Point middle_of(const level::Mark& mark);

} // namespace vic::upright
