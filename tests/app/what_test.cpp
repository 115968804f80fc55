// What is dropped, and how little it takes until it lies in a level: each job is done with keys and clicks, counted
// from the drop to the first right cell or prop.
#include "app/window.hpp"

#include <QMimeData>
#include <QPushButton>
#include <QString>
#include <filesystem>
#include <set>
#include <string>
#include <vector>

#include "app/sheet/sheet_view.hpp"
#include "base/files.hpp"
#include "edit/props.hpp"
#include "join/mask.hpp"
#include "level/material.hpp"
#include "level/props.hpp"
#include "sheet/png.hpp"

using namespace app_test;
using level::JoinKind;

namespace {

// Counts what one does.
class Hands {
  public:
    explicit Hands(Window& w) : w_(w) {}
    void key(int key, Qt::KeyboardModifiers modifiers = {}) {
        ++actions_;
        w_.key(key, modifiers);
    }
    void click(const char* name) {
        ++actions_;
        w_.click(name);
    }
    [[nodiscard]] int actions() const { return actions_; }

  private:
    Window& w_;
    int actions_ = 0;
};

// A shape that fills its picture from rim to rim, as one that was cropped.
Image crane() {
    Image image({44, 82});
    for (int y = 0; y < 82; ++y)
        for (int x = 0; x < 44; ++x)
            if ((x - 22) * (x - 22) * 4 + (y - 41) * (y - 41) < 41 * 41)
                image.set(x, y, {static_cast<std::uint8_t>(90 + x), static_cast<std::uint8_t>(60 + y), 40, 255});
    return image;
}

// Lays the material across three cells of an empty place, and says whether each lies by its case.
bool road_lies(Window& w) {
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.dragCells({{18, 18}, {19, 18}, {20, 18}});
    const auto& grid = w.layer("Marsh").grid();
    const level::Material& m = *w.session().project().material(grid.material({19, 18}));
    const auto serves = [&](Point cell, join::Mask mask) {
        for (const auto& v : m.joins.cases.at(mask))
            if (v.tile == grid.cell(cell).tile()) return true;
        return false;
    };
    return serves({18, 18}, join::kE) && serves({19, 18}, join::kE | join::kW) && serves({20, 18}, join::kW);
}

} // namespace

TEST_CASE("a set of roads lies in the level after three actions", "[app][what]") {
    Window w;
    const auto tiles = make::tiles(join::cases(JoinKind::edges), 24, make::Style::line_on_ground, 3);
    w.drop(put(w, "roads.png", make::sheet(tiles, 4, {}, {})));
    Hands hands(w);
    hands.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->tiles.size() == 16);
    hands.click("readJoins");
    REQUIRE(w.session().material());
    CHECK(w.session().material()->joins.kind == JoinKind::edges);
    hands.click("stage-lay");
    CHECK(road_lies(w));
    CHECK(hands.actions() <= 3);
}

TEST_CASE("a corner set of two grounds lies in the level after three actions", "[app][what]") {
    Window w;
    const auto tiles = make::tiles(join::cases(JoinKind::corners), 32, make::Style::textured, 5);
    w.drop(put(w, "shore.png", make::sheet(tiles, 4, {}, {})));
    Hands hands(w);
    hands.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->tiles.size() == 16);
    hands.click("readJoins");
    REQUIRE(w.session().material());
    CHECK(w.session().material()->joins.kind == JoinKind::corners);
    hands.click("stage-lay");
    CHECK(hands.actions() <= 3);
    // A block of four by four: its inside joins all round, a corner of it only to the inside.
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    for (int y = 17; y < 21; ++y) w.dragCells({{17, y}, {18, y}, {19, y}, {20, y}});
    const auto& grid = w.layer("Marsh").grid();
    const auto& cases = w.session().material()->joins.cases;
    const auto serves = [&](Point cell, join::Mask corners) {
        for (const auto& v : cases.at(join::of_corners(corners)))
            if (v.tile == grid.cell(cell).tile()) return true;
        return false;
    };
    CHECK(serves({18, 18}, join::kNE | join::kSE | join::kSW | join::kNW));
    CHECK(serves({17, 17}, join::kSE));
    CHECK(serves({20, 20}, join::kNW));
}

TEST_CASE("a ruled sheet is cut as it is ruled, and laid from", "[app][what]") {
    Window w;
    std::vector<Image> tiles;
    for (unsigned i = 0; i < 20; ++i) tiles.push_back(make::tile(255, 32, make::Style::textured, i));
    w.drop(put(w, "ruled.png", make::sheet(tiles, 5, {1, 1}, {1, 1}, {200, 30, 30, 255})));
    Hands hands(w);
    hands.key(Qt::Key_Return);
    CHECK(w.session().sheet()->cut.tile == Size{32, 32});
    CHECK(w.session().sheet()->cut.spacing == Point{1, 1});
    CHECK(w.session().sheet()->tiles.size() == 20);
    CHECK(hands.actions() == 1);
}

TEST_CASE("a strip is so many squares", "[app][what]") {
    Window w;
    std::vector<Image> tiles;
    for (unsigned i = 0; i < 8; ++i) tiles.push_back(make::tile(255, 32, make::Style::textured, i));
    w.drop(put(w, "strip.png", make::sheet(tiles, 8, {}, {})));
    Hands hands(w);
    hands.key(Qt::Key_Return);
    CHECK(w.session().sheet()->tiles.size() == 8);
    CHECK(w.session().sheet()->cut.tile == Size{32, 32});
    CHECK(hands.actions() == 1);
}

TEST_CASE("a folder of squares becomes tiles of one sheet, named by their files, or props by one click",
          "[app][what]") {
    Window w;
    const auto tiles = make::tiles(join::cases(JoinKind::edges), 24, make::Style::line_on_ground, 3);
    for (std::size_t i = 0; i < tiles.size(); ++i) put(w, "Lanes/lane " + std::to_string(i + 1) + ".png", tiles[i]);
    const auto kinds = w.session().project().prop_kinds.size();
    w.drop(QString::fromStdString((w.folder / "Lanes").string()));
    Hands hands(w);
    const level::Sheet* s = w.session().sheet();
    REQUIRE(s->name == "Lanes");
    REQUIRE(s->tiles.size() == 16);
    CHECK(s->tiles[1].name == "lane 2"); // and not "lane 10"
    CHECK(s->tiles[15].name == "lane 16");
    CHECK(w.session().project().prop_kinds.size() == kinds);
    const level::TileId second = s->tiles[1].id;
    hands.click("readJoins");
    hands.click("stage-lay");
    CHECK(road_lies(w));
    CHECK(hands.actions() <= 3);
    const level::Grid laid = w.layer("Marsh").grid();

    // The folder changes: what lies in the level stays, what is new comes behind it.
    put(w, "Lanes/a crossing.png", make::tile(255, 24, make::Style::textured, 9));
    w.drop(QString::fromStdString((w.folder / "Lanes").string()));
    s = w.session().sheet();
    CHECK(s->tiles[1].id == second);
    CHECK(s->tiles[16].name == "a crossing");
    CHECK(w.layer("Marsh").grid() == laid);

    // As props: what is in use is asked about first.
    w.click("what-props");
    CHECK(w.session().waiting());
    w.click("waitGo");
    CHECK(w.session().project().prop_kinds.size() == kinds + 17);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().prop_kinds.size() == kinds);
    CHECK(w.layer("Marsh").grid() == laid);
}

TEST_CASE("squares that are dropped at once are tiles of one sheet, others a sheet each", "[app][what]") {
    Window w;
    const auto sheets = w.session().project().sheets.size();
    std::vector<QString> files;
    for (unsigned i = 0; i < 3; ++i)
        files.push_back(put(w, "Bits/bit" + std::to_string(i) + ".png", make::tile(255, 20, make::Style::textured, i)));
    w.drop(files);
    REQUIRE(w.session().project().sheets.size() == sheets + 1);
    CHECK(w.session().sheet()->name == "Bits");
    CHECK(w.session().sheet()->tiles.size() == 3);
    files.push_back(put(w, "Bits/other.png", make::tile(255, 40, make::Style::textured, 8)));
    w.drop({files[2], files[3]});
    CHECK(w.session().project().sheets.size() == sheets + 3);
}

TEST_CASE("a lone picture is a prop in the Hand by one key, and a backdrop by a click", "[app][what]") {
    Window w;
    const auto kinds = w.session().project().prop_kinds.size();
    w.drop(put(w, "crane.png", crane()));
    CHECK(w.find<QPushButton>("takeCut")->text() == "Make it a prop");
    Hands hands(w);
    SECTION("a prop") {
        hands.key(Qt::Key_Return);
        REQUIRE(w.session().project().prop_kinds.size() == kinds + 1);
        const level::PropKind& kind = *w.session().project().prop_kinds.back();
        CHECK(kind.name == "crane");
        CHECK(kind.box.h >= 80);
        CHECK(w.session().stage() == Stage::dress);
        CHECK(w.session().hand().prop() == kind.id);
        w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
        w.clickCell({20, 20});
        CHECK(edit::placed(w.session().project(), kind.id) == 1);
        CHECK(hands.actions() == 1);
    }
    SECTION("tiles all the same, by hand") {
        w.find<QSpinBox>("tileWidth")->setValue(22);
        w.find<QSpinBox>("tileHeight")->setValue(41);
        settle();
        hands.key(Qt::Key_Return);
        CHECK(w.session().sheet()->tiles.size() == 4);
        CHECK(w.session().project().prop_kinds.size() == kinds);
    }
}

TEST_CASE("what fills its picture is a backdrop, behind everything by one key", "[app][what]") {
    Window w;
    Image hills({320, 120});
    for (int y = 0; y < 120; ++y)
        for (int x = 0; x < 320; ++x)
            if (y > 70 + (x - 160) * (x - 160) / 900)
                hills.set(x, y,
                          {static_cast<std::uint8_t>(60 + y / 2), static_cast<std::uint8_t>(90 + x / 8), 80, 255});
    w.drop(put(w, "hills.png", hills));
    const auto layers = w.level().layers.size();
    w.key(Qt::Key_Return);
    REQUIRE(w.level().layers.size() == layers + 1);
    REQUIRE(w.level().layers.front()->backdrop());
    CHECK(w.level().layers.front()->backdrop()->sheet == w.session().sheetId());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().layers.size() == layers);
}
