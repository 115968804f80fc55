// The commands of Lay with their keys, and the questions that some of them ask.

#include <QAction>
#include <QDialog>
#include <QFileDialog>
#include <QInputDialog>
#include <QKeySequence>
#include <QLineEdit>
#include <QRegularExpression>
#include <QString>
#include <QStringList>
#include <functional>
#include <utility>

#include "app/bound/bound_panel.hpp"
#include "app/commands/lay_commands.hpp"
#include "app/cut/cut_centre.hpp"
#include "app/cut/kind_panel.hpp"
#include "app/cut/sheet_list.hpp"
#include "app/cut/tile_panel.hpp"
#include "app/dress/prop_panel.hpp"
#include "app/hand_over/hand_over_page.hpp"
#include "app/join/case_panel.hpp"
#include "app/join/join_centre.hpp"
#include "app/join/material_list.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/section/section_panel.hpp"
#include "app/section/stroke_list.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "app/shell/finder.hpp"
#include "app/shell/history_panel.hpp"
#include "app/shell/level_form.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/tool_row.hpp"
#include "app/shell/workline.hpp"
#include "app/tray/tray.hpp"
#include "app/view/level_view.hpp"
#include "app/walk/walk_centre.hpp"
#include "app/walk/walk_panel.hpp"
#include "base/error.hpp"
#include "base/text.hpp"
#include "base/turn.hpp"
#include "edit/fill.hpp"
#include "edit/reshape.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

void MainWindow::buildLayActions(const std::function<QAction*(const QString&, const QString&, const QKeySequence&,
                                                              const std::function<void()>&)>& levelKey) {
    LayCommands* c = commands_;
    levelKey("selectAll", tr("Select all"), QKeySequence::SelectAll, [c] { c->selectAll(); });
    levelKey("selectNone", tr("Select nothing"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S),
             [this] { session_.setSelection({}); });
    levelKey("selectTile", tr("Select all of this tile"), QKeySequence(Qt::CTRL | Qt::Key_L),
             [c] { c->selectAlike(edit::Alike::tile); });
    levelKey("selectMaterial", tr("Select all of this material"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L),
             [c] { c->selectAlike(edit::Alike::material); });
    levelKey("selectGrowAction", tr("Grow the selection"), QKeySequence(Qt::CTRL | Qt::Key_Plus),
             [c] { c->grow(true); });
    levelKey("selectShrinkAction", tr("Shrink the selection"), QKeySequence(Qt::CTRL | Qt::Key_Minus),
             [c] { c->grow(false); });
    levelKey("copyAction", tr("Copy"), QKeySequence::Copy, [c] { c->copy(); });
    levelKey("cutAction", tr("Cut out"), QKeySequence::Cut, [c] { c->cut(); });
    levelKey("pasteAction", tr("Paste into the Hand"), QKeySequence::Paste, [c] { c->paste(); });
    levelKey("removeSelected", tr("Remove what is selected"), QKeySequence(Qt::CTRL | Qt::Key_Backspace),
             [c] { c->remove(); });
    levelKey("toLayer", tr("Move what is selected to the active layer"), QKeySequence(Qt::CTRL | Qt::Key_M),
             [c] { c->toActiveLayer(); });
    levelKey("keepStampAction", tr("Keep as a stamp"), QKeySequence(Qt::CTRL | Qt::Key_T), [c] { c->keepStamp(); });
    levelKey("thinOut", tr("Thin out what is selected"), QKeySequence(Qt::SHIFT | Qt::Key_T), [c] { c->thinOut(); });
    levelKey("thinShare", tr("Thin out by how much…"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_T), [this, c] {
        bool ok = false;
        const int share = QInputDialog::getInt(this, tr("Thin out"), tr("Per cent that are taken away:"),
                                               c->thinShare(), 1, 100, 5, &ok);
        if (!ok) return;
        c->setThinShare(share);
        c->thinOut();
    });
    levelKey("castAgain", tr("Cast the spread again"), QKeySequence(Qt::SHIFT | Qt::Key_C), [c] { c->castAgain(); });
    levelKey("makeHome", tr("Take the proposed home"), Qt::Key_H, [c] { c->makeHome(); });
    levelKey("lastHandsAction", tr("The last ten Hands"), QKeySequence(Qt::SHIFT | Qt::Key_H),
             [this] { tray_->showLastHands(); });
    levelKey("replacesKey", tr("See-through tiles in the place of what is there, or over it"), Qt::Key_X, [this] {
        ToolOptions o = session_.options();
        o.replaces = !o.replaces;
        session_.setOptions(o);
        say(o.replaces ? tr("See-through tiles take the place of what is there")
                       : tr("See-through tiles go over what is there"),
            false);
    });
    levelKey("zoomSelection", tr("Zoom to what is selected"), Qt::Key_Z, [c] { c->zoomToSelection(); });
    levelKey("figurePointer", tr("The figure at the pointer, or where it was"), Qt::Key_G,
             [this] { levelView_->setFigureAtPointer(!levelView_->figureAtPointer()); });
    levelKey("figurePark", tr("Park the figure at the pointer"), QKeySequence(Qt::SHIFT | Qt::Key_G),
             [this] { levelView_->parkFigure(); });
    levelKey("figureJump", tr("Show the figure's jump"), Qt::Key_J, [this] { toolRow_->jump()->toggle(); });
    levelKey("duplicateLayerAction", tr("Duplicate the layer"), QKeySequence(Qt::CTRL | Qt::Key_J),
             [c] { c->duplicateLayer(); });
    levelKey("mergeDown", tr("Merge down"), QKeySequence(Qt::CTRL | Qt::Key_E), [c] { c->mergeDown(); });
    levelKey("soloLayer", tr("Look at the layer alone, or at all again"), QKeySequence(Qt::SHIFT | Qt::Key_Q), [this] {
        if (session_.anyAlone())
            session_.noneAlone();
        else
            session_.setAlone(session_.activeLayerId(), true);
    });
    section_->setMenuActions({findChild<QAction*>("duplicateLayerAction"), findChild<QAction*>("mergeDown"),
                              findChild<QAction*>("soloLayer"), findChild<QAction*>("toLayer")});

    levelKey("extendLevel", tr("Extend or crop by edges…"), {}, [this] { askForEdges(); });
    levelKey("cropContent", tr("Crop to what it has"), {}, [c] { c->cropToContent(); });
    levelKey("cropSelection", tr("Crop to what is selected"), {}, [c] { c->cropToSelection(); });
    QAction* grows = levelKey("levelGrows", tr("Grows where one lays beyond its edge"), {}, [this, c] {
        if (session_.level()) c->setGrows(!session_.level()->grows);
    });
    grows->setCheckable(true);
    levelKey("turnLevelLeft", tr("Turn the level left"), {}, [c] { c->turnLevel(turned_left(Turn{})); });
    levelKey("turnLevelRight", tr("Turn the level right"), {}, [c] { c->turnLevel(turned_right(Turn{})); });
    levelKey("mirrorLevel", tr("Mirror the level, left to right"), {}, [c] { c->turnLevel(mirrored(Turn{})); });
    levelKey("flipLevel", tr("Mirror the level, top to bottom"), {},
             [c] { c->turnLevel(turned_right(turned_right(mirrored(Turn{})))); });
    levelKey("cellSize", tr("Cells of the level…"), {}, [this] { askForCellSize(); });
    add("levelFromPicture", tr("Level from a picture…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N), {},
        [this] { askForPlan(); });
    add("followPlan", tr("The plan that the level follows"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P), {},
        [this] {
            session_.setStage(Stage::lay);
            try {
                plan_->again();
            } catch (const InputError& e) {
                say(translated(e), true);
            }
        });
    add("planPicture", tr("Write the level as a plan picture…"), {}, {}, [this] {
        if (!session_.level()) return;
        commands_->planPicture(QFileDialog::getSaveFileName(this, tr("Write a plan picture"),
                                                            QString::fromStdString(session_.level()->id) + ".png",
                                                            tr("PNG pictures (*.png)")));
    });
    add("removeLevel", tr("Remove the level"), {}, tr("Undo brings it back"), [this] {
        if (!session_.level() || session_.project().levels.size() < 2)
            return say(tr("A project keeps at least one level"), true);
        level::Project p = session_.project();
        const QString name = QString::fromStdString(session_.level()->name);
        p.remove_level(session_.level()->id);
        session_.apply(tr("Remove the level %1").arg(name), std::move(p));
    });
}

void MainWindow::askForPlan() {
    if (!session_.isOpen() || !session_.level()) return;
    const QString file =
        QFileDialog::getOpenFileName(this, tr("A picture, one pixel a cell"), {}, tr("PNG pictures (*.png)"));
    if (file.isEmpty()) return;
    session_.setStage(Stage::lay);
    try {
        plan_->begin(file);
    } catch (const InputError& e) {
        say(translated(e), true);
    }
}

void MainWindow::askForCellSize() {
    if (!session_.level()) return;
    const level::Level& now = *session_.level();
    const LevelShape had{QString::fromStdString(now.name), now.size, now.cell, now.lattice, now.view};
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

} // namespace vic::app
