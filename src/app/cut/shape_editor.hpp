// What the chosen tiles block: the named shapes to pick from, and a drawing board for any other.
#pragma once

#include <QWidget>
#include <map>
#include <vector>

#include "app/parts/shape_board.hpp"
#include "app/session/session.hpp"
#include "level/shape.hpp"

class QDoubleSpinBox;
class QEvent;
class QLabel;
class QPushButton;
class QToolButton;

namespace vic::level {
struct Tile;
} // namespace vic::level

namespace vic::app {

class Session;
class ShapeBoard;

class ShapeEditor : public QWidget {
    Q_OBJECT
  public:
    ShapeEditor(Session& session, QWidget* parent);
    void refresh();

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void paintSigns();
    void give(level::TileShape shape, const level::Polygons& polygons);
    void fromArt();
    Session& session_;
    std::map<level::TileShape, QToolButton*> shapes_;
    QToolButton* draw_;
    QWidget* drawing_;
    ShapeBoard* board_;
    QLabel* count_;
    QPushButton* fromArt_;
    QDoubleSpinBox* deviation_;
};

} // namespace vic::app
