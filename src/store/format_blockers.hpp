// Blockers that lie free of the lattice, in the files.
#pragma once

#include <vector>

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

Json free_blockers_json(const std::vector<level::FreeBlocker>& free);
// Refuses what cannot be a blocker, and two with one id.
std::vector<level::FreeBlocker> read_free_blockers(const Field& f, const level::Project& project);

} // namespace vic::store
