// Changes to sheets, tiles and materials: each takes a project and gives the changed one.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "base/files.hpp"
#include "join/read_joins.hpp"
#include "level/project.hpp"
#include "sheet/read_cut.hpp"

namespace vic::edit {

// Adds the picture (already inside the project folder, at `relative`) as a sheet. With a reading its best cut is
// applied, else one tile as large as the picture. `accepted` says whether the designer has agreed to the cut.
level::Project add_sheet(level::Project project, const std::string& relative, Image image, const std::string& name,
                         const level::Cut& cut, bool accepted, level::SheetId& added);

level::Project recut_sheet(level::Project project, level::SheetId sheet, const level::Cut& cut, bool accepted);

// Calls change() on a copy of each tile in `tiles`.
level::Project change_tiles(level::Project project, const std::vector<level::TileId>& tiles,
                            const std::function<void(level::Tile&)>& change);

// Makes a block of the sheet's tiles: the columns and rows that they span. Nothing but a reason where they are fewer
// than two cells or more than a block can be, or where the sheet has that block already.
struct MadeBlock {
    level::Project project;
    level::TileId tile = 0;
    Text trouble;
};
MadeBlock make_block(level::Project project, level::SheetId sheet, const std::vector<level::TileId>& tiles);
// Takes a block out of its sheet; it comes back with its id if it is made again.
level::Project remove_block(level::Project project, level::TileId block);

// How many cells of the level hold each tile.
std::map<level::TileId, std::int64_t> tile_counts(const level::Level& level);

// The sheet's tiles that no cell holds and no case names; blank ones are left out.
std::vector<level::TileId> unused_tiles(const level::Project& project, const level::Sheet& sheet);

// The art of a sheet's tiles, blocks left out, as read_joins() takes it: what is drawn aslant is seen from above, and
// of a blank tile there is none.
std::vector<Image> tile_pictures(const level::Sheet& sheet);

// A new material from the tiles of a sheet. Of the plain kind all tiles that are not blank become variants, weighted by
// their chance; of the others the reading decides. The project must have a free material id.
level::Project add_material(level::Project project, const level::Sheet& sheet, level::JoinKind kind,
                            const join::JoinReading& reading, const std::string& name, level::MaterialId& added);

// The cases that the reading finds tiles for in the sheet.
level::Cases cases_of(const level::Sheet& sheet, const join::JoinReading& reading);

// Gives a material's join set what the reading of a sheet says; cases that the reading has no tile for stay. `instead`:
// what the sheet's tiles served as they are before goes.
level::Project read_into(level::Project project, level::MaterialId material, const level::Sheet& sheet,
                         const join::JoinReading& reading, bool instead = false);

// Sets the tiles that serve one case; none makes it a missing case.
level::Project set_case(level::Project project, level::MaterialId material, join::Mask mask,
                        std::vector<level::Variant> variants);

// Joins every cell of the material anew in all levels, after its set has changed. Pinned cells stay.
level::Project rejoin(level::Project project);

// A kind of prop that is the whole of a sheet's picture, built in pieces of at most 512 pixels; pivot in its upper left
// corner, so that it is placed by that. Where the sheet has one already, that is given. The sheet must have its image.
struct LargePicture {
    level::Project project;
    level::PropKindId kind = 0;
};
LargePicture add_large_picture(level::Project project, level::SheetId sheet);

// A prop cut from a sheet's image: pivot and foot are proposed from the lowest opaque pixels.
level::PropKind propose_prop(const level::Sheet& sheet, const Box& box, level::PropKindId id, const std::string& name);

// A name that no material (sheet) has yet: `wanted`, or with a number behind it.
std::string free_material_name(const level::Project& project, const std::string& wanted);

} // namespace vic::edit
