// Changes to what notes a project has.
#pragma once

#include <optional>
#include <string>

#include "base/text.hpp"
#include "level/project.hpp"

namespace vic::edit {

// Why a note cannot be added like that, as a sentence: no name, a name that another has, no choices. Empty where it
// can.
Text note_trouble(const level::Project& project, const level::NoteKind& kind);

// The project with one more note; `kind.id` is given out here. The note must be without trouble.
level::Project add_note_kind(level::Project project, level::NoteKind kind);

// The project without the note and without all its values.
level::Project remove_note_kind(level::Project project, level::NoteId id);

// How many tiles, marks and cells have a value for the note.
int noted(const level::Project& project, level::NoteId id);

// Tags out of what a person types: between commas, without blanks around, sorted, once each.
std::vector<std::string> parse_tags(const std::string& text);
std::string tags_text(const std::vector<std::string>& tags);

} // namespace vic::edit
