#include "app/window.hpp"

#include <QEvent>
#include <QImage>
#include <QMouseEvent>
#include <QPointF>
#include <QRect>
#include <QWheelEvent>

#include "app/sheet/sheet_view.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/project.hpp"

using namespace app_test;

namespace {
void lookAtLand(Window& w) { w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16)); }
} // namespace

TEST_CASE("the preview is exactly what the click makes", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Pans");
    w.pickMaterial("Brine");
    w.hover({32, 9}); // beside a pan: its rim opens
    const level::Grid preview = w.view()->shown().layer(w.layer("Pans").id)->grid();
    CHECK_FALSE(preview == w.layer("Pans").grid());
    const QImage before = w.view()->grab(QRect(100, 100, 400, 400)).toImage();
    CHECK(w.reading().contains("joins"));
    CHECK(w.reading().contains("Pans"));
    CHECK(w.reading().contains("cell 32, 9"));
    w.clickCell({32, 9});
    CHECK(w.layer("Pans").grid() == preview);
    w.hover({32, 9});
    CHECK(w.view()->grab(QRect(100, 100, 400, 400)).toImage() == before);
    // The pointer gone, nothing of a preview is left.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    QEvent leave(QEvent::Leave);
    QApplication::sendEvent(w.view(), &leave);
    CHECK(w.view()->shown().layer(w.layer("Pans").id)->grid() == w.layer("Pans").grid());
}

TEST_CASE("one stroke is one step, undone and done again by key and button", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Pans");
    w.pickMaterial("Brine");
    const level::Grid before = w.layer("Pans").grid();
    w.dragCells({{32, 8}, {32, 12}, {33, 12}});
    const level::Grid after = w.layer("Pans").grid();
    CHECK_FALSE(after == before);
    CHECK(w.session().document().undo_name() == "Lay Brine on Pans");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Pans").grid() == before);
    w.click("redo");
    CHECK(w.layer("Pans").grid() == after);
    w.click("undo");
    CHECK(w.layer("Pans").grid() == before);
    CHECK_FALSE(w.session().document().can_undo());
    CHECK_FALSE(w.find<QWidget>("undo")->isEnabled());
}

TEST_CASE("what is drawn after many strokes is what is drawn from scratch", "[app][lay]") {
    Window w;
    w.view()->setQuiet(true); // the letters of flags are a shade lighter or darker from one time to the next
    w.view()->setCamera(2, QPointF(30.0 * 16, 19.0 * 16));
    w.activate("Pans");
    w.pickMaterial("Brine");
    make::Random random(3);
    for (int i = 0; i < 25; ++i) {
        const Point a{22 + random.below(18), 10 + random.below(14)};
        w.dragCells({a, {a.x + random.below(4), a.y + random.below(4)}},
                    random.flip(0.3) ? Qt::RightButton : Qt::LeftButton);
        if (random.flip(0.2)) w.key(Qt::Key_Z, Qt::ControlModifier);
    }
    QEvent leave(QEvent::Leave);
    QApplication::sendEvent(w.view(), &leave);
    const QImage lived = w.view()->grab().toImage();
    w.stage("stage-bound"); // other tones: all pages are made anew
    w.stage("stage-lay");
    QApplication::sendEvent(w.view(), &leave);
    REQUIRE(w.view()->size() == lived.size());
    CHECK(w.view()->grab().toImage() == lived);
}

TEST_CASE("the right button and the eraser remove from the active layer only", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Pans");
    const Point pan{26, 8};
    REQUIRE(w.layer("Pans").grid().material(pan) != 0);
    const auto clay = w.layer("Clay").grid().cell(pan);
    w.clickCell(pan, Qt::RightButton);
    CHECK(w.layer("Pans").grid().cell(pan).empty());
    CHECK(w.layer("Clay").grid().cell(pan) == clay);
    w.key(Qt::Key_E);
    w.hover({27, 8});
    CHECK(w.reading().contains("Removes"));
    w.clickCell({27, 8});
    CHECK(w.layer("Pans").grid().cell({27, 8}).empty());
    CHECK(w.layer("Clay").grid().count() > 0);
}

TEST_CASE("locked and hidden layers are never painted on in silence", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Pans");
    w.pickMaterial("Brine");
    w.click("layerLocked");
    settle();
    const level::Grid before = w.layer("Pans").grid();
    w.hover({32, 9});
    CHECK(w.reading().contains("is locked"));
    w.clickCell({32, 9});
    CHECK(w.layer("Pans").grid() == before);
    CHECK(w.notice().contains("locked"));
    w.click("layerLocked");
    settle();
    w.click("layerShown");
    settle();
    w.hover({32, 9});
    CHECK(w.reading().contains("is hidden"));
    w.clickCell({32, 9});
    CHECK(w.layer("Pans").grid() == before);
}

TEST_CASE("materials go home, and the reading line says so", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Clay");
    w.pickMaterial("Boardwalk");
    w.hover({30, 15});
    CHECK(w.reading().contains("its home"));
    w.clickCell({30, 15});
    CHECK(w.layer("Boardwalk").grid().material({30, 15}) != 0);
    const auto clay = w.layer("Clay").grid().material({30, 15});
    CHECK(clay != 0);
    w.clickCell({29, 15}, Qt::LeftButton, Qt::ControlModifier);
    CHECK(w.layer("Clay").grid().material({29, 15}) == w.session().hand().material());
}

TEST_CASE("Alt+click picks up what lies there, Esc empties the Hand", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Clay");
    w.clickCell({26, 8}, Qt::LeftButton, Qt::AltModifier);
    CHECK(w.session().hand().is<edit::held::Material>());
    CHECK(w.session().project().material(w.session().hand().material())->name == "Brine");
    CHECK(w.session().activeLayer()->name == "Pans");
    w.view()->setFocus();
    w.key(Qt::Key_Escape);
    CHECK(w.session().hand().is<edit::held::Nothing>());
    w.clickCell({32, 9});
    CHECK(w.notice().contains("Hand is empty"));
    w.key(Qt::Key_I);
    w.clickCell({26, 8});
    CHECK(w.session().hand().is<edit::held::Material>());
    CHECK(w.session().tool() == Tool::pencil);
}

TEST_CASE("tiles are laid by hand, turned by keys, and stay when the material is painted over", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Pans");
    w.click("trayTiles");
    auto* sheets = w.find<QComboBox>("traySheets");
    sheets->setCurrentIndex(sheets->findText("Brine"));
    emit sheets->activated(sheets->currentIndex());
    auto* sheet = w.find<SheetView>("traySheet");
    w.clickAt(sheet, sheet->tileCentre(5));
    REQUIRE(w.session().hand().is<edit::held::Tile>());
    w.view()->setFocus();
    w.key(Qt::Key_Period);
    w.key(Qt::Key_Slash);
    CHECK(w.session().hand().turn == mirrored(turned_right({})));
    w.clickCell({32, 9});
    const level::Cell laid = w.layer("Pans").grid().cell({32, 9});
    CHECK(laid.pinned());
    CHECK(laid.turn() == w.session().hand().turn);
    w.pickMaterial("Brine");
    w.dragCells({{31, 9}, {33, 9}});
    CHECK(w.layer("Pans").grid().cell({32, 9}) == laid);
    CHECK(w.layer("Pans").grid().material({33, 9}) != 0);
}

TEST_CASE("the size of the Hand goes by Ctrl+wheel, the zoom by the wheel alone", "[app][lay]") {
    Window w;
    lookAtLand(w);
    w.activate("Pans");
    w.pickMaterial("Brine");
    const QPointF at = w.view()->cellCentre({32, 15});
    const auto wheel = [&](int by, Qt::KeyboardModifiers modifiers) {
        QWheelEvent event(at, w.view()->mapToGlobal(at), {}, QPoint(0, by), Qt::NoButton, modifiers, Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(w.view(), &event);
    };
    wheel(120, Qt::ControlModifier);
    wheel(120, Qt::ControlModifier);
    CHECK(w.session().hand().size == 3);
    const auto count = w.layer("Pans").grid().count();
    w.clickCell({34, 12});
    CHECK(w.layer("Pans").grid().count() == count + 9);
    const Point cell = w.view()->cellAt(at);
    wheel(120, {});
    CHECK(w.view()->zoom() == 3);
    CHECK(w.view()->cellAt(at) == cell); // the pointer stays over its cell
    wheel(-120, {});
    wheel(-120, {});
    CHECK(w.view()->zoom() == 1);
    for (int i = 0; i < 20; ++i) wheel(-120, {});
    CHECK(w.view()->zoom() == 1.0 / 16);
    for (int i = 0; i < 30; ++i) wheel(120, {});
    CHECK(w.view()->zoom() == 16);
}

TEST_CASE("pockets keep the Hand and give it back, also after a restart", "[app][lay]") {
    Window w;
    w.pickMaterial("Creek");
    w.view()->setFocus();
    w.key(Qt::Key_4);
    w.pickMaterial("Clay");
    w.view()->setFocus();
    w.key(Qt::Key_4);
    CHECK(w.session().project().material(w.session().hand().material())->name == "Creek");
    w.restart();
    w.view()->setFocus();
    w.key(Qt::Key_4);
    REQUIRE(w.session().hand().is<edit::held::Material>());
    CHECK(w.session().project().material(w.session().hand().material())->name == "Creek");
}

TEST_CASE("middle button and Space move the view", "[app][lay]") {
    Window w;
    lookAtLand(w);
    const QPointF before = w.view()->centre();
    QTest::mousePress(w.view(), Qt::MiddleButton, {}, QPoint(300, 300));
    QMouseEvent move(QEvent::MouseMove, QPointF(340, 320), w.view()->mapToGlobal(QPointF(340, 320)), Qt::NoButton,
                     Qt::MiddleButton, {});
    QApplication::sendEvent(w.view(), &move);
    QTest::mouseRelease(w.view(), Qt::MiddleButton, {}, QPoint(340, 320));
    CHECK(w.view()->centre().x() == Approx(before.x() - 20));
    CHECK(w.view()->centre().y() == Approx(before.y() - 10));
    CHECK_FALSE(w.session().document().can_undo());
}

TEST_CASE("quiet view leaves only the level", "[app][lay]") {
    Window w;
    w.view()->setFocus();
    w.key(Qt::Key_Q);
    CHECK_FALSE(w.find<QWidget>("workline")->isVisible());
    CHECK_FALSE(w.find<QWidget>("section")->isVisible());
    CHECK(w.view()->size() == w.window->centralWidget()->size());
    w.view()->setFocus();
    w.key(Qt::Key_Q);
    CHECK(w.find<QWidget>("workline")->isVisible());
}

TEST_CASE("a level of the largest size opens and paints", "[app][lay]") {
    Window w;
    level::Project p = w.session().project();
    level::Level big = level::make_level(p, "Big", {8192, 8192}, {16, 16}, level::View::from_above);
    p.put(big);
    w.session().apply("Add a level", p);
    w.session().setLevel("big");
    w.pickMaterial("Clay");
    w.view()->setCamera(2, QPointF(8100.0 * 16, 8100.0 * 16));
    w.dragCells({{8090, 8100}, {8110, 8100}});
    CHECK(w.level().layers[0]->grid().count() == 21);
    w.view()->setCamera(1.0 / 16, QPointF(8100.0 * 16, 8100.0 * 16));
    CHECK(w.view()->grab().toImage().width() > 0);
}
