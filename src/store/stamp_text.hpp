// A stamp as text, for the clipboard: the same as in project.json.
#pragma once

#include <string>

#include "level/project.hpp"

namespace vic::store {

std::string stamp_to_text(const level::Stamp& stamp);
// `name` tells where it came from. Throws InputError.
level::Stamp stamp_from_text(const std::string& text, const std::string& name, const level::Project& project);

// What lies on the clipboard: a stamp with the project that it is of, whose pictures and materials it may bring along.
struct Copied {
    std::string project; // its folder
    std::string stamp;   // as text
};
std::string copied_to_text(const Copied& copied);
// Throws InputError.
Copied copied_from_text(const std::string& text);

} // namespace vic::store
