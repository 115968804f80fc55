// A block from the sheet to the level and back, by mouse.
#include "app/window.hpp"

#include <QComboBox>
#include <QHash>
#include <QImage>
#include <QLabel>
#include <QPoint>
#include <QPointF>
#include <QPushButton>
#include <QRect>
#include <QSize>
#include <QSpinBox>
#include <QTest>

#include "app/parts/picture_list.hpp"
#include "app/sheet/sheet_view.hpp"
#include "edit/stroke.hpp"
#include "level/block.hpp"
#include "level/cell.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"

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
    type(stands, "0");
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
    REQUIRE(w.session().hand().tile() == block().id);
    w.activate("Pans");
    w.clickCell({20, 20});
    const auto& ground = w.layer("Pans");
    CHECK(ground.grid().cell({20, 20}).tile() == block().id);
    const level::TileTable tiles(w.session().project());
    CHECK(level::block_at(tiles, ground.grid(), {21, 19}).at == Point{20, 20});
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
    CHECK(w.layer("Pans").grid().cell({20, 20}).empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Pans").grid().cell({20, 20}).tile() == block().id);
}

TEST_CASE("a tile is animated with those chosen after it, and plays in the level", "[app][cut][frames]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[6]->id);
    auto* view = w.find<SheetView>("sheetView");
    w.clickAt(view, view->tileCentre(3));
    w.clickAt(view, view->tileCentre(6), Qt::LeftButton, Qt::ControlModifier);
    w.click("makeFrames");
    const auto tile = [&]() -> const level::Tile& { return w.session().sheet()->tiles[3]; };
    REQUIRE(tile().frames.size() == 2);
    CHECK(tile().frames[0].tile == tile().id);
    CHECK(tile().frames[1].tile == w.session().sheet()->tiles[6].id);
    // One frame's time by choosing it, all of them without.
    auto* frames = w.find<PictureList>("frames");
    REQUIRE(frames->isVisible());
    w.clickRow(frames, 1);
    auto* ms = w.find<QSpinBox>("frameMs");
    type(ms, "60");
    CHECK(tile().frames[0].ms == 150);
    CHECK(tile().frames[1].ms == 60);
    CHECK(w.find<QLabel>("framesSum")->text().contains("0.21"));

    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    edit::Hand hand{edit::held::Tile{tile().id}};
    w.session().setHand(hand);
    w.activate("Boardwalk");
    w.clickCell({20, 20});
    REQUIRE(w.layer("Boardwalk").grid().cell({20, 20}).tile() == tile().id);
    w.hover({24, 24});
    w.session().playClock().setPlaying(true);
    // Both pictures are seen within a second or two, and the pixels of the second are its art.
    const auto seen = [&] {
        const QPoint c = w.view()->cellCentre({20, 20});
        return w.view()->grab(QRect(c - QPoint(14, 14), QSize(28, 28))).toImage();
    };
    std::set<qint64> pictures;
    QImage last;
    const auto both = [&] {
        const QImage now = seen();
        if (now != last) pictures.insert(static_cast<qint64>(qHashBits(now.constBits(), size_t(now.sizeInBytes()))));
        last = now;
        return pictures.size() == 2;
    };
    REQUIRE_SOON(both());
    // One key holds it still.
    w.view()->setFocus();
    w.key(Qt::Key_A);
    const QImage held = seen();
    const qint64 at = w.session().playClock().now();
    QTest::qWait(400); // longer than a frame is shown: nothing may happen
    CHECK(seen() == held);
    CHECK(w.session().playClock().now() == at);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.stage("stage-cut");
    w.click("stopFrames");
    CHECK(tile().frames.empty());
}
