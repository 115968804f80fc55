// A drawing board for the parts of a prop that tell.
#pragma once

#include <optional>
#include <vector>

#include "app/parts/picture_board.hpp"
#include "level/prop_kind.hpp"

class QKeyEvent;
class QMouseEvent;
class QPaintEvent;

namespace vic::app {

// A picture with named boxes over it, in its pixels. One is chosen; it is moved by dragging, changed by dragging its
// sides and corners, another drawn by dragging over nothing.
class AreaBoard : public PictureBoard {
    Q_OBJECT
  public:
    explicit AreaBoard(QWidget* parent);
    void show(const QImage& art, Size pixels, const std::vector<level::PropArea>& areas);
    [[nodiscard]] int chosen() const { return chosen_; } // -1 for none
    void choose(int which);
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
    [[nodiscard]] int areaAt(QPointF p) const;
    void remove(int which);
    std::vector<level::PropArea> areas_, before_; // before: of the drag
    int chosen_ = -1;
    std::optional<Point> from_; // of the drag
    Grip grip_;                 // likewise, of the chosen one
    bool draws_ = false;        // a new one, instead of changing the chosen
};

} // namespace vic::app
