// Changes to kinds of props: taken from the islands of a sheet, merged, split, moved, given another pivot. Placed props
// keep their picture where it is, whatever happens to their kind.
#pragma once

#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "level/project.hpp"

namespace vic::edit {

// Whether a prop of the sheet has most of the box already.
bool is_taken(const level::Project& project, level::SheetId sheet, const Box& box);

// A prop for each box of the sheet that is not taken yet, with pivot and foot as proposed, named `stem` and a
// number that is free. The sheet must have its image; boxes must lie in it.
struct TakenIslands {
    level::Project project;
    std::vector<level::PropKindId> added;
};
TakenIslands take_islands(level::Project project, level::SheetId sheet, const std::vector<Box>& boxes,
                          const std::string& stem);

// A prop for each of the tiles that no prop is made of yet, with the tile's name, tags and notes. One that has no part
// and does not stand up lies flat; one that blocks stands on all of its cell, a block on the cells of its foot. Tiles
// must be of the sheet and not blank; one-way edges do not come along. A piece of a kit becomes a prop with its body,
// which stands on what is seen of it from above; its tiles that are turned are passed over.
level::PropKind prop_of_tile(const level::Sheet& sheet, const level::Tile& tile, level::PropKindId id,
                             const std::string& name);
TakenIslands props_of_tiles(level::Project project, level::SheetId sheet, const std::vector<level::TileId>& tiles);

// A sheet packed from single pictures, new (`sheet` 0) or brought up to date: each part is a prop with the picture's
// name. Props keep their identity and name by the part they were cut from; one whose picture has another size is cut
// anew, its pivot and foot proposed again. `file` is the packed picture's, relative to the project.
struct PutFolder {
    level::Project project;
    level::SheetId sheet = 0;
    int fresh = 0; // props or tiles that are new
};
// As what the parts are taken. As tiles (sheet::are_even() parts) they are cut as a lattice and named by their
// pictures; kinds of props that were made of them and are not placed go.
enum class FolderAs : std::uint8_t { props, tiles };
PutFolder put_folder(level::Project project, level::SheetId sheet, const std::string& name, const std::string& file,
                     std::shared_ptr<const Image> image, const std::vector<level::Part>& parts,
                     FolderAs as = FolderAs::props);
// The same parts taken as the other.
PutFolder folder_as(level::Project project, level::SheetId sheet, FolderAs as);
FolderAs folder_is(const level::Sheet& sheet); // as what its parts are taken now

// Puts the kind in the place of the one with its id, and shifts the placed props by as much as the pivot has moved over
// the sheet.
level::Project change_kind(level::Project project, level::PropKind changed);

// One prop from several of the same sheet: the first keeps its id and name, the placed ones of the others become its.
// The pivot is proposed anew. At least one id; all must exist.
level::Project merge_kinds(level::Project project, const std::vector<level::PropKindId>& kinds);

// The parts of a prop as props of their own, the first keeping its id; placed ones become all of the parts in place.
level::Project split_kind(level::Project project, level::PropKindId kind, const std::vector<Box>& parts);

// How often props of the kind stand in the levels.
int placed(const level::Project& project, level::PropKindId kind);

// Changes every wanted prop of all levels; ids must stay.
void change_props(level::Project& project, const std::function<bool(const level::Prop&)>& wanted,
                  const std::function<void(level::Prop&)>& change);

// Removes the kinds and all placed props of them, ensembles that have no other parts, and what copies had of them.
level::Project remove_kinds(level::Project project, const std::vector<level::PropKindId>& kinds);

// The outline of what is not see-through in a kind's foot, in pixels of its box; empty where nothing is drawn there.
level::Polygons shape_in_foot(const level::Project& project, const level::PropKind& kind);

// The kinds that may stand in for one another: the one that is varied first, then its variants; at least the kind.
std::vector<level::PropKindId> variants_of(const level::Project& project, level::PropKindId kind);
// Which of them stands at a place: by their chances, always the same there.
level::PropKindId variant_at(const level::Project& project, level::PropKindId kind, Point at);

// The nine pivots, by column (0 left, 1 middle, 2 right) and row (0 top, 1 middle, 2 bottom), in pixels of the box.
Point pivot_preset(Size box, int column, int row);

} // namespace vic::edit
