// The drawing signs that several screens share: hatching, flags, one-way edges, the figure.
#pragma once

#include <QBrush>
#include <QImage>
#include <QPointF>
#include <QRectF>
#include <QString>

#include "base/image.hpp"

class QColor;
class QPainter;

namespace vic::app {

inline constexpr int kHatchSide = 8; // screen pixels after which the hatching repeats

QBrush hatching(); // 45° ink lines on paper, opaque
void paintOneWay(QPainter& painter, const QRectF& cell, int side, const QColor& ink);
// The same along any line of the screen; `side` says to which side it looks.
void paintOneWayLine(QPainter& painter, QPointF from, QPointF to, int side, const QColor& ink);
void paintFigure(QPainter& painter, const QRectF& box, const QColor& colour);
// A flag at the left of the box's foot, so that who stands there is seen; its name beside it.
// Its pole is at least so many pixels high.
void paintFlag(QPainter& painter, const QRectF& cells, const QString& name, const QColor& colour, double least = 0);
void paintTag(QPainter& painter, QPointF corner, const QString& text, const QColor& ground, const QColor& ink);
// What lies behind see-through art: two quiet tones in squares of 8.
void paintChequer(QPainter& painter, const QRectF& box, const QColor& a, const QColor& b);

QImage toQImage(const Image& image); // ARGB32

} // namespace vic::app
