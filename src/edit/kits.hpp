// Kits in a project: a sheet of their pieces from above, and materials of those that meet.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "kit/draw.hpp"
#include "level/project.hpp"
#include "level/region.hpp"

namespace vic::edit {

// What serves a material of a kit's pieces: the pieces of a stem by their numbers, or those of a coupling by the sides
// where they couple.
struct KitMaterial {
    std::string name;
    level::JoinKind kind = level::JoinKind::edges; // plain: all of them are variants
    struct Serves {
        std::size_t piece = 0;
        std::uint8_t mask = 255;
    };
    std::vector<Serves> pieces;
    bool turns = false; // whether quarter turns may serve the cases that none is made for
};
// What is proposed of a kit: of each stem whose numbers are taken one by its codes, and of pieces without a code those
// that couple alike: where all of them couple on all four sides a plain one, else one of sides. What has an opening by
// its name (door, window, gate, arch) is left out of the second. Pieces of more than one cell serve none.
std::vector<KitMaterial> kit_materials(const kit::KitFile& file, const kit::KitReading& read);
// The neighbours that a number stands for, canonical for the kind.
std::uint8_t mask_of(const kit::Codes& codes, int number);

struct PutKit {
    level::Project project;
    level::SheetId sheet = 0;
    int fresh = 0; // pieces that are new
    std::vector<level::MaterialId> materials;
    std::vector<level::PropKindId> things; // pieces that are props, too
};
// A kit that is new (`sheet` 0) or read anew, drawn by draw_sheet() with so many pixels a cell. `file` and `source` are
// the picture's and the kit's, relative to the project. Tiles keep their identity by the names of their pieces, and all
// that was said of them; a new piece that stands up half a metre or more blocks as its picture is drawn. Materials are
// made of a new kit alone, as many as the project has room for; of a new kit of whole things each becomes a prop, too.
// Props of pieces go along with the pictures of these; where one has another size, it stands as props_of_tiles() would
// have it.
PutKit put_kit(level::Project project, level::SheetId sheet, const std::string& name, const std::string& file,
               const std::string& source, const kit::KitFile& kit, const kit::KitReading& read, const kit::Drawn& drawn,
               int side, const std::vector<KitMaterial>& materials);

// What draw_sheet() is to keep of the kit's sheet: its pieces and where they are.
std::vector<std::pair<std::string, Box>> kit_places(const level::Sheet& sheet);
// The tile of the same piece turned once more, to the right or to the left; 0 where there is none, as of pieces of one
// cell, whose tiles are turned themselves.
level::TileId turned_piece(const level::Project& project, level::TileId tile, bool right);
// The tiles of the same piece of several cells with its front to the south, west, north and east; empty for any other.
std::vector<level::TileId> facing_pieces(const level::Project& project, level::TileId tile);
// The piece whose picture a tile is; null where it is none. It lives as long as the sheet.
const level::KitPiece* piece_of(const level::Sheet& sheet, level::TileId tile);
// What of the piece that a tile shows blocks, in all its turns. `as`: another piece's name, or that of a node. Nothing changes where the
// tile is of no kit.
level::Project with_piece_blocking(level::Project project, level::TileId tile, level::PieceBlocks blocks,
                                   const std::string& as = {});
// How the kit was read, so that it is read so again.
kit::Told told_of(const level::KitSource& source);

} // namespace vic::edit
