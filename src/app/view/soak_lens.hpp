// Soak: a colour that runs from a place over all that the walker can be moved over, with the places where it leaks.
#pragma once

#include <QObject>
#include <QString>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "app/session/merged_mass.hpp"
#include "base/geometry.hpp"
#include "level/level.hpp"
#include "walk/soak.hpp"

class QPainter;
class QTransform;

namespace vic::level {
struct PropKind;
struct Sheet;
} // namespace vic::level

namespace vic::app {

class Camera;
class Session;

class SoakLens : public QObject {
    Q_OBJECT
  public:
    explicit SoakLens(Session& session);
    [[nodiscard]] bool on() const { return from_.has_value(); }
    [[nodiscard]] std::optional<Point> from() const { return from_; }
    // From the middle of the walker's foot, in 1/64 cells of the level; off without one.
    void pour(std::optional<Point> from, const level::Level& level);
    // The level is another one now, or a stroke is under way in it: small levels are soaked anew at once, large ones in
    // the background when `settled`. Nothing happens while it is off, or where nothing changed that matters.
    void follow(const level::Level& level, bool settled);
    void paint(QPainter& p, const Camera& camera, const Lattice& lattice) const;
    // What is to be said of the place (1/64 cells), and of all of it.
    [[nodiscard]] QString reading(Point at) const;
    [[nodiscard]] QString summary() const;
    [[nodiscard]] const walk::Soaked& soaked() const { return soaked_; }
    // In a level of pieces the colour runs over floors instead, up stairs and down from edges.
    struct Floors {
        std::shared_ptr<const SurveyedMass> of;
        std::optional<Point> from;
        upright::Soaked soaked;
    };
    [[nodiscard]] const std::optional<Floors>& floors() const { return floors_; }
    [[nodiscard]] bool asked() const { return asked_; } // it was poured just now, and does not follow a change
    [[nodiscard]] int turn() const { return turn_; } // another one whenever it was soaked anew

  signals:
    void soakedAnew(bool settled); // and not for what is only shown

  private:
    void take(walk::Soaked soaked, bool settled);
    void tell(bool settled);
    bool asked_ = false;
    [[nodiscard]] bool hasPieces();
    void takeFloors();
    [[nodiscard]] std::pair<int, int> heights() const; // of the storey that is worked on, in 1/64 cells
    [[nodiscard]] upright::Wet wetAt(Point sample) const;
    void paintWet(QPainter& p, const Camera& camera, const Lattice& lattice) const;
    void paintFrom(QPainter& p, const QTransform& units) const;
    Session& session_;
    std::optional<Point> from_;
    std::optional<Floors> floors_;
    int pouredOn_ = 0; // the height of the floor, in 1/64 cells
    struct Pieces {    // whether there are any follows from
        std::shared_ptr<const level::Level> level;
        std::vector<std::shared_ptr<const scene::LoadedKit>> kits;
        bool operator==(const Pieces&) const = default;
    };
    Pieces piecesOf_;
    bool pieces_ = false;
    int turn_ = 0;
    struct Of { // what it follows from
        std::optional<Point> from;
        std::vector<level::LayerRef> layers;
        std::vector<std::shared_ptr<const level::Sheet>> sheets;
        std::vector<std::shared_ptr<const level::PropKind>> kinds;
        level::Walker walker;
        level::LevelSides sides;
        level::PartsHere here;
        Size size;
        Size cell;
        bool operator==(const Of&) const = default;
    };
    Of of_;
    walk::Soaked soaked_;
    std::int64_t wetCells_ = 0;
};

} // namespace vic::app
