// The right side of Walk: the walker and the frame, and where the walker is.
#pragma once

#include <QWidget>
#include <functional>

#include "app/parts/binding.hpp"
#include "app/walk/walk_centre.hpp"

class QLabel;
class QVBoxLayout;

namespace vic::level {
struct Level;
} // namespace vic::level

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
    void buildWalker(QVBoxLayout* column);
    void buildFrame(QVBoxLayout* column);
    void change(const std::function<void(level::Level&)>& what);
    Session& session_;
    WalkCentre& centre_;
    Bindings fields_;
    QLabel *place_, *state_, *touched_;
};

} // namespace vic::app
