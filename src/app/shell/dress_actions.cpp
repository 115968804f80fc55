// The commands of Dress with their keys: what is chosen of props and marks, and the prop in the Hand.

#include <QAction>
#include <QInputDialog>
#include <QKeySequence>
#include <QLineEdit>
#include <QString>

#include "app/commands/dress_commands.hpp"
#include "app/session/session.hpp"
#include "app/shell/main_window.hpp"
#include "app/view/level_view.hpp"
#include "edit/replace.hpp"
#include "level/project.hpp"

namespace vic::app {

void MainWindow::buildDressActions() {
    constexpr auto dress = Where::dress;
    add(dress, "dressReset", tr("Props as they are drawn"), Qt::Key_X, [this] { dress_->reset(); });
    add(dress, "dressFinelyLeft", tr("Turn props left by 1°"), QKeySequence(Qt::ALT | Qt::Key_Comma),
        [this] { dress_->turn(-10); });
    add(dress, "dressFinelyRight", tr("Turn props right by 1°"), QKeySequence(Qt::ALT | Qt::Key_Period),
        [this] { dress_->turn(10); });
    add(dress, "dressQuarterLeft", tr("Turn props left by a quarter"), QKeySequence(Qt::CTRL | Qt::Key_Comma),
        [this] { dress_->turn(-900); });
    add(dress, "dressQuarterRight", tr("Turn props right by a quarter"), QKeySequence(Qt::CTRL | Qt::Key_Period),
        [this] { dress_->turn(900); });
    add(dress, "dressLarger", tr("Props larger"), QKeySequence(Qt::CTRL | Qt::Key_Plus), [this] { dress_->scale(1); });
    add(dress, "dressSmaller", tr("Props smaller"), QKeySequence(Qt::CTRL | Qt::Key_Minus),
        [this] { dress_->scale(-1); });
    add(dress, "dressVariant", tr("Next variant of the prop"), Qt::Key_V, [this] { dress_->nextVariant(1); });
    add(dress, "dressVariantBack", tr("Earlier variant of the prop"), QKeySequence(Qt::SHIFT | Qt::Key_V),
        [this] { dress_->nextVariant(-1); });
    add(
        dress, "dressPush", tr("Push to the nearest free place"), Qt::Key_K,
        [this] {
            if (!session_.hand().is<edit::held::Prop>()) return dress_->pushFree();
            levelView_->giveKey(Qt::Key_K); // it is placed there
        },
        tr("Where a prop's foot would stand in another's, in what blocks, or off the level"));
    add(dress, "dressDrop", tr("Drop props onto the ground"), Qt::Key_Y, [this] { dress_->drop(); });
}

void MainWindow::buildChosenActions() {
    constexpr auto dress = Where::dress;
    add(dress, "dressAll", tr("Choose all props and marks"), QKeySequence::SelectAll, [this] { dress_->chooseAll(); });
    add(dress, "dressAlike", tr("Choose all props of this kind"), QKeySequence(Qt::CTRL | Qt::Key_L),
        [this] { dress_->chooseAlike(); });
    add(dress, "dressTagged", tr("Choose all props with this tag"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L),
        [this] { dress_->chooseTagged(); });
    add(dress, "dressGroup", tr("Group props"), QKeySequence(Qt::CTRL | Qt::Key_G), [this] { dress_->group(true); });
    add(dress, "dressUngroup", tr("Ungroup props"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_G),
        [this] { dress_->group(false); });
    add(dress, "dressReplace", tr("Replace the chosen props by that in the Hand"), Qt::Key_H,
        [this] { dress_->replaceByHand(); });
    add(
        dress, "dressFront", tr("Chosen props in front of what they meet"), QKeySequence(Qt::CTRL | Qt::Key_Up),
        [this] { dress_->order(edit::Order::in_front); },
        tr("They count as standing further down, by as little as does it"));
    add(
        dress, "dressBehind", tr("Chosen props behind what they meet"), QKeySequence(Qt::CTRL | Qt::Key_Down),
        [this] { dress_->order(edit::Order::behind); },
        tr("They count as standing further up, by as little as does it"));
    add(dress, "dressToLayer", tr("Move the chosen props to the active layer"), QKeySequence(Qt::CTRL | Qt::Key_M),
        [this] { dress_->toActiveLayer(); });
    add(dress, "dressCopy", tr("Copy the chosen props beside"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_C),
        [this] { dress_->copyBeside(); });
    add(
        dress, "dressEnsemble", tr("Make an ensemble of the chosen props…"), QKeySequence(Qt::SHIFT | Qt::Key_K),
        [this] { askForEnsemble(); }, tr("Several props that are placed and edited as one"));
    add(dress, "dressApart", tr("Take the chosen ensembles apart"), {}, [this] { dress_->takeApart(); });
    add(
        dress, "dressOpen", tr("Open the chosen ensemble, or leave it"), {}, [this] { dress_->openEnsemble(); },
        tr("Its parts are changed in its place; all copies follow"));
}

void MainWindow::askForEnsemble() {
    if (session_.chosen().props.size() < 2) return say(tr("Choose what belongs together: two props or more"), false);
    QString free = tr("Ensemble");
    for (int n = 2; !edit::name_taken_by_prop(session_.project(), free.toStdString(), 0).empty(); ++n)
        free = tr("Ensemble %1").arg(n);
    bool ok = false;
    const QString name =
        QInputDialog::getText(this, tr("Make an ensemble"), tr("Name:"), QLineEdit::Normal, free, &ok).trimmed();
    if (!ok || name.isEmpty()) return;
    dress_->makeEnsemble(name);
}

} // namespace vic::app
