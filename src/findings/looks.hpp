// What looks otherwise than it is to a walker: shapes that no layer hears, ground without a shape, things that look
// usable and are not, gaps in rows of blockers.
#pragma once

#include <vector>

#include "findings/leaks.hpp"
#include "level/project.hpp"

namespace vic::findings {

// Of the kinds unheard, solid, usable and gap. One for each material, tile or kind of prop, at its first place; of gaps
// at most eight. Levels of more than 512 × 512 cells are not looked at.
std::vector<Leak> looks(const level::Project& project, const level::Level& level);

} // namespace vic::findings
