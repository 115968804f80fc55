// The commands of the window with their keys: the project, the tools, the view, and readings.

#include <QAction>
#include <QCoreApplication>
#include <QKeySequence>
#include <QPoint>
#include <QRectF>
#include <QSettings>
#include <QStackedWidget>
#include <QString>
#include <QToolButton>
#include <QWidget>
#include <tuple>

#include "app/commands/lay_commands.hpp"
#include "app/cut/cut_centre.hpp"
#include "app/gesture/tools.hpp"
#include "app/hand_over/hand_over_page.hpp"
#include "app/join/join_centre.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/shell/history_panel.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/tool_row.hpp"
#include "app/shell/workline.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/tray/tray.hpp"
#include "app/view/level_view.hpp"
#include "base/text.hpp"

namespace vic::app {

QAction* MainWindow::add(Where where, const QString& id, const QString& name, const QKeySequence& key, const Go& go,
                         const QString& help) {
    auto* action = new QAction(name, this);
    action->setObjectName(id);
    action->setShortcut(key);
    action->setStatusTip(help);
    connect(action, &QAction::triggered, this, go);
    addAction(action);
    keys_.add(action, where);
    return action;
}

void MainWindow::buildActions() {
    buildProjectActions();
    buildSelectionActions();
    buildHandActions();
    buildDressActions();
    buildChosenActions();
    buildLayerActions();
    buildShapeActions();
    buildLevelActions();
    buildToolActions();
    buildViewActions();
    buildBoundActions();
    buildTryActions();
    buildReadingActions();
    sortActions();
}

void MainWindow::sortActions() {
    const Stage stage = session_.stage();
    for (QAction* a : keys_.actions()) {
        const Where where = Keys::where(a);
        const bool here =
            where == Where::everywhere ||
            (where == Where::level && (showsLevel(stage) || (stage == Stage::walk && a->property("walks").toBool()))) ||
            (where == Where::lay && laysCells(stage)) || (where == Where::dress && stage == Stage::dress) ||
            (where == Where::bound && stage == Stage::bound) || (where == Where::cut && stage == Stage::cut) ||
            (where == Where::join && stage == Stage::join);
        a->setEnabled(where == Where::always || (session_.isOpen() && here && pages_->currentWidget() != pack_ &&
                                                 pages_->currentWidget() != kit_));
    }
    refreshClash();
    // The key for something new: a level, or without a project one of those.
    if (auto* fresh = findChild<QAction*>("newProject"))
        fresh->setShortcut(session_.isOpen() ? QKeySequence() : QKeySequence(Qt::CTRL | Qt::Key_N));
}

void MainWindow::buildProjectActions() {
    constexpr auto everywhere = Where::everywhere;
    const QString names[kStages] = {tr("Go to Cut"),   tr("Go to Join"), tr("Go to Lay"),      tr("Go to Dress"),
                                    tr("Go to Bound"), tr("Walk"),       tr("Go to Hand over")};
    for (int i = 0; i < kStages; ++i)
        add(everywhere, QString("goto-%1").arg(i), names[i], QKeySequence(Qt::CTRL | (Qt::Key_1 + i)),
            [this, i] { session_.setStage(static_cast<Stage>(i)); });
    add(
        everywhere, "save", tr("Save"), QKeySequence::Save, [this] { save(); },
        tr("Writes the project to its folder, whole or not at all"));
    add(
        everywhere, "saveItself", tr("Save by itself, or when asked"), {},
        [this] {
            QSettings().setValue("save/itself", !savesItself());
            say(savesItself() ? tr("The project is saved half a minute after a change, in the background")
                              : tr("The project is saved when you ask for it; the journal keeps what is done"),
                false);
        },
        tr("What is done is in the journal either way"));
    add(everywhere, "undoAction", tr("Undo"), QKeySequence::Undo, [this] { session_.undo(); });
    add(everywhere, "redoAction", tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z),
        [this] { session_.redo(); });
    add(everywhere, "historyAction", tr("History and keep-points"), QKeySequence(Qt::CTRL | Qt::Key_H), [this] {
        QWidget* button = workline_->find();
        history_->open(button->mapToGlobal(QPoint(button->width(), button->height() + 4)));
    });
    add(Where::always, "findAction", tr("Find"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { find(); });
    add(
        Where::always, "newProject", tr("New project…"), {},
        [this] {
            if (session_.isOpen()) return closeProject();
            emit start_->beginningChosen(edit::Beginning::from_above);
        },
        tr("With art, or with an empty place; kept in the documents folder from the first moment"));
    add(Where::always, "openProject", tr("Open a project…"), QKeySequence::Open, [this] { askForProject(); });
    add(
        everywhere, "saveAsAction", tr("Save as…"), QKeySequence::SaveAs, [this] { saveAs(); },
        tr("Into another folder, where the project goes on"));
    add(everywhere, "closeProject", tr("Close the project"), QKeySequence(Qt::CTRL | Qt::Key_W),
        [this] { closeProject(); });
    add(everywhere, "addSheetAction", tr("Add a sheet…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_A),
        [this] { askForSheet(); });
    add(everywhere, "build", tr("Build all levels"), QKeySequence(Qt::CTRL | Qt::Key_B), [this] {
        session_.setStage(Stage::handOver);
        handOver_->build();
    });
    add(
        Where::always, "help", tr("Help for what is under the pointer"), QKeySequence(Qt::Key_F1),
        [this] { showHelp(); }, tr("What it does, its key, and where the guide says more"));
    add(
        Where::always, "keys", tr("All keys"), QKeySequence(Qt::SHIFT | Qt::Key_F1), [this] { showKeys(); },
        tr("By stage, and how to change them"));
    add(
        Where::always, "firstLevel", tr("A first level in five minutes"), {}, [this] { beginSteps(); },
        tr("Seven steps, each beside the control it is about; they can be left and taken up again"));
    add(Where::always, "guideAction", tr("The guide"), QKeySequence(Qt::CTRL | Qt::Key_F1), [this] { showGuide({}); });
    add(
        Where::always, "look", tr("Paper or Slate"), QKeySequence(Qt::CTRL | Qt::Key_D),
        [this] { setDark(!tokensOf(this).dark); }, tr("The light or the dark look"));
}

// Keys without Ctrl belong to the stages that show the level.
void MainWindow::buildToolActions() {
    for (const ToolKind& kind : allTools()) {
        if (kind.tool == Tool::choose || kind.tool == Tool::chooseRound) continue; // with the keys that select cells
        const char* name = kind.command ? kind.command : kind.name;
        add(Where::level, QString("key%1").arg(kind.tool.id), QCoreApplication::translate("Tools", name), kind.key,
            [this, tool = kind.tool] {
                // The keys that select cells choose props where those are at hand.
                const bool dress = session_.stage() == Stage::dress;
                if (dress && tool == Tool::select) return session_.setTool(Tool::choose);
                if (dress && tool == Tool::lasso) return session_.setTool(Tool::chooseRound);
                if (tool.dresses) session_.setStage(Stage::dress);
                if (tool.bounds) session_.setStage(Stage::bound);
                if (!tool.dresses && session_.stage() == Stage::dress) session_.setStage(Stage::lay);
                session_.setTool(tool);
            });
    }
}

// Where one gets to, shown and tried.
void MainWindow::buildTryActions() {
    constexpr auto level = Where::level;
    using Look = SolidSwitch::Look;
    const std::tuple<const char*, QString, Qt::Key, Look> looks[] = {
        {"keyPlan", tr("Look at the plan"), Qt::Key_F5, Look::plan},
        {"keyAslant", tr("Look at the level aslant"), Qt::Key_F6, Look::aslant},
        {"keyFront", tr("Look at the level from the front"), Qt::Key_F7, Look::front},
        {"keyThrough", tr("Look through the level"), Qt::Key_F8, Look::through},
        {"keyGame", tr("Look at the level as the game shows it"), Qt::Key_F9, Look::game}};
    for (const auto& [id, name, key, how] : looks)
        add(
            level, id, name, key, [this, how = how] { toolRow_->solid().look(how); },
            tr("Of levels seen from above: pieces of kits, and props that stand up"))
            ->setProperty("walks", true);
    add(
        level, "keyWalkHere", tr("Walk from the pointer"), QKeySequence(Qt::SHIFT | Qt::Key_J),
        [this] {
            walkFrom_ = levelView_->pointedPlace();
            if (walkFrom_) walk_->beginAt({walkFrom_->x(), walkFrom_->y()});
            session_.setStage(Stage::walk);
        },
        tr("A try that begins where one points, instead of at the start; R begins there again"));
    add(
        level, "keySoak", tr("Soak the level from the pointer"), Qt::Key_D, [this] { levelView_->soakFromPointer(); },
        tr("A colour runs over all that the walker can be moved over, and shows where it leaks; again, and it is dry"));
    connect(&levelView_->soak(), &SoakLens::soakedAnew, this, [this](bool settled) {
        toolRow_->soak()->setChecked(levelView_->soak().on());
        levelView_->update();
        if (!settled || !levelView_->soak().on()) return;
        if (levelView_->soak().asked()) return say(levelView_->soak().summary(), false);
        readingLine_->say(levelView_->soak().summary(), levelView_->pointedCell(), ReadingLine::Stay::brief);
    });
    add(
        level, "keyReach", tr("Show where the walker gets to"), QKeySequence(Qt::SHIFT | Qt::Key_Y),
        [this] { levelView_->setReach(!levelView_->reach().on()); },
        tr("In a level seen from the side: the surfaces that he reaches, those that he does not, and what they lack"));
    connect(&levelView_->reach(), &ReachLens::reachedAnew, this, [this] {
        toolRow_->reach()->setChecked(levelView_->reach().on());
        levelView_->update();
        if (levelView_->reach().on()) say(levelView_->reach().summary(), false);
    });
    add(
        level, "keyWalkLive", tr("Walk here while painting"), QKeySequence(Qt::ALT | Qt::Key_J),
        [this] {
            if (!toolRow_->solid().toggleWalk()) levelView_->setLiveTry(!levelView_->liveTry().on());
        },
        tr("The walker begins where one points, in the level as it is: arrow keys move him, Space jumps, and he goes "
           "on "
           "in what is painted; Esc ends it"));
    add(
        level, "keyMustPass", tr("The walker must get through here"), QKeySequence(Qt::ALT | Qt::Key_N),
        [this] { levelView_->setProbe(false); },
        tr("A probe at the pointer, where his foot is: every check tests it; again, and it is gone"));
    add(
        level, "keyMustBlock", tr("The walker must be stopped here"), QKeySequence(Qt::ALT | Qt::SHIFT | Qt::Key_N),
        [this] { levelView_->setProbe(true); },
        tr("A probe at the pointer, where his foot is: every check tests it; again, and it is gone"));
    connect(&levelView_->liveTry(), &LiveTry::moved, levelView_, qOverload<>(&QWidget::update));
    connect(&levelView_->liveTry(), &LiveTry::fell, this,
            [this] { say(tr("The walker fell out of the level, and begins again"), false); });
}

// What is seen in Bound.
void MainWindow::buildBoundActions() {
    const std::pair<const char*, LevelView::Bounds> bounds[] = {{"keySection", LevelView::Bounds::section},
                                                                {"keyArt", LevelView::Bounds::art},
                                                                {"keyBoth", LevelView::Bounds::both}};
    const QString boundNames[] = {tr("See what blocks alone"), tr("See the art alone"),
                                  tr("See what blocks over the art")};
    for (int i = 0; i < 3; ++i)
        add(Where::bound, bounds[i].first, boundNames[i], QKeySequence(Qt::ALT | static_cast<Qt::Key>(Qt::Key_1 + i)),
            [this, shown = bounds[i].second] { levelView_->setBounds(shown); });
    add(
        Where::bound, "keyUnmerged", tr("See what blocks before it is merged"), QKeySequence(Qt::ALT | Qt::Key_4),
        [this] { levelView_->setUnmerged(!levelView_->showsUnmerged()); },
        tr("A box or shape for each cell; again: merged"));
}

void MainWindow::buildViewActions() {
    constexpr auto level = Where::level;
    add(level, "keyOutlines", tr("Show outlines"), Qt::Key_O, [this] { toolRow_->outlines()->toggle(); });
    add(level, "keyFrame", tr("Show the frame"), Qt::Key_F, [this] { toolRow_->frame()->toggle(); });
    add(level, "keyLattice", tr("Show the lattice"), Qt::Key_L, [this] { toolRow_->lattice()->toggle(); });
    add(
        level, "keyHonesty", tr("Mark pixels that are not whole"), Qt::Key_U,
        [this] {
            levelView_->setHonesty(!levelView_->showsHonesty());
            say(levelView_->showsHonesty()
                    ? tr("Marked is what is drawn so that a pixel of art is no whole number of pixels here")
                    : tr("Pixels are not marked any more"),
                false);
        },
        tr("Art that is drawn at a size at which pixels are dropped, or some are wider than others"));
    add(
        level, "keyContrast", tr("Contrast lens"), QKeySequence(Qt::SHIFT | Qt::Key_U),
        [this] {
            levelView_->setContrast(!levelView_->contrast().on());
            if (!levelView_->contrast().on()) say(tr("The level is seen in its colours"), false);
        },
        tr("The level by brightness: what blocks, what can be used and scenery, and what looks otherwise than it is"));
    add(
        level, "keyHeat", tr("Show repetition as heat"), QKeySequence(Qt::SHIFT | Qt::Key_O),
        [this] {
            levelView_->setHeat(!levelView_->showsHeat());
            say(levelView_->showsHeat() ? tr("Warm is what is seen again nearby, of the active layer's props")
                                        : tr("Repetition is not shown any more"),
                false);
        },
        tr("Where the same picture of the active layer's props is seen again nearby"));
    add(
        level, "keyAfar", tr("See the level from afar"), QKeySequence(Qt::SHIFT | Qt::Key_Home),
        [this] { levelView_->setAfar(!levelView_->afar()); },
        tr("As small as one sees it when it repeats; the same key comes back"));
    connect(planting_, &PlantingPanel::heatAsked, this, [this] { findChild<QAction*>("keyHeat")->trigger(); });
    connect(planting_, &PlantingPanel::placeAsked, this, [this](Point cell, const Box& cells) {
        levelView_->lookAt(cell);
        levelView_->setMarked(level::Region(intersection(cells, session_.level()->cells())));
    });
    connect(planting_, &PlantingPanel::placeLeft, this, [this] { levelView_->setMarked({}); });
    connect(planting_, &PlantingPanel::afarAsked, this, [this] { levelView_->setAfar(!levelView_->afar()); });
    connect(&levelView_->contrast(), &ContrastLens::measured, this, [this] {
        levelView_->update();
        say(levelView_->contrast().summary(), false);
    });
    add(
        level, "keyBlink", tr("Blink to the last keep-point"), Qt::Key_W, [this] { blink(); },
        tr("As long as the key is held the level is seen as it was kept"))
        ->setAutoRepeat(false);
    add(level, "keyPlay", tr("Let animated tiles play, or stand still"), Qt::Key_A, [this] {
        session_.playClock().setPlaying(!session_.playClock().playing());
        say(session_.playClock().playing() ? tr("Animated tiles play") : tr("Animated tiles stand still"), false);
    });
    add(level, "keySearch", tr("Search the Tray"), QKeySequence(Qt::CTRL | Qt::Key_F), [this] { tray_->search(); });
    add(level, "keyQuiet", tr("Quiet view"), Qt::Key_Q, [this] { setQuiet(!quiet_); });
    add(level, "keyFit", tr("Fit the level into the view"), Qt::Key_Home, [this] { levelView_->fit(); });
    const auto zoom = [this](int by) {
        return [this, by] { levelView_->zoomStep(by, QRectF(levelView_->rect()).center()); };
    };
    add(level, "keyIn", tr("Zoom in"), Qt::Key_Plus, zoom(1));
    add(level, "keyOut", tr("Zoom out"), Qt::Key_Minus, zoom(-1));
    add(level, "zoomSelection", tr("Zoom to what is selected"), Qt::Key_Z, [this] { commands_->zoomToSelection(); });
    add(level, "figurePointer", tr("The figure at the pointer, or where it was"), Qt::Key_G,
        [this] { levelView_->setFigureAtPointer(!levelView_->figureAtPointer()); });
    add(level, "figurePark", tr("Park the figure at the pointer"), QKeySequence(Qt::SHIFT | Qt::Key_G),
        [this] { levelView_->parkFigure(); });
    add(level, "figureJump", tr("Show the figure's jump"), Qt::Key_J, [this] { toolRow_->jump()->toggle(); });
}

// What Cut and Join do with their readings.
void MainWindow::buildReadingActions() {
    add(Where::cut, "takeCutAction", tr("Take the proposed cut"), Qt::Key_Return, [this] { cut_->takeBest(); });
    add(Where::level, "settleSizeAction", tr("Settle the size of what is in the Hand: the first way"), Qt::Key_Return,
        [this] {
            if (!levelView_->giveKey(Qt::Key_Return)) clash_->takeFirst();
        });
    add(Where::cut, "makeMaterialAction", tr("Read the joins of the sheet"), Qt::Key_M, [this] {
        if (session_.sheet() && session_.sheet()->accepted) session_.makeMaterial(session_.sheetId());
    });
    add(Where::join, "acceptAction", tr("Accept the doubtful tile"), Qt::Key_Return, [this] { join_->accept(); });
    add(Where::join, "nextMissing", tr("Next missing case"), Qt::Key_N, [this] { join_->nextMissing(); });
    add(Where::join, "nextDoubtful", tr("Next doubtful case"), Qt::Key_D, [this] { join_->nextDoubtful(); });
    add(Where::join, "otherWayAction", tr("The other way round"), Qt::Key_Tab, [this] {
        if (session_.derived().joinsRead().other)
            casePanel_->otherWay();
        else
            focusNextChild();
    });
    add(Where::join, "blockingAction", tr("What the material is in the way of"), Qt::Key_B,
        [this] { join_->nextBlocking(); });
    add(Where::join, "composeAction", tr("Compose the missing cases"), Qt::Key_C, [this] { join_->composeMissing(); });
}

} // namespace vic::app
