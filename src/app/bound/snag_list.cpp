#include "app/bound/snag_list.hpp"

#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

#include "app/parts/card_list.hpp"
#include "app/parts/finding_sign.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "edit/open_floor.hpp"

namespace vic::app {

namespace {

constexpr int kSnagCard = 58, kSnagsHigh = 132; // pixels of one, and of the list

QString titleOf(const upright::Snag& snag) {
    using Kind = upright::Snag::Kind;
    switch (snag.kind) {
        case Kind::shut_in:
            return SnagList::tr("No room at the start");
        case Kind::mark:
            return SnagList::tr("A mark out of reach");
        case Kind::stair:
            return SnagList::tr("A stair without an opening");
        case Kind::low:
            return SnagList::tr("Too low");
        case Kind::narrow:
            return SnagList::tr("Too narrow");
        case Kind::high:
            return SnagList::tr("Too high a step");
        case Kind::steep:
            return SnagList::tr("Too steep");
        case Kind::no_return:
            return SnagList::tr("No way back");
        case Kind::hole:
            return SnagList::tr("A hole in the floor");
    }
    return {};
}

} // namespace

SnagList::SnagList(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    addHeading(column, tr("Walking in height"), &count_);
    none_ = label({}, "quiet", this);
    none_->setObjectName("snagsNone");
    none_->setWordWrap(true);
    column->addWidget(none_);
    list_ = new CardList(this);
    list_->setObjectName("snagList");
    list_->setAccessibleName(tr("What holds the walker up"));
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    column->addWidget(list_);
    remedy_ = label({}, "quiet", this);
    remedy_->setObjectName("snagRemedy");
    remedy_->setWordWrap(true);
    column->addWidget(remedy_);
    open_ = toolButton(this, "snagOpen", {}, tr("Open the floor"), {}, "card");
    describe(open_, tr("Open the floor"), {}, tr("Takes away the pieces of the floor above that are in the way"));
    column->addWidget(open_);
    connect(list_, &CardList::chosen, this, &SnagList::choose);
    connect(open_, &QToolButton::clicked, this, &SnagList::open);
    connect(&session_.mass(), &MergedMass::changed, this, &SnagList::refresh);
    connect(&session_.bodies(), &KitBodies::changed, this, &SnagList::refresh);
}

void SnagList::refresh() {
    const auto kits = session_.bodies().all();
    // Levels without a piece are not looked at in height.
    const bool any = session_.stage() == Stage::bound && session_.level() &&
                     !scene::placed_in(session_.project(), *session_.level(), kits, level::kMostStorey).empty();
    const auto mass = any ? session_.mass().surveyed(kits) : nullptr;
    setVisible(mass && mass->of->pieces > 0);
    if (mass == mass_) return;
    const upright::Snag* const had = chosen();
    const auto before = had ? std::optional(*had) : std::nullopt;
    mass_ = mass;
    chosen_ = -1;
    if (mass_ && before)
        for (std::size_t i = 0; i < mass_->snags.size(); ++i)
            if (mass_->snags[i] == *before) chosen_ = static_cast<int>(i);
    show();
}

void SnagList::show() {
    std::vector<Card> cards;
    const Tokens t = tokensOf(this);
    const std::size_t count = mass_ ? mass_->snags.size() : 0;
    for (std::size_t i = 0; i < count; ++i) {
        const upright::Snag& snag = mass_->snags[i];
        Card card;
        card.id = static_cast<quint32>(i + 1);
        card.picture = findingSign(findings::Severity::warning, t);
        card.title = titleOf(snag);
        card.under = tr("storey %1, cell %2, %3").arg(snag.storey).arg(snag.cell.x).arg(snag.cell.y);
        cards.push_back(std::move(card));
    }
    list_->setCards(cards, static_cast<quint32>(chosen_ + 1));
    list_->setFixedHeight(std::min(kSnagsHigh, kSnagCard * static_cast<int>(std::max<std::size_t>(1, count))));
    list_->setVisible(count > 0);
    none_->setVisible(count == 0);
    const bool start = session_.level() && session_.level()->first_mark(level::MarkKind::start);
    none_->setText(start ? tr("From the start the walker gets to all marks, and nothing is in his way.")
                         : tr("Place a start mark in Dress, and it is shown what the walker gets to."));
    count_->setText(count == 0 ? QString() : QString::number(count));
    choose(static_cast<quint32>(chosen_ + 1));
}

const upright::Snag* SnagList::chosen() const {
    return mass_ && chosen_ >= 0 && static_cast<std::size_t>(chosen_) < mass_->snags.size()
               ? &mass_->snags[static_cast<std::size_t>(chosen_)]
               : nullptr;
}

// Shown on its storey, where one can mend it.
void SnagList::choose(quint32 index) {
    const bool asked = sender() == list_;
    chosen_ = static_cast<int>(index) - 1;
    const upright::Snag* const snag = chosen();
    remedy_->setVisible(snag != nullptr);
    open_->setVisible(snag && !snag->opening.empty());
    if (!snag) return;
    remedy_->setText(translated(snag->what) + ". " + translated(snag->remedy) + ".");
    if (!asked || !session_.level()) return;
    for (const level::LayerRef& layer : session_.level()->layers)
        if (layer->storey == snag->storey && layer->tiles()) {
            session_.setActiveLayer(layer->id);
            break;
        }
    view_.lookAt(snag->cell);
}

void SnagList::open() {
    const upright::Snag* const snag = chosen();
    if (!snag || !session_.level()) return;
    session_.applyLevel(tr("Open the floor over a stair"),
                        edit::with_floor_open(session_.project(), *session_.level(), snag->storey + 1, snag->opening));
}

} // namespace vic::app
