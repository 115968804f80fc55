#include "app/section/stroke_list.hpp"

#include <QFont>
#include <QFontMetrics>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QRect>
#include <QRectF>
#include <algorithm>
#include <cstddef>
#include <utility>

#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "level/level.hpp"

namespace vic::app {

namespace {

constexpr int kMost = 5;
constexpr int kRow = 24;
constexpr int kHead = 26;

// As high as what it lists: the room is the slabs'. Empty it says in two lines what it is for.
int heightOf(std::size_t strokes) { return kHead + std::max(2, static_cast<int>(strokes)) * kRow + 8; }

} // namespace

StrokeList::StrokeList(Session& session, SectionPanel& section, QWidget* parent)
    : QWidget(parent), session_(session), section_(section) {
    setObjectName("strokeList");
    setAccessibleName(tr("Last strokes"));
    setToolTip(
        tr("<b>Last strokes</b><br>Drag one onto the slab of another layer: it is laid there, and what it covered "
           "is there again"));
    setFixedHeight(heightOf(0));
    connect(&session_, &Session::changed, this, &StrokeList::refresh);
}

QSize StrokeList::sizeHint() const { return {214, heightOf(strokes_.size())}; }

QPoint StrokeList::rowCentre(int row) const { return {width() / 2, kHead + row * kRow + kRow / 2}; }

void StrokeList::refresh() {
    if (!session_.isOpen() || of_ == session_.document().state()) return;
    of_ = session_.document().state();
    const auto history = session_.document().history();
    std::vector<Row> rows;
    for (std::size_t i = session_.document().now(); i > 0 && rows.size() < kMost; --i) {
        const auto known = std::find_if(strokes_.begin(), strokes_.end(), [&](const Row& r) {
            return r.after == history[i].state && r.before == history[i - 1].state;
        });
        if (known != strokes_.end()) {
            rows.push_back(*known);
            continue;
        }
        const auto stroke = edit::stroke_of(*history[i - 1].state, *history[i].state);
        if (!stroke) continue;
        rows.push_back(
            {*stroke, history[i - 1].state, history[i].state, QString::fromStdString(history[i].name),
             levelThumb(*history[i].state, *history[i].state->level(stroke->level), stroke->cells, {34, 18})});
    }
    strokes_ = std::move(rows);
    setFixedHeight(heightOf(strokes_.size()));
    update();
}

void StrokeList::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    p.fillRect(rect(), t.panel);
    p.fillRect(0, 0, width(), 1, t.line);
    QFont font = this->font();
    font.setPixelSize(12);
    font.setWeight(QFont::DemiBold);
    p.setFont(font);
    p.setPen(t.ink);
    p.drawText(QRect(12, 4, width() - 24, 20), Qt::AlignLeft | Qt::AlignVCenter, tr("Last strokes"));
    font.setWeight(QFont::Normal);
    font.setPixelSize(11);
    p.setFont(font);
    p.setPen(t.quiet);
    if (strokes_.empty()) {
        p.drawText(QRect(12, kHead, width() - 24, 40), Qt::AlignLeft | Qt::TextWordWrap,
                   tr("What is laid is listed here and can be lifted to another layer."));
        return;
    }
    p.drawText(QRect(12, 4, width() - 24, 20), Qt::AlignRight | Qt::AlignVCenter, tr("drag onto a slab"));
    const level::Level* level = session_.level();
    for (std::size_t i = 0; i < strokes_.size(); ++i) {
        const Row& row = strokes_[i];
        const QRect r(8, kHead + static_cast<int>(i) * kRow, width() - 16, kRow - 2);
        if (static_cast<int>(i) == grip_) {
            p.setPen(QPen(dragging_ ? t.vermilion : t.line, 1));
            p.setBrush(t.card);
            p.drawRoundedRect(QRectF(r).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
        }
        p.drawPixmap(r.left() + 3, r.top() + 2, row.picture);
        const level::Layer* layer = level && level->id == row.stroke.level ? level->layer(row.stroke.layer) : nullptr;
        p.setPen(layer ? t.ink : t.faint);
        p.drawText(r.adjusted(44, 0, -4, 0), Qt::AlignLeft | Qt::AlignVCenter,
                   QFontMetrics(font).elidedText(row.name, Qt::ElideRight, r.width() - 50));
    }
}

void StrokeList::mousePressEvent(QMouseEvent* event) {
    const int row = (event->pos().y() - kHead) / kRow;
    grip_ = event->pos().y() >= kHead && row < count() ? row : -1;
    pressed_ = event->pos();
    dragging_ = false;
    update();
}

void StrokeList::mouseMoveEvent(QMouseEvent* event) {
    if (grip_ < 0 || (!dragging_ && (event->pos() - pressed_).manhattanLength() < 6)) return;
    dragging_ = true;
    setCursor(Qt::ClosedHandCursor);
    section_.lightSlab(section_.layerAt(event->globalPosition().toPoint()));
    update();
}

void StrokeList::mouseReleaseEvent(QMouseEvent* event) {
    const int row = grip_;
    const bool dragged = dragging_;
    grip_ = -1;
    dragging_ = false;
    unsetCursor();
    section_.lightSlab(0);
    update();
    if (row < 0 || row >= count() || !dragged) return;
    if (const level::LayerId to = section_.layerAt(event->globalPosition().toPoint()); to != 0)
        lift(Row(strokes_[static_cast<std::size_t>(row)]), to);
}

void StrokeList::lift(const Row& row, level::LayerId to) {
    const level::Level* level = session_.level();
    if (!level || level->id != row.stroke.level || to == row.stroke.layer) return;
    const level::Layer* target = level->layer(to);
    const level::Layer* from = level->layer(row.stroke.layer);
    if (!target || !from) return;
    const QString name = QString::fromStdString(target->name);
    if (!target->tiles()) return emit session_.said(tr("%1 takes no tiles").arg(name), true);
    if (target->locked || !target->shown) return emit session_.said(tr("%1 is locked or hidden").arg(name), true);
    edit::Lifted lifted =
        edit::lift(session_.project(), session_.derived().rules(), *row.before, *row.after, row.stroke, to);
    if (lifted.cells == 0) return emit session_.said(tr("Nothing of this stroke is as it was laid any more"), true);
    session_.applyLevel(tr("Lift a stroke to %1").arg(name), std::move(lifted.level));
    session_.setActiveLayer(to);
    QString text = tr("Lifted from %1 to %2: %3 cells").arg(QString::fromStdString(from->name), name).arg(lifted.cells);
    if (lifted.changed > 0) text += tr(" · %1 were changed since and stay").arg(lifted.changed);
    emit session_.said(text, false);
}

} // namespace vic::app
