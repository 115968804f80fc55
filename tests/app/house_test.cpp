// The demo's houses in the window: what blocks, merged in height, and handed over.
#include <QLabel>
#include <QTest>
#include <filesystem>

#include "app/session/choice.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/solid/solid_view.hpp"
#include "app/window.hpp"
#include "base/files.hpp"

using namespace app_test;

namespace {

struct HouseWindow : Window {
    HouseWindow() : Window(false) {
        fs::copy(fs::path(SOURCE_DIR) / "demo/pump-house", folder / "pump-house", fs::copy_options::recursive);
        window->openProject(QString::fromStdString((folder / "pump-house").string()));
        settle();
        REQUIRE(session().isOpen());
    }
    SolidSwitch& solid() { return *find<SolidSwitch>("solidSwitch"); }
    QString merged() { return find<QLabel>("solidMerged")->text(); }
};

} // namespace

TEST_CASE("what blocks of a house is merged in height, seen aslant in Bound, and handed over", "[app][kit][house]") {
    HouseWindow w;
    w.stage("stage-lay");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->pieces() > 200);
    w.picture("house-lowest");
    w.session().setActiveLayer(w.level().layers.back()->id); // nothing is cut away
    REQUIRE_SOON(w.solid().view()->pieces() > 400);
    CHECK_FALSE(w.find<QLabel>("solidMerged")->isVisible());
    w.picture("house-lay");
    w.stage("stage-bound");
    REQUIRE_SOON(w.merged().contains("polygons"));
    CHECK(w.find<QLabel>("solidMerged")->isVisible());
    CHECK_FALSE(w.merged().contains("not closed"));
    const QString before = w.merged();
    w.picture("house-bound");
    w.key(Qt::Key_F5);
    w.picture("house-bound-plan");
    w.key(Qt::Key_F6);
    settle();
    // A wall less: it is merged anew.
    w.stage("stage-lay");
    w.session().setActiveLayer(w.level().layers[1]->id);
    w.key(Qt::Key_E);
    const QPoint at = w.solid().view()->placeOf({8.5, 4.5}).toPoint();
    QTest::mouseClick(w.solid().view(), Qt::LeftButton, {}, at);
    settle();
    REQUIRE(w.level().layers[1]->grid().cell({8, 4}).tile() == 0);
    w.stage("stage-bound");
    REQUIRE_SOON(w.merged().contains("polygons") && w.merged() != before);
    // With the level, for the engine.
    w.key(Qt::Key_B, Qt::ControlModifier);
    const fs::path built = fs::path(w.session().builtDir().toStdString()) / "pump-house";
    REQUIRE_SOON(fs::exists(built / "level.glb"));
    CHECK(read_file(built / "level.glb").starts_with("glTF"));
    CHECK(fs::exists(built / "level.json"));
    w.stage("stage-hand-over");
    w.picture("house-hand-over");
}
