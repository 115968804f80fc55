// project.json and levels/ID.json as text, and back. Schemas: docs/formats/project.schema.json, level.schema.json.
#pragma once

#include <string>
#include <vector>

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

// The same value gives the same text.
std::string project_to_text(const level::Project& project);
std::string level_to_text(const level::Level& level);

// Without pictures and levels; the ids of the levels are put into `level_ids`. Throws InputError.
level::Project project_from_text(const std::string& text, const std::string& file, std::vector<std::string>& level_ids);

// With empty grids. Props must be of kinds that the project has. `blocks` are those that hold its cells, of a level
// that is kept in blocks. Throws InputError.
level::Level level_from_text(const std::string& text, const std::string& file, const level::Project& project,
                             std::vector<Point>* blocks = nullptr);

// Words used in files, in the order of the enumerations.
const std::vector<std::string>& shape_words();
const std::vector<std::string>& engine_shape_words();
const std::vector<std::string>& join_kind_words();
const std::vector<std::string>& layer_kind_words();
const std::vector<std::string>& view_words();
const std::vector<std::string>& lattice_words();
const std::vector<std::string>& mark_words();
const std::vector<std::string>& note_words();

// A note's value as JSON, and back; refused where it does not fit its kind.
Json to_json(const level::NoteValue& value);
Json to_json(const level::Polygons& polygons); // [[[x, y], …], …]
level::NoteValue read_note(const Field& field, const level::NoteKind& kind);
// The notes that a thing carries, by their numbers.
void put_notes(Json& j, const level::Notes& notes);
level::Notes read_notes(const Field& f, const level::Project& project);
level::NoteId read_fact_note(const Field& f, const level::Project& project); // 0 for none
const std::vector<std::string>& side_kind_words();

} // namespace vic::store
