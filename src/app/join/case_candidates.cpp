// What the panel of a case offers to serve it: tiles that fit at their seams, and what can be composed.
#include <QLabel>
#include <QLayout>
#include <QLocale>
#include <QPixmap>
#include <QPushButton>
#include <QSizePolicy>
#include <QString>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <utility>
#include <vector>

#include "app/join/case_panel.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/image.hpp"
#include "base/text.hpp"
#include "base/turn.hpp"
#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "level/material.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kCandidates = 3;
constexpr std::size_t kMostTurned = 128; // tiles of a sheet that are tried in all turns

} // namespace

QString CasePanel::turnWord(Turn turn) {
    const QString by[4] = {{}, tr("turned right"), tr("turned round"), tr("turned left")};
    QString quarter = by[turn.quarters()];
    if (!turn.mirrored()) return quarter;
    const QString after[4] = {{}, tr("mirrored, right"), tr("upside down"), tr("mirrored, left")};
    return turn.quarters() == 0 ? tr("mirrored") : after[turn.quarters()];
}

// The designer has said so: `tile` is accepted.
void CasePanel::serveCase(level::MaterialId id, join::Mask mask, const std::vector<level::Variant>& variants,
                          level::TileId tile) {
    const auto serve = [id, mask, variants, tile](level::Project p) {
        if (!p.material(id)) return p;
        return edit::rejoin(edit::accept_tile(edit::set_case(std::move(p), id, mask, variants), id, tile));
    };
    session_.applyJoined(
        {tr("Tile of a case of %1").arg(QString::fromStdString(session_.project().material(id)->name)), serve, {}, {}});
}

void CasePanel::refreshCandidates() {
    const level::Material& m = *session_.material();
    const join::Mask mask = this->mask();
    serveHead_->setVisible(!plain());
    candidates_->setVisible(!plain());
    const auto around = proof_.around(mask);
    if (plain() || (candidatesFor_.get() == &m && candidatesMask_ == mask && candidatesAround_ == around &&
                    candidatesIn_ == session_.project().sheets))
        return;
    candidatesFor_ = session_.materialRef();
    candidatesMask_ = mask;
    candidatesAround_ = around;
    candidatesIn_ = session_.project().sheets;
    candidates_->setEnabled(false); // until others are found
    std::vector<level::SheetId> sheets;
    std::uint8_t turns = level::kAllTurns;
    for (const level::SheetId id : {edit::main_sheet(session_.project(), m.joins), sheet_->sheetId()})
        if (const level::Sheet* s = session_.project().sheet(id);
            s && std::find(sheets.begin(), sheets.end(), id) == sheets.end()) {
            sheets.push_back(id);
            if (s->tiles.size() > kMostTurned) turns = level::kNoTurns;
        }
    session_.jobs().start<Candidates>(
        "candidates", tr("Looking for tiles that fit"),
        [state = session_.document().state(), id = m.id, mask, sheets, turns, around](Jobs::Progress&) {
            const level::JoinSet& joins = state->material(id)->joins;
            Candidates found;
            if (join::serving(joins, mask).empty())
                for (const join::Made& made : join::composable(*state, joins, joins.turns))
                    if (made.mask == mask) found.made = made;
            found.tiles = join::candidates(*state, joins, mask, sheets, turns, around, kCandidates);
            return found;
        },
        [this, of = candidatesFor_, mask](Candidates& found) {
            if (session_.isOpen() && session_.materialRef() == of && candidatesMask_ == mask) showCandidates(found);
        },
        session_.complain());
}

void CasePanel::showCandidates(const Candidates& found) {
    const level::Material& m = *session_.material();
    const join::Mask mask = candidatesMask_;
    clearLayout(candidates_->layout());
    candidates_->setEnabled(true);
    int n = 0;
    const auto row = [&](const QPixmap& picture, const QString& text, double fit, const std::function<void()>& go) {
        auto* b = new QPushButton(candidates_);
        b->setObjectName(QString("candidate-%1").arg(n++));
        b->setIcon(picture);
        b->setIconSize({24, 24});
        b->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        b->setText(QString("%1 %   %2").arg(std::lround(100 * fit)).arg(text));
        b->setStyleSheet("text-align: left; padding: 2px 6px;");
        b->setToolTip(tr("Click to let it serve the case; the figure says how well it fits at the seams"));
        connect(b, &QPushButton::clicked, this, go);
        candidates_->layout()->addWidget(b);
    };
    if (found.made) {
        const Image art = join::composed_art(
            tilesOf(session_.project()), found.made->of,
            sheet::drawn_size(session_.project().sheet(edit::main_sheet(session_.project(), m.joins))->cut));
        const auto compose = [this, id = m.id, mask] {
            const auto made = [id, mask](level::Project p) {
                return edit::compose_missing(std::move(p), id, mask).project;
            };
            session_.applyJoined({tr("Compose a tile"), made, {}, {}});
        };
        row(art.empty() ? QPixmap() : QPixmap::fromImage(toQImage(art)),
            translated(say_count(found.made->sources, "composed of one tile", "composed of %n tiles")),
            1 - found.made->error, compose);
    }
    for (const join::Candidate& c : found.tiles) {
        QString text = translated(edit::tile_name(session_.project(), c.variant.tile));
        if (c.variant.turn.code != 0) text += ", " + turnWord(c.variant.turn);
        row(tileThumb(session_.project(), c.variant.tile, 28, c.variant.turn), text, c.fit,
            [this, id = m.id, mask, v = c.variant] { serveCase(id, mask, {v}, v.tile); });
    }
    serveHead_->setVisible(n > 0);
}

} // namespace vic::app
