// Which cells of a level block, and with what shape: the input of tracing.
#pragma once

#include <array>
#include <cstdint>
#include <map>
#include <vector>

#include "level/project.hpp"

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

// The forms that a reading of cells came upon. Numbers are good for this list alone.
class Forms {
  public:
    // A code for polygons in 1/64 cells: open, full or a slope where they amount to that, else a form.
    SolidCode add(level::Polygons polygons);
    SolidCode code_of(level::TileShape shape); // not `drawn`
    // Of one cell of a block's foot, over all of which the shape is stretched.
    SolidCode code_of_foot(level::TileShape shape, const level::Polygons& drawn, Size foot, Point cell);
    // What either blocks, and the one-way sides of both.
    SolidCode united(SolidCode a, SolidCode b);
    [[nodiscard]] const Form& operator[](SolidCode code) const { return forms_[code >> 8]; }
    [[nodiscard]] bool empty() const { return forms_.empty(); }

  private:
    [[nodiscard]] level::Polygons polygons(SolidCode code) const;
    std::vector<Form> forms_;
    std::map<std::pair<SolidCode, SolidCode>, SolidCode> unions_;
};

// Reads the codes of `cells` from the shown or hidden solid layers into rows of `stride` codes; kOpen outside the
// level. Returns how many cells of single layers have a shape (a cell that blocks in two layers counts twice).
int read_solid(const level::Level& level, const level::TileTable& tiles, const Box& cells, SolidCode* out,
               std::size_t stride, Forms& forms);

} // namespace vic::outline
