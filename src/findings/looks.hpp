// What looks otherwise than it is to a walker: shapes that no layer hears, ground without a shape, things that look
// usable and are not, gaps in rows of blockers.
#pragma once

#include <vector>

#include "findings/finding.hpp"
#include "level/project.hpp"

namespace vic::findings {

// Codes: solid-unheard, looks-solid, looks-usable, blocker-gap; hints all of them. One for each material, tile or kind
// of prop, at its first place; of gaps at most eight. Levels of more than
// 512 × 512 cells are not looked at.
void check_looks(const level::Project& project, const level::Level& level, std::vector<Finding>& out);

} // namespace vic::findings
