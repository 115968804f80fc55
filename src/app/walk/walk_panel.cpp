#include "app/walk/walk_panel.hpp"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPen>
#include <QPixmap>
#include <QPolygonF>
#include <QPushButton>
#include <QSpinBox>
#include <QString>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <cmath>
#include <utility>
#include <vector>

#include "app/parts/card_list.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/walk/walk_settings.hpp"
#include "level/level.hpp"
#include "player/parcel_view.hpp"
#include "walk/world.hpp"

namespace vic::app {

namespace {

constexpr int kPins = 162, kPin = 58, kProof = 58; // pixels: the list of what came to pass, and cards

// What it was, at a glance: a wall, a ring that was passed, ground, a flag, a drop, a fall.
QPixmap pinSign(edit::Pin::Kind kind, const Tokens& t) {
    QPixmap pixmap(48, 48);
    pixmap.setDevicePixelRatio(2);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.setRenderHint(QPainter::Antialiasing);
    const auto pen = [&](const QColor& colour) { p.setPen(QPen(colour, 2, Qt::SolidLine, Qt::RoundCap)); };
    switch (kind) {
        case edit::Pin::Kind::bump:
            pen(t.vermilion);
            p.drawLine(17, 4, 17, 20);
            p.drawLine(4, 12, 13, 12);
            p.drawLine(9, 8, 13, 12);
            p.drawLine(9, 16, 13, 12);
            break;
        case edit::Pin::Kind::passed:
            pen(t.ochre);
            p.drawEllipse(QPointF(12, 12), 4, 7);
            p.drawLine(3, 12, 21, 12);
            break;
        case edit::Pin::Kind::landed:
            pen(t.brine);
            p.drawLine(4, 19, 20, 19);
            p.drawLine(12, 5, 12, 15);
            p.drawLine(8, 11, 12, 15);
            p.drawLine(16, 11, 12, 15);
            break;
        case edit::Pin::Kind::touched:
            pen(t.brine);
            p.drawLine(7, 4, 7, 20);
            p.drawPolyline(QPolygonF{QPointF(7, 5), QPointF(18, 8.5), QPointF(7, 12)});
            break;
        case edit::Pin::Kind::told:
            pen(t.brine);
            p.drawEllipse(QPointF(12, 12), 7, 7);
            p.drawEllipse(QPointF(12, 12), 2, 2);
            break;
        case edit::Pin::Kind::fell:
            pen(t.vermilion);
            p.drawLine(4, 5, 9, 5);
            p.drawLine(15, 5, 20, 5);
            p.drawLine(12, 5, 12, 19);
            p.drawLine(8, 15, 12, 19);
            p.drawLine(16, 15, 12, 19);
            break;
    }
    return pixmap;
}

} // namespace

WalkPanel::WalkPanel(Session& session, WalkCentre& centre, QWidget* parent)
    : QWidget(parent), session_(session), centre_(centre) {
    setObjectName("walkPanel");
    auto* column = panelColumn(this);
    QLabel* aside = nullptr;
    addHeading(column, tr("Walker"), &aside);
    aside->setText(tr("of this level"));
    buildWalker(column);
    auto* more = toolButton(this, "walkerMore", {}, tr("More of how he moves"), {}, "link");
    more->setCheckable(true);
    describe(more, tr("More of how he moves"), {}, tr("Running, jumps, ladders, water, the frame's slack"));
    column->addWidget(more);
    settings_ = new WalkSettings(
        session_, [this](const std::function<void(level::Level&)>& what) { change(what); }, this);
    settings_->hide();
    connect(more, &QToolButton::toggled, settings_, &QWidget::setVisible);
    column->addWidget(settings_);
    addHeading(column, tr("Frame"));
    buildFrame(column);
    column->addWidget(rule(this));
    addHeading(column, tr("This try"));
    place_ = label({}, "quiet", this);
    place_->setObjectName("walkerPlace");
    touched_ = label({}, "quiet", this);
    touched_->setObjectName("touchedMarks");
    touched_->setWordWrap(true);
    for (auto* l : {place_, touched_}) column->addWidget(l);
    auto* again = new QPushButton(tr("Start again"), this);
    again->setObjectName("walkAgain");
    describe(again, tr("Start again"), "R", tr("Puts the walker back to the start"));
    connect(again, &QPushButton::clicked, this, [this] {
        centre_.view()->restart();
        centre_.view()->setFocus();
    });
    column->addWidget(again);
    buildWhy(column);
    buildProofs(column);
    column->addStretch();
    connect(centre_.view(), &player::ParcelView::ticked, this, &WalkPanel::tick);
}

void WalkPanel::buildWalker(QVBoxLayout* column) {
    using level::View;
    auto* view = new QComboBox(this);
    view->setObjectName("levelViewKind");
    addField(column, tr("Seen"), view);
    fields_.bindChoice(
        view,
        [] {
            return std::vector<Bindings::Choice>{{tr("from above"), static_cast<int>(View::from_above)},
                                                 {tr("from the side"), static_cast<int>(View::from_the_side)}};
        },
        [this] { return QVariant(static_cast<int>(session_.level()->view)); },
        [this](const QVariant& v) { change([&](level::Level& l) { l.view = static_cast<View>(v.toInt()); }); });
    const auto number = [&](const char* id, const QString& name, double least, double most, const QString& unit) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(id);
        box->setRange(least, most);
        box->setDecimals(2);
        box->setSingleStep(0.1);
        box->setSuffix(unit);
        addField(column, name, box);
        return box;
    };
    // In 1/64 cells in the level.
    const auto side = [&](const char* id, const QString& name, int level::Walker::*field) {
        fields_.bindNumber(
            number(id, name, 0.1, 16, tr(" cells")), [this, field] { return session_.level()->walker.*field / 64.0; },
            [this, field](double v) {
                change([&](level::Level& l) { l.walker.*field = static_cast<int>(std::lround(v * 64)); });
            });
    };
    const auto pace = [&](QDoubleSpinBox* box, double level::Walker::*field) {
        fields_.bindNumber(
            box, [this, field] { return session_.level()->walker.*field; },
            [this, field](double v) { change([&](level::Level& l) { l.walker.*field = v; }); });
    };
    side("walkerWidth", tr("Width"), &level::Walker::width);
    side("walkerHeight", tr("Height"), &level::Walker::height);
    pace(number("walkerSpeed", tr("Speed"), 0.5, 40, tr(" cells/s")), &level::Walker::speed);
    auto* jump = number("walkerJump", tr("Jump"), 0, 20, tr(" cells"));
    pace(jump, &level::Walker::jump);
    fields_.bindEnabled(jump, [this] { return session_.level()->view == View::from_the_side; });
}

void WalkPanel::buildFrame(QVBoxLayout* column) {
    const auto pixels = [&](const char* id, const QString& name, int Size::*field) {
        auto* box = new QSpinBox(this);
        box->setObjectName(id);
        box->setRange(16, level::kMostFrame);
        box->setSuffix(tr(" px"));
        addField(column, name, box);
        fields_.bindInt(
            box, [this, field] { return session_.level()->frame.*field; },
            [this, field](int v) { change([&](level::Level& l) { l.frame.*field = v; }); });
    };
    pixels("frameWidth", tr("Width"), &Size::w);
    pixels("frameHeight", tr("Height"), &Size::h);
}

// What came to pass, each with its place and reason.
void WalkPanel::buildWhy(QVBoxLayout* column) {
    addHeading(column, tr("Why?"), &whyCount_);
    pins_ = new CardList(this);
    pins_->setObjectName("tryPins");
    pins_->setAccessibleName(tr("What came to pass in the try"));
    pins_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    pins_->setFixedHeight(kPins);
    column->addWidget(pins_);
    why_ = label({}, "quiet", this);
    why_->setObjectName("tryWhy");
    why_->setWordWrap(true);
    column->addWidget(why_);
    connect(pins_, &CardList::chosen, this, &WalkPanel::showPin);
}

void WalkPanel::showPin(quint32 number) {
    if (number == 0 || number > shown_.size()) return;
    chosenPin_ = number;
    const edit::Pin& pin = shown_[number - 1];
    why_->setText(translated(pin.says));
    if (sender() != pins_) return;
    centre_.view()->lookAt(pin.at);
    centre_.view()->setFocus();
}

void WalkPanel::refreshPins() {
    std::vector<edit::Pin> now = centre_.pins();
    const auto same = [](const edit::Pin& a, const edit::Pin& b) { return a.tick == b.tick && a.kind == b.kind; };
    if (now.size() == shown_.size() && std::equal(now.begin(), now.end(), shown_.begin(), same)) return;
    shown_ = std::move(now);
    std::vector<Card> cards;
    const Tokens tokens = tokensOf(this);
    for (std::size_t i = shown_.size(); i-- > 0;) { // the last first
        Card card;
        card.id = static_cast<quint32>(i + 1);
        card.picture = pinSign(shown_[i].kind, tokens);
        card.title = translated(shown_[i].title);
        card.under = tr("after %1 s").arg(shown_[i].tick / double(walk::kTicks), 0, 'f', 1);
        cards.push_back(std::move(card));
    }
    // They come one behind the other: the chosen one stays, unless another try has begun.
    if (chosenPin_ > shown_.size()) chosenPin_ = 0;
    pins_->setCards(cards, chosenPin_);
    pins_->setFixedHeight(std::min(kPins, kPin * static_cast<int>(std::max<std::size_t>(1, cards.size()))));
    pins_->setVisible(!cards.empty());
    whyCount_->setText(cards.empty() ? tr("nothing yet") : QString::number(cards.size()));
    why_->setText(cards.empty()     ? tr("What stops him, what he passes through, and what he touches is listed here.")
                  : chosenPin_ != 0 ? translated(shown_[chosenPin_ - 1].says)
                                    : tr("Choose one: it is shown where it was, and why."));
}

void WalkPanel::buildProofs(QVBoxLayout* column) {
    addHeading(column, tr("Proofs of passage"), &proofCount_);
    proofs_ = new CardList(this);
    proofs_->setObjectName("proofList");
    proofs_->setAccessibleName(tr("Tries that were kept"));
    proofs_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    column->addWidget(proofs_);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    auto* keep = toolButton(this, "proofKeep", {}, tr("Keep this try"), {}, "card");
    describe(keep, tr("Keep this try"), {},
             tr("What was done so far is played again by every check: it fails when it no longer leads there"));
    connect(keep, &QToolButton::clicked, this, [this] {
        centre_.keepTry();
        centre_.view()->setFocus();
    });
    forget_ = toolButton(this, "proofForget", {}, tr("Forget"), {}, "card");
    describe(forget_, tr("Forget the chosen proof"), {}, {});
    connect(forget_, &QToolButton::clicked, this, [this] {
        if (chosenProof_ != 0) centre_.forgetProof(chosenProof_);
    });
    connect(proofs_, &CardList::chosen, this, [this](quint32 id) {
        chosenProof_ = id;
        forget_->setEnabled(id != 0);
    });
    for (auto* b : {keep, forget_}) {
        b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        row->addWidget(b);
    }
    column->addLayout(row);
}

void WalkPanel::refreshProofs() {
    const auto& all = session_.level()->proofs;
    const std::vector<bool>& held = centre_.held();
    std::vector<Card> cards;
    std::size_t broken = 0;
    for (std::size_t i = 0; i < all.size(); ++i) {
        int ticks = 0;
        for (const level::Held& h : all[i].held) ticks += h.ticks;
        Card card;
        card.id = all[i].id;
        card.title = QString::fromStdString(all[i].name);
        card.under = tr("%1 s").arg(ticks / double(walk::kTicks), 0, 'f', 1);
        const bool known = i < held.size();
        if (known) card.state = held[i] ? tr("holds") : tr("no longer holds");
        card.looks = known && !held[i];
        broken += known && !held[i];
        cards.push_back(std::move(card));
    }
    const bool any =
        std::any_of(all.begin(), all.end(), [this](const level::Proof& p) { return p.id == chosenProof_; });
    if (!any) chosenProof_ = 0;
    proofs_->setCards(cards, chosenProof_);
    proofs_->setFixedHeight(std::clamp(static_cast<int>(cards.size()), 1, 2) * kProof);
    proofs_->setVisible(!cards.empty());
    forget_->setVisible(!cards.empty());
    forget_->setEnabled(chosenProof_ != 0);
    proofCount_->setText(cards.empty() ? tr("none")
                         : broken == 0 ? QString::number(cards.size())
                                       : tr("%1, %2 fail").arg(cards.size()).arg(broken));
}

void WalkPanel::change(const std::function<void(level::Level&)>& what) {
    if (!session_.isOpen() || !session_.level()) return;
    level::Level next = *session_.level();
    what(next);
    session_.applyLevel(tr("The walker and its frame"), std::move(next), "walker");
}

void WalkPanel::refresh() {
    if (!session_.isOpen() || !session_.level()) return;
    fields_.refresh();
    settings_->refresh();
    refreshProofs();
    refreshPins();
}

void WalkPanel::tick() {
    const auto* view = centre_.view();
    if (!view->isLoaded() || !isVisible()) return;
    const auto foot = view->world().foot();
    const QString state = view->level().from_the_side ? (view->world().climbing()   ? tr("on a ladder")
                                                         : view->world().swimming() ? tr("in the water")
                                                         : view->world().grounded() ? tr("on the ground")
                                                                                    : tr("in the air"))
                                                      : tr("%1 s").arg(view->world().ticks() / walk::kTicks);
    place_->setText(tr("foot at %1, %2 · %3").arg(foot.x, 0, 'f', 2).arg(foot.y, 0, 'f', 2).arg(state));
    QStringList names;
    for (const auto id : view->world().touched())
        for (const auto& m : view->level().marks)
            if (m.id == id) names << QString::fromStdString(m.name);
    refreshPins();
    touched_->setText(names.isEmpty() ? tr("no mark touched") : tr("touched: %1").arg(names.join(", ")));
}

} // namespace vic::app
