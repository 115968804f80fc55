// Where to go and what can be done: the menu of places, finding, and the list of all keys.

#include <QAction>
#include <QApplication>
#include <QCursor>
#include <QKeySequence>
#include <QLatin1String>
#include <QMenu>
#include <QPoint>
#include <QString>
#include <QToolButton>
#include <QWidget>
#include <algorithm>
#include <optional>
#include <utility>
#include <vector>

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
    for (const char* id :
         {"newLevel", "duplicateLevel", "renameLevel", "removeLevel", "levelFromPicture", "save", "saveAsAction",
          "newProject", "openProject", "closeProject", "look", "keys", "guideAction", "firstLevel"}) {
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
    for (QAction* a : keys_.actions())
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
    const Stage stage = session_.stage();
    const Where here = !session_.isOpen()     ? Where::everywhere
                       : stage == Stage::cut  ? Where::cut
                       : stage == Stage::join ? Where::join
                                              : Where::level;
    keysPage_->open(here, here == Where::cut     ? tr("in Cut")
                          : here == Where::join  ? tr("in Join")
                          : here == Where::level ? tr("on the level")
                                                 : tr("everywhere"));
}

void MainWindow::showHelp() {
    const QPoint at = QCursor::pos();
    const QWidget* under = QApplication::widgetAt(at);
    if (!under || under->window() != this) under = this;
    HelpTopic topic = topicOf(under, session_.isOpen(), session_.stage());
    topic.text = keys_.current(topic.text, under->property("key").toString());
    help_->open(topic, at);
}

void MainWindow::blink() {
    const auto& kept = session_.document().keep_points();
    if (kept.empty() || !session_.level()) return say(tr("There is no keep-point yet: Ctrl+H keeps one"), false);
    const auto last =
        std::max_element(kept.begin(), kept.end(), [](const auto& a, const auto& b) { return a.when < b.when; });
    blinking_ = true;
    session_.readKept(static_cast<std::size_t>(last - kept.begin()), [this](std::size_t at) {
        const edit::KeepPoint& point = session_.document().keep_points()[at];
        const level::Level* then =
            blinking_ && session_.level() && point.state ? point.state->level(session_.level()->id) : nullptr;
        if (!then) return;
        levelView_->setTrial(*then);
        say(tr("As it was kept: %1").arg(QString::fromStdString(point.name)), false);
    });
}

void MainWindow::unblink() {
    if (!std::exchange(blinking_, false)) return;
    levelView_->setTrial(std::nullopt);
    say(tr("As it is now"), false);
}

void MainWindow::beginSteps() {
    steps_->begin();
    focusCentre();
}

void MainWindow::showGuide(const QString& heading) {
    if (!guide_) guide_ = new Guide(this);
    guide_->open(heading);
}

} // namespace vic::app
