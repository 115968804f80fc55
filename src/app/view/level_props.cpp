// Props and marks under the pointer: placed, dragged, removed.

#include <QMouseEvent>
#include <QPointF>
#include <QString>
#include <string>
#include <utility>

#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/project.hpp"

namespace vic::app {

void LevelView::pressProps(QMouseEvent* event, Point pixel) {
    const level::Level& level = *session_.level();
    const Point cell = cellAt(event->position());
    const bool left = event->button() == Qt::LeftButton;
    if (session_.tool() != Tool::props && left) {
        if (!level.cells().contains(cell)) return;
        level::Project p = session_.project();
        const auto kind = session_.tool() == Tool::start  ? level::MarkKind::start
                          : session_.tool() == Tool::exit ? level::MarkKind::exit
                                                          : level::MarkKind::note;
        const std::string name = kind == level::MarkKind::start  ? tr("Start").toStdString()
                                 : kind == level::MarkKind::exit ? tr("Exit").toStdString()
                                                                 : tr("Mark").toStdString();
        const level::MarkId id = p.next_id++;
        p.put(edit::place_mark(level, id, kind, name, cell));
        session_.apply(tr("Place the mark %1").arg(QString::fromStdString(name)), std::move(p));
        session_.setTool(Tool::props);
        return;
    }
    if (session_.hand().kind == edit::Hand::Kind::prop && left) {
        const edit::Target target =
            edit::target_of(session_.project(), level, session_.hand(), session_.activeLayerId(), false);
        if (target.obstacle != edit::Obstacle::none) {
            emit session_.said(reading_.text, true);
            return;
        }
        level::Project p = session_.project();
        const bool free = (event->modifiers() & Qt::ShiftModifier) != 0;
        level::Level next =
            edit::add_prop(level, target.layer,
                           {p.next_id++, session_.hand().prop, free ? pixel : edit::snapped(level, pixel),
                            session_.hand().turn.mirrored()});
        const QString name = QString::fromStdString(p.prop_kind(session_.hand().prop)->name);
        p.put(std::move(next));
        session_.apply(tr("Place %1").arg(name), std::move(p));
        return;
    }
    const auto hit = edit::prop_at(session_.project(), level, pixel);
    if (!left) {
        if (const level::Mark* mark = hit ? nullptr : edit::mark_at(level, cell)) {
            session_.applyLevel(tr("Remove the mark %1").arg(QString::fromStdString(mark->name)),
                                edit::remove_mark(level, mark->id));
        } else if (hit) {
            session_.applyLevel(tr("Remove a prop"), edit::remove_prop(level, hit->prop.id));
        }
        return;
    }
    if (hit) {
        session_.setProp(hit->prop.id);
        drag_ = Drag{false, hit->prop.id, QPointF(hit->prop.at.x - pixel.x, hit->prop.at.y - pixel.y), level};
    } else if (const level::Mark* mark = edit::mark_at(level, cell)) {
        drag_ = Drag{true, mark->id, QPointF(mark->cells.x - cell.x, mark->cells.y - cell.y), level};
    } else {
        session_.setProp(0);
    }
}

void LevelView::moveDrag(QPointF place) {
    level::Level next = *session_.level();
    if (drag_->isMark) {
        const Point grip{static_cast<int>(drag_->grip.x()), static_cast<int>(drag_->grip.y())};
        next = edit::move_mark(next, drag_->id, cellAt(place) + grip);
    } else {
        const Point pixel =
            pixelAt(place) + Point{static_cast<int>(drag_->grip.x()), static_cast<int>(drag_->grip.y())};
        const bool snaps = (modifiers_ & Qt::ControlModifier) != 0;
        next = edit::move_prop(next, drag_->id, snaps ? edit::snapped(next, pixel) : pixel);
    }
    drag_->level = next;
    show(next);
    update();
}

} // namespace vic::app
