// Rectangle and ellipse: what fills the box that one drags, or its rim. A stamp is stretched or repeated over it.

#include <memory>

#include "app/gesture/gesture.hpp"
#include "app/gesture/lay.hpp"
#include "app/gesture/stamp_lay.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"

namespace vic::app {

namespace {

class BoxLay : public LayGesture {
  public:
    BoxLay(Board& board, bool round) : LayGesture(board), round_(round), single_(board) {}

    bool preview(const Pointer& at) override {
        if (!stamps(handFor(Qt::NoButton))) return LayGesture::preview(at);
        const bool shown = single_.preview(at);
        found_.noLayer = single_.layersWithoutPlace();
        return shown;
    }
    Sentence sentence(const Pointer& at) const override {
        return stamps(handFor(at.button)) ? single_.sentence(at) : LayGesture::sentence(at);
    }

  protected:
    level::Region cellsOf(const Stroke& stroke, Point to, const Pointer&) const override {
        if (stamps(stroke.hand)) return {};
        const Box box = spanning(stroke.from, to);
        const bool rim = session().options().rim;
        if (!round_) return rim ? level::Region(edit::box_rim(box)) : level::Region(box);
        return level::Region(rim ? edit::ellipse_rim(box) : edit::ellipse_cells(box));
    }
    void layOnto(const level::Level& onto, const level::Region& cells, const Pointer& at) override {
        if (!stamps(stroke_->hand)) return LayGesture::layOnto(onto, cells, at);
        const Box box = spanning(stroke_->from, stroke_->last);
        layStamp(onto, stampFor(stroke_->hand, box), box.corner(), at);
    }
    bool needsTarget(const edit::Hand& hand) const override { return !stamps(hand); }
    Box marked(Point cell) const override {
        if (stroke_) return spanning(stroke_->from, cell);
        return stamps(session().hand()) ? single_.marked(cell) : LayGesture::marked(cell);
    }

  private:
    // Over a box; the ellipse lays a stamp as it is.
    [[nodiscard]] bool stamps(const edit::Hand& hand) const { return !round_ && hand.is<edit::held::Stamp>(); }
    bool round_;
    StampLay single_; // what is shown before the box is drawn
};

} // namespace

std::unique_ptr<Gesture> makeRectangle(Board& board) { return std::make_unique<BoxLay>(board, false); }
std::unique_ptr<Gesture> makeEllipse(Board& board) { return std::make_unique<BoxLay>(board, true); }

} // namespace vic::app
