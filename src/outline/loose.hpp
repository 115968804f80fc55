// Turns of outlines next to cells with forms. A part of tracing; see trace.hpp.
#pragma once

#include <vector>

#include "outline/trace.hpp"

namespace vic::outline {

// Codes of a square of cells with one more cell all round it.
struct CodeWindow {
    const SolidCode* codes; // rows from the cell above and left of `corner`
    int stride;
    Point corner;                                    // the first cell
    int side;                                        // cells, without the rim
    [[nodiscard]] SolidCode at(int x, int y) const { // in cells of the level
        return codes[(y - corner.y + 1) * stride + (x - corner.x + 1)];
    }
};

// Whether all of a side (0 N, 1 E, 2 S, 3 W) blocks.
bool covers_side(SolidCode code, int side, const Forms& forms);

// What of the side between two cells is boundary, when either has a form.
struct Residue {
    int from, to;  // 1/64 cells along the side, from < to
    bool of_first; // whether the upper or left cell blocks there, and not the other
};
std::vector<Residue> residue(SolidCode first, SolidCode second, bool upright, const Forms& forms);

// The turns at the points of the window that touch a form: those with a loose line go into `loose`; returned are the
// corners at lattice points, in reading order. In `loose` come first those of corners, then the others; both by rows,
// then along each.
std::vector<Corner> find_loose(const CodeWindow& window, const Forms& forms, std::vector<LooseTurn>& loose);

// The order of outlines: by their first points in reading order; of those that begin at one point by the others.
bool earlier(const Outline& a, const Outline& b);
// Outlines as they were walked become as outlines() gives them: without points on a straight way, each from its first
// point in reading order, and in the order of these.
void tidy(std::vector<Outline>& all);

} // namespace vic::outline
