// Building a level for the engine. Format: docs/formats/parcel.md.
#pragma once

#include <map>
#include <string>

#include "base/files.hpp"
#include "level/project.hpp"

namespace vic::parcel {

// The files of a level's parcel by name. The same project and level give the same bytes. Throws InputError where the
// atlas would grow beyond 16384 pixels a side.
std::map<std::string, std::string> files(const level::Project& project, const level::Level& level);

struct Built {
    fs::path dir;
    int files = 0;
    std::uintmax_t bytes = 0;
};

// Where the parcel of a level comes to lie below `to`. Throws InputError where a link in the project's own folder is on
// the way: what a project brings along does not decide what is written elsewhere.
std::filesystem::path place(const std::filesystem::path& project, const std::filesystem::path& to,
                            const std::string& level);

// Writes the parcel beside `dir` and puts it in its place whole, by one exchange of names. A folder that is there and
// is neither empty nor a parcel is refused. `more`: files that go along, by name. Throws InputError; `dir` is then as it
// was.
Built build(const level::Project& project, const level::Level& level, const fs::path& dir,
            const std::map<std::string, std::string>& more = {});

} // namespace vic::parcel
