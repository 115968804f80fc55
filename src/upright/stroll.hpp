// Walking in height: a body in Bullet's physics among what is merged. All lengths are in cells, y up.
#pragma once

#include <array>
#include <memory>

#include "level/depth.hpp"
#include "mass/shell.hpp"
#include "upright/ground.hpp"

namespace vic::upright {

// What one walks in: made once for a state of a level, and shared by all who walk there. It cannot be copied.
class Terrain {
  public:
    // `metres`: of a cell.
    Terrain(const mass::Shell& shell, const mass::Plain& plain, double metres);
    ~Terrain();
    Terrain(const Terrain&) = delete;
    Terrain& operator=(const Terrain&) = delete;
    struct Inside;
    [[nodiscard]] Inside& inside() const { return *in_; }

  private:
    std::unique_ptr<Inside> in_;
};

// One who walks there. A capsule, as Bullet's character controller moves it (E. Coumans and others), in steps of a 60th
// of a second. The terrain must outlive it.
class Stroll {
  public:
    // `foot`: where it stands at the beginning.
    Stroll(const Terrain& terrain, const level::Upright& upright, std::array<double, 3> foot);
    ~Stroll();
    Stroll(const Stroll&) = delete;
    Stroll& operator=(const Stroll&) = delete;

    // One 60th of a second: to the east and the south, of any length up to 1.
    void step(double east, double south, bool jumps);
    [[nodiscard]] std::array<double, 3> foot() const;
    [[nodiscard]] bool stands() const;                  // on something
    [[nodiscard]] double eyes() const { return eyes_; } // above the foot
    void put(std::array<double, 3> foot);

  private:
    struct Inside;
    std::unique_ptr<Inside> in_;
    double eyes_;
};

} // namespace vic::upright
