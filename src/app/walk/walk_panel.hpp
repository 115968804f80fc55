// The right side of Walk: the walker and the frame, and where the walker is.
#pragma once

#include <QWidget>
#include <functional>
#include <vector>

#include "app/parts/binding.hpp"
#include "app/walk/walk_centre.hpp"
#include "edit/pins.hpp"

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace vic::level {
struct Level;
} // namespace vic::level

namespace vic::app {

class CardList;
class Session;
class WalkCentre;
class WalkSettings;

class WalkPanel : public QWidget {
    Q_OBJECT
  public:
    WalkPanel(Session& session, WalkCentre& centre, QWidget* parent);
    void refresh();
    void tick();

  private:
    void buildWalker(QVBoxLayout* column);
    void buildFrame(QVBoxLayout* column);
    void buildWhy(QVBoxLayout* column);
    void buildProofs(QVBoxLayout* column);
    void refreshPins();
    void refreshProofs();
    void showPin(quint32 number);
    void change(const std::function<void(level::Level&)>& what);
    Session& session_;
    WalkCentre& centre_;
    Bindings fields_;
    QLabel *place_, *touched_;
    WalkSettings* settings_ = nullptr;
    CardList *pins_ = nullptr, *proofs_ = nullptr;
    QLabel *why_ = nullptr, *whyCount_ = nullptr, *proofCount_ = nullptr;
    QToolButton* forget_ = nullptr;
    std::vector<edit::Pin> shown_;
    quint32 chosenProof_ = 0, chosenPin_ = 0;
};

} // namespace vic::app
