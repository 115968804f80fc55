// Moving the view: with the middle button or Space held, and by a click in the small map.

#include <QPointF>
#include <QRect>
#include <memory>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "base/geometry.hpp"

namespace vic::app {

namespace {

class Pan : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override {
        return at.button == Qt::MiddleButton || (at.left() && board_.spaceHeld());
    }
    bool press(const Pointer& at) override {
        last_ = at.place;
        board_.setPointerShape(Qt::ClosedHandCursor);
        return true;
    }
    void move(const Pointer& at) override {
        const QPointF by = at.place - last_;
        last_ = at.place;
        board_.centreOn(camera().centre() - by / camera().zoom());
    }
    void release(const Pointer&) override { cancel(); }
    void cancel() override { board_.setPointerShape(board_.spaceHeld() ? Qt::OpenHandCursor : Qt::ArrowCursor); }
    bool holds() const override { return false; }
    Sentence sentence(const Pointer&) const override { return {}; }

  private:
    QPointF last_;
};

class MapJump : public Gesture {
  public:
    using Gesture::Gesture;
    bool besideLevel() const override { return true; }
    bool takes(const Pointer& at) const override {
        return (at.left() || at.button == Qt::NoButton) && board_.mapPlace().contains(at.place.toPoint());
    }
    bool press(const Pointer& at) override {
        const QRect map = board_.mapPlace();
        const Box px = board_.mapPixels();
        const QPointF in = at.place - map.topLeft();
        board_.centreOn({px.x + in.x() / map.width() * px.w, px.y + in.y() / map.height() * px.h});
        return true;
    }
    void move(const Pointer& at) override { press(at); }
    bool holds() const override { return false; }
    Sentence sentence(const Pointer&) const override { return {}; }
};

} // namespace

std::unique_ptr<Gesture> makePan(Board& board) { return std::make_unique<Pan>(board); }
std::unique_ptr<Gesture> makeMapJump(Board& board) { return std::make_unique<MapJump>(board); }

} // namespace vic::app
