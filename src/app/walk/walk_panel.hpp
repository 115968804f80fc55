// The right side of Walk: the walker and the frame, and where the walker is.
#pragma once

#include <QWidget>

#include "app/walk/walk_centre.hpp"

class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QSpinBox;

namespace vic::app {

class Session;
class WalkCentre;

class WalkPanel : public QWidget {
    Q_OBJECT
  public:
    WalkPanel(Session& session, WalkCentre& centre, QWidget* parent);
    void refresh();
    void tick();

  private:
    void change();
    Session& session_;
    WalkCentre& centre_;
    QComboBox* view_;
    QDoubleSpinBox *width_, *height_, *speed_, *jump_;
    QSpinBox *frameWidth_, *frameHeight_;
    QLabel *place_, *state_, *touched_;
};

} // namespace vic::app
