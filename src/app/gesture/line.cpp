// A straight line of cells, from where one presses to where one lets go.

#include <memory>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/gesture/lay.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"

namespace vic::app {

namespace {

class Line : public LayGesture {
  public:
    using LayGesture::LayGesture;

  protected:
    level::Region cellsOf(const Stroke& stroke, Point to, const Pointer& at) const override {
        level::Region cells;
        for (const Point p : edit::line_cells(stroke.from, at.shift() ? edit::straight_end(stroke.from, to) : to))
            for (const Point t : edit::pencil_cells(p, stroke.hand.size, stroke.hand.round)) cells.add(t);
        return cells;
    }
    level::Region previewCells(const level::Level&, level::LayerId, Point cell) const override {
        return level::Region(tip(cell));
    }
    std::vector<Point> tip(Point cell) const override {
        return edit::pencil_cells(cell, session().hand().size, session().hand().round);
    }
    Box marked(Point cell) const override {
        const int size = session().hand().size;
        return {cell.x - (size - 1) / 2, cell.y - (size - 1) / 2, size, size};
    }
};

} // namespace

std::unique_ptr<Gesture> makeLine(Board& board) { return std::make_unique<Line>(board); }

} // namespace vic::app
