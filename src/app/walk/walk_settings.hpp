// How the walker moves: all that is not his size, speed and jump.
#pragma once

#include <QWidget>
#include <functional>

#include "app/parts/binding.hpp"

class QVBoxLayout;

namespace vic::level {
struct Level;
} // namespace vic::level

namespace vic::app {

class Session;
class UprightFields;

class WalkSettings : public QWidget {
    Q_OBJECT
  public:
    using Change = std::function<void(const std::function<void(level::Level&)>&)>;
    WalkSettings(Session& session, Change change, QWidget* parent);
    void refresh();

  private:
    void buildSide(QVBoxLayout* column);
    void buildAbove(QVBoxLayout* column);
    void buildFrame(QVBoxLayout* column);
    Session& session_;
    Change change_;
    Bindings fields_;
    QWidget *side_, *above_;
    UprightFields* upright_;
};

} // namespace vic::app
