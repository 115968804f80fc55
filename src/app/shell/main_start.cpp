// The window without a project: the start page, and the ways from there and back.

#include <QDir>
#include <QFile>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QStackedWidget>
#include <QString>
#include <QStringList>
#include <algorithm>
#include <utility>

#include "app/parts/blocking_words.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/shell/level_form.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/projects.hpp"
#include "app/shell/reading_line.hpp"
#include "app/shell/start_page.hpp"
#include "app/shell/wait_for.hpp"
#include "base/error.hpp"
#include "edit/beginnings.hpp"
#include "edit/blocking.hpp"
#include "edit/document.hpp"
#include "kit/open_kit.hpp"
#include "level/level.hpp"
#include "level/material.hpp"
#include "store/beside.hpp"
#include "store/pack_folder.hpp"
#include "store/project_files.hpp"

namespace vic::app {

namespace {

bool isPng(const QString& file) {
    QFile f(file);
    return f.open(QIODevice::ReadOnly) && f.read(8) == QByteArray("\x89PNG\r\n\x1a\n", 8);
}

// How many PNG pictures lie in a folder and those in it.
std::int64_t picturesIn(const QString& dir) {
    try {
        return static_cast<std::int64_t>(store::read_pack(dir.toStdString()).pictures.size());
    } catch (const InputError&) {
        return 0;
    }
}

} // namespace

void MainWindow::listenToStart() {
    connect(start_, &StartPage::pictureAsked, this, [this] {
        beginWithPictures(QFileDialog::getOpenFileNames(this, tr("Art to begin with"), {},
                                                        tr("Pictures and kits (*.png *.glb *.gltf *.obj)")));
    });
    connect(start_, &StartPage::projectAsked, this, &MainWindow::askForProject);
    connect(start_, &StartPage::beginningChosen, this, [this](edit::Beginning beginning) {
        if (!newProject(tr("New project"), beginning)) return;
        session_.setStage(Stage::cut);
        say(tr("The project lies in %1. Drop art here to go on").arg(placeName(projectDir())), false);
    });
    connect(start_, &StartPage::recentChosen, this, &MainWindow::openProject);
    connect(start_, &StartPage::demoAsked, this, &MainWindow::openDemo);
    connect(start_, &StartPage::stepsAsked, this, &MainWindow::beginSteps);
}

QString MainWindow::projectDir() const { return QString::fromStdString(session_.document().dir().string()); }

void MainWindow::offerGround(level::MaterialId fallen) {
    const level::Material* m = session_.project().material(fallen);
    if (!m || !session_.level()) return;
    const edit::ProposedBlocking how = edit::proposed_blocking(session_.project(), *m, session_.level()->view);
    const QString name = QString::fromStdString(m->name);
    notice_->offer(tr("The walker falls through %1, which blocks nothing.").arg(name),
                   tr("%1 %2").arg(name, blockingWord(how.blocking)), [this, fallen, blocking = how.blocking, name] {
                       session_.apply(tr("%1 %2").arg(name, blockingWord(blocking)),
                                      edit::with_blocking(session_.project(), fallen, blocking));
                       if (session_.stage() != Stage::walk) return;
                       walk_->leave();
                       walk_->enter();
                   });
}

// Which of the two the window shows.
void MainWindow::showStart() {
    const bool open = session_.isOpen();
    pages_->setCurrentIndex(open ? 1 : 0);
    readingLine_->setVisible(!quiet_);
    sortActions();
    if (open) return;
    start_->refresh();
    start_->focusFirst();
    steps_->refresh();
    setWindowTitle(tr("Vicinum"));
    read();
}

// What is open is left; false where the designer would rather stay.
bool MainWindow::leaveProject() {
    if (!session_.isOpen()) return true;
    session_.finishSaving();
    if (!ended_ && session_.document().unsaved() && !session_.keeper().looks()) {
        QMessageBox box(QMessageBox::Question, tr("Vicinum"), tr("Save what was changed before closing?"),
                        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
        box.setObjectName("closeQuestion");
        const int answer = box.exec();
        if (answer == QMessageBox::Cancel) return false;
        if (answer == QMessageBox::Discard) session_.keeper().discard();
        if (answer == QMessageBox::Save && !attempt([&] { session_.save(); })) return false;
    }
    // Where all is as saved, what was done and undone is nothing to bring back.
    if (!ended_ && !session_.document().unsaved() && !session_.keeper().looks()) session_.keeper().discard();
    remember();
    return true;
}

void MainWindow::closeProject() {
    if (!session_.isOpen() || !leaveProject()) return;
    if (quiet_) setQuiet(false);
    session_.setStage(Stage::lay); // nothing tries or plays any more
    session_.close();
    showStart();
}

// A project with one empty level, in a folder of its own among the user's documents.
bool MainWindow::newProject(const QString& name, edit::Beginning beginning) {
    const QString dir = freeProjectFolder(name);
    const QString called = QFileInfo(dir).fileName();
    return attempt([&] {
               QDir().mkpath(projectsFolder());
               store::create(
                   edit::begun(called.toStdString(), beginning, tr("First level").toStdString(), layerNames()),
                   dir.toStdString());
           }) &&
           openProject(dir);
}

void MainWindow::beginWithPictures(const QStringList& files) {
    QStringList pictures;
    std::copy_if(files.begin(), files.end(), std::back_inserter(pictures),
                 [](const QString& file) { return isPng(file) || kit::is_kit_file(file.toStdString()); });
    if (pictures.isEmpty()) {
        if (!files.isEmpty())
            say(tr("%1 is no PNG picture and no kit: drop PNG pictures, a .glb, .gltf or .obj, a folder of them, or "
                   "a project")
                    .arg(QFileInfo(files.first()).fileName()),
                true);
        return;
    }
    if (newProject(QFileInfo(pictures.first()).completeBaseName(), edit::Beginning::from_above)) addSheets(pictures);
}

void MainWindow::beginWithFolder(const QString& dir) {
    if (picturesIn(dir) == 0 && !kit::is_kit(dir.toStdString()))
        return say(tr("There is neither a project nor a PNG picture in %1").arg(placeName(dir)), true);
    if (newProject(QFileInfo(dir).fileName(), edit::Beginning::from_above)) addFolder(dir);
}

// What was dropped while no project is open: one that is opened, or art that makes one.
void MainWindow::beginWith(const QStringList& dropped) {
    QStringList pictures;
    for (const QString& path : dropped) {
        const QFileInfo info(path);
        if (info.isDir() && isProject(path)) return void(openProject(path));
        if (info.fileName() == "project.json") return void(openProject(info.path()));
        if (info.isDir()) return beginWithFolder(path);
        pictures << path;
    }
    beginWithPictures(pictures);
}

void MainWindow::openDemo() {
    const QString from = demoFolder(), to = freeProjectFolder(tr("Pell Saltern"));
    const bool copied = attempt([&] {
        QDir().mkpath(projectsFolder());
        store::copy_project(from.toStdString(), to.toStdString());
    });
    if (copied && openProject(to)) say(tr("A copy of your own, in %1").arg(placeName(to)), false);
}

// A folder that is no project: it is offered to become one, or what is in it to be art of one.
void MainWindow::askForProject() {
    const QString dir = QFileDialog::getExistingDirectory(this, tr("Open a project"), projectsFolder());
    if (dir.isEmpty()) return;
    if (isProject(dir)) return void(openProject(dir));
    const bool empty = QDir(dir).isEmpty();
    const std::int64_t art = picturesIn(dir);
    QMessageBox box(QMessageBox::NoIcon, tr("Vicinum"),
                    art > 0 ? tr("%1 is no project; %2 lie in it. They can be the art of a new one, which is kept in "
                                 "%3. The folder stays as it is.")
                                  .arg(placeName(dir), translated(say_count(art, "one picture", "%n pictures")),
                                       placeName(projectsFolder()))
                    : empty ? tr("%1 is empty. It can become a project.").arg(placeName(dir))
                            : tr("%1 is no project, and no art for one lies in it.").arg(placeName(dir)),
                    QMessageBox::NoButton, this);
    box.setObjectName("noProjectQuestion");
    QPushButton* make = nullptr;
    if (art > 0 || empty) {
        make =
            box.addButton(art > 0 ? tr("Make a project of them") : tr("Make a project in it"), QMessageBox::AcceptRole);
        make->setObjectName("noProjectMake");
        setRole(make, "primary");
        box.setDefaultButton(make);
    }
    box.addButton(QMessageBox::Cancel);
    box.exec();
    if (!make || box.clickedButton() != make) return;
    if (art > 0) {
        if (leaveProject()) beginWithFolder(dir);
        return;
    }
    const bool made = attempt([&] {
        store::create(edit::begun(QFileInfo(dir).fileName().toStdString(), edit::Beginning::from_above,
                                  tr("First level").toStdString(), layerNames()),
                      dir.toStdString());
    });
    if (made) openProject(dir);
}

// The project with everything in another place, where it goes on. One that the program put among the documents moves:
// its earlier folder goes to the trash. Any other stays as it was saved last.
void MainWindow::saveAs() {
    if (!session_.isOpen()) return;
    const QString to = QFileDialog::getSaveFileName(this, tr("Save the project as"), projectDir(), {}, nullptr,
                                                    QFileDialog::DontConfirmOverwrite);
    if (to.isEmpty()) return;
    const QString from = projectDir();
    if (!saveElsewhere(to)) return;
    const bool ours = QDir(from + "/..").canonicalPath() == QDir(projectsFolder()).canonicalPath();
    const bool inside = QDir(to).canonicalPath().startsWith(QDir(from).canonicalPath() + "/");
    if (ours && !inside && QFile::moveToTrash(from))
        say(tr("The project moved to %1; its earlier folder is in the trash").arg(placeName(to)), false);
    else
        say(tr("The project lies in %1 now; %2 stays as it was saved last").arg(placeName(to), placeName(from)), false);
}

bool MainWindow::saveElsewhere(const QString& to) {
    return attempt([&] {
        const edit::Document::Saving all = session_.document().elsewhere(to.toStdString());
        waitFor<bool>(session_.jobs(), this, tr("Saving"), [all, from = session_.document().dir()] {
            store::must_be_free(all.dir);
            all.write();
            store::copy_beside(from, all.dir);
            return true;
        });
        session_.movedTo(all);
        readingLine_->setSaved();
    });
}

} // namespace vic::app
