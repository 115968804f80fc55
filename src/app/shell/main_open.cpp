// Opening and saving in the window: projects that are open elsewhere, what an earlier run left, what others change, and
// disks that do not take what is saved.

#include <QCoreApplication>
#include <QDateTime>
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QStackedWidget>
#include <QString>
#include <exception>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/outside_dialog.hpp"
#include "app/shell/reading_line.hpp"
#include "app/shell/wait_for.hpp"
#include "base/presence.hpp"
#include "base/text.hpp"
#include "edit/document.hpp"
#include "edit/outside.hpp"
#include "store/beside.hpp"
#include "store/project_files.hpp"

namespace vic::app {

bool MainWindow::openProject(const QString& dir) {
    const QString place = QFileInfo(dir).absoluteFilePath();
    remember();
    if (session_.isOpen() && fs::path(place.toStdString()) == session_.document().dir()) session_.keeper().letGo();
    auto presence = Presence::claim(place.toStdString());
    const bool looks = !presence; // where the folder is gone, opening it tells so
    if (looks) {
        const Elsewhere answer = askElsewhere(place);
        if (answer == Elsewhere::copy) return openCopy(place);
        if (answer == Elsewhere::leave) return false;
    }
    std::unique_ptr<edit::Document> opened;
    const bool good = attempt([&] {
        using Opened = std::unique_ptr<edit::Document>;
        auto result = waitFor<Opened>(
            session_.jobs(), this, tr("Opening %1").arg(QFileInfo(place).fileName()),
            [place] { return std::make_unique<edit::Document>(edit::Document::open(place.toStdString())); });
        if (result) opened = std::move(*result);
    });
    if (!good || !opened) return false;
    pages_->setCurrentIndex(1); // the view must have its size when it fits the level into itself
    session_.open(std::move(opened), std::move(presence), looks);
    showStart();
    readingLine_->forgetSaved();
    restore();
    if (looks) say(tr("Looked at only: another window has it open"), false);
    askLeft();
    return true;
}

MainWindow::Elsewhere MainWindow::askElsewhere(const QString& dir) {
    QMessageBox box(QMessageBox::NoIcon, tr("Vicinum"),
                    tr("%1 is open in another window. Changes from two sides would get in each other's way.")
                        .arg(QFileInfo(dir).fileName()),
                    QMessageBox::NoButton, this);
    box.setObjectName("elsewhereQuestion");
    auto* look = box.addButton(tr("Look at it"), QMessageBox::AcceptRole);
    look->setObjectName("elsewhereLook");
    setRole(look, "primary");
    auto* copy = box.addButton(tr("Take a copy…"), QMessageBox::ActionRole);
    copy->setObjectName("elsewhereCopy");
    box.addButton(QMessageBox::Cancel);
    box.exec();
    if (box.clickedButton() == look) return Elsewhere::look;
    return box.clickedButton() == copy ? Elsewhere::copy : Elsewhere::leave;
}

// So many are seldom meant.
void MainWindow::askMany(const Planter::Order& order, qulonglong wanted) {
    QMessageBox box(QMessageBox::NoIcon, tr("Vicinum"),
                    tr("About %L1 props would grow. Nothing has been changed yet.").arg(wanted), QMessageBox::NoButton,
                    this);
    box.setObjectName("manyQuestion");
    auto* grow = box.addButton(tr("Let them grow"), QMessageBox::AcceptRole);
    grow->setObjectName("manyGrow");
    box.setDefaultButton(box.addButton(tr("Leave it"), QMessageBox::RejectRole));
    box.exec();
    if (box.clickedButton() != grow) return;
    Planter::Order again = order;
    again.anyway = true;
    session_.planter().grow(again);
}

bool MainWindow::openCopy(const QString& dir) {
    const QString to = QFileDialog::getExistingDirectory(this, tr("An empty folder for the copy"));
    if (to.isEmpty()) return false;
    const bool good = attempt([&] {
        waitFor<bool>(session_.jobs(), this, tr("Copying"), [dir, to] {
            store::copy_project(dir.toStdString(), to.toStdString());
            return true;
        });
    });
    return good && openProject(to);
}

// What an earlier run did not save: brought back, or kept beside.
void MainWindow::askLeft() {
    const auto& left = session_.keeper().left();
    if (!left) return;
    if (!left->fits) return session_.keeper().keepAside();
    const QString when = QLocale().toString(QDateTime::fromSecsSinceEpoch(left->head.last), tr("d MMM, HH:mm"));
    QMessageBox box(QMessageBox::NoIcon, tr("Vicinum"),
                    translated(say_count(
                        left->head.steps, "The program ended before one step was saved; it was done on %1.",
                        "The program ended before %n steps were saved; the last was done on %1.", when.toStdString())),
                    QMessageBox::NoButton, this);
    box.setObjectName("leftQuestion");
    auto* back = box.addButton(tr("Bring them back"), QMessageBox::AcceptRole);
    back->setObjectName("leftBack");
    setRole(back, "primary");
    auto* aside = box.addButton(tr("Keep them under History"), QMessageBox::RejectRole);
    aside->setObjectName("leftAside");
    box.setDefaultButton(back);
    box.exec();
    if (box.clickedButton() == back) {
        session_.keeper().bringBack();
        session_.tookOver();
    } else {
        session_.keeper().keepAside();
    }
}

void MainWindow::askOutside(const edit::Outside& outside) {
    if (asking_) return;
    asking_ = true;
    OutsideDialog dialog(outside, this);
    const edit::ProjectState state = session_.document().state();
    const bool go = dialog.exec() == QDialog::Accepted && session_.isOpen() && session_.document().state() == state;
    asking_ = false;
    if (!go) return;
    const std::map<std::string, edit::Keep> choices = dialog.choices();
    const auto whole = choices.find({});
    QString beside;
    if (whole != choices.end() && whole->second == edit::Keep::both && !keepBeside(beside)) return;
    session_.keeper().settle(outside, choices);
    // It stays until one has read where.
    if (!beside.isEmpty()) say(tr("What was open here is kept in %1; here is theirs").arg(beside), true);
}

// Ours as a project of its own, in a folder beside the one that is open, which is told.
bool MainWindow::keepBeside(QString& place) {
    return attempt([&] {
               const edit::Document& document = session_.document();
               const fs::path dir = document.dir().lexically_normal();
               const std::string name = document.dir().filename().string();
               edit::Document::Saving ours;
               for (int n = 1;; ++n) {
                   const QString called = n == 1 ? tr("%1 (ours)") : tr("%1 (ours %2)").arg("%1").arg(n);
                   ours =
                       document.elsewhere(dir.parent_path() / called.arg(QString::fromStdString(name)).toStdString());
                   if (!fs::exists(fs::symlink_status(ours.dir))) break;
               }
               const auto kept = waitFor<bool>(session_.jobs(), this, tr("Keeping ours"), [ours, dir] {
                   store::must_be_free(ours.dir);
                   ours.write();
                   store::copy_beside(dir, ours.dir);
                   return true;
               });
               if (kept) place = QString::fromStdString(ours.dir.string());
           }) &&
           !place.isEmpty();
}

void MainWindow::save() {
    if (!session_.isOpen()) return;
    if (session_.keeper().looks())
        return say(tr("Another window has the project open: here it is only looked at"), true);
    retry_.stop();
    attempt([&] {
        session_.saveInBackground(
            [this] {
                readingLine_->setSaved();
                read();
            },
            [this](const std::exception& e) { saveFailed(e); });
    });
}

void MainWindow::saveFailed(const std::exception& e) {
    say(translated(e), true);
    if (dynamic_cast<const store::ChangedOutside*>(&e)) return session_.keeper().lookOutside();
    if (dynamic_cast<const store::SaveStopped*>(&e)) return;
    if (dynamic_cast<const store::ProjectGone*>(&e)) return askGone();
    // The disk may be full, or somebody has taken the right to write: it is tried again until it goes.
    retry_.start();
}

// The folder is gone: the project is written as a whole, in a place that is asked for.
void MainWindow::askGone() {
    QMessageBox box(
        QMessageBox::Warning, tr("Vicinum"),
        tr("The project is no longer in %1. All of it is still here: save it elsewhere, or bring the folder "
           "back and save again.")
            .arg(QString::fromStdString(session_.document().dir().string())),
        QMessageBox::NoButton, this);
    box.setObjectName("goneQuestion");
    auto* where = box.addButton(tr("Save it elsewhere…"), QMessageBox::AcceptRole);
    where->setObjectName("goneElsewhere");
    setRole(where, "primary");
    box.addButton(QMessageBox::Cancel);
    box.exec();
    if (box.clickedButton() != where) return;
    const QString to = QFileDialog::getExistingDirectory(this, tr("An empty folder for the project"));
    if (to.isEmpty()) return;
    saveElsewhere(to);
}

bool MainWindow::savesItself() { return QSettings().value("save/itself").toBool(); }

// Asked from outside to end: nothing is asked, and nothing is lost.
void MainWindow::endNow() {
    session_.keeper().flush();
    remember();
    ended_ = true;
    QCoreApplication::quit();
}

} // namespace vic::app
