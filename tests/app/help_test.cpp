// Help for what is under the pointer, the list of keys and changing them, and the first level in five minutes.
#include <QAction>
#include <QCursor>
#include <QFrame>
#include <QHelpEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QTextBlock>
#include <QTextBrowser>
#include <QTextCursor>
#include <QToolButton>
#include <QToolTip>
#include <set>

#include "app/shell/help.hpp"
#include "app/shell/keys.hpp"
#include "app/shell/steps.hpp"
#include "app/window.hpp"
#include "join/mask.hpp"

using namespace app_test;

namespace {

QWidget* keys(Window& w) {
    w.key(Qt::Key_F1, Qt::ShiftModifier);
    auto* page = w.find<QWidget>("keyList");
    REQUIRE(page->isVisible());
    return page;
}

QToolButton* key_of(Window& w, const char* action) {
    return w.find<QToolButton>((std::string("keyOf-") + action).c_str());
}

void press(QWidget* page, int key, Qt::KeyboardModifiers with = {}) {
    QTest::keyClick(page, static_cast<Qt::Key>(key), with);
}

QString step(Window& w) { return w.find<QLabel>("stepWhat")->text(); }

} // namespace

TEST_CASE("F1 tells of what is under the pointer, and where the guide says more", "[app][help]") {
    Window w;
    const auto helpOn = [&](QWidget* widget) {
        QCursor::setPos(widget->mapToGlobal(widget->rect().center()));
        w.key(Qt::Key_F1);
        auto* card = w.find<QWidget>("helpCard");
        REQUIRE(card->isVisible());
        return w.find<QLabel>("helpText")->text().toStdString();
    };
    CHECK_THAT(helpOn(w.find<QWidget>("undo")), Catch::Contains("Undo") && Catch::Contains("Ctrl+Z"));
    w.find<QWidget>("helpCard")->close();
    CHECK_THAT(helpOn(w.view()), Catch::Contains("left button lays"));
    w.picture("help");
    w.click("helpGuide");
    auto* guide = w.find<QWidget>("guide");
    CHECK(guide->isVisible());
    CHECK(w.find<QTextBrowser>("guideText")->textCursor().block().text() == "Lay: painting");
    guide->close();
    // A key that was changed is told as it is now.
    Keys mine;
    QAction action("Undo", nullptr);
    action.setObjectName("undoForHelp");
    action.setShortcut(QKeySequence(Qt::CTRL | Qt::Key_Z));
    mine.add(&action, Where::everywhere);
    mine.set(&action, QKeySequence(Qt::ALT | Qt::Key_Z));
    const QString tip = w.find<QWidget>("undo")->toolTip();
    CHECK(mine.current(tip, "Ctrl+Z").contains("Alt+Z"));
    CHECK(mine.current(tip, "Ctrl+Y") == tip);
}

TEST_CASE("every heading that help names is in the guide", "[app][help]") {
    Window w;
    Guide guide(nullptr);
    auto* text = guide.findChild<QTextBrowser*>("guideText");
    REQUIRE(text);
    guide.open({});
    CHECK(text->toPlainText().contains("Cut: from a picture to tiles"));
    std::set<QString> wanted;
    for (const QWidget* widget : w.window->findChildren<QWidget*>())
        for (int stage = 0; stage < kStages; ++stage)
            wanted.insert(topicOf(widget, true, static_cast<Stage>(stage)).heading);
    CHECK(wanted.size() > 8);
    for (const QString& heading : wanted) {
        INFO(heading.toStdString());
        guide.open(heading);
        CHECK(text->textCursor().block().text() == heading);
    }
}

TEST_CASE("all keys stand by stage, this one first, are found, and say what is free", "[app][help]") {
    Window w;
    w.stage("stage-cut");
    QWidget* page = keys(w);
    const auto heads = [&] {
        QStringList out;
        for (auto* l : page->findChildren<QLabel*>())
            if (l->property("role") == "heading" && l->isVisible()) out << l->text();
        return out;
    };
    CHECK(heads().first() == "Cut");
    CHECK(w.find<QLabel>("keysSaid")->text().contains("Free in Cut: A"));
    w.find<QLineEdit>("keysSearch")->setText("quiet");
    CHECK(key_of(w, "keyQuiet")->isVisible());
    CHECK_FALSE(key_of(w, "takeCutAction")->isVisible());
    w.picture("keys-search");
    page->close();
    w.stage("stage-lay");
    CHECK(keys(w) == page);
    CHECK(heads().first().contains("Lay"));
    w.picture("keys");
    page->close();
}

TEST_CASE("a key is changed by a click, a conflict is said before it is taken, and all of it is kept", "[app][help]") {
    Window w;
    QWidget* page = keys(w);
    auto* quiet = w.find<QAction>("keyQuiet");
    auto* outlines = w.find<QAction>("keyOutlines");
    REQUIRE(quiet->shortcut() == QKeySequence(Qt::Key_Q));
    w.clickAt(key_of(w, "keyQuiet"), key_of(w, "keyQuiet")->rect().center());
    CHECK(key_of(w, "keyQuiet")->text() == "press a key");
    press(page, Qt::Key_O); // that of the outlines
    CHECK(quiet->shortcut() == QKeySequence(Qt::Key_Q));
    CHECK_THAT(w.find<QLabel>("keysSaid")->text().toStdString(), Catch::Contains("Show outlines"));
    press(page, Qt::Key_O);
    CHECK(quiet->shortcut() == QKeySequence(Qt::Key_O));
    CHECK(outlines->shortcut().isEmpty());
    page->close();
    // It works, and is there after a restart.
    w.view()->setFocus();
    w.key(Qt::Key_O);
    CHECK_FALSE(w.find<QWidget>("workline")->isVisible());
    w.key(Qt::Key_O);
    w.restart();
    CHECK(w.find<QAction>("keyQuiet")->shortcut() == QKeySequence(Qt::Key_O));
    CHECK(w.find<QAction>("keyOutlines")->shortcut().isEmpty());
    // A command of Cut may have the same key as one of the level.
    page = keys(w);
    w.clickAt(key_of(w, "makeMaterialAction"), key_of(w, "makeMaterialAction")->rect().center());
    press(page, Qt::Key_O);
    CHECK(w.find<QAction>("makeMaterialAction")->shortcut() == QKeySequence(Qt::Key_O));
    CHECK(w.find<QAction>("keyQuiet")->shortcut() == QKeySequence(Qt::Key_O));
    w.click("keysReset");
    CHECK(w.find<QAction>("keyOutlines")->shortcut() == QKeySequence(Qt::Key_O));
    CHECK(w.find<QAction>("makeMaterialAction")->shortcut() == QKeySequence(Qt::Key_M));
    page->close();
    w.restart();
    CHECK(w.find<QAction>("keyQuiet")->shortcut() == QKeySequence(Qt::Key_Q));
}

TEST_CASE("a first level in seven steps, each beside its control, going on by itself", "[app][steps]") {
    Window w(false);
    auto* steps = w.find<Steps>("steps");
    w.click("startSteps");
    REQUIRE_SOON(steps->isVisible());
    CHECK(step(w).contains("Drop a sheet"));
    w.picture("steps-1");
    const auto masks = join::cases(level::JoinKind::full);
    w.drop(put(w, "Moor.png", make::sheet(make::tiles(masks, 24, make::Style::textured, 3), 8, {}, {})));
    settle();
    CHECK(step(w).contains("takes the cut"));
    w.picture("steps-2");
    w.key(Qt::Key_Return);
    CHECK(step(w).startsWith("M reads"));
    w.key(Qt::Key_M);
    settle();
    CHECK(step(w) == "Go to Lay");
    w.key(Qt::Key_3, Qt::ControlModifier);
    settle();
    // What was read is in the Hand already.
    CHECK(step(w).startsWith("Draw ground"));
    w.picture("steps-5");
    w.view()->setCamera(1, QPointF(10.0 * 24, 10.0 * 24));
    w.dragCells({{6, 12}, {18, 12}});
    CHECK(step(w).startsWith("Try it"));
    w.key(Qt::Key_6, Qt::ControlModifier);
    settle();
    CHECK(step(w).startsWith("Walk"));
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Right);
    w.key(Qt::Key_Escape);
    REQUIRE_SOON(step(w) == "Go to Hand over");
    CHECK(steps->on()); // Esc came back from the walk
    w.key(Qt::Key_B, Qt::ControlModifier);
    REQUIRE_SOON(step(w) == "That was a level");
    w.picture("steps-done");
    // Left, and taken up again: what is done is passed over.
    w.click("stepLeave");
    CHECK_FALSE(steps->isVisible());
    w.find<QAction>("firstLevel")->trigger();
    CHECK(steps->on());
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.key(Qt::Key_Escape); // empties the Hand
    w.key(Qt::Key_Escape);
    CHECK_FALSE(steps->on());
}

TEST_CASE("as long as a key is held the level is seen as it was kept", "[app][blink]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setFocus();
    QTest::keyPress(w.view(), Qt::Key_W);
    CHECK(w.reading().contains("no keep-point"));
    QTest::keyRelease(w.view(), Qt::Key_W);
    w.session().keepPoint("before the marsh");
    settle();
    w.activate("Marsh");
    w.pickMaterial("Marsh");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.clickCell({18, 18});
    const level::LayerId marsh = w.layer("Marsh").id;
    const auto shown = [&] { return w.view()->shown().layer(marsh)->grid().material({18, 18}) != 0; };
    REQUIRE(shown());
    QTest::keyPress(w.view(), Qt::Key_W);
    REQUIRE_SOON(!shown());
    QTest::keyRelease(w.view(), Qt::Key_W);
    settle();
    CHECK(shown());
    CHECK(w.layer("Marsh").grid().material({18, 18}) != 0); // nothing was gone back to
}

TEST_CASE("the steps go with the demo's art, too", "[app][steps]") {
    Window w(false);
    w.find<QAction>("firstLevel")->trigger();
    auto* demo = w.find<QPushButton>("stepDemo");
    REQUIRE_SOON(demo->isVisible());
    w.click("stepDemo");
    settle();
    REQUIRE(w.session().isOpen());
    CHECK(w.session().project().sheets.size() == 1);
    CHECK(step(w).contains("takes the cut"));
}
