// Tries in the window: what came to pass and why, proofs, the walker's settings, what tells, and who is stopped.
#include <QAbstractItemView>
#include <QCheckBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QMenu>
#include <QTest>

#include "app/parts/card_list.hpp"
#include "app/view/level_view.hpp"
#include "app/window.hpp"
#include "player/parcel_view.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::app;

using namespace app_test;

namespace {

player::ParcelView* walking(Window& w, const char* level) {
    w.session().setLevel(level);
    w.stage("stage-walk");
    auto* view = w.find<player::ParcelView>("parcelView");
    REQUIRE_SOON(view->isLoaded());
    view->setRunning(false);
    return view;
}

void hold(player::ParcelView* view, int key, int ticks) {
    QTest::keyPress(view, static_cast<Qt::Key>(key));
    for (int i = 0; i < ticks; ++i) view->step();
    QTest::keyRelease(view, static_cast<Qt::Key>(key));
    settle();
}

} // namespace

TEST_CASE("a bump is listed with its reason and shown where it was; the try is kept, holds, and fails when barred",
          "[app][walk][try]") {
    Window w;
    auto* view = walking(w, "pump-cellar");
    hold(view, Qt::Key_Left, 90); // against the wall beside the start
    auto* pins = w.find<CardList>("tryPins");
    REQUIRE(pins->model()->rowCount() > 0);
    w.clickRow(pins, 0);
    CHECK(w.find<QLabel>("tryWhy")->text().contains("blocks here"));
    hold(view, Qt::Key_Left, 10); // what is chosen stays, with its reason
    CHECK(w.find<QLabel>("tryWhy")->text().contains("blocks here"));
    w.picture("look-pins");
    view->restart();
    hold(view, Qt::Key_Right, 60);
    w.click("proofKeep");
    REQUIRE(w.level().proofs.size() == 1);
    CHECK(w.level().proofs[0].held.front().ticks == 60);
    auto* proofs = w.find<CardList>("proofList");
    REQUIRE_SOON(proofs->model()->rowCount() == 1 && proofs->isVisible());
    CHECK(view->world().foot().y == Approx(19).margin(0.05)); // built anew with the proof, he stays where he was
    // The way is barred: the check says so.
    level::Level level = w.level();
    const Point end{level.proofs[0].way.back().x / 64, level.proofs[0].way.back().y / 64};
    for (const level::LayerRef& layer : w.level().layers)
        if (layer->name == "Brick")
            for (int y = end.y - 6; y < end.y; ++y)
                level.edit(layer->id).grid().set({end.x - 2, y}, level.layer(layer->id)->grid().cell({0, 0}), 0);
    w.session().applyLevel("Bar the way", std::move(level));
    const auto broken = [&] {
        for (const auto& f : w.session().findings())
            if (f.code == "proof-broken") return true;
        return false;
    };
    REQUIRE_SOON(broken());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.clickRow(proofs, 0);
    w.click("proofForget");
    CHECK(w.level().proofs.empty());
}

TEST_CASE("settings of the walker are obeyed by the next try", "[app][walk][try]") {
    Window w;
    auto* view = walking(w, "pump-cellar");
    w.click("walkerMore");
    auto* run = w.find<QDoubleSpinBox>("walkerRun");
    REQUIRE(run->isVisible());
    w.picture("look-walker-more");
    run->setFocus();
    run->selectAll();
    QTest::keyClicks(run, "12");
    QTest::keyClick(run, Qt::Key_Return);
    CHECK(w.level().walker.run == 12);
    REQUIRE_SOON(view->level().walker.run == 12);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().walker.run == 0);
}

TEST_CASE("a material is made a ladder in Bound, and the parcel tells it", "[app][bound][areas]") {
    Window w;
    w.session().setLevel("pump-cellar");
    w.stage("stage-bound");
    auto* used = w.find<CardList>("usedList");
    REQUIRE_SOON(used->model()->rowCount() > 3);
    w.clickRow(used, "Catwalk");
    w.click("usedTells");
    auto* menu = w.find<QMenu>("tellsMenu");
    clickEntry(menu, "New: Ladder");
    REQUIRE(w.session().project().area_kinds.size() == 2); // the demo has a water
    CHECK(w.session().project().area_kinds[1].means == level::AreaMeans::ladder);
    const auto told = [&] {
        int count = 0;
        for (const auto& sheet : w.session().project().sheets)
            for (const level::Tile& t : sheet->tiles) count += t.tells == w.session().project().area_kinds.back().id;
        return count;
    };
    CHECK(told() > 0);
    w.picture("look-tells");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().area_kinds.size() == 1);
}

TEST_CASE("who is stopped by what is a grid in Bound once there are classes", "[app][bound][movers]") {
    Window w;
    w.session().setLevel("pump-cellar");
    level::Level level = w.level();
    for (const level::LayerRef& layer : w.level().layers)
        if (layer->name == "Catwalks") level.edit(layer->id).collision_class = "planks";
    w.session().applyLevel("A class", std::move(level));
    w.stage("stage-bound");
    w.click("moverAdd");
    w.click("moverAdd");
    REQUIRE(w.session().project().movers.size() == 2);
    auto* box = w.find<QCheckBox>("stops-1-1"); // planks, Shots
    REQUIRE(box->isChecked());
    w.click("stops-1-1");
    CHECK(w.session().project().movers[1].passes == std::vector<std::string>{"planks"});
    w.picture("look-movers");
    w.click("stops-1-1");
    CHECK(w.session().project().movers[1].passes.empty());
}

TEST_CASE("one walks while one paints: what is laid under his feet holds him", "[app][lay][try]") {
    Window w;
    w.session().setLevel("pump-cellar");
    w.stage("stage-lay");
    w.view()->setCamera(2, {40.0 * 16, 22.0 * 16});
    w.hover({40, 19});
    w.key(Qt::Key_J, Qt::AltModifier);
    LiveTry& live = w.view()->liveTry();
    REQUIRE(live.on());
    REQUIRE_SOON(live.walks());
    for (int i = 0; i < 240; ++i) live.step();
    CHECK(live.foot().y == Approx(27).margin(0.1)); // he fell onto the catwalk of the pump hall
    const double floor = live.foot().y;
    QTest::keyPress(w.view(), Qt::Key_Up);
    double best = floor;
    for (int i = 0; i < 40; ++i) {
        live.step();
        best = std::min(best, live.foot().y);
    }
    QTest::keyRelease(w.view(), Qt::Key_Up);
    CHECK(best < floor - 3);
    // A wall is painted beside him: he is stopped by it.
    w.activate("Brick");
    w.pickMaterial("Brick");
    w.dragCells({{43, 26}, {43, 25}, {43, 24}, {43, 23}});
    const auto stopped = [&] {
        QTest::keyPress(w.view(), Qt::Key_Right);
        for (int i = 0; i < 120; ++i) live.step();
        QTest::keyRelease(w.view(), Qt::Key_Right);
        return live.foot().x < 43;
    };
    REQUIRE_SOON(stopped());
    w.picture("look-live");
    w.key(Qt::Key_Escape);
    CHECK_FALSE(live.on());
}

TEST_CASE("of all ways he goes where the mouse is held, and in the level where the pointer is while Space is held",
          "[app][walk][try]") {
    Window w;
    auto* view = walking(w, "brine-pans");
    const auto built = [&] { return view->isLoaded() && view->level().walker.ways == level::kAllWays; };
    w.click("walkerMore");
    w.choose("walkerWays", "all");
    CHECK(w.level().walker.ways == level::kAllWays);
    REQUIRE_SOON(built());
    view->setRunning(false);
    CHECK(w.reading().contains("Hold the mouse"));
    w.picture("look-ways");
    const auto size = w.level().cell;
    const vicinum::Vec frame = view->level().frame;
    const int zoom = std::max(1, std::min(view->width() / frame.x, view->height() / frame.y));
    const walk::Position from = view->world().foot();
    const vicinum::Rect shown = walk::frame_around(view->level(), from, frame);
    const walk::Position goal{from.x + 2.5, from.y + 1};
    const QPoint corner((view->width() - frame.x * zoom) / 2, (view->height() - frame.y * zoom) / 2);
    const QPoint at = corner + QPoint(static_cast<int>((goal.x * size.w - shown.x) * zoom),
                                      static_cast<int>((goal.y * size.h - shown.y) * zoom));
    QTest::mousePress(view, Qt::LeftButton, {}, at);
    for (int i = 0; i < 3; ++i) view->step(); // later the frame follows, and where it is held is another place
    CHECK(walk::towards(from, view->world().foot()) == Approx(walk::towards(from, goal)).margin(2));
    for (int i = 0; i < 17; ++i) view->step();
    QTest::mouseRelease(view, Qt::LeftButton, {}, at);
    const walk::Position then = view->world().foot();
    CHECK(std::hypot(then.x - from.x, then.y - from.y) > 1);
    for (int i = 0; i < 10; ++i) view->step(); // nobody leads him now
    CHECK(view->world().foot() == then);
    w.click("proofKeep");
    REQUIRE(w.level().proofs.size() == 1);
    CHECK(w.level().proofs[0].held.front().towards == walk::towards(from, goal));

    w.stage("stage-lay");
    const Point cell{static_cast<int>(from.x), static_cast<int>(from.y) - 1};
    w.view()->setCamera(2, {from.x * size.w, from.y * size.h});
    w.hover(cell);
    w.key(Qt::Key_J, Qt::AltModifier);
    LiveTry& live = w.view()->liveTry();
    REQUIRE_SOON(live.walks());
    const walk::Position begun = live.foot();
    w.hover(cell + Point{2, 1});
    for (int i = 0; i < 10; ++i) live.step();
    CHECK(live.foot() == begun);
    QTest::keyPress(w.view(), Qt::Key_Space);
    for (int i = 0; i < 10; ++i) live.step();
    QTest::keyRelease(w.view(), Qt::Key_Space);
    CHECK(walk::towards(begun, live.foot()) == Approx(26.6).margin(3));
}

TEST_CASE("probes are set at the pointer, tested by the check, and taken away", "[app][bound][try]") {
    Window w;
    w.session().setLevel("pump-cellar");
    w.stage("stage-bound");
    w.view()->setCamera(2, {40.0 * 16, 22.0 * 16});
    w.hover({40, 24});
    w.key(Qt::Key_N, Qt::AltModifier);
    REQUIRE(w.level().probes.size() == 1);
    CHECK_FALSE(w.level().probes[0].blocks);
    w.hover({48, 24});
    w.key(Qt::Key_N, Qt::AltModifier | Qt::ShiftModifier);
    REQUIRE(w.level().probes.size() == 2);
    const auto open = [&] {
        for (const auto& f : w.session().findings())
            if (f.code == "probe-open" && f.cell && f.cell->x == 48) return true;
        return false;
    };
    REQUIRE_SOON(open()); // nothing blocks there
    w.picture("look-probes");
    w.key(Qt::Key_N, Qt::AltModifier | Qt::ShiftModifier);
    CHECK(w.level().probes.size() == 1);
}
