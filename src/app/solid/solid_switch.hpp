// Plan, aslant, front or through: how a level of kit pieces is looked at. It lies in the upper right corner of the
// level view, and is seen only where the project has a kit.
#pragma once

#include <QWidget>
#include <array>

#include "app/solid/kit_bodies.hpp"
#include "app/solid/merged_mass.hpp"

class QLabel;
class QSlider;
class QToolButton;
class QVBoxLayout;

namespace vic::app {

class LevelView;
class Session;
class SolidView;

class SolidSwitch : public QWidget {
    Q_OBJECT
  public:
    SolidSwitch(Session& session, LevelView& view);
    enum class Look : std::uint8_t { plan, aslant, front, through };
    void look(Look how);
    [[nodiscard]] Look looks() const { return look_; }
    void refresh();
    [[nodiscard]] SolidView* view() { return solid_; } // null until it was looked at from there

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override; // the level view's size

  private:
    void settle();
    void place();
    Session& session_;
    LevelView& level_;
    KitBodies bodies_;
    MergedMass mass_;
    SolidView* solid_ = nullptr;
    Look look_ = Look::plan;
    void buildLight(QVBoxLayout* column);
    void light();
    void sayMerged();
    std::array<QToolButton*, 4> buttons_{};
    QWidget* lightBox_ = nullptr;
    QLabel* merged_ = nullptr;
    QSlider *hour_ = nullptr, *warmth_ = nullptr;
    QLabel *hourSays_ = nullptr, *warmthSays_ = nullptr;
};

} // namespace vic::app
