// Levels of the project: added, renamed, removed, given another shape.

#include <QDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QRegularExpression>
#include <QString>
#include <QStringList>
#include <string>
#include <utility>
#include <vector>

#include "app/commands/lay_commands.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/shell/level_form.hpp"
#include "app/shell/main_window.hpp"
#include "base/text.hpp"
#include "edit/levels.hpp"
#include "edit/reshape.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

void MainWindow::newLevel() {
    if (!session_.isOpen()) return;
    LevelShape asked;
    asked.name = tr("New level");
    const level::Level* now = session_.level();
    if (now) {
        asked.cell = now->cell;
        asked.lattice = now->lattice;
        asked.frame = now->frame;
    }
    std::vector<LevelShape> likes;
    for (const auto& l : session_.project().levels)
        likes.push_back({QString::fromStdString(l->name), l->size, l->cell, l->lattice, l->view, l->id, l->frame});
    LevelForm form(asked, true, {}, this, likes);
    if (form.exec() != QDialog::Accepted) return;
    asked = form.shape();
    level::Project p = session_.project();
    const level::Level* like = p.level(asked.like);
    const std::string name = asked.name.toStdString();
    level::Level level = like ? edit::level_like(p, *like, name, asked.size)
                              : level::make_level(p, name, asked.size, asked.cell, asked.view, layerNames());
    level.cell = asked.cell;
    level.view = asked.view;
    level.lattice = asked.lattice;
    level.frame = asked.frame;
    if (now && !like && now->view == level.view) level.walker = now->walker;
    const std::string id = level.id;
    p.put(std::move(level));
    session_.apply(tr("Add a level"), std::move(p));
    session_.setLevel(id);
    session_.setStage(Stage::lay);
}

void MainWindow::duplicateLevel() {
    if (!session_.level()) return;
    level::Project p = session_.project();
    level::Level copy = edit::duplicate(p, *session_.level(), session_.level()->name + tr(" copy").toStdString());
    const std::string id = copy.id;
    p.put(std::move(copy));
    session_.apply(tr("Duplicate the level"), std::move(p));
    session_.setLevel(id);
}

void MainWindow::renameLevel() {
    if (!session_.level()) return;
    bool ok = false;
    const QString name = QInputDialog::getText(this, tr("Rename the level"), tr("Name:"), QLineEdit::Normal,
                                               QString::fromStdString(session_.level()->name), &ok)
                             .trimmed();
    if (!ok || name.isEmpty()) return;
    level::Level next = *session_.level();
    next.name = name.toStdString();
    session_.applyLevel(tr("Rename the level"), std::move(next));
}

void MainWindow::removeLevel() {
    if (!session_.level() || session_.project().levels.size() < 2)
        return say(tr("A project keeps at least one level"), true);
    level::Project p = session_.project();
    const QString name = QString::fromStdString(session_.level()->name);
    p.remove_level(session_.level()->id);
    session_.apply(tr("Remove the level %1").arg(name), std::move(p));
}

void MainWindow::askForCellSize() {
    if (!session_.level()) return;
    const level::Level& now = *session_.level();
    const LevelShape had{
        QString::fromStdString(now.name), now.size, now.cell, now.lattice, now.view, now.id, now.frame};
    const auto says = [this](const LevelShape& asked) {
        return translated(edit::rescaled(session_.project(), *session_.level(), asked.cell, asked.lattice).says);
    };
    LevelForm form(had, false, says, this);
    if (form.exec() != QDialog::Accepted) return;
    commands_->setCells(form.shape().cell, form.shape().lattice);
}

void MainWindow::askForEdges() {
    if (!session_.level()) return;
    bool ok = false;
    const QString text = QInputDialog::getText(
        this, tr("Extend or crop"),
        tr("Cells more at the left, upper, right and lower edge; less than nothing crops (\"0 0 16 -4\"):"),
        QLineEdit::Normal, "0 0 0 0", &ok);
    const QStringList parts = text.split(QRegularExpression("[\\s,;]+"), Qt::SkipEmptyParts);
    if (!ok || parts.size() != 4) return;
    commands_->extendLevel({parts[0].toInt(), parts[1].toInt(), parts[2].toInt(), parts[3].toInt()});
}

void MainWindow::askForThinShare() {
    bool ok = false;
    const int share = QInputDialog::getInt(this, tr("Thin out"), tr("Per cent that are taken away:"),
                                           commands_->thinShare(), 1, 100, 5, &ok);
    if (!ok) return;
    commands_->setThinShare(share);
    commands_->thinOut();
}

} // namespace vic::app
