// A try in the level view itself: one walks while one paints, with the arrow keys, and what is painted is what one
// walks on.
#pragma once

#include <QBasicTimer>
#include <QElapsedTimer>
#include <QObject>
#include <memory>
#include <optional>
#include <vector>

#include "level/level.hpp"
#include "walk/world.hpp"

class QTimerEvent;

namespace vic::app {

class Session;

class LiveTry : public QObject {
    Q_OBJECT
  public:
    explicit LiveTry(Session& session) : session_(session) {}
    [[nodiscard]] bool on() const { return on_; }
    // From there (cells), or from the level's start.
    void start(const level::Level& level, std::optional<walk::Position> from);
    void stop();
    // The level is another one now: its physics is made in the background, and the walker goes on in it.
    void follow(const level::Level& level);
    // Whether the key is one of those that he is moved by.
    bool key(int key, bool down);
    // Where the pointer is (cells): there a walker that goes all ways is led while Space is held.
    void point(std::optional<walk::Position> at) { pointed_ = at; }
    [[nodiscard]] walk::Position foot() const;
    [[nodiscard]] bool walks() const { return world_ != nullptr; } // the physics is there
    void step();                                                   // one tick by hand

  signals:
    void moved();
    void fell(); // out of the level; he begins again

  protected:
    void timerEvent(QTimerEvent* event) override;

  private:
    void take(std::shared_ptr<const vicinum::Level> bones);
    Session& session_;
    bool on_ = false;
    struct Of { // what the physics follows from
        std::vector<level::LayerRef> layers;
        level::Walker walker;
        level::LevelSides sides;
        level::PartsHere here;
        bool operator==(const Of&) const = default;
    };
    std::optional<Of> of_; // that it is made of, or will be
    std::optional<walk::Position> from_;
    std::shared_ptr<const vicinum::Level> bones_;
    std::unique_ptr<walk::World> world_;
    walk::Input input_;
    bool leads_ = false;
    std::optional<walk::Position> pointed_;
    QBasicTimer timer_;
    QElapsedTimer clock_;
    qint64 behind_ = 0; // nanoseconds that have passed and were not yet played
};

} // namespace vic::app
