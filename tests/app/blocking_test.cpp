// From an empty place to a level that one can stand in: what was painted blocks as one would expect.
#include <QAction>
#include <QComboBox>
#include <QPushButton>
#include <vector>

#include "app/walk/walk_centre.hpp"
#include "app/window.hpp"
#include "edit/blocking.hpp"
#include "join/mask.hpp"
#include "player/parcel_view.hpp"
#include "walk/world.hpp"

using namespace app_test;
using edit::Blocking;

namespace {

Blocking blocking(Window& w) { return edit::blocking_of(w.session().project(), *w.session().material()); }

player::ParcelView& walking(Window& w) { return *w.find<player::ParcelView>("parcelView"); }

// A side view with a floor of a set of 47 that nobody here has seen before, in 24 px.
void lay_floor(Window& w) {
    w.click("startSide");
    const auto tiles = make::tiles(join::cases(level::JoinKind::full), 24, make::Style::see_through, 11);
    w.drop(put(w, "turf.png", make::sheet(tiles, 8, {}, {})));
    w.key(Qt::Key_Return);
    w.click("readJoins");
    REQUIRE(w.session().material());
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.view()->setCamera(1, QPointF(30.0 * 24, 20.0 * 24));
    std::vector<Point> floor;
    for (int x = 22; x < 38; ++x) floor.push_back({x, 22});
    w.dragCells(floor);
}

} // namespace

TEST_CASE("ground of a side view blocks as it is drawn, without a word", "[app][blocking]") {
    Window w(false);
    lay_floor(w);
    CHECK(w.level().cell == Size{24, 24});
    CHECK(blocking(w) == Blocking::as_drawn); // its rim is see-through
    w.stage("stage-walk");
    settle();
    REQUIRE_SOON(walking(w).isLoaded());
    REQUIRE_SOON(walking(w).world().grounded());
    CHECK(walking(w).world().foot().y == Approx(22).margin(0.6));
    // One undo takes the material and what it blocks together.
    w.stage("stage-join");
    w.picture("join-blocks");
    for (int i = 0; i < 2; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().materials.empty());
    for (const level::Tile& t : w.session().project().sheets[0]->tiles) CHECK(t.shape == level::TileShape::none);
}

TEST_CASE("what a material is in the way of is changed by one key, or chosen", "[app][blocking]") {
    Window w(false);
    lay_floor(w);
    w.stage("stage-join");
    auto* box = w.find<QComboBox>("materialBlocks");
    CHECK(box->currentText() == "blocks as drawn");
    w.key(Qt::Key_B);
    CHECK(blocking(w) == Blocking::one_way);
    CHECK(box->currentText() == "blocks from above only");
    w.key(Qt::Key_B);
    CHECK(blocking(w) == Blocking::nothing);
    w.choose("materialBlocks", "blocks whole cells");
    CHECK(blocking(w) == Blocking::full);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(blocking(w) == Blocking::nothing);
    CHECK(box->currentText() == "blocks nothing");
}

TEST_CASE("a walker that falls through ground is stopped, and the remedy is one click", "[app][blocking]") {
    Window w(false);
    lay_floor(w);
    w.stage("stage-join");
    w.choose("materialBlocks", "blocks nothing");
    w.stage("stage-walk");
    settle();
    REQUIRE_SOON(walking(w).isLoaded());
    auto* offer = w.find<QPushButton>("noticeOffer");
    REQUIRE_SOON(offer->isVisible());
    CHECK_THAT(w.notice().toStdString(), Catch::Contains("falls through Turf"));
    CHECK(offer->text() == "Turf blocks as drawn");
    w.picture("walk-falls");
    w.click("noticeOffer");
    settle();
    CHECK(blocking(w) == Blocking::as_drawn);
    REQUIRE_SOON(walking(w).isLoaded());
    REQUIRE_SOON(walking(w).world().grounded());
    CHECK_FALSE(offer->isVisible());
}
