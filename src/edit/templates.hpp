// Templates for the artist: the cases of a join set as an empty picture, and what becomes of one that comes back drawn.
#pragma once

#include <optional>
#include <string>

#include "join/read_joins.hpp"
#include "level/project.hpp"

namespace vic::edit {

// The project that knows such a template: an order card for cells of this size, so that a picture drawn on it is
// recognised. Unchanged where it knows it already.
level::Project with_template(level::Project project, level::JoinKind kind, Size tile, const std::string& name);

// The cells' pixels of a template that is as large as a picture; nothing where none is.
std::optional<Size> template_cells(const level::Project& project, Size picture);

// The template that the sheet was drawn on, by its size and layout; null where it is none.
const level::OrderCard* template_of(const level::Project& project, const level::Sheet& sheet, level::JoinKind kind);

// The sheet's tiles by the template. A cell that still looks as it was given out is not drawn: its case is missing. A
// tile whose art says for sure that it serves another case is doubted; `art` is the reading of it.
join::JoinReading reading_by_template(const level::OrderCard& card, const level::Sheet& sheet,
                                      const join::JoinReading& art);

} // namespace vic::edit
