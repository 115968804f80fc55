// How the pieces of a kit fit: read from their meshes and names, and proposed.
#pragma once

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "kit/body.hpp"

namespace vic::kit {

// The size of a kit's cell in metres; 0 where nothing tells it.
struct Module {
    double width = 0;  // along x, and along z
    double height = 0; // of a storey
    bool operator==(const Module&) const = default;
};

enum class Origin : std::uint8_t { middle, corner }; // of the piece's cells, on the ground

// Sides of a piece are counted as those of cells seen from above: 0 north (-z), 1 east (+x), 2 south (+z), 3 west (-x).
struct PieceReading {
    Size cells{1, 1};               // columns (x) and rows (z): nearest to its size; of things all that it needs
    int storeys = 1;                // 1 for what is lower than one
    bool fills = false;             // reaches all four sides of its cells
    Vec shift;                      // that puts it right where it floats by a fraction; 0 where it does not
    std::array<double, 4> out{};    // metres by which it sticks out over its sides
    double over = 0;                // likewise over its storeys
    std::array<int, 4> couplings{}; // by side: which, from 1; 0: nothing couples there
    std::array<bool, 4> mirrored{}; // by side: whether it is the other half of that coupling
    // Of pieces of several cells: by side what each cell of it has, from left to right as it is seen from outside. Such
    // a side has the first of them that couples above.
    struct Joint {
        int coupling = 0;
        bool mirrored = false;
    };
    std::array<std::vector<Joint>, 4> joints;
    std::optional<int> code; // which neighbours it is for, in the file's own counting; see Codes
    int variant = 0;         // of its code: 0, 1 …
    int codes = -1;          // of the kit's: by which that is read
    double top = 0;          // metres above the ground up to which it reaches
};

// Rims that fit to one another.
struct Coupling {
    std::string name;       // A, B … by how often they come
    int sides = 0;          // of all pieces
    bool symmetric = false; // every one fits to every one; else one half to the other
};

// What the numbers of pieces mean whose names are the same but for them.
struct Codes {
    std::string stem;                 // the names without their numbers
    bool corners = false;             // 0 .. 255: corners, too; else 0 .. 15
    std::array<int, 4> bit_of_side{}; // by side: which bit says that the neighbour there is one, 0 .. 7
    // Likewise by corner, north-east, south-east, south-west, north-west; nothing without corners, or where no way of
    // counting has any.
    std::optional<std::array<int, 4>> bit_of_corner{};
    int corners_agree = 0, corners_of = 0; // corners between sides that meet whose meshes say the same, of all
    bool inverted = false;                 // a bit says that there is none
    int agree = 0, of = 0;                 // sides of pieces whose meshes say the same, of all
    bool taken = false;                    // whether the pieces' codes are these: enough agree, or it was told
};

struct KitReading {
    bool z_up = false; // the file's z is up; `pieces` are read as if it had been turned
    int turn = 0;      // as told; likewise
    Module module;
    Origin origin = Origin::middle;
    double sure = 0; // 0 .. 1: how much of what was measured fits the module
    std::vector<PieceReading> pieces;
    std::vector<Coupling> couplings;
    std::vector<Codes> codes;
    bool things = false;       // none couples, and no number counts: whole things, to be stood anywhere
    std::vector<Text> reasons; // in a sentence each
};

// What the designer has said, instead of what is read.
struct Told {
    double width = 0, height = 0; // metres; 0: as read
    std::optional<bool> z_up;
    std::optional<Origin> origin;
    int turn = 0; // quarter turns to the right, seen from above, so that the pieces' front looks to the south
    struct Counting {
        std::array<int, 4> bit_of_side{};
        bool inverted = false;
        bool taken = true; // false: they are no codes
        bool operator==(const Counting&) const = default;
    };
    std::map<std::string, Counting> counting{}; // by stem
    bool operator==(const Told&) const = default;
};

// The ways in which sides may be numbered by bits 0 .. 7, or 0 .. 3 without corners: by side the bit.
std::vector<std::array<int, 4>> ways_of_counting(bool corners);
// Likewise of the corners north-east, south-east, south-west, north-west; empty for a way without corners.
std::optional<std::array<int, 4>> corner_bits(const std::array<int, 4>& bit_of_side);

// Own method. The module is the length of which most sides of all pieces are whole multiples, the largest of those; a
// side counts from open rim to open rim where a mesh has them, else from end to end, so that what sticks out misleads
// less. Couplings are open rims, or faces, in the planes of the cells' sides, compared as sets of lines in whole
// millimetres. Which bit of a code stands for which side is the assignment under which the sides that couple agree with
// most codes; of the bits that are left the corners have those under which most meshes that are alike at a corner, by
// the heights of their faces right above it, have the same bit.
KitReading read_kit(const std::vector<Body>& bodies, const Told& told = {});

// The body as read: with y up, turned, and shifted.
Mesh as_read(const Body& body, const KitReading& kit, std::size_t piece);
// The north-western lower corner of the cells that it stands in, in metres from its origin; `mesh` as read.
Vec corner_of(const Mesh& mesh, const KitReading& kit, std::size_t piece);

} // namespace vic::kit
