// Derived sheets: composed tiles as tiles like any other, kept in step with the art they are made of.
#pragma once

#include "join/compose.hpp"

namespace vic::join {

// Adds the made tiles to the derived sheet `sheet` (0: to a new one called `name`, with the picture's file at `file`),
// row by row, 8 a row, and lets each serve its case in the material's set. What the tiles need of properties (shape,
// home, tags) is taken from the source that lends most. Nothing is changed where `made` is empty.
level::Project add_composed(level::Project project, level::MaterialId material, const std::vector<Made>& made,
                            level::SheetId sheet, const std::string& name, const std::string& file);

// The project with the pictures of all derived sheets made anew where their sources look different now. A sheet whose
// sources are gone keeps the picture it has, or says what is missing.
level::Project compose_sheets(level::Project project);

} // namespace vic::join
