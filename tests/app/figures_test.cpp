// A house furnished, figures that move, and what of a prop blocks drawn by hand.
#include <QTest>
#include <algorithm>
#include <initializer_list>
#include <set>
#include <utility>

#include "app/dressing.hpp"
#include "app/parts/area_board.hpp"
#include "app/parts/foot_board.hpp"
#include "app/parts/shape_board.hpp"
#include "edit/placing.hpp"
#include "parcel/build.hpp"
#include "player/parcel_view.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

TEST_CASE("furnish the pump house so that nothing overlaps: 20 actions", "[app][dress][furnish]") {
    Window w;
    w.stage("stage-dress");
    w.session().setLevel("pump-cellar");
    level::Level bare = w.level();
    for (const level::LayerRef& l : w.level().layers)
        if (l->has_props()) bare.edit(l->id).props() = level::Props();
    w.session().applyLevel("bare", bare);
    w.activate("Props");
    w.view()->setCamera(2, {70.0 * 16, 20.0 * 16});
    (*w).activateWindow();
    int actions = 0;
    w.click("optionDrops"), ++actions;
    const auto take = [&](const char* prop) {
        w.click("trayProps");
        w.clickRow(w.find<QListView>("propTray"), prop), ++actions;
        (*w).activateWindow();
        w.view()->setFocus();
    };
    // Each is put where one points, wherever in the air; K takes the nearest free place for what would overlap.
    take("Brine pump");
    w.clickCell({67, 18}), ++actions;
    w.clickCell({74, 18}), ++actions;
    take("Crate");
    for (const Point at : {Point{63, 15}, {66, 19}, {71, 18}}) {
        w.hover(at);
        w.key(Qt::Key_K), ++actions;
    }
    take("Barrel");
    for (const Point at : {Point{66, 20}, {68, 19}, {72, 17}, {75, 19}, {63, 16}}) {
        w.hover(at);
        w.key(Qt::Key_K), ++actions;
    }
    // Lamps and a pipe hang, and do not drop.
    w.click("optionDrops"), ++actions;
    take("Lamp");
    w.clickCell({69, 14}), ++actions;
    w.clickCell({74, 14}), ++actions;
    take("Pipe");
    w.clickCell({71, 13}), ++actions;
    CHECK(actions == 20);
    const std::vector<level::Prop> all = w.layer("Props").props().all();
    REQUIRE(all.size() == 13);
    const edit::Ground ground(w.session().project(), w.level(), {});
    int in_the_way = 0;
    for (const level::Prop& p : all) in_the_way += ground.stand(p).way != edit::InTheWay::nothing;
    CHECK(in_the_way == 0);
    w.picture("dress-furnished");
}

TEST_CASE("a figure of several frames walks where the walker does, and moves in the window", "[app][dress][frames]") {
    Window w;
    w.stage("stage-dress");
    // The same steps with all frames, and with the first alone: they look alike where he stands, and differ where he
    // walks.
    level::Project still = w.session().project();
    for (const auto& k : w.session().project().prop_kinds)
        if (k->frames > 1) {
            level::PropKind one = *k;
            one.frames = 1;
            still.put(one);
        }
    make::Folder dir;
    parcel::build(w.session().project(), w.level(), dir / "moves");
    parcel::build(still, w.level(), dir / "still");
    player::ParcelView moving, standing;
    for (auto& [view, name] :
         std::initializer_list<std::pair<player::ParcelView*, const char*>>{{&moving, "moves"}, {&standing, "still"}}) {
        view->setMinimumSize(1, 1);
        view->resize(w.level().frame.w, w.level().frame.h);
        view->load(QString::fromStdString((dir / name).string()), false);
    }
    const auto different = [&](int steps) {
        int out = 0;
        for (int i = 0; i < steps; ++i) {
            moving.step();
            standing.step();
            out += moving.grab().toImage() != standing.grab().toImage();
        }
        return out;
    };
    CHECK(different(20) == 0);
    for (auto* view : {&moving, &standing}) QTest::keyPress(view, Qt::Key_Right);
    const int walked = different(60);
    CHECK(walked > 20); // the legs are apart in two frames of four
    CHECK(walked < 60);
    for (auto* view : {&moving, &standing}) QTest::keyRelease(view, Qt::Key_Right);
    // The window's clock moves the workers; its walker stands still.
    w.view()->setCamera(3, {27.0 * 16, 15.0 * 16});
    w.session().playClock().setPlaying(true);
    const QPoint worker = w.view()->cellCentre({26, 15});
    std::set<qint64> seen;
    const auto two = [&] {
        const QImage now = w.view()->grab(QRect(worker - QPoint(20, 60), QSize(40, 70))).toImage();
        seen.insert(static_cast<qint64>(qHashBits(now.constBits(), size_t(now.sizeInBytes()))));
        return seen.size() >= 2;
    };
    REQUIRE_SOON(two());
}

TEST_CASE("what of a prop blocks is drawn by hand, corner by corner", "[app][dress][shape]") {
    Dressing w;
    w.take("Boulder");
    w.click("propKindMore");
    w.choose("propBlocks", "as drawn in its foot");
    auto* board = w.find<ShapeBoard>("propShapeBoard");
    REQUIRE(board->isVisible());
    const auto kind = [&] { return *w.session().project().prop_kind(w.session().hand().prop()); };
    REQUIRE(kind().shape == level::TileShape::drawn);
    const level::Polygons art = kind().polygons;
    const auto drag = [&](Point from, Point to) {
        QTest::mouseMove(board, board->at(from).toPoint());
        QTest::mousePress(board, Qt::LeftButton, {}, board->at(from).toPoint());
        QTest::mouseMove(board, board->at(to).toPoint());
        QTest::mouseRelease(board, Qt::LeftButton, {}, board->at(to).toPoint());
        settle();
    };
    const Point corner = art.front().front();
    drag(corner, corner + Point{2, -3});
    const level::Polygons now = kind().polygons;
    CHECK(std::count(now.front().begin(), now.front().end(), corner + Point{2, -3}) == 1);
    w.picture("dress-kind-shape");
    // A box over nothing becomes a second part, and both are in the parcel.
    drag({1, 1}, {6, 5});
    REQUIRE(kind().polygons.size() == art.size() + 1);
    (*w).activateWindow();
    w.clickCell({30, 16});
    make::Folder dir;
    parcel::build(w.session().project(), w.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    const auto found = std::find_if(built.prop_kinds.begin(), built.prop_kinds.end(),
                                    [](const vicinum::PropKind& k) { return k.name == "Boulder"; });
    REQUIRE(found != built.prop_kinds.end());
    CHECK(found->shape.size() == kind().polygons.size());
}

TEST_CASE("the foot of a kind is drawn on its picture: its corners, the whole of it, another", "[app][dress][foot]") {
    Dressing w;
    w.take("Boulder");
    w.click("propKindMore");
    auto* board = w.find<FootBoard>("propFootBoard");
    CHECK_FALSE(board->isVisible());
    w.click("propFootDraw");
    REQUIRE(board->isVisible());
    const auto kind = [&] { return *w.session().project().prop_kind(w.session().hand().prop()); };
    const Box foot = kind().foot;
    REQUIRE_FALSE(foot.empty());
    CHECK(w.find<QLabel>("propFootSize")->text() == QString("%1 × %2 px").arg(foot.w).arg(foot.h));
    REQUIRE_SOON(board->visibleRegion().boundingRect().height() > 150);
    const auto drag = [&](QPointF from, QPointF to) {
        QTest::mousePress(board, Qt::LeftButton, {}, from.toPoint());
        QTest::mouseMove(board, to.toPoint());
        QTest::mouseRelease(board, Qt::LeftButton, {}, to.toPoint());
        settle();
    };
    // By its upper left corner.
    drag(board->at(foot.corner()), board->at(foot.corner() + Point{2, -3}));
    CHECK(kind().foot == Box{foot.x + 2, foot.y - 3, foot.w - 2, foot.h + 3});
    w.picture("dress-kind-foot");
    // As a whole, but not beyond the picture.
    const Box now = kind().foot;
    const Point middle{now.x + now.w / 2, now.y + now.h / 2};
    drag(board->at(middle), board->at(middle + Point{0, -2}));
    CHECK(kind().foot == now.moved({0, -2}));
    drag(board->at(kind().foot.corner() + Point{now.w / 2, now.h / 2}), board->at({0, 0}));
    CHECK(kind().foot.corner() == Point{0, 0});
    // Another, over nothing.
    const Size size = kind().box.size();
    drag(board->at({size.w - 8, size.h - 6}), board->at({size.w - 1, size.h - 1}));
    CHECK(kind().foot == Box{size.w - 8, size.h - 6, 7, 5});
    for (int i = 0; i < 4; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(kind().foot == foot);
}

TEST_CASE("what stands behind is drawn in front by a key, and goes back to where its feet say", "[app][dress][order]") {
    Dressing w;
    w.take("Boulder");
    w.clickCell({30, 16});
    w.clickCell({30, 17});
    w.emptyHand();
    REQUIRE(w.placed().size() == 2);
    const auto at = [&](int y) {
        for (const level::Prop& p : w.placed())
            if (p.at.y / 16 == y) return p;
        FAIL("nobody stands there");
        return level::Prop{};
    };
    const level::Prop back = at(16);
    w.session().setProp(back.id);
    settle();
    w.view()->setFocus();
    const auto seen = [&] {
        settle();
        return w.view()->grab().toImage();
    };
    const QImage before = seen();
    w.key(Qt::Key_Up, Qt::ControlModifier);
    const int ahead = at(16).look.ahead;
    CHECK(ahead == at(17).at.y - back.at.y + 1);
    CHECK(at(16).at == back.at);
    CHECK(seen() != before);
    CHECK(w.find<QSpinBox>("propAhead")->value() == ahead);
    w.picture("dress-order");
    w.key(Qt::Key_Up, Qt::ControlModifier);
    CHECK(at(16).look.ahead == ahead);
    w.click("propBehind");
    CHECK(at(16).look.ahead <= 0);
    type(w.find<QSpinBox>("propAhead"), "0");
    settle();
    CHECK(at(16).look.ahead == 0);
    CHECK(seen() == before);
}

TEST_CASE("parts of a prop that tell are drawn on its picture, named, moved and taken away", "[app][dress][areas]") {
    Dressing w;
    w.take("Boulder");
    w.click("propKindMore");
    w.click("propAreasDraw");
    auto* board = w.find<AreaBoard>("propAreaBoard");
    REQUIRE(board->isVisible());
    const auto kind = [&] { return *w.session().project().prop_kind(w.session().hand().prop()); };
    const std::size_t before = kind().areas.size();
    const auto drag = [&](Point from, Point to) {
        QTest::mousePress(board, Qt::LeftButton, {}, board->at(from).toPoint());
        QTest::mouseMove(board, board->at(to).toPoint());
        QTest::mouseRelease(board, Qt::LeftButton, {}, board->at(to).toPoint());
        settle();
    };
    drag({1, 2}, {7, 8});
    REQUIRE(kind().areas.size() == before + 1);
    CHECK(kind().areas.back().box == Box{1, 2, 6, 6});
    auto* name = w.find<QLineEdit>("propAreaName");
    (*w).activateWindow();
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "seat");
    QTest::keyClick(name, Qt::Key_Return);
    settle();
    CHECK(kind().areas.back().name == "seat");
    drag({4, 5}, {6, 6}); // by two to the right and one down
    CHECK(kind().areas.back().box == Box{3, 3, 6, 6});
    REQUIRE_SOON(board->visibleRegion().boundingRect().height() > 150); // scrolled to
    w.picture("dress-kind-areas");
    // The game is told of it.
    w.clickCell({30, 16});
    make::Folder dir;
    parcel::build(w.session().project(), w.level(), dir / "p");
    const vicinum::Level built = vicinum::load(dir / "p");
    const auto found = std::find_if(built.prop_kinds.begin(), built.prop_kinds.end(),
                                    [](const vicinum::PropKind& k) { return k.name == "Boulder"; });
    REQUIRE(found != built.prop_kinds.end());
    REQUIRE(found->areas.size() == before + 1);
    CHECK(found->areas.back().name == "seat");
    board->setFocus();
    QTest::keyClick(board, Qt::Key_Delete);
    settle();
    CHECK(kind().areas.size() == before);
}
