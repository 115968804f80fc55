// Areas that tell, as outlines: what tiles, free blockers and props of a level report.
#pragma once

#include <vector>

#include "outline/solid.hpp"
#include "outline/trace.hpp"

namespace vic::outline {

// A level as large with one layer of blockers, whose shape is where the area is told: cells of tiles that tell it,
// free blockers that do, and parts of props that have its name. What lies in none of the cells of `within` may be left
// out.
level::Level where_told(const level::Project& project, const level::Level& level, level::AreaKindId kind,
                        const Box& within);

// Merged, masses and holes as those of what blocks.
std::vector<Outline> told_outlines(const level::Project& project, const level::Level& level, level::AreaKindId kind);

} // namespace vic::outline
