// Kits of pieces as a designer brings them in: dropped, looked through, corrected, taken, painted with.
#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFile>
#include <QLabel>
#include <QListView>
#include <QPushButton>
#include <QTest>
#include <algorithm>

#include "app/parts/card_list.hpp"
#include "app/shell/kit_page.hpp"
#include "app/window.hpp"
#include "join/mask.hpp"
#include "kit/made_kit.hpp"
#include "support/make.hpp"

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
    CHECK(sheet.kit->file == "kits/stone-walls/stone-walls.obj");
    CHECK(fs::exists(w.session().document().dir() / sheet.kit->file));
    w.picture("kit-join");
    // Painted as any material: its pieces join.
    w.stage("stage-lay");
    w.session().setHand({edit::held::Material{w.session().project().materials[0]->id}});
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
    REQUIRE_SOON(!w.materials().empty());
    const auto made = w.find<QPushButton>("kitTake")->text();
    w.click("kitMake");
    CHECK(w.materials()[0].state == "left out");
    CHECK(w.find<QPushButton>("kitTake")->text() != made);
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
    REQUIRE_SOON(w.notice().contains("stone-walls.obj") || w.reading().contains("stone-walls.obj"));
    CHECK(w.session().project().sheets[0]->kit->pieces.size() == 18);
}

TEST_CASE("what is no kit is told, and nothing has happened", "[app][kit]") {
    KitWindow w(true);
    const auto path = w.art.path() / "bad.glb";
    write_file(path, "glTF");
    w.drop(QString::fromStdString(path.string()));
    REQUIRE_SOON(w.reading().contains("cut off"));
    CHECK_FALSE(w.seen());
}
