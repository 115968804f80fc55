// Picking up: what lies under the pointer comes into the Hand, or all in the box that one drags, as a stamp.

#include <QCoreApplication>
#include <QString>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/gesture/marquee.hpp"
#include "app/gesture/tools.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "base/geometry.hpp"
#include "edit/clips.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"

namespace vic::app {

namespace {

// Blockers and facts are picked up only where one is at work on them: they are not seen.
level::LayerId pickedFirst(const Session& session) {
    const level::Layer* active = session.activeLayer();
    return active && (active->blockers() || active->facts()) ? active->id : 0;
}

void pickUp(Session& session, Point cell) {
    const auto found = edit::pick(session.project(), session.work(), cell, pickedFirst(session));
    if (!found) {
        emit session.said(Gesture::tr("There is nothing to pick up here"), true);
        return;
    }
    edit::Hand hand = found->hand;
    hand.size = session.hand().size;
    hand.round = session.hand().round;
    session.setActiveLayer(found->layer);
    session.setHand(hand);
    if (session.tool() == Tool::pick || session.tool() == Tool::eraser) session.setTool(Tool::pencil);
}

QString pickSentence(const Session& session, Point cell, const QString& at) {
    const level::Level level = session.work();
    const auto found = edit::pick(session.project(), level, cell, pickedFirst(session));
    if (!found) return Gesture::tr("Nothing to pick up in %1").arg(at);
    const level::Layer* layer = level.layer(found->layer);
    return Gesture::tr("Picks up %1 from %2, %3")
        .arg(bold(translated(edit::name_at(session.project(), *layer, cell))),
             bold(QString::fromStdString(layer->name)), at);
}

class Pick : public Marquee {
  public:
    using Marquee::Marquee;
    void release(const Pointer&) override {
        const Box cells = intersection(box(), session().work().cells());
        const Drawn drawn = *std::exchange(drawn_, std::nullopt);
        if (drawn.from == drawn.last)
            pickUp(session(), drawn.from);
        else if (!cells.empty())
            pickSeveral(cells);
    }
    std::optional<level::Region> chosen() const override {
        return drawn_ ? std::optional(level::Region(intersection(box(), session().work().cells()))) : std::nullopt;
    }
    Sentence sentence(const Pointer& at) const override {
        if (drawn_) return {tr("Picks up <b>%1 × %2</b> cells").arg(box().w).arg(box().h)};
        if (const auto outside = beyond(at)) return *outside;
        return {pickSentence(session(), cellAt(at), placeName(at))};
    }

  private:
    void pickSeveral(const Box& cells) {
        const level::Level seen = session().seen(session().work());
        level::Stamp stamp = edit::take(seen, level::Region(cells), edit::concerned(seen, 0, true));
        if (stamp.layers.empty()) return emit session().said(tr("There is nothing to pick up here"), true);
        edit::Hand hand{edit::held::Stamp{std::make_shared<const level::Stamp>(std::move(stamp))}};
        session().setHand(hand);
        session().setTool(Tool::pencil);
    }
};

// Alt+click with whatever lays.
class PickUp : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override {
        return at.alt() && (at.left() || at.button == Qt::NoButton) && laysCells(session().stage()) &&
               kindOf(session().tool()).lays;
    }
    bool press(const Pointer& at) override {
        pickUp(session(), cellAt(at));
        return false;
    }
    Sentence sentence(const Pointer& at) const override {
        if (const auto outside = beyond(at)) return *outside;
        return {pickSentence(session(), cellAt(at), placeName(at))};
    }
};

} // namespace

std::unique_ptr<Gesture> makePick(Board& board) { return std::make_unique<Pick>(board); }
std::unique_ptr<Gesture> makePickUp(Board& board) { return std::make_unique<PickUp>(board); }

} // namespace vic::app
