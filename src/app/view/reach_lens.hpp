// Reach: on which surfaces of a level seen from the side one can stand, which of them the walker gets to, and where he
// lands from the one that is pointed at.
#pragma once

#include <QObject>
#include <QString>
#include <memory>
#include <optional>
#include <vector>

#include "base/geometry.hpp"
#include "level/project.hpp"
#include "walk/reach.hpp"

class QPainter;

namespace vic::app {

class Camera;
class Session;

class ReachLens : public QObject {
    Q_OBJECT
  public:
    explicit ReachLens(Session& session) : session_(session) {}
    [[nodiscard]] bool on() const { return on_; }
    void setOn(bool on, const level::Level& level);
    // The level is another one now, or a stroke is under way in it: small levels are looked at anew at once, large ones
    // in the background when `settled`. Nothing happens while it is off, or where nothing changed that matters.
    void follow(const level::Level& level, bool settled);
    // The place that is pointed at, in 1/64 cells: where he lands from its ledge is shown.
    void point(std::optional<Point> place);
    // A cell that would bring something within reach.
    // Cells that would be filled, and those to which something would be moved.
    void setGhost(std::vector<Point> filled, std::vector<Point> moved);
    void paint(QPainter& p, const Camera& camera, const Lattice& lattice) const;
    [[nodiscard]] QString reading(Point at) const; // 1/64 cells
    [[nodiscard]] QString summary() const;
    [[nodiscard]] const walk::Reach* reach() const { return reach_.get(); } // null while it is off, or not known yet

  signals:
    void reachedAnew();

  private:
    struct Of { // what it follows from
        std::vector<level::LayerRef> layers;
        std::vector<level::Mark> marks;
        std::vector<std::shared_ptr<const level::Sheet>> sheets;
        std::vector<std::shared_ptr<const level::PropKind>> kinds;
        std::vector<level::AreaKind> areas;
        level::Walker walker;
        level::LevelSides sides;
        level::PartsHere here;
        Size size;
        bool operator==(const Of&) const = default;
    };
    void take(std::shared_ptr<walk::Reach> reach);
    [[nodiscard]] bool followed(const Of& of, const level::Level& level);
    level::Level at_; // of which reach_ is
    void paintStrips(QPainter& p, const Camera& camera, const Lattice& lattice) const;
    void paintHalo(QPainter& p, const Camera& camera, const Lattice& lattice) const;
    Session& session_;
    bool on_ = false;
    Of of_;
    std::shared_ptr<walk::Reach> reach_;
    std::optional<Point> pointed_;
    std::optional<std::size_t> ledge_;
    std::vector<walk::Strip> halo_;
    std::vector<Point> ghost_, moved_;
};

} // namespace vic::app
