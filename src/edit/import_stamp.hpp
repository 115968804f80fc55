// What is pasted from another project brings along what it needs: sheets with their pictures, materials, props.
#pragma once

#include <string>

#include "base/files.hpp"
#include "base/text.hpp"
#include "level/project.hpp"

namespace vic::edit {

struct ImportedStamp {
    level::Project project;
    level::Stamp stamp; // in the project's own tiles, materials and props
    bool changed = false;
    Text says; // what came along; empty where nothing did
};
// The stamp, given as text from the project in `source_dir`, in terms of `project`, whose folder is `dir`. A sheet with
// the same picture, and a material or prop of the same name, serves as it is; what is missing is added, pictures are
// copied into the folder. Throws InputError, with nothing changed but perhaps a copied picture.
ImportedStamp import_stamp(const level::Project& project, const fs::path& dir, const fs::path& source_dir,
                           const std::string& stamp_text);

} // namespace vic::edit
