// Another picture for a sheet, or another cut: what is kept, and what would be lost.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/text.hpp"
#include "level/project.hpp"

namespace vic::edit {

// The sheet with another picture. Tiles keep their identity by pixel box; those that fall outside the picture are
// retired and come back with a picture that has room for them. New rows and columns become new tiles. A sheet that is
// one tile as large as its picture stays one. Where the cut does not fit the picture at all, every tile is retired
// and the sheet is one tile as large as the picture.
level::Project replace_image(level::Project project, level::SheetId sheet, std::shared_ptr<const Image> image,
                             const std::string& file);

// What is in use in `before` and cannot be shown in `after`.
struct Losses {
    int tiles = 0;  // that cells or cases use
    int cells = 0;  // that hold one of them
    int cases = 0;  // of materials that one of them serves
    int kinds = 0;  // of props whose box no longer lies in its picture
    int placed = 0; // props of those kinds
    level::TileId first = 0;
    [[nodiscard]] bool any() const { return tiles > 0 || kinds > 0; }
    [[nodiscard]] Text text() const;
};
Losses losses(const level::Project& before, const level::Project& after);

// A name that no other sheet has: `wanted`, or with a number behind it.
std::string free_sheet_name(const level::Project& project, const std::string& wanted);

// Where another thing of the same kind has the name already, as a sentence; empty where the name is free. `self` is
// the id of the thing to be named.
Text name_taken_by_sheet(const level::Project& project, const std::string& name, level::SheetId self);
Text name_taken_by_material(const level::Project& project, const std::string& name, level::MaterialId self);
Text name_taken_by_prop(const level::Project& project, const std::string& name, level::PropKindId self);
Text name_taken_by_tile(const level::Project& project, const std::string& name, level::TileId self);

} // namespace vic::edit
