// Asking who decides with a click, changing it there, and collision classes of things, in Bound.
#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QTest>
#include <algorithm>

#include "app/bounding.hpp"
#include "app/parts/card_list.hpp"
#include "app/window.hpp"
#include "edit/used.hpp"

using namespace app_test;

namespace {

// The entry of a menu under the one that is open.
void under(QMenu* menu, const char* name, const QString& text) {
    QMenu* inner = menu->findChild<QMenu*>(name);
    REQUIRE(inner);
    for (QAction* a : inner->actions())
        if (a->text() == text) {
            a->trigger();
            menu->close();
            return settle();
        }
    FAIL("no such entry: " << text.toStdString());
}

void write(Bound& w, const char* field, const char* text) {
    auto* edit = w.find<QComboBox>(field)->lineEdit();
    (*w).activateWindow();
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
    settle();
}

} // namespace

TEST_CASE("a click names who decides and offers to change it there: at a pan, at one cell, at a prop",
          "[app][bound][decided]") {
    Bound w;
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    w.key(Qt::Key_I, Qt::ShiftModifier);
    CHECK(w.session().tool() == Tool{"WhoDecides"});
    w.hover({43, 17});
    INFO(w.reading().toStdString());
    CHECK(w.reading().contains("who decides"));
    CHECK(w.reading().contains("\"Brine\" on \"Pans\" blocks here"));
    w.clickCell({43, 17});
    QMenu* menu = shownMenu("decidedMenu");
    CHECK(menu->actions().first()->text().contains("\"Brine\" on \"Pans\" blocks here"));
    w.picture("bound-decided");
    under(menu, "decidedHere", "blocks nothing");
    CHECK(w.level().here.tiles.size() > 0);
    w.hover({43, 17});
    CHECK_FALSE(w.reading().contains("blocks here"));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().here.tiles.empty());
    // For all levels.
    w.clickCell({43, 17});
    under(shownMenu("decidedMenu"), "decidedEverywhere", "blocks nothing");
    CHECK(w.card("Brine").state.startsWith("blocks nothing"));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    // For this cell alone, and back.
    w.clickCell({43, 17});
    clickEntry(shownMenu("decidedMenu"), "At this cell alone: one may walk");
    CHECK_FALSE(edit::decided_at(w.session().project(), w.level(), {43, 17}).blocks);
    CHECK(edit::decided_at(w.session().project(), w.level(), {44, 17}).blocks);
    w.clickCell({43, 17});
    clickEntry(shownMenu("decidedMenu"), "Take the cell's own word back");
    CHECK(edit::decided_at(w.session().project(), w.level(), {43, 17}).blocks);
    // What decides is shown in the list.
    w.clickCell({43, 17});
    clickEntry(shownMenu("decidedMenu"), "Show it under Used here");
    REQUIRE(w.list->selectionModel()->selectedIndexes().size() == 1);
    const int row = w.list->selectionModel()->selectedIndexes().first().row();
    CHECK(w.list->cards()[static_cast<std::size_t>(row)].title == "Brine");
    // A prop's kind, here.
    w.view()->setCamera(2, {36.0 * 16, 14.0 * 16});
    w.clickCell({36, 14});
    under(shownMenu("decidedMenu"), "decidedHere", "blocks nothing");
    CHECK(w.level().here.props.size() == 1);
    // A blocker that was drawn is taken away from where it is.
    w.key(Qt::Key_D, Qt::ShiftModifier);
    w.drag({30, 12}, {32, 14});
    w.key(Qt::Key_I, Qt::ShiftModifier);
    w.clickCell({31, 13});
    clickEntry(shownMenu("decidedMenu"), "Take that blocker away");
    CHECK(w.level().layers.back()->blockers()->free().empty());
}

TEST_CASE("a bridge's word is changed where it is asked: on its layer, which does not block", "[app][bound][decided]") {
    Bound w;
    const level::Layer& marsh = w.layer("Marsh");
    // Its material blocks, but its layer does not listen: a click lets it.
    w.pick("Marsh");
    w.click("usedFull");
    const auto at = [&]() -> Point {
        const level::Level& level = w.level();
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x)
                if (edit::decided_at(w.session().project(), level, {x, y}).by == edit::Decided::By::layer_open)
                    return {x, y};
        FAIL("none");
        return {};
    }();
    w.view()->setCamera(2, {at.x * 16.0, at.y * 16.0});
    w.key(Qt::Key_I, Qt::ShiftModifier);
    w.clickCell(at);
    clickEntry(shownMenu("decidedMenu"), "Let what lies on Marsh block");
    CHECK(w.level().layer(marsh.id)->solid());
    CHECK(edit::decided_at(w.session().project(), w.level(), at).blocks);
}

TEST_CASE("materials, props and drawn blockers name a collision class, and movers pass it", "[app][bound][decided]") {
    Bound w;
    CHECK_FALSE((*w).findChild<QWidget*>("stops-1-0"));
    w.pick("Brine");
    write(w, "usedClass", "deep water");
    CHECK(w.card("Brine").state.contains("deep water"));
    w.pick("Wind pump");
    write(w, "usedClass", "works");
    const auto& kinds = w.session().project().prop_kinds;
    CHECK(std::any_of(kinds.begin(), kinds.end(),
                      [](const auto& k) { return k->name == "Wind pump" && k->collision_class == "works"; }));
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    w.hover({43, 17});
    CHECK(w.reading().contains("class deep water"));
    // It is one of those to choose from now on; the first entry takes it back.
    w.pick("Brine");
    auto* field = w.find<QComboBox>("usedClass");
    CHECK(field->lineEdit()->text() == "deep water");
    CHECK(field->findText("works") > 0);
    // Who is stopped.
    w.click("moverAdd");
    REQUIRE(w.session().project().movers.size() == 1);
    w.click("stops-1-0"); // no class, deep water, works
    CHECK(w.session().project().movers[0].passes == std::vector<std::string>{"deep water"});
    w.picture("bound-classes");
    // From the list that its arrow opens.
    w.clickAt(field, {field->width() - 8, field->height() / 2});
    REQUIRE_SOON(field->view()->isVisible());
    QTest::qWait(QApplication::doubleClickInterval() + 20);
    // While the machine is busy the list may hold a click for the end of the one that opened it.
    const auto taken = [&] {
        if (field->view()->isVisible())
            w.clickAt(field->view()->viewport(), field->view()->visualRect(field->model()->index(0, 0)).center());
        return !w.card("Brine").state.contains("deep water");
    };
    REQUIRE_SOON(taken());
    // Of one that was drawn.
    w.key(Qt::Key_D, Qt::ShiftModifier);
    w.drag({40, 20}, {44, 22});
    auto* blockers = w.find<CardList>("blockerList");
    REQUIRE_SOON(blockers->isVisible() && blockers->cards().size() == 1);
    w.clickAt(blockers->viewport(), blockers->cardCentre(1));
    write(w, "blockerClass", "wire");
    CHECK(w.level().layers.back()->blockers()->free()[0].collision_class == "wire");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().layers.back()->blockers()->free()[0].collision_class.empty());
}
