// Outlines without what is too thin for an engine: clefts into which nothing goes and hairs that a fast body may pass.
#pragma once

#include <vector>

#include "level/project.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

// The outlines with nothing thinner than `least` (1/64 cells; 0: as they are), neither of what blocks nor of what is
// open: a hair grows on both its sides until it is as thick, a cleft is filled. What blocks only gets more, so that no
// gap opens; a passage as wide as `least` or wider may lose at most half of that on each side, where a hair stands
// beside it. Tips of what tapers are no hairs, and corners at which two masses touch no clefts. Only within the box
// (1/64 cells). Outlines with nothing thin in them, and those of a level that has nothing thin, come back as they were;
// the others in reading order as trace.hpp describes it, none touching itself.
//
// Method: mathematical morphology (J. Serra, "Image Analysis and Mathematical Morphology", 1982) with mitred offsets by
// the library Clipper: what closing adds is cleft, what opening takes away is hair.
std::vector<Outline> no_thinner(const std::vector<Outline>& outlines, int least, const Box& within);

// As the project wants the outlines of a level to be for the engine: first with fewer corners, then nothing too thin.
std::vector<Outline> for_engine(const level::Project& project, const level::Level& level,
                                const std::vector<Outline>& outlines);

} // namespace vic::outline
