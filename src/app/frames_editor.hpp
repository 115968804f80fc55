// In the properties of tiles: the pictures of an animated tile and how long each is shown.
#pragma once

#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>

#include "app/session.hpp"

namespace vic::app {

class FramesEditor : public QWidget {
    Q_OBJECT
  public:
    FramesEditor(Session& session, QWidget* parent);
    void follow(const std::vector<const level::Tile*>& chosen);

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
