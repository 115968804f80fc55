#include "app/lay/why_card.hpp"

#include <QHBoxLayout>
#include <QHideEvent>
#include <QLabel>
#include <QPixmap>
#include <QPoint>
#include <QPushButton>
#include <QScreen>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <memory>
#include <string>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/text.hpp"
#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "edit/tiles.hpp"
#include "join/mask.hpp"
#include "level/material.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kWidth = 300;
constexpr int kPicture = 48;
constexpr int kThumb = 32;
constexpr int kMargin = 14;
constexpr int kBeside = 10; // between the picture and what is said of it

} // namespace

WhyCard::WhyCard(Session& session, LevelView& view) : QFrame(&view, Qt::Popup), session_(session), view_(view) {
    setObjectName("whyCard");
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(1, 1, 1, 1);
}

void WhyCard::look() {
    const auto cell = view_.pointedCell();
    if (!session_.level() || !cell || view_.stroking()) return;
    const level::Level work = session_.work();
    // The active layer, if something painted lies there, else the frontmost that has it.
    std::shared_ptr<const level::Layer> found;
    for (const level::LayerRef& slab : work.layers)
        if (slab->tiles() && slab->shown && slab->grid().material(*cell) != 0 &&
            (!found || found->id != session_.activeLayerId()))
            found = slab;
    if (!found) return emit session_.said(tr("There is nothing painted here"), false);
    session_.jobs().start<std::optional<edit::Why>>(
        "why", tr("Looking at the cell"),
        [state = session_.document().state(), found, at = *cell](Jobs::Progress&) {
            return edit::why(*state, join::Rules(*state), *found, at);
        },
        [this, id = found->id, at = *cell, state = session_.document().state()](std::optional<edit::Why>& why) {
            if (why && session_.document().state() == state) open(id, at, *why);
        },
        session_.complain());
}

void WhyCard::open(level::LayerId layer, Point cell, const edit::Why& why) {
    const level::Level work = session_.work();
    const level::Layer* on = work.layer(layer);
    const level::Material* m = session_.project().material(why.material);
    if (!on || !m) return;
    layer_ = layer;
    cell_ = cell;
    why_ = why;
    delete body_; // with all that it held
    body_ = new QWidget(this);
    layout()->addWidget(body_);
    auto* column = new QVBoxLayout(body_);
    column->setContentsMargins(kMargin, 12, kMargin, 12);
    column->setSpacing(6);
    addHead(column, *on, why);
    if (const QString text = verdict(why); !text.isEmpty()) {
        auto* said = label(text, why.suspect == edit::Why::Suspect::nothing ? "quiet" : "warning", body_);
        said->setObjectName("whyVerdict");
        said->setWordWrap(true);
        column->addWidget(said);
    }
    if (!why.others.empty()) {
        column->addWidget(label(tr("What else would fit here"), "heading", body_));
        for (std::size_t i = 0; i < why.others.size(); ++i) addOther(column, static_cast<int>(i), why.others[i]);
        const auto like =
            edit::cells_of(session_.derived().rules(), *on, view_.seenCells(), why.material, m->joins.kind, why.mask);
        view_.setMarked(like);
        auto* changes = label(
            translated(say_count(edit::cells_of_case(session_.project(), session_.level(), why.material, why.mask),
                                 "Mending the rule changes one cell of this level: it is outlined",
                                 "Mending the rule changes %n cells of this level: those in view are outlined")),
            "quiet", body_);
        changes->setObjectName("whyChanges");
        changes->setWordWrap(true);
        column->addWidget(changes);
    }
    // How high it is follows from fonts that the style sheet gives first.
    for (QWidget* w : body_->findChildren<QWidget*>()) w->ensurePolished();
    if (auto* title = body_->findChild<QLabel*>("whyTitle"))
        title->setMinimumHeight(title->heightForWidth(kWidth - 2 - 2 * kMargin - kPicture - kBeside));
    column->activate();
    setFixedSize(kWidth, column->totalHeightForWidth(kWidth - 2) + 2);
    // Beside the cell, inside the view.
    const QRect room(view_.mapToGlobal(QPoint()), view_.size());
    QPoint at = view_.mapToGlobal(view_.cellCentre(cell)) + QPoint(28, -20);
    if (at.x() + width() > room.right()) at.setX(at.x() - width() - 56);
    at.setX(std::clamp(at.x(), room.left(), std::max(room.left(), room.right() - width())));
    at.setY(std::clamp(at.y(), room.top(), std::max(room.top(), room.bottom() - height())));
    move(at);
    show();
}

void WhyCard::addHead(QVBoxLayout* column, const level::Layer& layer, const edit::Why& why) {
    const level::Material& m = *session_.project().material(why.material);
    auto* row = new QHBoxLayout;
    row->setSpacing(kBeside);
    auto* picture = new QLabel(body_);
    picture->setFixedSize(kPicture, kPicture);
    picture->setPixmap(tileThumb(session_.project(), why.cell.tile(), kPicture, why.cell.turn()));
    row->addWidget(picture, 0, Qt::AlignTop);
    auto* text = new QVBoxLayout;
    text->setSpacing(1);
    auto* title = label(
        m.joins.kind == level::JoinKind::plain
            ? QString::fromStdString(m.name)
            : tr("%1: %2").arg(QString::fromStdString(m.name), translated(join::describe(why.mask, m.joins.kind))),
        "heading", body_);
    title->setObjectName("whyTitle");
    title->setWordWrap(true);
    text->addWidget(title);
    auto* under = label(reason(why), "quiet", body_);
    under->setWordWrap(true);
    text->addWidget(under);
    text->addWidget(label(tr("on %1, cell %2, %3").arg(QString::fromStdString(layer.name)).arg(cell_.x).arg(cell_.y),
                          "quiet", body_));
    row->addLayout(text, 1);
    column->addLayout(row);
}

QString WhyCard::reason(const edit::Why& why) const {
    if (why.cell.pinned()) return tr("pinned by hand: no rule chooses it");
    if (why.missing) return tr("its case has no tile: the nearest case stands in");
    if (why.variant == 0) return tr("laid before the rule was what it is now");
    if (why.of == 1) return tr("the one tile of its case");
    return tr("variant %1 of %2, by chance, steady here").arg(why.variant).arg(why.of);
}

QString WhyCard::verdict(const edit::Why& why) const {
    const auto percent = [](double v) { return std::lround(100 * v); };
    switch (why.suspect) {
        case edit::Why::Suspect::nothing:
            return tr("Nothing to suspect: its worst seam shows %1 %").arg(percent(why.seam));
        case edit::Why::Suspect::drawing:
            return tr("The drawing is to be suspected: a seam shows %1 %, and no other tile fits better")
                .arg(percent(why.seam));
        case edit::Why::Suspect::rule:
            break;
    }
    if (why.others.empty()) return tr("The rule is to be suspected, and no tile of the sheet would fit");
    return tr("The rule is to be suspected: another tile fits its neighbours by %1 %, this one by %2 %")
        .arg(percent(why.others.front().fit))
        .arg(percent(why.fit));
}

void WhyCard::addOther(QVBoxLayout* column, int n, const join::Candidate& other) {
    auto* line = new QHBoxLayout;
    line->setSpacing(6);
    auto* picture = new QLabel(body_);
    picture->setFixedSize(kThumb, kThumb);
    picture->setPixmap(tileThumb(session_.project(), other.variant.tile, kThumb, other.variant.turn));
    line->addWidget(picture);
    auto* fit = label(tr("%1 %").arg(std::lround(100 * other.fit)), "heading", body_);
    fit->setToolTip(translated(edit::tile_name(session_.project(), other.variant.tile)));
    line->addWidget(fit, 1);
    const auto button = [&](const QString& name, const QString& text, const QString& help, auto act) {
        auto* b = new QPushButton(text, body_);
        b->setObjectName(name + "-" + QString::number(n));
        b->setToolTip(help);
        connect(b, &QPushButton::clicked, this, [this, act, v = other.variant] {
            hide();
            (this->*act)(v);
        });
        line->addWidget(b);
    };
    button("mend", tr("Mend the rule"), tr("This tile serves the case from now on, wherever it occurs"),
           &WhyCard::mend);
    button("pin", tr("Pin it here"), tr("Lays this tile in this cell alone; no rule changes it any more"),
           &WhyCard::pin);
    column->addLayout(line);
}

void WhyCard::mend(const level::Variant& variant) {
    const level::Material* m = session_.project().material(why_.material);
    if (!m) return;
    const auto serve = [id = m->id, mask = why_.mask, variant](level::Project p) {
        if (!p.material(id)) return p;
        return edit::rejoin(edit::accept_tile(edit::set_case(std::move(p), id, mask, {variant}), id, variant.tile));
    };
    session_.applyJoined({tr("Tile of a case of %1").arg(QString::fromStdString(m->name)), serve, {}, {}});
    // A cell that was pinned keeps its tile: it is joined again.
    const level::Level work = session_.work();
    const level::Layer* on = work.layer(layer_);
    if (!why_.cell.pinned() || !on || on->locked) return;
    session_.applyWork(tr("Pin a tile"), edit::pin(work, layer_, cell_, variant));
}

void WhyCard::pin(const level::Variant& variant) {
    const level::Level work = session_.work();
    const level::Layer* on = work.layer(layer_);
    if (!on) return;
    if (on->locked) return emit session_.said(tr("%1 is locked").arg(QString::fromStdString(on->name)), true);
    session_.applyWork(tr("Pin a tile"), edit::pin(work, layer_, cell_, variant));
}

void WhyCard::hideEvent(QHideEvent* event) {
    view_.setMarked({});
    QFrame::hideEvent(event);
}

} // namespace vic::app
