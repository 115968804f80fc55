// Small drawings of what the walker's settings mean.
#pragma once

#include <QWidget>
#include <cstdint>

class QPaintEvent;

namespace vic::app {

enum class Setting : std::uint8_t {
    run,
    least_jump,
    wall_jump,
    gravity,
    fastest,
    climb,
    swim,
    grace_edge,
    grace_landing,
    foot,
    ways
};

// The walker is a box in vermilion, the ground ink, his way a dotted line.
class SettingSign : public QWidget {
  public:
    SettingSign(Setting setting, QWidget* parent);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    Setting setting_;
};

} // namespace vic::app
