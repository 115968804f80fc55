#include "app/parts/shape_sign.hpp"

#include <QCoreApplication>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>

#include "base/geometry.hpp"

namespace vic::app {

using level::Polygon;
using level::TileShape;

namespace {

QString named(const char* text) { return QCoreApplication::translate("Shape", text); }

} // namespace

QString shapeName(level::TileShape shape) {
    switch (shape) {
        case TileShape::none:
            return named("None");
        case TileShape::full:
            return named("Full");
        case TileShape::opens:
            return named("May walk");
        case TileShape::half_north:
            return named("Upper half");
        case TileShape::half_east:
            return named("Right half");
        case TileShape::half_south:
            return named("Lower half");
        case TileShape::half_west:
            return named("Left half");
        case TileShape::slope_ne:
            return named("Slope, mass north-east");
        case TileShape::slope_se:
            return named("Slope, mass south-east");
        case TileShape::slope_sw:
            return named("Slope, mass south-west");
        case TileShape::slope_nw:
            return named("Slope, mass north-west");
        case TileShape::one_way_north:
            return named("One-way top");
        case TileShape::one_way_east:
            return named("One-way right");
        case TileShape::one_way_south:
            return named("One-way bottom");
        case TileShape::one_way_west:
            return named("One-way left");
        case TileShape::thin_se:
            return named("Ramp up, thin end");
        case TileShape::thick_se:
            return named("Ramp up, thick end");
        case TileShape::thick_sw:
            return named("Ramp down, thick end");
        case TileShape::thin_sw:
            return named("Ramp down, thin end");
        case TileShape::thin_ne:
            return named("Ceiling down, thin end");
        case TileShape::thick_ne:
            return named("Ceiling down, thick end");
        case TileShape::thick_nw:
            return named("Ceiling up, thick end");
        case TileShape::thin_nw:
            return named("Ceiling up, thin end");
        default:
            return {};
    }
}

QPixmap shapeSign(level::TileShape shape, const Tokens& t, int side) {
    QPixmap pixmap(side, side);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.scale(side / 20.0, side / 20.0);
    p.setPen(QPen(t.faint, 1, Qt::DotLine));
    p.drawRect(2, 2, 16, 16);
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(t.line);
    p.setPen(QPen(t.ink, 1.4, Qt::SolidLine, Qt::SquareCap, Qt::MiterJoin));
    for (const Polygon& polygon : level::polygons_of(shape)) {
        QPolygonF corners;
        for (const Point c : polygon) corners << QPointF(2.5 + c.x, 2.5 + c.y);
        p.drawPolygon(corners);
    }
    if (shape == TileShape::opens) { // one goes through
        p.setPen(QPen(t.brine, 2, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(0, 10), QPointF(17, 10));
        p.drawLine(QPointF(18, 10), QPointF(13, 6));
        p.drawLine(QPointF(18, 10), QPointF(13, 14));
    }
    if (level::is_one_way(shape)) {
        p.translate(10, 10);
        p.rotate(90.0 * level::one_way_side(shape));
        p.setPen(QPen(t.ink, 2, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(-8, -7), QPointF(8, -7));
        p.setPen(QPen(t.ink, 1.4));
        p.drawLine(QPointF(0, 6), QPointF(0, -3));
        p.drawLine(QPointF(0, -3), QPointF(-3, 0));
        p.drawLine(QPointF(0, -3), QPointF(3, 0));
    }
    return pixmap;
}

} // namespace vic::app
