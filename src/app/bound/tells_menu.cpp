// What the chosen things tell the game, and the list of what can be told.

#include <QAction>
#include <QActionGroup>
#include <QCheckBox>
#include <QColor>
#include <QColorDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QToolButton>
#include <utility>

#include "app/bound/used_list.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "edit/areas.hpp"
#include "level/project.hpp"

namespace vic::app {

void UsedList::giveTelling(level::Project project, level::AreaKindId kind) {
    const std::vector<edit::Used> all = chosen();
    if (!hereOnly_->isChecked()) {
        session_.apply(tr("What things tell"), edit::with_telling(std::move(project), all, kind));
        return refresh();
    }
    level::Level next = *session_.level();
    const level::Project wanted = edit::with_telling(level::as_in(project, next), all, kind);
    project.put(edit::said_here(project, std::move(next), all, wanted));
    session_.apply(tr("What things tell here"), std::move(project));
    refresh();
}

// The project's areas, those that walkers know and that it does not have yet, and another.
void UsedList::askWhatItTells() {
    const std::vector<edit::Used> all = chosen();
    if (all.empty()) return;
    const level::AreaKindId now = edit::told_by(level::as_in(session_.project(), *session_.level()), all);
    auto* menu = new QMenu(this);
    menu->setObjectName("tellsMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto entry = [&](const QString& name, level::AreaKindId kind) {
        QAction* a = menu->addAction(name);
        a->setCheckable(true);
        a->setChecked(kind == now);
        connect(a, &QAction::triggered, this, [this, kind] { giveTelling(session_.project(), kind); });
    };
    entry(tr("nothing"), 0);
    for (const level::AreaKind& k : session_.project().area_kinds) entry(QString::fromStdString(k.name), k.id);
    menu->addSeparator();
    const std::pair<level::AreaMeans, QString> known[] = {{level::AreaMeans::water, tr("Water")},
                                                          {level::AreaMeans::ladder, tr("Ladder")},
                                                          {level::AreaMeans::hazard, tr("Hazard")},
                                                          {level::AreaMeans::exit, tr("Exit")}};
    const auto make = [this](const QString& name, level::AreaMeans means) {
        level::Project p = session_.project();
        const level::AreaKindId kind = edit::add_area_kind(p, name.toStdString(), means);
        if (kind == 0) return emit session_.said(tr("There are as many areas as there can be"), true);
        giveTelling(std::move(p), kind);
    };
    for (const auto& [means, name] : known) {
        const auto& have = session_.project().area_kinds;
        if (std::any_of(have.begin(), have.end(), [m = means](const level::AreaKind& k) { return k.means == m; }))
            continue;
        connect(menu->addAction(tr("New: %1").arg(name)), &QAction::triggered, this,
                [make, name = name, means = means] { make(name, means); });
    }
    connect(menu->addAction(tr("Another…")), &QAction::triggered, this, [this, make] {
        bool taken = false;
        const QString name = QInputDialog::getText(this, tr("An area that tells"), tr("What the game is told there"),
                                                   QLineEdit::Normal, {}, &taken);
        if (taken && !name.trimmed().isEmpty()) make(name.trimmed(), level::AreaMeans::tells);
    });
    if (const level::AreaKind* k = session_.project().area_kind(now)) addAreaEntries(*menu, *k);
    menu->popup(tells_->mapToGlobal(QPoint(0, tells_->height())));
}

void UsedList::addAreaEntries(QMenu& menu, const level::AreaKind& kind) {
    menu.addSeparator();
    const QString name = QString::fromStdString(kind.name);
    const auto change = [this, id = kind.id](const QString& step, const std::function<void(level::AreaKind&)>& what) {
        const level::AreaKind* now = session_.project().area_kind(id);
        if (!now) return;
        level::AreaKind next = *now;
        what(next);
        if (const Text trouble = edit::area_kind_trouble(session_.project(), next); !trouble.empty())
            return emit session_.said(translated(trouble), true);
        session_.apply(step, edit::change_area_kind(session_.project(), next));
        refresh();
    };
    connect(menu.addAction(tr("Rename %1…").arg(name)), &QAction::triggered, this, [this, change, name] {
        bool taken = false;
        const QString to = QInputDialog::getText(this, tr("An area that tells"), tr("What the game is told there"),
                                                 QLineEdit::Normal, name, &taken);
        if (taken && to.trimmed() != name)
            change(tr("Rename an area"), [&](level::AreaKind& k) { k.name = to.trimmed().toStdString(); });
    });
    connect(menu.addAction(tr("Colour of %1…").arg(name)), &QAction::triggered, this,
            [this, change, now = kind.colour, name] {
                const QColor c =
                    QColorDialog::getColor(QColor(now.r, now.g, now.b), this, tr("Colour of %1").arg(name));
                if (!c.isValid()) return;
                const auto part = [](int v) { return static_cast<std::uint8_t>(v); };
                change(tr("Colour of an area"), [&](level::AreaKind& k) {
                    k.colour = {part(c.red()), part(c.green()), part(c.blue()), 255};
                });
            });
    QMenu* means = menu.addMenu(tr("To a walker %1 is").arg(name));
    means->setObjectName("tellsMeans");
    const std::pair<level::AreaMeans, QString> all[] = {{level::AreaMeans::tells, tr("nothing more")},
                                                        {level::AreaMeans::water, tr("water to swim in")},
                                                        {level::AreaMeans::ladder, tr("a ladder to climb")},
                                                        {level::AreaMeans::hazard, tr("a hazard")},
                                                        {level::AreaMeans::exit, tr("an exit")}};
    for (const auto& [as, text] : all) {
        QAction* a = means->addAction(text);
        a->setCheckable(true);
        a->setChecked(as == kind.means);
        connect(a, &QAction::triggered, this,
                [change, as = as] { change(tr("What an area is"), [&](level::AreaKind& k) { k.means = as; }); });
    }
    connect(menu.addAction(tr("Take %1 off the list").arg(name)), &QAction::triggered, this, [this, id = kind.id] {
        session_.apply(tr("Take an area off the list"), edit::without_area_kind(session_.project(), id));
        refresh();
    });
}

} // namespace vic::app
