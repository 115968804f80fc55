// Pieces that stand free, in the window: a bought house, things on one another, and what is seen aslant taken by a
// click.
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QMenu>
#include <QMouseEvent>

#include "app/house_window.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/merged_mass.hpp"
#include "edit/levels.hpp"
#include "edit/placing.hpp"
#include "edit/props.hpp"
#include "kit/models.hpp"
#include "level/standing.hpp"
#include "scene/hit.hpp"

using namespace vic;
using namespace vic::app;

using namespace app_test;

namespace {

struct ThingWindow : HouseWindow {
    // A level of its own, seen from above, with a layer for props.
    void yard() {
        REQUIRE_SOON(!session().bodies().all().empty());
        level::Project p = session().project();
        level::Level empty = level::make_level(p, "Yard", {24, 18}, {32, 32}, level::View::from_above);
        const std::string id = empty.id;
        p.put(std::move(empty));
        session().apply("A level", std::move(p));
        session().setLevel(id);
        settle();
    }
    // A house of one piece: walls, a roof over them, a porch to its front.
    QString house() {
        kit_test::Model model;
        const auto walls = model.box("walls", {-2.3, 0, -1.7}, {2.3, 3, 1.7}, {}, false);
        const auto roof = model.box("roof", {-2.6, 3, -2}, {2.6, 3.4, 2}, {}, false);
        const auto porch = model.box("porch", {-0.6, 0, 1.7}, {0.6, 0.2, 2.4}, {}, false);
        model.json["nodes"].push_back({{"name", "Keeper's house"}, {"children", {walls, roof, porch}}});
        model.json["scenes"][0]["nodes"].push_back(model.json["nodes"].size() - 1);
        const fs::path file = folder / "keepers-house.glb";
        write_file(file, model.glb());
        return QString::fromStdString(file.string());
    }
    level::PropKindId kind(const std::string& name) {
        for (const auto& k : session().project().prop_kinds)
            if (k->name == name) return k->id;
        return 0;
    }
    std::vector<level::Prop> standing() {
        std::vector<level::Prop> out;
        for (const level::LayerRef& layer : level().layers)
            if (layer->has_props())
                for (const level::Prop& p : layer->props()) out.push_back(p);
        return out;
    }
    QPoint pixelOf(Point pixel) {
        const Size cell = level().cell;
        return view()->placeOf(QPointF(double(pixel.x) / cell.w, double(pixel.y) / cell.h)).toPoint();
    }
    void hold(level::PropKindId id) {
        edit::Hand hand = session().hand();
        hand.holds = edit::held::Prop{id, {}};
        session().setHand(hand);
    }
};

} // namespace

TEST_CASE("journey: a bought house placed, faced and clear of trees", "[app][kit][thing]") {
    ThingWindow w;
    w.yard();
    w.stage("stage-dress");
    // Trees: any prop with a foot that stands, all round the place.
    level::PropKindId tree = 0;
    for (const auto& k : w.session().project().prop_kinds)
        if (!k->flat && !k->foot.empty() && k->body == 0 && !k->is_ensemble() && tree == 0) tree = k->id;
    REQUIRE(tree != 0);
    level::LayerId layer = 0;
    for (const level::LayerRef& l : w.level().layers)
        if (std::holds_alternative<level::PlacedProps>(l->content)) layer = l->id;
    REQUIRE(layer != 0);
    level::Level planted = w.level();
    std::uint32_t id = w.session().project().next_id;
    for (const Point at : {Point{300, 260}, {340, 300}, {420, 250}, {380, 330}})
        planted = edit::add_prop(planted, layer, {id++, tree, at});
    w.session().applyDressed("Plant", planted, {}, id);
    const std::size_t trees = w.standing().size();
    const QString file = w.house();
    w.view()->setCamera(1, {12.0 * 32, 9.0 * 32});
    settle();
    int actions = 0;
    w.drop(file), ++actions;
    REQUIRE_SOON(w.find<QWidget>("kitPage")->isVisible());
    w.picture("thing-kit");
    w.key(Qt::Key_Return), ++actions;
    REQUIRE_SOON(w.session().hand().is<edit::held::Prop>());
    REQUIRE_SOON(w.session().bodies().all().size() == 4);
    CHECK(w.session().stage() == Stage::dress);
    const level::PropKindId house = w.kind("keepers-house");
    CHECK(w.session().hand().prop() == house);
    QTest::mousePress(w.view(), Qt::LeftButton, {}, w.pixelOf({360, 290})), ++actions;
    const QPointF east = w.pixelOf({500, 290});
    QMouseEvent move(QEvent::MouseMove, east, w.view()->mapToGlobal(east), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(w.view(), &move);
    settle();
    CHECK(w.reading().contains("K"));
    w.picture("thing-in-the-way");
    QTest::keyClick(w.view(), Qt::Key_K), ++actions;
    QTest::mouseRelease(w.view(), Qt::LeftButton, {}, w.pixelOf({500, 290}));
    settle();
    INFO("took " << actions << " actions");
    CHECK(actions == 4);                       // as docs/journeys.md says; at most 5
    REQUIRE(w.standing().size() == trees + 1); // once
    const std::vector<level::Prop> all = w.standing();
    const auto placed = std::find_if(all.begin(), all.end(), [&](const level::Prop& p) { return p.kind == house; });
    REQUIRE(placed != all.end());
    CHECK(placed->look.turn == 2700); // its front looked to the south
    CHECK(edit::Ground(w.session().project(), w.level(), {}).stand(*placed).way == edit::InTheWay::nothing);
    w.picture("thing-plan");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->pieces() >= 1);
    // Aslant, too, one sees what a second one would run into: it is filled, the other framed.
    SolidView* const solid = w.solid().view();
    const auto hover = [&](float x, float z) {
        const QPointF at = solid->seenPlace({x, 0, z});
        QMouseEvent over(QEvent::MouseMove, at, solid->mapToGlobal(at), Qt::NoButton, Qt::NoButton, {});
        QApplication::sendEvent(solid, &over);
        settle();
    };
    const auto cells = [&](int pixels) { return static_cast<float>(pixels) / static_cast<float>(w.level().cell.w); };
    hover(cells(placed->at.x) + 1, cells(placed->at.y) + 0.5F);
    REQUIRE_SOON(solid->hinderedSeen() == 2);
    w.picture("thing-in-the-way-aslant");
    hover(3, 3);
    REQUIRE_SOON(solid->hinderedSeen() == 0);
    w.key(Qt::Key_Escape);
    REQUIRE_SOON(solid->pieces() == 1);
    w.picture("thing-aslant");
    // One undo takes it away.
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.standing().size() == trees);
}

TEST_CASE("what is seen aslant is taken by a click, and things stand on one another", "[app][kit][thing]") {
    ThingWindow w;
    w.yard();
    w.stage("stage-cut");
    level::Project p = w.session().project();
    level::SheetId sheet = 0;
    for (const auto& s : p.sheets)
        if (s->kit && sheet == 0) sheet = s->id;
    w.session().setSheet(sheet);
    w.session().setTiles({w.piece("Pump")});
    settle();
    w.click("propsOfTiles");
    const level::PropKindId pump = w.kind("Pump");
    REQUIRE(pump != 0);
    CHECK(w.session().project().prop_kind(pump)->body == w.piece("Pump"));
    w.stage("stage-dress");
    w.hold(pump);
    w.view()->setCamera(1, {12.0 * 32, 9.0 * 32});
    settle();
    w.clickCell({8, 8});
    REQUIRE(w.standing().size() == 1);
    CHECK(w.standing()[0].at == Point{8 * 32 + 16, 8 * 32 + 16}); // its own cell lies on the level's
    // Another on top of it.
    w.click("optionRests");
    clickEntry(shownMenu("restMenu"), "on what lies there");
    CHECK(w.session().options().rests == edit::Rests::on_top);
    w.clickCell({8, 8});
    REQUIRE(w.standing().size() == 2);
    std::vector<level::Prop> all = w.standing();
    const level::Prop upper = all[0].of_its_own().up > all[1].of_its_own().up ? all[0] : all[1];
    const level::Prop lower = upper.id == all[0].id ? all[1] : all[0];
    CHECK(lower.of_its_own().up == 0);
    CHECK(upper.of_its_own().up > 16);
    // Aslant: a click on the upper one's top takes it, though the plane behind it is another place.
    w.key(Qt::Key_Escape);
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->pieces() == 2);
    SolidView* const solid = w.solid().view();
    const auto placed = scene::placed_in(w.session().project(), w.level(), w.session().bodies().all(), 0);
    const auto top = std::find_if(placed.begin(), placed.end(), [&](const auto& q) { return q.prop == upper.id; });
    REQUIRE(top != placed.end());
    const scene::Model model = scene::at_its_place(w.session().bodies().models().of(top->kit, top->piece), *top->free);
    const QPointF at = solid->seenPlace(
        {(model.least[0] + model.most[0]) / 2, model.most[1] - 0.02F, (model.least[2] + model.most[2]) / 2});
    w.clickAt(solid, at.toPoint());
    CHECK(w.session().chosen().props == std::set<level::PropId>{upper.id});
    w.picture("thing-on-top");
    // It is lifted, and lies down again.
    auto* up = w.find<QDoubleSpinBox>("propUp");
    REQUIRE(up->isVisible());
    CHECK(up->value() == Approx(upper.of_its_own().up / 64.0).margin(0.01));
    up->setFocus();
    up->selectAll();
    QTest::keyClicks(up, "2");
    QTest::keyClick(up, Qt::Key_Return);
    CHECK(edit::find_prop(w.level(), upper.id)->of_its_own().up == 128);
    w.view()->setFocus();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(edit::find_prop(w.level(), upper.id)->of_its_own().up == upper.of_its_own().up);
    CHECK_FALSE(w.find<QComboBox>("propFaces")->isVisible()); // a body has no picture to turn
    // In Bound both block, one over the other.
    w.stage("stage-bound");
    const auto merged = [&] {
        const auto mass = w.session().mass().of(w.session().bodies().all());
        return mass && mass->level == w.session().levelRef() && mass->pieces == 2;
    };
    REQUIRE_SOON(merged());
    w.picture("thing-bound");
}

TEST_CASE("one prop faces the eye otherwise than its kind", "[app][thing]") {
    ThingWindow w;
    w.session().setLevel("reed-bank");
    w.stage("stage-dress");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->cards() > 100);
    const int before = w.solid().view()->cards();
    level::PropId one = 0;
    for (const level::Prop& p : w.standing()) {
        const level::PropKind* k = w.session().project().prop_kind(p.kind);
        if (one == 0 && k && !k->flat && !k->is_ensemble() && k->stands == level::Stands::facing) one = p.id;
    }
    REQUIRE(one != 0);
    edit::Chosen chosen;
    chosen.props = {one};
    w.session().setChosen(chosen);
    settle();
    w.choose("propFaces", "that, crossed");
    CHECK(edit::find_prop(w.level(), one)->of_its_own().stands == level::Stands::crossed);
    REQUIRE_SOON(w.solid().view()->cards() == before + 1);
    w.choose("propFaces", "as its kind");
    CHECK_FALSE(edit::find_prop(w.level(), one)->of_its_own().stands);
}

TEST_CASE("walls run on the lines between cells, by the same tools", "[app][kit][thing]") {
    ThingWindow w;
    w.yard();
    w.stage("stage-lay");
    w.pickMaterial("Plank floor");
    w.key(Qt::Key_R);
    w.view()->setCamera(1, {12.0 * 32, 9.0 * 32});
    settle();
    w.drag({4, 4}, {8, 7});
    const level::LayerId floors = w.session().activeLayerId();
    w.click("addLayer");
    clickEntry(shownMenu("addLayerMenu"), "Tiles on the lines");
    const level::LayerId walls = w.session().activeLayerId();
    REQUIRE(walls != floors);
    CHECK(w.level().layer(walls)->shift == Point{1, 1});
    w.pickMaterial("Brick wall");
    w.click("optionRim");
    // From the corner before the floor to the one behind it: the pointer counts the layer's own cells.
    w.drag({3, 3}, {8, 7});
    const level::Grid& grid = w.level().layer(walls)->grid();
    for (const Point at : {Point{3, 3}, Point{8, 7}, Point{3, 7}, Point{8, 3}, Point{5, 3}, Point{3, 5}})
        CHECK_FALSE(grid.cell(at).empty());
    CHECK(grid.cell({5, 5}).empty());
    CHECK_FALSE(w.level().layer(floors)->grid().cell({4, 4}).empty()); // neither wipes out the other
    // Its cells are where they are seen: the corner of four floors is the middle of one.
    CHECK(w.view()->cellAt(w.pixelOf({4 * 32, 4 * 32})) == Point{3, 3});
    CHECK(w.view()->cellAt(w.pixelOf({4 * 32 + 15, 4 * 32 + 15})) == Point{3, 3});
    CHECK(w.view()->cellAt(w.pixelOf({4 * 32 + 17, 4 * 32 + 17})) == Point{4, 4});
    w.picture("thing-lines-plan");
    w.key(Qt::Key_F6);
    REQUIRE_SOON(w.solid().view()->pieces() == 5 * 4 + 2 * (6 + 5) - 4);
    w.picture("thing-lines");
}
