// Where to go and what can be done: the menu of places, finding, and the list of all keys.

#include <QAction>
#include <QFrame>
#include <QGridLayout>
#include <QKeySequence>
#include <QLabel>
#include <QLatin1String>
#include <QMenu>
#include <QPoint>
#include <QString>
#include <QToolButton>
#include <QWidget>
#include <cstddef>
#include <utility>
#include <vector>

#include "app/parts/panel.hpp"
#include "app/session/session.hpp"
#include "app/shell/findables.hpp"
#include "app/shell/finder.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/workline.hpp"
#include "app/view/level_view.hpp"

namespace vic::app {

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
                           "saveAsAction", "newProject", "openProject", "closeProject", "look", "keys"}) {
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
        if (QLatin1String(id) == "closeProject") menu->addSeparator();
    }
    if (auto* grows = findChild<QAction*>("levelGrows")) grows->setChecked(session_.level() && session_.level()->grows);
    menu->popup(workline_->place()->mapToGlobal(QPoint(8, workline_->place()->height())));
}

void MainWindow::find() {
    std::vector<Findable> all;
    for (QAction* a : actions_)
        if (session_.isOpen() || a->isEnabled())
            all.push_back({a->text().remove("…"), tr("command"), a->shortcut().toString(QKeySequence::NativeText),
                           [a] { a->trigger(); }});
    if (session_.isOpen()) {
        findInProject(session_, all);
        findInLevel(session_, *levelView_, all);
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

} // namespace vic::app
