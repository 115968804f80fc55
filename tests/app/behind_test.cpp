// What lies behind all: the background, a picture to build after; and one season in the place of another.
#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QTimer>

#include "app/window.hpp"
#include "edit/joins.hpp"
#include "join/mask.hpp"
#include "picture/compose.hpp"
#include "store/project_files.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

namespace {

Image set_of_47(int side, unsigned seed) {
    const auto masks = join::cases(level::JoinKind::full);
    return make::sheet(make::tiles(masks, side, make::Style::outlined, seed), 8, {}, {});
}

QColor pixel(Window& w, Point cell) {
    const QPoint at = w.view()->cellCentre(cell);
    return w.view()->grab().toImage().pixelColor(at);
}

} // namespace

TEST_CASE("a level has the background that it is given, or none", "[app][behind]") {
    Window w(false);
    w.click("startAbove");
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.click("behindHead");
    answerColour(QColor(120, 60, 30));
    w.click("levelGround");
    CHECK(w.level().ground == Rgba{120, 60, 30, 255});
    w.view()->setCamera(1, QPointF(160, 160));
    settle();
    CHECK(pixel(w, {8, 8}) == QColor(120, 60, 30));
    w.picture("behind");
    w.click("levelNoGround");
    CHECK(w.level().ground.a == 0);
    settle();
    CHECK(pixel(w, {8, 8}) != QColor(120, 60, 30));
    // The picture of the level is see-through there, and the engine is told.
    CHECK(picture::render(w.session().project(), w.level(), 1).at(5, 5).a == 0);
    w.click("levelNoGround");
    CHECK(picture::render(w.session().project(), w.level(), 1).at(5, 5) == Rgba{120, 60, 30, 255});
}

TEST_CASE("a picture to build after is seen under or over the level, and never built", "[app][behind]") {
    Window w(false);
    w.click("startAbove");
    w.drop(put(w, "Sketch.png", Image({40, 30}, {250, 10, 10, 255})));
    settle();
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.click("behindHead");
    w.choose("referenceSheet", "Sketch");
    REQUIRE(w.level().reference);
    const Image built = picture::render(w.session().project(), w.level(), 1);
    w.slide("referenceOpacity", 100);
    // A cell of the sketch is four pixels.
    type(w.find<QSpinBox>("referenceCell"), "4");
    CHECK(w.level().reference->scale == 400);
    w.view()->setCamera(1, QPointF(80, 60));
    settle();
    CHECK(pixel(w, {2, 2}) == QColor(250, 10, 10));
    CHECK(pixel(w, {9, 3}) == QColor(250, 10, 10)); // 160 × 120 px of the level
    CHECK(pixel(w, {11, 3}) != QColor(250, 10, 10));
    // Or by a length that one knows: the sketch's eight pixels, 32 px of the level now, are to be four cells.
    w.click("toolMeasure");
    w.drag({1, 1}, {3, 1});
    REQUIRE(w.session().measured());
    auto* known = w.find<QDoubleSpinBox>("referenceMeasured");
    REQUIRE(known->isEnabled());
    CHECK(known->value() == Approx(2.0));
    known->setFocus();
    known->selectAll();
    QTest::keyClicks(known, QLocale().toString(4.0));
    QTest::keyClick(known, Qt::Key_Return);
    CHECK(w.level().reference->scale == 800);
    CHECK(w.level().reference->at == Point{-24, -24}); // where the line begins the picture stays
    CHECK(known->value() == Approx(4.0));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().reference->scale == 400);
    CHECK(w.level().reference->at == Point{});
    w.click("toolPencil"); // the measured line is put away
    type(w.find<QSpinBox>("referenceX"), "32");
    settle();
    CHECK(pixel(w, {1, 2}) != QColor(250, 10, 10));
    CHECK(pixel(w, {11, 3}) == QColor(250, 10, 10));
    w.picture("reference");
    CHECK(picture::render(w.session().project(), w.level(), 1) == built);
    // Zoomed out it lies in the same place.
    w.view()->setCamera(0.25, QPointF(80, 60));
    settle();
    CHECK(pixel(w, {11, 3}) == QColor(250, 10, 10));
    auto* shown = w.find<QCheckBox>("referenceShown");
    w.clickAt(shown, QPoint(8, shown->height() / 2)); // the box, as its text is short
    settle();
    CHECK(pixel(w, {11, 3}) != QColor(250, 10, 10));
    // It is kept, and undone like all else.
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    const level::Project kept = store::load(w.session().document().dir());
    CHECK(kept.levels[0]->reference == w.level().reference);
    w.choose("referenceSheet", "none");
    CHECK_FALSE(w.level().reference);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().reference);
}

TEST_CASE("one season is swapped for another through a level", "[app][swap]") {
    Window w(false);
    w.drop(put(w, "Flood.png", set_of_47(16, 7)));
    settle();
    w.key(Qt::Key_Return);
    w.click("readJoins");
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.view()->setCamera(1, QPointF(160, 160));
    w.dragCells({{4, 5}, {12, 5}, {12, 9}});
    const auto laid = w.layer("Ground").grid();
    w.drop(put(w, "Dry.png", set_of_47(16, 99)));
    settle();
    w.key(Qt::Key_Return);
    w.session().setSheet(w.session().project().sheets[0]->id);
    w.click("swapSheet");
    CHECK(w.find<QComboBox>("swapTo")->currentText() == "Dry · 47 counterparts");
    CHECK_THAT(w.find<QLabel>("swapSays")->text().toStdString(),
               Catch::Contains("cells change") && Catch::Contains("a material is made"));
    w.picture("swap");
    w.click("swapGo");
    const level::MaterialId now = w.layer("Ground").grid().material({4, 5});
    CHECK(w.session().project().material(now)->name == "Dry");
    CHECK(edit::main_sheet(w.session().project(), w.session().project().material(now)->joins) ==
          w.session().project().sheets[1]->id);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Ground").grid() == laid);
}
