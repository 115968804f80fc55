// A picture, made large, on which boxes in its pixels are drawn and changed.
#pragma once

#include <QImage>
#include <QPointF>
#include <QRectF>
#include <QWidget>
#include <optional>

#include "base/geometry.hpp"

class QPainter;

namespace vic::app {

class PictureBoard : public QWidget {
  public:
    // Where a place of the picture is drawn, in the widget's pixels.
    [[nodiscard]] QPointF at(Point pixel) const;

  protected:
    explicit PictureBoard(QWidget* parent);
    void setArt(const QImage& art, Size pixels);
    [[nodiscard]] QRectF board() const;
    [[nodiscard]] QRectF drawn(const Box& box) const;
    [[nodiscard]] Point pixelAt(QPointF p) const; // within the picture or at its rim
    void paintArt(QPainter& p) const;
    void paintBox(QPainter& p, const Box& box, bool chosen) const;

    // What of a box is taken hold of: its middle, or one or two of its sides.
    struct Grip {
        int x = 0, y = 0; // -1: left or upper side, 1: right or lower
        [[nodiscard]] bool middle() const { return x == 0 && y == 0; }
        [[nodiscard]] Qt::CursorShape cursor() const;
    };
    [[nodiscard]] std::optional<Grip> gripAt(const Box& box, QPointF p) const; // none beside it
    // The box after what is held of it went so far, within the picture; at least a pixel is left of it.
    [[nodiscard]] Box dragged(const Box& box, Grip grip, Point by) const;
    Size pixels_{1, 1};

  private:
    QImage art_;
};

} // namespace vic::app
