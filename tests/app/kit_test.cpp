// Kits of pieces as a designer brings them in: dropped, looked through, corrected, taken, painted with.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QMetaObject>
#include <QPushButton>
#include <QSlider>
#include <QTest>
#include <algorithm>
#include <cmath>

#include "app/lay/plan_keys.hpp"
#include "app/parts/card_list.hpp"
#include "app/parts/translated.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/shell/kit_page.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/solid/solid_view.hpp"
#include "app/window.hpp"
#include "join/mask.hpp"
#include "kit/made_kit.hpp"
#include "support/make.hpp"
#include "walk/soak.hpp"

using namespace app_test;
using kit_test::Kit;

namespace {

struct KitWindow : Window {
    make::Folder art;
    Kit kit;
    explicit KitWindow(bool demo = false) : Window(demo) {}
    QString write(const char* name = "Stone walls.obj") {
        const auto path = art.path() / name;
        write_file(path, kit.obj());
        return QString::fromStdString(path.string());
    }
    KitPage* page() { return find<KitPage>("kitPage"); }
    bool seen() { return page()->isVisible(); }
    SolidSwitch& solid() { return *find<SolidSwitch>("solidSwitch"); }
    // An entry of the menu of storeys, under that of layers.
    void storeys(const QString& text) {
        click("addLayer");
        QMenu* menu = shownMenu("addLayerMenu");
        auto* inner = menu->findChild<QMenu*>("storeysMenu");
        REQUIRE(inner);
        for (QAction* a : inner->actions())
            if (a->text() == text) {
                a->trigger();
                menu->close();
                return settle();
            }
        FAIL("no such entry");
    }
    const std::vector<Card>& materials() { return find<CardList>("kitMaterials")->cards(); }
    void length(const char* field, const char* metres) {
        auto* box = find<QDoubleSpinBox>(field);
        window->activateWindow();
        box->setFocus();
        box->selectAll();
        QTest::keyClicks(box, metres);
        QTest::keyClick(box, Qt::Key_Return);
        settle();
    }
    QString under() { return find<QLabel>("kitUnder")->text(); }
};

level::MaterialId material_of(Window& w, const char* name) {
    for (const auto& m : w.session().project().materials)
        if (m->name == name) return m->id;
    FAIL("no material " << name);
    return 0;
}

// For the next dialog that asks for a file; it looks at folders in its own time, and is asked until it closes.
void answerFile(const QString& path) {
    answerNext([path](QWidget* dialog) {
        auto* file = qobject_cast<QFileDialog*>(dialog);
        if (!file) return false;
        if (auto* field = file->findChild<QLineEdit*>("fileNameEdit")) field->setText(path);
        QMetaObject::invokeMethod(file, "accept");
        return !file->isVisible();
    });
}

} // namespace

TEST_CASE("a kit that is dropped before there is a project is read, taken and painted with", "[app][kit]") {
    KitWindow w;
    w.kit.first_bit = 0;
    w.kit.all_walls();
    w.kit.floors(3);
    w.drop(w.write());
    REQUIRE_SOON(w.seen());
    CHECK(w.find<QLabel>("kitTitle")->text() == "Stone walls");
    CHECK(w.under().contains("19 pieces"));
    CHECK(w.under().contains("cells of 2 m, storeys of 3 m"));
    REQUIRE(w.materials().size() == 2);
    CHECK(w.materials()[0].title == "Wall");
    CHECK(w.materials()[0].under == "16 of 16 cases by 16 pieces");
    CHECK(w.materials()[0].state == "by their numbers");
    CHECK(w.materials()[1].title == "Floor");
    CHECK_FALSE(w.find<QLabel>("kitProof")->pixmap().isNull());
    CHECK(w.find<QPushButton>("kitTake")->text() == "Take it, with 2 materials");
    REQUIRE_SOON(!w.session().jobs().running("kit-pictures"));
    w.picture("kit-page");
    w.click("kitTake");
    REQUIRE_SOON(w.session().project().sheets.size() == 1);
    CHECK_FALSE(w.seen());
    CHECK(w.session().stage() == Stage::join);
    const level::Sheet& sheet = *w.session().project().sheets[0];
    REQUIRE(sheet.kit);
    CHECK(sheet.kit->file == "kits/stone-walls/Stone walls.obj");
    CHECK(fs::exists(w.session().document().dir() / sheet.kit->file));
    CHECK_FALSE(w.find<QWidget>("twoWays")->isVisible()); // its bodies have told which is the material
    w.picture("kit-join");
    // Painted as any material: its pieces join.
    w.stage("stage-lay");
    w.pickMaterial("Wall");
    w.view()->setCamera(2, {8.0 * 16, 6.0 * 16});
    w.key(Qt::Key_R);
    w.drag({3, 3}, {9, 7});
    const auto& grid = w.level().layer(w.session().activeLayerId())->grid();
    CHECK(grid.material({3, 3}) == w.session().project().materials[0]->id);
    CHECK(grid.cell({3, 3}).tile() != grid.cell({6, 5}).tile());
    w.picture("kit-lay");
    // It is kept, and comes back with the project.
    w.key(Qt::Key_S, Qt::ControlModifier);
    w.session().finishSaving();
    const auto dir = QString::fromStdString(w.session().document().dir().string());
    w.session().open(dir);
    REQUIRE(w.session().project().sheets[0]->kit);
    CHECK(w.session().project().sheets[0]->kit->pieces.size() == 19);
}

TEST_CASE("a gate of two cells takes the place of two walls, and they come back", "[app][kit]") {
    KitWindow w;
    w.kit.width = 4;
    w.kit.thick = 0.4;
    w.kit.first_bit = -1;
    for (const auto& [name, sides] : {std::pair{"Wall end", 1U},
                                      {"Wall straight", 5U},
                                      {"Wall corner", 3U},
                                      {"Wall tee", 11U},
                                      {"Wall cross", 15U},
                                      {"Wall post", 0U}})
        w.kit.wall(name, sides);
    w.kit.put("Gate", {-4, 0, -0.2}, {4, 3, 0.2}); // two cells wide
    w.drop(w.write("Town walls.obj"));
    REQUIRE_SOON(w.seen());
    CHECK(w.under().contains("cells of 4 m"));
    REQUIRE_SOON(!w.session().jobs().running("kit-pictures"));
    w.click("kitTake");
    REQUIRE_SOON(w.session().project().sheets.size() == 1);
    w.stage("stage-lay");
    const level::MaterialId walls = w.session().project().materials.front()->id;
    w.pickMaterial(w.session().project().materials.front()->name.c_str());
    w.view()->setCamera(2, {8.0 * 16, 6.0 * 16});
    w.key(Qt::Key_B);
    w.dragCells({{2, 4}, {10, 4}});
    const level::LayerId on = w.session().activeLayerId();
    const auto grid = [&]() -> const level::Grid& { return w.level().layer(on)->grid(); };
    REQUIRE(grid().material({6, 4}) == walls);
    const level::Grid before = grid();
    level::TileId gate = 0;
    for (const level::KitPiece& p : w.session().project().sheets[0]->kit->pieces)
        if (p.name == "Gate" && p.turn == 1) gate = p.tile; // across the wall: it is turned by itself
    REQUIRE(gate != 0);
    edit::Hand hand;
    hand.holds = edit::held::Tile{gate};
    w.session().setHand(hand);
    w.session().setTool(Tool::pencil);
    REQUIRE_SOON(!w.session().bodies().all().empty());
    w.clickCell({6, 4});
    int standing = 0, under = 0;
    for (int x = 2; x <= 10; ++x) {
        CHECK(grid().material({x, 4}) == walls);
        under += grid().cell({x, 4}).empty();
        for (const level::KitPiece& p : w.session().project().sheets[0]->kit->pieces)
            standing += p.name == "Gate" && p.tile == grid().cell({x, 4}).tile();
    }
    CHECK(standing == 1);
    CHECK(under == 1);
    for (const auto& f : w.session().findings()) CHECK_FALSE(translated(f.what).contains("no sheet has"));
    w.picture("kit-gate");
    w.key(Qt::Key_F6);
    w.picture("kit-gate-aslant");
    w.key(Qt::Key_F5);
    // Erased where one touches it; the wall beside that is back.
    w.click("toolEraser");
    w.clickCell({6, 4});
    CHECK(grid().material({6, 4}) == 0);
    for (int x = 2; x <= 10; ++x)
        if (x != 6) CHECK_FALSE(grid().cell({x, 4}).empty());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(grid() == before);
}

TEST_CASE("what was read of a kit is said otherwise on its page, and nothing is taken with Esc", "[app][kit]") {
    KitWindow w(true);
    const auto sheets = w.session().project().sheets.size();
    w.kit.first_bit = -1;
    for (const unsigned sides : {0U, 1U, 5U, 3U, 11U, 15U})
        w.kit.wall("Wall " + std::string(1, "oeiclx"[sides % 6]), sides);
    w.kit.put("Floor off", {-1, -0.1, -1}, {1, 0, 1}, {0, 0.004, 0});
    w.drop(w.write());
    REQUIRE_SOON(w.seen());
    CHECK(w.find<QLabel>("kitDoubts")->text().contains("\"Floor off\" floats off its place by"));
    auto* width = w.find<QDoubleSpinBox>("kitWidth");
    CHECK(width->value() == 2);
    w.length("kitWidth", "4");
    REQUIRE_SOON(w.under().contains("cells of 4 m"));
    w.length("kitWidth", "0");
    REQUIRE_SOON(w.under().contains("cells of 2 m"));
    CHECK(width->value() == 2);
    w.choose("kitOrigin", "a corner of the cells");
    REQUIRE_SOON(w.find<QComboBox>("kitOrigin")->currentIndex() == 1);
    w.choose("kitOrigin", "the middle of the cells");
    // A material is left out.
    auto* take = w.find<QPushButton>("kitTake");
    REQUIRE_SOON(take->text() == "Take it, with 2 materials");
    w.click("kitMake");
    CHECK(w.materials()[0].state == "left out");
    CHECK(take->text() == "Take it, with one material");
    w.key(Qt::Key_Escape);
    CHECK_FALSE(w.seen());
    CHECK(w.session().project().sheets.size() == sheets);
    CHECK_FALSE(fs::exists(w.session().document().dir() / "kits"));
}

TEST_CASE("numbers that do not follow what couples are taken when one says so, in the counting one says",
          "[app][kit]") {
    KitWindow w;
    w.kit.first_bit = -1;
    // Slabs that all couple all round, numbered by hand.
    for (int i = 0; i < 16; ++i) w.kit.put("slab_" + std::to_string(i), {-1, -0.1, -1}, {1, 0, 1});
    w.kit.put("Post", {-0.1, 0, -0.1}, {0.1, 3, 0.1});
    w.drop(w.write("slabs.obj"));
    REQUIRE_SOON(w.seen());
    REQUIRE(w.materials().size() == 2);
    CHECK(w.materials()[1].state == "left out");
    CHECK(w.materials()[1].under == "numbered, but not by what couples");
    auto* list = w.find<CardList>("kitMaterials");
    w.clickAt(list->viewport(), list->cardCentre(2));
    CHECK_FALSE(w.find<QCheckBox>("kitMake")->isChecked());
    w.click("kitMake");
    REQUIRE_SOON(w.materials()[0].state == "by their numbers");
    w.clickAt(list->viewport(), list->cardCentre(1));
    REQUIRE(w.find<QComboBox>("kitCounting")->isVisible());
    w.choose("kitCounting", "N 1 · E 8 · S 4 · W 2");
    REQUIRE_SOON(w.find<QComboBox>("kitCounting")->currentText() == "N 1 · E 8 · S 4 · W 2");
    REQUIRE_SOON(w.find<QPushButton>("kitTake")->isEnabled());
    w.picture("kit-counting");
    w.click("kitTake");
    REQUIRE_SOON(w.session().project().materials.size() == 1);
    const level::Material& m = *w.session().project().materials[0];
    const level::Sheet& sheet = *w.session().project().sheets[0];
    // Number 8 has its one neighbour in the east.
    const auto& of_east = m.joins.cases.at(join::kE);
    REQUIRE(of_east.size() == 1);
    CHECK(std::any_of(sheet.kit->pieces.begin(), sheet.kit->pieces.end(),
                      [&](const auto& p) { return p.tile == of_east[0].tile && p.name == "slab_8"; }));
}

TEST_CASE("a kit whose file changes is read again, and its pieces stay what they were", "[app][kit]") {
    KitWindow w;
    w.kit.first_bit = 0;
    w.kit.all_walls();
    w.drop(w.write());
    REQUIRE_SOON(w.seen());
    w.key(Qt::Key_Return);
    REQUIRE_SOON(w.session().project().sheets.size() == 1);
    const level::Sheet before = *w.session().project().sheets[0];
    w.kit.wall("Wall gate", 5);
    w.kit.put("Barrel", {-0.4, 0, -0.4}, {0.4, 1, 0.4});
    write_file(w.session().document().dir() / before.kit->file, w.kit.obj());
    REQUIRE_SOON(w.session().project().sheets[0]->kit->pieces.size() == 18);
    const level::Sheet& after = *w.session().project().sheets[0];
    for (const level::KitPiece& p : before.kit->pieces)
        CHECK(std::find(after.kit->pieces.begin(), after.kit->pieces.end(), p) != after.kit->pieces.end());
    // Broken, it stays as it was, and that is said.
    write_file(w.session().document().dir() / before.kit->file, "v 1 2\n");
    REQUIRE_SOON(w.notice().contains("Stone walls.obj"));
    CHECK(w.session().project().sheets[0]->kit->pieces.size() == 18);
}

TEST_CASE("what is no kit is told, and nothing has happened", "[app][kit]") {
    KitWindow w(true);
    const auto path = w.art.path() / "bad.glb";
    write_file(path, "glTF");
    w.drop(QString::fromStdString(path.string()));
    REQUIRE_SOON(w.notice().contains("cut off"));
    CHECK_FALSE(w.seen());
}

TEST_CASE("journey: numbered pieces and a picture to a walkable maze", "[app][kit][maze]") {
    KitWindow w;
    for (const char* name : {"salt-walls.obj", "salt-walls.mtl", "salt-maze.png"})
        fs::copy(demo() / "to-add" / name, w.art.path() / name);
    int actions = 0;
    w.drop(QString::fromStdString((w.art.path() / "salt-walls.obj").string())), ++actions;
    REQUIRE_SOON(w.seen());
    w.key(Qt::Key_Return), ++actions; // takes it, with walls and floors
    REQUIRE_SOON(w.session().project().materials.size() == 2);
    w.key(Qt::Key_3, Qt::ControlModifier), ++actions;
    answerFile(QString::fromStdString((w.art.path() / "salt-maze.png").string())), ++actions;
    w.key(Qt::Key_N, Qt::ControlModifier | Qt::ShiftModifier), ++actions;
    REQUIRE_SOON(w.find<QWidget>("planPanel")->isVisible());
    auto* keys = w.find<PlanKeys>("planKeys");
    REQUIRE_SOON(keys->model()->rowCount() == 2);
    for (int i = 0; i < 2; ++i)
        if (w.rowText(keys, i) == "nothing") {
            const bool wall = !w.rowText(keys, 1 - i).contains("Salt");
            w.mean(i, wall ? "Salt" : "Clay floor"), ++actions;
        }
    w.picture("kit-plan");
    w.click("planLay"), ++actions;
    REQUIRE(w.level().plan);
    INFO(actions);
    CHECK(actions <= 8);
    const level::MaterialId salt = material_of(w, "Salt"), floor = material_of(w, "Clay floor");
    const auto& grid = w.level().layer(w.session().activeLayerId())->grid();
    CHECK(grid.material({0, 0}) == salt);
    CHECK(grid.material({1, 1}) == floor);
    // Every wall goes on where its neighbour is one: its picture's code says the same.
    const level::Sheet& sheet = *w.session().project().sheets[0];
    for (int y = 1; y < 31; ++y)
        for (int x = 1; x < 31; ++x) {
            if (grid.material({x, y}) != salt) continue;
            const auto is = [&](int dx, int dy) { return grid.material({x + dx, y + dy}) == salt; };
            const int code = is(0, -1) + 2 * is(1, 0) + 4 * is(0, 1) + 8 * is(-1, 0);
            const auto piece = std::find_if(sheet.kit->pieces.begin(), sheet.kit->pieces.end(), [&](const auto& p) {
                return p.tile == grid.cell({x, y}).tile();
            });
            REQUIRE(piece != sheet.kit->pieces.end());
            CHECK(piece->name == "salt_" + std::to_string(code));
        }
    // One walks on the floor, and not through walls.
    const level::TileTable tiles(w.session().project());
    const walk::Soaked wet = walk::soak(w.level(), {tiles}, {96, 96});
    CHECK(wet.touches({1, 1, 1, 1}));
    CHECK(wet.touches({29, 29, 1, 1}));
    w.picture("kit-maze");
    // Aslant it stands: a piece for each cell.
    w.key(Qt::Key_F6);
    auto& solid = w.solid();
    REQUIRE_SOON(solid.view() && (solid.view()->pieces() == 32 * 32 || !solid.view()->trouble().isEmpty()));
    REQUIRE(solid.view()->trouble().isEmpty());
    settle();
    CHECK(solid.view()->calls() > 0);
    CHECK(solid.view()->calls() < 200);
    w.picture("kit-maze-aslant");
}

TEST_CASE("a house is painted in plan and aslant with the same tools, storey upon storey",
          "[app][kit][solid][journey]") {
    KitWindow w;
    for (const char* name : {"pump-house.obj", "pump-house.mtl"})
        fs::copy(demo() / "to-add" / name, w.art.path() / name);
    w.drop(QString::fromStdString((w.art.path() / "pump-house.obj").string()));
    REQUIRE_SOON(w.seen());
    REQUIRE_SOON(!w.session().jobs().running("kit-pictures"));
    w.key(Qt::Key_Return);
    REQUIRE_SOON(w.session().project().materials.size() == 4);
    w.stage("stage-lay");
    const auto cell = [&](Point at) { return w.level().layer(w.session().activeLayerId())->grid().material(at); };
    w.pickMaterial("Plank floor");
    w.key(Qt::Key_R);
    w.drag({10, 8}, {17, 14});
    // Walls on a layer of their own.
    w.session().setActiveLayer(w.level().layers[2]->id);
    w.pickMaterial("Brick wall");
    w.click("optionRim");
    w.drag({10, 8}, {17, 14});
    CHECK(cell({10, 8}) == material_of(w, "Brick wall"));
    CHECK(cell({12, 10}) == 0);
    w.key(Qt::Key_F6);
    auto& solid = w.solid();
    REQUIRE_SOON(solid.view() && solid.view()->pieces() == 8 * 7 + 2 * (8 + 7) - 4);
    REQUIRE(solid.view()->trouble().isEmpty());
    // Where a cell is seen it is met again.
    for (const QPointF at : {QPointF(12.5, 10.5), QPointF(3.25, 20), QPointF(30, 2)}) {
        const auto back = solid.view()->cellsAt(solid.view()->placeOf(at));
        REQUIRE(back);
        CHECK(std::abs(back->x() - at.x()) < 0.02);
        CHECK(std::abs(back->y() - at.y()) < 0.02);
    }
    // A wall across the room, drawn aslant.
    w.key(Qt::Key_B);
    const auto place = [&](int x, int y) { return solid.view()->placeOf({x + 0.5, y + 0.5}).toPoint(); };
    QTest::mouseMove(solid.view(), place(14, 9));
    QTest::mousePress(solid.view(), Qt::LeftButton, {}, place(14, 9));
    for (int y = 10; y <= 12; ++y) QTest::mouseMove(solid.view(), place(14, y));
    QTest::mouseRelease(solid.view(), Qt::LeftButton, {}, place(14, 12));
    settle();
    for (int y = 9; y <= 12; ++y) CHECK(cell({14, y}) == material_of(w, "Brick wall"));
    REQUIRE_SOON(solid.view()->pieces() == 8 * 7 + 2 * (8 + 7) - 4 + 4);
    // The same again, a storey higher; there one works on the upper plane.
    w.storeys("This storey again above");
    REQUIRE(w.level().layers.size() == 6);
    REQUIRE_SOON(solid.view()->pieces() == 2 * (8 * 7 + 2 * (8 + 7) - 4 + 4));
    w.picture("journey-house");
    w.session().setActiveLayer(w.level().layers[0]->id);
    REQUIRE_SOON(solid.view()->pieces() == 8 * 7 + 2 * (8 + 7) - 4 + 4); // those above are cut away
    w.key(Qt::Key_F7);
    settle();
    w.key(Qt::Key_F8);
    settle();
    // The sun: its hour is said beside it.
    REQUIRE(w.find<QSlider>("sunHour")->isVisible());
    const int minute = solid.view()->light().minute;
    w.slide("sunHour", 36);
    CHECK(solid.view()->light().minute == 9 * 60);
    CHECK(minute != 9 * 60);
    w.key(Qt::Key_F5);
    CHECK_FALSE(solid.view()->isVisible());
    CHECK_FALSE(w.find<QSlider>("sunHour")->isVisible());
    w.session().setActiveLayer(w.level().layers[3]->id);
    settle();
    // One that has never been looked at so has no such switch.
    Window other;
    other.stage("stage-lay");
    CHECK_FALSE(other.find<QWidget>("lookAslant")->isVisible());
}
