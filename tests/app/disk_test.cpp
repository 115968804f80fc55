// What is open and what is on the disk: other windows, other programs, and what a program that was killed leaves.
#include "app/window.hpp"

#include <QAbstractButton>
#include <QApplication>
#include <QFileDialog>
#include <QMessageBox>
#include <QProcess>
#include <QPushButton>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QToolButton>
#include <QWidget>
#include <filesystem>
#include <functional>
#include <string>

#include "app/session/keeper.hpp"
#include "app/session/session.hpp"
#include "base/error.hpp"
#include "base/files.hpp"
#include "edit/document.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "support/documents.hpp"

using namespace vic;
using namespace vic::app;
using namespace app_test;

namespace {

// Presses a button of the next dialog that comes up, by its name; a folder's choice gets the folder.
class Answer {
  public:
    explicit Answer(QString button, QString folder = {}) : button_(std::move(button)), folder_(std::move(folder)) {
        QObject::connect(&timer_, &QTimer::timeout, [this] {
            QWidget* top = QApplication::activeModalWidget();
            if (!top) return;
            if (auto* files = qobject_cast<QFileDialog*>(top)) {
                files->setDirectory(folder_);
                files->selectFile(folder_);
                static_cast<QDialog*>(files)->done(QDialog::Accepted);
                return;
            }
            if (auto* b = top->findChild<QAbstractButton*>(button_)) {
                given_ = true;
                text_ = qobject_cast<QMessageBox*>(top) ? qobject_cast<QMessageBox*>(top)->text() : QString();
                b->click();
            }
        });
        timer_.start(20);
    }
    [[nodiscard]] bool given() const { return given_; }
    [[nodiscard]] QString text() const { return text_; }

  private:
    QString button_, folder_, text_;
    QTimer timer_;
    bool given_ = false;
};

QString pell(Window& w) { return QString::fromStdString((w.folder / "pell").string()); }

// A level by another name, as a colleague saves it.
void rename_outside(Window& w, const std::string& level, const std::string& name) {
    edit::Document theirs = edit::Document::open(w.folder / "pell");
    level::Project next = theirs.project();
    level::Level l = *next.level(level);
    l.name = name;
    next.put(std::move(l));
    theirs.apply("Theirs", std::move(next));
    theirs.save();
}

void lay_some(Window& w, int strokes) {
    w.stage("stage-lay");
    w.view()->setCamera(2, QPointF(20.0 * 16, 20.0 * 16));
    w.activate("Marsh");
    w.pickMaterial("Marsh");
    for (int i = 0; i < strokes; ++i) w.clickCell({16 + i % 8, 18 + i / 8});
}

} // namespace

TEST_CASE("strokes that were not saved are offered at the next start, with their history", "[app][disk]") {
    Window w;
    lay_some(w, 5);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    const auto steps = w.session().document().history().size();
    const level::Grid laid = w.layer("Marsh").grid();
    w.window.reset(); // as a crash does: nobody is asked, nothing is saved
    REQUIRE(store::journal_head(w.folder / "pell" / ".vicinum" / "journal"));

    SECTION("and come back") {
        const Answer answer("leftBack");
        w.reopen();
        CHECK(answer.given());
        CHECK(answer.text().contains("6 steps"));
        CHECK(w.layer("Marsh").grid() == laid);
        CHECK(w.session().document().history().size() == steps);
        w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        CHECK(w.layer("Marsh").grid() != laid);
        // Saving clears the journal.
        w.key(Qt::Key_S, Qt::ControlModifier);
        settle();
        w.session().keeper().flush();
        CHECK_FALSE(fs::exists(w.folder / "pell" / ".vicinum" / "journal"));
    }
    SECTION("or stay under History") {
        const Answer answer("leftAside");
        w.reopen();
        CHECK(answer.given());
        CHECK(w.layer("Marsh").grid() != laid);
        REQUIRE(w.session().document().keep_points().size() == 1);
        w.session().goBack(0);
        REQUIRE_SOON(w.layer("Marsh").grid() == laid);
    }
    SECTION("but not where the files are others by now") {
        rename_outside(w, store::load(w.folder / "pell").levels[0]->id, "Theirs");
        w.reopen();
        CHECK(w.layer("Marsh").grid() != laid);
        CHECK(w.notice().contains("other files"));
    }
}

TEST_CASE("what was undone beyond the last save comes back too, step by step, after two crashes", "[app][disk]") {
    Window w;
    lay_some(w, 4);
    const level::Grid laid = w.layer("Marsh").grid();
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    REQUIRE_SOON(!w.session().document().unsaved());
    for (int i = 0; i < 3; ++i) w.key(Qt::Key_Z, Qt::ControlModifier);
    const level::Grid undone = w.layer("Marsh").grid();
    REQUIRE(undone != laid);
    for (int crash = 0; crash < 2; ++crash) {
        w.window.reset();
        const Answer answer("leftBack");
        w.reopen();
        CHECK(answer.given());
        CHECK(w.layer("Marsh").grid() == undone);
    }
    for (int i = 0; i < 3; ++i) {
        CHECK(w.session().document().can_redo());
        w.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    }
    CHECK(w.layer("Marsh").grid() == laid);
    CHECK_FALSE(w.session().document().unsaved());
}

TEST_CASE("what is discarded at the end is not offered again", "[app][disk]") {
    Window w;
    lay_some(w, 2);
    {
        answerNext([](QWidget* top) {
            auto* box = qobject_cast<QMessageBox*>(top);
            if (box) box->button(QMessageBox::Discard)->click();
            return box != nullptr;
        });
        (*w).close();
    }
    w.window.reset();
    CHECK_FALSE(fs::exists(w.folder / "pell" / ".vicinum" / "journal"));
}

TEST_CASE("where the project cannot be written the journal lies in the user's folder", "[app][disk]") {
    Window w;
    fs::remove_all(w.folder / "pell" / ".vicinum");
    write_file(w.folder / "pell" / ".vicinum", "in the way");
    lay_some(w, 3);
    const level::Grid laid = w.layer("Marsh").grid();
    w.window.reset();
    const Answer answer("leftBack");
    w.reopen();
    CHECK(answer.given());
    CHECK(w.layer("Marsh").grid() == laid);
}

TEST_CASE("a second window is told, and looks or takes a copy", "[app][disk]") {
    Window w;
    const QString dir = pell(w);
    MainWindow second;
    second.show();
    SECTION("it looks") {
        const Answer answer("elsewhereLook");
        REQUIRE(second.openProject(dir));
        CHECK(answer.given());
        Session* session = &second.session();
        const auto before = session->document().state();
        level::Project next = session->project();
        next.name = "Changed";
        session->apply("Change", std::move(next));
        CHECK(session->document().state() == before);
        // What the first saves, the second shows.
        lay_some(w, 1);
        w.key(Qt::Key_S, Qt::ControlModifier);
        REQUIRE_SOON(session->document().state() != before);
    }
    SECTION("it takes a copy") {
        fs::create_directories(w.folder / "copy");
        const Answer answer("elsewhereCopy", QString::fromStdString((w.folder / "copy").string()));
        REQUIRE(second.openProject(dir));
        CHECK(answer.given());
        CHECK(second.session().document().dir() == w.folder / "copy");
        CHECK(store::texts(store::load(w.folder / "copy")) == store::texts(store::load(w.folder / "pell")));
    }
}

TEST_CASE("version control under an open project: what is untouched here is taken over", "[app][disk]") {
    Window w;
    const std::string dir = (w.folder / "pell").string();
    const auto git = [&](const QStringList& arguments) {
        QProcess git;
        git.setWorkingDirectory(QString::fromStdString(dir));
        git.start("git",
                  QStringList{"-c", "user.name=a", "-c", "user.email=a@b", "-c", "commit.gpgsign=false"} + arguments);
        REQUIRE(git.waitForFinished(10000));
        INFO(git.readAllStandardError().toStdString());
        REQUIRE(git.exitCode() == 0);
    };
    git({"init", "-q"});
    git({"add", "."});
    git({"commit", "-q", "-m", "one"});
    const std::string name = w.session().project().levels[1]->name;
    rename_outside(w, w.session().project().levels[1]->id, "Another name");
    REQUIRE_SOON(w.session().project().levels[1]->name == "Another name");
    CHECK_FALSE(w.session().document().unsaved());
    git({"commit", "-q", "-a", "-m", "two"});
    git({"checkout", "-q", "HEAD~1"});
    REQUIRE_SOON(w.session().project().levels[1]->name == name);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().levels[1]->name == "Another name");
}

TEST_CASE("where both sides changed a level, both stand side by side", "[app][disk]") {
    Window w;
    lay_some(w, 2);
    const std::string id = w.level().id;
    const auto levels = w.session().project().levels.size();
    const level::Grid ours = w.layer("Marsh").grid();
    const Answer answer("outsideTake");
    rename_outside(w, id, "Theirs");
    REQUIRE_SOON(w.session().project().levels.size() == levels + 1); // both is what is proposed
    CHECK(w.session().project().level(id)->name == "Theirs");
    const level::Level& kept = *w.session().project().levels.back();
    CHECK(kept.name.find("(ours)") != std::string::npos);
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    const level::Project disk = store::load(w.folder / "pell");
    CHECK(disk.level(id)->name == "Theirs");
    CHECK(disk.levels.size() == levels + 1);
}

TEST_CASE("where both sides changed what is not levels, ours is kept as a project beside theirs", "[app][disk]") {
    Window w;
    lay_some(w, 2);
    const level::Grid laid = w.layer("Marsh").grid();
    const std::string id = w.level().id;
    make::rename_material(w.session().document(), "Our first");
    const Answer answer("outsideTake");
    {
        edit::Document theirs = edit::Document::open(w.folder / "pell");
        make::rename_material(theirs, "Their first");
        theirs.save();
    }
    REQUIRE_SOON(w.session().project().materials[0]->name == "Their first");
    CHECK_FALSE(w.session().document().unsaved());
    CHECK_THAT(w.notice().toStdString(), Catch::Contains("pell (ours)"));
    const level::Project beside = store::load(w.folder / "pell (ours)");
    CHECK(beside.materials[0]->name == "Our first");
    const level::Layer* marsh = nullptr;
    for (const level::LayerRef& l : beside.level(id)->layers)
        if (l->name == "Marsh") marsh = l.get();
    REQUIRE(marsh);
    CHECK(marsh->grid() == laid);
    w.key(Qt::Key_Z, Qt::ControlModifier);
    CHECK(w.session().project().materials[0]->name == "Our first");
}

TEST_CASE("a project whose folder is gone is saved as a whole elsewhere", "[app][disk]") {
    Window w;
    lay_some(w, 1);
    const level::Grid laid = w.layer("Marsh").grid();
    fs::remove_all(w.folder / "pell");
    fs::create_directories(w.folder / "rescued");
    const Answer answer("goneElsewhere", QString::fromStdString((w.folder / "rescued").string()));
    w.key(Qt::Key_S, Qt::ControlModifier);
    REQUIRE_SOON(!w.session().document().unsaved());
    CHECK(answer.given());
    CHECK_FALSE(fs::exists(w.folder / "pell" / "project.json"));
    const level::Project there = store::load(w.folder / "rescued");
    for (const auto& sheet : there.sheets) CHECK(sheet->image);
    CHECK(w.session().document().dir() == w.folder / "rescued");
    w.clickCell({30, 20});
    w.key(Qt::Key_S, Qt::ControlModifier);
    settle();
    CHECK_FALSE(w.session().document().unsaved());
}
