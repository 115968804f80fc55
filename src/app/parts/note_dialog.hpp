// Asks for one more note of the project.
#pragma once

#include <optional>

#include "level/project.hpp"

class QWidget;

namespace vic::app {

// Nothing where it is given up. `ofCells`: only what cells may have values of.
std::optional<level::NoteKind> askNoteKind(QWidget* parent, const level::Project& project, bool ofCells = false);

} // namespace vic::app
