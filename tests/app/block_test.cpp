// A block from the sheet to the level and back, by mouse.
#include "level/block.hpp"
#include "app/sheet_view.hpp"
#include "window.hpp"

#include <QComboBox>
#include <QPushButton>
#include <QSpinBox>

using namespace app_test;

TEST_CASE("cells become a block that is laid, erased and taken apart as one", "[app][cut][block]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[6]->id); // the cellar wall: 4 x 2 tiles
    auto* view = w.find<SheetView>("sheetView");
    w.clickAt(view, view->tileCentre(1));
    CHECK_FALSE(w.find<QPushButton>("makeBlock")->isVisible());
    w.clickAt(view, view->tileCentre(6), Qt::LeftButton, Qt::ControlModifier);
    REQUIRE(w.find<QPushButton>("makeBlock")->isVisible());
    CHECK(w.find<QPushButton>("makeBlock")->text().contains("2 × 2"));
    w.click("makeBlock");
    REQUIRE(w.session().tiles().size() == 1);
    const auto block = [&]() -> const level::Tile& { return w.session().sheet()->tiles.back(); };
    REQUIRE(block().block.cells == Size{2, 2});
    CHECK(block().id == w.session().tiles().front());
    auto* stands = w.find<QSpinBox>("blockStands");
    REQUIRE(stands->isVisible());
    CHECK(stands->value() == 1);
    stands->setFocus();
    stands->selectAll();
    QTest::keyClicks(stands, "0");
    QTest::keyClick(stands, Qt::Key_Return);
    CHECK(block().block.stands == 0);
    w.click("shape-1");
    // The same cells again: it is chosen instead.
    w.clickAt(view, view->tileCentre(2));
    w.clickAt(view, view->tileCentre(5), Qt::LeftButton, Qt::ControlModifier);
    w.click("makeBlock");
    CHECK(w.notice().contains("already"));
    CHECK(w.session().tiles().front() == block().id);
    // By its tag.
    w.clickAt(view, view->tileCentre(0));
    w.clickAt(view, view->tileCentre(8));
    CHECK(w.session().tiles() == std::vector<level::TileId>{block().id});

    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.click("trayTiles");
    auto* sheets = w.find<QComboBox>("traySheets");
    sheets->setFocus();
    for (int i = 0; i < 20 && sheets->currentText() != "Cellar wall"; ++i) QTest::keyClick(sheets, Qt::Key_Down);
    REQUIRE(sheets->currentText() == "Cellar wall");
    auto* tray = w.find<SheetView>("traySheet");
    w.clickAt(tray, tray->tileCentre(8));
    REQUIRE(w.session().hand().tile == block().id);
    w.activate("Pans");
    w.clickCell({20, 20});
    const auto& ground = w.layer("Pans");
    CHECK(ground.grid.cell({20, 20}).tile() == block().id);
    const level::TileTable tiles(w.session().project());
    CHECK(level::block_at(tiles, ground.grid, {21, 19}).at == Point{20, 20});
    // Taken apart while it is used: what would be lost waits for an answer.
    w.stage("stage-cut");
    w.clickAt(view, view->tileCentre(8));
    w.click("blockApart");
    CHECK(w.session().waiting().has_value());
    CHECK(w.session().sheet()->tiles.size() == 9);
    w.click("waitLeave");
    CHECK_FALSE(w.session().waiting().has_value());
    w.stage("stage-lay");
    w.view()->setFocus();
    w.key(Qt::Key_E);
    w.clickCell({21, 19});
    CHECK(w.layer("Pans").grid.cell({20, 20}).empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Pans").grid.cell({20, 20}).tile() == block().id);
}
