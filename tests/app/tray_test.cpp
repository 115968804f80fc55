// Finding things in the Tray, and trays of one's own, by mouse and keyboard.
#include "app/window.hpp"

#include <QAction>
#include <QApplication>
#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QObject>
#include <QPoint>
#include <QPushButton>
#include <QRect>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/parts/picture_list.hpp"
#include "app/session/session.hpp"
#include "edit/stroke.hpp"
#include "level/own_tray.hpp"

using namespace app_test;

namespace {

// Opens the menu of trays and clicks an entry of it, in submenus too.
void choose(Window& w, const QString& id, const std::vector<QString>& folders = {}) {
    auto* menu = w.find<QMenu>("trayMenu");
    QTimer timer;
    int step = 0;
    QObject::connect(&timer, &QTimer::timeout, [&] {
        QMenu* at = menu;
        for (const QString& folder : folders)
            for (QAction* a : at->actions())
                if (a->menu() && a->text() == folder) at = a->menu();
        if (!menu->isVisible()) return;
        for (QAction* a : at->actions())
            if (a->objectName() == id && ++step == 1) {
                timer.stop();
                if (at == menu) {
                    QTest::mouseClick(menu, Qt::LeftButton, {}, menu->actionGeometry(a).center());
                } else {
                    menu->close();
                    a->trigger();
                }
                return;
            }
    });
    timer.start(30);
    w.click("trayWhich");
    REQUIRE_SOON(step > 0);
}

} // namespace

TEST_CASE("the Tray is searched as one types, and Enter takes the first", "[app][tray]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setFocus();
    w.key(Qt::Key_F, Qt::ControlModifier);
    auto* search = w.find<QLineEdit>("traySearch");
    REQUIRE(search->hasFocus());
    auto* found = w.find<PictureList>("foundTray");
    QTest::keyClicks(search, "cat");
    REQUIRE(found->isVisible());
    const int many = found->count();
    CHECK(many > 3); // the material, named tiles and their sheet
    CHECK(w.rowText(found, 0) == "Catwalk");
    QTest::keyClicks(search, "walk end");
    CHECK(found->count() == 2);
    CHECK(found->count() < many);
    QTest::keyClick(search, Qt::Key_Return);
    CHECK(w.session().hand().is<edit::held::Tile>());
    CHECK(w.find<QWidget>("handCard")->accessibleName().contains("Catwalk end"));
    QTest::keyClicks(search, " qqq");
    CHECK(found->count() == 0);
    // A prop is found too, and takes one to where props are laid.
    search->selectAll();
    QTest::keyClicks(search, "crate");
    REQUIRE(found->count() >= 1);
    w.clickRow(found, 0);
    CHECK(w.session().hand().is<edit::held::Prop>());
    CHECK(w.session().stage() == Stage::dress);
    w.click("trayMaterials");
    CHECK(search->text().isEmpty());
    CHECK(w.find<PictureList>("materialTray")->isVisible());
    // Both are among what was used lately, the last one first.
    choose(w, "trayRecent");
    REQUIRE(found->isVisible());
    REQUIRE(found->count() >= 2);
    CHECK(w.rowText(found, 0) == "Crate");
    CHECK(w.rowText(found, 1).contains("Catwalk end"));
    w.restart();
    choose(w, "trayRecent");
    CHECK(w.rowText(w.find<PictureList>("foundTray"), 0) == "Crate");
}

TEST_CASE("a tray of one's own gathers from several sheets, and is saved", "[app][tray]") {
    Window w;
    w.stage("stage-lay");
    w.pickMaterial("Brick");
    QTimer answer;
    QString trouble;
    QObject::connect(&answer, &QTimer::timeout, [&] {
        for (QWidget* top : QApplication::topLevelWidgets()) {
            auto* dialog = qobject_cast<QDialog*>(top);
            if (!dialog || dialog->objectName() != "trayDialog" || !dialog->isVisible()) continue;
            answer.stop();
            const auto type = [&](const char* field, const QString& text) {
                auto* edit = dialog->findChild<QLineEdit*>(field);
                edit->setFocus();
                edit->selectAll();
                QTest::keyClicks(edit, text);
            };
            auto* ok = dialog->findChild<QPushButton*>("trayOk");
            QTest::mouseClick(ok, Qt::LeftButton);
            trouble = dialog->findChild<QLabel*>("trayTrouble")->text();
            type("trayName", "Flood");
            type("trayFolder", "Seasons");
            QTest::mouseClick(dialog->findChild<QToolButton*>("trayMark-5"), Qt::LeftButton);
            auto* sheets = dialog->findChild<QListWidget*>("traySheetChoice");
            for (const QString name : {"Cellar water", "Slopes"}) {
                auto* item = sheets->findItems(name, Qt::MatchExactly).front();
                sheets->scrollToItem(item);
                const QRect r = sheets->visualItemRect(item);
                QTest::mouseClick(sheets->viewport(), Qt::LeftButton, {}, QPoint(r.left() + 9, r.center().y()));
            }
            QTest::mouseClick(ok, Qt::LeftButton);
            return;
        }
    });
    answer.start(50);
    choose(w, "trayNew");
    REQUIRE_SOON(w.session().project().trays.size() == 1);
    (*w).activateWindow();
    CHECK(trouble.contains("name"));
    REQUIRE(w.session().project().trays.size() == 1);
    const level::OwnTray tray = w.session().project().trays[0];
    CHECK(tray.name == "Flood");
    CHECK(tray.folder == "Seasons");
    CHECK(tray.colour.a == 255);
    CHECK(tray.sheets.size() == 2);
    auto* found = w.find<PictureList>("foundTray");
    REQUIRE(found->isVisible());
    CHECK(w.rowText(found, 0) == "Brick"); // what was in the Hand is its first thing
    CHECK(found->count() == 1 + 6 + 4);
    CHECK(w.find<QToolButton>("trayWhich")->text().startsWith("Flood"));
    w.clickRow(found, 2);
    CHECK(w.session().hand().is<edit::held::Tile>());
    choose(w, "trayPut");
    CHECK(w.session().project().trays[0].items.size() == 2);
    choose(w, "trayPut");
    CHECK(w.session().project().trays[0].items.size() == 1);
    w.key(Qt::Key_S, Qt::ControlModifier);
    w.restart();
    REQUIRE(w.session().project().trays.size() == 1);
    choose(w, QString("tray-%1").arg(tray.id), {"Seasons"});
    CHECK(w.find<PictureList>("foundTray")->count() == 1 + 6 + 4);
    choose(w, "trayRemove");
    CHECK(w.session().project().trays.empty());
    CHECK(w.find<PictureList>("materialTray")->isVisible());
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().trays.size() == 1);
}
