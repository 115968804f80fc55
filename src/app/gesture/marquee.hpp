// A box or a line drawn around cells, to choose them or to pick them up.
#pragma once

#include <optional>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "base/geometry.hpp"
#include "edit/clips.hpp"

class QPainter;

namespace vic::app {

class Marquee : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override;
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void cancel() override { drawn_.reset(); }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;

  protected:
    struct Drawn {
        enum class Mode { fresh, add, remove };
        Mode mode = Mode::fresh;
        Point from, last;
        std::vector<edit::Place> line; // of a lasso
    };
    [[nodiscard]] Box box() const { return spanning(drawn_->from, drawn_->last); }
    std::optional<Drawn> drawn_;
};

} // namespace vic::app
