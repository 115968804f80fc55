#include "app/lay/size_clash.hpp"

#include <QFont>
#include <QFontMetrics>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPixmap>
#include <QVBoxLayout>
#include <algorithm>
#include <memory>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/panel.hpp"
#include "app/parts/picture_card.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/size_badge.hpp"
#include "base/image.hpp"
#include "edit/clips.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {

constexpr int kOutcome = 64; // pixels a side

QString pixels(Size size) {
    return size.w == size.h ? SizeClash::tr("%1 px").arg(size.w) : SizeClash::tr("%1 × %2 px").arg(size.w).arg(size.h);
}

// A tile of the sheet that holds something.
const level::Tile* sampleOf(const level::Sheet& sheet) {
    for (const level::Tile& t : sheet.tiles)
        if (!t.blank && !t.is_block()) return &t;
    return nullptr;
}

} // namespace

SizeClash::SizeClash(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName("sizeClash");
    setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 8, 12, 10);
    column->setSpacing(8);
    auto* line = new QHBoxLayout;
    head_ = label({}, "heading", this);
    head_->setObjectName("sizeClashHead");
    head_->setTextFormat(Qt::RichText);
    line->addWidget(head_, 1);
    line->addWidget(label(tr("Esc: decide later"), "quiet", this));
    column->addLayout(line);
    cards_ = new QHBoxLayout;
    cards_->setSpacing(8);
    column->addLayout(cards_);
    hide();
}

void SizeClash::refresh() {
    const level::Level* level = session_.isOpen() ? session_.level() : nullptr;
    std::optional<edit::Clash> clash;
    if (level && session_.stage() == Stage::lay)
        clash = edit::clash_of(session_.project(), *level, edit::sheet_of(session_.project(), session_.hand()));
    if (!clash || clash->sheet != put_off_) put_off_ = 0;
    // On a layer whose cells are as large as the art there is nothing to settle.
    if (clash && session_.workLattice().cell == clash->art) clash.reset();
    std::vector<edit::Settlement> ways;
    if (clash) ways = edit::settlements(*level, *clash);
    const bool same = clash == clash_ && ways == ways_;
    clash_ = clash;
    ways_ = std::move(ways);
    if (!same) fill();
    setVisible(clash_ && put_off_ == 0);
}

void SizeClash::fill() {
    clearLayout(cards_);
    if (!clash_) return;
    const level::Sheet* sheet = session_.project().sheet(clash_->sheet);
    head_->setText(
        tr("<b>%1 is drawn at %2, this level's cells are %3.</b> Once, for this sheet.")
            .arg(QString::fromStdString(sheet->name).toHtmlEscaped(), pixels(clash_->art), pixels(clash_->cell)));
    for (std::size_t i = 0; i < ways_.size(); ++i) {
        const edit::Settlement way = ways_[i];
        auto* card = new PictureCard(title(way), i == 0 ? tr("%1 · Enter").arg(under(way)) : under(way), i == 0, this);
        card->setObjectName(way == edit::Settlement::cells   ? "clashCells"
                            : way == edit::Settlement::layer ? "clashLayer"
                                                             : "clashDrawn");
        card->setPicture(picture(way, kOutcome));
        connect(card, &QAbstractButton::clicked, this, [this, way] { settle(way); });
        cards_->addWidget(card, 1);
    }
}

QString SizeClash::title(edit::Settlement way) const {
    switch (way) {
        case edit::Settlement::cells:
            return tr("Cells become %1").arg(pixels(clash_->art));
        case edit::Settlement::layer:
            return clash_->larger ? tr("A tile lies over %1 × %1 cells").arg(clash_->larger)
                                  : tr("A layer with cells of %1").arg(pixels(clash_->art));
        case edit::Settlement::drawn:
            return clash_->larger    ? tr("Drawn at %1").arg(partOf(clash_->larger))
                   : clash_->smaller ? tr("Enlarged ×%1").arg(clash_->smaller)
                                     : tr("Fitted into %1").arg(pixels(clash_->cell));
    }
    return {};
}

QString SizeClash::under(edit::Settlement way) const {
    switch (way) {
        case edit::Settlement::cells:
            return tr("the level is empty: nothing else changes");
        case edit::Settlement::layer:
            return clash_->larger ? tr("on a layer of its own: crisp, joins and blocks as such")
                                  : tr("%1 × %1 tiles in a cell; crisp, blocks nothing").arg(clash_->smaller);
        case edit::Settlement::drawn: {
            const int all = clash_->larger * clash_->larger;
            if (clash_->larger) return tr("%1 of %2 pixels are dropped").arg(all - 1).arg(all);
            if (clash_->smaller) return tr("crisp, coarser than art of the cells' size");
            return tr("uneven: some pixels are wider than others, or dropped");
        }
    }
    return {};
}

// Cells of the level with a tile on them, as large as the outcome makes it.
QPixmap SizeClash::picture(edit::Settlement way, int side) const {
    const Tokens t = paper();
    QPixmap out(side, side);
    out.fill(t.outside);
    QPainter p(&out);
    const level::Sheet* sheet = session_.project().sheet(clash_->sheet);
    const level::Tile* tile = sheet ? sampleOf(*sheet) : nullptr;
    if (!tile || !sheet->image) return out;
    const Image art = sheet::tile_art(*sheet, *tile);
    // The larger of both takes half of the picture.
    const double scale = side / 2.0 / std::max({clash_->art.w, clash_->art.h, clash_->cell.w, clash_->cell.h});
    const bool fits = way == edit::Settlement::cells;
    const Size grid = fits ? clash_->art : clash_->cell;
    Size drawn = way == edit::Settlement::drawn ? clash_->cell : clash_->art;
    const bool aslant = session_.level()->lattice != LatticeKind::square;
    const QSizeF cell(grid.w * scale, grid.h * scale);
    p.setPen(QPen(QColor(255, 255, 255, 70), 1));
    const QSizeF lies(drawn.w * scale, drawn.h * scale);
    QRectF place(QPointF(lies.width(), lies.height()), lies);
    if (aslant) {
        const double rise = side * cell.height() / cell.width();
        for (double y = cell.height() / 2 - rise; y < side + rise; y += cell.height()) {
            p.drawLine(QPointF(0, y), QPointF(side, y + rise));
            p.drawLine(QPointF(0, y), QPointF(side, y - rise));
        }
        // What stands up does so above its diamond.
        drawn.h = std::max(1, art.height() * drawn.w / art.width());
        place.setTop(place.bottom() - drawn.h * scale);
    } else {
        for (double x = cell.width(); x < side; x += cell.width()) p.drawLine(QPointF(x, 0), QPointF(x, side));
        for (double y = cell.height(); y < side; y += cell.height()) p.drawLine(QPointF(0, y), QPointF(side, y));
    }
    p.drawImage(place, toQImage(resampled(art, drawn, sheet->smooth)));
    if (aslant) return out;
    p.setPen(QPen(t.vermilion, 1));
    p.drawRect(place.adjusted(0.5, 0.5, -0.5, -0.5));
    return out;
}

QString SizeClash::fate() const {
    if (clash_->larger) return tr("would be drawn at %1 of its size here").arg(partOf(clash_->larger));
    if (clash_->smaller) return tr("would be enlarged ×%1 here").arg(clash_->smaller);
    return tr("does not go into cells of %1").arg(pixels(clash_->cell));
}

QString SizeClash::reading() const {
    if (!clash_) return {};
    const QString name = QString::fromStdString(session_.project().sheet(clash_->sheet)->name).toHtmlEscaped();
    if (put_off_ != 0) return tr("%1 %2").arg(name, fate());
    return tr("%1 <b>%2</b> · settle above, or <b>Enter</b>: %3").arg(name, fate(), title(ways_.front()));
}

void SizeClash::takeFirst() {
    if (!ways_.empty() && open()) return settle(ways_.front());
    emit session_.said(tr("What is in the Hand is as large as the cells: nothing is to be settled"), false);
}

void SizeClash::later() {
    put_off_ = clash_ ? clash_->sheet : 0;
    hide();
}

void SizeClash::settle(edit::Settlement way) {
    const edit::Clash clash = *clash_;
    const QString done = title(way);
    const edit::Hand hand = session_.hand();
    edit::Settled next = edit::settled(session_.project(), *session_.level(), clash, way, session_.activeLayerId());
    const level::LayerId layer = next.layer;
    session_.apply(tr("Size of %1").arg(QString::fromStdString(session_.project().sheet(clash.sheet)->name)),
                   std::move(next.project));
    if (layer != 0) session_.setActiveLayer(layer);
    // What was arranged in other cells is arranged in these.
    if (const level::Stamp* stamp = hand.stamp(); stamp && layer != 0) {
        std::vector<level::TileId> tiles;
        const level::Grid& cells = stamp->layers.front().grid();
        level::each_cell(cells, box_of(cells.size()),
                         [&](Point, level::Cell c, level::MaterialId) { tiles.push_back(c.tile()); });
        level::Stamp again = edit::stamp_of_tiles(*session_.project().sheet(clash.sheet), tiles, *session_.level());
        session_.setHand({edit::held::Stamp{std::make_shared<const level::Stamp>(std::move(again))}});
    } else {
        session_.setHand(hand);
    }
    emit session_.said(done, false);
}

} // namespace vic::app
