// Walking through a level of kit pieces, in the view that shows it: what is seen is seen through the walker's eyes.
#pragma once

#include <QBasicTimer>
#include <QElapsedTimer>
#include <QObject>
#include <QPointF>
#include <QVector3D>
#include <array>
#include <memory>
#include <optional>

#include "app/session/merged_mass.hpp"
#include "upright/stroll.hpp"

class QTimerEvent;

namespace vic::app {

class SolidStroll : public QObject {
    Q_OBJECT
  public:
    [[nodiscard]] bool on() const { return on_; }
    // From a place (cells) on that height, looking so many degrees to the right of the north.
    void begin(QPointF cells, double height, float heading);
    void end();
    // What is walked on is that now; he goes on where he is.
    void follow(const std::shared_ptr<const WalkedMass>& mass, const level::Upright& upright);
    // Whether the key is one of his.
    bool key(int key, bool down);
    [[nodiscard]] static bool isKey(int key);
    void turnBy(float degrees, float down);
    // Whether he is seen as the game shows it, by an eye that looks so many degrees to the right of the north: then he
    // goes where the keys point on the screen. Nothing: through his own eyes.
    void seenFrom(std::optional<float> heading);
    [[nodiscard]] bool seenByGame() const { return game_.has_value(); }
    [[nodiscard]] bool walks() const { return walker_ != nullptr; } // what he walks on is there
    [[nodiscard]] float tall() const;                               // cells, up to a little above his eyes
    [[nodiscard]] QVector3D eye() const;                            // cells
    [[nodiscard]] std::array<double, 3> foot() const;
    [[nodiscard]] float heading() const { return heading_; }
    [[nodiscard]] float down() const { return down_; }
    void step(); // one tick by hand

  signals:
    void moved();

  protected:
    void timerEvent(QTimerEvent* event) override;

  private:
    bool on_ = false;
    std::array<double, 3> from_{};
    std::shared_ptr<const WalkedMass> mass_; // outlives the walker
    std::optional<level::Upright> upright_;
    std::unique_ptr<upright::Stroll> walker_;
    std::optional<float> game_;
    float heading_ = 0, down_ = 0;
    bool forward_ = false, back_ = false, left_ = false, right_ = false, jump_ = false;
    QBasicTimer timer_;
    QElapsedTimer clock_;
    qint64 behind_ = 0; // nanoseconds that have passed and were not yet played
};

} // namespace vic::app
