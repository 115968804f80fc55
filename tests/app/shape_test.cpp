// Shapes of tiles by mouse: picked, drawn, refused, taken from the art, and merged into what Bound shows.
#include "app/window.hpp"

#include <QLabel>
#include <QTest>

#include "app/cut/shape_editor.hpp"
#include "app/parts/shape_board.hpp"
#include "app/sheet/sheet_view.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "outline/trace.hpp"

using namespace app_test;
using level::TileShape;

namespace {

void drag(ShapeBoard* board, Point from, Point to) {
    QTest::mouseMove(board, board->at(from).toPoint());
    QTest::mousePress(board, Qt::LeftButton, {}, board->at(from).toPoint());
    QTest::mouseMove(board, board->at(to).toPoint());
    QTest::mouseRelease(board, Qt::LeftButton, {}, board->at(to).toPoint());
}

} // namespace

TEST_CASE("a shape is drawn by its corners, and one that crosses itself is refused", "[app][cut][shape]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[8]->id); // slopes: 4 x 1 tiles
    auto* view = w.find<SheetView>("sheetView");
    w.clickAt(view, view->tileCentre(1));
    REQUIRE(w.session().tiles().size() == 1);
    const auto tile = [&]() -> const level::Tile& { return w.session().sheet()->tiles[1]; };
    REQUIRE(tile().shape == TileShape::slope_se);
    w.click("shapeDraw");
    auto* board = w.find<ShapeBoard>("shapeBoard");
    REQUIRE(board->isVisible());
    drag(board, {16, 0}, {12, 4});
    REQUIRE(tile().shape == TileShape::drawn);
    CHECK(tile().polygons == level::Polygons{{{12, 4}, {16, 16}, {0, 16}}});
    CHECK(w.find<QLabel>("shapeCount")->text().contains("3 corners"));
    // A click on a line adds a corner there and drags it.
    drag(board, {8, 16}, {8, 13});
    CHECK(tile().polygons[0].size() == 4);
    CHECK(w.find<QLabel>("shapeCount")->text().contains("2 convex parts"));
    // Pulled over another line it would cross itself: nothing changes and the reason is said.
    const level::Polygons before = tile().polygons;
    drag(board, {8, 13}, {2, 3});
    CHECK(tile().polygons == before);
    CHECK(w.notice().contains("crosses"));
    // A second part as a box over nothing; a double click takes a corner away.
    drag(board, {1, 1}, {5, 4});
    CHECK(tile().polygons.size() == 2);
    QTest::mouseDClick(board, Qt::LeftButton, {}, board->at({8, 13}).toPoint());
    CHECK(std::any_of(tile().polygons.begin(), tile().polygons.end(), [](const auto& p) { return p.size() == 3; }));
    // Back to the named one by pulling the corner home.
    w.click("shape-1");
    CHECK(tile().shape == TileShape::full);
    CHECK(tile().polygons.empty());
    for (int i = 0; i < 5; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(tile().shape == TileShape::slope_se);
    CHECK(tile().polygons.empty());
}

TEST_CASE("shapes come from the art of many tiles at once, and are what Bound traces", "[app][cut][shape]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[8]->id);
    auto* view = w.find<SheetView>("sheetView");
    w.clickAt(view, view->tileCentre(0));
    for (int i = 1; i < 4; ++i) w.clickAt(view, view->tileCentre(i), Qt::LeftButton, Qt::ControlModifier);
    REQUIRE(w.session().tiles().size() == 4);
    w.click("shapeDraw");
    w.click("shapeFromArt");
    CHECK(w.reading().contains("from the art: 4,"));
    for (const level::Tile& t : w.session().sheet()->tiles) {
        const auto& polygons = t.shape == TileShape::drawn ? t.polygons : level::polygons_of(t.shape);
        REQUIRE(polygons.size() == 1);
        CHECK(level::shape_trouble(polygons).empty());
        // A triangle of half the cell, but for the art's rim.
        CHECK(std::abs(level::area2(polygons[0]) - 256) < 90);
    }
    w.key(Qt::Key_S, Qt::ControlModifier);
    const auto shapes = w.session().sheet()->tiles;
    w.restart();
    w.session().setSheet(w.session().project().sheets[8]->id);
    for (std::size_t i = 0; i < 4; ++i) {
        CHECK(w.session().sheet()->tiles[i].shape == shapes[i].shape);
        CHECK(w.session().sheet()->tiles[i].polygons == shapes[i].polygons);
    }
}
