// The rulers of the level view, and the numbers along the edges of isometric levels.

#include <QColor>
#include <QFont>
#include <QPainter>
#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QSize>
#include <QSizeF>
#include <QString>
#include <QTransform>
#include <algorithm>
#include <cmath>

#include "app/parts/tokens.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "level/level.hpp"

namespace vic::app {

namespace {

// As many cells of that size as cover the level; the last of wider ones may reach beyond its edges.
QSize countOf(const level::Level& level, Size cell) {
    return {(level.size.w * level.cell.w + cell.w - 1) / cell.w, (level.size.h * level.cell.h + cell.h - 1) / cell.h};
}

} // namespace

// Along both upper edges of an isometric level: which column and row begins there.
void LevelView::paintEdgeNumbers(QPainter& p) {
    const level::Level& level = pages_.level();
    const Lattice cells = grain();
    const QTransform to = camera_.cellsToScreen(cells);
    const QSize count = countOf(level, cells.cell);
    const double step = cells.cell.w * zoom() / 2; // screen pixels from one to the next
    int every = 1;
    for (const int e : {1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000}) {
        every = e;
        if (e * step >= 26) break;
    }
    const auto hover = pointedCell();
    QFont font = this->font();
    font.setPixelSize(11);
    p.save();
    p.setClipRect(camera_.area());
    const double out = 11 / std::max(1.0, cells.cell.h * zoom() / 2.0);
    const auto number = [&](QPointF place, int n, bool lit) {
        const QPointF at = to.map(place);
        if (!camera_.area().contains(at.toPoint())) return;
        font.setWeight(lit ? QFont::Bold : QFont::Normal);
        p.setFont(font);
        const QRectF box(at - QPointF(24, 8), QSizeF(48, 16));
        p.setPen(QColor(20, 16, 10, 170));
        p.drawText(box.translated(1, 1), Qt::AlignCenter, QString::number(n));
        p.setPen(lit ? QColor("#FF9C86") : QColor("#F4EEE2"));
        p.drawText(box, Qt::AlignCenter, QString::number(n));
    };
    for (int x = 0; x < count.width(); x += every) number({x + 0.5, -out}, x, hover && hover->x == x);
    for (int y = 0; y < count.height(); y += every) number({-out, y + 0.5}, y, hover && hover->y == y);
    if (hover && Box{0, 0, count.width(), count.height()}.contains(*hover)) {
        if (hover->x % every != 0) number({hover->x + 0.5, -out}, hover->x, true);
        if (hover->y % every != 0) number({-out, hover->y + 0.5}, hover->y, true);
    }
    p.restore();
}

void LevelView::paintRulers(QPainter& p) {
    const Tokens t = tokensOf(this);
    p.fillRect(0, 0, width(), kRuler, t.card);
    p.fillRect(0, 0, kRuler, height(), t.card);
    p.setPen(t.quiet);
    QFont font = this->font();
    font.setPixelSize(11);
    p.setFont(font);
    // They count the cells one works on, as the reading line does.
    const Size c = grain().cell;
    const QSize count = countOf(pages_.level(), c);
    const Point hover = pointedCell().value_or(Point{-1, -1});
    if (!geometry().square()) paintPixelMarks(p);
    if (geometry().square())
        for (const int axis : {0, 1}) paintRuler(p, axis, c, count, hover);
    paintGuideSigns(p);
    p.fillRect(0, 0, kRuler, kRuler, t.card);
    p.fillRect(0, kRuler - 1, width(), 1, t.line);
    p.fillRect(kRuler - 1, 0, 1, height(), t.line);
}

// The numbers of the columns (axis 0) or the rows.
void LevelView::paintRuler(QPainter& p, int axis, Size c, QSize count, Point hover) {
    const Tokens t = tokensOf(this);
    const double step = c.w * zoom();
    int every = 1;
    for (const int e : {1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000}) {
        every = e;
        if (e * step >= 44) break;
    }
    const double unit = (axis == 0 ? c.w : c.h) * zoom();
    const QPointF zero = camera_.onScreen({0, 0, 1, 1}).topLeft();
    const double start = axis == 0 ? zero.x() : zero.y();
    const int size = axis == 0 ? width() : height();
    const int cells = axis == 0 ? count.width() : count.height();
    const int mine = axis == 0 ? hover.x : hover.y;
    if (mine >= 0 && mine < cells) {
        const QRectF lit =
            axis == 0 ? QRectF(start + mine * unit, 0, unit, kRuler) : QRectF(0, start + mine * unit, kRuler, unit);
        p.fillRect(lit, QColor(t.vermilion.red(), t.vermilion.green(), t.vermilion.blue(), 50));
    }
    const int first = std::max(0, static_cast<int>(std::floor((kRuler - start) / unit)) / every * every);
    for (int i = first; i < cells && start + i * unit < size; i += every) {
        const double at = start + i * unit;
        if (at < kRuler - unit) continue;
        const QRectF box =
            axis == 0 ? QRectF(at, 0, std::max(unit, 40.0), kRuler) : QRectF(0, at, kRuler - 2, std::max(unit, 14.0));
        const QRectF cellBox = axis == 0 ? QRectF(at, 0, unit, kRuler) : QRectF(0, at, kRuler - 3, unit);
        const bool roomy = unit >= (axis == 0 ? 26 : 14);
        p.drawText(roomy ? cellBox : box, (roomy ? Qt::AlignCenter : Qt::AlignLeft | Qt::AlignTop), QString::number(i));
    }
}

void LevelView::paintGuideSigns(QPainter& p) {
    p.setPen(Qt::NoPen);
    p.setBrush(tokensOf(this).brine);
    for (const level::Guide& g : pages_.level().guides) {
        const QPointF at = camera_.onScreen({g.upright ? g.at : 0, g.upright ? 0 : g.at, 0, 0}).topLeft();
        if (g.upright && at.x() >= kRuler)
            p.drawPolygon(QPolygonF{{at + QPointF(-4, kRuler - 7 - at.y()), at + QPointF(4, kRuler - 7 - at.y()),
                                     at + QPointF(0, kRuler - 1 - at.y())}});
        if (!g.upright && at.y() >= kRuler)
            p.drawPolygon(QPolygonF{
                {QPointF(kRuler - 7, at.y() - 4), QPointF(kRuler - 7, at.y() + 4), QPointF(kRuler - 1, at.y())}});
    }
}

// The rulers of an isometric level tell pixels: its cells lie aslant to them, and have their numbers along the level's
// edges.
void LevelView::paintPixelMarks(QPainter& p) {
    const Tokens t = tokensOf(this);
    int every = 10;
    for (const int e : {10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000, 50000}) {
        every = e;
        if (e * zoom() >= 50) break;
    }
    const QPointF zero = camera_.onScreen({0, 0, 1, 1}).topLeft();
    for (int axis = 0; axis < 2; ++axis) {
        const double start = axis == 0 ? zero.x() : zero.y();
        const int size = axis == 0 ? width() : height();
        for (int i = static_cast<int>(std::floor((kRuler - start) / zoom() / every)); start + i * every * zoom() < size;
             ++i) {
            const int at = static_cast<int>(std::lround(start + i * every * zoom()));
            p.fillRect(axis == 0 ? QRect(at, kRuler - 6, 1, 5) : QRect(kRuler - 6, at, 5, 1), t.faint);
            const QString number = QString::number(i * every);
            if (axis == 0) {
                p.drawText(QRect(at + 3, 0, 60, kRuler - 3), Qt::AlignLeft | Qt::AlignVCenter, number);
                continue;
            }
            p.save(); // upwards, so that long numbers have room
            p.translate(0, at - 3);
            p.rotate(-90);
            p.drawText(QRect(0, 0, 60, kRuler - 3), Qt::AlignLeft | Qt::AlignVCenter, number);
            p.restore();
        }
        if (place_ && camera_.area().contains(place_->toPoint()))
            p.fillRect(axis == 0 ? QRectF(place_->x(), 0, 1, kRuler) : QRectF(0, place_->y(), kRuler, 1), t.vermilion);
    }
}

} // namespace vic::app
