#include "app/window.hpp"

#include <QAbstractButton>
#include <QCheckBox>
#include <QColor>
#include <QDoubleSpinBox>
#include <QEvent>
#include <QImage>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QMouseEvent>
#include <QObject>
#include <QPalette>
#include <QPointF>
#include <QRect>
#include <QSlider>
#include <QSpinBox>
#include <QStringList>

#include "app/join/proof_view.hpp"
#include "app/parts/card_list.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/workline.hpp"
#include "base/files.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "level/cell.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "player/parcel_view.hpp"
#include "player/watch.hpp"
#include "sheet/png.hpp"
#include "walk/world.hpp"

using namespace app_test;

TEST_CASE("the workline tells the state of every stage and switches", "[app][window]") {
    Window w;
    CHECK(w.find<StageButton>("stage-cut")->state() == "21 sheets");
    CHECK(w.find<StageButton>("stage-lay")->state() == "8 layers");
    CHECK(w.find<StageButton>("stage-walk")->state() == "not tried");
    static const char* ids[] = {"stage-cut",   "stage-join", "stage-lay",      "stage-dress",
                                "stage-bound", "stage-walk", "stage-hand-over"};
    for (int i = 0; i < 7; ++i) {
        w.click(ids[i]);
        CHECK(static_cast<int>(w.session().stage()) == i);
    }
    for (int i = 0; i < 7; ++i) {
        w.key(Qt::Key_1 + i, Qt::ControlModifier);
        CHECK(static_cast<int>(w.session().stage()) == i);
    }
    REQUIRE(QTest::qWaitFor([&] { return w.find<StageButton>("stage-hand-over")->state() == "no findings"; }, 3000));
}

TEST_CASE("every control that takes the mouse has a name for those who cannot see it", "[app][window]") {
    Window w;
    for (const char* id :
         {"stage-cut", "stage-join", "stage-lay", "stage-dress", "stage-bound", "stage-walk", "stage-hand-over"}) {
        w.click(id);
        for (auto* b : w.window->findChildren<QAbstractButton*>()) {
            if (!b->isVisible()) continue;
            INFO(id << " " << b->objectName().toStdString());
            CHECK_FALSE((b->accessibleName().isEmpty() && b->text().isEmpty()));
        }
        // Nothing sticks out of the window, and nothing is squeezed to nothing.
        for (auto* c : w.window->centralWidget()->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) {
            if (c->isVisible()) CHECK(w.window->centralWidget()->rect().contains(c->geometry()));
        }
    }
}

TEST_CASE("the window holds at its smallest and at a large size", "[app][window]") {
    for (const QSize size : {QSize(1024, 700), QSize(1500, 1000)}) {
        Window w(true, size);
        CHECK(w.window->size() == size);
        for (const char* id : {"stage-cut", "stage-join", "stage-lay"}) {
            w.click(id);
            CHECK(w.window->size() == size);
            for (const char* other : {"undo", "redo", "find", "stage-hand-over"}) {
                auto* widget = w.find<QWidget>(other);
                CHECK(w.window->rect().contains(QRect(widget->mapTo(w.window.get(), QPoint()), widget->size())));
            }
        }
    }
}

TEST_CASE("layers are renamed, hidden, faded and reordered in the Section", "[app][section]") {
    Window w;
    w.activate("Marsh");
    auto* name = w.find<QLineEdit>("layerName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Reed bed");
    QTest::keyClick(name, Qt::Key_Return);
    settle();
    CHECK(w.session().activeLayer()->name == "Reed bed");
    auto* opacity = w.find<QSlider>("layerOpacity");
    opacity->setFocus();
    for (int i = 0; i < 10; ++i) QTest::keyClick(opacity, Qt::Key_Left);
    CHECK(w.session().activeLayer()->opacity < 100);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().activeLayer()->opacity == 100); // ten steps of one slider are one step
    w.click("layerSolid");
    settle();
    CHECK(w.session().activeLayer()->solid());

    // Drag the marsh to the very front, over the walker's plane.
    auto* slab = w.find<QWidget>(("slab-" + std::to_string(w.session().activeLayerId())).c_str());
    auto* top = w.find<QWidget>(("slab-" + std::to_string(w.layer("Reeds and gulls").id)).c_str());
    const QPoint target = slab->mapFromGlobal(top->mapToGlobal(QPoint(30, 10)));
    QTest::mousePress(slab, Qt::LeftButton, {}, QPoint(30, 20));
    for (const QPoint at : {QPoint(30, 10), QPoint(30, -30), target}) {
        QMouseEvent move(QEvent::MouseMove, QPointF(at), slab->mapToGlobal(QPointF(at)), Qt::NoButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(slab, &move);
    }
    QTest::mouseRelease(slab, Qt::LeftButton, {}, target);
    settle();
    CHECK(w.level().layers.back()->name == "Reed bed");
    CHECK(w.level().plane == 6);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().plane == 7);
    CHECK(w.level().layers.back()->name == "Reeds and gulls");
}

TEST_CASE("the walker's plane itself can be carried by keys", "[app][section]") {
    Window w;
    auto* plane = w.find<QWidget>("slab-walker");
    plane->setFocus();
    QTest::keyClick(plane, Qt::Key_Up, Qt::AltModifier);
    settle();
    CHECK(w.level().plane == 8);
}

TEST_CASE("layers are added in front of the active one and removed", "[app][section]") {
    Window w;
    w.activate("Clay");
    w.click("addLayer");
    settle();
    auto* menu = w.window->findChild<QMenu*>("addLayerMenu");
    REQUIRE(menu);
    QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(menu->actions()[0]).center());
    settle();
    CHECK(w.level().layers.size() == 9);
    CHECK(w.level().layers[2]->id == w.session().activeLayerId());
    CHECK(w.level().plane == 8);
    w.click("layerRemove");
    settle();
    CHECK(w.level().layers.size() == 8);
}

TEST_CASE("a cut is set by hand, and a wrong one is refused on the spot", "[app][cut]") {
    Window w;
    w.drop(QString::fromStdString((w.folder.path() / "pell/to-add/gravel.png").string()));
    auto* width = w.find<QSpinBox>("tileWidth");
    width->setFocus();
    width->selectAll();
    QTest::keyClicks(width, "33");
    QTest::keyClick(width, Qt::Key_Return);
    CHECK(w.session().sheet()->cut.tile.w == 33);
    CHECK(w.session().sheet()->tiles.size() == 4 * 7);
    width->setFocus();
    width->selectAll();
    QTest::keyClicks(width, "900");
    QTest::keyClick(width, Qt::Key_Return);
    settle();
    CHECK(w.find<QLabel>("cutTrouble")->text().contains("does not fit"));
    CHECK(w.session().sheet()->cut.tile.w == 33);
    w.click("reading-0");
    CHECK(w.session().sheet()->cut.tile.w == 16);
    CHECK(w.session().sheet()->accepted);
}

TEST_CASE("tiles are chosen and described, several at once", "[app][cut]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[6]->id); // the cellar wall: 4 x 2 tiles
    auto* view = w.find<SheetView>("sheetView");
    w.clickAt(view, view->tileCentre(1));
    w.clickAt(view, view->tileCentre(2), Qt::LeftButton, Qt::ControlModifier);
    REQUIRE(w.session().tiles().size() == 2);
    w.click("shape-3");
    auto* name = w.find<QLineEdit>("tileName");
    name->setFocus();
    QTest::keyClicks(name, "Ledge");
    QTest::keyClick(name, Qt::Key_Return);
    auto* chance = w.find<QSpinBox>("tileChance");
    chance->setFocus();
    chance->selectAll();
    QTest::keyClicks(chance, "25");
    QTest::keyClick(chance, Qt::Key_Return);
    for (const std::size_t i : {1U, 2U}) {
        const level::Tile& t = w.session().sheet()->tiles[i];
        CHECK(t.shape == level::TileShape::slope_se);
        CHECK(t.name == "Ledge");
        CHECK(t.chance == 25);
    }
    CHECK(w.session().sheet()->tiles[0].name.empty());
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet()->tiles[1].shape == level::TileShape::none);
}

TEST_CASE("a prop is cut with Shift, placed, moved and removed", "[app][dress]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[11]->id);
    auto* view = w.find<SheetView>("sheetView");
    const auto kinds = w.session().project().prop_kinds.size();
    QTest::mousePress(view, Qt::LeftButton, Qt::ShiftModifier, view->rect().center() - QPoint(120, 60));
    QTest::mouseRelease(view, Qt::LeftButton, Qt::ShiftModifier, view->rect().center());
    REQUIRE(w.session().project().prop_kinds.size() == kinds + 1);

    w.stage("stage-dress");
    w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16));
    auto* tray = w.find<QListView>("propTray");
    REQUIRE(tray->isVisible());
    w.clickRow(tray, "Crate");
    REQUIRE(w.session().hand().is<edit::held::Prop>());
    const int before = edit::prop_count(w.level());
    w.clickCell({28, 16});
    REQUIRE(edit::prop_count(w.level()) == before + 1);
    const level::Prop placed = w.layer("Props").props().all().back();
    CHECK(placed.at == edit::snapped(w.level(), {28 * 16 + 4, 16 * 16 + 4}));
    CHECK(w.session().document().undo_name() == "Place Crate");
    w.view()->setFocus();
    w.key(Qt::Key_Escape);
    w.dragCells({{28, 16}, {29, 17}, {30, 18}});
    CHECK(w.layer("Props").props().all().back().at == placed.at + Point{32, 32});
    w.clickCell({30, 18}, Qt::RightButton);
    CHECK(edit::prop_count(w.level()) == before);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.clickCell({30, 18});
    CHECK(w.session().prop() == placed.id);
    w.key(Qt::Key_Delete);
    CHECK(edit::prop_count(w.level()) == before);
}

TEST_CASE("marks are placed, dragged and removed; a level has one start", "[app][dress]") {
    Window w;
    w.stage("stage-dress");
    w.view()->setCamera(2, QPointF(30.0 * 16, 15.0 * 16));
    w.click("toolStart");
    w.clickCell({30, 15});
    int starts = 0;
    for (const auto& m : w.level().marks) starts += m.kind == level::MarkKind::start;
    CHECK(starts == 1);
    CHECK(w.level().first_mark(level::MarkKind::start)->cells.corner() == Point{30, 15});
    w.dragCells({{30, 15}, {31, 15}, {32, 16}});
    CHECK(w.level().first_mark(level::MarkKind::start)->cells.corner() == Point{32, 16});
    w.clickCell({32, 16}, Qt::RightButton);
    CHECK(w.level().first_mark(level::MarkKind::start) == nullptr);
    REQUIRE(QTest::qWaitFor([&] { return w.find<StageButton>("stage-hand-over")->state() == "1 finding"; }, 3000));
}

TEST_CASE("a wrong case is mended through the proof", "[app][join]") {
    Window w;
    w.stage("stage-join");
    auto* list = w.find<CardList>("materialList");
    w.clickAt(list->viewport(), list->cardCentre(2));
    REQUIRE(w.session().material()->name == "Brine");
    auto* proof = w.find<ProofView>("proof");
    const join::Mask mask = 255 & ~join::kNE;
    const Point cell = proof->firstCell(mask);
    REQUIRE(cell.x >= 0);
    w.clickAt(proof, proof->cellCentre(cell));
    CHECK(w.session().joinCase() == mask);
    // Serve the case with another tile: the levels follow.
    auto* sheet = w.find<SheetView>("joinSheetView");
    const level::TileId was = w.session().material()->joins.cases.at(mask).front().tile;
    w.clickAt(sheet, sheet->tileCentre(0));
    CHECK(w.session().material()->joins.cases.at(mask).front().tile == w.session().project().sheets[1]->tiles[0].id);
    w.clickAt(sheet, sheet->tileCentre(1), Qt::LeftButton, Qt::ControlModifier);
    CHECK(w.session().material()->joins.cases.at(mask).size() == 2);
    w.click("readAgain");
    REQUIRE(w.session().material()->joins.cases.at(mask).size() == 1);
    CHECK(w.session().material()->joins.cases.at(mask).front().tile == was);
    // A case without a tile: Ctrl+click takes the last one away, N finds it.
    std::size_t index = 0;
    for (std::size_t i = 0; i < w.session().project().sheets[1]->tiles.size(); ++i)
        if (w.session().project().sheets[1]->tiles[i].id == was) index = i;
    w.clickAt(sheet, sheet->tileCentre(index), Qt::LeftButton, Qt::ControlModifier);
    CHECK(w.find<StageButton>("stage-join")->state() == "46 of 47");
    CHECK(w.find<StageButton>("stage-join")->mark() == StageMark::look);
    w.session().setCase(0);
    w.key(Qt::Key_N);
    CHECK(w.session().joinCase() == mask);
}

TEST_CASE("the walker's size is set while walking, and Esc returns", "[app][walk]") {
    Window w;
    w.session().setLevel("pump-cellar");
    w.stage("stage-walk");
    auto* walk = w.find<player::ParcelView>("parcelView");
    REQUIRE(walk->isLoaded());
    CHECK(walk->level().from_the_side);
    auto* jump = w.find<QDoubleSpinBox>("walkerJump");
    jump->setFocus();
    jump->selectAll();
    QTest::keyClicks(jump, "5");
    QTest::keyClick(jump, Qt::Key_Return);
    settle();
    CHECK(w.level().walker.jump == 5);
    CHECK(walk->level().walker.jump == 5); // built anew and read back
    walk->setFocus();
    QTest::keyPress(walk, Qt::Key_Space);
    double top = 99;
    const auto jumpsHigh = [&] {
        top = std::min(top, walk->world().foot().y);
        return top < 16;
    };
    REQUIRE_SOON(jumpsHigh());
    QTest::keyRelease(walk, Qt::Key_Space);
    QTest::keyClick(walk, Qt::Key_Escape);
    CHECK(w.session().stage() == Stage::lay);
}

TEST_CASE("what cannot be opened or added is said in the window, and nothing changes", "[app][errors]") {
    Window w;
    const auto state = w.session().document().state();
    const auto files = make::contents(w.folder.path() / "pell");
    const auto bad = [&](const std::string& name, const std::string& bytes) {
        write_file(w.folder.path() / name, bytes);
        w.drop(QString::fromStdString((w.folder.path() / name).string()));
        INFO(name);
        CHECK(w.notice().contains(QString::fromStdString(name)));
        CHECK(w.session().document().state() == state);
    };
    const std::string good = sheet::encode_png(make::tile(255, 32, make::Style::textured, 1));
    bad("words.png", "these are words");
    bad("empty.png", "");
    bad("cut-off.png", good.substr(0, good.size() / 2));
    std::string huge = good;
    huge.replace(16, 8, std::string("\0\0\xEA\x60\0\0\xEA\x60", 8));
    bad("huge.png", huge);
    w.click("noticeClose");
    CHECK(w.notice().isEmpty());
    CHECK(make::contents(w.folder.path() / "pell") == files);
    // A broken project: the open one stays.
    std::filesystem::create_directories(w.folder.path() / "broken");
    write_file(w.folder.path() / "broken/project.json", "{\"format\": \"vicinum-project\", \"version\": 99}");
    w.drop(QString::fromStdString((w.folder.path() / "broken").string()));
    CHECK(w.notice().contains("newer Vicinum"));
    CHECK(w.session().document().state() == state);
    // One pixel is a picture too: one tile, and no claim of a lattice.
    write_file(w.folder.path() / "dot.png", sheet::encode_png(Image({1, 1}, {9, 9, 9, 255})));
    w.drop(QString::fromStdString((w.folder.path() / "dot.png").string()));
    CHECK(w.session().sheet()->tiles.size() == 1);
    CHECK(w.notice().isEmpty());
}

TEST_CASE("Find goes to anything by name", "[app][find]") {
    Window w;
    const auto find = [&](const char* text) {
        w.key(Qt::Key_K, Qt::ControlModifier);
        auto* field = w.find<QLineEdit>("finderField");
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        settle();
    };
    find("creek material");
    REQUIRE(w.session().hand().is<edit::held::Material>());
    CHECK(w.session().project().material(w.session().hand().material())->name == "Creek");
    find("pump cellar level");
    CHECK(w.session().level()->id == "pump-cellar");
    find("slope up");
    CHECK(w.session().stage() == Stage::cut);
    CHECK(w.session().tiles().size() == 1);
    find("go to bound");
    CHECK(w.session().stage() == Stage::bound);
}

TEST_CASE("the list of keys names every command that has one", "[app][find]") {
    Window w;
    w.key(Qt::Key_F1, Qt::ShiftModifier);
    auto* list = w.window->findChild<QWidget*>("keyList");
    REQUIRE(list);
    QStringList texts;
    for (auto* l : list->findChildren<QLabel*>()) texts << l->text();
    for (const char* wanted : {"Pencil", "Undo", "Quiet view", "Build all levels", "Next missing case", "Find"})
        CHECK(texts.contains(wanted));
    list->close();
}

TEST_CASE("the look is switched and remembered", "[app][window]") {
    Window w;
    CHECK(QApplication::palette().color(QPalette::Window).lightness() > 128);
    w.key(Qt::Key_D, Qt::ControlModifier);
    CHECK(QApplication::palette().color(QPalette::Window).lightness() < 128);
    w.restart();
    CHECK(QApplication::palette().color(QPalette::Window).lightness() < 128);
    w.key(Qt::Key_D, Qt::ControlModifier);
    CHECK(QApplication::palette().color(QPalette::Window).lightness() > 128);
}

TEST_CASE("the player takes over a rebuilt parcel within a second", "[app][player]") {
    make::Folder dir;
    make::Small small;
    parcel::build(small.project, small.level(), dir / "p");
    player::ParcelView view;
    player::Watch watch(QString::fromStdString((dir / "p").string()));
    view.load(QString::fromStdString((dir / "p").string()), false);
    QObject::connect(&watch, &player::Watch::rebuilt, &view,
                     [&] { view.load(QString::fromStdString((dir / "p").string()), true); });
    CHECK(view.level().name == "Place");
    level::Level level = small.level();
    level.name = "Changed";
    small.set(level);
    parcel::build(small.project, small.level(), dir / "p");
    CHECK(QTest::qWaitFor([&] { return view.level().name == "Changed"; }, 1000));
    // A broken one leaves what is shown.
    write_file(dir / "p/level.json", "{}");
    CHECK_THROWS(view.load(QString::fromStdString((dir / "p").string()), true));
    CHECK(view.level().name == "Changed");
}

TEST_CASE("the player shows the same pixels as the level view", "[app][player]") {
    Window w;
    const level::Level& level = w.level();
    const Image wanted = picture::render(w.session().project(), level, 1);
    make::Folder dir;
    parcel::build(w.session().project(), level, dir / "p");
    player::ParcelView view;
    view.setMinimumSize(1, 1);
    view.resize(level.frame.w, level.frame.h);
    view.load(QString::fromStdString((dir / "p").string()), false);
    const QImage shown = view.grab().toImage();
    const auto frame = walk::frame_around(view.level(), view.world().foot(), view.level().frame);
    int different = 0;
    for (int y = 0; y < level.frame.h; ++y)
        for (int x = 0; x < level.frame.w; ++x) {
            const Rgba a = wanted.at(frame.x + x, frame.y + y);
            const QColor b = shown.pixelColor(x, y);
            different += std::abs(a.r - b.red()) > 2 || std::abs(a.g - b.green()) > 2 || std::abs(a.b - b.blue()) > 2;
        }
    CHECK(different < 500); // the walker himself, and nothing else
    CHECK(different > 20);
}

TEST_CASE("the player tints layers, shifts them and lets them go along by parallax", "[app][player]") {
    make::Small small({80, 60});
    level::Level level = small.level();
    level.frame = {320, 224};
    for (int y = 0; y < 60; ++y)
        for (int x = 0; x < 80; ++x)
            level.edit(small.front)
                .grid()
                .set({x, y}, level::Cell(static_cast<level::TileId>(49 + (x * 7 + y * 3) % 4)), 0);
    level.marks.push_back({9000, "Start", level::MarkKind::start, {50, 35, 1, 1}});
    const Image plain = picture::render(small.project, level, 1);
    const Rgba tint{255, 128, 64, 255};
    level.edit(small.front).tint = tint;
    level.edit(small.front).parallax = {50, 75};
    level.edit(small.front).shift = {1, -1}; // half a cell each
    make::Folder dir;
    parcel::build(small.project, level, dir / "p");
    player::ParcelView view;
    view.setMinimumSize(1, 1);
    view.resize(level.frame.w, level.frame.h);
    view.load(QString::fromStdString((dir / "p").string()), false);
    const QImage shown = view.grab().toImage();
    const auto frame = walk::frame_around(view.level(), view.world().foot(), view.level().frame);
    REQUIRE(frame.x > 100); // far enough from the corner that parallax tells
    REQUIRE(frame.y > 100);
    const Point first{static_cast<int>(std::lround(frame.x * 0.5)) - 8,
                      static_cast<int>(std::lround(frame.y * 0.75)) + 8};
    int different = 0;
    for (int y = 0; y < level.frame.h; ++y)
        for (int x = 0; x < level.frame.w; ++x) {
            const Rgba art = plain.at(first.x + x, first.y + y);
            const QColor b = shown.pixelColor(x, y);
            different += std::abs(art.r * tint.r / 255 - b.red()) > 2 ||
                         std::abs(art.g * tint.g / 255 - b.green()) > 2 ||
                         std::abs(art.b * tint.b / 255 - b.blue()) > 2;
        }
    INFO(different << " pixels of " << level.frame.w * level.frame.h);
    CHECK(different < 400); // at most the walker
}
