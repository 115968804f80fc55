// Kits from elsewhere, copied into a project.
#pragma once

#include "base/files.hpp"
#include "kit/body.hpp"

namespace vic::store {

// Copies the files of a kit that open_kit(`path`) gave into "kits/NAME" of the project in `dir`, as they lie in its
// folder, and returns what is opened there, relative to the project: the file, or the folder. One that lies in the
// project's kits already stays where it is; a name that is taken gets a number. Throws InputError where a file cannot
// be read or written, or lies beside the kit's folder; what was copied until then is taken away again.
std::string adopt_kit(const fs::path& dir, const fs::path& path, const std::vector<fs::path>& files);

} // namespace vic::store
