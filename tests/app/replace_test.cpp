// The picture behind a sheet changes: on the disk, by choice, by vanishing. Nothing is lost without a word.
#include "app/window.hpp"

#include <QApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QObject>
#include <QPushButton>
#include <QSpinBox>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QWidget>

#include "edit/replace.hpp"
#include "join/mask.hpp"
#include "level/cell.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/png.hpp"
#include "store/project_files.hpp"

using namespace app_test;

namespace {

Image rows(int count, unsigned seed) {
    std::vector<Image> tiles;
    for (int i = 0; i < count * 8; ++i)
        tiles.push_back(make::tile(join::cases(level::JoinKind::full)[static_cast<std::size_t>(i % 47)], 16,
                                   make::Style::outlined, seed + static_cast<unsigned>(i)));
    return make::sheet(tiles, 8, {}, {});
}

std::filesystem::path onDisk(Window& w) { return w.session().document().dir() / w.session().sheet()->file; }

// Answers the file dialog that the next click opens, as soon as it is there; a dialog that does not take the answer is
// closed, so that the test goes on and fails by what it checks.
void chooseFile(const QString& file) {
    auto* timer = new QTimer(qApp);
    timer->setInterval(50);
    QObject::connect(timer, &QTimer::timeout, timer, [timer, file, tries = 0]() mutable {
        QFileDialog* dialog = nullptr;
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* found = qobject_cast<QFileDialog*>(top); found && found->isVisible()) dialog = found;
        if (++tries > 100) {
            if (dialog) dialog->reject();
            return timer->deleteLater();
        }
        auto* edit = dialog ? dialog->findChild<QLineEdit*>("fileNameEdit") : nullptr;
        if (!edit) return;
        timer->stop(); // accepting runs the event loop again
        edit->setText(file);
        QTest::keyClick(edit, Qt::Key_Return);
        if (dialog->isVisible())
            timer->start();
        else
            timer->deleteLater();
    });
    timer->start();
}

} // namespace

TEST_CASE("drop, accept, retype, re-cut, replace on the disk, undo: identities and uses are kept", "[replace]") {
    Window w;
    write_file(w.folder / "stones.png", sheet::encode_png(rows(6, 1)));
    w.drop(QString::fromStdString((w.folder / "stones.png").string()));
    w.key(Qt::Key_Return);
    REQUIRE(w.session().sheet()->accepted);
    REQUIRE(w.session().sheet()->tiles.size() == 48);

    // In use: a material of the whole sheet.
    w.key(Qt::Key_M);
    const auto tiles = w.session().sheet()->tiles;
    const auto coverage = w.session().material()->joins;
    w.stage("stage-cut");

    // Another tile size would lose what is used: it is said, and not done before the answer.
    type(w.find<QSpinBox>("tileWidth"), "20");
    CHECK(w.session().sheet()->cut.tile == Size{16, 16});
    CHECK(w.find<QWidget>("waitStrip")->isVisible());
    CHECK(w.find<QLabel>("waitText")->text().contains("tiles in use"));
    w.click("waitLeave");
    CHECK(w.session().sheet()->tiles == tiles);
    CHECK(w.find<QSpinBox>("tileWidth")->value() == 16);
    type(w.find<QSpinBox>("tileWidth"), "20");
    w.click("waitGo");
    CHECK(w.session().sheet()->cut.tile == Size{20, 16});
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet()->tiles == tiles);

    // The file grows by a row on the disk.
    Image grown = rows(7, 1);
    for (int y = 0; y < 16; ++y)
        for (int x = 0; x < 16; ++x) grown.set(x, y, {200, 30, 30, 255});
    write_file(onDisk(w), sheet::encode_png(grown));
    REQUIRE_SOON(w.session().sheet()->tiles.size() == 56);
    for (std::size_t i = 0; i < tiles.size(); ++i) CHECK(w.session().sheet()->tiles[i].id == tiles[i].id);
    CHECK(*w.session().sheet()->image == grown);
    CHECK(w.session().material()->joins == coverage);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet()->tiles == tiles);
    CHECK(w.session().sheet()->image->height() == 96);

    // What is saved now shows the earlier picture when it is opened again, and the newer file is left alone.
    w.key(Qt::Key_S, Qt::ControlModifier);
    const level::Project saved = store::load(w.session().document().dir());
    const level::Sheet* again = saved.sheet(w.session().sheetId());
    REQUIRE(again);
    REQUIRE(again->image);
    CHECK(again->image->height() == 96);
    CHECK(sheet::read_png(w.session().document().dir() / "sheets/stones.png") == grown);
}

TEST_CASE("a picture that shrank on the disk waits for an answer", "[replace]") {
    Window w;
    write_file(w.folder / "stones.png", sheet::encode_png(rows(6, 1)));
    w.drop(QString::fromStdString((w.folder / "stones.png").string()));
    w.key(Qt::Key_Return);
    w.key(Qt::Key_M);
    w.stage("stage-cut");
    write_file(onDisk(w), sheet::encode_png(rows(2, 1)));
    REQUIRE_SOON(w.session().waiting().has_value());
    CHECK(w.session().sheet()->tiles.size() == 48);
    CHECK(w.find<QLabel>("waitText")->text().contains("32 tiles in use"));
    w.click("waitGo");
    CHECK(w.session().sheet()->tiles.size() == 16);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet()->tiles.size() == 48);
}

TEST_CASE("a file that vanishes is said, written back from memory, or found again with its neighbours", "[replace]") {
    Window w;
    w.stage("stage-cut");
    const auto p = w.session().project();
    const auto dir = w.session().document().dir();
    const level::SheetId first = p.sheets[0]->id;
    w.session().setSheet(first);
    CHECK_FALSE(w.find<QPushButton>("putBack")->isVisible());
    std::filesystem::create_directories(w.folder / "elsewhere");
    for (int i = 0; i < 3; ++i) {
        const auto name = std::filesystem::path(p.sheets[static_cast<std::size_t>(i)]->file).filename();
        std::filesystem::rename(dir / p.sheets[static_cast<std::size_t>(i)]->file, w.folder / "elsewhere" / name);
    }
    REQUIRE_SOON(w.session().library().fileGone(first));
    CHECK(w.session().sheet()->image != nullptr); // the level shows as before
    CHECK(w.notice().contains("kept in memory"));
    w.click("putBack");
    CHECK(sheet::read_png(dir / p.sheets[0]->file) == *p.sheets[0]->image);
    CHECK_FALSE(w.session().library().fileGone(first));

    // Opened without two of the files: found again in one go.
    std::filesystem::remove(dir / p.sheets[0]->file);
    w.restart();
    w.stage("stage-cut");
    w.session().setSheet(first);
    CHECK(w.session().sheet()->image == nullptr);
    CHECK(w.session().project().sheets[2]->image == nullptr);
    chooseFile(QString::fromStdString(
        (w.folder / "elsewhere" / std::filesystem::path(p.sheets[0]->file).filename()).string()));
    w.click("findAgain");
    for (std::size_t i = 0; i < 3; ++i) {
        REQUIRE(w.session().project().sheets[i]->image);
        CHECK(*w.session().project().sheets[i]->image == *p.sheets[i]->image);
        CHECK(w.session().project().sheets[i]->tiles == p.sheets[i]->tiles);
    }
}

TEST_CASE("a picture replaced by choice keeps the old file; the same picture twice is one sheet", "[replace]") {
    Window w;
    write_file(w.folder / "stones.png", sheet::encode_png(rows(6, 1)));
    write_file(w.folder / "stones new.png", sheet::encode_png(rows(6, 500)));
    w.drop(QString::fromStdString((w.folder / "stones.png").string()));
    w.key(Qt::Key_Return);
    const auto sheets = w.session().project().sheets.size();
    const std::string file = w.session().sheet()->file;
    const auto tiles = w.session().sheet()->tiles;
    chooseFile(QString::fromStdString((w.folder / "stones new.png").string()));
    w.click("replacePicture");
    CHECK(w.session().sheet()->tiles == tiles);
    CHECK(*w.session().sheet()->image == rows(6, 500));
    CHECK(w.session().sheet()->file != file);
    CHECK(std::filesystem::exists(w.session().document().dir() / file));
    w.drop(QString::fromStdString((w.folder / "stones new.png").string()));
    CHECK(w.session().project().sheets.size() == sheets);
    CHECK(w.notice().contains("already"));
}

TEST_CASE("credits are written beside the sheet and go with the build; names are not given twice", "[replace]") {
    Window w;
    w.stage("stage-cut");
    w.session().setSheet(w.session().project().sheets[0]->id);
    auto* author = w.find<QLineEdit>("creditAuthor");
    author->setFocus();
    author->selectAll();
    QTest::keyClicks(author, "Ada Marsh");
    QTest::keyClick(author, Qt::Key_Return);
    CHECK(w.session().sheet()->credits.author == "Ada Marsh");
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().sheet()->credits.author != "Ada Marsh");

    const level::TileId id = w.session().sheet()->tiles[4].id;
    w.session().setTiles({id});
    QApplication::processEvents();
    CHECK_FALSE(w.find<QLineEdit>("creditAuthor")->isVisible());
    auto* name = w.find<QLineEdit>("tileName");
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Slope up");
    QTest::keyClick(name, Qt::Key_Return);
    CHECK(w.session().sheet()->tiles[4].name.empty());
    CHECK(w.notice().contains("on the sheet \"Slopes\""));
}
