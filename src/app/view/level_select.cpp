// Selecting in the level view: boxes, lassos, moving what is selected, and what is picked up or laid as a stamp.

#include <QLocale>
#include <QMouseEvent>
#include <QPointF>
#include <QString>
#include <memory>
#include <optional>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "base/text.hpp"
#include "edit/clips.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/stamp.hpp"

namespace vic::app {

level::Region LevelView::marqueeCells() const {
    const Box level = session_.work().cells();
    level::Region cells = marquee_->tool == Tool::lasso
                              ? edit::lasso(marquee_->line, level)
                              : level::Region(intersection(spanning(marquee_->from, marquee_->last), level));
    if (marquee_->mode == Marquee::Mode::fresh) return cells;
    level::Region all = session_.selection();
    if (marquee_->mode == Marquee::Mode::add)
        all.add(cells);
    else
        all.remove(cells);
    return all;
}

void LevelView::pressSelect(QMouseEvent* event, Point cell) {
    const Tool tool = session_.tool();
    const bool add = (event->modifiers() & Qt::ShiftModifier) != 0;
    const bool remove = (event->modifiers() & Qt::AltModifier) != 0 && tool != Tool::pick;
    if (tool != Tool::pick && !add && !remove && session_.selection().contains(cell)) {
        const auto layers = session_.selectedLayers();
        moving_ = Moving{cell, cell, {session_.work(), session_.project().next_id, {}, 0, 0, 0}};
        return;
    }
    marquee_ = Marquee{tool,
                       add      ? Marquee::Mode::add
                       : remove ? Marquee::Mode::remove
                                : Marquee::Mode::fresh,
                       cell,
                       cell,
                       {}};
    moveSelect(event->position());
}

void LevelView::moveSelect(QPointF place) {
    const Point cell = cellAt(place);
    if (moving_) {
        if (cell == moving_->last) return;
        moving_->last = cell;
        moving_->moved = edit::moved(session_.project(), session_.rules(), session_.seen(session_.work()),
                                     session_.selection(), session_.selectedLayers(), moving_->last - moving_->from);
        show(session_.withWork(moving_->moved.level));
        return;
    }
    marquee_->last = cell;
    if (marquee_->tool == Tool::lasso) {
        const QPointF p = origin_ + (place - area().topLeft()) / zoom();
        const CellPlace at = grain().place_of(p.x(), p.y());
        marquee_->line.push_back({at.x, at.y});
    }
    update();
}

void LevelView::releaseSelect() {
    if (moving_) {
        Moving moving = std::move(*moving_);
        moving_.reset();
        const Point by = moving.last - moving.from;
        if (by == Point{}) { // a click: nothing is selected any more
            session_.setSelection({});
            return;
        }
        level::Level next = moving.moved.level;
        for (const level::LayerRef& l : session_.work().layers)
            if (next.layer(l->id)->shown != l->shown) next.edit(l->id).shown = l->shown;
        level::Region there = session_.selection().moved(by);
        session_.applyWork(tr("Move what is selected"), next, moving.moved.next_id);
        session_.setSelection(std::move(there));
        return;
    }
    const Marquee marquee = *marquee_;
    level::Region cells = marqueeCells();
    if (marquee.tool == Tool::pick) {
        if (marquee.from == marquee.last) {
            marquee_.reset();
            pick(marquee.from);
        } else {
            pickSeveral();
            marquee_.reset();
        }
        return;
    }
    marquee_.reset();
    // A click beside the selection drops it.
    const bool click = marquee.from == marquee.last && marquee.mode == Marquee::Mode::fresh;
    if (click && !session_.selection().empty()) cells.clear();
    session_.setSelection(std::move(cells));
}

void LevelView::pickSeveral() {
    const Box box = intersection(spanning(marquee_->from, marquee_->last), session_.work().cells());
    if (box.empty()) return;
    const level::Level seen = session_.seen(session_.work());
    level::Stamp stamp = edit::take(seen, level::Region(box), edit::concerned(seen, 0, true));
    if (stamp.layers.empty()) return emit session_.said(tr("There is nothing to pick up here"), true);
    edit::Hand hand;
    hand.kind = edit::Hand::Kind::stamp;
    hand.stamp = std::make_shared<const level::Stamp>(std::move(stamp));
    session_.setHand(hand);
    session_.setTool(Tool::pencil);
}

Point LevelView::stampCorner(const level::Stamp& stamp, Point cell) const {
    return cell - Point{(stamp.size.w - 1) / 2, (stamp.size.h - 1) / 2};
}

level::Stamp LevelView::stampFor(const edit::Hand& hand, const std::optional<Box>& box) const {
    level::Stamp what = hand.turn.code == 0
                            ? *hand.stamp
                            : edit::turned(session_.project(), *hand.stamp, geometry().of_places(hand.turn));
    if (!box) return what;
    return what.nine ? edit::stretched(what, box->size()) : edit::patterned(what, *box);
}

QString LevelView::selectSentence(Point, const QString& at) const {
    const QLocale locale;
    if (moving_) {
        const Point by = moving_->last - moving_->from;
        return translated(say_count(session_.selection().count(), "Moves one cell by <b>%1, %2</b>",
                                    "Moves %n cells by <b>%1, %2</b>", by.x, by.y));
    }
    if (marquee_) {
        const Box box = spanning(marquee_->from, marquee_->last);
        if (marquee_->tool == Tool::pick) return tr("Picks up <b>%1 × %2</b> cells").arg(box.w).arg(box.h);
        if (marquee_->tool == Tool::lasso) return tr("Selects what the line goes round, %1").arg(at);
        return tr("Selects <b>%1 × %2</b> cells").arg(box.w).arg(box.h);
    }
    const level::Layer* active = session_.activeLayer();
    const QString where = session_.options().allLayers
                              ? tr("on all shown layers")
                              : tr("on %1").arg(QString::fromStdString(active ? active->name : ""));
    if (session_.selection().empty()) return tr("Drag to select %1 · Shift adds, Alt takes away · %2").arg(where, at);
    return tr("<b>%1</b> cells selected %2 · drag moves them · %3")
        .arg(locale.toString(session_.selection().count()))
        .arg(where, at);
}

} // namespace vic::app
