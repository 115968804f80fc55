// A drawing board for the ground that a prop stands on.
#pragma once

#include "app/parts/picture_board.hpp"

class QMouseEvent;
class QPaintEvent;

namespace vic::app {

// The prop's picture with its foot over it, which is moved and made larger or smaller by dragging; over nothing another
// is drawn. The pivot is shown.
class FootBoard : public PictureBoard {
    Q_OBJECT
  public:
    explicit FootBoard(QWidget* parent);
    void show(const QImage& art, Size pixels, const Box& foot, Point pivot);
  signals:
    void changed(const Box& foot);

  protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;

  private:
    Box foot_, before_; // before: of the drag
    Point pivot_;
    std::optional<Point> from_; // of the drag
    std::optional<Grip> grip_;  // of the drag; another is drawn without
};

} // namespace vic::app
