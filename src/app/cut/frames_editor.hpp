// In the properties of tiles: the pictures of an animated tile and how long each is shown.
#pragma once

#include <QWidget>
#include <vector>

#include "app/session/session.hpp"
#include "level/cell.hpp"

class QLabel;
class QListWidget;
class QPushButton;
class QSpinBox;

namespace vic::level {
struct Tile;
} // namespace vic::level

namespace vic::app {

class Session;

class FramesEditor : public QWidget {
    Q_OBJECT
  public:
    FramesEditor(Session& session, QWidget* parent);
    void refresh(const std::vector<const level::Tile*>& chosen);

  private:
    void setDuration(int ms);
    Session& session_;
    level::TileId tile_ = 0; // whose frames are shown
    QPushButton* make_;
    QWidget* fields_;
    QLabel* sum_;
    QListWidget* frames_;
    QSpinBox* duration_;
    QPushButton* stop_;
};

} // namespace vic::app
