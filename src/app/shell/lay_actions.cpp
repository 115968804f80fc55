// The commands of Lay with their keys: what is selected, the Hand, layers, and the level as a whole.

#include <QAction>
#include <QFileDialog>
#include <QKeySequence>
#include <QString>

#include "app/commands/dress_commands.hpp"
#include "app/commands/lay_commands.hpp"
#include "app/lay/plan_panel.hpp"
#include "app/lay/why_card.hpp"
#include "app/section/section_panel.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/shell/main_window.hpp"
#include "app/tray/pockets.hpp"
#include "app/tray/tray.hpp"
#include "base/text.hpp"
#include "base/turn.hpp"
#include "edit/fill.hpp"

namespace vic::app {

void MainWindow::buildSelectionActions() {
    add(Where::lay, "selectAll", tr("Select all"), QKeySequence::SelectAll, [this] { commands_->selectAll(); });
    add(Where::level, "selectNone", tr("Select nothing"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S),
        [this] { session_.setSelection({}); });
    add(Where::lay, "selectTile", tr("Select all of this tile"), QKeySequence(Qt::CTRL | Qt::Key_L),
        [this] { commands_->selectAlike(edit::Alike::tile); });
    add(Where::lay, "selectMaterial", tr("Select all of this material"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L),
        [this] { commands_->selectAlike(edit::Alike::material); });
    add(Where::lay, "selectGrowAction", tr("Grow the selection"), QKeySequence(Qt::CTRL | Qt::Key_Plus),
        [this] { commands_->grow(true); });
    add(Where::lay, "selectShrinkAction", tr("Shrink the selection"), QKeySequence(Qt::CTRL | Qt::Key_Minus),
        [this] { commands_->grow(false); });
    add(Where::level, "copyAction", tr("Copy"), QKeySequence::Copy, [this] { commands_->copy(); });
    add(Where::level, "cutAction", tr("Cut out"), QKeySequence::Cut, [this] { commands_->cut(); });
    add(Where::level, "pasteAction", tr("Paste into the Hand"), QKeySequence::Paste, [this] { commands_->paste(); });
    add(Where::level, "removeSelected", tr("Remove what is selected"), QKeySequence(Qt::CTRL | Qt::Key_Backspace),
        [this] { commands_->remove(); });
    add(Where::lay, "toLayer", tr("Move what is selected to the active layer"), QKeySequence(Qt::CTRL | Qt::Key_M),
        [this] { commands_->toActiveLayer(); });
    add(Where::level, "keepStampAction", tr("Keep as a stamp"), QKeySequence(Qt::CTRL | Qt::Key_T),
        [this] { commands_->keepStamp(); });
    add(Where::level, "thinOut", tr("Thin out what is selected"), QKeySequence(Qt::SHIFT | Qt::Key_T),
        [this] { commands_->thinOut(); });
    add(Where::level, "thinShare", tr("Thin out by how much…"), QKeySequence(Qt::CTRL | Qt::ALT | Qt::Key_T),
        [this] { askForThinShare(); });
}

void MainWindow::buildHandActions() {
    add(Where::lay, "castAgain", tr("Cast the spread again"), QKeySequence(Qt::SHIFT | Qt::Key_C),
        [this] { commands_->castAgain(); });
    add(Where::lay, "makeHome", tr("Take the proposed home"), Qt::Key_H, [this] { commands_->makeHome(); });
    add(Where::level, "lastHandsAction", tr("The last ten Hands"), QKeySequence(Qt::SHIFT | Qt::Key_H),
        [this] { tray_->showLastHands(); });
    add(Where::lay, "replacesKey", tr("See-through tiles in the place of what is there, or over it"), Qt::Key_X,
        [this] {
            ToolOptions o = session_.options();
            o.replaces = !o.replaces;
            session_.setOptions(o);
            say(o.replaces ? tr("See-through tiles take the place of what is there")
                           : tr("See-through tiles go over what is there"),
                false);
        });
    const auto inDress = [this] { return session_.stage() == Stage::dress; };
    add(
        Where::level, "keyTurnLeft", tr("Turn the Hand left"), Qt::Key_Comma,
        [this, inDress] { inDress() ? dress_->turn(-150) : commands_->turn(turned_left); },
        tr("Props by 15°, and what is chosen where the Hand is empty"));
    add(
        Where::level, "keyTurnRight", tr("Turn the Hand right"), Qt::Key_Period,
        [this, inDress] { inDress() ? dress_->turn(150) : commands_->turn(turned_right); },
        tr("Props by 15°, and what is chosen where the Hand is empty"));
    add(Where::level, "keyMirror", tr("Mirror the Hand"), Qt::Key_Slash,
        [this, inDress] { inDress() ? dress_->mirror() : commands_->turn(mirrored); });
    for (int i = 0; i < 9; ++i)
        add(Where::level, QString("pocket-%1").arg(i + 1), tr("Pocket %1").arg(i + 1), QKeySequence(Qt::Key_1 + i),
            [this, i] { tray_->pockets()->use(i); });
    add(Where::lay, "keyVariant", tr("Next variant of the cell under the pointer, pinned"), Qt::Key_V,
        [this] { commands_->stepVariant(1); });
    add(Where::lay, "keyVariantBack", tr("Earlier variant of the cell under the pointer, pinned"),
        QKeySequence(Qt::SHIFT | Qt::Key_V), [this] { commands_->stepVariant(-1); });
    add(
        Where::lay, "keyWhatFits", tr("What fits here"), QKeySequence(Qt::ALT | Qt::Key_V),
        [this] { commands_->whatFits(); },
        tr("The pieces of kits that close with those beside the cell under the pointer, turned as they do"));
    add(Where::lay, "keyWhy", tr("Why does this cell look so?"), Qt::Key_Y, [this] { whyCard_->look(); });
}

void MainWindow::buildLayerActions() {
    add(Where::level, "duplicateLayerAction", tr("Duplicate the layer"), QKeySequence(Qt::CTRL | Qt::Key_J),
        [this] { commands_->duplicateLayer(); });
    add(Where::level, "mergeDown", tr("Merge down"), QKeySequence(Qt::CTRL | Qt::Key_E),
        [this] { commands_->mergeDown(); });
    add(Where::level, "soloLayer", tr("Look at the layer alone, or at all again"), QKeySequence(Qt::SHIFT | Qt::Key_Q),
        [this] {
            if (session_.anyAlone())
                session_.noneAlone();
            else
                session_.setAlone(session_.activeLayerId(), true);
        });
    section_->setMenuActions({findChild<QAction*>("duplicateLayerAction"), findChild<QAction*>("mergeDown"),
                              findChild<QAction*>("soloLayer"), findChild<QAction*>("toLayer")});
}

void MainWindow::buildShapeActions() {
    add(Where::level, "extendLevel", tr("Extend or crop by edges…"), {}, [this] { askForEdges(); });
    add(Where::level, "cropContent", tr("Crop to what it has"), {}, [this] { commands_->cropToContent(); });
    add(Where::level, "cropSelection", tr("Crop to what is selected"), {}, [this] { commands_->cropToSelection(); });
    QAction* grows = add(Where::level, "levelGrows", tr("Grows where one lays beyond its edge"), {}, [this] {
        if (session_.level()) commands_->setGrows(!session_.level()->grows);
    });
    grows->setCheckable(true);
    add(Where::level, "turnLevelLeft", tr("Turn the level left"), {},
        [this] { commands_->turnLevel(turned_left(Turn{})); });
    add(Where::level, "turnLevelRight", tr("Turn the level right"), {},
        [this] { commands_->turnLevel(turned_right(Turn{})); });
    add(Where::level, "mirrorLevel", tr("Mirror the level, left to right"), {},
        [this] { commands_->turnLevel(mirrored(Turn{})); });
    add(Where::level, "flipLevel", tr("Mirror the level, top to bottom"), {},
        [this] { commands_->turnLevel(turned_right(turned_right(mirrored(Turn{})))); });
    add(Where::level, "cellSize", tr("Cells of the level…"), {}, [this] { askForCellSize(); });
}

void MainWindow::buildLevelActions() {
    add(Where::everywhere, "newLevel", tr("Add a level…"), QKeySequence(Qt::CTRL | Qt::Key_N), [this] { newLevel(); });
    add(Where::everywhere, "duplicateLevel", tr("Duplicate the level"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D),
        [this] { duplicateLevel(); });
    add(Where::everywhere, "renameLevel", tr("Rename the level…"), QKeySequence(Qt::SHIFT | Qt::Key_F2),
        [this] { renameLevel(); });
    add(
        Where::everywhere, "removeLevel", tr("Remove the level"), {}, [this] { removeLevel(); },
        tr("Undo brings it back"));
    add(Where::everywhere, "levelFromPicture", tr("Level from a picture…"),
        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N), [this] { askForPlan(); });
    add(Where::everywhere, "followPlan", tr("The plan that the level follows"),
        QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P), [this] {
            session_.setStage(Stage::lay);
            attempt([this] { plan_->again(); });
        });
    add(Where::everywhere, "planPicture", tr("Write the level as a plan picture…"), {}, [this] {
        if (!session_.level()) return;
        commands_->planPicture(QFileDialog::getSaveFileName(this, tr("Write a plan picture"),
                                                            QString::fromStdString(session_.level()->id) + ".png",
                                                            tr("PNG pictures (*.png)")));
    });
}

} // namespace vic::app
