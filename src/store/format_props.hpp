// Kinds of props and placed props in the files.
#pragma once

#include <vector>

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::store {

const std::vector<std::string>& stands_words(); // in the order of level::Stands

Json kind_json(const level::PropKind& kind);
// Its sheet must be the project's; the parts of an ensemble may be of kinds that are read later. Throws InputError.
level::PropKind read_kind(const Field& f, const level::Project& project);
// Once all kinds are read: throws InputError where an ensemble holds itself; parts that are of no kind are left out,
// and the sizes of ensembles follow from their parts.
void settle_ensembles(const Field& props, level::Project& project);

Json props_json(const std::vector<level::Prop>& props);
// Props of kinds that the project does not have are refused, or left out.
enum class UnknownKinds : std::uint8_t { refused, left_out };
std::vector<level::Prop> read_props(const Field& f, const level::Project& project, UnknownKinds unknown);

// Only what differs from a prop as it is.
void put_look(Json& j, const level::Look& look);
level::Look read_look(const Field& f);

} // namespace vic::store
