// A level of kit pieces in three dimensions: which piece stands where. Everything is in cells of the level: x to the
// east, z to the south, y up; the lower north-western corner of cell 0, 0 of the lowest storey is the origin.
#pragma once

#include <array>
#include <map>
#include <memory>
#include <optional>
#include <vector>

#include "kit/read_kit.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::scene {

// A kit with its pieces by the tiles that show them.
struct LoadedKit {
    level::SheetId sheet = 0;
    kit::KitFile file;
    kit::KitReading read;
    std::map<level::TileId, std::size_t> piece_of;
    std::map<level::TileId, int> turn_of; // of pieces of several cells: by how many quarters their tile is turned
    struct Blocking {
        level::PieceBlocks blocks = level::PieceBlocks::mesh;
        std::size_t as = 0; // another: which
        std::string node{}; // node: its name
    };
    std::map<std::size_t, Blocking> blocking; // by piece: those that do not block as their mesh is
};
// The kit of a sheet that has one, from where `file` lies. Throws InputError where it cannot be read.
LoadedKit load_kit(const level::Sheet& sheet, const fs::path& file);

// All kits of a project that lies in `dir`, in the order of its sheets. Throws InputError where one cannot be read, or
// lies outside.
std::vector<std::shared_ptr<const LoadedKit>> load_kits(const level::Project& project, const fs::path& dir);

// The triangles of a piece as they are drawn: three corners each, parts of one finish together. In cells, about the
// lower north-western corner of the piece's cells.
struct Model {
    struct Corner {
        std::array<float, 3> at, normal;
        std::array<float, 2> uv;
    };
    struct Part {
        int first = 0, count = 0; // corners
        int finish = 0;           // of the kit; -1: of none
    };
    std::vector<Corner> corners;
    std::vector<Part> parts;
    std::array<float, 3> least{}, most{};
};
Model model_of(const LoadedKit& kit, std::size_t piece); // without the node that only blocks
Model model_of(const kit::KitFile& file, const kit::KitReading& read, std::size_t piece);

Model model_of(const LoadedKit& kit, std::size_t piece, const std::string& node, bool alone);
// Whether each side of its triangles is met by one that runs the other way, and all its bodies have their outside
// outside: then what faces away is never seen.
bool is_closed(const Model& model);

// Where the storeys of a level lie, in cells: as high as the level says, else as the first of the kits has them.
class Storeys {
  public:
    explicit Storeys(const std::vector<std::shared_ptr<const LoadedKit>>& kits, const std::map<int, int>& told = {});
    [[nodiscard]] double low(int storey) const; // 0 of the lowest; any storey from 0 on
    [[nodiscard]] double height(int storey) const { return low(storey + 1) - low(storey); }
    [[nodiscard]] int at(double height) const; // on which storey that is; the lowest below all, the highest above
    [[nodiscard]] double plain() const { return plain_; } // of those that are not told

  private:
    double plain_;
    std::vector<double> low_; // of the first ones, up to above the last that is told
};

// What of a piece blocks, as a model of its own without finishes; empty where nothing does. A hull is that of all its
// corners; a ramp rises to the side at which the piece is highest.
Model blocking_model_of(const LoadedKit& kit, std::size_t piece);

// Rows of the three coordinates: what a point of a model comes to.
using Placing = std::array<std::array<float, 4>, 3>;

struct Placed {
    std::size_t kit = 0, piece = 0;
    Box cells; // that it stands on, or over
    Turn turn;
    int storey = 0;
    level::LayerId layer = 0;
    Point half{}; // half cells that its layer lies to the east and south of the lattice
    // Of props, which stand free of the lattice.
    std::optional<Placing> free{};
    level::PropId prop = 0;
    bool operator==(const Placed&) const = default;
};
// All pieces on shown layers, up to a storey: those of tiles as fine as the level's from back to front, row by row,
// and props that are pieces.
std::vector<Placed> placed_in(const level::Project& project, const level::Level& level,
                              const std::vector<std::shared_ptr<const LoadedKit>>& kits, int highest);

// A picture prop that stands up, about the upright line through its foot.
struct Card {
    const level::PropKind* kind = nullptr; // has a picture; the project's own
    level::PropId prop = 0;
    bool mirrored = false;
    level::Stands stands = level::Stands::facing;
    std::optional<float> turned{}; // what stands fixed: radians to the right, from looking to the south; else it faces
                                   // whoever looks
    std::array<float, 3> foot{};   // the middle of its foot's lower edge
    float left = 0, right = 0;     // how far its picture goes from there, in cells
    float top = 0, bottom = 0;     // up; and down, where it goes on below the foot
    level::Wash wash{};            // of its colours
};
// Of all that is not said to lie flat, on shown layers up to a storey; two for what stands crossed. How a prop is
// turned counts only for what stands fixed. `kinds` must outlive what comes back.
std::vector<Card> cards_in(const level::PropKinds& kinds, const level::Level& level, const Storeys& storeys,
                           int highest);

// How the piece that a tile shows is turned where that is laid.
Turn turn_of(const LoadedKit& kit, level::TileId tile, Turn laid);

// Where its model comes to stand, turned and mirrored as it is laid.
Placing placing_of(const Placed& placed, Size model_cells, const Storeys& storeys);

// The same triangles where they stand; what faces outwards still does.
Model at_its_place(Model model, const Placing& placing);

// The level without the pieces and without props that stand, on the lowest storey: what lies flat.
level::Level flat_of(const level::Project& project, const level::Level& level,
                     const std::vector<std::shared_ptr<const LoadedKit>>& kits);

// All that is no piece, on its own storey.
level::Level without_pieces(const level::Project& project, const level::Level& level,
                            const std::vector<std::shared_ptr<const LoadedKit>>& kits);

// Where a ray (a place, and a way) meets a storey's plane; nothing where it goes away from it or along it.
struct Ray {
    std::array<double, 3> from{}, way{};
};
std::optional<std::array<double, 2>> on_storey(const Ray& ray, double height); // x and z

} // namespace vic::scene
