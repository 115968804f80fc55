// The ways of tries, drawn over the game, and the pin at the place that is looked at.
#include <QPainter>
#include <QPainterPath>
#include <QPen>

#include "player/parcel_view.hpp"

namespace vic::player {

void ParcelView::paintTrails(QPainter& painter) {
    const vicinum::Level& level = this->level();
    const auto pixel = [&](walk::Position p) {
        const auto [x, y] = level.pixel(p.x, p.y);
        return QPointF(x, y);
    };
    const auto trail = [&](const std::vector<walk::Position>& way, int alpha) {
        if (way.size() < 2) return;
        QPainterPath path(pixel(way.front()));
        for (const walk::Position& p : way) path.lineTo(pixel(p));
        QPen pen(QColor(251, 248, 241, alpha), 1.5, Qt::DotLine);
        pen.setCosmetic(true);
        painter.setPen(pen);
        painter.setBrush(Qt::NoBrush);
        painter.drawPath(path);
    };
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    if (outlines_ || look_) {
        constexpr int oldest = 90, step = 50;
        for (std::size_t i = 0; i < trails_.size(); ++i) trail(trails_[i], oldest + static_cast<int>(i) * step);
        trail(recorder_->way(), 255);
    }
    if (look_) {
        const QPointF at = pixel(*look_);
        const double r = level.cell.y * 0.45;
        QPainterPath pin(at);
        pin.lineTo(at + QPointF(-r * 0.7, -r * 1.5));
        pin.arcTo(QRectF(at.x() - r, at.y() - r * 3, r * 2, r * 2), 225, -270);
        pin.closeSubpath();
        QPen rim(QColor("#FBF8F1"), 2);
        rim.setCosmetic(true);
        painter.setPen(rim);
        painter.setBrush(QColor("#C4422A"));
        painter.drawPath(pin);
        painter.setBrush(QColor("#FBF8F1"));
        painter.setPen(Qt::NoPen);
        painter.drawEllipse(at + QPointF(0, -r * 2), r * 0.35, r * 0.35);
    }
    painter.restore();
}

} // namespace vic::player
