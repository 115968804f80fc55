// Properties of many tiles at once: tags, turns, typed notes; found again, and obeyed when laying.
#include "app/window.hpp"

#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QObject>
#include <QPushButton>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QWidget>

#include "app/parts/picture_list.hpp"
#include "app/sheet/sheet_view.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "level/cell.hpp"
#include "level/material.hpp"
#include "level/notes.hpp"
#include "level/sheet.hpp"
#include "sheet/png.hpp"

using namespace app_test;

namespace {

void fill(QLineEdit* edit, const char* text) {
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
}

void pick(QComboBox* box, const QString& text) {
    const int index = box->findText(text);
    INFO(text.toStdString());
    REQUIRE(index >= 0);
    box->setFocus();
    // By the keyboard, as a person may: Home, then down.
    QTest::keyClick(box, Qt::Key_Home);
    for (int i = 0; i < index; ++i) QTest::keyClick(box, Qt::Key_Down);
    QTest::keyClick(box, Qt::Key_Return);
}

// Answers the dialog of "+ note", which the next click opens.
void answerNote(const char* name, int type, const char* choices) {
    auto* timer = new QTimer(qApp);
    timer->setInterval(50);
    QObject::connect(timer, &QTimer::timeout, timer, [=, tries = 0]() mutable {
        QDialog* dialog = nullptr;
        for (QWidget* top : QApplication::topLevelWidgets())
            if (top->objectName() == "noteDialog" && top->isVisible()) dialog = qobject_cast<QDialog*>(top);
        if (++tries > 100) timer->deleteLater();
        if (!dialog) return;
        timer->deleteLater();
        QTest::keyClicks(dialog->findChild<QLineEdit*>("noteName"), name);
        auto* kind = dialog->findChild<QComboBox*>("noteType");
        for (int i = 0; i < type; ++i) QTest::keyClick(kind, Qt::Key_Down);
        if (choices) QTest::keyClicks(dialog->findChild<QLineEdit*>("noteChoices"), choices);
        QTest::mouseClick(dialog->findChild<QPushButton*>("noteAdd"), Qt::LeftButton);
        if (dialog->isVisible()) dialog->reject();
    });
    timer->start();
}

} // namespace

TEST_CASE("tags, turns and notes are given to several tiles at once, taken back, and are there after a restart",
          "[properties]") {
    Window w;
    w.stage("stage-cut");
    const level::SheetId sheet = w.session().project().sheets[5]->id;
    w.session().setSheet(sheet);
    auto* view = w.find<SheetView>("sheetView");
    QApplication::processEvents();
    w.clickAt(view, view->tileCentre(3));
    w.clickAt(view, view->tileCentre(5), Qt::LeftButton, Qt::ControlModifier);
    REQUIRE(w.session().tiles().size() == 2);
    const auto tile = [&](std::size_t i) { return w.session().project().sheet(sheet)->tiles[i]; };

    fill(w.find<QLineEdit>("tileTags"), "wet, old brick");
    CHECK(tile(3).tags == std::vector<std::string>{"old brick", "wet"});
    CHECK(tile(5).tags == tile(3).tags);
    CHECK(tile(4).tags.empty());
    pick(w.find<QComboBox>("tileTurns"), "mirrored, not turned");
    CHECK(tile(5).turns == level::kMirrorOnly);

    answerNote("damp", 1, nullptr);
    w.click("addNote");
    answerNote("step", 4, "stone, wood, wet");
    w.click("addNote");
    // There is no window manager to give the focus back.
    (*w).activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&*w, 2000));
    REQUIRE(w.session().project().note_kinds.size() == 2);
    const auto damp = w.session().project().note_kinds[0].id;
    const auto step = w.session().project().note_kinds[1].id;
    fill(w.find<QLineEdit>("note-damp"), "0.5");
    CHECK(tile(3).notes.at(damp) == level::NoteValue(0.5));
    CHECK(tile(5).notes.at(damp) == level::NoteValue(0.5));
    pick(w.find<QComboBox>("note-step"), "wood");
    CHECK(tile(3).notes.at(step) == level::NoteValue(std::string("wood")));
    pick(w.find<QComboBox>("note-step"), "not said");
    CHECK_FALSE(tile(3).notes.contains(step));
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(tile(3).notes.contains(step));

    answerNote("drains", 5, nullptr);
    w.click("addNote");
    (*w).activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&*w, 2000));
    const auto drains = w.session().project().note_kinds.back().id;
    pick(w.find<QComboBox>("note-drains"), "east");
    CHECK(tile(3).notes.at(drains) == level::NoteValue(std::string("east")));

    w.key(Qt::Key_S, Qt::ControlModifier);
    w.restart();
    CHECK(tile(5).notes.at(drains) == level::NoteValue(std::string("east")));
    CHECK(tile(5).tags.size() == 2);
    CHECK(tile(5).turns == level::kMirrorOnly);
    CHECK(tile(5).notes.at(damp) == level::NoteValue(0.5));

    // Where they differ it says so, and nothing is written by looking.
    w.stage("stage-cut");
    w.session().setSheet(sheet);
    w.session().setTiles({tile(3).id, tile(4).id});
    QApplication::processEvents();
    CHECK(w.find<QLineEdit>("tileTags")->placeholderText() == "several");
    CHECK(w.find<QComboBox>("note-step")->currentIndex() == -1);
    CHECK_FALSE(w.session().document().unsaved());
}

TEST_CASE("the Hand turns only as the tile allows", "[properties]") {
    Window w;
    w.stage("stage-cut");
    const level::SheetId sheet = w.session().project().sheets[5]->id;
    w.session().setSheet(sheet);
    const level::TileId id = w.session().sheet()->tiles[3].id;
    w.session().setTiles({id});
    QApplication::processEvents();
    pick(w.find<QComboBox>("tileTurns"), "mirrored, not turned");
    w.stage("stage-lay");
    edit::Hand hand{edit::held::Tile{id}};
    w.session().setHand(hand);
    w.view()->setFocus();
    w.key(Qt::Key_Period);
    CHECK(w.session().hand().turn == Turn{});
    CHECK(w.reading().contains("may not be turned"));
    w.key(Qt::Key_Slash);
    CHECK(w.session().hand().turn.code == 4);
}

TEST_CASE("a sheet is poured onto another: one click takes, one pours, one step takes it back", "[properties]") {
    Window w;
    // The demo's first sheet in another dress: the same layout, other colours.
    const level::Sheet clay = *w.session().project().sheets[0];
    Image winter = *clay.image;
    for (int y = 0; y < winter.height(); ++y)
        for (int x = 0; x < winter.width(); ++x) {
            const Rgba c = winter.at(x, y);
            winter.set(x, y, {c.b, c.r, c.g, c.a});
        }
    write_file(w.folder / "winter.png", sheet::encode_png(winter));
    w.drop(QString::fromStdString((w.folder / "winter.png").string()));
    w.key(Qt::Key_Return);
    const level::SheetId fresh = w.session().sheetId();
    REQUIRE(w.session().sheet()->tiles.size() == clay.tiles.size());
    CHECK_FALSE(w.find<QPushButton>("pourOnto")->isVisible());
    w.session().setSheet(clay.id);
    QApplication::processEvents();
    w.click("pourTake");
    w.session().setSheet(fresh);
    QApplication::processEvents();
    const auto materials = w.session().project().materials.size();
    w.click("pourOnto");
    CHECK(w.session().project().materials.size() == materials + 1);
    const level::Material& made = *w.session().project().materials.back();
    CHECK(join::coverage(made.joins).have == join::coverage(w.session().project().material(1)->joins).have);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().materials.size() == materials);
}

TEST_CASE("the unused tiles of a sheet are chosen by one click", "[properties]") {
    Window w;
    write_file(w.folder / "few.png",
               sheet::encode_png(make::sheet(
                   make::tiles(join::cases(level::JoinKind::full), 16, make::Style::outlined, 4), 8, {1, 1}, {1, 1})));
    w.drop(QString::fromStdString((w.folder / "few.png").string()));
    w.key(Qt::Key_Return);
    w.click("chooseUnused");
    CHECK(w.session().tiles().size() == 47);
    w.session().setSheet(w.session().project().sheets[0]->id);
    QApplication::processEvents();
    w.click("chooseUnused");
    CHECK(w.session().tiles().size() < w.session().sheet()->tiles.size());
}

TEST_CASE("Find finds tiles by their tags", "[properties]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[5]->id);
    const level::TileId id = w.session().sheet()->tiles[7].id;
    w.session().setTiles({id});
    QApplication::processEvents();
    fill(w.find<QLineEdit>("tileTags"), "mouldy");
    w.session().setTiles({});
    w.key(Qt::Key_K, Qt::ControlModifier);
    auto* field = w.find<QLineEdit>("finderField");
    QTest::keyClicks(field, "mouldy");
    REQUIRE(w.find<PictureList>("finderList")->count() == 1);
    QTest::keyClick(field, Qt::Key_Return);
    CHECK(w.session().tiles() == std::vector<level::TileId>{id});
}
