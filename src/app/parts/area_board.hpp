// A drawing board for the parts of a prop that tell.
#pragma once

#include <QImage>
#include <QPointF>
#include <QRectF>
#include <QWidget>
#include <optional>
#include <vector>

#include "base/geometry.hpp"
#include "level/prop_kind.hpp"

class QKeyEvent;
class QMouseEvent;
class QPaintEvent;

namespace vic::app {

// A picture with named boxes over it, in its pixels. One is chosen; it is moved by dragging, another drawn by dragging
// over nothing.
class AreaBoard : public QWidget {
    Q_OBJECT
  public:
    explicit AreaBoard(QWidget* parent);
    void show(const QImage& art, Size pixels, const std::vector<level::PropArea>& areas);
    [[nodiscard]] int chosen() const { return chosen_; } // -1 for none
    void choose(int which);
    // Where a place of the picture is drawn, in the widget's pixels.
    [[nodiscard]] QPointF at(Point pixel) const;
  signals:
    void changed(const std::vector<level::PropArea>& areas);
    void choiceChanged();

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    [[nodiscard]] QRectF board() const;
    [[nodiscard]] QRectF drawn(const Box& box) const;
    [[nodiscard]] Point pixelAt(QPointF p) const;
    [[nodiscard]] int areaAt(QPointF p) const;
    void remove(int which);
    Size pixels_{1, 1};
    QImage art_;
    std::vector<level::PropArea> areas_, before_; // before: of the drag
    int chosen_ = -1;
    std::optional<Point> from_; // of the drag
    bool draws_ = false;        // a new one, instead of moving the chosen
};

} // namespace vic::app
