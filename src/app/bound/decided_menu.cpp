#include "app/bound/decided_menu.hpp"

#include <QAction>
#include <QLabel>
#include <QMenu>
#include <QWidgetAction>
#include <utility>
#include <vector>

#include "app/parts/blocking_words.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "edit/free_blockers.hpp"
#include "edit/own_word.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

QString nameOf(const level::Project& project, const edit::Used& thing) {
    std::string name;
    if (thing.kind == edit::UsedKind::material) {
        const level::Material* m = project.material(static_cast<level::MaterialId>(thing.id));
        name = m ? m->name : std::string();
    } else if (thing.kind == edit::UsedKind::prop) {
        const level::PropKind* k = project.prop_kind(thing.id);
        name = k ? k->name : std::string();
    } else if (const level::TileRef ref = level::TileTable(project).find(thing.id); ref.tile) {
        name = ref.tile->name.empty() ? ref.sheet->name + " " + std::to_string(thing.id) : ref.tile->name;
    }
    return QString::fromStdString(name);
}

} // namespace

DecidedMenu::DecidedMenu(Session& session, LevelView& view, QObject* parent)
    : QObject(parent), session_(session), view_(view) {
    connect(&session_, &Session::whoAsked, this, &DecidedMenu::open);
}

void DecidedMenu::addParts(QMenu& menu, const edit::Used& thing, const QString& name, bool here) {
    QMenu* parts = menu.addMenu(here ? tr("%1, in this level only").arg(name) : tr("%1, in all levels").arg(name));
    parts->setObjectName(here ? "decidedHere" : "decidedEverywhere");
    const edit::Blocking now =
        edit::said_by(here ? level::as_in(session_.project(), *session_.level()) : session_.project(), thing);
    for (const edit::Blocking part : {edit::Blocking::full, edit::Blocking::as_drawn, edit::Blocking::one_way,
                                      edit::Blocking::opens, edit::Blocking::nothing}) {
        QAction* a = parts->addAction(blockingWord(part));
        a->setCheckable(true);
        a->setChecked(part == now);
        connect(a, &QAction::triggered, this, [this, thing, part, here] {
            if (here)
                session_.applyLevel(tr("What things block here"),
                                    edit::with_blocking_here(session_.project(), *session_.level(), {thing}, part));
            else
                session_.apply(tr("What things block"), edit::with_blocking(session_.project(), {thing}, part));
        });
    }
}

void DecidedMenu::addOwnWords(QMenu& menu, Point cell) {
    const int storey = session_.activeLayer() ? session_.activeLayer()->storey : 0;
    const edit::OwnWord now = edit::own_word_of(*session_.level(), cell, storey);
    const auto add = [&](const QString& text, edit::OwnWord word, const QString& step) {
        if (word == now) return;
        QAction* a = menu.addAction(text);
        connect(a, &QAction::triggered, this, [this, cell, word, step, storey] {
            level::Project p = session_.project();
            level::Region cells;
            cells.add(cell);
            p.put(
                edit::with_own_word(*session_.level(), cells, word, tr("Own words").toStdString(), p.next_id, storey));
            session_.apply(step, std::move(p));
        });
    };
    add(tr("At this cell alone: one may walk"), edit::OwnWord::may_walk, tr("One may walk here"));
    add(tr("At this cell alone: one may not walk"), edit::OwnWord::may_not_walk, tr("One may not walk here"));
    add(tr("Take the cell's own word back"), edit::OwnWord::none, tr("Take a cell's own word back"));
}

void DecidedMenu::open(Point cell) {
    if (!session_.level()) return;
    const level::Project& project = session_.project();
    const edit::Decided decided = edit::decided_at(project, session_.onStorey(*session_.level()), cell);
    auto* menu = new QMenu(&view_);
    menu->setObjectName("decidedMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    QString says = translated(decided.says);
    if (!decided.collision_class.empty())
        says = tr("%1 · class %2").arg(says, QString::fromStdString(decided.collision_class));
    // A sentence on top, which is no entry.
    auto* head = new QWidgetAction(menu);
    auto* sentence = label(says, "title", menu);
    sentence->setContentsMargins(14, 6, 14, 6);
    head->setText(says);
    head->setDefaultWidget(sentence);
    head->setEnabled(false);
    menu->addAction(head);
    menu->addSeparator();
    using By = edit::Decided::By;
    if (decided.by == By::layer_open) {
        const level::Layer* layer = session_.level()->layer(decided.layer);
        QAction* a = menu->addAction(tr("Let what lies on %1 block").arg(QString::fromStdString(layer->name)));
        connect(a, &QAction::triggered, this, [this, id = decided.layer] {
            level::Level next = *session_.level();
            next.edit(id).tiles()->solid = true;
            session_.applyLevel(tr("Let layers block"), std::move(next));
        });
    }
    const bool kept = decided.thing && decided.thing->kind != edit::UsedKind::blockers;
    if (kept) {
        const QString name = nameOf(project, *decided.thing);
        addParts(*menu, *decided.thing, name, false);
        addParts(*menu, *decided.thing, name, true);
    }
    if (decided.free != 0)
        connect(menu->addAction(tr("Take that blocker away")), &QAction::triggered, this,
                [this, hit = edit::FreeHit{decided.layer, decided.free}] {
                    if (session_.level()->layer(hit.layer)->locked)
                        return emit session_.said(tr("The layer of blockers is locked: unlock it in the Section"),
                                                  true);
                    session_.applyLevel(tr("Take a blocker away"), edit::without_free_blocker(*session_.level(), hit));
                });
    if (!session_.activeLayer() || session_.activeLayer()->storey == 0) addOwnWords(*menu, cell);
    if (decided.thing) {
        menu->addSeparator();
        connect(menu->addAction(tr("Show it under Used here")), &QAction::triggered, this,
                [this, thing = *decided.thing] { emit wanted(thing); });
    }
    menu->popup(view_.mapToGlobal(view_.placeBelow(cell)));
}

} // namespace vic::app
