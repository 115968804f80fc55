// Where cells lie in pixels, on both lattices.
#include <catch2/catch.hpp>

#include "base/lattice.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

// Independent of the code under test: whether the middle of a pixel lies in a cell's diamond, by its four sides.
bool in_diamond(const Lattice& l, Point cell, Point pixel) {
    const double px = pixel.x + 0.5;
    const double py = pixel.y + 0.5;
    const double middle_x = (cell.x - cell.y) * l.cell.w / 2.0;
    const double middle_y = (cell.x + cell.y + 1) * l.cell.h / 2.0;
    return std::abs(px - middle_x) / (l.cell.w / 2.0) + std::abs(py - middle_y) / (l.cell.h / 2.0) < 1;
}

} // namespace

TEST_CASE("A pixel belongs to the cell in whose diamond its middle lies", "[lattice]") {
    for (const Size cell : {Size{32, 16}, {16, 16}, {30, 18}, {7, 5}, {1, 1}}) {
        const Lattice l{LatticeKind::isometric, cell};
        make::Random random(7);
        for (int i = 0; i < 400; ++i) {
            const Point p{random.below(900) - 450, random.below(900) - 450};
            const Point at = l.cell_at(p);
            // A middle that lies just on a side belongs to either.
            bool near_side = false;
            for (const Point other : {Point{1, 0}, {0, 1}, {-1, 0}, {0, -1}})
                near_side = near_side || in_diamond(l, at + other, p);
            INFO(cell.w << " x " << cell.h << ", pixel " << p.x << ", " << p.y);
            CHECK_FALSE(near_side);
            const auto place = l.place_of(p.x + 0.5, p.y + 0.5);
            CHECK(std::floor(place.x + 1e-9) == at.x);
            CHECK(std::floor(place.y + 1e-9) == at.y);
            const auto back = l.pixel_of(place);
            CHECK(back.x == Approx(p.x + 0.5));
            CHECK(back.y == Approx(p.y + 0.5));
        }
    }
}

TEST_CASE("The boxes of cells hold their diamonds, and the cells of a box of pixels are all that reach into it",
          "[lattice]") {
    for (const Lattice l : {Lattice{LatticeKind::isometric, {32, 16}}, Lattice{LatticeKind::isometric, {13, 9}},
                            Lattice{LatticeKind::square, {24, 16}}}) {
        make::Random random(11);
        for (int i = 0; i < 60; ++i) {
            const Box pixels{random.below(300) - 150, random.below(300) - 150, 1 + random.below(70),
                             1 + random.below(70)};
            const Box cells = l.cells_in(pixels);
            for (int y = cells.y - 4; y < cells.bottom() + 4; ++y)
                for (int x = cells.x - 4; x < cells.right() + 4; ++x)
                    if (!intersection(l.box(Point{x, y}), pixels).empty()) {
                        INFO(x << ", " << y);
                        CHECK(cells.contains(Point{x, y}));
                        const Lattice::Row row = l.row_in(pixels, y);
                        CHECK((row.from <= x && x < row.to));
                    }
            if (l.square()) continue;
            // The rows are little more than what has pixels there.
            int in_rows = 0;
            int seen = 0;
            for (int y = cells.y - 4; y < cells.bottom() + 4; ++y) {
                const Lattice::Row row = l.row_in(pixels, y);
                in_rows += row.to - row.from;
                for (int x = row.from; x < row.to; ++x)
                    seen += !intersection(Box{l.corner({x, y}).x - l.cell.w, l.corner({x, y}).y - l.cell.h,
                                              3 * l.cell.w, 3 * l.cell.h},
                                          pixels)
                                 .empty();
            }
            CHECK(seen == in_rows);
            const Box all = l.box(cells);
            CHECK(all.contains(l.box(cells.corner())));
            CHECK(all.contains(l.box(Point{cells.right() - 1, cells.y})));
            CHECK(all.contains(l.box(Point{cells.x, cells.bottom() - 1})));
            CHECK(all.contains(l.box(Point{cells.right() - 1, cells.bottom() - 1})));
        }
    }
    CHECK(Lattice{LatticeKind::isometric, {32, 16}}.box(Box{0, 0, 20, 18}) == Box{-288, 0, 608, 304});
    CHECK(Lattice{}.cells_in(Box{}).empty());
}

TEST_CASE("Things stand in the middle of a diamond and on the lower edge of a square", "[lattice]") {
    const Lattice diamonds{LatticeKind::isometric, {32, 16}};
    CHECK(diamonds.stand({0, 0}) == Point{0, 8});
    CHECK(diamonds.cell_at(diamonds.stand({5, 9})) == Point{5, 9});
    CHECK(diamonds.upright() == 16);
    CHECK(Lattice{}.stand({1, 1}) == Point{24, 31});
    // A layer twice as fine divides each diamond into four.
    const Lattice fine{LatticeKind::isometric, {16, 8}};
    for (const Point p : {Point{-40, 33}, {7, 90}, {100, 61}}) {
        const Point in = fine.cell_at(p);
        CHECK(Point{floor_div(in.x, 2), floor_div(in.y, 2)} == diamonds.cell_at(p));
    }
}

TEST_CASE("What is seen aslant is only mirrored, and mirroring twice is nothing", "[lattice]") {
    const Lattice diamonds{LatticeKind::isometric, {32, 16}};
    for (std::uint8_t a = 0; a < 8; ++a) {
        CHECK(diamonds.shown(Turn{a}) == (Turn{a}.mirrored() ? Lattice::kChangedOver : Turn{}));
        CHECK(Lattice{}.shown(Turn{a}) == Turn{a});
        CHECK(Lattice{}.of_places(Turn{a}) == Turn{a});
        for (std::uint8_t b = 0; b < 8; ++b) // showing goes along with turning
            CHECK(diamonds.shown(after(Turn{a}, Turn{b})) ==
                  diamonds.shown(after(diamonds.shown(Turn{a}), diamonds.shown(Turn{b}))));
    }
    CHECK(after(Lattice::kChangedOver, Lattice::kChangedOver) == Turn{});
    // Left and right as one sees them: x and y change places.
    CHECK(diamonds.of_places(mirrored(Turn{})) == Lattice::kChangedOver);
}
