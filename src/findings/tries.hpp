// Probes and proofs of a level, tested in the physics.
#pragma once

#include <vector>

#include "findings/finding.hpp"
#include "level/project.hpp"

namespace vic::findings {

// A finding for each probe that is not as it must be, and for each proof that no longer holds.
std::vector<Finding> failed_tries(const level::Project& project, const level::Level& level);

} // namespace vic::findings
