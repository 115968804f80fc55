#include "app/parts/glyphs.hpp"

#include <QColor>
#include <QFont>
#include <QFontMetricsF>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QPolygonF>
#include <QRgb>
#include <QSizeF>
#include <algorithm>
#include <cmath>

namespace vic::app {

QBrush hatching() {
    QImage image(kHatchSide, kHatchSide, QImage::Format_RGB32);
    for (int y = 0; y < kHatchSide; ++y)
        for (int x = 0; x < kHatchSide; ++x) {
            const int d = (x + kHatchSide - y) % kHatchSide;
            image.setPixel(x, y, d == 0 ? 0xFF8A8474 : d == 1 || d == kHatchSide - 1 ? 0xFFC3BBA7 : 0xFFDDD5C3);
        }
    return QBrush(image);
}

void paintOneWay(QPainter& p, const QRectF& cell, int side, const QColor& ink) {
    p.save();
    p.translate(cell.center());
    p.rotate(90 * side);
    const double w = (side % 2 == 0 ? cell.width() : cell.height()) / 2;
    const double h = (side % 2 == 0 ? cell.height() : cell.width()) / 2;
    QPen dash(ink, 2, Qt::CustomDashLine, Qt::FlatCap);
    dash.setDashPattern({2.5, 1.5});
    p.setPen(dash);
    p.drawLine(QPointF(-w, -h + 1), QPointF(w, -h + 1));
    if (w >= 7) {
        p.setPen(QPen(ink, 1.5, Qt::SolidLine, Qt::RoundCap));
        const double tip = -h + 4, tail = -h + 4 + std::min(8.0, h);
        p.drawLine(QPointF(0, tip), QPointF(0, tail));
        p.drawLine(QPointF(0, tip), QPointF(-2.5, tip + 3));
        p.drawLine(QPointF(0, tip), QPointF(2.5, tip + 3));
    }
    p.restore();
}

void paintOneWayLine(QPainter& p, QPointF from, QPointF to, int side, const QColor& ink) {
    QLineF line(from, to);
    if (line.length() < 1) return;
    // The outside lies to the left of the way: above one that goes right, east of one that goes down.
    if (side == 2 || side == 3) line = QLineF(to, from);
    p.save();
    p.translate(line.center());
    p.rotate(-line.angle());
    const double w = line.length() / 2;
    paintOneWay(p, QRectF(-w, -1, 2 * w, std::max(12.0, std::min(2 * w, 24.0))), 0, ink);
    p.restore();
}

void paintFigure(QPainter& p, const QRectF& box, const QColor& colour) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const double head = box.height() * 0.14;
    const QPointF top(box.center().x(), box.top() + head);
    const double hip = box.top() + box.height() * 0.58;
    const double arm = box.top() + box.height() * 0.42;
    // First a light rim, so that the figure stands out from any ground.
    for (const bool rim : {true, false}) {
        const QColor c = rim ? QColor("#FBF8F1") : colour;
        const double thick = std::max(1.5, box.width() * 0.11) + (rim ? 2.5 : 0);
        p.setPen(rim ? QPen(c, 2.5) : QPen(Qt::NoPen));
        p.setBrush(c);
        p.drawEllipse(top, head, head);
        p.setPen(QPen(c, thick, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.setBrush(Qt::NoBrush);
        p.drawLine(QPointF(top.x(), top.y() + head), QPointF(top.x(), hip));
        p.drawLine(QPointF(box.left() + box.width() * 0.1, arm), QPointF(box.right() - box.width() * 0.1, arm));
        p.drawPolyline(QPolygonF{QPointF(box.left() + box.width() * 0.2, box.bottom() - 1), QPointF(top.x(), hip),
                                 QPointF(box.right() - box.width() * 0.2, box.bottom() - 1)});
    }
    p.restore();
}

void paintTag(QPainter& p, QPointF corner, const QString& text, const QColor& ground, const QColor& ink) {
    p.save();
    QFont font = p.font();
    font.setPixelSize(11);
    p.setFont(font);
    const QFontMetricsF metrics(font);
    const QRectF box(corner, QSizeF(metrics.horizontalAdvance(text) + 12, 17));
    p.setPen(Qt::NoPen);
    p.setBrush(ground);
    p.drawRect(box);
    p.setPen(ink);
    p.drawText(box, Qt::AlignCenter, text);
    p.restore();
}

void paintFlag(QPainter& p, const QRectF& cells, const QString& name, const QColor& colour, double least) {
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QPointF foot(std::round(cells.left()) + 1, cells.bottom());
    const double height = std::max(least, std::clamp(cells.height(), 20.0, 34.0));
    QPen edge(QColor("#FBF8F1"), 4, Qt::SolidLine, Qt::FlatCap);
    p.setPen(edge);
    p.drawLine(foot, foot - QPointF(0, height));
    p.setPen(QPen(colour, 2, Qt::SolidLine, Qt::FlatCap));
    p.drawLine(foot, foot - QPointF(0, height));
    const QPointF top = foot - QPointF(0, height);
    p.setPen(QPen(QColor("#FBF8F1"), 1));
    p.setBrush(colour);
    p.drawPolygon(QPolygonF{top, top + QPointF(13, 5), top + QPointF(0, 10)});
    if (!name.isEmpty()) {
        QFont font = p.font();
        font.setPixelSize(12);
        font.setWeight(QFont::DemiBold);
        QPainterPath path;
        path.addText(top + QPointF(17, 9), font, name);
        p.setPen(QPen(QColor(251, 248, 241, 235), 4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        p.setBrush(Qt::NoBrush);
        p.drawPath(path);
        p.setPen(Qt::NoPen);
        p.setBrush(QColor("#22302D"));
        p.drawPath(path);
    }
    p.restore();
}

void paintChequer(QPainter& p, const QRectF& box, const QColor& a, const QColor& b) {
    QImage image(16, 16, QImage::Format_RGB32);
    for (int y = 0; y < 16; ++y)
        for (int x = 0; x < 16; ++x) image.setPixelColor(x, y, (x / 8 + y / 8) % 2 ? a : b);
    p.fillRect(box, QBrush(image));
}

QImage toQImage(const Image& image) {
    QImage out(image.width(), image.height(), QImage::Format_ARGB32);
    for (int y = 0; y < image.height(); ++y) {
        auto* line = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < image.width(); ++x) {
            const Rgba c = image.at(x, y);
            line[x] = qRgba(c.r, c.g, c.b, c.a);
        }
    }
    return out;
}

} // namespace vic::app
