// A large picture as one thing, the size of props, sampling and the engine's unit, by mouse.
#include "app/window.hpp"

#include <QComboBox>
#include <QLabel>
#include <QPointF>
#include <QPushButton>
#include <QSpinBox>
#include <QTest>

#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/standing.hpp"
#include "picture/compose.hpp"

using namespace app_test;

TEST_CASE("a whole picture is placed as one thing and built in pieces", "[app][cut][scale]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[10]->id); // the silt, one picture of 64 x 64
    CHECK(w.find<QPushButton>("wholePicture")->isVisible());
    w.click("wholePicture");
    const level::PropKind& kind = *w.session().project().prop_kinds.back();
    CHECK(kind.name == "Silt");
    CHECK(w.session().hand().prop() == kind.id);
    const auto id = kind.id;
    w.click("modeIslands");
    auto* view = w.find<SheetView>("sheetView");
    w.clickAt(view, view->placeOf({30, 30}));
    auto* piece = w.find<QSpinBox>("kindPiece");
    REQUIRE(piece->isVisible());
    type(w.find<QSpinBox>("kindFactor"), "3");
    CHECK(w.session().project().prop_kind(id)->factor == 3);
    type(piece, "64");
    CHECK(w.session().project().prop_kind(id)->piece == 64);
    CHECK(w.find<QLabel>("kindPieces")->text().contains("3 × 3 pieces of 64 × 64"));
    type(piece, "10"); // less than a piece can be
    CHECK(w.session().project().prop_kind(id)->piece == 64);
    w.stage("stage-dress");
    edit::Hand hand{edit::held::Prop{id}};
    w.session().setTool(Tool::props);
    w.session().setHand(hand);
    w.view()->setCamera(1, QPointF(30.0 * 16, 15.0 * 16));
    w.clickCell({28, 12});
    const level::Layer& props = w.layer("Props");
    REQUIRE(props.props().all().back().kind == id);
    CHECK(level::PropKinds(w.session().project()).box(props.props().all().back()).size() == Size{192, 192});
}

TEST_CASE("sampling and the engine's unit are set where the sheet is, and undone", "[app][cut][scale]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[5]->id);
    w.session().setTiles({});
    auto* sampling = w.find<QComboBox>("sheetSampling");
    REQUIRE(sampling->isVisible());
    sampling->setFocus();
    QTest::keyClick(sampling, Qt::Key_Down);
    CHECK(w.session().sheet()->smooth);
    type(w.find<QSpinBox>("engineUnit"), "24");
    CHECK(w.session().project().unit == 24);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().unit == 16);
    CHECK_FALSE(w.session().sheet()->smooth);
}
