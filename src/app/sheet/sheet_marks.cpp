// What is shown over the art of a sheet in Cut: its lattice, and what each tile has been given.

#include <QColor>
#include <QFont>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QRectF>
#include <QString>
#include <algorithm>
#include <cstddef>
#include <set>
#include <vector>

#include "app/parts/glyphs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/geometry.hpp"
#include "level/cell.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"
#include "sheet/inspect.hpp"

namespace vic::app {

namespace {

// A small sign of the shape in the lower right corner of a tile, never over the middle of its art.
void paintShape(QPainter& p, const level::Tile& tile, const QRectF& place) {
    const double side = std::clamp(place.width() / 7, 6.0, 11.0);
    const QRectF sign(place.right() - side - 3, place.bottom() - side - 3, side, side);
    p.setPen(QPen(QColor("#FBF8F1"), 1));
    p.setBrush(QColor("#22302D"));
    const level::Polygons polygons =
        tile.shape == level::TileShape::drawn ? tile.polygons : level::polygons_of(tile.shape);
    for (const level::Polygon& polygon : polygons) {
        QPolygonF corners;
        for (const Point c : polygon) corners << sign.topLeft() + QPointF(c.x, c.y) * side / level::kShapeSide;
        p.drawPolygon(corners);
    }
    if (!level::is_one_way(tile.shape)) return;
    const int edge = level::one_way_side(tile.shape);
    p.drawRect(edge == 0   ? QRectF(sign.left(), sign.top(), side, 3)
               : edge == 1 ? QRectF(sign.right() - 3, sign.top(), 3, side)
               : edge == 2 ? QRectF(sign.left(), sign.bottom() - 3, side, 3)
                           : QRectF(sign.left(), sign.top(), 3, side));
}

void paintBlank(QPainter& p, const QRectF& place) {
    p.save();
    p.setClipRect(place.adjusted(1, 1, -1, -1));
    p.setPen(QPen(QColor(255, 255, 255, 90), 1));
    for (double x = place.left() - place.height(); x < place.right(); x += 7)
        p.drawLine(QPointF(x, place.bottom()), QPointF(x + place.height(), place.top()));
    p.restore();
    if (place.width() >= 44)
        paintTag(p, place.center() - QPointF(20, 8), SheetView::tr("blank"), QColor("#22302D"), QColor("#EAE4D6"));
}

} // namespace

void SheetView::paintMarks(QPainter& p, const level::Sheet& s) {
    const level::Cut cut = shownCut_.value_or(s.cut);
    const auto boxes = sheet::cut_boxes(cut, imageOf_->size());
    const bool dense = cut.tile.w * zoom_ < 5;
    if (!dense && boxes.size() < 40000) paintCut(p, boxes);
    if (shownCut_) return;
    for (const level::Tile& tile : s.tiles) {
        const QRectF r = place(tile.box);
        if (tile.is_block() || !r.intersects(QRectF(rect()))) continue;
        if ((marks_ & kBlank) && tile.blank && r.width() >= 14) paintBlank(p, r);
        if ((marks_ & kShapes) && tile.shape != level::TileShape::none && r.width() >= 20) paintShape(p, tile, r);
    }
    if (marks_ & kJoined) paintJoined(p, s);
    if (marks_ & kNotes) paintNoted(p, s);
    if (marks_ & kOver) paintStraddling(p, s, boxes);
    if (!dense && !boxes.empty()) paintNumbers(p, cut, boxes);
}

// The cells, in a line that is seen on light and dark art.
void SheetView::paintCut(QPainter& p, const std::vector<Box>& boxes) {
    p.setBrush(Qt::NoBrush);
    for (const Box& b : boxes) {
        const QRectF r = place(b);
        if (!r.intersects(QRectF(rect()))) continue;
        p.setPen(QPen(QColor(20, 16, 10, 160), 1));
        p.drawRect(r.adjusted(-0.5, -0.5, 0.5, 0.5));
        p.setPen(QPen(QColor(255, 255, 255, 200), 1));
        p.drawRect(r.adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

// Tiles that serve a material.
void SheetView::paintJoined(QPainter& p, const level::Sheet& s) {
    std::set<level::TileId> joined;
    for (const auto& m : session_.project().materials)
        for (const auto& [mask, variants] : m->joins.cases)
            for (const auto& v : variants) joined.insert(v.tile);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(QColor("#FBF8F1"), 1));
    p.setBrush(tokensOf(this).brine);
    for (const level::Tile& tile : s.tiles) {
        const QRectF r = place(tile.box);
        if (!joined.contains(tile.id) || r.width() < 20 || !r.intersects(QRectF(rect()))) continue;
        p.drawEllipse(r.topRight() + QPointF(-7, 7), 3.5, 3.5);
    }
    p.setRenderHint(QPainter::Antialiasing, false);
}

// Tiles with notes or tags.
void SheetView::paintNoted(QPainter& p, const level::Sheet& s) {
    p.setPen(QPen(QColor("#FBF8F1"), 1));
    p.setBrush(tokensOf(this).ochre);
    for (const level::Tile& tile : s.tiles) {
        const QRectF r = place(tile.box);
        if ((tile.notes.empty() && tile.tags.empty()) || tile.is_block() || r.width() < 20) continue;
        const QPointF at = r.topLeft() + QPointF(4, 4);
        p.drawPolygon(QPolygonF{at, at + QPointF(8, 0), at + QPointF(0, 8)});
    }
}

// Cells whose art goes beyond them.
void SheetView::paintStraddling(QPainter& p, const level::Sheet& s, const std::vector<Box>& boxes) {
    if (overIn_ != imageOf_ || overOf_ != s.cut) {
        over_ = sheet::straddling_cells(*imageOf_, s.cut);
        overIn_ = imageOf_;
        overOf_ = s.cut;
    }
    p.setPen(QPen(tokensOf(this).ochre, 2, Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    for (const int i : over_)
        if (static_cast<std::size_t>(i) < boxes.size()) p.drawRect(place(boxes[static_cast<std::size_t>(i)]));
}

// Columns and the first number of each row, along the rim.
void SheetView::paintNumbers(QPainter& p, const level::Cut& cut, const std::vector<Box>& boxes) {
    const QRectF whole = place(box_of(imageOf_->size()));
    QFont font = this->font();
    font.setPixelSize(11);
    p.setFont(font);
    p.setPen(QColor("#EAE4D6"));
    const Size count = sheet::columns_rows(cut, imageOf_->size());
    const int every = cut.tile.w * zoom_ < 22 ? 4 : 1;
    for (int x = 0; x < count.w; x += every) {
        const QRectF r = place(boxes[static_cast<std::size_t>(x)]);
        p.drawText(QRectF(r.left(), whole.top() - 20, r.width() * every, 16),
                   every == 1 ? Qt::AlignCenter : Qt::AlignLeft, QString::number(x));
    }
    for (int y = 0; y < count.h; y += every) {
        const QRectF r = place(boxes[static_cast<std::size_t>(y * count.w)]);
        p.drawText(QRectF(whole.left() - 40, r.top(), 34, r.height() * every),
                   Qt::AlignRight | (every == 1 ? Qt::AlignVCenter : Qt::AlignTop), QString::number(y * count.w));
    }
}

} // namespace vic::app
