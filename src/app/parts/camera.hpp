// Which part of a level is seen, and how large: between pixels of the level, cells of a lattice, and the widget. A
// plain value.
#pragma once

#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QTransform>

#include "base/geometry.hpp"
#include "base/lattice.hpp"

class QPainter;

namespace vic::app {

class Camera {
  public:
    [[nodiscard]] double zoom() const; // pixels of the widget for one of the level: 1/16 .. 16, in steps
    [[nodiscard]] QRect area() const { return area_; }
    [[nodiscard]] QPointF origin() const { return origin_; } // the level's pixel at the area's upper left corner
    [[nodiscard]] QPointF centre() const;                    // the level's pixel in the middle of the area
    // How often the level is halved before it is drawn: pages of 1/2^halvings serve.
    [[nodiscard]] int halvings() const;

    void setArea(const QRect& area) { area_ = area; }
    // The nearest step of zoom; the corner comes to lie on a whole pixel of the widget, so that the art does not swim.
    void look(double zoom, QPointF centre);
    void move(QPointF pixels); // of the level
    void roundOrigin();
    // The zoom that is `by` steps away, and the centre that keeps the level's pixel under `at` where it is.
    struct View {
        double zoom;
        QPointF centre;
    };
    [[nodiscard]] View stepped(int by, QPointF at) const;
    // The largest zoom at which all of the pixels have room, at most `most`.
    [[nodiscard]] double fitting(const Box& pixels, double most) const;

    [[nodiscard]] QRectF onScreen(const Box& pixels) const;
    [[nodiscard]] QPointF onScreen(Point pixel) const { return onScreen(Box{pixel.x, pixel.y, 0, 0}).topLeft(); }
    [[nodiscard]] QPointF placeAt(QPointF screen) const; // in pixels of the level and parts of them
    [[nodiscard]] Point pixelAt(QPointF screen) const;
    // From cells (and parts of them) to the widget.
    [[nodiscard]] QTransform cellsToScreen(const Lattice& lattice) const;
    // Cells as they lie on the screen: their outline, and the box around that.
    [[nodiscard]] QPolygonF shapeOf(const Lattice& lattice, const Box& cells) const;
    [[nodiscard]] QRectF around(const Lattice& lattice, const Box& cells) const { return onScreen(lattice.box(cells)); }
    // What stands on the pixels: their box, on an isometric lattice the diamond in it.
    [[nodiscard]] QPolygonF footShape(const Lattice& lattice, const Box& foot) const;
    // Boxes of cells in view, also beyond the level.
    [[nodiscard]] Box seenOf(const Lattice& lattice) const;
    // With the painter's pen and brush.
    void drawCells(QPainter& painter, const Lattice& lattice, const Box& cells, double inset = 0) const;

  private:
    int step_ = 5;
    QPointF origin_;
    QRect area_;
};

} // namespace vic::app
