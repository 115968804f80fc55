#include "app/gesture/stamp_lay.hpp"

#include <QCoreApplication>
#include <QString>
#include <memory>
#include <optional>

#include "app/gesture/tools.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "edit/clips.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/stamp.hpp"

namespace vic::app {

namespace {

// Where the stamp's first cell lies if it is laid around a cell.
Point cornerOf(const level::Stamp& stamp, Point cell) {
    return cell - Point{(stamp.size.w - 1) / 2, (stamp.size.h - 1) / 2};
}

} // namespace

bool StampLay::takes(const Pointer& at) const {
    const Tool& tool = session().tool();
    return LayGesture::takes(at) && at.button != Qt::RightButton && session().hand().is<edit::held::Stamp>() &&
           kindOf(tool).lays && tool != Tool::eraser && tool != Tool::rectangle;
}

bool StampLay::preview(const Pointer& at) {
    found_ = {};
    const edit::Hand hand = session().hand();
    const level::Stamp what = stampFor(hand, std::nullopt);
    const edit::Stamped laid =
        edit::stamp(session().project(), session().derived().rules(), session().seen(session().work()), what,
                    {cornerOf(what, cellAt(at)), session().activeLayerId(),
                     at.control() ? session().activeLayerId() : 0, hand.as<edit::held::Stamp>()->pins});
    found_.noLayer = laid.no_layer;
    board_.show(session().withWork(laid.level));
    return true;
}

void StampLay::layOnto(const level::Level& onto, const level::Region&, const Pointer& at) {
    const level::Stamp what = stampFor(stroke_->hand, std::nullopt);
    layStamp(onto, what, cornerOf(what, stroke_->last), at);
}

Sentence StampLay::sentence(const Pointer& at) const {
    if (const auto outside = beyond(at)) return *outside;
    const edit::Hand& hand = session().hand();
    if (!hand.is<edit::held::Stamp>()) return {};
    const level::Stamp& s = *hand.stamp();
    const QString what = s.name.empty() ? tr("what was copied") : QString::fromStdString(s.name);
    if (found_.noLayer == static_cast<int>(s.layers.size()))
        return {tr("%1 has no layer here that could take it: it is locked, hidden or missing").arg(bold(what)), true};
    QString text = tr("Lays %1, %2 × %3 cells, %4").arg(bold(what)).arg(s.size.w).arg(s.size.h).arg(placeName(at));
    text += hand.as<edit::held::Stamp>()->pins ? tr(" · as it was taken") : tr(" · joins anew at its rim");
    if (found_.noLayer > 0) text += tr(" · %1 of its layers are locked, hidden or missing").arg(found_.noLayer);
    return {text, found_.noLayer > 0};
}

Box StampLay::marked(Point cell) const {
    if (!session().hand().is<edit::held::Stamp>()) return LayGesture::marked(cell);
    const level::Stamp what = stampFor(session().hand(), std::nullopt);
    const Point corner = cornerOf(what, cell);
    return {corner.x, corner.y, what.size.w, what.size.h};
}

std::unique_ptr<Gesture> makeStampLay(Board& board) { return std::make_unique<StampLay>(board); }

} // namespace vic::app
