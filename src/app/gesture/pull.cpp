// Pulling a guide out of a ruler, along, or away; and dragging the frame by its tag.

#include <QCoreApplication>
#include <QImage>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QRect>
#include <QString>
#include <algorithm>
#include <cmath>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/gesture/tools.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "picture/backdrop.hpp"

namespace vic::app {

namespace {

constexpr int kPullGrip = 5; // screen pixels around a guide's sign on the ruler

class Pull : public Gesture {
  public:
    using Gesture::Gesture;
    bool besideLevel() const override { return true; }
    bool takes(const Pointer& at) const override {
        return at.left() && board_.ruler() > 0 && (onFrame(at) || !camera().area().contains(at.place.toPoint()));
    }
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override {
        guide_.reset();
        frame_ = false;
    }
    bool holds() const override { return false; }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    // What lies below the pointer is not what is pulled.
    Sentence sentence(const Pointer& at) const override { return {placeName(at)}; }

  private:
    void paintFrame(QPainter& painter) const;
    [[nodiscard]] bool onFrame(const Pointer& at) const;
    [[nodiscard]] std::optional<level::Guide> guideAt(QPointF place) const; // its sign on a ruler
    [[nodiscard]] int onLattice(int pixel, int cell, const Pointer& at) const {
        return at.shift() ? pixel : static_cast<int>(std::lround(double(pixel) / cell)) * cell;
    }
    std::optional<level::Guide> guide_; // none while the frame is dragged
    bool frame_ = false;                // whether that is dragged
    Point grip_;                        // from the pointer to the frame's corner
};

// Where something would be laid, laying goes first.
bool Pull::onFrame(const Pointer& at) const {
    const Stage stage = session().stage();
    const bool idle =
        session().hand().is<edit::held::Nothing>() || (!session().tool().dresses && !kindOf(session().tool()).lays);
    return idle && (stage == Stage::lay || stage == Stage::dress) && board_.frameTag().contains(at.place.toPoint());
}

std::optional<level::Guide> Pull::guideAt(QPointF place) const {
    const int ruler = board_.ruler();
    const bool top = place.y() < ruler && place.x() >= ruler;
    const bool left = place.x() < ruler && place.y() >= ruler;
    for (const level::Guide& g : board_.shown().guides) {
        const QPointF at = camera().onScreen(g.upright ? Point{g.at, 0} : Point{0, g.at});
        if (top && g.upright && std::abs(at.x() - place.x()) <= kPullGrip) return g;
        if (left && !g.upright && std::abs(at.y() - place.y()) <= kPullGrip) return g;
    }
    return std::nullopt;
}

bool Pull::press(const Pointer& at) {
    guide_.reset();
    frame_ = onFrame(at);
    if (frame_) {
        grip_ = board_.framePixels().corner() - pixelAt(at);
        return true;
    }
    if ((guide_ = guideAt(at.place))) {
        level::Level next = *session().level();
        std::erase(next.guides, *guide_);
        session().applyLevel(tr("Move a guide"), std::move(next), "guide");
        return true;
    }
    const int ruler = board_.ruler();
    if (at.place.x() < ruler && at.place.y() < ruler) return false;
    // From the upper ruler comes a level guide, from the left one an upright one.
    guide_ = level::Guide{at.place.x() < ruler, 0};
    move(at);
    return true;
}

void Pull::move(const Pointer& at) {
    const Point pixel = pixelAt(at);
    const Size cell = board_.shown().cell;
    if (guide_) {
        guide_->at = guide_->upright ? onLattice(pixel.x, cell.w, at) : onLattice(pixel.y, cell.h, at);
        return board_.drawAgain();
    }
    level::Level next = *session().level();
    next.frame_at = Point{onLattice(pixel.x + grip_.x, cell.w, at), onLattice(pixel.y + grip_.y, cell.h, at)};
    if (next.frame_at == session().level()->frame_at) return;
    session().applyLevel(tr("Move the frame"), std::move(next), "frame");
}

void Pull::release(const Pointer& at) {
    const auto guide = std::exchange(guide_, std::nullopt);
    frame_ = false;
    // Over a ruler it is put away.
    if (!guide || !camera().area().contains(at.place.toPoint())) return;
    level::Level next = *session().level();
    next.guides.push_back(*guide);
    std::sort(next.guides.begin(), next.guides.end());
    next.guides.erase(std::unique(next.guides.begin(), next.guides.end()), next.guides.end());
    session().applyLevel(tr("Place a guide"), std::move(next), "guide");
}

// What the game shows there, where some of it does not go along with the level as the rest does.
void Pull::paintFrame(QPainter& p) const {
    const level::Level& level = *session().level();
    const bool slides = std::any_of(level.layers.begin(), level.layers.end(), [](const level::LayerRef& l) {
        return l->shown && l->parallax != level::Layer().parallax;
    });
    if (!slides) return;
    picture::Canvas canvas(board_.framePixels());
    picture::draw_frame(session().project(), level, session().derived().art(), canvas);
    const QImage seen(reinterpret_cast<const uchar*>(canvas.pixels.data()), canvas.box.w, canvas.box.h,
                      canvas.box.w * 4, QImage::Format_RGB32);
    p.drawImage(camera().onScreen(canvas.box), seen);
}

void Pull::paint(QPainter& p, const std::optional<Pointer>&) const {
    if (frame_) paintFrame(p);
    if (!guide_) return;
    const QPointF at = camera().onScreen(guide_->upright ? Point{guide_->at, 0} : Point{0, guide_->at});
    const QRect a = camera().area();
    p.setPen(QPen(paper().brine, 1));
    if (guide_->upright)
        p.drawLine(QPointF(at.x() + 0.5, a.top()), QPointF(at.x() + 0.5, a.bottom()));
    else
        p.drawLine(QPointF(a.left(), at.y() + 0.5), QPointF(a.right(), at.y() + 0.5));
}

} // namespace

std::unique_ptr<Gesture> makePull(Board& board) { return std::make_unique<Pull>(board); }

} // namespace vic::app
