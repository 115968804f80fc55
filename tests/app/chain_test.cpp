// The whole way, with mouse and keys: a picture dropped on the window becomes tiles, a material, a painted level,
// outlines, a walk, a parcel, and all of it is there again after a restart.
#include "app/window.hpp"

#include <QLabel>
#include <QLocale>
#include <QPointF>
#include <QProcess>
#include <QSpinBox>

#include "app/hand_over/hand_over_page.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/workline.hpp"
#include "base/files.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "outline/rectangles.hpp"
#include "outline/trace.hpp"
#include "player/parcel_view.hpp"
#include "sheet/cut.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

TEST_CASE("from a dropped picture to a level that an engine loads", "[app][chain]") {
    Window w;
    const auto sheets = w.session().project().sheets.size();

    // Drop: the sheet is there with the cut as read, waiting.
    w.drop(QString::fromStdString((w.folder.path() / "pell/to-add/gravel.png").string()));
    REQUIRE(w.session().project().sheets.size() == sheets + 1);
    CHECK(w.session().stage() == Stage::cut);
    const level::Sheet* sheet = w.session().sheet();
    CHECK(sheet->name == "gravel");
    CHECK_FALSE(sheet->accepted);
    CHECK(sheet->cut.tile == Size{16, 16});
    CHECK(sheet->cut.spacing == Point{1, 1});
    CHECK(w.reading().contains("Enter takes"));
    CHECK(w.find<StageButton>("stage-cut")->mark() == StageMark::look);

    // Enter takes the proposal.
    w.key(Qt::Key_Return);
    CHECK(w.session().sheet()->accepted);
    CHECK(w.find<StageButton>("stage-cut")->mark() == StageMark::complete);

    // Its tiles are to block: drag over all of them, then one click.
    auto* sheetView = w.find<SheetView>("sheetView");
    QTest::mousePress(sheetView, Qt::LeftButton, {}, QPoint(3, 3));
    QTest::mouseMove(sheetView, QPoint(sheetView->width() - 4, sheetView->height() - 4));
    QTest::mouseRelease(sheetView, Qt::LeftButton, {}, QPoint(sheetView->width() - 4, sheetView->height() - 4));
    CHECK(w.session().tiles().size() == 52);
    w.click("shape-1");
    CHECK(w.session().sheet()->tiles[10].shape == level::TileShape::full);

    // One click reads the joins.
    w.click("readJoins");
    CHECK(w.session().stage() == Stage::join);
    REQUIRE(w.session().material());
    CHECK(w.session().material()->name == "Gravel");
    CHECK(join::coverage(w.session().material()->joins).have == 47);
    CHECK(w.find<StageButton>("stage-join")->state() == "all joined");

    // Paint: the Hand holds the material already. An L of strokes and a box; every edge fits by itself.
    w.stage("stage-lay");
    REQUIRE(w.session().hand().is<edit::held::Material>());
    w.activate("Pans");
    w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16));
    const auto steps = w.session().document().undo_name();
    w.dragCells({{22, 15}, {22, 16}, {32, 16}});
    w.click("toolRectangle");
    w.dragCells({{32, 15}, {33, 16}});
    const level::Grid& grid = w.layer("Pans").grid();
    const level::MaterialId gravel = w.session().material()->id;
    CHECK(grid.material({22, 15}) == gravel);
    CHECK(grid.material({27, 16}) == gravel);
    CHECK(grid.material({33, 15}) == gravel);
    const level::Material& m = *w.session().material();
    int painted = 0;
    level::each_cell(grid, w.level().cells(), [&](Point at, level::Cell cell, level::MaterialId id) {
        if (id != gravel) return;
        ++painted;
        const auto mask = join::canonical(join::neighbourhood(grid, at, true), level::JoinKind::full);
        bool serves = false;
        for (const auto& v : m.joins.cases.at(mask)) serves = serves || v.tile == cell.tile();
        CHECK(serves);
    });
    CHECK(painted == 15);

    // Bound: outlines grew, and the panel says so.
    w.stage("stage-bound");
    const int shapes = QLocale().toInt(w.find<QLabel>("shapesIn")->text());
    const level::TileTable tiles(w.session().project());
    const level::PropKinds kinds(w.session().project());
    const outline::Trace trace = outline::trace(w.level(), {tiles, kinds});
    int corners = 0;
    for (const outline::Outline& o : outline::outlines(trace)) corners += static_cast<int>(o.points.size());
    const auto boxes = outline::fewest_rectangles(w.level().size, outline::full_cells(w.level(), {tiles, kinds}));
    CHECK(shapes == trace.shape_count());
    CHECK(QLocale().toInt(w.find<QLabel>("outlinesOut")->text()) == static_cast<int>(outline::outlines(trace).size()));
    CHECK(QLocale().toInt(w.find<QLabel>("cornersOut")->text()) == corners);
    CHECK(QLocale().toInt(w.find<QLabel>("rectanglesOut")->text()) == static_cast<int>(boxes.size()));
    CHECK(w.find<StageButton>("stage-bound")->state() == w.find<QLabel>("outlinesOut")->text() + " outlines");

    // Walk to the right along the boardwalk with the arrow key, then back to work.
    w.stage("stage-walk");
    auto* walk = w.find<player::ParcelView>("parcelView");
    REQUIRE(walk->isLoaded());
    const double from = walk->world().foot().x;
    QTest::keyPress(walk, Qt::Key_Right);
    REQUIRE_SOON(walk->world().foot().x > from + 1.5);
    QTest::keyRelease(walk, Qt::Key_Right);
    QTest::keyClick(walk, Qt::Key_Escape);
    CHECK(w.session().stage() == Stage::bound);
    CHECK(w.find<StageButton>("stage-walk")->state() == "tried");

    // Build, and load what was built.
    w.key(Qt::Key_B, Qt::ControlModifier);
    CHECK(w.session().stage() == Stage::handOver);
    auto* page = w.window->findChild<HandOverPage*>();
    REQUIRE(QTest::qWaitFor([&] { return !page->building(); }, 20000));
    const auto built = w.folder.path() / "pell/built/brine-pans";
    const vicinum::Level parcel = vicinum::load(built);
    bool found = false;
    for (const vicinum::Layer& layer : parcel.layers)
        if (layer.name == "Pans") found = !layer.cell(27, 16).empty();
    CHECK(found);
    QProcess player;
    player.start(PLAYER, {QString::fromStdString(built.string())});
    REQUIRE(player.waitForStarted());
    CHECK_FALSE(player.waitForFinished(700)); // it shows the level and goes on
    player.kill();
    player.waitForFinished();

    // Save, quit, start: all is there.
    w.key(Qt::Key_S, Qt::ControlModifier);
    CHECK_FALSE(w.session().document().unsaved());
    w.stage("stage-lay");
    const level::Grid before = w.layer("Pans").grid();
    w.restart();
    CHECK(w.session().project().sheets.size() == sheets + 1);
    CHECK(w.layer("Pans").grid() == before);
    CHECK(w.session().stage() == Stage::lay);
    CHECK(w.view()->zoom() == 2);
    CHECK(w.session().activeLayer()->name == "Pans");
}

TEST_CASE("a first level in an empty project", "[app][chain]") {
    Window w(false);
    level::Project fresh;
    fresh.name = "Fresh";
    fresh.put(level::make_level(fresh, "First", {40, 30}, {16, 16}, level::View::from_above));
    make::save_with_pictures(fresh, w.folder.path() / "pell");
    REQUIRE(w.window->openProject(QString::fromStdString((w.folder.path() / "pell").string())));
    CHECK(w.find<StageButton>("stage-cut")->state() == "no sheets");
    CHECK(w.find<StageButton>("stage-cut")->mark() == StageMark::none);
    // Drop, Enter, M: three actions from an unknown picture to the Hand; the fourth paints.
    w.drop(QString::fromStdString((demo() / "sheets/brine.png").string()));
    w.key(Qt::Key_Return);
    w.key(Qt::Key_M);
    CHECK(w.session().stage() == Stage::join);
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.clickCell({20, 15});
    CHECK(w.level().layers[0]->grid().count() == 1);
}
