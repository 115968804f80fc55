// The demo's houses in the window: what blocks, merged in height, and handed over.
#include <QLabel>
#include <QTest>
#include <filesystem>

#include "app/house_window.hpp"
#include "app/session/choice.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/solid/solid_view.hpp"
#include "base/files.hpp"
#include "edit/hand.hpp"

using namespace app_test;

namespace {

struct MergedWindow : HouseWindow {
    QString merged() { return find<QLabel>("solidMerged")->text(); }
};

} // namespace

TEST_CASE("what blocks of a house is merged in height, seen aslant in Bound, and handed over", "[app][kit][house]") {
    MergedWindow w;
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
    const level::LayerId walls = w.layer("Walls").id;
    w.session().setActiveLayer(walls);
    w.click("toolEraser");
    const QPoint at = w.solid().view()->placeOf({8.5, 4.5}).toPoint();
    QTest::mouseMove(w.solid().view(), at);
    w.clickAt(w.solid().view(), at);
    INFO(w.reading().toStdString() << " at " << at.x() << ", " << at.y());
    REQUIRE(w.level().layer(walls)->grid().cell({8, 4}).tile() == 0);
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

TEST_CASE("flat art stands up in late light, and a piece of several cells turns in the Hand", "[app][kit][house]") {
    MergedWindow w;
    w.session().setLevel("reed-bank");
    w.stage("stage-lay");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->cards() > 100);
    const int cards = w.solid().view()->cards();
    w.slide("sunHour", 70);
    w.slide("sunWarmth", 30);
    w.picture("reed-bank");
    w.key(Qt::Key_F8);
    w.picture("reed-bank-through");
    // One prop less stands.
    level::LayerId growth = w.layer("Growth").id;
    level::Level without = w.level();
    without.edit(growth).props().remove(without.layer(growth)->props().begin()->id);
    w.session().applyWork("Without one", without);
    settle();
    REQUIRE_SOON(w.solid().view()->cards() == cards - 1);
    w.key(Qt::Key_F5);

    w.session().setLevel("pump-house");
    level::TileId stairs = 0;
    for (const auto& sheet : w.session().project().sheets)
        if (sheet->kit)
            for (const level::KitPiece& p : sheet->kit->pieces)
                if (p.name == "Stairs" && p.turn == 0) stairs = p.tile;
    REQUIRE(stairs != 0);
    edit::Hand hand;
    hand.holds = edit::held::Tile{stairs};
    w.session().setHand(hand);
    w.session().setActiveLayer(w.layer("Fittings").id);
    w.session().setTool(Tool::pencil);
    w.key(Qt::Key_Period);
    REQUIRE(w.session().hand().tile() != stairs);
    const level::TileId turned = w.session().hand().tile();
    const Point middle = w.view()->cellAt(QPointF(w.view()->rect().center()));
    w.clickCell(middle);
    REQUIRE(w.layer("Fittings").grid().cell(middle).tile() == turned);
    w.key(Qt::Key_Comma);
    CHECK(w.session().hand().tile() == stairs);
}
