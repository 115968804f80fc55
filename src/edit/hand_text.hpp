// Hands as text, for what keeps them beyond the program's end: JSON, as in a project's files.
#pragma once

#include <string>
#include <vector>

#include "edit/stroke.hpp"

namespace vic::edit {

std::string hands_to_text(const std::vector<Hand>& hands);
// In their order; one whose thing the project does not have is empty, as is a stamp that was only copied. Throws
// InputError where the text is none of hands_to_text().
std::vector<Hand> hands_from_text(const std::string& text, const level::Project& project);

} // namespace vic::edit
