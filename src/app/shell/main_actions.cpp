// Commands, keys, menus, and what the window remembers.

#include <QAction>
#include <QApplication>
#include <QByteArray>
#include <QCloseEvent>
#include <QDialog>
#include <QDir>
#include <QEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QFrame>
#include <QGridLayout>
#include <QInputDialog>
#include <QKeyEvent>
#include <QKeySequence>
#include <QLatin1String>
#include <QLineEdit>
#include <QMainWindow>
#include <QMenu>
#include <QMessageBox>
#include <QObject>
#include <QPoint>
#include <QPointF>
#include <QSettings>
#include <QString>
#include <QWidget>
#include <algorithm>
#include <cstddef>
#include <functional>
#include <string>
#include <utility>
#include <vector>

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
#include "app/tray/pockets.hpp"
#include "app/tray/tray.hpp"
#include "player/parcel_view.hpp"
#include "app/view/level_view.hpp"
#include "app/walk/walk_centre.hpp"
#include "app/walk/walk_panel.hpp"
#include "base/error.hpp"
#include "base/text.hpp"
#include "base/turn.hpp"
#include "edit/levels.hpp"
#include "edit/notes.hpp"
#include "edit/stroke.hpp"
#include "level/cell.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "store/project_files.hpp"

namespace vic::app {

QAction* MainWindow::add(const QString& id, const QString& name, const QKeySequence& key, const QString& help,
                         const std::function<void()>& go) {
    auto* action = new QAction(name, this);
    action->setObjectName(id);
    action->setShortcut(key);
    action->setStatusTip(help);
    connect(action, &QAction::triggered, this, go);
    addAction(action);
    actions_.push_back(action);
    return action;
}

void MainWindow::buildActions() {
    const QString names[kStages] = {tr("Go to Cut"),   tr("Go to Join"), tr("Go to Lay"),      tr("Go to Dress"),
                                    tr("Go to Bound"), tr("Walk"),       tr("Go to Hand over")};
    for (int i = 0; i < kStages; ++i)
        add(QString("goto-%1").arg(i), names[i], QKeySequence(Qt::CTRL | (Qt::Key_1 + i)), {},
            [this, i] { session_.setStage(static_cast<Stage>(i)); });
    add("save", tr("Save"), QKeySequence::Save, tr("Writes the project to its folder, whole or not at all"),
        [this] { save(); });
    add("undoAction", tr("Undo"), QKeySequence::Undo, {}, [this] { session_.undo(); });
    add("redoAction", tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), {}, [this] { session_.redo(); });
    add("historyAction", tr("History and keep-points"), QKeySequence(Qt::CTRL | Qt::Key_H), {}, [this] {
        QWidget* button = workline_->find();
        history_->open(button->mapToGlobal(QPoint(button->width(), button->height() + 4)));
    });
    add("findAction", tr("Find"), QKeySequence(Qt::CTRL | Qt::Key_K), {}, [this] { find(); });
    add("openProject", tr("Open a project…"), QKeySequence::Open, {}, [this] { askForProject(); });
    add("addSheetAction", tr("Add a sheet…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_A), {},
        [this] { askForSheet(); });
    add("newLevel", tr("Add a level…"), QKeySequence(Qt::CTRL | Qt::Key_N), {}, [this] { newLevel(); });
    add("duplicateLevel", tr("Duplicate the level"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), {}, [this] {
        if (!session_.level()) return;
        level::Project p = session_.project();
        level::Level copy = edit::duplicate(p, *session_.level(), session_.level()->name + tr(" copy").toStdString());
        const std::string id = copy.id;
        p.put(std::move(copy));
        session_.apply(tr("Duplicate the level"), std::move(p));
        session_.setLevel(id);
    });
    add("renameLevel", tr("Rename the level…"), QKeySequence(Qt::SHIFT | Qt::Key_F2), {}, [this] { renameLevel(); });
    add("build", tr("Build all levels"), QKeySequence(Qt::CTRL | Qt::Key_B), {}, [this] {
        session_.setStage(Stage::handOver);
        handOver_->build();
    });
    add("keys", tr("All keys"), QKeySequence(Qt::Key_F1), {}, [this] { showKeys(); });
    add("look", tr("Paper or Slate"), QKeySequence(Qt::CTRL | Qt::Key_D), tr("The light or the dark look"),
        [this] { setDark(!tokensOf(this).dark); });
    // Keys without Ctrl belong to the stages that show the level.
    const auto levelKey = [&](const QString& id, const QString& name, const QKeySequence& key,
                              const std::function<void()>& go) {
        auto* action = add(id, name, key, {}, go);
        action->setProperty("stages", "level");
        return action;
    };
    buildLayActions(levelKey);
    const auto tool = [this](Tool t) {
        return [this, t] {
            session_.setStage(t >= Tool::props                   ? Stage::dress
                              : session_.stage() == Stage::dress ? Stage::lay
                                                                 : session_.stage());
            session_.setTool(t);
        };
    };
    levelKey("keyPencil", tr("Pencil"), Qt::Key_B, tool(Tool::pencil));
    levelKey("keyLine", tr("Line"), QKeySequence(Qt::SHIFT | Qt::Key_L), tool(Tool::line));
    levelKey("keyEllipse", tr("Ellipse"), QKeySequence(Qt::SHIFT | Qt::Key_R), tool(Tool::ellipse));
    levelKey("keyFill", tr("Fill"), QKeySequence(Qt::SHIFT | Qt::Key_F), tool(Tool::fill));
    levelKey("keyRectangle", tr("Rectangle"), Qt::Key_R, tool(Tool::rectangle));
    levelKey("keyEraser", tr("Eraser"), Qt::Key_E, tool(Tool::eraser));
    levelKey("keyPick", tr("Pick up"), Qt::Key_I, tool(Tool::pick));
    levelKey("keyReplace", tr("Replace"), QKeySequence(Qt::SHIFT | Qt::Key_E), tool(Tool::replace));
    levelKey("keySelect", tr("Select"), Qt::Key_S, tool(Tool::select));
    levelKey("keyLasso", tr("Go round"), QKeySequence(Qt::SHIFT | Qt::Key_W), tool(Tool::lasso));
    levelKey("keyMeasure", tr("Measure"), Qt::Key_M, tool(Tool::measure));
    levelKey("keyProps", tr("Props"), Qt::Key_P, tool(Tool::props));
    levelKey("keyStart", tr("Place the start"), QKeySequence(Qt::SHIFT | Qt::Key_S), tool(Tool::start));
    levelKey("keyExit", tr("Place an exit"), QKeySequence(Qt::SHIFT | Qt::Key_X), tool(Tool::exit));
    levelKey("keyMark", tr("Place a mark"), QKeySequence(Qt::SHIFT | Qt::Key_M), tool(Tool::mark));
    levelKey("keyOutlines", tr("Show outlines"), Qt::Key_O, [this] { toolRow_->outlines()->toggle(); });
    levelKey("keyFrame", tr("Show the frame"), Qt::Key_F, [this] { toolRow_->frame()->toggle(); });
    levelKey("keyLattice", tr("Show the lattice"), Qt::Key_L, [this] { toolRow_->lattice()->toggle(); });
    levelKey("keyPlay", tr("Let animated tiles play, or stand still"), Qt::Key_A, [this] {
        session_.setPlaying(!session_.playing());
        say(session_.playing() ? tr("Animated tiles play") : tr("Animated tiles stand still"), false);
    });
    levelKey("keySearch", tr("Search the Tray"), QKeySequence(Qt::CTRL | Qt::Key_F), [this] { tray_->search(); });
    levelKey("keyQuiet", tr("Quiet view"), Qt::Key_Q, [this] { setQuiet(!quiet_); });
    levelKey("keyFit", tr("Fit the level into the view"), Qt::Key_Home, [this] { levelView_->fit(); });
    levelKey("keyIn", tr("Zoom in"), Qt::Key_Plus,
             [this] { levelView_->zoomStep(1, QPointF(levelView_->width() / 2.0, levelView_->height() / 2.0)); });
    levelKey("keyOut", tr("Zoom out"), Qt::Key_Minus,
             [this] { levelView_->zoomStep(-1, QPointF(levelView_->width() / 2.0, levelView_->height() / 2.0)); });
    const auto turn = [this](Turn (*how)(Turn)) { return [this, how] { commands_->turn(how); }; };
    levelKey("keyTurnLeft", tr("Turn the Hand left"), Qt::Key_Comma, turn(turned_left));
    levelKey("keyTurnRight", tr("Turn the Hand right"), Qt::Key_Period, turn(turned_right));
    levelKey("keyMirror", tr("Mirror the Hand"), Qt::Key_Slash, turn(mirrored));
    for (int i = 0; i < 9; ++i)
        levelKey(QString("pocket-%1").arg(i + 1), tr("Pocket %1").arg(i + 1), QKeySequence(Qt::Key_1 + i),
                 [this, i] { tray_->pockets()->use(i); });
    auto* take = add("takeCutAction", tr("Take the proposed cut"), Qt::Key_Return, {}, [this] { cut_->takeBest(); });
    take->setProperty("stages", "cut");
    auto* accept = add("acceptAction", tr("Accept the doubtful tile"), Qt::Key_Return, {}, [this] { join_->accept(); });
    accept->setProperty("stages", "join");
    auto* joins = add("makeMaterialAction", tr("Read the joins of the sheet"), Qt::Key_M, {}, [this] {
        if (session_.sheet() && session_.sheet()->accepted)
            session_.makeMaterial(session_.sheetId(), session_.kindOf(session_.sheetId()));
    });
    joins->setProperty("stages", "cut");
    auto* missing = add("nextMissing", tr("Next missing case"), Qt::Key_N, {}, [this] { join_->nextMissing(); });
    missing->setProperty("stages", "join");
    auto* doubtful = add("nextDoubtful", tr("Next doubtful case"), Qt::Key_D, {}, [this] { join_->nextDoubtful(); });
    doubtful->setProperty("stages", "join");
    auto* compose =
        add("composeAction", tr("Compose the missing cases"), Qt::Key_C, {}, [this] { join_->composeMissing(); });
    compose->setProperty("stages", "join");
    levelKey("keyVariant", tr("Next variant of the cell under the pointer, pinned"), Qt::Key_V,
             [this] { levelView_->stepVariant(1); });
    levelKey("keyVariantBack", tr("Earlier variant of the cell under the pointer, pinned"),
             QKeySequence(Qt::SHIFT | Qt::Key_V), [this] { levelView_->stepVariant(-1); });
    const auto sort = [this] {
        const Stage s = session_.stage();
        const bool level = s == Stage::lay || s == Stage::dress || s == Stage::bound;
        for (QAction* a : actions_) {
            const QString stages = a->property("stages").toString();
            if (!stages.isEmpty())
                a->setEnabled((stages == "level" && level) || (stages == "cut" && s == Stage::cut) ||
                              (stages == "join" && s == Stage::join));
        }
    };
    connect(&session_, &Session::stageChanged, this, sort);
    sort();
}

bool MainWindow::eventFilter(QObject* object, QEvent* event) {
    // While one types into a field, keys without Ctrl are text and not commands.
    if (event->type() == QEvent::ShortcutOverride && isActiveWindow()) {
        auto* focus = QApplication::focusWidget();
        if (focus && (focus->inherits("QLineEdit") || focus->inherits("QAbstractSpinBox"))) {
            const auto* key = static_cast<QKeyEvent*>(event);
            if (!(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) && key->key() < Qt::Key_F1)
                event->accept();
        } else if (focus && (focus->inherits("QComboBox") || focus->inherits("QAbstractSlider")) &&
                   static_cast<QKeyEvent*>(event)->text().isEmpty()) {
            event->accept(); // Home, End and the arrows move in a list; letters stay commands
        }
    }
    // Enter in a field ends the typing: the keys belong to the view again.
    if (event->type() == QEvent::KeyRelease && (static_cast<QKeyEvent*>(event)->key() == Qt::Key_Return ||
                                                static_cast<QKeyEvent*>(event)->key() == Qt::Key_Enter)) {
        auto* field = qobject_cast<QWidget*>(object);
        if (field && field->window() == this && field->hasFocus() &&
            (field->inherits("QLineEdit") || field->inherits("QAbstractSpinBox")))
            focusCentre();
    }
    return QMainWindow::eventFilter(object, event);
}

// Esc is the level's, wherever in the panels one clicked last.
void MainWindow::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && centre_->currentWidget() == levelView_ && !levelView_->hasFocus()) {
        levelView_->setFocus();
        QApplication::sendEvent(levelView_, event);
        return;
    }
    QMainWindow::keyPressEvent(event);
}

void MainWindow::focusCentre() {
    const Stage stage = session_.stage();
    if (stage == Stage::cut)
        cut_->view()->setFocus();
    else if (stage == Stage::walk)
        walk_->view()->setFocus();
    else if (stage == Stage::join || stage == Stage::handOver)
        centralWidget()->setFocus();
    else
        levelView_->setFocus();
}

void MainWindow::askForSheet() {
    if (!session_.isOpen()) return;
    addSheets(QFileDialog::getOpenFileNames(this, tr("Add sheets"), {}, tr("PNG pictures (*.png)")));
}

static level::LayerNames layerNames() {
    return {MainWindow::tr("Ground").toStdString(), MainWindow::tr("Props").toStdString(),
            MainWindow::tr("In front").toStdString()};
}

void MainWindow::askForProject() {
    const QString dir =
        QFileDialog::getExistingDirectory(this, tr("Open a project, or choose an empty folder for a new one"));
    if (dir.isEmpty()) return;
    if (QDir(dir).isEmpty()) {
        try {
            level::Project fresh;
            fresh.name = QFileInfo(dir).fileName().toStdString();
            fresh.put(level::make_level(fresh, tr("First level").toStdString(), {96, 64}, {16, 16},
                                        level::View::from_above, layerNames()));
            store::create(fresh, dir.toStdString());
        } catch (const InputError& e) {
            return say(translated(e), true);
        }
    }
    openProject(dir);
}

void MainWindow::newLevel() {
    if (!session_.isOpen()) return;
    LevelShape asked;
    asked.name = tr("New level");
    if (const level::Level* now = session_.level()) {
        asked.cell = now->cell;
        asked.lattice = now->lattice;
    }
    LevelForm form(asked, true, {}, this);
    if (form.exec() != QDialog::Accepted) return;
    asked = form.shape();
    level::Project p = session_.project();
    level::Level level =
        level::make_level(p, asked.name.toStdString(), asked.size, asked.cell, asked.view, layerNames());
    level.lattice = asked.lattice;
    const std::string id = level.id;
    p.put(std::move(level));
    session_.apply(tr("Add a level"), std::move(p));
    session_.setLevel(id);
    session_.setStage(Stage::lay);
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

void MainWindow::showPlaceMenu() {
    auto* menu = new QMenu(this);
    menu->setObjectName("placeMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    if (session_.isOpen()) {
        for (const auto& l : session_.project().levels) {
            auto* action = menu->addAction(QString::fromStdString(l->name));
            action->setCheckable(true);
            action->setChecked(l.get() == session_.level());
            connect(action, &QAction::triggered, this, [this, id = l->id] { session_.setLevel(id); });
        }
        menu->addSeparator();
    }
    for (const char* id : {"newLevel", "duplicateLevel", "renameLevel", "removeLevel", "levelFromPicture", "save",
                           "openProject", "look", "keys"}) {
        if (QLatin1String(id) == "levelFromPicture") {
            // What gives the level another shape.
            auto* shape = menu->addMenu(tr("Shape of the level"));
            shape->setObjectName("shapeMenu");
            for (const char* of : {"extendLevel", "cropContent", "cropSelection", "levelGrows", "turnLevelLeft",
                                   "turnLevelRight", "mirrorLevel", "flipLevel", "cellSize"})
                shape->addAction(findChild<QAction*>(of));
            menu->addSeparator();
            menu->addAction(findChild<QAction*>(id));
            menu->addAction(findChild<QAction*>("followPlan"));
            menu->addAction(findChild<QAction*>("planPicture"));
            menu->addSeparator();
            continue;
        }
        menu->addAction(findChild<QAction*>(id));
        if (QLatin1String(id) == "openProject") menu->addSeparator();
    }
    if (auto* grows = findChild<QAction*>("levelGrows")) grows->setChecked(session_.level() && session_.level()->grows);
    menu->popup(workline_->place()->mapToGlobal(QPoint(8, workline_->place()->height())));
}

void MainWindow::find() {
    std::vector<Findable> all;
    for (QAction* a : actions_)
        all.push_back({a->text().remove("…"), tr("command"), a->shortcut().toString(QKeySequence::NativeText),
                       [a] { a->trigger(); }});
    if (session_.isOpen()) {
        const level::Project& p = session_.project();
        for (const auto& l : p.levels)
            all.push_back(
                {QString::fromStdString(l->name), tr("level"), {}, [this, id = l->id] { session_.setLevel(id); }});
        for (const auto& s : p.sheets) {
            all.push_back({QString::fromStdString(s->name), tr("sheet"), {}, [this, id = s->id] {
                               session_.setStage(Stage::cut);
                               session_.setSheet(id);
                           }});
            for (const auto& t : s->tiles)
                if (!t.name.empty() || !t.tags.empty())
                    all.push_back({t.name.empty() ? tr("tile %1").arg(t.id) : QString::fromStdString(t.name),
                                   t.tags.empty() ? tr("tile of %1").arg(QString::fromStdString(s->name))
                                                  : tr("tile of %1 · %2")
                                                        .arg(QString::fromStdString(s->name),
                                                             QString::fromStdString(edit::tags_text(t.tags))),
                                   {},
                                   [this, id = s->id, tile = t.id] {
                                       session_.setStage(Stage::cut);
                                       session_.setSheet(id);
                                       session_.setTiles({tile});
                                   }});
        }
        for (const auto& m : p.materials)
            all.push_back({QString::fromStdString(m->name), tr("material"), {}, [this, id = m->id] {
                               edit::Hand hand;
                               hand.kind = edit::Hand::Kind::material;
                               hand.material = id;
                               session_.setMaterial(id);
                               session_.setHand(hand);
                           }});
        for (const auto& k : p.prop_kinds)
            all.push_back({QString::fromStdString(k->name), tr("prop"), {}, [this, id = k->id] {
                               session_.setStage(Stage::dress);
                               edit::Hand hand;
                               hand.kind = edit::Hand::Kind::prop;
                               hand.prop = id;
                               session_.setHand(hand);
                           }});
        if (const level::Level* level = session_.level()) {
            for (const level::LayerRef& l : level->layers)
                all.push_back({QString::fromStdString(l->name), tr("layer"), {}, [this, id = l->id] {
                                   session_.setActiveLayer(id);
                               }});
            for (const auto& m : level->marks)
                all.push_back({QString::fromStdString(m.name), tr("mark"), {}, [this, at = m.cells.corner()] {
                                   if (session_.stage() == Stage::cut || session_.stage() == Stage::join ||
                                       session_.stage() == Stage::handOver)
                                       session_.setStage(Stage::lay);
                                   levelView_->lookAt(at);
                               }});
        }
    }
    QWidget* button = workline_->find();
    finder_->open(std::move(all), button->mapToGlobal(QPoint(button->width(), button->height() + 4)));
}

void MainWindow::showKeys() {
    auto* box = new QFrame(this, Qt::Popup);
    box->setObjectName("keyList");
    box->setAttribute(Qt::WA_DeleteOnClose);
    box->setStyleSheet("#keyList { background: palette(base); border: 1px solid palette(mid); }");
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(20, 16, 20, 16);
    grid->setHorizontalSpacing(10);
    grid->setVerticalSpacing(3);
    std::vector<std::pair<QString, QString>> rows;
    for (const QAction* a : actions_)
        if (!a->shortcut().isEmpty() && !a->objectName().startsWith("pocket-"))
            rows.emplace_back(a->shortcut().toString(QKeySequence::NativeText), a->text().remove("…"));
    rows.emplace_back("1 – 9", tr("Pockets"));
    rows.emplace_back(tr("Right button"), tr("Removes what the active layer has there"));
    rows.emplace_back(tr("Alt+click"), tr("Picks up, from any layer"));
    rows.emplace_back(tr("Ctrl+click"), tr("Lays on the active layer, not at home"));
    rows.emplace_back(tr("Middle button, Space"), tr("Moves the view"));
    rows.emplace_back(tr("Shift+click in the Tray"), tr("Adds to the Hand: a spread"));
    rows.emplace_back(tr("Wheel"), tr("Zooms at the pointer"));
    rows.emplace_back(tr("Ctrl+wheel"), tr("Size of the Hand"));
    rows.emplace_back("Esc", tr("Empties the Hand; leaves Walk"));
    constexpr int kColumns = 3;
    const int part = (static_cast<int>(rows.size()) + kColumns - 1) / kColumns;
    for (int i = 0; i < static_cast<int>(rows.size()); ++i) {
        const int c = i / part * 3;
        grid->addWidget(label(rows[static_cast<std::size_t>(i)].first, "heading"), i % part, c);
        grid->addWidget(label(rows[static_cast<std::size_t>(i)].second, "quiet"), i % part, c + 1);
    }
    for (int i = 1; i < kColumns; ++i) grid->setColumnMinimumWidth(i * 3 - 1, 20);
    box->adjustSize();
    box->move(mapToGlobal(QPoint((width() - box->width()) / 2, (height() - box->height()) / 2)));
    box->show();
}

void MainWindow::remember() {
    if (!session_.isOpen()) return;
    QSettings s;
    s.setValue("window/geometry", saveGeometry());
    s.beginGroup("place/" + QString::fromLatin1(QByteArray::fromStdString(session_.document().dir().string()).toHex()));
    s.setValue("stage", static_cast<int>(session_.stage()));
    if (session_.level()) s.setValue("level", QString::fromStdString(session_.level()->id));
    s.setValue("layer", session_.activeLayerId());
    s.setValue("zoom", levelView_->zoom());
    s.setValue("centre", levelView_->centre());
    s.setValue("sheet", session_.sheetId());
    s.setValue("material", session_.materialId());
    s.setValue("pockets", tray_->pockets()->packed());
    s.setValue("recents", tray_->packedRecents());
}

void MainWindow::restore() {
    QSettings s;
    if (s.contains("window/geometry")) restoreGeometry(s.value("window/geometry").toByteArray());
    s.beginGroup("place/" + QString::fromLatin1(QByteArray::fromStdString(session_.document().dir().string()).toHex()));
    if (session_.project().level(s.value("level").toString().toStdString()))
        session_.setLevel(s.value("level").toString().toStdString());
    if (s.contains("layer") && session_.level() && session_.level()->layer(s.value("layer").toUInt()))
        session_.setActiveLayer(s.value("layer").toUInt());
    if (session_.project().sheet(s.value("sheet").toUInt())) session_.setSheet(s.value("sheet").toUInt());
    if (const auto id = static_cast<level::MaterialId>(s.value("material").toUInt()); session_.project().material(id))
        session_.setMaterial(id);
    tray_->pockets()->unpack(s.value("pockets").toString());
    tray_->unpackRecents(s.value("recents").toString());
    const int stage = s.value("stage", static_cast<int>(Stage::lay)).toInt();
    session_.setStage(static_cast<Stage>(std::clamp(stage, 0, kStages - 1)));
    if (s.contains("centre")) levelView_->setCamera(s.value("zoom").toDouble(), s.value("centre").toPointF());
    refreshStage();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (session_.isOpen() && session_.document().unsaved()) {
        QMessageBox box(QMessageBox::Question, tr("Vicinum"), tr("Save what was changed before closing?"),
                        QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
        box.setObjectName("closeQuestion");
        const int answer = box.exec();
        if (answer == QMessageBox::Cancel) return event->ignore();
        if (answer == QMessageBox::Save) {
            save();
            if (session_.document().unsaved()) return event->ignore();
        }
    }
    remember();
    event->accept();
}

} // namespace vic::app
