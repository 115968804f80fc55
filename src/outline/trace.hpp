// Merging the collision shapes of a level into outlines.
//
// Own method. Around each lattice point lie four cells; a table over their shapes says which outlines turn there, from
// which direction to which. Only those corners are kept, in one part per chunk of points, so that a change re-reads its
// own chunks alone. Linking sweeps the corners row by row: on every horizontal, vertical or diagonal line the corners
// come in pairs, so the one that is open on the line is the partner. Walking the links gives the outlines.
//
// Cells with any other shape (a form) bring loose lines, each of which knows both its ends: the form's own and, on the
// cell's sides, what one of the two neighbours covers and the other does not. They meet the lattice's lines at points
// whose turns are found one by one.
#pragma once

#include <array>
#include <cstdint>
#include <functional>
#include <memory>
#include <vector>

#include "outline/solid.hpp"

namespace vic::outline {

// A closed boundary without collinear points. On screen (y down) what blocks lies to the right of the way along it:
// round a mass clockwise, round a hole the other way. Cells that meet only at a corner are apart.
struct Outline {
    std::vector<Point> points; // 1/64 cells; starts at the topmost, then leftmost point
    bool hole = false;
    bool operator==(const Outline&) const = default;
};

inline constexpr std::uint8_t kLoose = 8; // instead of a direction: along a loose line

// A lattice point where an outline turns; directions clockwise from north, 0 .. 7, or kLoose one way.
struct Corner {
    std::uint16_t x, y; // lattice points
    std::uint8_t in, out;
    std::uint16_t turn = 0; // with kLoose: which of the part's loose turns this is
    bool operator==(const Corner&) const = default;
};

// A point where an outline comes along a loose line or goes on along one; 1/64 cells.
struct LooseTurn {
    Point from; // equal to `at` where it comes along the lattice
    Point at;
    Point to; // equal to `at` where it goes on along the lattice
    bool operator==(const LooseTurn&) const = default;
};

// The corners among the lattice points of one part of the level, and what else was counted there.
struct Part {
    std::vector<Corner> corners;                              // by row, then column
    std::array<std::uint16_t, level::kChunk + 1> row_start{}; // of each row of points within the part
    std::vector<LooseTurn> loose;
    std::vector<OneWayEdge> one_way; // one cell long, or of a prop
    std::vector<Point> bends;        // sorted: where shapes off the lattice cross it, see straighten()
    int shapes = 0;
    bool straight = true; // no slope and no loose line: all corners turn between level and upright
    bool operator==(const Part&) const = default;
};

// How large the parts of a trace are: after a change all of a part is read again.
enum class Grain : std::uint8_t { fine = 16, chunk = level::kChunk }; // cells a side

// All parts of a level. A value: copies share the parts.
class Trace {
  public:
    Trace() = default;
    explicit Trace(Size cells, Grain grain = Grain::chunk); // of a level in which nothing blocks
    [[nodiscard]] int corner_count() const;
    [[nodiscard]] int shape_count() const;
    friend bool operator==(const Trace& a, const Trace& b);

    Size cells; // of the level
    Grain grain = Grain::chunk;
    Size part_count;                                // one more lattice point than cells each way
    std::vector<std::shared_ptr<const Part>> parts; // null where nothing turns
};

bool operator==(const Trace& a, const Trace& b);

// Fills rows of `stride` codes for a box of cells, open outside the level, and returns the number of shapes in those
// that Forms::counted asks for. It may be called from several threads at once.
using SolidSource = std::function<int(const Box& cells, SolidCode* out, std::size_t stride, Forms& forms)>;

Trace trace(Size cells, const SolidSource& source, Grain grain = Grain::chunk);
Trace trace(const level::Level& level, const Kinds& kinds);
// The trace after the cells in `changed` became different; work is proportional to the parts they touch. Returns the
// cells of those parts that differ from before.
std::vector<Box> retrace(Trace& trace, const SolidSource& source, const std::vector<Box>& changed);
std::vector<Box> retrace(Trace& trace, const level::Level& level, const Kinds& kinds, const std::vector<Box>& changed);

// Holes and masses in the reading order of their first points; of those that begin at one point by their others.
std::vector<Outline> outlines(const Trace& trace);
// The same after parts came to `differ`, as retrace() says, if `before` were the outlines until then: those away from
// there stay, without being linked again. Both have their points moved by `by`.
std::vector<Outline> outlines(const Trace& trace, const std::vector<Outline>& before, const std::vector<Box>& differ,
                              Point by = {});
// Joined where they continue one another.
std::vector<OneWayEdge> one_way_edges(const Trace& trace);

// Twice the signed area in (1/64 cells)²: positive for masses, negative for holes.
std::int64_t area2(const Outline& outline);

// How many rectangles the greedy cover of the full cells needs: grown right, then down. Row-major, 0 is open.
int rectangle_count(Size cells, const std::vector<std::uint8_t>& full);

// Boundary lines and filled runs of a small region, for drawing.
struct Drawing {
    struct Line {
        Point from, to; // 1/64 cells
    };
    std::vector<Line> lines;                    // boundary, joined along rows and columns; the others cell by cell
    std::vector<Box> runs;                      // full cells, joined along rows
    std::vector<level::Polygon> polygons;       // slopes and forms, 1/64 cells; those of one cell may overlap
    std::vector<std::pair<Point, int>> one_way; // cell and side
    std::vector<OneWayEdge> edges;              // those that lie free of the lattice
};
Drawing drawing(const SolidSource& source, const Box& cells);

} // namespace vic::outline
