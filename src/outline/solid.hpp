// Which cells of a level block, and with what shape: the input of tracing.
#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <vector>

#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::outline {

inline constexpr int kUnit = 64; // coordinates are in 1/64 cells

// What a cell blocks, all solid layers taken together. kForm is any other shape: see Forms.
enum Solid : std::uint8_t { kOpen = 0, kFull = 1, kSlopeNE = 2, kSlopeSE = 3, kSlopeSW = 4, kSlopeNW = 5, kForm = 6 };

// A cell: bits 0 - 3 a Solid, 4 - 7 the one-way sides (N 16, E 32, S 64, W 128), from 8 on the number of a form.
using SolidCode = std::uint32_t;
inline Solid solid_of(SolidCode code) { return static_cast<Solid>(code & 15U); }
inline unsigned one_way_of(SolidCode code) { return (code >> 4) & 15U; }

// The sides of a cell that a Solid covers, as bits N 1, E 2, S 4, W 8; not for forms.
inline constexpr std::uint8_t kCovered[6] = {0, 15, 1 | 2, 2 | 4, 4 | 8, 8 | 1};

// What blocks within one cell, in 1/64 cells from its upper left corner.
struct Form {
    struct Edge {
        Point from, to; // what blocks lies to the right of the way
        bool operator==(const Edge&) const = default;
    };
    struct Span {
        int from, to;
        bool operator==(const Span&) const = default;
    };
    std::vector<Edge> inner;              // the boundary, but for what lies on the cell's rim
    std::array<std::vector<Span>, 4> rim; // what is covered of the sides N, E, S, W: from the left or the top, apart
    level::Polygons polygons;             // what it was made of; they may overlap
};

// The union of polygons in 1/64 cells, whichever way they go round. Own method: lines are cut where they meet (at whole
// 1/64), and a piece belongs to the boundary where something blocks on one side of it only.
Form form_of(level::Polygons polygons);
// Their union as outlines that do not cross: masses with a positive area2(), holes with a negative one. For shapes so
// crooked that cutting them in whole units comes to no end (B. R. Vatti, "A generic solution to polygon clipping",
// 1992; by the library Clipper). All must go round the same way.
level::Polygons united(const level::Polygons& polygons);

// Polygons whose corners are in 1/16 of a cell, in 1/64.
level::Polygons units_of(level::Polygons polygons);

// An edge that stops only what comes across it from outside the cell it belongs to: from above for `side` 0 (north).
struct OneWayEdge {
    Point from; // 1/64 cells; from < to in reading order. Aslant only where a prop is turned that has one
    Point to;
    int side = 0; // 0 north, 1 east, 2 south, 3 west
    auto operator<=>(const OneWayEdge&) const = default;
};

// The forms that a reading of cells came upon. Numbers are good for this list alone.
class Forms {
  public:
    // What was found free of the lattice beside the forms, in 1/64 cells of the level: one-way edges that begin in the
    // cells read, and corners that shapes got where they cross from one cell into the next.
    std::vector<OneWayEdge> one_way;
    std::vector<Point> bends;
    // Of the cells read, those whose shapes the reader counts; all where it is empty.
    Box counted;

    // A code for polygons in 1/64 cells: open, full or a slope where they amount to that, else a form.
    // `known` itself where they amount to what that form is.
    SolidCode add(level::Polygons polygons, SolidCode known = kOpen);
    // A form that is known already, and neither open nor full nor a slope.
    SolidCode put(Form form);
    SolidCode code_of(level::TileShape shape); // not `drawn`
    // Of one cell of a block's foot, over all of which the shape is stretched.
    SolidCode code_of_foot(level::TileShape shape, const level::Polygons& drawn, Size foot, Point cell);
    // What either blocks, and the one-way sides of both.
    SolidCode united(SolidCode a, SolidCode b);
    // Likewise, with polygons in 1/64 cells from the cell's corner. What is full stays so without a look at them.
    SolidCode united(SolidCode a, level::Polygons b);
    // What of it lies in none of the polygons (1/64 cells, from the cell's corner; by the library Clipper), and those
    // one-way sides whose middle does not.
    SolidCode without(SolidCode code, const level::Polygons& polygons);
    // What it blocks, in 1/64 cells from the cell's corner.
    [[nodiscard]] level::Polygons polygons(SolidCode code) const;
    [[nodiscard]] const Form& operator[](SolidCode code) const { return forms_[code >> 8]; }
    [[nodiscard]] bool empty() const { return forms_.empty(); }

  private:
    [[nodiscard]] bool same(SolidCode a, const Form& form) const;
    std::vector<Form> forms_;
    std::map<std::pair<SolidCode, SolidCode>, SolidCode> unions_;
};

// What the things in a level are. Both must outlive it.
struct Kinds {
    Kinds(const level::TileTable& t) : tiles(&t) {} // NOLINT(google-explicit-constructor): without props
    Kinds(const level::TileTable& t, const level::PropKinds& p) : tiles(&t), props(&p) {}
    const level::TileTable* tiles;
    const level::PropKinds* props = nullptr; // null: props are left out
    // Of what blocks; classes are those of tiles, props and free blockers, of those that name none their layer's. What
    // opens opens whatever its class.
    const std::vector<std::string>* passes = nullptr; // sorted classes that block nothing here
    const std::string* collision_class = nullptr;     // only that class blocks; null: all do
};

// Reads the codes of `cells` from the shown or hidden layers into rows of `stride` codes; kOpen outside the level.
// Those of upper storeys block nothing here. Layers are read from back to front, so that what opens opens all that lies
// below it. Returns how many shapes go in: a cell that blocks in two layers counts twice, a prop or a free blocker
// once.
int read_solid(const level::Level& level, const Kinds& kinds, const Box& cells, SolidCode* out, std::size_t stride,
               Forms& forms);
// Which cells of the level block as a whole: a byte each, row-major.
std::vector<std::uint8_t> full_cells(const level::Level& level, const Kinds& kinds);

} // namespace vic::outline
