// What Cut offers above the picture: what it is (tiles, loose things, a prop, a backdrop), and how it is cut.
#include <QHBoxLayout>
#include <QLabel>
#include <QString>
#include <QToolButton>
#include <cmath>
#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "app/cut/cut_centre.hpp"
#include "app/cut/cut_words.hpp"
#include "app/cut/reading_card.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/text.hpp"
#include "edit/beginnings.hpp"
#include "edit/hand.hpp"
#include "edit/levels.hpp"
#include "edit/props.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"
#include "sheet/pack.hpp"
#include "sheet/read_cut.hpp"

namespace vic::app {

using sheet::What;

namespace {

constexpr std::size_t kMostCards = 4;

bool is_whole(const level::Sheet& s) { return s.image && s.cut.tile == s.image->size(); }

bool has_props(const level::Project& project, level::SheetId sheet) {
    for (const auto& kind : project.prop_kinds)
        if (kind->sheet == sheet) return true;
    return false;
}

} // namespace

What CutCentre::what() const {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image || !s->parts.empty()) return What::tiles;
    const sheet::SheetReading* reading = session_.derived().reading(s->id);
    return reading && is_whole(*s) ? reading->what.best.what : What::tiles; // another cut was set by hand
}

QString CutCentre::takeText() const {
    switch (what()) {
        case What::tiles:
            return tr("Take this cut");
        case What::things:
            return tr("Find the things");
        case What::prop:
            return tr("Make it a prop");
        case What::backdrop:
            return tr("Make it a backdrop");
    }
    return {};
}

QString CutCentre::whatText() const {
    const QString name = QString::fromStdString(session_.sheet()->name).toHtmlEscaped();
    switch (what()) {
        case What::tiles:
            break;
        case What::things:
            return tr("Enter looks for the loose things of <b>%1</b>").arg(name);
        case What::prop:
            return tr("Enter makes <b>%1</b> a prop and takes it into the Hand").arg(name);
        case What::backdrop:
            return tr("Enter sets <b>%1</b> behind everything in the level").arg(name);
    }
    return {};
}

void CutCentre::rebuildCards() {
    const level::Sheet* s = session_.sheet();
    std::string key = s ? std::to_string(s->id) + (s->accepted ? "a" : "n") +
                              std::to_string(s->image ? s->image->pixels().size() : 0) + cutTitle(s->cut).toStdString()
                        : "";
    if (s && has_props(session_.project(), s->id)) key += "p";
    if (key == cardsOf_) return;
    cardsOf_ = key;
    clearLayout(cardRow_);
    if (!s || !s->image) return;
    cardRow_->addWidget(label(s->accepted ? tr("Taken as") : tr("Read as"), "quiet"));
    const sheet::SheetReading* reading = session_.derived().reading(s->id);
    if (!s->parts.empty() && sheet::are_even(s->parts))
        addFolderCards(*s);
    else if (reading)
        addCards(*s, *reading);
    else
        addStopped();
    cardRow_->addStretch();
}

void CutCentre::addStopped() {
    const bool stopped = session_.derived().readingStopped(session_.sheet()->id);
    cardRow_->addWidget(label(stopped ? tr("the reading was stopped") : tr("the picture is being read"), "quiet"));
    cardsOf_ = "?"; // come back when it is
    if (!stopped) return;
    auto* again = toolButton(cards_, "readCut", {}, tr("read it"), tr("Reads how the picture is cut"), "pill");
    connect(again, &QToolButton::clicked, this, [this] {
        if (session_.sheet()) session_.derived().readAgain(session_.sheet()->id);
    });
    cardRow_->addWidget(again);
}

void CutCentre::addCard(const char* name, const QString& title, const QString& reason, bool first,
                        const std::function<void()>& go) {
    auto* card = new ReadingCard(title, reason, first, cards_);
    card->setObjectName(name);
    connect(card, &ReadingCard::clicked, this, go);
    cardRow_->addWidget(card);
}

void CutCentre::addFolderCards(const level::Sheet& s) {
    const bool tiles = edit::folder_is(s) == edit::FolderAs::tiles;
    const auto count = static_cast<std::int64_t>(s.parts.size());
    const auto take = [this](edit::FolderAs as) {
        const level::Sheet* now = session_.sheet();
        if (!now || edit::folder_is(*now) == as) return;
        session_.propose(as == edit::FolderAs::tiles ? tr("Take %1 as tiles").arg(QString::fromStdString(now->name))
                                                     : tr("Take %1 as props").arg(QString::fromStdString(now->name)),
                         edit::folder_as(session_.project(), now->id, as).project);
    };
    addCard("what-tiles", tr("Tiles of one sheet"),
            translated(say("%1 pictures of %2 × %2 px", count, s.parts.front().box.w)), tiles,
            [take] { take(edit::FolderAs::tiles); });
    addCard("what-props", tr("Props"), tr("each picture by itself"), !tiles, [take] { take(edit::FolderAs::props); });
}

void CutCentre::addCards(const level::Sheet& s, const sheet::SheetReading& reading) {
    const bool props = s.accepted && is_whole(s) && has_props(session_.project(), s.id);
    std::size_t n = 0;
    const auto whats = [&](const sheet::WhatReading::One& one) {
        if (one.what == What::tiles || n == kMostCards) return;
        const char* names[] = {"", "what-things", "what-prop", "what-backdrop"};
        const QString titles[] = {{}, tr("Loose things"), tr("A prop"), tr("A backdrop")};
        const auto at = static_cast<std::size_t>(one.what);
        const bool first = s.accepted ? props && one.what != What::backdrop : is_whole(s) && one.what == what();
        ++n;
        addCard(names[at], titles[at], translated(one.reason), first, [this, w = one.what] { takeAs(w); });
    };
    whats(reading.what.best);
    const bool tiles = reading.what.best.what == What::tiles;
    if (!tiles)
        for (const auto& other : reading.what.others) whats(other);
    std::vector<sheet::CutReading> all;
    if (reading.best) all.push_back(*reading.best);
    for (const auto& r : reading.others)
        if (all.size() < 3 && r.confidence >= 0.005) all.push_back(r);
    for (std::size_t i = 0; i < all.size() && n < kMostCards; ++i, ++n) {
        const auto& r = all[i];
        auto* card = new ReadingCard(cutTitle(r.cut),
                                     tr("%1 % · %2").arg(std::lround(r.confidence * 100)).arg(translated(r.reason)),
                                     r.cut == s.cut && !props, cards_);
        card->setObjectName(QString("reading-%1").arg(i));
        connect(card, &ReadingCard::clicked, this, [this, cut = r.cut] { this->take(cut); });
        connect(card, &ReadingCard::hovered, this,
                [this, cut = r.cut](bool on) { view_->setShownCut(on ? std::optional(cut) : std::nullopt); });
        cardRow_->addWidget(card);
    }
    if (tiles)
        for (const auto& other : reading.what.others) whats(other);
    if (all.empty())
        addCard("what-tile", tr("One tile"), tr("as it is, %1 × %2 px").arg(s.image->width()).arg(s.image->height()),
                s.accepted && !props && is_whole(s), [this] {
                    if (session_.sheet()) this->take({session_.sheet()->image->size(), {}, {}, 1});
                });
}

void CutCentre::take(const level::Cut& cut) {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    view_->setShownCut({});
    edit::FirstArt first = edit::with_cells_of(edit::recut_sheet(session_.project(), s->id, cut, true), s->id);
    session_.propose(tr("Cut %1 as %2").arg(QString::fromStdString(s->name), cutTitle(cut)), std::move(first.project));
    if (session_.waiting()) return;
    QString text = translated(say_count(static_cast<std::int64_t>(session_.sheet()->tiles.size()),
                                        "%1 is cut: one tile", "%1 is cut: %n tiles", session_.sheet()->name));
    if (!first.cell.empty())
        text += tr("; the level's cells are %1 × %2 px now, like them").arg(first.cell.w).arg(first.cell.h);
    emit session_.said(text, false);
}

void CutCentre::takeBest() {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image || s->accepted) return;
    if (what() == What::tiles)
        take(s->cut);
    else
        takeAs(what());
}

void CutCentre::takeAs(What what) {
    const level::Sheet* s = session_.sheet();
    if (!s || !s->image) return;
    view_->setShownCut({});
    switch (what) {
        case What::tiles:
            return take(s->cut);
        case What::things:
            return setMode(SheetView::Mode::islands);
        case What::prop:
            return takeProp();
        case What::backdrop:
            return takeBackdrop();
    }
}

// All of the picture that is no ground as one prop, which the Hand holds then.
void CutCentre::takeProp() {
    const level::Sheet& s = *session_.sheet();
    const sheet::SheetReading* reading = session_.derived().reading(s.id);
    const Box bounds = reading && !reading->what.bounds.empty() ? reading->what.bounds : box_of(s.image->size());
    level::Project p = edit::recut_sheet(session_.project(), s.id, {s.image->size(), {}, {}, 1}, true);
    level::PropKindId id = 0;
    for (const auto& kind : p.prop_kinds)
        if (kind->sheet == s.id && kind->box == bounds) id = kind->id;
    const QString title = QString::fromStdString(s.name);
    if (id == 0) {
        std::string name = s.name;
        for (int i = 2; !edit::name_taken_by_prop(p, name, 0).empty(); ++i) name = s.name + " " + std::to_string(i);
        id = p.next_id++;
        p.put(edit::propose_prop(*p.sheet(s.id), bounds, id, name));
    }
    session_.propose(tr("Make %1 a prop").arg(title), std::move(p));
    if (session_.waiting()) return;
    edit::Hand hand = session_.hand();
    hand.holds = edit::held::Prop{id};
    session_.setHand(hand);
    session_.setStage(Stage::dress);
    emit session_.said(tr("%1 is a prop now, and in the Hand: click where it is to stand").arg(title), false);
}

void CutCentre::takeBackdrop() {
    const level::Sheet& s = *session_.sheet();
    const level::Level* level = session_.level();
    if (!level) return session_.said(tr("A backdrop stands in a level: make one first"), true);
    const QString title = QString::fromStdString(s.name);
    level::Project p = edit::recut_sheet(session_.project(), s.id, {s.image->size(), {}, {}, 1}, true);
    const level::LayerId id = p.next_id++;
    level::Level next = edit::add_layer(*level, id, s.name, level::LayerKind::backdrop, 0);
    next.edit(id).backdrop()->sheet = s.id;
    const QString place = QString::fromStdString(level->name);
    p.put(std::move(next));
    session_.propose(tr("Make %1 a backdrop").arg(title), std::move(p));
    if (session_.waiting()) return;
    session_.setActiveLayer(id);
    session_.setStage(Stage::lay);
    emit session_.said(tr("%1 stands behind everything in %2").arg(title, place), false);
}

} // namespace vic::app
