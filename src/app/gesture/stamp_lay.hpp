// A stamp in the Hand is laid as it is, whatever the tool, around the pointer.
#pragma once

#include "app/gesture/gesture.hpp"
#include "app/gesture/lay.hpp"
#include "base/geometry.hpp"
#include "level/region.hpp"

namespace vic::edit {
struct Hand;
} // namespace vic::edit

namespace vic::level {
struct Level;
} // namespace vic::level

namespace vic::app {

struct Pointer;

class StampLay : public LayGesture {
  public:
    using LayGesture::LayGesture;
    bool takes(const Pointer& at) const override;
    bool preview(const Pointer& at) override;
    Sentence sentence(const Pointer& at) const override;
    Box marked(Point cell) const override;
    [[nodiscard]] int layersWithoutPlace() const { return found_.noLayer; }

  protected:
    level::Region cellsOf(const Stroke&, Point, const Pointer&) const override { return {}; }
    void layOnto(const level::Level& onto, const level::Region& cells, const Pointer& at) override;
    bool needsTarget(const edit::Hand&) const override { return false; }
};

} // namespace vic::app
