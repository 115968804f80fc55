// Dress as a designer works it: placing, choosing, turning, grouping, rows, ensembles.
#include <QAction>
#include <QDoubleSpinBox>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QSlider>
#include <QSpinBox>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <algorithm>
#include <set>

#include "app/dressing.hpp"
#include "app/parts/shape_board.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/window.hpp"
#include "edit/dress.hpp"
#include "edit/levels.hpp"
#include "edit/placing.hpp"
#include "edit/props.hpp"
#include "level/standing.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "player/parcel_view.hpp"
#include "store/project_files.hpp"
#include "vicinum_level.hpp"
#include "walk/motion.hpp"

using namespace app_test;

namespace {

// Answers the dialog that asks for a name, which the next key opens.
void answerName(const QString& name) {
    auto* timer = new QTimer(qApp);
    timer->setInterval(50);
    QObject::connect(timer, &QTimer::timeout, timer, [=, tries = 0]() mutable {
        auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
        if (++tries > 100) timer->deleteLater();
        if (!dialog) return;
        timer->deleteLater();
        dialog->setTextValue(name);
        dialog->accept();
    });
    timer->start();
}

} // namespace

TEST_CASE("a prop in the Hand is turned, scaled, mirrored and tinted before it is placed", "[app][dress]") {
    Dressing w;
    w.take("Barrel");
    w.key(Qt::Key_Period);
    w.key(Qt::Key_Period);
    w.key(Qt::Key_Slash);
    w.key(Qt::Key_Plus, Qt::ControlModifier);
    w.slide("propLight", -40);
    w.hover({30, 16});
    w.picture("dress-hand");
    w.clickCell({30, 16});
    const level::Prop barrel = w.only();
    CHECK(barrel.look.mirrored);
    CHECK(barrel.look.turn == level::kFullTurn - 300); // mirrored as one sees it
    CHECK(barrel.look.scale == 150);
    CHECK(barrel.look.light == -40);
    // One key gives all of it back, in the Hand; what was placed stays so.
    w.view()->setFocus();
    w.key(Qt::Key_X);
    w.clickCell({33, 16});
    REQUIRE(w.placed().size() == 2);
    CHECK(w.placed()[1].look == level::Look{});
    CHECK(w.placed()[0].look == barrel.look);
}

TEST_CASE("dragging while one places turns a prop to where one drags", "[app][dress]") {
    Dressing w;
    w.take("Gull");
    w.drag({30, 16}, {35, 16});
    CHECK(w.only().look.turn == 2700); // its front looks right
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.drag({30, 16}, {30, 11});
    CHECK(w.only().look.turn == 1800); // and up
    // Light that is painted in is not turned.
    level::PropKind gull = *w.session().project().prop_kind(w.only().kind);
    gull.lit = true;
    level::Project p = w.session().project();
    p.put(gull);
    w.session().apply("lit", p);
    w.drag({34, 16}, {39, 16});
    REQUIRE(w.placed().size() == 2);
    CHECK(w.placed()[1].look.turn == 0);
}

TEST_CASE("where a foot would stand in another's is shown, and K pushes the prop aside", "[app][dress]") {
    Dressing w;
    w.take("Crate");
    w.clickCell({30, 16});
    w.hover({30, 16});
    CHECK(w.reading().contains("its foot stands in"));
    w.picture("dress-in-the-way");
    w.view()->setFocus();
    w.key(Qt::Key_K);
    REQUIRE(w.placed().size() == 2);
    const edit::Ground ground(w.session().project(), w.level(), {});
    for (const level::Prop& p : w.placed()) CHECK(ground.stand(p).way == edit::InTheWay::nothing);
    // A click places it all the same; what is chosen is pushed by the same key.
    w.clickCell({30, 16});
    REQUIRE(w.placed().size() == 3);
    w.emptyHand();
    w.key(Qt::Key_S);
    CHECK(w.session().tool() == Tool::choose);
    w.key(Qt::Key_A, Qt::ControlModifier);
    CHECK(w.session().chosen().props.size() == 3);
    w.key(Qt::Key_K);
    for (const level::Prop& p : w.placed())
        CHECK(edit::Ground(w.session().project(), w.level(), {}).stand(p).way == edit::InTheWay::nothing);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.placed()[0].at == w.placed()[2].at);
}

TEST_CASE("props are chosen by a box and a line, moved, copied, nudged, aligned, spaced, grouped and removed",
          "[app][dress]") {
    Dressing w;
    w.take("Barrel");
    for (const Point at : {Point{26, 14}, Point{29, 15}, Point{35, 13}}) w.clickCell(at);
    w.take("Crate");
    w.clickCell({31, 19});
    w.emptyHand();
    w.key(Qt::Key_S);
    w.drag({24, 12}, {37, 16});
    CHECK(w.session().chosen().props.size() == 3);
    w.picture("dress-chosen");
    w.menuEntry("propArrange", "arrangeMenu", "Feet in line");
    const level::PropKinds kinds(w.session().project());
    std::set<int> bottoms;
    for (const level::PropId id : w.session().chosen().props)
        bottoms.insert(kinds.box(*edit::find_prop(w.level(), id)).bottom());
    CHECK(bottoms.size() == 1);
    w.menuEntry("propArrange", "arrangeMenu", "Even gaps from left to right");
    std::vector<Box> boxes;
    for (const level::PropId id : w.session().chosen().props)
        boxes.push_back(kinds.box(*edit::find_prop(w.level(), id)));
    std::sort(boxes.begin(), boxes.end());
    CHECK(std::abs((boxes[1].x - boxes[0].right()) - (boxes[2].x - boxes[1].right())) <= 1);
    // As a group they are taken by a click on any of them.
    w.view()->setFocus();
    w.key(Qt::Key_G, Qt::ControlModifier);
    w.key(Qt::Key_Escape);
    CHECK(w.session().chosen().empty());
    const level::Prop first = w.placed()[0];
    const Point cell = w.level().geometry().cell_at({first.at.x, first.at.y - 2});
    w.clickCell(cell);
    CHECK(w.session().chosen().props.size() == 3);
    w.key(Qt::Key_Right);
    w.key(Qt::Key_Right);
    CHECK(w.placed()[0].at == first.at + Point{2, 0});
    w.key(Qt::Key_Z, Qt::ControlModifier); // nudges are one step
    CHECK(w.placed()[0].at == first.at);
    // Alt copies, as a group of their own.
    w.drag(cell, {cell.x, cell.y + 6}, Qt::AltModifier);
    CHECK(w.placed().size() == 7);
    CHECK(w.session().chosen().props.size() == 3);
    const level::Prop copy = *edit::find_prop(w.level(), *w.session().chosen().props.begin());
    CHECK(copy.group != 0);
    CHECK(copy.group != w.placed()[0].group);
    // All alike, and away.
    w.key(Qt::Key_L, Qt::ControlModifier);
    CHECK(w.session().chosen().props.size() == 6);
    w.key(Qt::Key_Delete);
    CHECK(w.placed().size() == 1);
    // Go round.
    w.key(Qt::Key_W, Qt::ShiftModifier);
    CHECK(w.session().tool() == Tool::chooseRound);
    w.dragCells({{28, 17}, {34, 17}, {34, 21}, {28, 21}, {28, 17}});
    CHECK(w.session().chosen().props.size() == 1);
}

TEST_CASE("several props are changed at once in the panel, and each keeps the rest", "[app][dress]") {
    Dressing w;
    w.take("Barrel");
    w.clickCell({28, 15});
    w.take("Crate");
    w.clickCell({32, 15});
    w.emptyHand();
    w.key(Qt::Key_S);
    w.key(Qt::Key_A, Qt::ControlModifier);
    CHECK(w.find<QLabel>("propTitle")->text() == "2 props");
    auto* turn = w.find<QDoubleSpinBox>("propTurn");
    turn->setFocus();
    turn->selectAll();
    QTest::keyClicks(turn, "22.5");
    QTest::keyClick(turn, Qt::Key_Return);
    // What the field has taken is undone as any change is, without leaving the field; what is only typed is its own.
    QTest::keyClick(turn, Qt::Key_Z, Qt::ControlModifier);
    settle();
    for (const level::Prop& p : w.placed()) CHECK(p.look.turn == 0);
    QTest::keyClick(turn, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    settle();
    for (const level::Prop& p : w.placed()) CHECK(p.look.turn == 225);
    turn->selectAll();
    QTest::keyClicks(turn, "9");
    QTest::keyClick(turn, Qt::Key_Z, Qt::ControlModifier);
    settle();
    CHECK(turn->value() == 22.5);
    for (const level::Prop& p : w.placed()) CHECK(p.look.turn == 225);
    w.slide("propOpacity", 60);
    auto* name = w.find<QLineEdit>("propOwnName");
    name->setFocus();
    QTest::keyClicks(name, "Stores");
    QTest::keyClick(name, Qt::Key_Return);
    for (const level::Prop& p : w.placed()) {
        CHECK(p.look.turn == 225);
        CHECK(p.look.opacity == 60);
        CHECK(p.of_its_own().name == "Stores");
    }
    CHECK(w.placed()[0].kind != w.placed()[1].kind);
    w.picture("dress-several");
    w.view()->setFocus();
    w.key(Qt::Key_X);
    for (const level::Prop& p : w.placed()) CHECK(p.look == level::Look{});
    // The kind: what blocks of it is seen in the parcel and felt by the walker.
    w.click("propKindMore");
    w.choose("propBlocks", "as drawn in its foot");
    w.picture("dress-kind");
    for (const level::Prop& p : w.placed()) {
        const level::PropKind& k = *w.session().project().prop_kind(p.kind);
        CHECK(k.shape == level::TileShape::drawn);
        CHECK_FALSE(k.polygons.empty());
    }
    // What was done is in the files, and comes back.
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    const level::Project back = store::load(w.folder / "pell");
    const level::Level& level = *back.level(w.level().id);
    CHECK(level.layer(w.layer("Props").id)->props().all() == w.placed());
}

TEST_CASE("a row of props follows the line, straight or as a curve, and leaves out where something stands",
          "[app][dress]") {
    Dressing w;
    w.take("Mooring post");
    w.key(Qt::Key_P, Qt::ShiftModifier);
    type(w.find<QSpinBox>("rowApart"), "24");
    (*w).activateWindow();
    w.drag({24, 16}, {36, 16}, Qt::ShiftModifier);
    const auto row = w.placed();
    REQUIRE(row.size() == 9); // 12 cells of 16 px, every 24 px, both ends
    for (std::size_t i = 0; i + 1 < row.size(); ++i) CHECK(row[i + 1].at.x - row[i].at.x == 24);
    w.picture("dress-row");
    w.drag({24, 16}, {36, 16}, Qt::ShiftModifier);
    CHECK(w.placed().size() == 9);
    w.click("optionAlong");
    w.dragCells({{24, 20}, {27, 19}, {30, 20}, {33, 22}, {36, 20}});
    const auto rows = w.placed();
    CHECK(rows.size() > 14);
    CHECK(std::any_of(rows.begin(), rows.end(), [](const level::Prop& p) { return p.look.turn != 0; }));
}

TEST_CASE("a stall of four props is copied ten times, and one part changed everywhere", "[app][dress]") {
    Dressing w;
    w.take("Crate");
    w.clickCell({26, 14});
    w.take("Barrel");
    w.clickCell({28, 14});
    w.take("Small salt heap");
    w.clickCell({26, 16});
    w.take("Mooring post");
    w.clickCell({28, 16});
    w.emptyHand();
    w.key(Qt::Key_S);
    w.key(Qt::Key_A, Qt::ControlModifier);
    answerName("Stall");
    w.key(Qt::Key_K, Qt::ShiftModifier);
    REQUIRE(w.placed().size() == 1);
    const level::PropKindId stall = w.only().kind;
    CHECK(w.session().project().prop_kind(stall)->parts.size() == 4);
    w.take("Stall");
    for (int i = 0; i < 10; ++i) w.clickCell({20 + i % 5 * 4, 19 + i / 5 * 3}, Qt::LeftButton, Qt::ShiftModifier);
    CHECK(w.placed().size() == 11);
    w.emptyHand();
    w.picture("dress-stalls");
    // Opened with a double click, its crate is made lighter for all.
    const Point crate{26, 14};
    QTest::mouseDClick(w.view(), Qt::LeftButton, {}, w.view()->cellCentre(crate));
    CHECK(w.session().ensemble() != 0);
    w.clickCell(crate);
    REQUIRE(w.session().chosen().props.size() == 1);
    w.slide("propLight", 60);
    w.picture("dress-opened");
    const level::PropKind& kind = *w.session().project().prop_kind(stall);
    CHECK(std::count_if(kind.parts.begin(), kind.parts.end(),
                        [](const level::EnsemblePart& p) { return p.look.light == 60; }) == 1);
    // Only in this copy the barrel is missing; the others keep it.
    w.click("optionOnlyHere");
    w.clickCell({28, 14});
    w.view()->setFocus();
    w.key(Qt::Key_Delete);
    CHECK(w.session().project().prop_kind(stall)->parts.size() == 4);
    w.key(Qt::Key_Escape);
    w.key(Qt::Key_Escape);
    CHECK(w.session().ensemble() == 0);
    const level::PropKinds kinds(w.session().project());
    CHECK(kinds.pieces(w.placed()[0]).size() == 3);
    CHECK(kinds.pieces(w.placed()[1]).size() == 4);
    // The engine gets the parts with a common name.
    make::Folder dir;
    parcel::build(w.session().project(), w.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    int parts = 0;
    for (const vicinum::Layer& l : built.layers)
        for (const vicinum::Prop& p : l.props) parts += p.ensemble == "Stall";
    CHECK(parts == 43);
}

namespace {

// A wall of two rows that stands up across a level seen from above, drawn by feet, and where the walker is.
level::Level walled(Window& w) {
    level::Project p = w.session().project();
    level::Level level = w.level();
    for (const level::LayerRef& l : w.level().layers) {
        if (l->has_props()) level.edit(l->id).props() = level::Props();
    }
    for (level::Mark& m : level.marks) m.figure = 0;
    const level::LayerId boards = w.layer("Boardwalk").id;
    level.edit(boards).by_feet = true;
    level::TileId tile = 0;
    for (const auto& s : p.sheets) {
        if (s->name != "Brick") continue;
        level::Sheet sheet = *s;
        tile = sheet.tiles[0].id;
        for (level::Tile& t : sheet.tiles) t.rise = t.id == tile ? 2 : 1;
        p.put(sheet);
    }
    for (int x = 24; x < 34; ++x) {
        level.edit(boards).grid().set({x, 14}, level::Cell(tile, {}, true), 0);
        level.edit(boards).grid().set({x, 15}, level::Cell(tile + 1, {}, true), 0);
    }
    p.put(level);
    w.session().apply("walled", p);
    return w.level();
}

int figurePixels(Window& w, Point cell) {
    level::Level level = w.level();
    for (level::Mark& m : level.marks)
        if (m.kind == level::MarkKind::start) m.cells = {cell.x, cell.y, 1, 1};
    make::Folder dir;
    parcel::build(w.session().project(), level, dir / "p");
    player::ParcelView view;
    view.setMinimumSize(1, 1);
    view.resize(level.frame.w, level.frame.h);
    view.load(QString::fromStdString((dir / "p").string()), false);
    const QImage shown = view.grab().toImage();
    int out = 0;
    for (int y = 0; y < shown.height(); ++y)
        for (int x = 0; x < shown.width(); ++x) out += shown.pixelColor(x, y) == QColor("#C2452D");
    return out;
}

} // namespace

TEST_CASE("a hero walks behind a row of walls and in front of it, in the player and under the pointer",
          "[app][dress][feet]") {
    Window w;
    w.stage("stage-dress");
    walled(w);
    // Right behind the wall its two rows hide him, in front of it he hides them.
    const int before = figurePixels(w, {28, 16});
    const int behind = figurePixels(w, {28, 14});
    CHECK(before > 15);
    CHECK(behind < before / 4);
    w.view()->setCamera(3, {29.0 * 16, 15.0 * 16});
    w.key(Qt::Key_G);
    w.hover({28, 14});
    (void)w.view()->grab();
    CHECK(w.view()->figureHidden());
    w.picture("dress-ghost");
    w.hover({28, 16});
    (void)w.view()->grab();
    CHECK_FALSE(w.view()->figureHidden());
    // The order is taken back in the drawer of the layer.
    w.activate("Boardwalk");
    w.click("layerByFeet");
    CHECK_FALSE(w.layer("Boardwalk").by_feet);
    w.hover({28, 14});
    (void)w.view()->grab();
    CHECK_FALSE(w.view()->figureHidden());
}

TEST_CASE("a mark with a figure is an actor: seen here, in the player, and worn by the walker", "[app][dress]") {
    Dressing w;
    w.key(Qt::Key_M, Qt::ShiftModifier);
    w.clickCell({31, 15});
    REQUIRE(w.session().mark());
    const QImage bare = w.view()->grab().toImage();
    w.choose("markFigure", "Barrel");
    CHECK(w.session().mark()->figure != 0);
    (*w).activateWindow();
    w.picture("dress-actor");
    CHECK(w.view()->grab().toImage() != bare);
    const level::PropKindId barrel = w.session().mark()->figure;
    // The start's is what the walker looks like.
    level::Level level = w.level();
    for (level::Mark& m : level.marks)
        if (m.kind == level::MarkKind::start) {
            m.figure = barrel;
            m.cells = {28, 15, 1, 1};
        } else if (m.id != w.session().mark()->id) {
            m.figure = 0; // those of the demo
        }
    make::Folder dir;
    parcel::build(w.session().project(), level, dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    int actors = 0;
    for (const vicinum::Mark& m : built.marks) actors += m.figure.has_value();
    CHECK(actors == 2);
    player::ParcelView view;
    view.setMinimumSize(1, 1);
    view.resize(level.frame.w, level.frame.h);
    view.load(QString::fromStdString((dir / "p").string()), false);
    const QImage shown = view.grab().toImage();
    int sticks = 0;
    for (int y = 0; y < shown.height(); ++y)
        for (int x = 0; x < shown.width(); ++x) sticks += shown.pixelColor(x, y) == QColor("#C2452D");
    CHECK(sticks == 0);
    // Where the actor stands his picture is seen, pixel by pixel.
    const level::Mark& mark = *w.session().mark();
    const level::Prop prop{1, barrel, level::stand_of(level, mark)};
    level::Level with = level;
    with.edit(w.layer("Props").id).props().put(prop);
    const Image wanted = picture::render(w.session().project(), with, 1);
    const auto frame = walk::frame_around(view.level(), view.world().foot(), view.level().frame);
    const Box box = level::PropKinds(w.session().project()).box(prop);
    int different = 0;
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x) {
            const Rgba a = wanted.at(x, y);
            const QColor b = shown.pixelColor(x - frame.x, y - frame.y);
            different += std::abs(a.r - b.red()) > 2 || std::abs(a.g - b.green()) > 2 || std::abs(a.b - b.blue()) > 2;
        }
    CHECK(different == 0);
    // The kind goes: the mark stays without.
    const level::Project gone = edit::remove_kinds(w.session().project(), {barrel});
    for (const level::Mark& m : gone.level(level.id)->marks) CHECK(m.figure != barrel);
}
