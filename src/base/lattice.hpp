// Where the cells of a level lie in its pixels.
//
// On a square lattice cell x, y fills a box. On an isometric one it is a diamond within a box of the cell's size: x
// goes right and down, y left and down, half a box each, and the upper corner of the diamond of cell 0, 0 lies at pixel
// 0, 0, so that pixels left of 0 belong to levels as well. Collision, joins and all tools work in cells; only pictures
// and pointers need this.
#pragma once

#include "base/geometry.hpp"
#include "base/turn.hpp"

namespace vic {

enum class LatticeKind : std::uint8_t { square, isometric };

// A place in cells and parts of them; the middle of cell 0, 0 is 0.5, 0.5.
struct CellPlace {
    double x = 0;
    double y = 0;
};

struct Lattice {
    LatticeKind kind = LatticeKind::square;
    Size cell{16, 16}; // pixels, of the box around a cell; both at least 1
    Point origin{};    // of square ones: the pixel at which cell 0, 0 begins

    bool operator==(const Lattice&) const = default;
    [[nodiscard]] bool square() const { return kind == LatticeKind::square; }

    // The corner of the box around a cell. Of odd cells on an isometric lattice every second lies on the half pixel
    // left of or above it.
    [[nodiscard]] Point corner(Point at) const {
        if (square()) return {origin.x + at.x * cell.w, origin.y + at.y * cell.h};
        return {floor_div((at.x - at.y - 1) * cell.w, 2), floor_div((at.x + at.y) * cell.h, 2)};
    }
    [[nodiscard]] Box box(Point at) const {
        const Point c = corner(at);
        return {c.x, c.y, cell.w, cell.h};
    }
    // The pixels of the least box around all the cells; empty for none.
    [[nodiscard]] Box box(const Box& cells) const;
    // The cell that a pixel belongs to.
    [[nodiscard]] Point cell_at(Point pixel) const;
    // The least box of cells with all those whose boxes have a pixel in `pixels`; empty for none.
    [[nodiscard]] Box cells_in(const Box& pixels) const;
    // Of these the first x in row y, and one more than the last; empty where none is. On an isometric lattice that is
    // well under half of the box.
    struct Row {
        int from = 0;
        int to = 0;
    };
    [[nodiscard]] Row row_in(const Box& pixels, int y) const;
    // How far everything moves, in pixels, that is moved by so many cells.
    [[nodiscard]] Point step(Point cells) const {
        if (square()) return {cells.x * cell.w, cells.y * cell.h};
        return {floor_div((cells.x - cells.y) * cell.w, 2), floor_div((cells.x + cells.y) * cell.h, 2)};
    }

    // Between pixels and cells, parts of them included.
    [[nodiscard]] CellPlace place_of(double px, double py) const {
        if (square()) return {(px - origin.x) / cell.w, (py - origin.y) / cell.h};
        const double across = 2 * px / cell.w; // x - y
        const double down = 2 * py / cell.h;   // x + y
        return {(down + across) / 2, (down - across) / 2};
    }
    struct Pixels {
        double x = 0;
        double y = 0;
    };
    [[nodiscard]] Pixels pixel_of(CellPlace at) const {
        if (square()) return {origin.x + at.x * cell.w, origin.y + at.y * cell.h};
        return {(at.x - at.y) * cell.w / 2, (at.x + at.y) * cell.h / 2};
    }

    // Where things stand in a cell: the middle of a square's lower edge, of a diamond its middle.
    [[nodiscard]] Point stand(Point at) const {
        const Point c = corner(at);
        return square() ? Point{c.x + cell.w / 2, c.y + cell.h - 1} : Point{c.x + cell.w / 2, c.y + cell.h / 2};
    }
    // Pixels of what is one cell high and stands up.
    [[nodiscard]] int upright() const { return square() ? cell.h : (cell.w + 1) / 2; }

    // The nearest to a turn that pictures can take. Of what is seen aslant there is no other side to show: isometric
    // tiles are only mirrored, left and right as one sees them, which for the cells is x and y changed over.
    [[nodiscard]] Turn shown(Turn turn) const { return square() ? turn : turn.mirrored() ? kChangedOver : Turn{}; }
    // The turn of places that is seen as this turn: left and right of an isometric lattice change places where x and y
    // do.
    [[nodiscard]] Turn of_places(Turn seen) const {
        return square() || !seen.mirrored() ? seen
                                            : after(kChangedOver, Turn{static_cast<std::uint8_t>(seen.quarters())});
    }
    static constexpr Turn kChangedOver{7};
};

} // namespace vic
