// Selections, stamps, the Hand's finer sides, lifting strokes, history, and what helps to build.
#include "app/window.hpp"

#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QEvent>
#include <QFrame>
#include <QIcon>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QMouseEvent>
#include <QPoint>
#include <QPointF>
#include <QSlider>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/parts/picture_list.hpp"
#include "app/section/stroke_list.hpp"
#include "app/session/session.hpp"
#include "edit/homes.hpp"
#include "edit/overlay.hpp"
#include "edit/reshape.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"

using namespace app_test;

namespace {

// Clay laid on Marsh's layer, which has little else: a place to work in.
void begin(Window& w) {
    w.stage("stage-lay");
    w.pickMaterial("Marsh");
    w.activate("Marsh");
    w.view()->setCamera(2, QPointF(22 * 16, 20 * 16));
}

level::TileId tile_named(Window& w, const char* name) {
    for (const auto& s : w.session().project().sheets)
        for (const auto& t : s->tiles)
            if (t.name == name) return t.id;
    FAIL("no tile " << name);
    return 0;
}

void trigger(Window& w, const char* action) {
    w.find<QAction>(action)->trigger();
    settle();
}

} // namespace

TEST_CASE("what is selected is moved, copied, turned and removed, one step each", "[app][select]") {
    Window w;
    begin(w);
    w.key(Qt::Key_R);
    w.drag({16, 18}, {19, 19});
    const level::Grid laid = w.layer("Marsh").grid();
    const auto m = w.session().hand().material();
    const auto marsh_at = [&](Point p) { return w.layer("Marsh").grid().material(p) == m; };
    w.key(Qt::Key_S);
    CHECK(w.find<QToolButton>("toolSelect")->isChecked());
    w.click("optionAllLayers"); // on the active layer alone
    CHECK_FALSE(w.session().options().allLayers);
    w.drag({15, 17}, {20, 20});
    CHECK(w.session().selection() == level::Region(Box{15, 17, 6, 4}));
    CHECK(w.reading().contains("24"));
    // Added to and taken from.
    w.drag({22, 17}, {23, 18}, Qt::ShiftModifier);
    CHECK(w.session().selection().count() == 28);
    w.drag({22, 17}, {23, 18}, Qt::AltModifier);
    CHECK(w.session().selection().count() == 24);
    // Moved: shown under way, laid when let go.
    w.drag({17, 18}, {17, 22});
    CHECK_FALSE(marsh_at({16, 18}));
    CHECK(marsh_at({16, 22}));
    CHECK(w.session().selection().contains({15, 21}));
    CHECK(w.session().document().undo_name() == "Move what is selected");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Marsh").grid() == laid);
    // Turned in its place by the Hand's own key.
    w.session().setSelection(level::Region(Box{16, 18, 4, 2}));
    w.key(Qt::Key_Period);
    CHECK(w.session().selection().bounds().size() == Size{2, 4});
    CHECK(marsh_at(w.session().selection().bounds().corner()));
    CHECK(w.layer("Marsh").grid().count() == laid.count());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    // Copied and laid elsewhere; joins anew there.
    w.session().setSelection(level::Region(Box{16, 18, 4, 2}));
    w.key(Qt::Key_C, Qt::ControlModifier);
    w.key(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(w.session().hand().is<edit::held::Stamp>());
    w.hover({24, 22});
    CHECK(w.view()->shown().layer(w.layer("Marsh").id)->grid().material({24, 22}) == m); // seen before the click
    w.clickCell({24, 22});
    CHECK(w.layer("Marsh").grid().count() == laid.count() + 8);
    CHECK(w.layer("Marsh").grid().material({23, 22}) == m);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    // Grown, shrunk, removed.
    w.key(Qt::Key_S);
    w.session().setSelection(level::Region(Box{16, 18, 4, 2}));
    w.click("selectGrow");
    CHECK(w.session().selection() == level::Region(Box{15, 17, 6, 4}));
    w.click("selectShrink");
    CHECK(w.session().selection() == level::Region(Box{16, 18, 4, 2}));
    w.key(Qt::Key_Backspace, Qt::ControlModifier);
    CHECK(w.layer("Marsh").grid().count() == laid.count() - 8);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Marsh").grid() == laid);
    // To another layer.
    w.activate("Boardwalk");
    w.key(Qt::Key_M, Qt::ControlModifier);
    // All shown layers give what they have; the marsh among it.
    CHECK_FALSE(marsh_at({16, 18}));
    CHECK(w.layer("Boardwalk").grid().material({16, 18}) == m);
    w.key(Qt::Key_Escape);
    CHECK(w.session().selection().empty());
}

TEST_CASE("a line around, all of a tile, and a fill that keeps to what is selected", "[app][select]") {
    Window w;
    begin(w);
    w.key(Qt::Key_W, Qt::ShiftModifier);
    QTest::mousePress(w.view(), Qt::LeftButton, {}, w.view()->cellCentre({16, 16}));
    for (const Point p : {Point{22, 16}, {22, 20}, {16, 20}, {16, 16}}) {
        const QPointF at(w.view()->cellCentre(p));
        QMouseEvent move(QEvent::MouseMove, at, w.view()->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(w.view(), &move);
    }
    QTest::mouseRelease(w.view(), Qt::LeftButton, {}, w.view()->cellCentre({16, 16}));
    const level::Region around = w.session().selection();
    CHECK(around.count() >= 15);
    CHECK(around.contains({19, 18}));
    CHECK_FALSE(around.contains({24, 18}));
    // The fill goes no further.
    const std::int64_t had = w.layer("Marsh").grid().count();
    w.key(Qt::Key_F, Qt::ShiftModifier);
    w.clickCell({19, 18});
    CHECK(w.layer("Marsh").grid().count() == had + around.count());
    // All of the material, wherever it is.
    w.hover({19, 18});
    w.key(Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    CHECK(w.session().selection().count() == w.layer("Marsh").grid().count());
    // Replaced in what is selected.
    w.session().setSelection(level::Region(Box{18, 17, 3, 2}));
    w.pickMaterial("Clay");
    w.key(Qt::Key_E, Qt::ShiftModifier);
    CHECK(w.find<QToolButton>("toolReplace")->isChecked());
    w.clickCell({19, 18}, Qt::LeftButton, Qt::ControlModifier);
    const auto clay = w.session().hand().material();
    int changed = 0;
    level::each_cell(w.layer("Marsh").grid(), w.level().cells(),
                     [&](Point, level::Cell, level::MaterialId m) { changed += m == clay; });
    CHECK(changed == 6);
}

TEST_CASE("rims, round tips and a right button that erases what the tool would lay", "[app][tools]") {
    Window w;
    begin(w);
    const level::Grid before = w.layer("Marsh").grid();
    w.key(Qt::Key_R);
    w.click("optionRim");
    w.drag({16, 17}, {21, 20});
    CHECK(w.layer("Marsh").grid().count() == before.count() + 16);
    CHECK(w.layer("Marsh").grid().material({18, 18}) == 0);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.click("optionRim");
    w.drag({16, 17}, {21, 20});
    CHECK(w.layer("Marsh").grid().count() == before.count() + 24);
    w.drag({17, 18}, {18, 19}, {}, Qt::RightButton);
    CHECK(w.layer("Marsh").grid().count() == before.count() + 20);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_B);
    edit::Hand hand = w.session().hand();
    hand.size = 5;
    w.session().setHand(hand);
    w.click("optionRound");
    w.clickCell({20, 18});
    CHECK(w.layer("Marsh").grid().count() == before.count() + 21); // a round of five
}

TEST_CASE("a stroke that went to the wrong layer is dragged onto the right slab", "[app][lift]") {
    Window w;
    begin(w);
    // Held back from its home with Ctrl, it lands on the boardwalk's layer.
    w.activate("Boardwalk");
    const level::Grid boards = w.layer("Boardwalk").grid();
    const level::Grid marsh = w.layer("Marsh").grid();
    w.clickCell({20, 18}, Qt::LeftButton, Qt::ControlModifier);
    REQUIRE_FALSE(w.layer("Boardwalk").grid() == boards);
    auto* strokes = w.find<StrokeList>("strokeList");
    REQUIRE(strokes->count() == 1);
    auto* slab = w.find<QWidget>(("slab-" + std::to_string(w.layer("Marsh").id)).c_str());
    const QPoint from = strokes->rowCentre(0);
    const QPoint to = strokes->mapFromGlobal(slab->mapToGlobal(QPoint(40, 20)));
    QTest::mousePress(strokes, Qt::LeftButton, {}, from);
    for (const QPoint at : {from + QPoint(0, -10), (from + to) / 2, to}) {
        QMouseEvent move(QEvent::MouseMove, QPointF(at), strokes->mapToGlobal(QPointF(at)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(strokes, &move);
    }
    QTest::mouseRelease(strokes, Qt::LeftButton, {}, to);
    settle();
    CHECK(w.layer("Boardwalk").grid() == boards);
    CHECK(w.layer("Marsh").grid().count() == marsh.count() + 1);
    CHECK(w.session().activeLayer()->name == "Marsh");
    CHECK(w.session().document().undo_name() == "Lift a stroke to Marsh");
}

TEST_CASE("see-through tiles go over what is there, unless they are to replace it", "[app][overlay]") {
    Window w;
    begin(w);
    w.activate("Clay");
    edit::Hand hand{edit::held::Tile{tile_named(w, "Pebbles")}};
    w.session().setHand(hand);
    // Without a home one is proposed, and the key takes it.
    w.hover({20, 15});
    CHECK(w.view()->reading().text.contains("H makes"));
    CHECK(w.view()->reading().text.contains("which stays"));
    const level::Grid clay = w.layer("Clay").grid();
    w.clickCell({20, 15});
    const level::LayerId over = edit::overlay_of(w.level(), w.layer("Clay").id);
    REQUIRE(over != 0);
    CHECK(w.layer("Clay").grid() == clay);
    CHECK(w.level().layer(over)->grid().cell({20, 15}).tile() == hand.tile());
    // The right button takes the overlay first.
    w.clickCell({20, 15}, Qt::RightButton);
    CHECK(w.level().layer(over)->grid().cell({20, 15}).empty());
    CHECK(w.layer("Clay").grid() == clay);
    w.key(Qt::Key_X);
    w.clickCell({20, 15});
    CHECK(w.layer("Clay").grid().cell({20, 15}).tile() == hand.tile());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_X);
    w.key(Qt::Key_H);
    CHECK(edit::home_of(w.session().project(), w.level(), hand) != 0);
    // A locked overlay takes nothing, and that is said before the click.
    level::Level locked = w.level();
    locked.edit(over).locked = true;
    w.session().applyLevel("Lock", locked);
    w.session().apply("No home", edit::set_home(w.session().project(), w.level(), hand, 0));
    w.activate("Clay");
    w.hover({21, 15});
    CHECK(w.view()->reading().warns);
    const level::Grid as_is = w.layer("Clay").grid();
    w.clickCell({21, 15});
    CHECK(w.layer("Clay").grid() == as_is);
}

TEST_CASE("what is shown before the click is what the click lays", "[app][preview]") {
    Window w;
    begin(w);
    make::Random random(17);
    const char* materials[] = {"Clay", "Brine", "Marsh", "Boardwalk"};
    for (int i = 0; i < 60; ++i) {
        edit::Hand hand;
        if (random.flip(0.6)) {
            w.pickMaterial(materials[random.below(4)]);
            hand = w.session().hand();
        } else {
            edit::held::Spread spread;
            for (const char* name : {"Salt crust 1", "Salt crust 2", "Pebbles"})
                spread.items.push_back({0, tile_named(w, name), {}, 100});
            hand.holds = std::move(spread);
        }
        hand.size = 1 + random.below(5);
        hand.round = random.flip();
        hand.share_empty = random.flip() ? 40 : 0;
        hand.seed = static_cast<std::uint32_t>(random.below(99));
        w.session().setHand(hand);
        w.session().setTool(random.flip(0.8) ? Tool::pencil : Tool::eraser);
        const Point cell{14 + random.below(16), 14 + random.below(10)};
        w.hover(cell);
        const level::Level shown = w.view()->shown();
        w.clickCell(cell);
        const level::Level& now = w.level();
        REQUIRE(now.layers.size() == shown.layers.size());
        for (std::size_t k = 0; k < now.layers.size(); ++k) CHECK(now.layers[k]->grid() == shown.layers[k]->grid());
        // The reading line named the layer that changed, or one whose overlay did.
        const level::LayerId target = w.view()->targetLayer();
        CHECK(now.layer(target) != nullptr);
    }
}

TEST_CASE("history is a list to go along, with keep-points that are written at once", "[app][history]") {
    Window w;
    begin(w);
    const level::Grid before = w.layer("Marsh").grid();
    for (int i = 0; i < 3; ++i) w.clickCell({18 + 2 * i, 18});
    w.key(Qt::Key_H, Qt::ControlModifier);
    auto* steps = w.find<PictureList>("historySteps");
    REQUIRE(QTest::qWaitFor([&] { return steps->isVisible(); }, 2000));
    REQUIRE(steps->count() == 4);
    CHECK(w.rowText(steps, 0).contains("Lay Marsh on Marsh"));
    CHECK_FALSE(steps->model()->index(0, 0).data(Qt::DecorationRole).value<QIcon>().isNull());
    auto* name = w.find<QLineEdit>("keepName");
    QTest::keyClicks(name, "Three clumps");
    QTest::keyClick(name, Qt::Key_Return);
    REQUIRE_SOON(w.session().document().keep_points().size() == 1);
    CHECK(std::filesystem::exists(w.folder / "pell" / ".vicinum" / "kept"));
    // Back to the beginning, by a click on the last row.
    QTest::mouseClick(steps->viewport(), Qt::LeftButton, {}, steps->visualRect(steps->model()->index(3, 0)).center());
    CHECK(w.layer("Marsh").grid() == before);
    auto* kept = w.find<PictureList>("keepPoints");
    QTest::mouseClick(kept->viewport(), Qt::LeftButton, {}, kept->visualRect(kept->model()->index(0, 0)).center());
    REQUIRE_SOON(w.layer("Marsh").grid().count() == before.count() + 3);
    w.find<QFrame>("historyPanel")->hide();
    (*w).activateWindow();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.layer("Marsh").grid() == before);
}

TEST_CASE("levels are turned, cropped and grow where one lays beyond the edge", "[app][shape]") {
    Window w;
    begin(w);
    const Size size = w.level().size;
    trigger(w, "turnLevelRight");
    CHECK(w.level().size == Size{size.h, size.w});
    for (int i = 0; i < 3; ++i) trigger(w, "turnLevelRight");
    CHECK(w.level().size == size);
    w.session().setSelection(level::Region(Box{10, 10, 30, 20}));
    trigger(w, "cropSelection");
    CHECK(w.level().size == Size{30, 20});
    trigger(w, "levelGrows");
    CHECK(w.level().grows);
    w.activate("Marsh");
    w.view()->setCamera(2, QPointF(0, 10 * 16));
    const auto m = w.session().hand().material();
    w.hover({-2, 10});
    CHECK(w.view()->reading().text.contains("grows"));
    const QPoint screen = w.view()->cellCentre({-2, 10});
    w.clickCell({-2, 10});
    CHECK(w.level().size == Size{94, 20});
    CHECK(w.layer("Marsh").grid().material({62, 10}) == m);
    CHECK(w.view()->cellCentre({62, 10}) == screen); // what one looks at stays where it is
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().size == Size{30, 20});
}

TEST_CASE("frame, guides, measuring and the figure help to build", "[app][guides]") {
    Window w;
    begin(w);
    // A guide out of the left ruler, and back over it.
    const auto pull = [&](QPoint from, QPoint to) {
        QTest::mousePress(w.view(), Qt::LeftButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, QPointF(to), w.view()->mapToGlobal(QPointF(to)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(w.view(), &move);
        QTest::mouseRelease(w.view(), Qt::LeftButton, {}, to);
    };
    const QPoint at = w.view()->cellCentre({20, 18});
    pull({8, 300}, at);
    REQUIRE(w.level().guides.size() == 1);
    CHECK(w.level().guides[0].upright);
    CHECK(w.level().guides[0].at % 16 == 0);
    const int x = w.view()->cellCentre({w.level().guides[0].at / 16, 0}).x() - 16;
    pull({x, 10}, {8, 10});
    CHECK(w.level().guides.empty());
    // The frame is dragged by its tag.
    w.view()->lookAt({w.view()->framePixels().x / 16 + 6, w.view()->framePixels().y / 16 + 6});
    w.view()->setCamera(1, QPointF(w.view()->framePixels().x + 100.0, w.view()->framePixels().y + 100.0));
    const Box frame = w.view()->framePixels();
    const QPoint tag = w.view()->cellCentre({frame.x / 16, frame.y / 16}) + QPoint(4, 2);
    // With something in the Hand that is laid, and the frame stays.
    pull(tag, tag + QPoint(32, 0));
    CHECK_FALSE(w.level().frame_at);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_Escape);
    pull(tag, tag + QPoint(64, 32));
    REQUIRE(w.level().frame_at);
    CHECK(std::abs(w.level().frame_at->x - frame.x - 64) <= 16);
    // Measured in cells and what else counts.
    w.key(Qt::Key_M);
    w.drag({frame.x / 16 + 2, frame.y / 16 + 2}, {frame.x / 16 + 7, frame.y / 16 + 4});
    CHECK(w.view()->reading().text.contains("5 × 2 cells"));
    CHECK(w.view()->reading().text.contains("80 × 32 px"));
    CHECK(w.view()->reading().text.contains("walkers high"));
    // The figure stands where it is parked.
    w.key(Qt::Key_B);
    w.hover({frame.x / 16 + 3, frame.y / 16 + 3});
    w.key(Qt::Key_G, Qt::ShiftModifier);
    CHECK(w.view()->figureFoot() == Point{(frame.x / 16 + 3) * 16 + 8, (frame.y / 16 + 4) * 16});
    w.key(Qt::Key_G);
    w.hover({frame.x / 16 + 5, frame.y / 16 + 5});
    CHECK(w.view()->figureFoot() == Point{(frame.x / 16 + 5) * 16 + 8, (frame.y / 16 + 6) * 16});
    // Looked at alone, the other layers are hidden to the eye and to the brush, not in the level.
    w.activate("Marsh");
    w.key(Qt::Key_Q, Qt::ShiftModifier);
    CHECK(w.session().isAlone(w.layer("Marsh").id));
    CHECK_FALSE(w.view()->shown().layer(w.layer("Clay").id)->shown);
    CHECK(w.layer("Clay").shown);
    w.pickMaterial("Clay");
    w.hover({20, 18});
    CHECK(w.view()->reading().warns); // its home is not looked at
    w.key(Qt::Key_Q, Qt::ShiftModifier);
    CHECK(!w.session().anyAlone());
}

TEST_CASE("the last ten Hands come back, and a pocket keeps a spread", "[app][hand]") {
    Window w;
    begin(w);
    for (const char* name : {"Clay", "Brine", "Creek"}) w.pickMaterial(name);
    REQUIRE(w.session().lastHands().size() >= 4);
    const auto brine = w.session().lastHands()[1];
    w.key(Qt::Key_H, Qt::ShiftModifier);
    QMenu* menu = nullptr;
    REQUIRE(QTest::qWaitFor(
        [&] {
            for (QWidget* top : QApplication::topLevelWidgets())
                if (top->objectName() == "lastHands" && top->isVisible()) menu = static_cast<QMenu*>(top);
            return menu != nullptr;
        },
        2000));
    REQUIRE(menu->actions().size() >= 4);
    CHECK(menu->actions()[1]->text() == "Brine");
    QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(menu->actions()[1]).center());
    settle();
    (*w).activateWindow();
    CHECK(w.session().hand() == brine);
    edit::Hand spread{
        edit::held::Spread{{{0, tile_named(w, "Pebbles"), {}, 100}, {0, tile_named(w, "Straw"), Turn{4}, 30}}}};
    spread.share_empty = 35;
    w.session().setHand(spread);
    w.key(Qt::Key_4);
    w.session().save();
    w.restart();
    w.key(Qt::Key_Escape);
    w.key(Qt::Key_4);
    CHECK(w.session().hand() == spread);
}

TEST_CASE("what was copied in one project is laid in another, with its art", "[app][select]") {
    Window w;
    begin(w);
    w.key(Qt::Key_S);
    w.session().setSelection(level::Region(Box{18, 14, 6, 4}));
    w.key(Qt::Key_C, Qt::ControlModifier);
    // Another project, with none of it.
    make::Folder other;
    make::Small small({30, 20});
    make::save_with_pictures(small.project, other.path());
    REQUIRE((*w).openProject(QString::fromStdString(other.path().string())));
    w.stage("stage-lay");
    const auto materials = w.session().project().materials.size();
    w.key(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(w.session().hand().is<edit::held::Stamp>());
    CHECK(w.session().project().materials.size() > materials);
    bool clay = false;
    for (const auto& m : w.session().project().materials) clay = clay || m->name == "Clay";
    CHECK(clay);
    for (const auto& s : w.session().project().sheets) CHECK(s->image);
    w.session().save();
    REQUIRE((*w).openProject(QString::fromStdString(other.path().string())));
    for (const auto& s : w.session().project().sheets) CHECK(s->image); // the pictures came along
}
