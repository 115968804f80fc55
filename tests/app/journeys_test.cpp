// Whole jobs by mouse and keyboard, with their actions counted: docs/journeys.md tells how many each takes, and the
// tests hold it to that. A click, a drag, a key and a text that is typed are an action each.
#include "app/window.hpp"

#include <QAction>
#include <QApplication>
#include <QColorDialog>
#include <QComboBox>
#include <QFileDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QMetaObject>
#include <QObject>
#include <QPointF>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QWheelEvent>
#include <QWidget>

#include "app/lay/plan_keys.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/files.hpp"
#include "edit/overlay.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/region.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "level/standing.hpp"
#include "parcel/build.hpp"
#include "player/parcel_view.hpp"
#include "sheet/png.hpp"
#include "walk/soak.hpp"
#include "walk/world.hpp"

using namespace app_test;

namespace {

class Job {
  public:
    explicit Job(Window& window, const char* name) : w(window), name_(name) {}
    ~Job() noexcept(false) {
        // The table of the documentation: "| name | actions | ..." .
        const std::string table = read_file(fs::path(SOURCE_DIR) / "docs/journeys.md");
        const auto row = table.find("| " + name_ + " | ");
        INFO(name_ << " took " << actions << " actions");
        CHECK(row != std::string::npos);
        if (row != std::string::npos) CHECK(std::stoi(table.substr(row + name_.size() + 5)) == actions);
    }

    void click(const char* id) {
        ++actions;
        w.click(id);
    }
    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        ++actions;
        w.key(key, modifiers);
    }
    void material(const char* name) {
        ++actions; // the Tray shows materials already
        w.pickMaterial(name);
    }
    void layer(const char* name) {
        ++actions;
        w.activate(name);
    }
    void clickCell(Point cell, Qt::MouseButton button = Qt::LeftButton, Qt::KeyboardModifiers modifiers = {}) {
        ++actions;
        w.clickCell(cell, button, modifiers);
    }
    void drag(Point from, Point to, Qt::MouseButton button = Qt::LeftButton, Qt::KeyboardModifiers modifiers = {}) {
        ++actions;
        w.drag(from, to, modifiers, button);
    }
    void type(const char* field, const char* text) {
        ++actions;
        auto* edit = w.find<QLineEdit>(field);
        QTest::keyClicks(edit, text);
        settle();
    }
    void slide(const char* slider, int value) {
        ++actions;
        w.slide(slider, value);
    }
    void item(const char* list, const char* text, Qt::KeyboardModifiers modifiers = {}) {
        ++actions;
        w.clickRow(w.find<QListView>(list), text, modifiers);
    }
    // Answers the next question that a dialog asks.
    void answer(const QString& text) {
        ++actions;
        auto* timer = new QTimer;
        QObject::connect(timer, &QTimer::timeout, timer, [timer, text] {
            for (QWidget* top : QApplication::topLevelWidgets()) {
                if (!top->isVisible()) continue;
                if (auto* input = qobject_cast<QInputDialog*>(top)) {
                    input->setTextValue(text);
                    input->accept();
                } else if (top->objectName() == "levelForm") {
                    auto* name = top->findChild<QLineEdit*>("levelFormName");
                    name->selectAll();
                    QTest::keyClicks(name, text);
                    QTest::keyClick(name, Qt::Key_Return);
                } else if (auto* file = qobject_cast<QFileDialog*>(top)) {
                    // The dialog looks at folders in its own time: it is asked until it closes.
                    if (auto* field = file->findChild<QLineEdit*>("fileNameEdit")) field->setText(text);
                    timer->stop();
                    QMetaObject::invokeMethod(file, "accept");
                    if (file->isVisible()) return timer->start(20);
                } else {
                    continue;
                }
                timer->deleteLater();
                return;
            }
        });
        timer->start(20);
    }
    // A new level by its question.
    void newLevel(const QString& text) {
        answer(text);
        key(Qt::Key_N, Qt::ControlModifier);
        (*w).activateWindow();
        settle();
    }
    // An entry of the menu that adds a layer, in front of the active one.
    void addLayer(const char* text) {
        click("addLayer");
        QMenu* menu = nullptr;
        REQUIRE(QTest::qWaitFor(
            [&] {
                for (QWidget* top : QApplication::topLevelWidgets())
                    if (top->objectName() == "addLayerMenu" && top->isVisible()) menu = static_cast<QMenu*>(top);
                return menu != nullptr;
            },
            2000));
        ++actions;
        for (QAction* a : menu->actions())
            if (a->text() == text) QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(a).center());
        settle();
        (*w).activateWindow();
    }

    Window& w;
    int actions = 0;

  private:
    std::string name_;
};

level::MaterialId material_named(Window& w, const char* name) {
    for (const auto& m : w.session().project().materials)
        if (m->name == name) return m->id;
    FAIL("no material " << name);
    return 0;
}

// The cells that one can walk to from a place, by what the layers block.
level::Region walkable(Window& w, Point from) {
    const level::TileTable tiles(w.session().project());
    level::Region open(w.level().cells());
    for (const level::LayerRef& l : w.level().layers)
        if (l->kind() == level::LayerKind::tiles && l->solid())
            level::each_cell(l->grid(), w.level().cells(), [&](Point p, level::Cell c, level::MaterialId) {
                if (tiles.shape(c) != level::TileShape::none) open.remove(p);
            });
    return level::flood(from, false, w.level().cells(), [&](Point chunk) {
        const auto* rows = open.rows(chunk);
        return rows ? *rows : level::Region::Rows{};
    });
}

} // namespace

TEST_CASE("journey: clay with a salt crust", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    w.activate("Clay");
    w.view()->setCamera(2, QPointF(21 * 16, 15 * 16));
    const auto layers = w.level().layers.size();
    {
        Job job(w, "clay with a crust of salt, 70 % left out");
        job.key(Qt::Key_F, Qt::ControlModifier);
        job.type("traySearch", "Salt crust");
        job.item("foundTray", "Salt crust 1");
        for (const char* more : {"Salt crust 2", "Salt crust 3", "Salt crust 4"})
            job.item("foundTray", more, Qt::ShiftModifier);
        REQUIRE(w.session().hand().as<edit::held::Spread>()->items.size() == 4);
        job.slide("handLeaves", 70);
        job.click("toolRectangle");
        w.hover({16, 14});
        INFO(w.view()->reading().text.toStdString());
        CHECK(w.view()->reading().text.contains("leaves 70 %"));
        job.drag({15, 14}, {24, 16});
    }
    w.picture("journey-crust");
    // It lies over the clay, on an overlay made for it, and nothing of the clay is gone.
    REQUIRE(w.level().layers.size() == layers + 1);
    const level::Layer& clay = w.layer("Clay");
    const level::LayerId over = edit::overlay_of(w.level(), clay.id);
    REQUIRE(over != 0);
    const std::int64_t crust = w.level().layer(over)->grid().count();
    CHECK(crust >= 4);
    CHECK(crust <= 15); // of 30 cells, three in ten
    for (int y = 14; y <= 16; ++y)
        for (int x = 15; x <= 24; ++x) CHECK(clay.grid().cell({x, y}).tile() != 0);
    // One step back takes the overlay with it.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().layers.size() == layers);
}

TEST_CASE("journey: the pump house", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    w.activate("Clay");
    {
        Job job(w, "the pump house");
        job.newLevel("Pump house 24x18");
        w.view()->setCamera(2, QPointF(12 * 16, 9 * 16));
        // Floor, then walls on a layer of their own that blocks.
        job.material("Boardwalk");
        job.key(Qt::Key_R);
        job.drag({4, 4}, {16, 13});
        job.addLayer("Tiles");
        job.click("layerSolid");
        job.material("Brick");
        job.click("optionRim");
        job.drag({4, 4}, {16, 13});
        job.clickCell({10, 13}, Qt::RightButton); // the door
        // The tops of the walls hide the walker only half.
        job.layer("In front");
        job.slide("layerOpacity", 50);
        job.drag({4, 3}, {16, 3});
        // Stores behind the walker and in front of him.
        job.key(Qt::Key_4, Qt::ControlModifier);
        job.click("trayProps");
        job.item("propTray", "Crate");
        job.clickCell({7, 7});
        job.clickCell({13, 7});
        job.layer("In front");
        job.addLayer("Props");
        job.clickCell({8, 11});
    }
    w.hover({12, 11});
    w.picture("journey-pump-house");
    const level::Level& house = w.level();
    CHECK(house.size == Size{24, 18});
    CHECK(house.layer(house.layers[0]->id)->grid().material({10, 8}) == material_named(w, "Boardwalk"));
    const level::Layer* walls = nullptr;
    const level::Layer* front = &w.layer("In front");
    int behind = 0;
    int before = 0;
    for (int i = 0; i < static_cast<int>(house.layers.size()); ++i) {
        const level::Layer& l = *house.layers[static_cast<std::size_t>(i)];
        if (l.name == "Tiles") walls = &l;
        (i < house.plane ? behind : before) += static_cast<int>(l.props().size());
    }
    REQUIRE(walls);
    CHECK(walls->solid());
    CHECK(walls->grid().material({4, 8}) == material_named(w, "Brick"));
    CHECK(walls->grid().cell({10, 13}).empty());
    CHECK(walls->grid().cell({10, 8}).empty());
    CHECK(front->opacity == 50);
    CHECK(front->grid().material({10, 3}) == material_named(w, "Brick"));
    CHECK(behind == 2);
    CHECK(before == 1);
    // One gets in by the door only.
    CHECK(walkable(w, {10, 8}).contains({10, 16}));
}

TEST_CASE("journey: a creek with a sluice", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    {
        Job job(w, "a creek that one crosses at the sluice");
        job.newLevel("North bank 40x24");
        w.view()->setCamera(1, QPointF(20 * 16, 12 * 16));
        job.material("Clay");
        job.key(Qt::Key_F, Qt::ShiftModifier);
        job.clickCell({3, 3});
        job.addLayer("Tiles");
        job.click("layerSolid");
        job.material("Creek");
        job.key(Qt::Key_L, Qt::ShiftModifier);
        for (int i = 0; i < 2; ++i) {
            ++job.actions;
            QWheelEvent wheel(QPointF(w.view()->rect().center()),
                              w.view()->mapToGlobal(QPointF(w.view()->rect().center())), {}, {0, 120}, {},
                              Qt::ControlModifier, Qt::NoScrollPhase, false);
            QApplication::sendEvent(w.view(), &wheel);
        }
        job.drag({14, 1}, {24, 22});
        // The sluice: a tile of creek that does not block, laid across with the boards' look above it.
        job.key(Qt::Key_F, Qt::ControlModifier);
        job.type("traySearch", "Creek under");
        job.item("foundTray", "Creek under boards");
        job.key(Qt::Key_R);
        job.drag({16, 11}, {22, 11});
    }
    const level::Layer& creek = *w.level().layers[1];
    CHECK(creek.solid());
    const auto reach = walkable(w, {2, 12});
    CHECK(reach.contains({37, 12}));
    // Without the sluice there is no way over.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK_FALSE(walkable(w, {2, 12}).contains({37, 12}));
}

TEST_CASE("journey: a brine pan with its banks", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(22 * 16, 15 * 16));
    const level::MaterialId brine = material_named(w, "Brine");
    {
        Job job(w, "a brine pan with its banks");
        job.material("Brine");
        job.key(Qt::Key_R);
        job.drag({22, 14}, {28, 16});
    }
    // Every cell shows what its neighbourhood asks for, also where it meets the pans that were there.
    const level::Layer& pans = w.layer("Pans");
    const join::Rules rules(w.session().project());
    level::Grid again = pans.grid();
    join::resolve(rules, again, w.level().cells(), pans.id);
    CHECK(again == pans.grid());
    for (int x = 22; x <= 28; ++x) CHECK(pans.grid().material({x, 15}) == brine);
}

TEST_CASE("journey: a cellar seen from the side", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    {
        Job job(w, "a cellar from the side, with rim, ledges and a shaft");
        job.newLevel("Low cellar 40x24 side");
        w.view()->setCamera(1, QPointF(20 * 16, 12 * 16));
        job.material("Brick");
        job.key(Qt::Key_F, Qt::ShiftModifier);
        job.clickCell({3, 3});
        job.key(Qt::Key_R);
        job.drag({4, 8}, {34, 18}, Qt::RightButton);
        job.drag({10, 1}, {13, 8}, Qt::RightButton);
        job.material("Catwalk");
        job.key(Qt::Key_L, Qt::ShiftModifier);
        job.drag({8, 15}, {14, 15});
        job.drag({18, 13}, {24, 13});
        job.key(Qt::Key_4, Qt::ControlModifier);
        job.key(Qt::Key_S, Qt::ShiftModifier);
        job.clickCell({6, 18});
    }
    w.stage("stage-lay");
    w.hover({20, 12});
    CHECK(w.level().view == level::View::from_the_side);
    const level::Layer& ground = w.layer("Ground");
    CHECK(ground.grid().cell({20, 12}).empty());
    CHECK(ground.grid().material({3, 3}) == material_named(w, "Brick"));
    CHECK(ground.grid().material({10, 15}) == material_named(w, "Catwalk"));
    REQUIRE(w.level().first_mark(level::MarkKind::start));
    // The walker stands on the floor, and lands on a ledge when he jumps through it: by the engine's own physics.
    const fs::path to = w.folder / "built";
    parcel::build(w.session().project(), w.level(), to);
    const vicinum::Level built = vicinum::load(to.string());
    walk::World world(built);
    for (int i = 0; i < 120; ++i) world.tick({});
    CHECK(world.grounded());
    CHECK(world.foot().y == Approx(19.0).margin(0.05));
    for (int i = 0; i < 240 && world.foot().x < 10.5; ++i) {
        walk::Input right;
        right.right = true;
        world.tick(right);
    }
    for (int i = 0; i < 120; ++i) {
        walk::Input up;
        up.jump = i < 5;
        world.tick(up);
    }
    CHECK(world.grounded());
    CHECK(world.foot().y == Approx(19.0).margin(0.05)); // 3.2 cells are less than the 4 to the ledge
}

TEST_CASE("journey: from the start page to walking on art that was never seen", "[app][journey]") {
    Window w(false);
    const auto masks = join::cases(level::JoinKind::full);
    const QString sheet =
        put(w, "turf.png", make::sheet(make::tiles(masks, 32, make::Style::see_through, 11), 8, {}, {}));
    {
        Job job(w, "a set of 47 of 32 px, from the start page to walking on it");
        job.click("startSide");
        ++job.actions;
        w.drop(sheet);
        job.key(Qt::Key_Return);
        job.key(Qt::Key_M);
        job.key(Qt::Key_3, Qt::ControlModifier);
        REQUIRE(w.level().cell == Size{32, 32});
        const Point middle{w.level().size.w / 2, w.level().size.h / 2 + 2};
        job.drag(middle - Point{6, 0}, middle + Point{6, 0});
        job.key(Qt::Key_6, Qt::ControlModifier);
    }
    auto* walk = w.find<player::ParcelView>("parcelView");
    REQUIRE_SOON(walk->isLoaded());
    REQUIRE_SOON(walk->world().grounded());
}

namespace {

// A set of every case of that size, dropped and cut.
void drop_set(Window& w, const char* name, int side, unsigned seed) {
    const auto masks = join::cases(level::JoinKind::full);
    w.drop(put(w, name, make::sheet(make::tiles(masks, side, make::Style::outlined, seed), 8, {}, {})));
    settle();
}

} // namespace

TEST_CASE("journey: art of 32 px in a level of 16 px, and a season swapped", "[app][journey]") {
    Window w(false);
    w.click("startSide");
    drop_set(w, "Peat.png", 16, 7);
    w.key(Qt::Key_Return);
    w.key(Qt::Key_M);
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.view()->setCamera(1, QPointF(160, 160));
    w.drag({2, 14}, {17, 14});
    {
        Job job(w, "tiles of 32 px in a level whose ground is of 16 px");
        ++job.actions;
        drop_set(w, "Slabs.png", 32, 3);
        job.key(Qt::Key_Return);
        job.key(Qt::Key_M);
        job.key(Qt::Key_3, Qt::ControlModifier);
        w.picture("journey-size");
        job.key(Qt::Key_Return); // over 2 × 2 cells, as proposed: the level is not empty
        job.drag({2, 4}, {6, 4});
    }
    CHECK(w.layer("Slabs").grain() == level::Grain{1, 2});
    CHECK(w.layer("Slabs").grid().bounds().w == 5);
    {
        Job job(w, "a ground swapped for that of another season");
        ++job.actions;
        drop_set(w, "Snow.png", 16, 40);
        job.key(Qt::Key_Return);
        ++job.actions; // the sheet that is to go
        w.clickRow(w.find<QListView>("sheetList"), "Peat");
        job.click("swapSheet");
        job.click("swapGo");
    }
    CHECK(w.session().project().material(w.layer("Ground").grid().material({5, 14}))->name == "Snow");
}

TEST_CASE("journey: twelve of sixty pictures, a background and a sketch to build after", "[app][journey]") {
    Window w(false);
    w.click("startAbove");
    for (int i = 0; i < 60; ++i)
        put(w,
            (i < 12   ? "Fen/posts/post "
             : i < 40 ? "Fen/reeds/reed "
                      : "Fen/stones/stone ") +
                std::to_string(i) + ".png",
            make::tile(255, 20 + i % 13, make::Style::see_through, static_cast<unsigned>(i)));
    {
        Job job(w, "twelve of a pack of sixty pictures");
        ++job.actions;
        w.drop(QString::fromStdString((w.folder / "Fen").string()));
        job.type("packSearch", "posts");
        job.click("packAll");
        job.click("packTake");
        settle();
    }
    CHECK(w.session().project().prop_kinds.size() == 12);
    w.drop(put(w, "Sketch.png", Image({40, 28}, {200, 180, 150, 255})));
    settle();
    w.key(Qt::Key_3, Qt::ControlModifier);
    {
        Job job(w, "a background of its own and a sketch to build after");
        job.click("behindHead");
        ++job.actions; // the colour, in the dialog for it
        answerColour(QColor(40, 60, 90));
        job.click("levelGround");
        ++job.actions;
        w.choose("referenceSheet", "Sketch");
        ++job.actions;
        type(w.find<QSpinBox>("referenceCell"), "1");
    }
    CHECK(w.level().ground == Rgba{40, 60, 90, 255});
    CHECK(w.level().reference->scale == 1600);
}

TEST_CASE("journey: a level from a picture, which changes afterwards", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    // The designer's own folder, outside the project.
    const fs::path picture = w.folder / "north-pans.png";
    fs::copy(w.folder / "pell" / "to-add" / "north-pans.png", picture);
    {
        Job job(w, "a level from a picture of 32 by 32");
        job.newLevel("North pans 32x32");
        job.answer(QString::fromStdString(picture.string()));
        job.key(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier);
        (*w).activateWindow();
        REQUIRE(QTest::qWaitFor([&] { return w.find<QWidget>("planPanel")->isVisible(); }, 2000));
        // Five colours are known by their materials; the red dot is the start.
        auto* keys = w.find<PlanKeys>("planKeys");
        REQUIRE(keys->model()->rowCount() == 6);
        for (int i = 0; i < 6; ++i) {
            if (w.rowText(keys, i) != "nothing") continue;
            ++job.actions;
            w.mean(i, "the start");
        }
        REQUIRE(QTest::qWaitFor([&] { return w.view()->shown().first_mark(level::MarkKind::start) != nullptr; }, 2000));
        CHECK_FALSE(w.level().first_mark(level::MarkKind::start)); // only shown so far
        job.click("planLay");
    }
    const level::MaterialId brine = material_named(w, "Brine");
    const level::MaterialId clay = material_named(w, "Clay");
    REQUIRE(w.level().plan);
    CHECK(w.level().plan->file == "plans/north-pans.png");
    CHECK(w.layer("Ground").grid().material({5, 5}) == brine);
    CHECK(w.layer("Ground").grid().material({0, 0}) == clay);
    REQUIRE(w.level().first_mark(level::MarkKind::start));
    // By hand: a pan is made wider by one cell; then the plan's picture changes on the disk.
    w.pickMaterial("Brine");
    w.view()->fit();
    w.clickCell({10, 5});
    REQUIRE(w.layer("Ground").grid().material({10, 5}) == brine);
    const fs::path followed = w.folder / "pell" / "plans" / "north-pans.png";
    Image changed = sheet::read_png(followed);
    const Rgba pan = changed.at(5, 5);
    const Rgba marsh = changed.at(31, 2);
    for (int y = 14; y < 16; ++y)
        for (int x = 0; x < 2; ++x) changed.set(x, y, pan);
    changed.set(10, 5, marsh); // where the hand was
    write_file(followed, sheet::encode_png(changed));
    REQUIRE(QTest::qWaitFor([&] { return w.layer("Ground").grid().material({1, 15}) == brine; }, 5000));
    CHECK(w.layer("Ground").grid().material({10, 5}) == brine); // stays
    CHECK(w.session().library().planKept() == std::vector<Point>{{10, 5}});
    CHECK(w.session().document().undo_name() == "North pans follows its plan");
}

TEST_CASE("journey: a lake with a ford, and a leak that is closed", "[app][journey]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(64.0 * 16, 45.0 * 16));
    w.key(Qt::Key_R);
    const auto soaked = [&](Point from, Point to) {
        const level::TileTable tiles(w.session().project());
        const level::PropKinds kinds(w.session().project());
        const auto middle = [](Point c) { return Point{c.x * 64 + 32, c.y * 64 + 32}; };
        return walk::soak(w.level(), {tiles, kinds}, middle(from)).touches({to.x, to.y, 1, 1});
    };
    const Point shore{57, 45}, middle{62, 45};
    REQUIRE(soaked(shore, middle));
    {
        Job job(w, "a lake that one cannot enter, with a ford");
        job.material("Brine");
        job.drag({60, 42}, {68, 47});
        CHECK_FALSE(soaked(shore, middle));
        job.key(Qt::Key_N);
        job.drag({59, 45}, {69, 45});
    }
    CHECK(soaked(shore, middle));
    CHECK_FALSE(soaked(shore, {62, 43}));
    level::Level open = w.level();
    open.sides[3] = {};
    w.session().applyLevel("Open a side", open);
    {
        Job job(w, "a leak found and closed");
        job.click("stage-bound");
        auto* leaks = w.find<QListView>("leakList");
        REQUIRE_SOON(leaks->model()->rowCount() == 1);
        job.click("leakClose");
        REQUIRE_SOON(!leaks->isVisible());
    }
    CHECK(w.level().layers.back()->blockers()->shape({0, 20}) == level::TileShape::full);
}
