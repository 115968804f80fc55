// Bound: what holds in one level alone, the lists of what can be told and of who is stopped, what was drawn free of
// the lattice, and what blocks as a drawing.
#include <QCheckBox>
#include <QFileDialog>
#include <QInputDialog>
#include <QItemSelectionModel>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTest>
#include <QToolButton>
#include <algorithm>

#include "app/bounding.hpp"
#include "app/parts/card_list.hpp"
#include "app/window.hpp"
#include "base/files.hpp"
#include "edit/blocking.hpp"
#include "sheet/png.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

namespace {

// Answers the next dialog that asks for a word.
void answerWord(const QString& word) {
    answerNext([word](QWidget* top) {
        auto* dialog = qobject_cast<QInputDialog*>(top);
        if (!dialog) return false;
        dialog->setTextValue(word);
        dialog->accept();
        return true;
    });
}

} // namespace

TEST_CASE("what things are is said for one level alone, and taken back", "[app][bound][here]") {
    Bound w;
    w.pick("Brine");
    CHECK_FALSE(w.find<QToolButton>("usedAsProject")->isVisible());
    const QString before = w.find<QLabel>("outlinesOut")->text();
    w.click("usedHereOnly");
    w.click("usedNothing");
    CHECK(w.card("Brine").state == "blocks nothing · here only");
    CHECK(edit::blocking_of(w.session().project(), w.material("Brine")) == edit::Blocking::full);
    CHECK(w.find<QLabel>("outlinesOut")->text() != before);
    w.view()->setCamera(2, {40.0 * 16, 20.0 * 16});
    w.hover({43, 17});
    CHECK_FALSE(w.reading().contains("\"Brine\" on \"Pans\" blocks here"));
    w.picture("bound-here-only");
    // It stays with the level when the project is opened again, and the engine gets it.
    REQUIRE(w.find<QToolButton>("usedAsProject")->isVisible());
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    w.reopen();
    CHECK_FALSE(w.level().here.tiles.empty());
    w.stage("stage-bound");
    w.list = w.find<CardList>("usedList");
    REQUIRE_SOON(w.list->model()->rowCount() > 3);
    w.pick("Brine");
    w.click("usedAsProject");
    CHECK(w.card("Brine").state == "blocks whole cells");
    CHECK(w.level().here.empty());
    CHECK(w.find<QLabel>("outlinesOut")->text() == before);
    // What tiles tell is said here alone as well.
    w.click("usedHereOnly");
    w.click("usedTells");
    clickEntry(shownMenu("tellsMenu"), "Water");
    CHECK(w.card("Brine").state.contains("tells: Water"));
    CHECK(w.card("Brine").state.contains("here only"));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().here.empty());
}

TEST_CASE("an area of the list is renamed, gets another colour and another meaning", "[app][bound][tells]") {
    Bound w;
    w.session().setLevel("pump-cellar");
    w.stage("stage-bound");
    const auto water = [&] { return w.session().project().area_kinds.front(); };
    REQUIRE(water().name == "Water");
    const auto found = std::find_if(w.list->cards().begin(), w.list->cards().end(),
                                    [](const Card& c) { return c.state.contains("tells: Water"); });
    REQUIRE(found != w.list->cards().end());
    const std::string title = found->title.toStdString();
    const auto menu = [&] {
        w.pick(title.c_str());
        w.click("usedTells");
        return shownMenu("tellsMenu");
    };
    answerWord("Brine");
    clickEntry(menu(), "Rename Water…");
    REQUIRE_SOON(water().name == "Brine");
    CHECK(w.card(title.c_str()).state.contains("tells: Brine"));
    answerColour(QColor(10, 20, 30));
    clickEntry(menu(), "Colour of Brine…");
    const Rgba wanted{10, 20, 30, 255};
    REQUIRE_SOON(water().colour == wanted);
    QMenu* open = menu();
    QMenu* means = open->findChild<QMenu*>("tellsMeans");
    REQUIRE(means);
    for (QAction* a : means->actions())
        if (a->text() == "a hazard") a->trigger();
    open->close();
    settle();
    CHECK(water().means == level::AreaMeans::hazard);
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(water().name == "Water");
}

TEST_CASE("a mover is renamed from its head", "[app][bound][movers]") {
    Bound w;
    level::Level level = w.level();
    for (const level::LayerRef& layer : w.level().layers)
        if (layer->name == "Pans") level.edit(layer->id).collision_class = "brine";
    w.session().applyLevel("A class", std::move(level));
    REQUIRE_SOON(w.find<QToolButton>("moverAdd")->isVisible());
    w.click("moverAdd");
    REQUIRE(w.session().project().movers.size() == 1);
    const QString was = QString::fromStdString(w.session().project().movers[0].name);
    w.click("mover-0");
    answerWord("Gulls");
    clickEntry(shownMenu("moverMenu"), "Rename " + was + "…");
    REQUIRE_SOON(w.session().project().movers[0].name == "Gulls");
    CHECK(w.find<QToolButton>("mover-0")->text() == "Gulls");
}

TEST_CASE("what was drawn free of the lattice is listed, named, and comes to tell", "[app][bound][free]") {
    Bound w;
    auto* blockers = w.find<CardList>("blockerList");
    CHECK_FALSE(blockers->isVisible());
    w.view()->setCamera(2, {30.0 * 16, 30.0 * 16});
    w.key(Qt::Key_D, Qt::ShiftModifier);
    w.drag({20, 30}, {24, 32});
    w.drag({28, 30}, {31, 33});
    REQUIRE_SOON(blockers->isVisible() && blockers->cards().size() == 2);
    CHECK(blockers->cards()[0].state == "in the way");
    CHECK_FALSE(w.find<QLineEdit>("blockerName")->isVisible());
    w.clickAt(blockers->viewport(), blockers->cardCentre(2));
    auto* name = w.find<QLineEdit>("blockerName");
    REQUIRE(name->isVisible());
    (*w).activateWindow();
    name->setFocus();
    QTest::keyClicks(name, "Ditch");
    QTest::keyClick(name, Qt::Key_Return);
    settle();
    CHECK(blockers->cards()[1].title == "Ditch");
    const QString before = w.find<QLabel>("shapesIn")->text();
    w.choose("blockerIs", "tells: Water");
    CHECK(blockers->cards()[1].state == "tells: Water");
    CHECK(w.level().layers.back()->blockers()->free()[1].tells == w.session().project().area_kinds[0].id);
    CHECK(w.find<QLabel>("shapesIn")->text() != before);
    w.picture("bound-drawn-blockers");
    w.click("blockerAway");
    CHECK(blockers->cards().size() == 1);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(blockers->cards().size() == 2);
    CHECK(blockers->cards()[1].title == "Ditch");
}

TEST_CASE("section, art and both are a key each, merged and unmerged, and go to files", "[app][bound][drawing]") {
    Bound w;
    w.view()->setCamera(2, {36.0 * 16, 16.0 * 16});
    using Bounds = LevelView::Bounds;
    const auto seen = [&] {
        settle();
        return w.view()->grab().toImage();
    };
    const QImage both = seen();
    w.view()->setFocus();
    w.key(Qt::Key_1, Qt::AltModifier);
    CHECK(w.view()->bounds() == Bounds::section);
    const QImage section = seen();
    w.picture("bound-section");
    w.key(Qt::Key_2, Qt::AltModifier);
    CHECK(w.view()->bounds() == Bounds::art);
    const QImage art = seen();
    CHECK(both != section);
    CHECK(both != art);
    CHECK(art != section);
    CHECK(w.find<QToolButton>("boundsArt")->isChecked());
    w.click("boundsBoth");
    CHECK(seen() == both);
    w.key(Qt::Key_4, Qt::AltModifier);
    CHECK(w.view()->showsUnmerged());
    CHECK(seen() != both);
    w.picture("bound-unmerged");
    w.click("boundsUnmerged");
    CHECK(seen() == both);
    CHECK(w.find<QLabel>("partsOut")->text().toInt() > 10);
    CHECK(w.find<QLabel>("savedOut")->text().contains("%"));
    // As files.
    const auto save = [&](const char* file) {
        const QString to = QString::fromStdString((w.folder.path() / file).string());
        answerNext([to](QWidget* top) {
            auto* dialog = qobject_cast<QFileDialog*>(top);
            auto* field = dialog ? dialog->findChild<QLineEdit*>("fileNameEdit") : nullptr;
            if (!field) return false;
            field->setText(to);
            dialog->setResult(QDialog::Accepted);
            QMetaObject::invokeMethod(dialog, "accept");
            return true;
        });
        w.click("boundsSave");
        settle();
    };
    save("both.svg");
    const std::string drawn = read_file(w.folder.path() / "both.svg");
    CHECK(drawn.starts_with("<svg "));
    CHECK(drawn.find("data:image/png;base64,") != std::string::npos);
    CHECK(drawn.find("class=\"blocks\"") != std::string::npos);
    w.click("boundsSection");
    save("section.png");
    const QImage png(QString::fromStdString((w.folder.path() / "section.png").string()));
    CHECK(png.width() == w.level().pixels().w);
    CHECK(png.height() == w.level().pixels().h);
}

TEST_CASE("marks that stand on the ground ride along when a selection is moved", "[app][lay][select]") {
    Window w;
    w.stage("stage-lay");
    const level::Mark mark = w.level().marks.front();
    const Point at = mark.cells.corner();
    w.view()->setCamera(2, {at.x * 16.0, at.y * 16.0});
    w.key(Qt::Key_S);
    w.drag(at - Point{2, 2}, at + Point{2, 2});
    REQUIRE_FALSE(w.session().selection().empty());
    w.drag(at, at + Point{4, 1});
    CHECK(w.level().marks.front().cells == mark.cells.moved({4, 1}));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().marks.front().cells == mark.cells);
}

TEST_CASE("a note is one of surfaces from the dialog or from the menu of its name", "[app][cut][notes]") {
    Window w;
    w.stage("stage-cut");
    w.session().setTiles({w.session().project().sheets.front()->tiles.front().id});
    settle();
    answerNext([](QWidget* top) {
        if (top->objectName() != "noteDialog") return false;
        top->findChild<QLineEdit*>("noteName")->setText("grip");
        top->findChild<QCheckBox*>("noteSurface")->setChecked(true);
        QTest::mouseClick(top->findChild<QPushButton*>("noteAdd"), Qt::LeftButton);
        return true;
    });
    w.click("addNote");
    settle();
    REQUIRE(w.session().project().note_kinds.back().name == "grip");
    CHECK(w.session().project().note_kinds.back().surface);
}

TEST_CASE("outlines with fewer corners are asked for in Hand over, and what it comes to is said there",
          "[app][hand-over]") {
    Window w;
    w.session().setLevel("pump-cellar");
    w.stage("stage-hand-over");
    auto* corners = w.find<QLabel>("engineCorners");
    CHECK_FALSE(corners->isVisible());
    type(w.find<QSpinBox>("engineDeviation"), "16");
    settle();
    CHECK(w.session().project().deviation == 16);
    REQUIRE_SOON(corners->isVisible());
    CHECK(corners->text().contains("instead of"));
    w.picture("hand-over-deviation");
    (*w).activateWindow();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().deviation == 0);
    CHECK(w.find<QSpinBox>("engineDeviation")->text() == "exact");
    type(w.find<QSpinBox>("engineThinnest"), "8");
    settle();
    CHECK(w.session().project().thinnest == 8);
    CHECK(corners->isVisible());
    (*w).activateWindow();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.find<QSpinBox>("engineThinnest")->text() == "as drawn");
}

TEST_CASE("what props tell is said for one level alone", "[app][bound][here]") {
    Bound w;
    const auto kind = std::find_if(w.list->cards().begin(), w.list->cards().end(), [&](const Card& c) {
        return std::any_of(w.session().project().prop_kinds.begin(), w.session().project().prop_kinds.end(),
                           [&](const auto& k) { return c.title.toStdString() == k->name && k->areas.empty(); });
    });
    REQUIRE(kind != w.list->cards().end());
    const std::string title = kind->title.toStdString();
    const auto kinds = w.session().project().prop_kinds;
    w.pick(title.c_str());
    w.click("usedHereOnly");
    w.click("usedTells");
    clickEntry(shownMenu("tellsMenu"), "Water");
    CHECK(w.card(title.c_str()).state.contains("tells: Water"));
    CHECK(w.card(title.c_str()).state.contains("here only"));
    CHECK(w.session().project().prop_kinds == kinds);
    CHECK(w.level().here.props.size() == 1);
    w.click("usedAsProject");
    CHECK(w.level().here.empty());
    CHECK_FALSE(w.card(title.c_str()).state.contains("tells"));
}
