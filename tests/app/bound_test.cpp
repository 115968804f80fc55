// Bound as a designer works it: what is used here, what it is to a walker, and who decides at a place.
#include <QItemSelectionModel>
#include <QLabel>
#include <QTest>
#include <QToolButton>
#include <algorithm>

#include "app/bounding.hpp"
#include "app/parts/card_list.hpp"
#include "app/window.hpp"
#include "edit/blocking.hpp"
#include "player/parcel_view.hpp"

using namespace app_test;

TEST_CASE("what is used here says what it is to a walker, and is told otherwise there", "[app][bound]") {
    Bound w;
    CHECK(w.card("Brine").state == "blocks whole cells");
    CHECK(w.card("Marsh").state == "blocks nothing");
    CHECK(w.card("Clay").under.endsWith(" here"));
    w.pick("Marsh");
    w.picture("bound-used");
    const QString outlines = w.find<QLabel>("outlinesOut")->text();
    CHECK_FALSE(w.find<QToolButton>("usedLayers")->isVisible());
    w.click("usedFull");
    CHECK(edit::blocking_of(w.session().project(), w.material("Marsh")) == edit::Blocking::full);
    // Its layer does not listen: that is said, and mended there.
    CHECK(w.card("Marsh").state.contains("its layer does not"));
    CHECK(w.card("Marsh").looks);
    CHECK(w.find<QLabel>("outlinesOut")->text() == outlines);
    w.click("usedLayers");
    CHECK(w.layer("Marsh").solid());
    CHECK(w.card("Marsh").state == "blocks whole cells");
    CHECK(w.find<QLabel>("outlinesOut")->text() != outlines);
    // Several at once, and all of it is one step each.
    w.pick("Brine", Qt::ControlModifier);
    w.click("usedNothing");
    CHECK(w.card("Marsh").state == "blocks nothing");
    CHECK(w.card("Brine").state == "blocks nothing");
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.card("Brine").state == "blocks whole cells");
    CHECK(w.card("Marsh").state == "blocks nothing");
    CHECK_FALSE(w.layer("Marsh").solid());
}

TEST_CASE("who decides is said where one points: at a pan, on a bridge, at a prop", "[app][bound]") {
    Bound w;
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    w.hover({43, 17});
    CHECK(w.reading().contains("\"Brine\" on \"Pans\" blocks here"));
    w.view()->setCamera(2, {70.0 * 16, 31.0 * 16});
    w.hover({70, 30}); // the boardwalk over the creek
    CHECK(w.reading().contains("Open"));
    w.hover({70, 27});
    CHECK(w.reading().contains("\"Creek\" on \"Pans\" blocks here"));
    // A wind pump stands on its foot.
    w.view()->setCamera(2, {36.0 * 16, 14.0 * 16});
    w.hover({36, 14});
    CHECK(w.reading().contains("\"Wind pump\" on \"Props\""));
    w.picture("bound-who");
}

TEST_CASE("one stroke makes a ford through a pan, another a fence where none is drawn", "[app][bound]") {
    Bound w;
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    w.key(Qt::Key_N);
    CHECK(w.session().tool() == Tool{"MayWalk"});
    w.hover({43, 17});
    CHECK(w.reading().contains("one may walk"));
    CHECK(w.reading().contains("\"Brine\" on \"Pans\" blocks here"));
    const auto layers = w.session().level()->layers.size();
    w.drag({41, 17}, {45, 17});
    REQUIRE(w.session().level()->layers.size() == layers + 1);
    const level::Layer& words = *w.session().level()->layers.back();
    REQUIRE(words.blockers());
    CHECK(words.blockers()->shape({43, 17}) == level::TileShape::opens);
    w.hover({43, 17});
    CHECK(w.reading().contains("Open: the cell's own word"));
    w.picture("bound-ford");
    w.key(Qt::Key_N, Qt::ShiftModifier);
    w.drag({41, 19}, {45, 19});
    CHECK(w.session().level()->layers.size() == layers + 1);
    CHECK(w.session().level()->layers.back()->blockers()->shape({42, 19}) == level::TileShape::full);
    // The right button takes the word back; all of it goes away with undo.
    w.clickCell({43, 17}, Qt::RightButton);
    CHECK(w.session().level()->layers.back()->blockers()->shape({43, 17}) == level::TileShape::none);
    CHECK(w.session().level()->layers.back()->blockers()->shape({42, 17}) == level::TileShape::opens);
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().level()->layers.size() == layers);
    // Its tools are Bound's own.
    w.stage("stage-lay");
    CHECK(w.session().tool() == Tool::pencil);
    CHECK_FALSE(w.find<QToolButton>("toolMayWalk")->isVisible());
    w.key(Qt::Key_N);
    CHECK(w.session().stage() == Stage::bound);
}

TEST_CASE("a leak is found by soaking and closed by one stroke", "[app][bound][soak]") {
    Bound w;
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    CHECK_FALSE(w.find<QToolButton>("showSoak")->isChecked());
    w.hover({35, 20}); // the dyke
    w.key(Qt::Key_D);
    REQUIRE(w.view()->soak().on());
    CHECK(w.find<QToolButton>("showSoak")->isChecked());
    CHECK(w.view()->soak().soaked().rims.empty()); // it ends at fences, or leads on
    w.picture("soak");
    // What was said gives way to the place after a while.
    w.hover({36, 20});
    REQUIRE_SOON(w.reading().contains("Wet"));
    w.hover({43, 17});
    CHECK(w.reading().contains("Dry"));
    // A ford into the pan: it runs there, too, while the stroke is drawn.
    w.key(Qt::Key_N);
    w.drag({38, 17}, {43, 17});
    CHECK(w.view()->soak().soaked().touches({43, 17, 1, 1}));
    w.hover({42, 17});
    REQUIRE_SOON(w.reading().contains("Wet"));
    w.picture("soak-ford");
    // And stays out again behind a fence.
    w.key(Qt::Key_N, Qt::ShiftModifier);
    w.drag({40, 17}, {40, 17});
    CHECK_FALSE(w.view()->soak().soaked().touches({43, 17, 1, 1}));
    w.key(Qt::Key_D);
    CHECK_FALSE(w.view()->soak().on());
    // The button soaks from the start.
    w.click("showSoak");
    CHECK(w.view()->soak().on());
    CHECK_FALSE(w.view()->soak().soaked().shut_in);
    w.click("showSoak");
    CHECK_FALSE(w.view()->soak().on());
}

TEST_CASE("what leaks is listed in Bound with what mends it", "[app][bound][soak]") {
    Bound w;
    REQUIRE_SOON(w.find<QLabel>("leaksNone")->isVisible());
    // The west side leads nowhere any more.
    level::Level level = *w.session().level();
    level.sides[3] = {};
    w.session().applyLevel("Sides", level);
    auto* leaks = w.find<CardList>("leakList");
    REQUIRE_SOON(leaks->cards().size() == 1);
    CHECK(leaks->cards()[0].title == "The west side is open");
    w.picture("bound-leaks");
    w.clickAt(leaks->viewport(), leaks->cardCentre(leaks->cards()[0].id));
    CHECK(w.view()->soak().on());
    CHECK(w.view()->soak().soaked().rims.size() == 1);
    w.picture("bound-leak-chosen");
    w.click("leakClose");
    REQUIRE_SOON(leaks->cards().empty());
    CHECK(w.view()->soak().soaked().rims.empty());
    CHECK(w.session().level()->layers.back()->blockers()->shape({0, 30}) == level::TileShape::full);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    REQUIRE_SOON(leaks->cards().size() == 1);
    w.click("leakLetBe");
    REQUIRE_SOON(leaks->cards().empty());
    CHECK(w.session().level()->sides[3].kind == level::SideKind::leads);
    // Of several sides one is chosen, or all are closed at once.
    level = *w.session().level();
    level.sides = {};
    w.session().applyLevel("Sides", level);
    REQUIRE_SOON(leaks->cards().size() >= 3);
    CHECK(w.find<QToolButton>("leakClose")->text() == "Close all");
    w.click("leakClose");
    REQUIRE_SOON(leaks->cards().empty());
}

TEST_CASE("blockers are drawn free of the lattice: a box, a shape corner by corner, a line", "[app][bound]") {
    Bound w;
    w.view()->setCamera(2, {30.0 * 16, 30.0 * 16});
    w.key(Qt::Key_D, Qt::ShiftModifier);
    REQUIRE(w.session().tool() == Tool{"DrawBlocker"});
    const QString before = w.find<QLabel>("shapesIn")->text();
    const auto free = [&] { return w.session().level()->layers.back()->blockers()->free(); };
    w.drag({20, 30}, {24, 32}); // from the middle of one cell to that of another
    REQUIRE(w.session().level()->layers.back()->blockers());
    REQUIRE(free().size() == 1);
    CHECK(free()[0].points.size() == 4);
    CHECK(level::cells_of(free()[0]).contains(Point{22, 31}));
    // Corner by corner; Enter closes it.
    for (const Point cell : {Point{28, 28}, Point{33, 29}, Point{31, 33}}) w.clickCell(cell);
    CHECK(free().size() == 1);
    w.picture("bound-drawing");
    w.key(Qt::Key_Return);
    REQUIRE(free().size() == 2);
    CHECK(free()[1].points.size() == 3);
    // As a line; a double click ends it. Esc puts one away that is not done.
    w.click("optionBlockerLine");
    w.clickCell({36, 30});
    w.key(Qt::Key_Escape);
    w.drag({36, 26}, {40, 29});
    REQUIRE(free().size() == 3);
    CHECK(free()[2].line());
    // One that lets one walk.
    w.click("optionBlockerLine");
    w.click("optionBlockerOpens");
    w.drag({21, 31}, {23, 33});
    REQUIRE(free().size() == 4);
    CHECK(free()[3].opens);
    w.hover({22, 31});
    CHECK(w.reading().contains("Open"));
    w.picture("bound-free");
    CHECK(w.find<QLabel>("shapesIn")->text() != before);
    CHECK(w.card("Own words").state == "blockers: 4 of them free");
    // The right button takes it away again.
    w.clickCell({22, 31}, Qt::RightButton);
    CHECK(free().size() == 3);
    // A line that crosses itself is none, and says why.
    w.click("optionBlockerOpens");
    for (const Point cell : {Point{20, 20}, Point{24, 24}, Point{24, 20}, Point{20, 27}}) w.clickCell(cell);
    w.key(Qt::Key_Return);
    CHECK(free().size() == 3);
    CHECK(w.notice().contains("crosses"));
}

TEST_CASE("a try begins where one points, and again there", "[app][bound][walk]") {
    Bound w;
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    w.hover({35, 20});
    w.key(Qt::Key_J, Qt::ShiftModifier);
    REQUIRE(w.session().stage() == Stage::walk);
    auto* view = w.window->findChild<player::ParcelView*>();
    REQUIRE(view);
    REQUIRE_SOON(view->isLoaded());
    CHECK(std::abs(view->world().foot().x - 35.5) < 0.3);
    CHECK(std::abs(view->world().foot().y - 20.5) < 0.3);
    QTest::keyPress(view, Qt::Key_Right);
    REQUIRE_SOON(view->world().foot().x > 36.5);
    QTest::keyRelease(view, Qt::Key_Right);
    QTest::keyClick(view, Qt::Key_R);
    CHECK(std::abs(view->world().foot().x - 35.5) < 0.6);
    // Once left, a try begins at the start again.
    w.stage("stage-bound");
    w.stage("stage-walk");
    REQUIRE_SOON(view->isLoaded() && std::abs(view->world().foot().x - 35.5) > 5);
}

TEST_CASE("what only looks so is listed in Bound, each with what mends it", "[app][bound][looks]") {
    Bound w;
    auto* leaks = w.find<CardList>("leakList");
    REQUIRE_SOON(w.find<QLabel>("leaksNone")->isVisible());
    const auto choose = [&](const char* title) {
        const auto find = [&] {
            return std::find_if(leaks->cards().begin(), leaks->cards().end(),
                                [&](const Card& c) { return c.title == title; });
        };
        REQUIRE_SOON(find() != leaks->cards().end());
        const auto found = find();
        leaks->scrollTo(leaks->indexAt(leaks->cardCentre(found->id)));
        w.clickAt(leaks->viewport(), leaks->cardCentre(found->id));
    };
    // A fence with a gap.
    level::Level level = *w.session().level();
    level::Project project = w.session().project();
    level::Layer fence;
    fence.id = project.next_id++;
    fence.name = "Fence";
    level::Blockers cells(level.size);
    const Point at{level.size.w / 2, 2};
    for (int x = -6; x <= 6; ++x) cells.set(at + Point{x, 0}, level::TileShape::full);
    cells.set(at, level::TileShape::none);
    fence.content = cells;
    // On ground where nothing else blocks.
    for (level::LayerRef& layer : level.layers)
        if (layer->solid()) level.edit(layer->id).tiles()->solid = false;
    level.layers.push_back(std::make_shared<const level::Layer>(fence));
    project.put(level);
    w.session().apply("Fence", project);
    choose("A gap of one cell");
    CHECK_FALSE(w.view()->soak().on());
    w.picture("bound-gap");
    w.click("leakLetBe");
    REQUIRE(w.level().marks.back().name == "Way through");
    CHECK(w.level().marks.back().cells.corner() == at);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    choose("A gap of one cell");
    w.click("leakClose");
    CHECK(w.level().layers.back()->blockers()->shape(at) == level::TileShape::full);
    // Shapes that no layer hears: now the layers block again.
    const auto unheard = [&] {
        return std::find_if(leaks->cards().begin(), leaks->cards().end(),
                            [](const Card& c) { return c.title.endsWith("blocks nobody"); });
    };
    REQUIRE_SOON(unheard() != leaks->cards().end());
    const auto count = [&] {
        return std::count_if(w.level().layers.begin(), w.level().layers.end(),
                             [](const auto& l) { return l->solid(); });
    };
    CHECK(count() == 0);
    w.clickAt(leaks->viewport(), leaks->cardCentre(unheard()->id));
    w.click("leakClose");
    CHECK(count() > 0);
    // A door of which the game knows nothing.
    project = w.session().project();
    level::PropKind kind;
    for (const auto& k : project.prop_kinds)
        if (!k->is_ensemble() && k->areas.empty() && k->notes.empty()) kind = *k;
    kind.name = "Sluice door";
    project.put(kind);
    level = *w.session().level();
    for (const level::LayerRef& layer : level.layers)
        if (layer->has_props()) {
            level::Prop one;
            one.id = project.next_id++;
            one.kind = kind.id;
            one.at = {at.x * 16, at.y * 16 + 40};
            level.edit(layer->id).props().put(one);
            break;
        }
    project.put(level);
    w.session().apply("Door", project);
    const char* door = "\"Sluice door\" tells nobody";
    REQUIRE_SOON(
        std::any_of(leaks->cards().begin(), leaks->cards().end(), [&](const Card& c) { return c.title == door; }));
    choose(door);
    w.picture("bound-door");
    w.click("leakClose");
    REQUIRE(w.session().project().prop_kind(kind.id)->areas.size() == 1);
    CHECK(w.session().project().prop_kind(kind.id)->areas[0].name == "Door");
    CHECK(w.session().project().area_kinds.back().name == "Door");
}
