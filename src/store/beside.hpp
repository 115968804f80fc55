// What a project's folder holds that its files only name: kits, and the pictures that levels follow.
#pragma once

#include "base/files.hpp"

namespace vic::store {

// Copies those folders of one project into another, where nothing of them lies yet. Links are left out. Throws InputError
// where something cannot be read or written.
void copy_beside(const fs::path& from, const fs::path& to);

} // namespace vic::store
