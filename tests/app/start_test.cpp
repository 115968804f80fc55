// The window without a project: how one begins, and goes on.
#include <QAction>
#include <QComboBox>
#include <QFileDialog>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QTimer>
#include <QWheelEvent>
#include <algorithm>
#include <cstdlib>
#include <filesystem>
#include <string>
#include <vector>

#include "app/sheet/sheet_view.hpp"
#include "app/shell/projects.hpp"
#include "app/shell/start_page.hpp"
#include "app/window.hpp"
#include "base/files.hpp"
#include "join/mask.hpp"
#include "sheet/png.hpp"
#include "store/project_files.hpp"

using namespace app_test;

namespace {

Image set_of_47(int side) {
    const auto masks = join::cases(level::JoinKind::full);
    return make::sheet(make::tiles(masks, side, make::Style::outlined, 7), 8, {}, {});
}

bool starts(Window& w) { return w.find<QWidget>("startPage")->isVisible(); }

// Presses a button of the next question, or gives a folder to the next dialog that asks for one.
class Next {
  public:
    explicit Next(QString button, QString folder = {}) {
        QObject::connect(&timer_, &QTimer::timeout, [button, folder, this] {
            QWidget* top = QApplication::activeModalWidget();
            if (auto* files = qobject_cast<QFileDialog*>(top)) {
                files->setDirectory(folder);
                // By its field: the dialog looks at folders in its own time.
                if (auto* field = files->findChild<QLineEdit*>("fileNameEdit")) field->setText(folder);
                static_cast<QDialog*>(files)->done(QDialog::Accepted);
            } else if (top) {
                if (auto* box = qobject_cast<QMessageBox*>(top)) text = box->text();
                if (auto* b = top->findChild<QAbstractButton*>(button)) b->click();
            }
        });
        timer_.start(20);
    }
    QString text;

  private:
    QTimer timer_;
};

} // namespace

TEST_CASE("without a project the start page stands in the place of all panels", "[app][start]") {
    Window w(false);
    CHECK(starts(w));
    CHECK_FALSE(w.find<QWidget>("workline")->isVisible());
    for (const char* id : {"save", "saveAsAction", "closeProject", "newLevel", "undoAction", "build", "goto-2"})
        CHECK_FALSE(w.find<QAction>(id)->isEnabled());
    for (const char* id : {"newProject", "openProject", "look", "keys"}) CHECK(w.find<QAction>(id)->isEnabled());
    w.picture("start-first");
}

TEST_CASE("a set of 32 px that is dropped on nothing lies in a level after four actions", "[app][start]") {
    Window w(false);
    w.drop(put(w, "Shore grass.png", set_of_47(32)));
    settle();
    REQUIRE(w.session().isOpen());
    CHECK_FALSE(starts(w));
    // The project is there from the first moment, named after the art.
    CHECK(w.session().document().dir() == w.folder / "documents" / "Shore grass");
    CHECK(w.session().project().name == "Shore grass");
    CHECK(fs::exists(w.folder / "documents" / "Shore grass" / "project.json"));
    CHECK_THAT(w.reading().toStdString(), Catch::Contains("the level gets cells of 32 × 32 px"));
    w.key(Qt::Key_Return); // the cut
    REQUIRE(w.session().sheet()->tiles.size() >= 47);
    CHECK(w.level().cell == Size{32, 32});
    w.click("readJoins");
    REQUIRE(w.session().material());
    CHECK(w.session().material()->joins.kind == level::JoinKind::full);
    w.key(Qt::Key_3, Qt::ControlModifier);
    w.view()->setCamera(1, QPointF(10.0 * 32, 10.0 * 32));
    w.clickCell({10, 10});
    CHECK(w.layer("Ground").grid().material({10, 10}) == w.session().materialId());
    // Undone, the cells are as they were.
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.level().cell == Size{16, 16});
}

TEST_CASE("a folder of art, a project and what is neither are told apart where they are dropped", "[app][start]") {
    Window w(false);
    SECTION("art") {
        for (int i = 0; i < 3; ++i)
            put(w, "pack/thing " + std::to_string(i) + ".png",
                make::tile(255, 20 + i, make::Style::see_through, static_cast<unsigned>(i)));
        w.drop(QString::fromStdString((w.folder / "pack").string()));
        settle();
        REQUIRE(w.session().isOpen());
        CHECK(w.session().project().name == "pack");
        CHECK(w.session().project().sheets.size() == 1);
    }
    SECTION("a project") {
        store::create(edit::begun("There", edit::Beginning::from_the_side, "L", {"a", "b", "c"}), w.folder / "there");
        w.drop(QString::fromStdString((w.folder / "there").string()));
        REQUIRE(w.session().isOpen());
        CHECK(w.session().document().dir() == w.folder / "there");
    }
    SECTION("nothing of use") {
        write_file(w.folder / "notes.txt", "no picture");
        fs::create_directories(w.folder / "papers");
        for (const char* name : {"notes.txt", "papers"}) {
            w.drop(QString::fromStdString((w.folder / name).string()));
            CHECK_FALSE(w.session().isOpen());
            CHECK(w.notice().contains("PNG"));
        }
        CHECK_FALSE(fs::exists(w.folder / "documents"));
    }
}

TEST_CASE("an empty place is a project after one click, and another beside it after another", "[app][start]") {
    Window w(false);
    w.click("startSide");
    REQUIRE(w.session().isOpen());
    CHECK(w.level().view == level::View::from_the_side);
    CHECK(w.session().stage() == Stage::cut);
    w.key(Qt::Key_W, Qt::ControlModifier);
    REQUIRE(starts(w));
    w.key(Qt::Key_N, Qt::ControlModifier);
    REQUIRE(w.session().isOpen());
    CHECK(w.session().document().dir() == w.folder / "documents" / "New project 2");
    CHECK(w.level().view == level::View::from_above);
}

TEST_CASE("what was closed is gone on with, and says what waits", "[app][start]") {
    Window w;
    const std::string level = w.level().name;
    {
        const Next answer("none");
        w.key(Qt::Key_W, Qt::ControlModifier);
    }
    REQUIRE(starts(w));
    CHECK_FALSE(w.session().isOpen());
    auto* card = w.find<QAbstractButton>("recent-0");
    CHECK(card->text() == "Pell Saltern");
    CHECK(card->hasFocus());
    CHECK(card->accessibleDescription().contains("today"));
    w.picture("start-recent");
    w.click("recent-0");
    settle();
    REQUIRE(w.session().isOpen());
    CHECK(w.level().name == level);
    SECTION("with what an earlier run did not save") {
        w.stage("stage-lay");
        w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
        w.activate("Marsh");
        w.pickMaterial("Marsh");
        w.clickCell({18, 18});
        w.window.reset(); // as a crash does
        CHECK(recentProjects(4).at(0).left == 1);
    }
    SECTION("again and again") {
        for (int i = 0; i < 3; ++i) {
            w.stage(i == 0 ? "stage-walk" : i == 1 ? "stage-join" : "stage-cut");
            w.key(Qt::Key_W, Qt::ControlModifier);
            REQUIRE(starts(w));
            w.click("recent-0");
            settle();
            REQUIRE(w.session().isOpen());
        }
    }
    SECTION("but not where its folder is gone") {
        w.key(Qt::Key_W, Qt::ControlModifier);
        fs::rename(w.folder / "pell", w.folder / "elsewhere");
        CHECK(recentProjects(4).empty());
    }
}

TEST_CASE("tiles in the Tray are shown as large as one likes", "[app][tray]") {
    Window w;
    w.stage("stage-lay");
    w.click("trayTiles");
    auto* sheet = w.find<SheetView>("traySheet");
    const QSize art = QSize(w.session().project().sheet(sheet->sheetId())->image->width(),
                            w.session().project().sheet(sheet->sheetId())->image->height());
    w.choose("traySize", "300 %");
    CHECK(sheet->width() >= 3 * art.width());
    CHECK(sheet->height() >= 3 * art.height());
    QWheelEvent wheel(QPointF(20, 20), sheet->mapToGlobal(QPointF(20, 20)), {}, {0, 120}, {}, Qt::ControlModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(sheet, &wheel);
    CHECK(w.find<QComboBox>("traySize")->currentText() == "400 %");
    // A tile far out is reached by scrolling, and is the one that is clicked.
    const auto& tiles = w.session().project().sheet(sheet->sheetId())->tiles;
    auto* scroll = w.find<QScrollArea>("traySheetScroll");
    const QPoint at = sheet->tileCentre(tiles.size() - 1);
    CHECK_FALSE(scroll->viewport()->rect().contains(sheet->mapTo(scroll->viewport(), at)));
    scroll->ensureVisible(at.x(), at.y());
    w.clickAt(sheet, at);
    CHECK(w.session().hand().tile() == tiles.back().id);
    // Dragged over, several are picked up as they lie there.
    scroll->ensureVisible(0, 0);
    w.choose("traySize", "200 %");
    const QPoint from = sheet->tileCentre(0);
    const Box one = tiles[0].box;
    const QPoint to = from + QPoint(2 * (one.w + 1), one.h + 1) * 2;
    QTest::mousePress(sheet, Qt::LeftButton, {}, from);
    QTest::mouseMove(sheet, to);
    QTest::mouseRelease(sheet, Qt::LeftButton, {}, to);
    settle();
    REQUIRE(w.session().hand().is<edit::held::Stamp>());
    w.activate("Clay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.clickCell({20, 18});
    for (int i = 0; i < 2; ++i) // the three by two lie around the pointer
        for (int y = 0; y < 2; ++y) {
            const Point place{tiles[0].box.x + i * (one.w + 1), tiles[0].box.y + y * (one.h + 1)};
            const auto tile = std::find_if(tiles.begin(), tiles.end(), [&](const level::Tile& t) {
                return !t.is_block() && std::abs(t.box.x - place.x) < 3 && std::abs(t.box.y - place.y) < 3;
            });
            REQUIRE(tile != tiles.end());
            CHECK(w.layer("Clay").grid().cell({19 + i, 18 + y}).tile() == tile->id);
        }
    w.picture("tray-400");
    w.choose("traySize", "fits");
    CHECK(sheet->width() <= scroll->viewport()->width());
}

TEST_CASE("closing asks where something is not saved", "[app][start]") {
    Window w;
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.pickMaterial("Marsh");
    w.clickCell({18, 18});
    const auto press = [](QMessageBox::StandardButton button) {
        answerNext([button](QWidget* top) {
            auto* box = qobject_cast<QMessageBox*>(top);
            if (box) box->button(button)->click();
            return box != nullptr;
        });
    };
    press(QMessageBox::Cancel);
    w.key(Qt::Key_W, Qt::ControlModifier);
    CHECK(w.session().isOpen());
    press(QMessageBox::Save);
    w.key(Qt::Key_W, Qt::ControlModifier);
    CHECK_FALSE(w.session().isOpen());
    w.click("recent-0");
    settle();
    CHECK(w.layer("Marsh").grid().material({18, 18}) != 0);
    CHECK_FALSE(w.session().keeper().left());
    // Undone is as saved: nothing is asked, and nothing is kept.
    w.clickCell({20, 18});
    w.key(Qt::Key_Z, Qt::ControlModifier);
    w.key(Qt::Key_W, Qt::ControlModifier);
    REQUIRE(starts(w));
    CHECK(recentProjects(1).at(0).left == 0);
}

TEST_CASE("the demo opens as a copy of one's own", "[app][start]") {
    Window w(false);
    REQUIRE_FALSE(demoFolder().isEmpty());
    w.click("startDemo");
    settle();
    REQUIRE(w.session().isOpen());
    CHECK(w.session().document().dir() == w.folder / "documents" / "Pell Saltern");
    CHECK(w.session().project().levels.size() == 3);
}

TEST_CASE("a folder that is no project is offered to become one", "[app][start]") {
    Window w(false);
    fs::create_directories(w.folder / "empty");
    put(w, "art/grass.png", set_of_47(16));
    SECTION("an empty one, by yes") {
        Next answer("noProjectMake", QString::fromStdString((w.folder / "empty").string()));
        w.click("startOpen");
        REQUIRE(w.session().isOpen());
        CHECK(answer.text.contains("is empty"));
        CHECK(w.session().document().dir() == w.folder / "empty");
    }
    SECTION("one of art, which stays as it is") {
        Next answer("noProjectMake", QString::fromStdString((w.folder / "art").string()));
        w.click("startOpen");
        settle();
        REQUIRE(w.session().isOpen());
        CHECK(w.session().document().dir() == w.folder / "documents" / "art");
        CHECK_FALSE(fs::exists(w.folder / "art" / "project.json"));
    }
}

TEST_CASE("a project among the documents moves when it is saved as another", "[app][start]") {
    Window w(false);
    w.click("startSide");
    const fs::path from = w.session().document().dir();
    REQUIRE(fs::exists(from / "project.json"));
    // Kits and plans come along, but for links.
    fs::create_directories(from / "kits/walls");
    fs::create_directories(from / "plans");
    write_file(from / "kits/walls/walls.obj", "v 0 0 0\n");
    write_file(from / "plans/isle.png", "png");
    fs::create_symlink(from / "project.json", from / "kits/walls/link.obj");
    // The trash is on the same disk.
    const QByteArray home = qgetenv("XDG_DATA_HOME");
    fs::create_directories(w.folder / "data");
    qputenv("XDG_DATA_HOME", QByteArray::fromStdString((w.folder / "data").string()));
    const Next answer("none", QString::fromStdString((w.folder / "moved").string()));
    w.find<QAction>("saveAsAction")->trigger();
    settle();
    qputenv("XDG_DATA_HOME", home);
    CHECK(w.session().document().dir() == w.folder / "moved");
    CHECK(fs::exists(w.folder / "moved" / "project.json"));
    CHECK(read_file(w.folder / "moved/kits/walls/walls.obj") == "v 0 0 0\n");
    CHECK(read_file(w.folder / "moved/plans/isle.png") == "png");
    CHECK_FALSE(fs::exists(fs::symlink_status(w.folder / "moved/kits/walls/link.obj")));
    CHECK_FALSE(fs::exists(from)); // in the trash
}

TEST_CASE("saved as another project it goes on there", "[app][start]") {
    Window w;
    const auto before = make::contents(w.folder / "pell");
    const Next answer("none", QString::fromStdString((w.folder / "moved").string()));
    w.find<QAction>("saveAsAction")->trigger();
    settle();
    CHECK(w.session().document().dir() == w.folder / "moved");
    CHECK(store::texts(store::load(w.folder / "moved")) == store::texts(store::load(w.folder / "pell")));
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.pickMaterial("Marsh");
    w.clickCell({18, 18});
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    CHECK(make::contents(w.folder / "pell") == before);
}
