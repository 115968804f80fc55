// How the level view answers to mouse and keys.

#include <QEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPointF>
#include <QRect>
#include <QString>
#include <QWheelEvent>
#include <QWidget>
#include <algorithm>
#include <cstdint>
#include <optional>
#include <string>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "base/text.hpp"
#include "edit/clips.hpp"
#include "edit/fill.hpp"
#include "edit/joins.hpp"
#include "edit/levels.hpp"
#include "edit/overlay.hpp"
#include "edit/reshape.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"

namespace vic::app {

namespace {

constexpr std::int64_t kMostPreview = 1 << 16; // cells up to which a rectangle is shown before it is let go
} // namespace

edit::Hand LevelView::effectiveHand(Qt::MouseButton button, Qt::KeyboardModifiers) const {
    edit::Hand hand = session_.hand();
    const bool erases = button == Qt::RightButton || session_.tool() == Tool::eraser;
    if (erases) {
        hand.kind = edit::Hand::Kind::eraser;
        hand.share_empty = 0;
    }
    return hand;
}

edit::Target LevelView::targetOf(const edit::Hand& hand, bool stay) const {
    return edit::target_of(session_.project(), session_.seen(session_.work()), hand, session_.activeLayerId(), stay);
}

std::optional<Point> LevelView::pointedCell() const {
    if (!pointer_ || !area().contains(pointer_->toPoint())) return std::nullopt;
    return cellAt(*pointer_);
}

level::Region LevelView::alike(level::LayerId layer, Point at, Tool tool, const Box& within) const {
    const level::Region* bound = session_.selection().empty() ? nullptr : &session_.selection();
    // Outside of the selection one fills outside of it.
    if (bound && !bound->contains(at)) bound = nullptr;
    return tool == Tool::replace ? edit::alike_cells(session_.work(), layer, at, within, session_.options().fill, bound)
                                 : edit::fill_cells(session_.work(), layer, at, within, session_.options().fill, bound);
}

level::Region LevelView::cellsOf(const Stroke& stroke, Point to) const {
    const Box level = session_.work().cells();
    const bool rim = session_.options().rim;
    if (stroke.tool == Tool::rectangle) {
        const Box box = spanning(stroke.from, to);
        return rim ? level::Region(edit::box_rim(box)) : level::Region(box);
    }
    if (stroke.tool == Tool::ellipse) {
        const Box box = spanning(stroke.from, to);
        return level::Region(rim ? edit::ellipse_rim(box) : edit::ellipse_cells(box));
    }
    if (stroke.tool == Tool::fill || stroke.tool == Tool::replace)
        return alike(stroke.layer, stroke.from, stroke.tool,
                     stroke.inView ? intersection(seenOf(grain()), level) : level);
    const Point from = stroke.tool == Tool::line ? stroke.from : stroke.last;
    const bool straight = stroke.tool == Tool::line && (modifiers_ & Qt::ShiftModifier);
    level::Region cells;
    for (const Point p : edit::line_cells(from, straight ? edit::straight_end(from, to) : to))
        for (const Point t : edit::pencil_cells(p, stroke.hand.size, stroke.hand.round)) cells.add(t);
    return cells;
}

void LevelView::mousePressEvent(QMouseEvent* event) {
    setFocus();
    pointer_ = event->position();
    modifiers_ = event->modifiers();
    if (!session_.isOpen() || !session_.level() || stroking() || pull_ || trial_) return;
    if (!quiet_ && mapRect().contains(event->pos()) && event->button() == Qt::LeftButton) {
        const QRect map = mapRect();
        const Box px = extent();
        setCamera(zoom(), QPointF(px.x + double(event->pos().x() - map.x()) / map.width() * px.w,
                                  px.y + double(event->pos().y() - map.y()) / map.height() * px.h));
        return;
    }
    if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && space_)) {
        pan_ = event->position();
        setCursor(Qt::ClosedHandCursor);
        return;
    }
    if (event->button() != Qt::LeftButton && event->button() != Qt::RightButton) return;
    if (!quiet_ && pressGuides(event)) return;
    const Point cell = cellAt(event->position());
    if (session_.stage() == Stage::dress)
        pressProps(event, pixelAt(event->position()));
    else if (laysCells(session_.stage()))
        pressCells(event, cell);
}

void LevelView::pressCells(QMouseEvent* event, Point cell) {
    const bool left = event->button() == Qt::LeftButton;
    const Tool tool = session_.tool();
    if (tool == Tool::measure && left) {
        const Point p = pixelAt(event->position());
        measure_ = {p, p};
        measuring_ = true;
        return update();
    }
    if (tool == Tool::measure || (left && (tool == Tool::select || tool == Tool::lasso)) ||
        (left && tool == Tool::pick)) {
        if (left) pressSelect(event, cell);
        if (tool == Tool::measure) measure_.reset();
        return update();
    }
    if (left && (event->modifiers() & Qt::AltModifier)) {
        pick(cell);
        return;
    }
    const edit::Hand hand = effectiveHand(event->button(), event->modifiers());
    if (!edit::lays_cells(hand) && hand.kind != edit::Hand::Kind::stamp) {
        emit session_.said(tr("The Hand is empty: pick a material or a tile from the Tray"), true);
        return;
    }
    const bool stay = (event->modifiers() & Qt::ControlModifier) != 0 || hand.kind == edit::Hand::Kind::eraser;
    const edit::Target target = targetOf(hand, stay);
    if (target.obstacle != edit::Obstacle::none && hand.kind != edit::Hand::Kind::stamp) {
        emit session_.said(reading_.text, true);
        return;
    }
    const bool stamps = hand.kind == edit::Hand::Kind::stamp;
    const bool whole = stamps || tool == Tool::rectangle || tool == Tool::line || tool == Tool::ellipse ||
                       tool == Tool::fill || tool == Tool::replace;
    stroke_ = Stroke{session_.work(),
                     hand,
                     target.layer,
                     cell,
                     cell,
                     session_.work(),
                     session_.project().next_id,
                     {},
                     whole,
                     stamps && tool != Tool::rectangle ? Tool::pencil : tool,
                     (event->modifiers() & Qt::ShiftModifier) != 0};
    extend(cell);
}

// A growing level makes room for what is laid; what is seen stays where it is on the screen.
void LevelView::growFor(const Box& cells) {
    const edit::Edges by = edit::growth(stroke_->level, cells);
    if (by == edit::Edges{}) return;
    stroke_->level = edit::extended(session_.rules(), stroke_->level, by);
    stroke_->before = edit::extended(session_.rules(), stroke_->before, by);
    const Point move{by.left, by.top};
    stroke_->from = stroke_->from + move;
    stroke_->last = stroke_->last + move;
    stroke_->grown = stroke_->grown + move;
    const Point pixels = geometry().step(move);
    origin_ += QPointF(pixels.x, pixels.y);
}

void LevelView::layStroke(const level::Level& onto, const level::Region& cells) {
    Stroke& s = *stroke_;
    const std::string over = tr("%1, overlay")
                                 .arg(QString::fromStdString(onto.layer(s.layer) ? onto.layer(s.layer)->name : ""))
                                 .toStdString();
    if (s.hand.kind == edit::Hand::Kind::stamp) {
        const bool drawn = s.tool == Tool::rectangle;
        const Box box = spanning(s.from, s.last);
        const level::Stamp what = stampFor(s.hand, drawn ? std::optional(box) : std::nullopt);
        const bool stay = (modifiers_ & Qt::ControlModifier) != 0;
        const edit::Stamped laid =
            edit::stamp(session_.project(), session_.rules(), session_.seen(onto), what,
                        drawn ? box.corner() : stampCorner(what, s.last), session_.activeLayerId(),
                        stay ? session_.activeLayerId() : 0, s.hand.pins);
        s.level = laid.level;
        // What is only not looked at is still shown in the game.
        for (const level::LayerRef& l : onto.layers)
            if (s.level.layer(l->id)->shown != l->shown) s.level.edit(l->id).shown = l->shown;
        s.nextId = laid.next_id;
        noLayer_ = laid.no_layer;
        joined_ = 0;
        return;
    }
    const edit::LaidOver laid = edit::lay_over(session_.project(), session_.rules(), onto, s.before, s.layer, s.hand,
                                               cells, session_.options().replaces, over);
    s.level = laid.level;
    s.nextId = std::max(s.nextId, laid.next_id);
    joined_ = laid.joined;
    onOverlay_ = laid.on_overlay;
    stayedOut_ = laid.stayed_out;
}

void LevelView::extend(Point to) {
    if (stroke_->level.grows) {
        const Point before = stroke_->grown;
        const int reach = stroke_->hand.size;
        growFor(Box{to.x - reach, to.y - reach, 2 * reach + 1, 2 * reach + 1});
        to = to + (stroke_->grown - before);
    }
    if (stroke_->box) {
        stroke_->last = to;
        stroke_->level = stroke_->before;
        const level::Region cells =
            stroke_->hand.kind == edit::Hand::Kind::stamp ? level::Region() : cellsOf(*stroke_, to);
        if (cells.count() > kMostPreview) {
            show(session_.withWork(stroke_->level));
            update();
            return;
        }
        layStroke(stroke_->before, cells);
    } else {
        layStroke(stroke_->level, cellsOf(*stroke_, to));
        stroke_->last = to;
    }
    show(session_.withWork(stroke_->level));
    update();
}

void LevelView::commit() {
    if (stroke_->box) {
        const bool stamps = stroke_->hand.kind == edit::Hand::Kind::stamp;
        layStroke(stroke_->before, stamps ? level::Region() : cellsOf(*stroke_, stroke_->last));
    }
    Stroke stroke = std::move(*stroke_);
    stroke_.reset();
    const level::Layer* layer = stroke.before.layer(stroke.layer);
    bool changed = stroke.level.layers.size() != stroke.before.layers.size();
    for (const level::LayerRef& l : stroke.level.layers) {
        const level::Layer* old = stroke.before.layer(l->id);
        changed = changed || !old || !(old->grid == l->grid) || old->props != l->props;
    }
    if (!changed) {
        const Point back = geometry().step(stroke.grown);
        origin_ -= QPointF(back.x, back.y);
        refresh();
        return;
    }
    const QString on = layer ? QString::fromStdString(layer->name) : QString();
    QString name;
    if (stroke.hand.kind == edit::Hand::Kind::eraser)
        name = tr("Erase on %1").arg(on);
    else if (stroke.hand.kind == edit::Hand::Kind::tile)
        name = tr("Lay %1 on %2").arg(translated(edit::tile_name(session_.project(), stroke.hand.tile)), on);
    else if (stroke.hand.kind == edit::Hand::Kind::blocker)
        name = tr("Lay blockers on %1").arg(on);
    else if (stroke.hand.kind == edit::Hand::Kind::spread)
        name = tr("Spread on %1").arg(on);
    else if (stroke.hand.kind == edit::Hand::Kind::stamp)
        name = stroke.hand.stamp->name.empty()
                   ? tr("Lay what was copied")
                   : tr("Lay the stamp %1").arg(QString::fromStdString(stroke.hand.stamp->name));
    else if (const auto* m = session_.project().material(stroke.hand.material))
        name = tr("Lay %1 on %2").arg(QString::fromStdString(m->name), on);
    session_.applyWork(name, stroke.level, stroke.nextId);
}

void LevelView::cancel() {
    if (stroke_) {
        const Point back = geometry().step(stroke_->grown);
        origin_ -= QPointF(back.x, back.y);
    }
    stroke_.reset();
    drag_.reset();
    marquee_.reset();
    moving_.reset();
    pull_.reset();
    refresh();
}

// Blockers are picked up only where one is at work on them: they are not seen.
level::LayerId LevelView::pickedFirst() const {
    const level::Layer* active = session_.activeLayer();
    return active && active->kind == level::LayerKind::blockers ? active->id : 0;
}

void LevelView::pick(Point cell) {
    const auto found = edit::pick(session_.project(), session_.work(), cell, pickedFirst());
    if (!found) {
        emit session_.said(tr("There is nothing to pick up here"), true);
        return;
    }
    edit::Hand hand = found->hand;
    hand.size = session_.hand().size;
    hand.round = session_.hand().round;
    session_.setActiveLayer(found->layer);
    session_.setHand(hand);
    if (session_.tool() == Tool::pick || session_.tool() == Tool::eraser) session_.setTool(Tool::pencil);
}

void LevelView::mouseMoveEvent(QMouseEvent* event) {
    modifiers_ = event->modifiers();
    if (pan_) {
        const QPointF by = event->position() - *pan_;
        pan_ = event->position();
        pointer_ = event->position();
        setCamera(zoom(), centre() - by / zoom());
        return;
    }
    pointer_ = event->position();
    if (stroke_) {
        const Point cell = cellAt(event->position());
        if (cell != stroke_->last) extend(cell);
    } else if (drag_) {
        moveDrag(event->position());
    } else if (marquee_ || moving_) {
        moveSelect(event->position());
    } else if (pull_) {
        movePull(event->position());
    } else if (measuring_) {
        measure_->second = pixelAt(event->position());
    } else {
        preview();
    }
    say();
    update();
}

void LevelView::mouseReleaseEvent(QMouseEvent* event) {
    if (pan_) {
        pan_.reset();
        unsetCursor();
        return;
    }
    measuring_ = false;
    if (stroke_) {
        commit();
    } else if (marquee_ || moving_) {
        releaseSelect();
    } else if (pull_) {
        releasePull(event->position());
    } else if (drag_) {
        const Drag drag = std::move(*drag_);
        drag_.reset();
        if (!level::difference(*session_.level(), drag.level, session_.project()).cells.empty() ||
            session_.level()->marks != drag.level.marks)
            session_.applyLevel(drag.isMark ? tr("Move a mark") : tr("Move a prop"), drag.level);
    }
    pointer_ = event->position();
    preview();
    say();
    update();
}

void LevelView::mouseDoubleClickEvent(QMouseEvent* event) { mousePressEvent(event); }

void LevelView::wheelEvent(QWheelEvent* event) {
    const int by = event->angleDelta().y() > 0 ? 1 : event->angleDelta().y() < 0 ? -1 : 0;
    if (by == 0) return;
    if (event->modifiers() & Qt::ControlModifier) {
        edit::Hand hand = session_.hand();
        hand.size += by;
        session_.setHand(hand);
    } else {
        zoomStep(by, event->position());
    }
    event->accept();
}

void LevelView::leaveEvent(QEvent*) {
    pointer_.reset();
    target_ = 0;
    if (!stroking() && session_.isOpen() && session_.level()) show(trial_ ? *trial_ : *session_.level());
    say();
    update();
}

void LevelView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        space_ = true;
        setCursor(Qt::OpenHandCursor);
    } else if (event->key() == Qt::Key_Escape) {
        if (stroking() || pull_)
            cancel();
        else if (measure_ && session_.tool() == Tool::measure)
            measure_.reset(), update();
        else if (!session_.selection().empty())
            session_.setSelection({});
        else if (session_.tool() > Tool::props)
            session_.setTool(Tool::props);
        else
            session_.setHand({});
    } else if ((event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) && session_.prop() != 0 &&
               session_.stage() == Stage::dress) {
        session_.applyLevel(tr("Remove a prop"), edit::remove_prop(*session_.level(), session_.prop()));
        session_.setProp(0);
    } else {
        QWidget::keyPressEvent(event);
    }
}

void LevelView::keyReleaseEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        space_ = false;
        if (!pan_) unsetCursor();
    }
    QWidget::keyReleaseEvent(event);
}

// What the next click would make, drawn before the click.
void LevelView::preview() {
    if (stroking() || pull_ || !session_.isOpen() || !session_.level()) return;
    const level::Level level = session_.work();
    const edit::Hand hand = effectiveHand(Qt::NoButton, modifiers_);
    joined_ = 0;
    onOverlay_ = stayedOut_ = 0;
    noLayer_ = 0;
    target_ = 0;
    if (trial_) return show(*trial_);
    const bool here =
        pointer_ && !pan_ && area().contains(pointer_->toPoint()) && !mapRect().contains(pointer_->toPoint());
    const bool lays = session_.tool() <= Tool::eraser;
    if (here && laysCells(session_.stage()) && lays && !(modifiers_ & Qt::AltModifier) &&
        hand.kind == edit::Hand::Kind::stamp) {
        const bool stay = (modifiers_ & Qt::ControlModifier) != 0;
        const level::Stamp what = stampFor(hand, std::nullopt);
        const edit::Stamped laid = edit::stamp(session_.project(), session_.rules(), session_.seen(level), what,
                                               stampCorner(what, cellAt(*pointer_)), session_.activeLayerId(),
                                               stay ? session_.activeLayerId() : 0, hand.pins);
        noLayer_ = laid.no_layer;
        return show(session_.withWork(laid.level));
    }
    if (here && laysCells(session_.stage()) && lays && !(modifiers_ & Qt::AltModifier) && edit::lays_cells(hand)) {
        const bool stay = (modifiers_ & Qt::ControlModifier) != 0 || hand.kind == edit::Hand::Kind::eraser;
        const edit::Target target = targetOf(hand, stay);
        target_ = target.layer;
        if (target.obstacle == edit::Obstacle::none) {
            const bool dragged = session_.tool() == Tool::rectangle || session_.tool() == Tool::ellipse;
            const bool fills = session_.tool() == Tool::fill || session_.tool() == Tool::replace;
            // What would be filled, as far as it is in view.
            const Point at = cellAt(*pointer_);
            const level::Region cells =
                fills ? alike(target.layer, at, session_.tool(), intersection(seenOf(grain()), level.cells()))
                      : level::Region(edit::pencil_cells(at, dragged ? 1 : hand.size, !dragged && hand.round));
            filled_ = cells.count();
            if (filled_ > kMostPreview) return show(session_.withWork(level));
            const edit::LaidOver laid = edit::lay_over(session_.project(), session_.rules(), level, level, target.layer,
                                                       hand, cells, session_.options().replaces, std::string());
            joined_ = laid.joined;
            onOverlay_ = laid.on_overlay;
            stayedOut_ = laid.stayed_out;
            if (laid.overlay != 0) target_ = laid.overlay;
            show(session_.withWork(laid.level));
            return;
        }
    }
    if (here && session_.stage() == Stage::dress && session_.tool() == Tool::props &&
        hand.kind == edit::Hand::Kind::prop) {
        const edit::Target target = edit::target_of(session_.project(), level, hand, session_.activeLayerId(), false);
        if (target.obstacle == edit::Obstacle::none) {
            const Point pixel = pixelAt(*pointer_);
            const bool free = (modifiers_ & Qt::ShiftModifier) != 0;
            show(edit::add_prop(
                level, target.layer,
                {0xFFFFFFFFU, hand.prop, free ? pixel : edit::snapped(level, pixel), hand.turn.mirrored()}));
            return;
        }
    }
    show(session_.withWork(level));
}

Box LevelView::seenCells() const { return intersection(seenOf(geometry()), pages_.level().cells()); }

Box LevelView::seenOf(const Lattice& lattice) const {
    const QRect a = area();
    return lattice.cells_in(spanning(pixelAt(a.topLeft()), pixelAt(a.bottomRight())));
}

std::optional<Point> LevelView::pointedLevelCell() const {
    if (!pointer_ || !area().contains(pointer_->toPoint())) return std::nullopt;
    return geometry().cell_at(pixelAt(*pointer_));
}

void LevelView::stepVariant(int by) {
    if (!session_.level() || !pointer_ || stroke_ || drag_) return;
    const level::Level work = session_.work();
    const level::Level* level = &work;
    const Point cell = cellAt(*pointer_);
    // The active layer, if something painted lies there, else the frontmost that has it.
    const level::Layer* found = nullptr;
    const auto look = [&](const level::Layer* layer) {
        if (layer && layer->kind == level::LayerKind::tiles && layer->shown && layer->grid.material(cell) != 0)
            found = layer;
    };
    for (const level::LayerRef& slab : level->layers) look(slab.get());
    look(work.layer(session_.activeLayerId()));
    if (!found) return emit session_.said(tr("There is nothing painted here"), false);
    if (found->locked) return emit session_.said(tr("%1 is locked").arg(QString::fromStdString(found->name)), true);
    const auto stepped = edit::step_variant(session_.project(), *level, found->id, cell, by);
    if (!stepped) return emit session_.said(tr("There is only one tile for this place"), false);
    session_.applyWork(tr("Variant of a cell"), stepped->level);
    emit session_.said(tr("Variant %1 of %2, pinned on %3")
                           .arg(stepped->variant)
                           .arg(stepped->of)
                           .arg(QString::fromStdString(found->name)),
                       false);
}

} // namespace vic::app
