#include "app/dress/kept_list.hpp"

#include <QHBoxLayout>
#include <QHideEvent>
#include <QLabel>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QRectF>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cstddef>

#include "app/parts/card_list.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/planter.hpp"
#include "app/session/session.hpp"
#include "edit/plant.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::app {

namespace {
constexpr std::size_t kMostListed = 500;
constexpr int kListHeight = 168;

// Where something was: a ring with nothing in it.
QPixmap takenSign(const Tokens& t) {
    QPixmap out(40, 40);
    out.fill(Qt::transparent);
    QPainter p(&out);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(t.quiet, 1.5, Qt::DashLine));
    p.drawEllipse(QRectF(8.5, 8.5, 23, 23));
    return out;
}

} // namespace

KeptList::KeptList(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(0, 0, 8, 0);
    says_ = label({}, "quiet", this);
    says_->setObjectName("plantingHand");
    says_->setWordWrap(true);
    head->addWidget(says_, 1);
    more_ = toolButton(this, "plantingKept", {}, tr("list"), {}, "link");
    more_->setCheckable(true);
    describe(more_, tr("What was done by hand"), {}, tr("One after the other; a click shows it in the level"));
    head->addWidget(more_);
    forget_ = toolButton(this, "plantingForget", {}, tr("forget"), {}, "link");
    connect(forget_, &QToolButton::clicked, this, &KeptList::forget);
    head->addWidget(forget_);
    column->addLayout(head);
    list_ = new CardList(this);
    list_->setObjectName("keptList");
    list_->setAccessibleName(tr("What was done by hand"));
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setFixedHeight(kListHeight);
    list_->hide();
    column->addWidget(list_);
    connect(list_, &CardList::chosen, this, &KeptList::choose);
    connect(more_, &QToolButton::toggled, this, [this](bool on) {
        chosen_ = 0;
        emit placeLeft();
        more_->setText(on ? tr("fold") : tr("list"));
        show(layer_);
        list_->setVisible(on);
    });
}

void KeptList::show(level::LayerId layer) {
    if (layer != layer_) chosen_ = 0;
    layer_ = layer;
    const level::Layer* of = session_.level() ? session_.level()->layer(layer) : nullptr;
    if (!of || !of->planted()) return hide();
    const auto& taken = session_.planter().recipe(layer).taken;
    int kept = 0;
    for (const level::Prop& p : of->props()) kept += p.pass == 0;
    setVisible(kept > 0 || !taken.empty());
    if (isHidden()) return;
    says_->setText(tr("%1 kept by hand, %2 taken away: they stay when it grows again").arg(kept).arg(taken.size()));
    rows_.clear();
    std::vector<Card> cards;
    if (more_->isChecked()) {
        const auto place = [&](Point pixel) {
            const Point cell = session_.level()->geometry().cell_at(pixel);
            return tr("at cell %1, %2").arg(cell.x).arg(cell.y);
        };
        const auto add = [&](Row row, Card card) {
            if (rows_.size() == kMostListed) return;
            rows_.push_back(row);
            card.id = static_cast<quint32>(rows_.size());
            cards.push_back(std::move(card));
        };
        for (const level::Prop& p : of->props().all()) {
            if (p.pass != 0) continue;
            const level::PropKind* kind = session_.project().prop_kind(p.kind);
            add({p.id, {}}, {0, kind ? propThumb(session_.project(), *kind, 40, p.look) : QPixmap(),
                             kind ? QString::fromStdString(kind->name) : tr("a prop that is gone"), place(p.at),
                             tr("kept as it is")});
        }
        for (const level::TakenAway& t : taken)
            add({0, t}, {0, takenSign(tokensOf(this)), tr("Taken away"), place(t.at), tr("nothing grows there again")});
    }
    if (chosen_ > rows_.size()) chosen_ = 0;
    list_->setCards(cards, chosen_);
    const bool one = chosen_ != 0;
    forget_->setText(one ? tr("forget it") : tr("forget"));
    describe(forget_, one ? tr("Forget the chosen one") : tr("Forget what was done by hand"), {},
             one ? tr("It grows there as the recipe says") : tr("All of it grows as the recipe says"));
}

void KeptList::hideEvent(QHideEvent* event) {
    emit placeLeft();
    QWidget::hideEvent(event);
}

void KeptList::choose(quint32 row) {
    chosen_ = row;
    if (row == 0 || row > rows_.size()) return;
    const Row& of = rows_[row - 1];
    const level::Prop* prop = session_.level()->layer(layer_)->props().find(of.prop);
    const Point at = prop ? prop->at : of.taken.at;
    const Box around = prop ? level::PropKinds(session_.project()).box(*prop) : Box{at.x, at.y, 1, 1};
    emit placeAsked(session_.level()->geometry().cell_at(at), session_.level()->geometry().cells_in(around));
    show(layer_);
}

void KeptList::forget() {
    level::Level next = *session_.level();
    if (chosen_ != 0 && chosen_ <= rows_.size()) {
        const Row row = rows_[chosen_ - 1];
        next = row.prop != 0 ? edit::forget_kept(next, layer_, row.prop) : edit::forget_taken(next, layer_, row.taken);
    } else {
        next = edit::forget_by_hand(next, layer_);
    }
    chosen_ = 0;
    emit placeLeft();
    level::Project p = session_.project();
    p.put(std::move(next));
    session_.applyGrown(tr("Forget what was done by hand"), std::move(p), "forget");
    session_.planter().again(layer_, tr("Forget what was done by hand"));
}

} // namespace vic::app
