#include "app/section/section_panel.hpp"

#include <QAction>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPaintEvent>
#include <QPainter>
#include <QPalette>
#include <QScrollArea>
#include <QSizePolicy>
#include <QString>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <initializer_list>
#include <tuple>
#include <utility>

#include "app/parts/note_dialog.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/section/behind_card.hpp"
#include "app/section/sides_card.hpp"
#include "app/session/session.hpp"
#include "edit/levels.hpp"
#include "edit/notes.hpp"
#include "edit/storeys.hpp"
#include "level/facts.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

SectionPanel::SectionPanel(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("section");
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 12, 0, 0);
    outer->setSpacing(6);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 0, 8, 0);
    head->addWidget(label(tr("Section"), "heading"));
    head->addStretch();
    auto* add = toolButton(this, "addLayer", {}, tr("+ layer"), {}, "link");
    describe(add, tr("Add a layer"), {}, tr("In front of the active one"));
    connect(add, &QToolButton::clicked, this, [this, add] { showAddMenu(add); });
    head->addWidget(add);
    head->addWidget(label(tr("front ↑"), "aside"));
    outer->addLayout(head);
    scroll_ = new QScrollArea(this);
    QScrollArea* scroll = scroll_;
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_ = new QWidget;
    column_ = new QVBoxLayout(list_);
    column_->setContentsMargins(0, 0, 0, 12);
    column_->setSpacing(0);
    column_->addStretch();
    scroll->setWidget(list_);
    outer->addWidget(scroll, 1);
    behind_ = new BehindCard(session_, list_);
    sides_ = new SidesCard(session_, list_);
    marker_ = new QWidget(list_);
    marker_->setAutoFillBackground(true);
    marker_->hide();
    connect(&session_, &Session::changed, this, &SectionPanel::refresh);
}

void SectionPanel::showAddMenu(QWidget* under) {
    if (!session_.level()) return;
    auto* menu = new QMenu(this);
    menu->setObjectName("addLayerMenu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    // Half a cell aside, the middles of its cells lie where the level's meet: walls run between floors.
    const Point onLines = session_.level()->geometry().square() ? Point{1, 1} : Point{};
    const std::initializer_list<std::tuple<QString, QString, level::LayerKind, Point>> kinds{
        {tr("Tiles"), tr("Tiles"), level::LayerKind::tiles, Point{}},
        {tr("Tiles on the lines"), tr("Walls"), level::LayerKind::tiles, onLines},
        {tr("Props"), tr("Props"), level::LayerKind::props, Point{}},
        {tr("Planting"), tr("Planting"), level::LayerKind::planting, Point{}},
        {tr("Backdrop"), tr("Backdrop"), level::LayerKind::backdrop, Point{}},
        {tr("Blockers"), tr("Blockers"), level::LayerKind::blockers, Point{}}};
    for (const auto& [text, name, kind, aside] : kinds)
        connect(menu->addAction(text), &QAction::triggered, this, [this, n = name, k = kind, half = aside] {
            level::Project p = session_.project();
            const level::LayerId id = p.next_id++;
            // A backdrop belongs behind everything, what is planted on all that the walker walks on; other layers right
            // in front of the active one.
            const level::Level& now = *session_.level();
            const level::LayerId behind = k == level::LayerKind::backdrop ? 0
                                          : k == level::LayerKind::planting && now.plane > 0
                                              ? now.layers[static_cast<std::size_t>(now.plane) - 1]->id
                                              : session_.activeLayerId();
            level::Level next = edit::add_layer(*session_.level(), id, n.toStdString(), k, behind);
            if (half != Point{}) next.edit(id).shift = half;
            p.put(std::move(next));
            session_.apply(tr("Add a layer"), std::move(p));
            session_.setActiveLayer(id);
        });
    auto* facts = menu->addMenu(tr("Facts"));
    facts->setObjectName("addFactsMenu");
    for (const level::NoteKind& kind : session_.project().note_kinds)
        if (level::may_be_fact(kind))
            connect(facts->addAction(QString::fromStdString(kind.name)), &QAction::triggered, this,
                    [this, kind] { addFacts(kind); });
    connect(facts->addAction(tr("Of a new note…")), &QAction::triggered, this, [this] {
        if (const auto kind = askNoteKind(this, session_.project(), true)) addFacts(*kind);
    });
    addStoreys(menu->addMenu(tr("Storeys")));
    menu->popup(under->mapToGlobal(QPoint(0, under->height())));
}

// What is done to the storey of the active layer as one.
void SectionPanel::addStoreys(QMenu* menu) {
    menu->setObjectName("storeysMenu");
    const level::Layer* active = session_.level()->layer(session_.activeLayerId());
    const int here = active ? active->storey : 0;
    const auto add = [&](const QString& text, const std::function<level::Level(level::Project&)>& change, int then) {
        connect(menu->addAction(text), &QAction::triggered, this, [this, text, change, then] {
            level::Project p = session_.project();
            level::Level next = change(p);
            if (next.layers == session_.level()->layers) return emit session_.said(tr("There is no such storey"), true);
            level::LayerId on = 0;
            for (const level::LayerRef& layer : next.layers)
                if (on == 0 && layer->storey == then) on = layer->id;
            p.put(std::move(next));
            session_.apply(text, std::move(p));
            if (on != 0) session_.setActiveLayer(on);
        });
    };
    const level::Level& level = *session_.level();
    add(
        tr("A storey above"),
        [level, here](level::Project& p) { return edit::with_storey_above(level, here, false, p.next_id); }, here + 1);
    add(
        tr("This storey again above"),
        [level, here](level::Project& p) { return edit::with_storey_above(level, here, true, p.next_id); }, here + 1);
    menu->addSeparator();
    add(
        tr("Move this storey up"), [level, here](level::Project&) { return edit::moved_storey(level, here, true); },
        here + 1);
    add(
        tr("Move this storey down"), [level, here](level::Project&) { return edit::moved_storey(level, here, false); },
        here - 1);
    add(
        tr("Take this storey away"), [level, here](level::Project&) { return edit::without_storey(level, here); },
        std::max(0, here - 1));
}

// A note without a number is new. What is said of cells lies over all that is seen.
void SectionPanel::addFacts(level::NoteKind kind) {
    level::Project p = session_.project();
    if (kind.id == 0) {
        p = edit::add_note_kind(std::move(p), kind);
        kind.id = p.note_kinds.back().id;
    }
    const level::LayerId id = p.next_id++;
    level::Level next = edit::add_layer(*session_.level(), id, kind.name, level::LayerKind::facts,
                                        session_.level()->layers.empty() ? 0 : session_.level()->layers.back()->id);
    next.edit(id).facts()->set_note(kind.id);
    p.put(std::move(next));
    session_.apply(tr("Add a layer"), std::move(p));
    session_.setActiveLayer(id);
}

void SectionPanel::refresh() {
    const level::Level* level = session_.isOpen() ? session_.level() : nullptr;
    if (!level || level->id != level_) {
        for (Slab* slab : slabs_) {
            slab->hide();
            slab->deleteLater();
        }
        slabs_.clear();
        level_ = level ? level->id : std::string();
    }
    if (!level) return;
    layOut(*level);
    for (Slab* s : slabs_) s->refresh();
    behind_->refresh();
    sides_->refresh();
    if (std::exchange(seen_, session_.activeLayerId()) == session_.activeLayerId()) return;
    // When all has its place: of a slab that is higher than the list, its head.
    QTimer::singleShot(0, this, [this] {
        for (Slab* s : slabs_)
            if (s->layer() == seen_) {
                scroll_->ensureVisible(0, s->geometry().bottom(), 0, 8);
                scroll_->ensureVisible(0, s->geometry().top(), 0, 8);
            }
    });
}

Slab* SectionPanel::slabOf(level::LayerId layer) {
    for (Slab* slab : slabs_)
        if (slab->layer() == layer) return slab;
    return new Slab(session_, *this, layer);
}

// A head before the slabs of a group; a click folds them away.
QToolButton* SectionPanel::headOf(const std::string& group) {
    auto& head = heads_[group];
    const QString name = QString::fromStdString(group);
    if (!head) {
        head = toolButton(list_, QString("group-%1").arg(name), {}, {}, {}, "link");
        head->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(head, &QToolButton::clicked, this, [this, group] { fold(group, !folded(group)); });
    }
    head->setText((folded(group) ? tr("▸ %1") : tr("▾ %1")).arg(name));
    return head;
}

// Slabs live as long as their layer: they are put in another order, not made anew.
void SectionPanel::layOut(const level::Level& level) {
    const auto order = edit::section_order(level);
    std::vector<QWidget*> rows;
    std::vector<Slab*> slabs;
    std::vector<bool> away;
    std::string group;
    for (int i = static_cast<int>(order.size()) - 1; i >= 0; --i) {
        const level::Layer* l = level.layer(order[static_cast<std::size_t>(i)].layer);
        if (l && !l->group.empty() && l->group != group) {
            rows.push_back(headOf(l->group));
            away.push_back(false);
        }
        group = l ? l->group : std::string();
        Slab* slab = slabOf(l ? l->id : 0);
        slab->setIndex(i);
        slabs.push_back(slab);
        rows.push_back(slab);
        away.push_back(l && !l->group.empty() && folded(l->group) && l->id != session_.activeLayerId());
    }
    rows.push_back(behind_);
    away.push_back(false);
    rows.push_back(sides_);
    away.push_back(false);
    const auto goes = [&](QWidget* w) { return std::find(rows.begin(), rows.end(), w) == rows.end(); };
    for (Slab* slab : slabs_)
        if (goes(slab)) {
            slab->hide();
            slab->deleteLater();
        }
    slabs_ = std::move(slabs);
    for (auto& [name, head] : heads_) head->setVisible(!goes(head));
    for (int i = 0; i < static_cast<int>(rows.size()); ++i) {
        QWidget* row = rows[static_cast<std::size_t>(i)];
        if (column_->indexOf(row) != i) {
            column_->removeWidget(row);
            column_->insertWidget(i, row);
        }
        row->setVisible(!away[static_cast<std::size_t>(i)]);
    }
}

level::LayerId SectionPanel::layerAt(QPoint globalPos) const {
    for (const Slab* s : slabs_)
        if (s->isVisible() && s->rect().contains(s->mapFromGlobal(globalPos))) return s->layer();
    return 0;
}

void SectionPanel::lightSlab(level::LayerId layer) {
    for (Slab* s : slabs_) s->setLit(layer != 0 && s->layer() == layer);
}

void SectionPanel::fold(const std::string& group, bool on) {
    if (on)
        folded_.insert(group);
    else
        folded_.erase(group);
    refresh();
}

int SectionPanel::dropIndex(QPoint globalPos) const {
    const int y = list_->mapFromGlobal(globalPos).y();
    int best = slabs_.empty() ? 0 : slabs_.front()->index();
    for (const Slab* s : slabs_)
        if (y > s->geometry().top()) best = s->index();
    return best;
}

void SectionPanel::showDrop(int index) {
    for (const Slab* s : slabs_) {
        if (s->index() != index) continue;
        QPalette palette = marker_->palette();
        palette.setColor(QPalette::Window, tokensOf(this).brine);
        marker_->setPalette(palette);
        marker_->setGeometry(10, s->geometry().top(), list_->width() - 20, 3);
        marker_->raise();
        marker_->show();
        return;
    }
    marker_->hide();
}

void SectionPanel::dropped(int from, int to) {
    const int last = static_cast<int>(slabs_.size()) - 1;
    to = std::clamp(to, 0, std::max(0, last));
    if (from == to || !session_.level()) return;
    session_.applyLevel(tr("Reorder the Section"), edit::move_entry(*session_.level(), from, to));
}

void SectionPanel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), tokensOf(this).panel);
}

} // namespace vic::app
