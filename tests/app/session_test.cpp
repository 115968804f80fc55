// What the session and the panels hold on to: fields that are cleared or undone, choices when another project opens,
// work in the background, and what escapes as an exception.
#include "app/window.hpp"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QSpinBox>
#include <QSplitter>
#include <QTimer>
#include <QToolButton>
#include <filesystem>
#include <new>

#include "app/hand_over/hand_over_page.hpp"
#include "app/parts/binding.hpp"
#include "app/session/session.hpp"
#include "app/tray/tray.hpp"
#include "app/view/level_view.hpp"
#include "base/error.hpp"
#include "edit/homes.hpp"
#include "edit/joins.hpp"
#include "edit/levels.hpp"
#include "level/project.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

namespace {

void write(QLineEdit* field, const char* text) {
    field->setFocus();
    field->selectAll();
    QTest::keyClick(field, Qt::Key_Delete);
    QTest::keyClicks(field, text);
    QTest::keyClick(field, Qt::Key_Return);
    settle();
}

} // namespace

TEST_CASE("a field of an open drawer is filled, cleared and undone, and shows each time what the layer has",
          "[app][section][binding]") {
    Window w;
    w.activate("Pans");
    REQUIRE(w.session().activeLayer()->blocks());
    auto* name = w.find<QLineEdit>("layerClass");
    write(name, "water");
    CHECK(w.session().activeLayer()->collision_class == "water");
    write(name, "");
    CHECK(w.session().activeLayer()->collision_class.empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QLineEdit>("layerClass")->text() == "water");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QLineEdit>("layerClass")->text().isEmpty());
    CHECK(w.session().activeLayer()->collision_class.empty());
}

TEST_CASE("parallax, tint and shift in an open drawer follow undo", "[app][section][binding]") {
    Window w;
    w.activate("Marsh");
    auto* moves = w.find<QSpinBox>("layerParallaxX");
    type(moves, "150");
    settle();
    CHECK(w.session().activeLayer()->parallax == Point{150, 100});
    w.choose("layerTint", "dusk");
    CHECK(w.session().activeLayer()->tint != Rgba{255, 255, 255, 255});
    auto* shift = w.find<QSpinBox>("layerShiftY");
    type(shift, "1");
    settle();
    CHECK(w.session().activeLayer()->shift == Point{0, 1});
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QSpinBox>("layerParallaxX")->value() == 100);
    CHECK(w.find<QSpinBox>("layerShiftY")->value() == 0);
    CHECK(w.find<QComboBox>("layerTint")->currentText() == "as drawn");
    CHECK(w.find<QSpinBox>("layerParallaxX") == moves); // the drawer has lived through it
}

TEST_CASE("what a project has chosen is forgotten when another opens", "[app][session]") {
    Window w;
    w.stage("stage-join");
    w.session().setMaterial(w.session().project().materials.back()->id);
    w.session().setTiles({w.session().project().sheets.front()->tiles.front().id});
    w.session().setProp(7);
    w.activate("Pans");
    w.session().setSelection(level::Region(Box{3, 3, 4, 4}));
    w.session().setAlone(w.session().activeLayerId(), true);
    const level::SheetId last = w.session().project().sheets.back()->id;
    w.session().setSheet(last);

    // A copy: every id of the old one is one of the new one as well.
    std::filesystem::copy(demo(), w.folder.path() / "other", std::filesystem::copy_options::recursive);
    REQUIRE(w.window->openProject(QString::fromStdString((w.folder.path() / "other").string())));
    settle();
    CHECK(w.session().selection().empty());
    CHECK_FALSE(w.session().anyAlone());
    CHECK(w.session().tiles().empty());
    CHECK(w.session().prop() == 0);
    CHECK(w.session().hand().is<edit::held::Nothing>());
    CHECK(w.session().lastHands().empty());
    CHECK(w.session().materialId() == w.session().project().materials.front()->id);
    CHECK(w.session().sheetId() == w.session().project().sheets.front()->id);
}

TEST_CASE("a job hands its result back, one that is stopped does not, and what it throws is told", "[app][jobs]") {
    QObject owner;
    Jobs jobs(&owner);
    int got = 0;
    QString trouble;
    const auto told = [&](const std::exception& e) { trouble = e.what(); };
    jobs.start<int>(
        "a", "first",
        [](Jobs::Progress& p) {
            p.tell(0.5);
            return 7;
        },
        [&](int& v) { got = v; }, told);
    CHECK(jobs.running("a"));
    CHECK(jobs.busy());
    CHECK(jobs.state().name == "first");
    REQUIRE_SOON(got == 7);
    CHECK_FALSE(jobs.busy());

    std::atomic<bool> goes{false};
    jobs.start<int>(
        "b", "second",
        [&](Jobs::Progress& p) {
            goes = true;
            while (!p.stopped()) std::this_thread::yield();
            return 8;
        },
        [&](int& v) { got = v; }, told);
    REQUIRE_SOON(goes);
    jobs.stopNamed();
    CHECK_FALSE(jobs.running("b"));

    // Of one kind the latest counts.
    for (const int n : {20, 21, 22})
        jobs.start<int>(
            "c", {}, [n](Jobs::Progress&) { return n; }, [&](int& v) { got = v; }, told);
    REQUIRE_SOON(got == 22);

    jobs.start<int>(
        "d", {}, [](Jobs::Progress&) -> int { throw std::bad_alloc(); }, [&](int& v) { got = v; }, told);
    REQUIRE_SOON(!trouble.isEmpty());
    CHECK(got == 22);
}

TEST_CASE("readings that were stopped are said to be that, and are taken up again by a click", "[app][jobs]") {
    Window w;
    Session* session = &w.session();
    const auto shown = [&](const char* name) {
        const auto* found = w.window->findChild<QWidget*>(name);
        return found && found->isVisible();
    };
    // The cut of a picture, read when it is looked at first.
    w.reopen();
    session = &w.session();
    session->setStage(Stage::cut);
    REQUIRE(session->jobs().busy());
    session->jobs().stopNamed();
    settle();
    CHECK_FALSE(shown("reading-0"));
    w.click("readCut");
    CHECK(shown("reading-0"));
    CHECK_FALSE(shown("readCut"));
    // Its islands.
    w.find<QToolButton>("modeIslands")->click(); // does not wait, as a click of the test's window would
    REQUIRE(session->jobs().busy());
    session->jobs().stopNamed();
    settle();
    CHECK(w.find<QLabel>("islandCount")->text() == "the search was stopped");
    w.click("takeIslands");
    CHECK(w.find<QLabel>("islandCount")->text().contains("island"));
    // Its joins.
    session->setStage(Stage::join);
    REQUIRE(session->jobs().busy());
    session->jobs().stopNamed();
    settle();
    CHECK(w.find<QLabel>("casesAside")->text().endsWith("doubts not known: stopped"));
    w.click("nextDoubtfulButton");
    CHECK(w.find<QLabel>("casesAside")->text().endsWith("doubtful"));
}

TEST_CASE("where levels are very large, cells are joined anew while one goes on working", "[app][jobs][join]") {
    Window w;
    level::Project next = w.session().project();
    level::Level large = w.level();
    const Size size{4096, 2100};
    for (const level::LayerRef& layer : std::vector(large.layers))
        if (layer->tiles()) {
            level::Grid& grid = large.edit(layer->id).grid();
            grid = grid.resized(size);
        }
    next.put(large);
    w.session().apply("Large", std::move(next));
    const auto id = w.session().materialId();
    const auto weights = [&](const level::Project& p) { return p.material(id)->joins.accepted.size(); };
    const auto before = weights(w.session().project());
    int told = 0;
    const auto accept = [&](level::TileId tile) {
        w.session().applyJoined({"Accept",
                                 [id, tile](level::Project p) {
                                     return edit::change_set(std::move(p), id, [tile](level::JoinSet& set) {
                                         set.accepted.push_back(tile);
                                     });
                                 },
                                 {},
                                 [&told] { ++told; }});
    };
    // Two in a row, and a stroke between them: all three are there in the end.
    accept(1000001);
    CHECK(w.session().jobs().running("joined"));
    CHECK(weights(w.session().project()) == before);
    accept(1000002);
    level::Project named = w.session().project();
    named.name = "Named meanwhile";
    w.session().apply("Name", std::move(named));
    REQUIRE_SOON(told == 2);
    CHECK(weights(w.session().project()) == before + 2);
    CHECK(w.session().project().name == "Named meanwhile");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(weights(w.session().project()) == before + 1);
    // One that is stopped has changed nothing, and does not come back with the next.
    accept(1000003);
    w.session().jobs().stopNamed();
    accept(1000004);
    REQUIRE_SOON(told == 3);
    CHECK(weights(w.session().project()) == before + 2);
    CHECK(w.session().project().material(id)->joins.accepted.back() == 1000004);
}

TEST_CASE("closing the window during a build leaves whole parcels or none", "[app][jobs]") {
    Window w;
    const auto built = w.folder.path() / "pell/built";
    w.stage("stage-hand-over");
    auto* page = w.window->findChild<HandOverPage*>();
    page->build();
    CHECK(page->building());
    w.window.reset();
    int whole = 0;
    if (std::filesystem::exists(built))
        for (const auto& entry : std::filesystem::directory_iterator(built)) {
            INFO(entry.path());
            CHECK_NOTHROW(vicinum::load(entry.path()));
            ++whole;
        }
    CHECK(whole <= 4);
}

TEST_CASE("whatever an event handler throws ends in a message, and the document is as it was", "[app][errors]") {
    Window w;
    const auto state = w.session().document().state();
    const auto thrown = [&](const std::function<void()>& what) {
        QTimer::singleShot(0, w.window.get(), what);
        settle();
        return w.notice();
    };
    CHECK(thrown([] {
              throw std::filesystem::filesystem_error("x", "/there/file",
                                                      std::make_error_code(std::errc::no_space_on_device));
          }).contains("/there/file"));
    CHECK(thrown([] { throw std::bad_alloc(); }).contains("not enough memory"));
    CHECK(thrown([] { throw std::logic_error("unforeseen"); }).contains("unforeseen"));
    CHECK(thrown([] { throw InputError("Odd", "/a/b", "line 3", "Mend it"); }).contains("line 3"));
    CHECK(w.session().document().state() == state);
    // The window goes on.
    w.activate("Pans");
    w.pickMaterial("Brine");
    w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16));
    w.clickCell({32, 9});
    CHECK(w.session().document().state() != state);
}

TEST_CASE("side panels are widened, and come back as wide", "[app][window]") {
    Window w;
    auto* panels = w.find<QSplitter>("panels");
    auto* left = w.find<QWidget>("leftPanels");
    auto* right = w.find<QWidget>("rightPanels");
    const auto drag = [&](int handle, int by) {
        QWidget* h = panels->handle(handle);
        const QPoint from = h->rect().center();
        QTest::mousePress(h, Qt::LeftButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, QPointF(from + QPoint(by, 0)),
                         h->mapToGlobal(QPointF(from + QPoint(by, 0))), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(h, &move);
        QTest::mouseRelease(h, Qt::LeftButton, {}, from);
        settle();
    };
    const int leftBefore = left->width();
    const int rightBefore = right->width();
    drag(1, 90);
    drag(2, -120);
    CHECK(left->width() == Approx(leftBefore + 90).margin(3));
    CHECK(right->width() == Approx(rightBefore + 120).margin(3));
    w.restart();
    CHECK(w.find<QWidget>("leftPanels")->width() == Approx(leftBefore + 90).margin(3));
    CHECK(w.find<QWidget>("rightPanels")->width() == Approx(rightBefore + 120).margin(3));
}

TEST_CASE("at first a level fills the view, or is seen whole in its middle", "[app][view]") {
    Window w;
    for (const auto& l : w.session().project().levels) {
        w.session().setLevel(l->id);
        settle();
        INFO(l->name);
        const Box px = w.level().pixels();
        const double zoom = w.view()->zoom();
        const QSizeF seen =
            QSizeF(w.view()->width() - LevelView::kRuler, w.view()->height() - LevelView::kRuler) / zoom;
        const QPointF middle = w.view()->centre();
        if (w.level().lattice != LatticeKind::square) continue; // its corners are empty anyway
        const auto fills = [](double at, double from, double length, double size) {
            if (length <= size) return std::abs(at - from - length / 2) < 2;
            return at - size / 2 >= from - 1 && at + size / 2 <= from + length + 1;
        };
        CHECK(fills(middle.x(), px.x, px.w, seen.width()));
        CHECK(fills(middle.y(), px.y, px.h, seen.height()));
    }
}

TEST_CASE("what is counted is said in the singular where it is one", "[app][cut]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets.front()->id);
    w.session().setTiles({w.session().sheet()->tiles.front().id});
    settle();
    w.click("pourTake");
    CHECK(w.reading().contains("One tile is the source now"));
    w.session().setTiles({w.session().sheet()->tiles[1].id});
    settle();
    w.click("pourOnto");
    CHECK(w.session().document().undo_name() == "Pour onto one tile");
}

TEST_CASE("every label of the side panels lies in a layout", "[app][window]") {
    Window w;
    for (const char* stage : {"stage-cut", "stage-join", "stage-lay", "stage-bound"}) {
        w.stage(stage);
        int labels = 0;
        for (const char* side : {"leftPanels", "rightPanels"})
            for (const QLabel* label : w.find<QWidget>(side)->findChildren<QLabel*>()) {
                if (!label->isVisible()) continue;
                ++labels;
                INFO(stage << ": " << label->text().toStdString());
                CHECK(label->geometry() != QRect(0, 0, 100, 30)); // where one lies that nobody has laid out
            }
        CHECK(labels > 3);
    }
}

TEST_CASE("in the narrowest window nothing in the row of tools is cut off", "[app][window]") {
    Window w(true, {1024, 700});
    for (const char* tool : {"toolPencil", "toolSelect", "toolFill", "toolRectangle"}) {
        w.click(tool);
        if (QLatin1String(tool) == "toolSelect") w.session().setSelection(level::Region(Box{1, 1, 3, 3}));
        settle();
        for (const QLabel* label : w.find<QWidget>("toolRow")->findChildren<QLabel*>()) {
            if (!label->isVisible()) continue;
            INFO(tool << ": " << label->text().toStdString());
            CHECK(label->width() >= label->sizeHint().width());
            CHECK(label->geometry().right() <= label->parentWidget()->width());
        }
    }
}

TEST_CASE("the panels of tiles, of the Hand and of Walk show what the document says after undo", "[app][binding]") {
    Window w;
    w.stage("stage-cut");
    const level::Tile tile = w.session().sheet()->tiles.front();
    w.session().setTiles({tile.id});
    settle();
    type(w.find<QSpinBox>("tileChance"), "37");
    settle();
    write(w.find<QLineEdit>("tileName"), "Corner post");
    CHECK(level::TileTable(w.session().project()).find(tile.id).tile->chance == 37);
    CHECK(level::TileTable(w.session().project()).find(tile.id).tile->name == "Corner post");
    w.window->setFocus();
    for (int i = 0; i < 2; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QSpinBox>("tileChance")->value() == tile.chance);
    CHECK(w.find<QLineEdit>("tileName")->text().toStdString() == tile.name);

    w.stage("stage-lay");
    w.pickMaterial("Clay");
    const QString home = w.find<QComboBox>("handHome")->currentText();
    w.choose("handHome", "Marsh");
    CHECK(edit::home_of(w.session().project(), w.level(), w.session().hand()) == w.layer("Marsh").id);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QComboBox>("handHome")->currentText() == home);

    w.stage("stage-walk");
    const level::Walker walker = w.level().walker;
    auto* speed = w.find<QDoubleSpinBox>("walkerSpeed");
    speed->setFocus();
    speed->selectAll();
    QTest::keyClicks(speed, "7.25");
    QTest::keyClick(speed, Qt::Key_Return);
    settle();
    CHECK(w.level().walker.speed == 7.25);
    CHECK(w.level().walker.width == walker.width); // only what was typed has changed
    w.window->setFocus();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().walker == walker);
    CHECK(speed->value() == walker.speed);
}
