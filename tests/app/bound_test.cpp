// Bound as a designer works it: what is used here, what it is to a walker, and who decides at a place.
#include <QItemSelectionModel>
#include <QLabel>
#include <QTest>
#include <QToolButton>
#include <algorithm>

#include "app/parts/card_list.hpp"
#include "app/window.hpp"
#include "edit/blocking.hpp"

using namespace app_test;

namespace {

struct Bound : Window {
    CardList* list = nullptr;
    Bound() {
        stage("stage-bound");
        list = find<CardList>("usedList");
    }
    const Card& card(const char* title) {
        const auto& all = list->cards();
        const auto found = std::find_if(all.begin(), all.end(), [&](const Card& c) { return c.title == title; });
        REQUIRE(found != all.end());
        return *found;
    }
    void choose(const char* title, Qt::KeyboardModifiers modifiers = {}) {
        const QPoint at = list->cardCentre(card(title).id);
        list->scrollTo(list->indexAt(at));
        clickAt(list->viewport(), list->cardCentre(card(title).id), Qt::LeftButton, modifiers);
    }
    const level::Material& material(const char* name) {
        for (const auto& m : session().project().materials)
            if (m->name == name) return *m;
        FAIL("no such material");
        return *session().project().materials.front();
    }
};

} // namespace

TEST_CASE("what is used here says what it is to a walker, and is told otherwise there", "[app][bound]") {
    Bound w;
    CHECK(w.card("Brine").state == "blocks whole cells");
    CHECK(w.card("Marsh").state == "blocks nothing");
    CHECK(w.card("Clay").under.endsWith(" here"));
    w.choose("Marsh");
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
    w.choose("Brine", Qt::ControlModifier);
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
