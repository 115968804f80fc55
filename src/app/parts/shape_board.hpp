// A drawing board for what a tile or prop blocks.
#pragma once

#include <QImage>
#include <QPointF>
#include <QRectF>
#include <QWidget>
#include <cstddef>
#include <optional>

#include "base/geometry.hpp"
#include "base/text.hpp"
#include "level/shape.hpp"

class QEvent;
class QKeyEvent;
class QMouseEvent;
class QPaintEvent;

namespace vic::app {

// Art with its shape over it; corners are dragged on a lattice: of 1/16 cell, or of the picture's pixels.
class ShapeBoard : public QWidget {
    Q_OBJECT
  public:
    explicit ShapeBoard(QWidget* parent);
    void show(const QImage& art, const level::Polygons& polygons);
    // Lines of the lattice across and down; those of 1/16 cell at first.
    void setLattice(Size lines);
    // Where a point of the lattice is drawn, in the widget's pixels.
    [[nodiscard]] QPointF at(Point corner) const;
  signals:
    void drawn(const level::Polygons& polygons);
    void refused(const Text& why);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void leaveEvent(QEvent*) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    struct Hit {
        std::size_t part = 0;
        std::size_t corner = 0;
        bool line = false; // between the corner and the next
    };
    [[nodiscard]] std::optional<Hit> hit(QPointF p) const;
    [[nodiscard]] Point cornerAt(QPointF p) const;
    [[nodiscard]] QRectF board() const;
    void remove(const Hit& which);
    [[nodiscard]] Text trouble() const;
    Size lines_{level::kShapeSide, level::kShapeSide};
    QImage art_;
    level::Polygons polygons_;
    level::Polygons before_; // of the drag
    std::optional<Hit> lit_;
    std::optional<Hit> held_;
    std::optional<Point> boxFrom_;
};

} // namespace vic::app
