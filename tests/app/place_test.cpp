// The level as a place: what is said of its cells, its marks, and its sides.
#include <QApplication>
#include <QColorDialog>
#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <functional>

#include "app/session/session.hpp"
#include "app/window.hpp"
#include "edit/document.hpp"
#include "parcel/build.hpp"
#include "store/project_files.hpp"
#include "vicinum_level.hpp"

using namespace app_test;

namespace {

// Answers the dialog of a new note, which the next click opens.
void answerNote(const QString& name, const QString& type, const QString& choices) {
    auto* timer = new QTimer(qApp);
    timer->setInterval(50);
    QObject::connect(timer, &QTimer::timeout, timer, [=, tries = 0]() mutable {
        auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
        if (++tries > 100) timer->deleteLater();
        if (!dialog || dialog->objectName() != "noteDialog") return;
        timer->deleteLater();
        QTest::keyClicks(dialog->findChild<QLineEdit*>("noteName"), name);
        auto* kind = dialog->findChild<QComboBox*>("noteType");
        while (kind->currentText() != type && kind->currentIndex() + 1 < kind->count())
            QTest::keyClick(kind, Qt::Key_Down);
        if (!choices.isEmpty()) QTest::keyClicks(dialog->findChild<QLineEdit*>("noteChoices"), choices);
        QTest::mouseClick(dialog->findChild<QPushButton*>("noteAdd"), Qt::LeftButton);
        if (dialog->isVisible()) dialog->reject();
    });
    timer->start();
}

void addFacts(Window& w, const QString& note) {
    w.click("addLayer");
    clickEntry(shownMenu("addLayerMenu"), "Facts");
    clickEntry(shownMenu("addFactsMenu"), note);
    settle();
    (*w).activateWindow();
}

} // namespace

TEST_CASE("values are painted over cells with any tool, seen, and handed to the engine", "[app][facts]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    answerNote("Ore", "number", {});
    addFacts(w, "Of a new note…");
    REQUIRE(w.session().activeLayer()->facts());
    REQUIRE(w.session().project().note_kinds.back().name == "Ore");
    w.hover({15, 17});
    CHECK(w.reading().contains("Ore: 1"));
    type(w.find<QSpinBox>("factValue"), "5");
    w.clickCell({15, 17});
    // The rectangle, over what is there.
    w.key(Qt::Key_R);
    type(w.find<QSpinBox>("factValue"), "12");
    w.drag({17, 16}, {22, 20});
    const auto value = [&](Point at) { return w.session().activeLayer()->facts()->value(at); };
    CHECK(value({15, 17}) == 5);
    CHECK(value({20, 18}) == 12);
    CHECK_FALSE(value({16, 17}));
    w.key(Qt::Key_B);
    type(w.find<QSpinBox>("factValue"), "-3");
    w.dragCells({{18, 17}, {18, 18}, {18, 19}});
    CHECK(value({18, 18}) == -3);
    CHECK(w.session().document().undo_name() == "Lay Ore: -3");
    w.hover({20, 18});
    CHECK(w.reading().contains("replaces Ore: 12"));
    w.picture("facts");
    // Another is picked up where it lies.
    w.clickCell({15, 17}, Qt::LeftButton, Qt::AltModifier);
    CHECK(w.session().hand().as<edit::held::Fact>()->value == 5);
    // The right button takes it away.
    w.clickCell({15, 17}, Qt::RightButton);
    CHECK_FALSE(value({15, 17}));
    // A choice of words lies on a layer of its own, and only there.
    const level::LayerId ore = w.session().activeLayerId();
    answerNote("Ground", "choice", "soft, hard");
    addFacts(w, "Of a new note…");
    w.choose("factWord", "hard");
    w.clickCell({24, 18});
    const level::LayerId ground = w.session().activeLayerId();
    REQUIRE(ground != ore);
    CHECK(w.session().activeLayer()->facts()->value({24, 18}) == 1);
    w.choose("factsLook", "words");
    w.picture("facts-words");
    // Choosing tiles' layer again lays down the value.
    w.activate("Marsh");
    CHECK_FALSE(w.session().hand().is<edit::held::Fact>());
    // Kept, and in the parcel.
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    REQUIRE_SOON(!w.session().document().unsaved());
    const level::Project saved = store::load(w.folder / "pell");
    const level::Level& level = *saved.level(w.level().id);
    CHECK(level.layer(ore)->facts()->value({18, 18}) == -3);
    parcel::build(saved, level, w.folder / "built");
    const vicinum::Level loaded = vicinum::load(w.folder / "built");
    REQUIRE(loaded.facts.size() == 2);
    CHECK(*loaded.facts[0].value(20, 18) == 12);
    CHECK(*loaded.facts[1].value(24, 18) == "hard");
}

TEST_CASE("a mark is drawn as a box, named, coloured and noted", "[app][marks]") {
    Window w;
    w.stage("stage-dress");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.click("toolMark");
    w.drag({16, 16}, {20, 18});
    const level::Mark* mark = w.session().mark();
    REQUIRE(mark);
    CHECK(mark->cells == Box{16, 16, 5, 3});
    auto* name = w.find<QLineEdit>("markName");
    name->selectAll();
    QTest::keyClicks(name, "Heron's nest");
    QTest::keyClick(name, Qt::Key_Return);
    answerColour(QColor(120, 60, 200));
    w.click("markColour");
    answerNote("Eggs", "number", {});
    w.click("addMarkNote");
    auto* eggs = w.find<QLineEdit>("note-Eggs");
    QTest::keyClicks(eggs, "3");
    QTest::keyClick(eggs, Qt::Key_Return);
    type(w.find<QSpinBox>("markWidth"), "6");
    mark = w.session().mark();
    REQUIRE(mark);
    CHECK(mark->name == "Heron's nest");
    CHECK(mark->colour == Rgba{120, 60, 200, 255});
    CHECK(mark->notes.at(w.session().project().note_kinds.back().id) == level::NoteValue(3.0));
    CHECK(mark->cells == Box{16, 16, 6, 3});
    w.picture("mark");
    // A click elsewhere lets go of it, one on it takes it again; it is dragged and removed as a prop is.
    w.clickCell({24, 22});
    CHECK(w.session().mark() == nullptr);
    CHECK_FALSE(w.find<QWidget>("markPanel")->isVisible());
    w.drag({18, 17}, {19, 18});
    REQUIRE(w.session().mark());
    CHECK(w.session().mark()->cells == Box{17, 17, 6, 3});
    w.choose("markKind", "an exit");
    CHECK(w.session().mark()->kind == level::MarkKind::exit);
    (*w).activateWindow();
    w.clickCell({18, 18});
    REQUIRE_SOON(QApplication::focusWidget() == w.view());
    w.key(Qt::Key_Delete);
    CHECK(w.session().mark() == nullptr);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().marks.back().name == "Heron's nest");
}

TEST_CASE("sides of a level block, are open or lead on, and Walk obeys", "[app][sides]") {
    Window w;
    w.stage("stage-lay");
    const std::string first = w.level().id;
    const std::string next = w.session().project().levels[1]->id;
    level::Level untold = w.level();
    untold.sides = {};
    w.session().applyLevel("Sides", std::move(untold));
    w.click("sidesHead");
    w.choose("side-0", "blocks");
    w.choose("side-3", QString("leads on to %1").arg(QString::fromStdString(w.session().project().levels[1]->name)));
    CHECK(w.level().sides[0].kind == level::SideKind::blocks);
    CHECK(w.level().sides[3].to == next);
    CHECK(w.find<QToolButton>("sidesHead")->text().contains("2 not open"));
    w.view()->fit();
    w.picture("sides");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().sides[3].kind == level::SideKind::open);
    w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    // The start at the western rim: a few steps to the left lead into the other level.
    level::Level near = w.level();
    for (level::Mark& m : near.marks)
        if (m.kind == level::MarkKind::start) m.cells = {0, 30, 1, 2};
    w.session().applyLevel("Start at the rim", std::move(near));
    w.stage("stage-walk");
    settle();
    REQUIRE_SOON(w.window->findChild<QWidget*>("walkPanel")->isVisible());
    QWidget* view = w.window->focusWidget();
    REQUIRE(view);
    QTest::keyPress(view, Qt::Key_Left);
    REQUIRE_SOON(w.level().id == next);
    QTest::keyRelease(view, Qt::Key_Left);
    CHECK(w.reading().contains("Went on to"));
    CHECK(first != next);
}

TEST_CASE("what is in the Hand is had in other colours, and follows", "[app][recolour]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.pickMaterial("Marsh");
    const auto materials = w.session().project().materials.size();
    const auto inDialog = [](const std::function<void(QDialog*)>& what) {
        answerNext([what](QWidget* top) {
            auto* dialog = qobject_cast<QDialog*>(top);
            const bool it = dialog && dialog->objectName() == "recolourDialog";
            if (it) what(dialog);
            return it;
        });
    };
    inDialog([&](QDialog* dialog) {
        auto* name = dialog->findChild<QLineEdit*>("recolourName");
        name->selectAll();
        QTest::keyClicks(name, "Dry marsh");
        type(dialog->findChild<QSpinBox*>("recolourHueNumber"), "-50");
        type(dialog->findChild<QSpinBox*>("recolourLightnessNumber"), "15");
        const QString folder = qEnvironmentVariable("VICINUM_PICTURES");
        if (!folder.isEmpty()) dialog->grab().save(folder + "/recolour.png");
        QTest::mouseClick(dialog->findChild<QPushButton*>("recolourMake"), Qt::LeftButton);
        if (dialog->isVisible()) dialog->reject();
    });
    w.click("handColours");
    REQUIRE(w.session().project().materials.size() == materials + 1);
    const level::Material& dry = *w.session().project().materials.back();
    CHECK(dry.name == "Dry marsh");
    CHECK(w.session().project().sheets.back()->recolour->lightness == 15);
    CHECK(w.session().hand().material() == dry.id);
    // It lies and joins as the other.
    w.dragCells({{16, 16}, {22, 16}, {22, 20}, {16, 20}, {16, 18}});
    w.hover({26, 24});
    w.picture("recoloured");
    CHECK(w.layer("Marsh").grid().material({18, 16}) == dry.id);
    const auto red = [&] {
        const QColor c = w.view()->grab().toImage().pixelColor(w.view()->cellCentre({18, 16}));
        return c.red() - c.green();
    };
    const int before = red();
    // Its colours are changed later, without laying anything anew.
    inDialog([&](QDialog* dialog) {
        CHECK(dialog->findChild<QLineEdit*>("recolourName") == nullptr);
        CHECK(dialog->findChild<QSpinBox*>("recolourHueNumber")->value() == -50);
        type(dialog->findChild<QSpinBox*>("recolourHueNumber"), "-90");
        QTest::mouseClick(dialog->findChild<QPushButton*>("recolourMake"), Qt::LeftButton);
        if (dialog->isVisible()) dialog->reject();
    });
    w.click("handColours");
    settle();
    CHECK(red() != before);
    (*w).activateWindow();
    settle();
    w.key(Qt::Key_Z, Qt::ControlModifier);
    settle();
    CHECK(red() == before);
    // And come back from the disk.
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    REQUIRE_SOON(!w.session().document().unsaved());
    w.reopen();
    CHECK(w.session().project().sheets.back()->recolour->hue == -50);
    CHECK(w.layer("Marsh").grid().material({18, 16}) == w.session().project().materials.back()->id);
}
