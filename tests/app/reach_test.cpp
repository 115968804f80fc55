// Reach in the window: what is shown, where one lands, and a ledge that is brought within reach.
#include <QLabel>
#include <QListView>
#include <QTest>

#include "app/parts/card_list.hpp"
#include "app/view/level_view.hpp"
#include "app/window.hpp"
#include "walk/reach.hpp"

using namespace vic;
using namespace vic::app;
using namespace app_test;

namespace {

// The cellar without the catwalk that leads up to the gallery.
void take_catwalk_away(Window& w) {
    w.session().setLevel("pump-cellar");
    level::Level level = w.level();
    for (const level::LayerRef& layer : w.level().layers)
        if (layer->name == "Catwalks")
            for (int y = 17; y < 18; ++y)
                for (int x = 43; x < 54; ++x) level.edit(layer->id).grid().set({x, y}, level::Cell(), 0);
    w.session().applyLevel("Take a catwalk away", std::move(level));
    settle();
}

} // namespace

TEST_CASE("Reach shows what one gets to, live, and says what a ledge lacks", "[app][bound][reach]") {
    Window w;
    w.session().setLevel("brine-pans");
    w.stage("stage-bound");
    CHECK_FALSE(w.find<QWidget>("showReach")->isVisible()); // seen from above
    w.session().setLevel("pump-cellar");
    settle();
    w.click("showReach");
    const walk::Reach* reach = w.view()->reach().reach();
    REQUIRE(reach);
    REQUIRE(reach->begins());
    const std::int64_t all = reach->reachable();
    CHECK(w.find<QLabel>("reachOut")->text().contains(QString::number(all)));
    w.view()->setCamera(2, {47.0 * 16, 20.0 * 16});
    w.hover({47, 21});
    REQUIRE_SOON(w.reading().contains("Reached"));
    take_catwalk_away(w);
    reach = w.view()->reach().reach();
    REQUIRE(reach);
    CHECK(reach->reachable() < all);
    w.hover({40, 14});
    REQUIRE_SOON(w.reading().contains("Out of reach"));
    w.key(Qt::Key_Y, Qt::ShiftModifier);
    CHECK_FALSE(w.view()->reach().on());
}

TEST_CASE("a mark out of reach is told in Bound, and the cell that mends it is taken with a click",
          "[app][bound][reach]") {
    Window w;
    take_catwalk_away(w);
    w.stage("stage-bound");
    auto* list = w.find<CardList>("leakList");
    REQUIRE_SOON(list->isVisible() && list->model()->rowCount() > 0);
    w.clickRow(list, 0);
    REQUIRE(w.view()->reach().on());
    w.picture("look-remedy");
    const auto unreached = [&] {
        const walk::Reach reach(w.session().project(), w.level());
        int count = 0;
        for (const level::Mark& m : w.level().marks)
            count += m.kind != level::MarkKind::start && m.figure == 0 &&
                     !reach.touches({m.cells.x * 64, m.cells.y * 64, m.cells.w * 64, m.cells.h * 64});
        return count;
    };
    const int before = unreached();
    REQUIRE(before > 0);
    REQUIRE(w.find<QWidget>("leakFill")->isVisible());
    w.click("leakFill");
    CHECK(unreached() < before);
    w.picture("look-remedied");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(unreached() == before);
}

TEST_CASE("a ledge that is just out of reach is moved to where one gets to it, with a click", "[app][bound][reach]") {
    Window w;
    take_catwalk_away(w);
    level::Project project = w.session().project();
    level::Level level = w.level();
    // A beam under the ceiling, a cell too far from where he could jump off.
    const int top = 16;
    level::Layer beam;
    beam.id = project.next_id++;
    beam.name = "Beam";
    level::Blockers cells(level.size);
    for (int x = 30; x < 33; ++x) cells.set({x, top}, level::TileShape::full);
    beam.content = cells;
    level.layers.push_back(std::make_shared<const level::Layer>(beam));
    level.marks.push_back({project.next_id++, "On the beam", level::MarkKind::note, {31, top - 1, 1, 1}});
    project.put(level);
    w.session().apply("Beam", project);
    w.stage("stage-bound");
    auto* list = w.find<CardList>("leakList");
    const auto beam_card = [&] {
        for (int row = 0; row < static_cast<int>(list->cards().size()); ++row)
            if (list->cards()[static_cast<std::size_t>(row)].title == "Out of reach: On the beam") return row;
        return -1;
    };
    REQUIRE_SOON(beam_card() >= 0);
    w.clickRow(list, beam_card());
    REQUIRE(w.find<QWidget>("leakShift")->isVisible());
    w.picture("look-shift");
    w.click("leakShift");
    REQUIRE_SOON(beam_card() < 0);
    CHECK(w.level().layers.back()->blockers()->shape({31, top}) != level::TileShape::full);
    CHECK(w.level().marks.back().cells.corner() != Point{31, top - 1});
    w.key(Qt::Key_Z, Qt::ControlModifier);
    REQUIRE_SOON(beam_card() >= 0);
    CHECK(w.level().layers.back()->blockers()->shape({31, top}) == level::TileShape::full);
}
