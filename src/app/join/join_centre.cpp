#include "app/join/join_centre.hpp"

#include <QComboBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QLocale>
#include <QResizeEvent>
#include <QScrollArea>
#include <QStringList>
#include <QToolButton>
#include <QVBoxLayout>
#include <QVariant>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <functional>
#include <initializer_list>
#include <set>
#include <vector>

#include "app/join/two_ways.hpp"
#include "app/parts/blocking_words.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/translated.hpp"
#include "base/text.hpp"
#include "edit/joins.hpp"
#include "join/compose.hpp"
#include "join/mask.hpp"
#include "join/proof.hpp"
#include "level/material.hpp"

namespace vic::app {

JoinCentre::JoinCentre(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("joinCentre");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(8);
    buildHead(column);
    proof_ = new ProofView(session_, ProofView::Mode::cases, this);
    free_ = new ProofView(session_, ProofView::Mode::free, this);
    connect(heat_, &QToolButton::toggled, this, [this](bool on) {
        proof_->setHeat(on);
        free_->setHeat(on);
        tellPatch();
    });
    connect(free_, &ProofView::painted, this, &JoinCentre::tellPatch);
    ways_ = new TwoWays(session_, this);
    column->addWidget(ways_);
    connect(ways_, &TwoWays::otherWanted, this, &JoinCentre::otherWanted);
    connect(ways_, &TwoWays::settled, this, &JoinCentre::refresh);
    buildPatches(column);
    addHeading(column, tr("Cases"), &casesAside_);
    casesAside_->setObjectName("casesAside");
    buildWorks(column);
    cases_ = new CaseList(session_, this);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidget(cases_);
    column->addWidget(scroll, 1);
    for (ProofView* view : {proof_, free_}) connect(view, &ProofView::cellHovered, this, &JoinCentre::tellCell);
    bind();
}

void JoinCentre::buildHead(QVBoxLayout* column) {
    auto* head = new QHBoxLayout;
    head->setSpacing(4);
    head->addWidget(label(tr("Proof"), "heading"));
    head->addSpacing(8);
    const std::array<std::array<QString, 3>, 2> modes{
        {{"proofCases", tr("every case"), tr("A patch in which every neighbourhood occurs at least once")},
         {"proofPairs", tr("every pair"), tr("A patch in which every case lies beside every other that it can meet")}}};
    for (std::size_t i = 0; i < modes.size(); ++i) {
        modes_[i] = toolButton(this, modes[i][0], {}, modes[i][1], modes[i][2], "pill");
        modes_[i]->setCheckable(true);
        head->addWidget(modes_[i]);
        connect(modes_[i], &QToolButton::clicked, this, [this, i] { setMode(static_cast<ProofView::Mode>(i)); });
    }
    modes_[0]->setChecked(true);
    heat_ =
        toolButton(this, "seams", {}, tr("seams"), tr("Marks where two tiles do not go on into each other"), "pill");
    heat_->setCheckable(true);
    head->addSpacing(8);
    head->addWidget(heat_);
    head->addSpacing(8);
    blocks_ = comboBox(this, "materialBlocks");
    blocks_->setMinimumWidth(170);
    describe(blocks_, tr("What it is in the way of"), "B",
             tr("The shape of all its tiles at once; single tiles get theirs in Cut"));
    head->addWidget(blocks_);
    head->addStretch();
    proofAside_ = label({}, "aside");
    proofAside_->setObjectName("proofAside");
    head->addWidget(proofAside_);
    auto* fresh = toolButton(this, "newPatch", {}, tr("new patch"), {}, "link");
    describe(fresh, tr("Another patch"), {}, tr("The same cases in another arrangement; the free patch is emptied"));
    head->addWidget(fresh);
    connect(fresh, &QToolButton::clicked, this, [this] {
        proof_->newPatch();
        free_->newPatch();
        tellPatch();
    });
    column->addLayout(head);
}

void JoinCentre::buildPatches(QVBoxLayout* column) {
    auto* patches = new QHBoxLayout;
    patches->setSpacing(16);
    patches->addWidget(proof_, 0, Qt::AlignTop);
    patches->addWidget(free_, 0, Qt::AlignTop);
    patches->addStretch();
    column->addLayout(patches);
}

void JoinCentre::buildWorks(QVBoxLayout* column) {
    auto* works = new QHBoxLayout;
    works->setSpacing(6);
    const auto work = [&](const char* name, const QString& text, const QString& key, const QString& help,
                          const std::function<void()>& go) {
        auto* b = toolButton(this, name, {}, text, {}, "pill");
        describe(b, text, key, help);
        works->addWidget(b);
        connect(b, &QToolButton::clicked, this, go);
        return b;
    };
    missing_ = work("nextMissingButton", tr("next missing"), "N", tr("The next case without a tile"),
                    [this] { nextMissing(); });
    doubtful_ = work("nextDoubtfulButton", tr("next doubtful"), "D",
                     tr("The next case whose tile is doubtful or contradicts itself"), [this] { nextDoubtful(); });
    accept_ = work("acceptTile", tr("accept"), tr("Return"), tr("The doubtful tile of the case is right as it is read"),
                   [this] { accept(); });
    compose_ = work("composeMissing", tr("compose"), "C",
                    tr("Makes tiles for missing cases from the quarters of those that are there, on a sheet of their "
                       "own that follows the art"),
                    [this] { composeMissing(); });
    works->addStretch();
    least_ = toolButton(this, "leastToDraw", {}, {}, {}, "link");
    describe(least_, tr("What is the least to draw?"), {},
             tr("Marks the fewest cases that have to be drawn; all others can be composed of them"));
    connect(least_, &QToolButton::clicked, this, &JoinCentre::showLeast);
    works->addWidget(least_);
    column->addLayout(works);
}

// What lies under the pointer in a patch.
void JoinCentre::tellCell(Point cell, int mask) {
    const level::Material* m = session_.material();
    if (!m || mask < 0) {
        refresh();
        return;
    }
    const bool missing = session_.derived().rules().missing(m->id, static_cast<join::Mask>(mask));
    reading_ = tr("The proof's cell %1, %2 is <b>%3</b>")
                   .arg(cell.x)
                   .arg(cell.y)
                   .arg(translated(join::describe(static_cast<join::Mask>(mask), m->joins.kind)));
    reading_ +=
        missing
            ? tr(" · no tile of %1 has it, the nearest stands in").arg(QString::fromStdString(m->name).toHtmlEscaped())
            : tr(" · click chooses the case");
    emit readingChanged();
}

void JoinCentre::setMode(ProofView::Mode mode) {
    for (std::size_t i = 0; i < modes_.size(); ++i) modes_[i]->setChecked(i == static_cast<std::size_t>(mode));
    proof_->setMode(mode);
    refresh();
}

void JoinCentre::resizeEvent(QResizeEvent*) {
    const int zoom = std::clamp(std::min(width() / 740, height() / 560), 1, 3);
    proof_->setZoom(zoom);
    free_->setZoom(zoom);
}

// How large the patch is, and how small any could be.
void JoinCentre::tellPatch() {
    const level::Material* m = session_.material();
    if (!m || m->joins.kind == level::JoinKind::plain) return proofAside_->clear();
    const auto of = proof_->mode() == ProofView::Mode::pairs ? join::ProofOf::pairs : join::ProofOf::cases;
    QString text =
        tr("%1 cells, at least %2").arg(proof_->patch().size.area()).arg(join::least_proof(m->joins.kind, of));
    if (heat_->isChecked()) {
        const join::SeamReport& seams = seams_.get({session_.materialRef(), session_.project().sheets}, [&] {
            return join::seam_report(session_.project(), m->joins, 0.2);
        });
        text = tr("worst seam of all pairs %1 %, mean %2 % · %3")
                   .arg(std::lround(100 * seams.worst))
                   .arg(QLocale().toString(100 * seams.mean, 'f', 1))
                   .arg(text);
    }
    proofAside_->setText(text);
}

void JoinCentre::refresh() {
    const level::Material* m = session_.material();
    if (m != of_.get()) cases_->setToDraw({});
    of_ = session_.materialRef();
    fields_.refresh();
    emit readingChanged();
}

const level::JoinSet* JoinCentre::joins() const {
    const level::Material* m = session_.material();
    return m && m->joins.kind != level::JoinKind::plain ? &m->joins : nullptr;
}

int JoinCentre::composable() {
    const level::JoinSet* set = joins();
    if (!set || join::coverage(*set).have == join::coverage(*set).of) return 0;
    return composable_.get({session_.materialRef(), session_.project().sheets}, [&] {
        return static_cast<int>(join::composable(session_.project(), *set, set->turns).size());
    });
}

std::vector<join::Mask> JoinCentre::leastToDraw(bool compose) const {
    std::set<join::Mask> have;
    for (const auto& [mask, variants] : joins()->cases)
        if (!variants.empty()) have.insert(mask);
    return join::least_to_draw(joins()->kind, have, joins()->turns, compose);
}

// What makes the tile of the chosen case doubtful; none where nothing does.
const edit::DoubtfulTile* JoinCentre::doubtHere() const {
    const auto& all = session_.derived().joinsRead().doubtful;
    const auto at = std::find_if(all.begin(), all.end(), [&](const auto& d) { return d.mask == session_.joinCase(); });
    return at == all.end() ? nullptr : &*at;
}

// What the material is in the way of, from nothing on and round again.
void JoinCentre::nextBlocking() {
    if (!session_.material()) return;
    using edit::Blocking;
    const Blocking now = edit::blocking_of(session_.project(), *session_.material());
    block(now == Blocking::nothing    ? Blocking::full
          : now == Blocking::full     ? Blocking::as_drawn
          : now == Blocking::as_drawn ? Blocking::one_way
                                      : Blocking::nothing);
}

void JoinCentre::block(edit::Blocking blocking) {
    const level::Material* m = session_.material();
    if (!m || blocking == edit::Blocking::mixed) return;
    const QString text = tr("%1 %2").arg(QString::fromStdString(m->name), blockingWord(blocking));
    session_.apply(text, edit::with_blocking(session_.project(), m->id, blocking));
    emit session_.said(text, false);
}

void JoinCentre::bind() {
    fields_.bindChoice(
        blocks_,
        [this] {
            using edit::Blocking;
            std::vector<Bindings::Choice> all;
            for (const Blocking b :
                 {Blocking::nothing, Blocking::full, Blocking::as_drawn, Blocking::one_way, Blocking::opens})
                all.push_back({blockingWord(b), static_cast<int>(b)});
            if (session_.material() && edit::blocking_of(session_.project(), *session_.material()) == Blocking::mixed)
                all.push_back({blockingWord(Blocking::mixed), static_cast<int>(Blocking::mixed)});
            return all;
        },
        [this] {
            return QVariant(session_.material()
                                ? static_cast<int>(edit::blocking_of(session_.project(), *session_.material()))
                                : 0);
        },
        [this](const QVariant& to) { block(static_cast<edit::Blocking>(to.toInt())); });
    fields_.bindShown(blocks_, [this] { return session_.material() != nullptr; });
    fields_.follow([this] { proof_->refresh(); });
    fields_.bindShown(ways_, [this] { return ways_->open(); });
    fields_.follow([this] { ways_->refresh(); });
    fields_.bindShown(free_, [this] { return session_.material() && proof_->mode() != ProofView::Mode::pairs; });
    fields_.follow([this] { free_->refresh(); });
    fields_.follow([this] { cases_->refresh(); });
    fields_.follow([this] { tellPatch(); });
    for (QWidget* w : std::initializer_list<QWidget*>{missing_, doubtful_, accept_, compose_, least_})
        fields_.bindShown(w, [this] { return joins() != nullptr; });
    fields_.bindEnabled(missing_,
                        [this] { return joins() && join::coverage(*joins()).have < join::coverage(*joins()).of; });
    fields_.bindEnabled(doubtful_, [this] {
        const JoinsRead& read = session_.derived().joinsRead();
        return joins() && (read.stopped || !read.doubtful.empty());
    });
    fields_.follow([this] {
        doubtful_->setText(session_.derived().joinsRead().stopped ? tr("look for doubts") : tr("next doubtful"));
    });
    fields_.bindEnabled(accept_, [this] { return joins() && doubtHere(); });
    fields_.bindEnabled(compose_, [this] { return composable() > 0; });
    fields_.follow(
        [this] { compose_->setText(composable() > 0 ? tr("compose %1 missing").arg(composable()) : tr("compose")); });
    fields_.follow([this] {
        if (!joins()) return;
        const auto least = leastToDraw(true);
        least_->setToolTip(
            tr("Marks the fewest cases that have to be drawn so that all others can be composed; without "
               "composing it would be %1")
                .arg(leastToDraw(false).size()));
        least_->setText(least.empty() ? tr("nothing more to draw") : tr("least to draw: %1 more").arg(least.size()));
    });
    fields_.bindLabel(casesAside_, [this] { return casesText(); });
    fields_.follow([this] { reading_ = readingText(); });
}

QString JoinCentre::casesText() const {
    if (!session_.material()) return {};
    if (!joins()) return tr("a plain material has one case: its variants are on the right");
    const auto c = join::coverage(*joins());
    QString aside = tr("%1 have a tile").arg(c.have);
    if (c.drawn < c.have) aside += tr(", %1 of them turned").arg(c.have - c.drawn);
    const JoinsRead& read = session_.derived().joinsRead();
    if (read.known) return tr("%1 · %2 missing · %3 doubtful").arg(aside).arg(c.of - c.have).arg(read.doubtful.size());
    return (read.stopped ? tr("%1 · %2 missing · doubts not known: stopped")
                         : tr("%1 · %2 missing · doubts not known yet"))
        .arg(aside)
        .arg(c.of - c.have);
}

QString JoinCentre::readingText() const {
    const level::Material* m = session_.material();
    if (!m) return tr("No material yet");
    if (!joins())
        return tr("%1 looks at no neighbours: its variants are chosen by chance").arg(QString::fromStdString(m->name));
    const QString text = tr("Case <b>%1</b>").arg(translated(join::describe(session_.joinCase(), m->joins.kind)));
    if (const edit::DoubtfulTile* doubt = doubtHere())
        return text + tr(" · doubtful: %1 · Return accepts it").arg(translated(doubt->why));
    const auto variants = join::serving(*joins(), session_.joinCase());
    if (variants.empty()) return text + tr(" · missing: click a tile of the sheet to serve it");
    return text + tr(" · served by %1 · click a tile of the sheet to change it, Ctrl+click adds a variant")
                      .arg(variants.size() == 1 ? tr("1 tile") : tr("%1 variants").arg(variants.size()));
}

void JoinCentre::showLeast() {
    if (!joins()) return;
    const auto least = leastToDraw(true);
    cases_->setToDraw(least);
    if (least.empty()) {
        emit session_.said(tr("What is there is enough: the rest can be turned or composed"), false);
        return;
    }
    QStringList names;
    for (const join::Mask mask : least) names << translated(join::describe(mask, joins()->kind));
    emit session_.said(tr("Draw %1 more, the rest can be composed: %2").arg(least.size()).arg(names.join(", ")), false);
}

void JoinCentre::composeMissing() {
    const level::Material* m = session_.material();
    if (!m || composable() == 0) return;
    const QString name = QString::fromStdString(m->name);
    const auto made = std::make_shared<edit::ComposedCases>();
    const auto compose = [made, id = m->id](level::Project p) {
        *made = edit::compose_missing(std::move(p), id);
        return std::exchange(made->project, {});
    };
    const auto tell = [this, made, name] {
        emit session_.said(
            made->left == 0
                ? translated(say_count(made->made, "Composed one tile: %1 has a tile for every case",
                                       "Composed %n tiles: %1 has a tile for every case", name.toStdString()))
                : translated(say_count(made->made, "Composed one tile, missing cases of %2: %1",
                                       "Composed %n tiles, missing cases of %2: %1", made->left, name.toStdString())),
            false);
    };
    session_.applyJoined({tr("Compose the missing tiles of %1").arg(name), compose, {}, tell});
}

void JoinCentre::nextDoubtful() {
    const JoinsRead& read = session_.derived().joinsRead();
    if (read.stopped) return session_.derived().readJoinsAgain();
    const auto& all = read.doubtful;
    if (!read.known) return;
    if (all.empty()) {
        emit session_.said(tr("Nothing is doubtful"), false);
        return;
    }
    const auto next = std::find_if(all.begin(), all.end(), [&](const auto& d) { return d.mask > session_.joinCase(); });
    session_.setCase(next == all.end() ? all.front().mask : next->mask);
}

void JoinCentre::accept() {
    const level::Material* m = session_.material();
    if (!m) return;
    for (const auto& d : std::vector(session_.derived().joinsRead().doubtful))
        if (d.mask == session_.joinCase()) {
            session_.apply(tr("Accept a reading"), edit::accept_tile(session_.project(), m->id, d.tile));
            if (!session_.derived().joinsRead().doubtful.empty()) nextDoubtful();
            return;
        }
}

void JoinCentre::nextMissing() {
    const level::Material* m = session_.material();
    if (!m) return;
    const auto& masks = join::cases(m->joins.kind);
    const auto at = std::find(masks.begin(), masks.end(), session_.joinCase());
    const auto from = static_cast<std::size_t>(at - masks.begin());
    for (std::size_t i = 1; i <= masks.size(); ++i) {
        const join::Mask mask = masks[(from + i) % masks.size()];
        if (join::serving(m->joins, mask).empty()) return session_.setCase(mask);
    }
    emit session_.said(tr("%1 has a tile for every case").arg(QString::fromStdString(m->name)), false);
}

} // namespace vic::app
