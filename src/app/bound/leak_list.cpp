#include "app/bound/leak_list.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <exception>
#include <utility>

#include "app/parts/card_list.hpp"
#include "app/parts/finding_sign.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "edit/areas.hpp"
#include "edit/fill_in.hpp"
#include "edit/levels.hpp"
#include "edit/own_word.hpp"
#include "edit/used.hpp"
#include "findings/looks.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

const char* const kJob = "leaks";
constexpr int kCard = 58, kMost = 132; // pixels of one, and of the list: of three one sees that there are more

QString where(const findings::Leak& leak) {
    if (leak.kind != findings::Leak::Kind::rim)
        return LeakList::tr("at cell %1, %2").arg(leak.cells.x).arg(leak.cells.y);
    const bool upright = leak.side % 2 != 0;
    int cells = 0;
    for (const Box& box : leak.rims) cells += upright ? box.h : box.w;
    return LeakList::tr("%n cells, and nothing leads on", nullptr, cells);
}

std::vector<Point> cellsOf(const level::Region& region) {
    std::vector<Point> out;
    const Box box = region.bounds();
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x)
            if (region.contains({x, y})) out.push_back({x, y});
    return out;
}

bool onlyLooks(const findings::Leak& leak) { return leak.kind >= findings::Leak::Kind::unheard; }

// What is laid by hand, or of a material, that it is about.
std::vector<edit::Used> thingOf(const level::Project& project, const findings::Leak& leak) {
    if (leak.material != 0) return {{edit::UsedKind::material, leak.material}};
    const level::TileTable tiles(project);
    const level::Tile* tile = tiles.find(leak.tile).tile;
    return {{tile && tile->is_block() ? edit::UsedKind::block : edit::UsedKind::tile, leak.tile}};
}

} // namespace

LeakList::LeakList(Session& session, LevelView& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    addHeading(column, tr("To look at"), &count_);
    none_ = label({}, "quiet", this);
    none_->setObjectName("leaksNone");
    none_->setWordWrap(true);
    column->addWidget(none_);
    list_ = new CardList(this);
    list_->setObjectName("leakList");
    list_->setAccessibleName(tr("Where the level leaks"));
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    column->addWidget(list_);
    connect(list_, &CardList::chosen, this, &LeakList::choose);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    close_ = toolButton(this, "leakClose", {}, tr("Close it"), {}, "card");
    connect(close_, &QToolButton::clicked, this, &LeakList::close);
    letBe_ = toolButton(this, "leakLetBe", {}, tr("Let it be open"), {}, "card");
    connect(letBe_, &QToolButton::clicked, this, &LeakList::letBe);
    fill_ = toolButton(this, "leakFill", {}, tr("Add that cell"), {}, "card");
    describe(fill_, tr("Add the cell"), {},
             tr("Fills the hatched cell with what the ledge is made of: with it the walker gets there"));
    connect(fill_, &QToolButton::clicked, this, &LeakList::fill);
    shift_ = toolButton(this, "leakShift", {}, tr("Move it there"), {}, "card");
    describe(shift_, tr("Move the ledge"), {},
             tr("Moves what the ledge lies on, with what stands on it, to where it is dashed"));
    connect(shift_, &QToolButton::clicked, this, &LeakList::shift);
    for (auto* b : {close_, letBe_, fill_, shift_}) {
        // None of them widens the panel.
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        b->setStyleSheet("padding: 5px 2px;");
        row->addWidget(b);
    }
    column->addLayout(row);
    show({});
}

void LeakList::refresh() {
    if (!session_.isOpen() || !session_.level()) return;
    const level::Level& level = *session_.level();
    const level::Project& project = session_.project();
    const bool same = of_.id == level.id && of_.layers == level.layers && of_.marks == level.marks &&
                      of_.sides == level.sides && of_.here == level.here && of_.walker == level.walker &&
                      of_.size == level.size && of_.view == level.view && sheets_ == project.sheets &&
                      materials_ == project.materials && kinds_ == project.prop_kinds && areas_ == project.area_kinds;
    if (same) return;
    of_ = level;
    sheets_ = project.sheets;
    materials_ = project.materials;
    kinds_ = project.prop_kinds;
    areas_ = project.area_kinds;
    using Leaks = std::vector<findings::Leak>;
    session_.jobs().start<Leaks>(
        kJob, {},
        [state = session_.document().state(), level](Jobs::Progress& progress) {
            if (progress.stopped()) return Leaks{};
            Leaks found = findings::leaks(*state, level, true);
            for (findings::Leak& leak : findings::looks(*state, level)) found.push_back(std::move(leak));
            return found;
        },
        [this](Leaks& found) { show(std::move(found)); },
        [this](const std::exception& e) { emit session_.said(translated(e), true); });
}

void LeakList::show(std::vector<findings::Leak> leaks) {
    // What was chosen stays so where it is still there.
    const findings::Leak* had = chosen();
    const auto same = std::find_if(leaks.begin(), leaks.end(), [&](const findings::Leak& l) {
        return had && l.kind == had->kind && l.cells == had->cells && l.side == had->side;
    });
    const auto keep = same == leaks.end() ? 0U : static_cast<quint32>(same - leaks.begin() + 1);
    leaks_ = std::move(leaks);
    std::vector<Card> cards;
    const Tokens t = tokensOf(this);
    for (std::size_t i = 0; i < leaks_.size(); ++i) {
        const findings::Finding finding = findings::finding_of(of_, leaks_[i]);
        Card card;
        card.id = static_cast<quint32>(i + 1);
        card.picture = findingSign(finding.severity, t);
        card.title = translated(leaks_[i].brief);
        card.under = where(leaks_[i]);
        cards.push_back(std::move(card));
    }
    list_->setCards(cards, keep);
    list_->setFixedHeight(std::min(kMost, kCard * static_cast<int>(std::max<std::size_t>(1, leaks_.size()))));
    list_->setVisible(!leaks_.empty());
    none_->setVisible(leaks_.empty());
    const bool start = of_.first_mark(level::MarkKind::start) != nullptr;
    none_->setText(!start ? tr("Place a start mark in Dress, and it is shown where the level leaks.")
                   : of_.view == level::View::from_the_side
                       ? tr("All marks are reached from the start, and no ledge is only just out of reach.")
                       : tr("From the start one gets out nowhere that is not meant."));
    count_->setText(leaks_.empty() ? QString() : QString::number(leaks_.size()));
    choose(leaks_.size() == 1 ? 1 : keep); // of several one is chosen first
}

const findings::Leak* LeakList::chosen() const {
    return chosen_ >= 0 && static_cast<std::size_t>(chosen_) < leaks_.size()
               ? &leaks_[static_cast<std::size_t>(chosen_)]
               : nullptr;
}

void LeakList::choose(quint32 index) {
    using Kind = findings::Leak::Kind;
    const bool asked = sender() == list_;
    chosen_ = static_cast<int>(index) - 1;
    const findings::Leak* leak = chosen();
    const bool rim = leak && leak->kind == Kind::rim;
    // With none chosen it is about all sides at once.
    const bool all = !leak && !rims().empty();
    const bool looks = leak && onlyLooks(*leak);
    close_->setVisible(all || rim || looks || (leak && leak->kind == Kind::telling));
    letBe_->setVisible(rim || all || (looks && leak->kind != Kind::solid));
    const auto say = [](QToolButton* button, const QString& text, const QString& tip) {
        button->setText(text);
        describe(button, text, {}, tip);
    };
    if (leak && leak->kind == Kind::usable) {
        say(close_, tr("Tell the game"), tr("Its kind tells the game what it is, wherever it stands"));
        say(letBe_, tr("Put a mark there"), tr("A mark tells the game of this one alone"));
    } else if (leak && leak->kind == Kind::gap) {
        say(close_, tr("Close it"), tr("Fills the gap with a blocker"));
        say(letBe_, tr("It is meant"), tr("A mark stands in the gap from now on, and it is not told again"));
    } else if (leak && leak->kind == Kind::unheard) {
        say(close_, tr("Let it block"), tr("The layers that it lies on block from now on"));
        say(letBe_, tr("It blocks nothing"), tr("Its tiles lose their shapes, in all levels"));
    } else if (leak && (leak->kind == Kind::telling || leak->kind == Kind::solid)) {
        say(close_, tr("Let it block"), tr("It blocks whole cells from now on, and so do the layers that it lies on"));
    } else {
        say(close_, all ? tr("Close all") : tr("Close it"),
            tr("The cells over which one gets out say that one may not walk there"));
        say(letBe_, all ? tr("Leave all open") : tr("Let it be open"),
            tr("The side leads on, wherever the game says; see Sides in the Section"));
    }
    fill_->setVisible(leak && leak->fill);
    shift_->setVisible(leak && leak->shift);
    std::vector<Point> filled;
    if (leak && leak->fill) filled.push_back(*leak->fill);
    view_.reach().setGhost(std::move(filled), leak && leak->shift ? cellsOf(leak->shift->mass.moved(leak->shift->by))
                                                                  : std::vector<Point>{});
    view_.update();
    if (!leak || !asked) return;
    const bool mended = leak->fill || leak->shift;
    if (mended) {
        Box all = leak->cells;
        if (leak->fill) all = united(all, {leak->fill->x, leak->fill->y, 1, 1});
        if (leak->shift) {
            all = united(all, leak->shift->mass.bounds());
            all = united(all, leak->shift->mass.moved(leak->shift->by).bounds());
        }
        view_.lookAtAll(all.grown(2));
    } else {
        view_.lookAt({leak->cells.x + leak->cells.w / 2, leak->cells.y + leak->cells.h / 2});
    }
    if (onlyLooks(*leak)) return;
    if (of_.view == level::View::from_the_side)
        view_.setReach(true);
    else
        view_.setSoak(true);
}

// The sides that the buttons are about: the one that is chosen, or all.
std::vector<findings::Leak> LeakList::rims() const {
    if (const findings::Leak* leak = chosen())
        return leak->kind == findings::Leak::Kind::rim ? std::vector{*leak} : std::vector<findings::Leak>{};
    std::vector<findings::Leak> out;
    for (const findings::Leak& leak : leaks_)
        if (leak.kind == findings::Leak::Kind::rim) out.push_back(leak);
    return out;
}

void LeakList::close() {
    const findings::Leak* leak = chosen();
    if (leak && onlyLooks(*leak)) return mend(*leak);
    level::Project p = session_.project();
    if (leak && leak->kind == findings::Leak::Kind::telling) {
        const std::vector<edit::Used> it{{edit::UsedKind::material, leak->material}};
        level::Level level = edit::with_layers_blocking(p, *session_.level(), it);
        p = edit::with_blocking(std::move(p), it, edit::Blocking::full);
        p.put(std::move(level));
        return session_.apply(tr("Let water block"), std::move(p));
    }
    level::Region cells;
    for (const findings::Leak& side : rims())
        for (const Box& box : side.rims) cells.add(box);
    if (cells.empty()) return;
    level::Level level = edit::with_own_word(*session_.level(), cells, edit::OwnWord::may_not_walk,
                                             tr("Own words").toStdString(), p.next_id);
    p.put(std::move(level));
    session_.apply(tr("Close a leak"), std::move(p));
}

void LeakList::fill() {
    const findings::Leak* leak = chosen();
    if (!leak || !leak->fill) return;
    level::Project p = session_.project();
    const Point like{leak->cells.x + leak->cells.w / 2, leak->cells.bottom()}; // what one stands on there
    level::Level level =
        edit::filled_in(p, *session_.level(), *leak->fill, like, tr("Own words").toStdString(), p.next_id);
    p.put(std::move(level));
    session_.apply(tr("Bring a ledge within reach"), std::move(p));
}

void LeakList::shift() {
    const findings::Leak* leak = chosen();
    if (!leak || !leak->shift) return;
    session_.applyLevel(tr("Bring a ledge within reach"), edit::with_ledge_moved(session_.project(), *session_.level(),
                                                                                 leak->shift->mass, leak->shift->by));
}

void LeakList::mend(const findings::Leak& leak) {
    using Kind = findings::Leak::Kind;
    level::Project p = session_.project();
    level::Level level = *session_.level();
    if (leak.kind == Kind::usable) {
        const level::AreaKindId area = edit::area_for(p, leak.word);
        if (area == 0) return emit session_.said(tr("There are as many areas as there can be"), true);
        return session_.apply(tr("Tell the game of a prop"), edit::with_area(std::move(p), leak.prop, area));
    }
    if (leak.kind == Kind::gap) {
        level.edit(leak.layer).blockers()->set(leak.cells.corner(), level::TileShape::full);
        return session_.applyLevel(tr("Close a gap"), std::move(level));
    }
    const std::vector<edit::Used> it = thingOf(p, leak);
    level = edit::with_layers_blocking(p, level, it);
    if (leak.kind == Kind::solid) p = edit::with_blocking(std::move(p), it, edit::Blocking::full);
    p.put(std::move(level));
    session_.apply(tr("Let it block"), std::move(p));
}

void LeakList::leave(const findings::Leak& leak) {
    level::Project p = session_.project();
    if (leak.kind == findings::Leak::Kind::unheard) {
        const std::vector<edit::Used> it = thingOf(p, leak);
        return session_.apply(tr("It blocks nothing"), edit::with_blocking(std::move(p), it, edit::Blocking::nothing));
    }
    const level::PropKind* kind = p.prop_kind(leak.prop);
    const std::string name = kind ? kind->name : tr("Way through").toStdString();
    const level::MarkId id = p.next_id++;
    p.put(edit::place_mark(*session_.level(), id, level::MarkKind::note, name, leak.cells.corner()));
    session_.apply(tr("Place a mark"), std::move(p));
}

void LeakList::letBe() {
    if (const findings::Leak* leak = chosen(); leak && onlyLooks(*leak)) return leave(*leak);
    level::Level level = *session_.level();
    for (const findings::Leak& leak : rims())
        level.sides[static_cast<std::size_t>(leak.side)] = {level::SideKind::leads, {}};
    session_.applyLevel(tr("Let sides lead on"), std::move(level));
}

} // namespace vic::app
