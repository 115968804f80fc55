#include "app/section/section_panel.hpp"

#include <QAction>
#include <QColor>
#include <QFrame>
#include <QHBoxLayout>
#include <QMenu>
#include <QPaintEvent>
#include <QPainter>
#include <QPalette>
#include <QScrollArea>
#include <QSignalBlocker>
#include <QSizePolicy>
#include <QSlider>
#include <QString>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>
#include <cstdint>
#include <initializer_list>
#include <tuple>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/section/slab.hpp"
#include "app/session/session.hpp"
#include "base/image.hpp"
#include "edit/levels.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

// What a drawer shows of a planting as controls; numbers under the mouse live on.
std::string planting_signature(const level::Layer& layer) {
    std::string out = "/";
    for (const auto& k : layer.planting.kinds) out += std::to_string(k.kind) + ",";
    return out + std::to_string(layer.planting.on) + "," + std::to_string(layer.planting.material);
}

} // namespace

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
    connect(add, &QToolButton::clicked, this, [this, add] {
        if (!session_.level()) return;
        auto* menu = new QMenu(this);
        menu->setObjectName("addLayerMenu");
        menu->setAttribute(Qt::WA_DeleteOnClose);
        const std::initializer_list<std::tuple<QString, QString, level::LayerKind>> kinds{
            {tr("Tiles"), tr("Tiles"), level::LayerKind::tiles},
            {tr("Props"), tr("Props"), level::LayerKind::props},
            {tr("Planting"), tr("Planting"), level::LayerKind::planting},
            {tr("Backdrop"), tr("Backdrop"), level::LayerKind::backdrop},
            {tr("Blockers"), tr("Blockers"), level::LayerKind::blockers}};
        for (const auto& [text, name, kind] : kinds)
            connect(menu->addAction(text), &QAction::triggered, this, [this, n = name, k = kind] {
                level::Project p = session_.project();
                const level::LayerId id = p.next_id++;
                // A backdrop belongs behind everything; other layers right in front of the active one.
                const level::LayerId behind = k == level::LayerKind::backdrop ? 0 : session_.activeLayerId();
                p.put(edit::add_layer(*session_.level(), id, n.toStdString(), k, behind));
                session_.apply(tr("Add a layer"), std::move(p));
                session_.setActiveLayer(id);
            });
        menu->popup(add->mapToGlobal(QPoint(0, add->height())));
    });
    head->addWidget(add);
    head->addWidget(label(tr("front ↑"), "aside"));
    outer->addLayout(head);
    auto* scroll = new QScrollArea(this);
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
    marker_ = new QWidget(list_);
    marker_->setAutoFillBackground(true);
    marker_->hide();
    connect(&session_, &Session::changed, this, &SectionPanel::refresh);
}

void SectionPanel::refresh() {
    if (!session_.isOpen()) return;
    // Rebuilt only when something it shows as a control is different; a slider under the mouse must live on.
    std::string signature;
    if (const level::Level* level = session_.level()) {
        signature = (tokensOf(this).dark ? "dark/" : "light/") + level->id + "/" +
                    std::to_string(session_.activeLayerId()) + "/" + std::to_string(level->plane);
        for (const level::LayerRef& l : level->layers) {
            signature += "|" + std::to_string(l->id) + l->group + (session_.isAlone(l->id) ? "a" : "");
            if (l->id == session_.activeLayerId())
                signature += l->name + (l->shown ? "s" : "h") + (l->locked ? "l" : "o") + (l->solid ? "b" : "p") +
                             std::to_string(l->backdrop.sheet) + std::to_string(l->overlay_of) +
                             std::to_string(static_cast<int>(l->kind)) + std::to_string(l->subdivision) +
                             std::to_string(level->cell.w) + planting_signature(*l);
        }
        if (const auto* a = session_.activeLayer(); a && a->kind == level::LayerKind::backdrop)
            signature += std::to_string(session_.project().sheets.size());
    }
    if (signature != signature_) {
        signature_ = signature;
        rebuild();
    } else if (auto* slider = list_->findChild<QSlider*>("layerOpacity"); slider && session_.activeLayer()) {
        const QSignalBlocker quiet(slider);
        slider->setValue(session_.activeLayer()->opacity);
    }
    for (Slab* s : slabs_) s->update();
}

void SectionPanel::rebuild() {
    for (Slab* s : slabs_) {
        s->hide();
        s->deleteLater();
    }
    slabs_.clear();
    for (QToolButton* h : heads_) {
        h->setObjectName({});
        h->hide();
        h->deleteLater();
    }
    heads_.clear();
    while (column_->count() > 0) delete column_->takeAt(0);
    if (const level::Level* level = session_.level()) {
        const auto order = edit::section_order(*level);
        std::string group;
        for (int i = static_cast<int>(order.size()) - 1; i >= 0; --i) {
            const level::Layer* l = level->layer(order[static_cast<std::size_t>(i)].layer);
            // A head before the slabs of a group; a click folds them away.
            if (l && !l->group.empty() && l->group != group) {
                auto* head = toolButton(
                    list_, QString("group-%1").arg(QString::fromStdString(l->group)), {},
                    (folded(l->group) ? tr("▸ %1") : tr("▾ %1")).arg(QString::fromStdString(l->group)), {}, "link");
                head->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
                connect(head, &QToolButton::clicked, this,
                        [this, g = l->group] { QTimer::singleShot(0, this, [this, g] { fold(g, !folded(g)); }); });
                column_->addWidget(head);
                heads_.push_back(head);
                head->show();
            }
            group = l ? l->group : std::string();
            const bool away = l && !l->group.empty() && folded(l->group) && l->id != session_.activeLayerId();
            auto* slab = new Slab(session_, *this, order[static_cast<std::size_t>(i)].layer, i);
            column_->addWidget(slab);
            slabs_.push_back(slab);
            slab->setVisible(!away);
        }
    }
    column_->addStretch();
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
    signature_.clear();
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
    QTimer::singleShot(0, &session_, [this, from, to] {
        session_.applyLevel(tr("Reorder the Section"), edit::move_entry(*session_.level(), from, to));
    });
}

void SectionPanel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), tokensOf(this).panel);
}

} // namespace vic::app
