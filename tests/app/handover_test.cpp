#include "app/window.hpp"

#include <QAction>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <QPointF>
#include <QSpinBox>
#include <QTimer>
#include <algorithm>

#include "app/hand_over/hand_over_page.hpp"
#include "app/hand_over/level_card.hpp"
#include "app/parts/card_list.hpp"
#include "app/shell/workline.hpp"
#include "base/files.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

namespace {

// Answers the question that closing with unsaved changes asks, once it is up.
void answer(Window& w, QMessageBox::StandardButton button) {
    QTimer::singleShot(100, w.window.get(), [&w, button] {
        auto* box = w.window->findChild<QMessageBox*>("closeQuestion");
        REQUIRE(box);
        QTest::mouseClick(box->button(button), Qt::LeftButton);
    });
}

void change(Window& w) {
    w.activate("Pans");
    w.pickMaterial("Brine");
    w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16));
    w.clickCell({33, 9});
    REQUIRE(w.session().document().unsaved());
}

} // namespace

TEST_CASE("the build button builds every level and the cards say so", "[app][hand-over]") {
    Window w;
    w.stage("stage-hand-over");
    CHECK_FALSE(w.find<QWidget>("openPlayer")->isEnabled());
    CHECK(w.find<LevelCard>("level-pump-cellar")->accessibleDescription().contains("not built yet"));
    w.click("build");
    auto* page = w.window->findChild<HandOverPage*>();
    REQUIRE(QTest::qWaitFor([&] { return !page->building(); }, 20000));
    settle();
    CHECK(w.find<QLabel>("buildResults")->text().contains("Pump Cellar"));
    CHECK(w.find<QWidget>("openPlayer")->isEnabled());
    CHECK(w.find<LevelCard>("level-pump-cellar")->accessibleDescription().contains("built"));
    CHECK_FALSE(w.find<LevelCard>("level-pump-cellar")->accessibleDescription().contains("not built"));
    for (const char* id : {"brine-pans", "pump-cellar"})
        CHECK(vicinum::load(w.folder.path() / "pell/built" / id).id == id);
    w.click("level-pump-cellar");
    CHECK(w.session().stage() == Stage::lay);
    CHECK(w.session().level()->id == "pump-cellar");
}

TEST_CASE("with findings Hand over is entered and stays; a click on one goes to its place", "[app][hand-over]") {
    Window w;
    w.stage("stage-lay");
    level::Level level = w.level();
    level.sides = {};
    w.session().applyLevel("Sides", level);
    auto* findings = w.find<CardList>("findings");
    REQUIRE_SOON(w.session().findings().size() == 3);
    w.view()->setFocus();
    w.stage("stage-hand-over");
    settle();
    CHECK(w.session().stage() == Stage::handOver);
    REQUIRE_SOON(findings->isVisible() && findings->cards().size() == 3);
    CHECK_FALSE(findings->currentIndex().isValid());
    w.picture("hand-over-findings");
    w.clickAt(findings->viewport(), findings->cardCentre(findings->cards()[0].id));
    CHECK(w.session().stage() == Stage::lay);
    CHECK(w.find<QWidget>("boundPanel")->parentWidget()->isVisible()); // the panels are back
}

TEST_CASE("what blocks is handed over as the engine wants it", "[app][hand-over]") {
    Window w;
    w.stage("stage-hand-over");
    auto* page = w.window->findChild<HandOverPage*>();
    w.choose("engineShapes", "and the fewest rectangles");
    CHECK(w.session().project().engine_shapes == level::EngineShapes::rectangles);
    w.click("build");
    REQUIRE(QTest::qWaitFor([&] { return !page->building(); }, 20000));
    const vicinum::Level built = vicinum::load(w.folder.path() / "pell/built/brine-pans");
    CHECK(built.boxes.size() > 40);
    CHECK(built.props_merged);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QComboBox>("engineShapes")->currentText() == "outlines alone");
}

TEST_CASE("a place that holds something else is not built over", "[app][hand-over]") {
    Window w;
    std::filesystem::create_directories(w.folder.path() / "pell/built/brine-pans");
    write_file(w.folder.path() / "pell/built/brine-pans/mine.txt", "keep");
    w.key(Qt::Key_B, Qt::ControlModifier);
    auto* page = w.window->findChild<HandOverPage*>();
    REQUIRE(QTest::qWaitFor([&] { return !page->building(); }, 20000));
    settle();
    CHECK(w.notice().contains("Not every level"));
    CHECK(w.find<QLabel>("buildResults")->text().contains("holds something else"));
    CHECK(read_file(w.folder.path() / "pell/built/brine-pans/mine.txt") == "keep");
    CHECK_NOTHROW(vicinum::load(w.folder.path() / "pell/built/pump-cellar"));
}

TEST_CASE("a finding leads to its place", "[app][hand-over]") {
    Window w;
    level::Level level = w.level();
    level.edit(w.layer("Clay").id).grid().set({70, 50}, level::Cell(w.session().project().next_tile - 1, {}, true), 0);
    level::Project p = w.session().project();
    p.next_tile += 5;
    level.edit(w.layer("Clay").id).grid().set({70, 50}, level::Cell(p.next_tile - 1, {}, true), 0);
    p.put(level);
    w.session().apply("Break it", p);
    w.stage("stage-hand-over");
    REQUIRE(QTest::qWaitFor([&] { return w.find<StageButton>("stage-hand-over")->state() == "1 finding"; }, 3000));
    CHECK(w.find<StageButton>("stage-hand-over")->mark() == StageMark::look);
    auto* list = w.find<CardList>("findings");
    REQUIRE(list->cards().size() == 1);
    w.clickAt(list->viewport(), list->cardCentre(list->cards()[0].id));
    CHECK(w.session().stage() == Stage::lay);
    CHECK(w.session().activeLayer()->name == "Clay");
    CHECK(w.view()->rect().contains(w.view()->cellCentre({70, 50})));
}

TEST_CASE("closing asks only where something would be lost", "[app][close]") {
    Window w;
    SECTION("nothing changed: it closes") { CHECK(w.window->close()); }
    SECTION("stay") {
        change(w);
        answer(w, QMessageBox::Cancel);
        CHECK_FALSE(w.window->close());
        CHECK(w.session().document().unsaved());
    }
    SECTION("save") {
        change(w);
        const level::Grid grid = w.layer("Pans").grid();
        answer(w, QMessageBox::Save);
        w.restart();
        CHECK(w.layer("Pans").grid() == grid);
    }
    SECTION("discard") {
        const level::Grid grid = w.layer("Pans").grid();
        change(w);
        answer(w, QMessageBox::Discard);
        w.restart();
        CHECK(w.layer("Pans").grid() == grid);
    }
}

TEST_CASE("a save that fails says so and keeps the work", "[app][close]") {
    Window w;
    change(w);
    // A file stands where the save wants to make its folder.
    w.session().keeper().flush();
    std::filesystem::remove_all(w.folder.path() / "pell/.vicinum");
    write_file(w.folder.path() / "pell/.vicinum", "in the way");
    w.key(Qt::Key_S, Qt::ControlModifier);
    CHECK(w.session().document().unsaved());
    CHECK_FALSE(w.notice().isEmpty());
    std::filesystem::remove(w.folder.path() / "pell/.vicinum");
    w.key(Qt::Key_S, Qt::ControlModifier);
    CHECK_FALSE(w.session().document().unsaved());
    CHECK(w.notice().isEmpty());
}

TEST_CASE("levels are switched and duplicated from the project's menu", "[app][levels]") {
    Window w;
    const auto choose = [&](const QString& text) {
        w.click("place");
        settle();
        auto* menu = w.window->findChild<QMenu*>("placeMenu");
        REQUIRE(menu);
        for (QAction* a : menu->actions())
            if (a->text() == text) {
                QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(a).center());
                settle();
                return;
            }
        FAIL(text.toStdString());
    };
    choose("Pump Cellar");
    CHECK(w.session().level()->id == "pump-cellar");
    CHECK(w.find<QLabel>("levelName")->text() == "Pump Cellar");
    const std::size_t had = w.session().project().levels.size();
    choose("Duplicate the level");
    CHECK(w.session().project().levels.size() == had + 1);
    CHECK(w.session().level()->name == "Pump Cellar copy");
    CHECK(w.session().level()->id == "pump-cellar-copy");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().levels.size() == had);
    CHECK(w.session().level() != nullptr);
}

TEST_CASE("Esc gives up a stroke under way", "[app][lay]") {
    Window w;
    w.activate("Pans");
    w.pickMaterial("Brine");
    w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16));
    const level::Grid before = w.layer("Pans").grid();
    w.hover({32, 9});
    QTest::mousePress(w.view(), Qt::LeftButton, {}, w.view()->cellCentre({32, 9}));
    CHECK(w.view()->stroking());
    QTest::keyClick(w.view(), Qt::Key_Escape);
    CHECK_FALSE(w.view()->stroking());
    QTest::mouseRelease(w.view(), Qt::LeftButton, {}, w.view()->cellCentre({32, 9}));
    CHECK(w.layer("Pans").grid() == before);
    CHECK_FALSE(w.session().document().can_undo());
    CHECK(w.session().hand().is<edit::held::Material>()); // the first Esc is for the stroke alone
}

TEST_CASE("the small map moves the view", "[app][lay]") {
    Window w;
    w.view()->setCamera(2, QPointF(10.0 * 16, 10.0 * 16));
    const QPointF before = w.view()->centre();
    w.clickAt(w.view(), QPoint(w.view()->width() - 30, w.view()->height() - 30));
    CHECK(w.view()->centre().x() > before.x() + 500);
    CHECK(w.view()->centre().y() > before.y() + 300);
    w.view()->setFocus();
    w.key(Qt::Key_Home);
    CHECK(w.view()->zoom() == 0.5);
}

TEST_CASE("a backdrop gets its picture and tint in its drawer", "[app][section]") {
    Window w;
    w.activate("Silt");
    auto* tint = w.find<QComboBox>("backdropTint");
    tint->setFocus();
    QTest::keyClick(tint, Qt::Key_Home);
    settle();
    CHECK(w.session().activeLayer()->backdrop()->tint == Rgba{255, 255, 255, 255});
    auto* picture = w.find<QComboBox>("backdropPicture");
    picture->setCurrentIndex(0);
    emit picture->activated(0);
    settle();
    CHECK(w.session().activeLayer()->backdrop()->sheet == 0);
    REQUIRE(QTest::qWaitFor([&] { return w.find<StageButton>("stage-hand-over")->state() == "1 finding"; }, 3000));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().activeLayer()->backdrop()->sheet != 0);
}

TEST_CASE("weights of variants are set in Join and the levels follow", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* list = w.find<CardList>("materialList");
    w.clickAt(list->viewport(), list->cardCentre(7));
    REQUIRE(w.session().material()->name == "Cellar wall");
    const auto variants = w.session().material()->joins.cases.at(255);
    REQUIRE(variants.size() == 8);
    for (std::size_t i = 1; i < variants.size(); ++i) {
        auto* box = w.find<QSpinBox>(("weight-" + std::to_string(variants[i].tile)).c_str());
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, "0");
        QTest::keyClick(box, Qt::Key_Return);
        settle();
    }
    std::set<level::TileId> used;
    const level::Level* cellar = w.session().project().level("pump-cellar");
    const auto wall = std::find_if(cellar->layers.begin(), cellar->layers.end(),
                                   [](const level::LayerRef& l) { return l->name == "Back wall"; });
    level::each_cell((*wall)->grid(), cellar->cells(),
                     [&](Point, level::Cell c, level::MaterialId) { used.insert(c.tile()); });
    CHECK(used == std::set<level::TileId>{variants[0].tile});
}

TEST_CASE("a plain material is made with one click", "[app][cut]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[6]->id);
    const auto count = w.session().project().materials.size();
    w.click("plainMaterial");
    REQUIRE(w.session().project().materials.size() == count + 1);
    CHECK(w.session().material()->joins.kind == level::JoinKind::plain);
    CHECK(w.session().material()->name == "Cellar wall 2");
    CHECK(w.session().stage() == Stage::join);
}
