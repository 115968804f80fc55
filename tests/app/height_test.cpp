// Walking in height in the window: soak, what holds one up and its remedy, walking, a door that swaps a wall, and what
// the game sees.
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListView>
#include <QMenu>
#include <QSpinBox>
#include <QTest>
#include <QToolButton>
#include <cmath>
#include <map>

#include "app/house_window.hpp"
#include "app/parts/card_list.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/choice.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/merged_mass.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/solid/solid_view.hpp"
#include "base/files.hpp"
#include "edit/hand.hpp"
#include "edit/own_word.hpp"

using namespace app_test;

namespace {

struct HeightWindow : HouseWindow {
    void hold(const std::string& name, int turn = 0) {
        edit::Hand hand;
        hand.holds = edit::held::Tile{piece(name)};
        hand.turn = {static_cast<std::uint8_t>(turn)};
        session().setHand(hand);
        session().setTool(Tool::pencil);
    }
    level::LayerId layer_on(int storey, std::size_t which) {
        for (const level::LayerRef& l : level().layers)
            if (l->storey == storey && l->tiles() && which-- == 0) return l->id;
        return 0;
    }
    CardList& snags() { return *find<CardList>("snagList"); }
    void moveIn(QPoint at) {
        QTest::mouseMove(solid().view(), at + QPoint(3, 0));
        settle();
        QTest::mouseMove(solid().view(), at);
        settle();
        REQUIRE(view()->pointedPlace());
    }
};

} // namespace

TEST_CASE("a stair is closed, found, and opened where it is seen; the level is soaked and walked in height",
          "[app][kit][height]") {
    HeightWindow w;
    w.stage("stage-bound");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.session().mass().last() && w.find<QLabel>("snagsNone")->isVisible());
    CHECK(w.snags().cards().empty());
    // The floor above the stairs is laid shut, with the mouse.
    w.stage("stage-lay");
    w.key(Qt::Key_F5);
    const level::LayerId upper = w.layer_on(1, 0);
    REQUIRE(w.level().layer(upper)->name == "Floors");
    w.session().setActiveLayer(upper);
    w.hold("Plank floor a");
    w.view()->lookAt({20, 7});
    settle();
    w.clickCell({20, 6});
    w.clickCell({21, 6});
    REQUIRE(w.level().layer(upper)->grid().cell({21, 6}).tile() != 0);
    w.stage("stage-bound");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.snags().cards().size() >= 2);
    w.picture("height-snags");
    CHECK(w.snags().cards()[0].title == "A stair without an opening");
    CHECK(w.snags().cards()[1].title == "A mark out of reach");
    w.clickRow(&w.snags(), 0);
    CHECK(w.find<QLabel>("snagRemedy")->text().contains("Open the floor over it"));
    CHECK(w.session().activeLayer()->storey == 0);
    w.click("snagOpen");
    REQUIRE_SOON(w.snags().cards().empty() && w.find<QLabel>("snagsNone")->isVisible());
    CHECK(w.level().layer(upper)->grid().cell({21, 6}).tile() == 0);

    // Soaked from the pointer: the quay below, and the floors above where nothing is cut away.
    w.session().setActiveLayer(w.layer_on(0, 1));
    settle();
    w.moveIn(w.solid().view()->placeOf({8.5, 12}).toPoint());
    w.key(Qt::Key_D);
    REQUIRE_SOON(w.solid().view()->wetPlaces() > 3000);
    const int below = w.solid().view()->wetPlaces();
    w.picture("height-soak-lowest");
    w.session().setActiveLayer(w.layer_on(1, 0));
    REQUIRE_SOON(w.solid().view()->wetPlaces() > below + 1000);
    w.picture("height-soak");
    // In the plan, too, the colour lies on the floors of the storey, and what blocks there is drawn.
    w.key(Qt::Key_F5);
    w.hover({16, 7});
    REQUIRE_SOON(w.reading().contains("Wet: one gets here")); // what was said of the soak stays a moment first
    w.hover({16, 5});
    REQUIRE_SOON(w.reading().contains("Brick wall window"));
    CHECK_FALSE(w.reading().contains("Wet"));
    w.picture("height-soak-plan");
    // A cell's own word counts on its storey.
    w.key(Qt::Key_N);
    w.hover({16, 5});
    CHECK(w.reading().contains("in the plan alone: the piece"));
    w.key(Qt::Key_N, Qt::ShiftModifier);
    const int dry = w.view()->soak().turn();
    w.clickCell({16, 7});
    const level::LayerId words = edit::own_word_layer(w.level(), 1);
    REQUIRE(words != 0);
    CHECK(w.level().layer(words)->blockers()->shape({16, 7}) == level::TileShape::full);
    REQUIRE_SOON(w.view()->soak().turn() > dry);
    CHECK(w.reading().contains("of floors are wet")); // of a change it is said in passing, under a pointer that rests
    REQUIRE_SOON(w.reading().contains("Dry: one does not get here"));
    const int wet = w.view()->soak().turn();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    REQUIRE_SOON(w.view()->soak().turn() > wet);
    w.hover({16, 7});
    REQUIRE_SOON(w.reading().contains("Wet: one gets here"));
    CHECK(edit::own_word_layer(w.level(), 1) == 0);
    w.key(Qt::Key_F6);
    w.key(Qt::Key_D);
    REQUIRE_SOON(w.solid().view()->wetPlaces() == 0);

    // Walked: from the jetty to the gate, through one's own eyes.
    w.session().setActiveLayer(w.layer_on(0, 1));
    settle();
    w.moveIn(w.solid().view()->placeOf({9.5, 12.4}).toPoint());
    w.key(Qt::Key_J, Qt::AltModifier);
    SolidStroll& stroll = w.solid().view()->stroll();
    REQUIRE(stroll.on());
    QTest::qWait(400); // he drops onto the quay
    const auto from = stroll.foot();
    CHECK(std::abs(from[0] - 9.5) < 0.6);
    QTest::keyPress(w.view(), Qt::Key_Up);
    REQUIRE_SOON(stroll.foot()[2] < from[2] - 1.2);
    QTest::keyRelease(w.view(), Qt::Key_Up);
    QTest::qWait(100);
    w.picture("height-walk");
    QTest::keyPress(w.view(), Qt::Key_Left);
    REQUIRE_SOON(stroll.heading() > 250 && stroll.heading() < 330);
    QTest::keyRelease(w.view(), Qt::Key_Left);
    w.key(Qt::Key_Escape);
    CHECK_FALSE(stroll.on());
}

TEST_CASE("a door swaps a wall as it lies, and what fits beside a wall is offered", "[app][kit][height]") {
    HeightWindow w;
    w.stage("stage-lay");
    REQUIRE_SOON(!w.session().bodies().all().empty());
    const level::LayerId walls = w.layer("Walls").id;
    w.session().setActiveLayer(walls);
    w.view()->lookAt({16, 7});
    settle();
    // The northern wall runs from west to east, the eastern one from north to south; the same piece in the Hand.
    const auto before = w.level().layer(walls)->grid();
    w.hold("Brick wall door");
    w.hover({16, 5});
    CHECK(w.reading().contains("for Brick wall straight"));
    w.clickCell({16, 5});
    w.clickCell({22, 7});
    const level::Grid& grid = w.level().layer(walls)->grid();
    CHECK(grid.cell({16, 5}).tile() == w.piece("Brick wall door"));
    CHECK(grid.cell({16, 5}).turn().quarters() % 2 == 1);
    CHECK(grid.cell({22, 7}).tile() == w.piece("Brick wall door"));
    CHECK(grid.cell({22, 7}).turn().quarters() % 2 == 0);
    // To the other side: the Hand turned twice.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().layer(walls)->grid() == before);
    w.key(Qt::Key_Period);
    w.key(Qt::Key_Period);
    w.clickCell({22, 7});
    CHECK(w.level().layer(walls)->grid().cell({22, 7}).turn().quarters() == 2);
    // Where a wall's cell is empty, what closes there is offered.
    w.click("toolEraser");
    w.clickCell({22, 6});
    REQUIRE(w.level().layer(walls)->grid().cell({22, 6}).tile() == 0);
    w.hover({22, 6});
    w.key(Qt::Key_V, Qt::AltModifier);
    REQUIRE_SOON(w.window->findChild<QMenu*>("fitsMenu"));
    auto* menu = w.window->findChild<QMenu*>("fitsMenu");
    QStringList offered;
    for (const QAction* a : menu->actions()) offered << a->text();
    INFO(offered.join("; ").toStdString());
    const auto window =
        std::find_if(offered.begin(), offered.end(), [](const QString& t) { return t.contains("window"); });
    REQUIRE(window != offered.end());
    w.picture("height-fits");
    clickEntry(menu, *window);
    CHECK(w.session().hand().tile() == w.piece("Brick wall window"));
    w.clickCell({22, 6});
    CHECK(w.level().layer(walls)->grid().cell({22, 6}).tile() == w.piece("Brick wall window"));
}

TEST_CASE("a piece of several cells faces where one drags to", "[app][kit][height]") {
    HeightWindow w;
    w.stage("stage-lay");
    w.session().setActiveLayer(w.layer("Fittings").id);
    w.view()->lookAt({10, 8});
    settle();
    std::map<int, level::TileId> turned;
    for (const auto& sheet : w.session().project().sheets)
        if (sheet->kit)
            for (const level::KitPiece& p : sheet->kit->pieces)
                if (p.name == "Stairs") turned[p.turn] = p.tile;
    REQUIRE(turned.size() == 4);
    const auto laid = [&](Point at) { return w.layer("Fittings").grid().cell(at).tile(); };
    w.hold("Stairs");
    w.dragCells({{9, 10}, {8, 10}, {6, 10}}); // to the west
    CHECK(laid({9, 10}) == turned[1]);
    CHECK(w.session().hand().tile() == turned[1]);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(laid({9, 10}) == 0);
    w.dragCells({{9, 10}, {9, 9}, {9, 8}}); // to the north
    CHECK(laid({9, 10}) == turned[2]);
    CHECK(laid({9, 9}) != turned[2]); // and it lies there once
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.clickCell({9, 10});
    CHECK(laid({9, 10}) == turned[2]); // as it was faced last
}

TEST_CASE("light, sight and a storey's height are the level's: seen as the game shows it, and undone",
          "[app][kit][height]") {
    HeightWindow w;
    w.session().setLevel("reed-bank");
    w.stage("stage-lay");
    w.key(Qt::Key_F9);
    REQUIRE_SOON(w.solid().view()->cards() > 100);
    REQUIRE(w.find<QSlider>("sightTilt")->isVisible());
    w.picture("height-game");
    w.slide("sightTilt", 60);
    CHECK(w.level().sight.tilt == 60);
    w.slide("sightLens", 4);
    CHECK(w.level().sight.lens == 0);
    w.slide("fog", 15);
    CHECK(w.level().light.fog > 0);
    w.picture("height-game-parallel");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().light.fog == 0);
    w.key(Qt::Key_F6);
    CHECK_FALSE(w.find<QSlider>("sightTilt")->isVisible());
    CHECK(w.solid().height() == w.solid().sizeHint().height()); // no room is left of the rows that are gone
    w.stage("stage-bound");
    settle();
    CHECK(w.solid().height() == w.solid().sizeHint().height());
    w.picture("height-card");
    w.stage("stage-lay");
    w.session().setLevel("pump-house");
    REQUIRE_SOON(w.solid().view()->pieces() > 200);
    auto* high = w.find<QDoubleSpinBox>("storeyHeight");
    REQUIRE_SOON(high->value() == Approx(3));
    high->setFocus();
    high->selectAll();
    QTest::keyClicks(high, "4.5");
    QTest::keyClick(high, Qt::Key_Return);
    CHECK(w.level().storey_heights == std::map<int, int>{{0, 144}});
    w.session().setActiveLayer(w.level().layers.back()->id);
    settle();
    w.picture("height-storey");
}

TEST_CASE("journey: a house of one storey with a door", "[app][kit][height]") {
    HeightWindow w;
    w.stage("stage-lay");
    REQUIRE_SOON(!w.session().bodies().all().empty());
    level::Project p = w.session().project();
    level::Level empty = level::make_level(p, "Hut", {16, 12}, {32, 32}, level::View::from_above);
    const std::string id = empty.id;
    p.put(std::move(empty));
    w.session().apply("A level", std::move(p));
    w.session().setLevel(id);
    settle();
    int actions = 0;
    w.pickMaterial("Plank floor"), ++actions;
    w.key(Qt::Key_R), ++actions;
    w.drag({4, 3}, {9, 8}), ++actions;
    w.pickMaterial("Brick wall"), ++actions;
    w.click("optionRim"), ++actions;
    w.drag({4, 3}, {9, 8}), ++actions;
    w.hover({6, 8});
    w.picture("height-hut-before");
    w.key(Qt::Key_V, Qt::AltModifier), ++actions;
    INFO(w.reading().toStdString());
    REQUIRE_SOON(w.window->findChild<QMenu*>("fitsMenu"));
    auto* menu = w.window->findChild<QMenu*>("fitsMenu");
    QString door;
    for (const QAction* a : menu->actions())
        if (a->text().contains("door")) door = a->text();
    REQUIRE(!door.isEmpty());
    clickEntry(menu, door), ++actions;
    w.clickCell({6, 8}), ++actions;
    INFO("took " << actions << " actions");
    CHECK(actions == 9); // as docs/journeys.md says; at most 10
    w.picture("height-hut-plan");
    // Floor below, walls all round over it, and a door in the southern one, turned as that runs.
    const level::Level& level = w.level();
    bool found = false;
    for (const level::LayerRef& layer : level.layers)
        if (layer->tiles() && layer->grid().cell({6, 8}).tile() == w.piece("Brick wall door")) {
            found = true;
            CHECK(layer->grid().cell({6, 8}).turn().quarters() % 2 == 1);
            // The wall still meets it on both sides.
            const level::Cell straight = layer->grid().cell({7, 3});
            for (const Point beside : {Point{5, 8}, Point{7, 8}}) {
                CHECK(layer->grid().cell(beside).tile() == straight.tile());
                CHECK(layer->grid().cell(beside).turn().quarters() % 2 == straight.turn().quarters() % 2);
            }
            for (const Point wall : {Point{4, 3}, Point{9, 8}, Point{5, 3}, Point{4, 5}})
                CHECK_FALSE(layer->grid().cell(wall).empty());
            CHECK(layer->grid().cell({6, 5}).empty());
        }
    CHECK(found);
    // The walker gets in by the door, and nowhere else.
    const auto survey = upright::survey(w.session().project(), level, w.session().bodies().all());
    const upright::Ground& ground = *survey.ground;
    const auto inside = ground.near({6 * 64 + 32, 5 * 64 + 32}, 0),
               outside = ground.near({6 * 64 + 32, 10 * 64 + 32}, 0);
    REQUIRE(inside);
    REQUIRE(outside);
    CHECK(upright::soak(ground, outside).at(*inside));
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->pieces() > 40);
    w.picture("height-hut");
}

TEST_CASE("Walk goes on as one looks: through the eyes, as the game shows it, or in the plan",
          "[app][kit][height][walk]") {
    HeightWindow w;
    w.session().setLevel("pump-house");
    w.stage("stage-lay");
    REQUIRE_SOON(!w.session().bodies().all().empty());
    w.key(Qt::Key_F8);
    REQUIRE_SOON(w.solid().view()->pieces() > 200);
    w.key(Qt::Key_6, Qt::ControlModifier);
    REQUIRE(w.session().stage() == Stage::walk);
    SolidStroll& stroll = w.solid().view()->stroll();
    REQUIRE(stroll.on());
    CHECK(w.solid().view()->isVisible());
    CHECK(w.reading().contains("Up and Down walk"));
    REQUIRE_SOON(stroll.walks());
    QTest::qWait(300);
    w.picture("walk-eyes");
    // Nothing is painted while one walks there.
    const auto before = w.session().levelRef();
    w.clickAt(w.solid().view(), {500, 400});
    CHECK(w.session().levelRef() == before);
    // As the game shows it: to the right of the screen.
    w.key(Qt::Key_F9);
    REQUIRE(stroll.on());
    CHECK(stroll.seenByGame());
    QTest::qWait(200);
    const auto from = stroll.foot();
    QTest::keyPress(w.view(), Qt::Key_Up); // along the jetty, away from the eye
    REQUIRE_SOON(stroll.foot()[2] < from[2] - 0.8);
    QTest::keyRelease(w.view(), Qt::Key_Up);
    QTest::qWait(100);
    w.picture("walk-game");
    // His body is set beside it, and a click leads back to him.
    auto* jumps = w.find<QSpinBox>("strollJump");
    REQUIRE(jumps->isVisible());
    CHECK_FALSE(w.find<QWidget>("walkPanel")->isVisible());
    type(jumps, "150");
    CHECK(w.level().walker.upright.jump == 150);
    w.clickAt(w.solid().view(), {300, 400});
    CHECK(w.view()->hasFocus());
    w.click("strollAgain");
    REQUIRE(stroll.on());
    REQUIRE_SOON(stroll.walks());
    CHECK(stroll.foot()[2] > from[2] - 0.5);
    // In the plan it is the page that the parcel is played in.
    w.key(Qt::Key_F5);
    CHECK_FALSE(stroll.on());
    REQUIRE_SOON(w.find<QWidget>("parcelView")->isVisible());
    w.key(Qt::Key_F8);
    REQUIRE(stroll.on());
    w.key(Qt::Key_Escape);
    CHECK_FALSE(stroll.on());
    CHECK(w.session().stage() == Stage::lay);
    CHECK(w.solid().looks() == SolidSwitch::Look::through);
}

TEST_CASE("flat art is looked at standing, where there is no kit, too; a level is cut where one looks into it",
          "[app][height]") {
    Window demo;
    demo.session().setLevel("brine-pans");
    demo.stage("stage-lay");
    auto* none = demo.find<SolidSwitch>("solidSwitch");
    CHECK_FALSE(none->isVisible());
    demo.key(Qt::Key_F6);
    CHECK(none->isVisible());
    REQUIRE_SOON(none->view() && none->view()->cards() > 0);
    demo.picture("height-no-kit");
    demo.key(Qt::Key_J, Qt::AltModifier);
    REQUIRE_SOON(none->view()->stroll().walks()); // on flat ground
    demo.key(Qt::Key_Escape);
    demo.key(Qt::Key_F5);
    CHECK_FALSE(none->isVisible());
    demo.session().setLevel("pump-cellar"); // from the side
    demo.key(Qt::Key_F6);
    CHECK(none->looks() == SolidSwitch::Look::plan);

    HeightWindow w;
    w.session().setLevel("pump-house");
    w.stage("stage-lay");
    REQUIRE_SOON(!w.session().bodies().all().empty());
    w.session().setActiveLayer(w.layer_on(1, 0));
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->pieces() > 200);
    const QImage whole = w.solid().view()->grab().toImage();
    w.slide("solidSection", 55);
    settle();
    const QImage cut = w.solid().view()->grab().toImage();
    CHECK(cut != whole);
    // What is cut through shows in ink.
    const QColor ink = tokensOf(w.solid().view()).ink;
    const auto inked = [&](const QImage& image) {
        int out = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x) out += QColor(image.pixel(x, y)) == ink ? 1 : 0;
        return out;
    };
    CHECK(inked(cut) > inked(whole) + 500);
    w.picture("height-section");
    w.slide("solidSection", 0);
    CHECK(w.solid().view()->grab().toImage() == whole);
}
