// The tools of Lay that lay a shape as a whole: line, ellipse, fill.
#include "app/window.hpp"

#include <QPointF>
#include <QToolButton>

#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"

using namespace app_test;

namespace {

// The cells that a material now has and had not before.
std::set<Point> fresh(const level::Layer& was, const level::Layer& now, level::MaterialId m) {
    std::set<Point> out;
    level::each_cell(now.grid(), box_of(now.grid().size()), [&](Point p, level::Cell, level::MaterialId of) {
        if (of == m && was.grid().material(p) != m) out.insert(p);
    });
    return out;
}

std::set<Point> set_of(const std::vector<Point>& cells) { return {cells.begin(), cells.end()}; }

} // namespace

TEST_CASE("lines, ellipses and fills are laid as shown before, each one step of history", "[app][lay][tools]") {
    Window w;
    w.stage("stage-lay");
    w.pickMaterial("Marsh");
    const auto m = w.session().hand().material();
    w.activate("Marsh");
    w.view()->setCamera(2, QPointF(50.0 * 16, 12.0 * 16));
    const auto marsh = [&] { return w.layer("Marsh"); };
    const level::Layer before = marsh();
    const auto undone = [&] {
        w.key(Qt::Key_Z, Qt::ControlModifier);
        CHECK(marsh().grid() == before.grid());
    };
    const auto wanted = [&](const std::vector<Point>& cells) {
        std::set<Point> out;
        for (const Point p : cells)
            if (before.grid().material(p) != m) out.insert(p);
        return out;
    };

    w.key(Qt::Key_L, Qt::ShiftModifier);
    CHECK(w.find<QToolButton>("toolLine")->isChecked());
    w.drag({46, 8}, {55, 12});
    CHECK(fresh(before, marsh(), m) == wanted(edit::line_cells({46, 8}, {55, 12})));
    undone();
    w.drag({46, 8}, {55, 10}, Qt::ShiftModifier);
    CHECK(fresh(before, marsh(), m) == wanted(edit::line_cells({46, 8}, {55, 8})));
    undone();

    w.click("toolEllipse");
    w.drag({46, 8}, {54, 13});
    CHECK(fresh(before, marsh(), m) == wanted(edit::ellipse_cells({46, 8, 9, 6})));
    undone();

    // A ring painted first, then filled inside: what is shown before the click is what the click lays.
    w.key(Qt::Key_R);
    w.drag({46, 8}, {54, 13});
    w.key(Qt::Key_E);
    w.drag({48, 10}, {48, 10});
    for (int x = 47; x <= 53; ++x)
        for (int y = 9; y <= 12; ++y) w.clickCell({x, y});
    const level::Layer ring = marsh();
    w.key(Qt::Key_F, Qt::ShiftModifier);
    w.hover({50, 11});
    INFO(w.view()->reading().text.toStdString());
    CHECK(w.view()->reading().text.contains("Fills 28 cells"));
    const auto preview = w.view()->shown().layer(ring.id)->grid();
    CHECK(marsh().grid() == ring.grid());
    w.clickCell({50, 11});
    CHECK(fresh(ring, marsh(), m) == set_of(edit::box_cells({47, 9, 7, 4})));
    CHECK(marsh().grid() == preview);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(marsh().grid() == ring.grid());
    // With Shift no further than the view.
    w.hover({40, 4});
    const Box seen = w.view()->seenCells();
    w.clickCell({40, 4}, Qt::LeftButton, Qt::ShiftModifier);
    for (const Point p : fresh(ring, marsh(), m)) CHECK(seen.contains(p));
}
