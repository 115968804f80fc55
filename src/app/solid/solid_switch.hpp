// Plan, aslant, front, through, or as the game shows it: how a level of kit pieces is looked at. It lies in the upper
// right corner of the level view, and is seen only where the project has a kit.
#pragma once

#include <QPointF>
#include <QWidget>
#include <array>
#include <optional>

#include "app/session/kit_bodies.hpp"
#include "app/session/merged_mass.hpp"

class QToolButton;

namespace vic::app {

class LevelView;
class LightCard;
class Session;
class SolidView;

class SolidSwitch : public QWidget {
    Q_OBJECT
  public:
    SolidSwitch(Session& session, LevelView& view);
    enum class Look : std::uint8_t { plan, aslant, front, through, game };
    void look(Look how);
    [[nodiscard]] Look looks() const { return look_; }
    void refresh();
    // Walks there, where it is not the plan that is seen; whether it did.
    bool toggleWalk();
    // Walk's page: from the start, in the look that is chosen, until setWalking(false) or Esc. Only where that is not
    // the plan.
    void setWalking(bool on, std::optional<QPointF> from = std::nullopt);
    [[nodiscard]] SolidView* view() { return solid_; } // null until it was looked at from there

  signals:
    void walked(); // Esc ended it
    void looked(); // another look

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override; // the level view's size

  private:
    void settle();
    void place();
    Session& session_;
    LevelView& level_;
    SolidView* solid_ = nullptr;
    Look look_ = Look::plan;
    bool walking_ = false;
    void sayMerged();
    std::array<QToolButton*, 5> buttons_{};
    LightCard* light_ = nullptr;
};

} // namespace vic::app
