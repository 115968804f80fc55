// The middle of Walk: the level as an engine has it, with a walker in it.
#pragma once

#include <QString>
#include <QTemporaryDir>
#include <QWidget>
#include <cstdint>
#include <exception>
#include <memory>
#include <optional>
#include <vector>

#include "base/geometry.hpp"
#include "edit/pins.hpp"
#include "level/cell.hpp"
#include "walk/world.hpp"

namespace vic::level {
struct Level;
} // namespace vic::level

namespace vic::player {
class ParcelView;
} // namespace vic::player

namespace vic::app {

class Session;

// Builds the level into a folder of its own, reads it back through the runtime and lets one walk in it.
class WalkCentre : public QWidget {
    Q_OBJECT
  public:
    WalkCentre(Session& session, QWidget* parent);
    void enter();
    // The next try begins there (cells), until Walk is left.
    void beginAt(walk::Position foot);
    void leave();
    [[nodiscard]] player::ParcelView* view() const { return view_; }
    [[nodiscard]] QString reading() const;
    // What came to pass in the try, or in the last one where this has just begun, with the reasons.
    [[nodiscard]] std::vector<edit::Pin> pins() const;
    // Whether the level's proofs held when it was built, in their order.
    [[nodiscard]] const std::vector<bool>& held() const { return held_; }
    // The try, as it was so far, becomes a proof of the level.
    void keepTry();
    void forgetProof(std::uint32_t id);

  signals:
    void readingChanged();
    // The walker falls through what looks like ground; the try was stopped.
    void fallsThrough(vic::level::MaterialId ground);

  private:
    void refuse(const std::exception& trouble);
    void watchFall();
    void goOn(int side);
    [[nodiscard]] level::MaterialId groundAt(Point cell) const; // that blocks nothing; 0: none
    Session& session_;
    player::ParcelView* view_;
    std::unique_ptr<QTemporaryDir> dir_;
    std::shared_ptr<const level::Level> built_;
    std::vector<bool> held_;
    bool active_ = false;
    int fallen_ = 0;                // ticks since the walker stood
    level::MaterialId through_ = 0; // what it fell through meanwhile
};

} // namespace vic::app
