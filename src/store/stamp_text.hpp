// A stamp as text, for the clipboard: the same as in project.json.
#pragma once

#include <string>

#include "level/project.hpp"

namespace vic::store {

std::string stamp_to_text(const level::Stamp& stamp);
// `name` tells where it came from. Throws InputError.
level::Stamp stamp_from_text(const std::string& text, const std::string& name, const level::Project& project);

} // namespace vic::store
