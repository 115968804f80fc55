// Select and go round: choosing cells, and moving what is chosen.

#include <QCoreApplication>
#include <QLocale>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QString>
#include <QTransform>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/gesture/marquee.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/text.hpp"
#include "edit/clips.hpp"
#include "level/level.hpp"
#include "level/region.hpp"

namespace vic::app {

namespace {

class Select : public Marquee {
  public:
    Select(Board& board, bool goesRound) : Marquee(board), goesRound_(goesRound) {}

    bool press(const Pointer& at) override {
        const Point cell = cellAt(at);
        if (!at.shift() && !at.alt() && session().selection().contains(cell)) {
            moving_ = Moving{cell, cell, {session().work(), session().project().next_id, {}, 0, 0, 0}};
            return true;
        }
        return Marquee::press(at);
    }
    void move(const Pointer& at) override {
        if (!moving_) return Marquee::move(at);
        const Point cell = cellAt(at);
        if (cell == moving_->last) return;
        moving_->last = cell;
        moving_->moved =
            edit::moved(session().project(), session().derived().rules(), session().seen(session().work()),
                        session().selection(), session().selectedLayers(), by(), session().options().allLayers);
        board_.show(session().withWork(moving_->moved.level));
    }
    void release(const Pointer&) override {
        if (moving_) return drop();
        level::Region cells = all();
        const Drawn drawn = *std::exchange(drawn_, std::nullopt);
        // A click beside the selection drops it.
        const bool click = drawn.from == drawn.last && drawn.mode == Drawn::Mode::fresh;
        if (click && !session().selection().empty()) cells.clear();
        session().setSelection(std::move(cells));
    }
    void cancel() override {
        Marquee::cancel();
        moving_.reset();
    }
    std::optional<level::Region> chosen() const override {
        if (moving_) return session().selection().moved(by());
        return drawn_ ? std::optional(all()) : std::nullopt;
    }
    void paint(QPainter& p, const std::optional<Pointer>& at) const override {
        if (!moving_) Marquee::paint(p, at);
        if (!drawn_ || !goesRound_) return;
        const QTransform corners = camera().cellsToScreen(grain());
        QPolygonF line;
        for (const edit::Place& place : drawn_->line) line << corners.map(QPointF(place.x, place.y));
        p.setPen(QPen(paper().brine, 1.5));
        p.setRenderHint(QPainter::Antialiasing);
        p.drawPolyline(line);
    }
    Sentence sentence(const Pointer& at) const override;

  private:
    struct Moving {
        Point from, last;
        edit::Stamped moved;
    };
    [[nodiscard]] Point by() const { return moving_->last - moving_->from; }
    [[nodiscard]] level::Region all() const;
    void drop();
    bool goesRound_;
    std::optional<Moving> moving_;
};

// What is drawn, with what was chosen before or without it.
level::Region Select::all() const {
    const Box level = session().work().cells();
    level::Region cells = goesRound_ ? edit::lasso(drawn_->line, level) : level::Region(intersection(box(), level));
    if (drawn_->mode == Drawn::Mode::fresh) return cells;
    level::Region all = session().selection();
    if (drawn_->mode == Drawn::Mode::add)
        all.add(cells);
    else
        all.remove(cells);
    return all;
}

void Select::drop() {
    const Point way = by();
    const Moving moving = *std::exchange(moving_, std::nullopt);
    if (way == Point{}) { // a click: nothing is selected any more
        session().setSelection({});
        return;
    }
    level::Level next = moving.moved.level;
    for (const level::LayerRef& l : session().work().layers)
        if (next.layer(l->id)->shown != l->shown) next.edit(l->id).shown = l->shown;
    level::Region there = session().selection().moved(way);
    session().applyWork(tr("Move what is selected"), next, moving.moved.next_id);
    session().setSelection(std::move(there));
}

Sentence Select::sentence(const Pointer& at) const {
    if (moving_)
        return {translated(say_count(session().selection().count(), "Moves one cell by <b>%1, %2</b>",
                                     "Moves %n cells by <b>%1, %2</b>", by().x, by().y))};
    const QString place = placeName(at);
    if (drawn_)
        return {goesRound_ ? tr("Selects what the line goes round, %1").arg(place)
                           : tr("Selects <b>%1 × %2</b> cells").arg(box().w).arg(box().h)};
    if (const auto outside = beyond(at)) return *outside;
    const level::Layer* active = session().activeLayer();
    const QString where = session().options().allLayers
                              ? tr("on all shown layers")
                              : tr("on %1").arg(QString::fromStdString(active ? active->name : ""));
    if (session().selection().empty())
        return {tr("Drag to select %1 · Shift adds, Alt takes away · %2").arg(where, place)};
    return {tr("<b>%1</b> cells selected %2 · drag moves them · %3")
                .arg(QLocale().toString(session().selection().count()))
                .arg(where, place)};
}

} // namespace

std::unique_ptr<Gesture> makeSelect(Board& board) { return std::make_unique<Select>(board, false); }
std::unique_ptr<Gesture> makeLasso(Board& board) { return std::make_unique<Select>(board, true); }

} // namespace vic::app
