// How the level view answers to mouse and keys.
#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <cmath>

#include "app/level_view.hpp"
#include "app/spoken.hpp"
#include "edit/levels.hpp"

namespace vic::app {

namespace {

constexpr std::int64_t kMostPreview = 1 << 16; // cells up to which a rectangle is shown before it is let go

QString bold(const QString& text) { return "<b>" + text.toHtmlEscaped() + "</b>"; }

bool laysCells(Stage stage) { return stage == Stage::lay || stage == Stage::bound; }

} // namespace

edit::Hand LevelView::effectiveHand(Qt::MouseButton button, Qt::KeyboardModifiers) const {
    edit::Hand hand = session_.hand();
    const bool erases = button == Qt::RightButton || session_.tool() == Tool::eraser;
    if (erases) hand.kind = edit::Hand::Kind::eraser;
    return hand;
}

std::vector<Point> LevelView::cellsOf(const Stroke& stroke, Point to) const {
    const Box level = session_.level()->cells();
    if (stroke.tool == Tool::rectangle) return edit::box_cells(intersection(spanning(stroke.from, to), level));
    if (stroke.tool == Tool::ellipse) return edit::ellipse_cells(spanning(stroke.from, to));
    if (stroke.tool == Tool::fill)
        return edit::fill_cells(*session_.level(), stroke.layer, stroke.from, stroke.inView ? seenCells() : level);
    std::vector<Point> cells;
    const Point from = stroke.tool == Tool::line ? stroke.from : stroke.last;
    const bool straight = stroke.tool == Tool::line && (modifiers_ & Qt::ShiftModifier);
    for (const Point p : edit::line_cells(from, straight ? edit::straight_end(from, to) : to)) {
        const auto tip = edit::pencil_cells(p, stroke.hand.size);
        cells.insert(cells.end(), tip.begin(), tip.end());
    }
    return cells;
}

void LevelView::mousePressEvent(QMouseEvent* event) {
    setFocus();
    pointer_ = event->position();
    modifiers_ = event->modifiers();
    if (!session_.isOpen() || !session_.level() || stroke_ || drag_) return;
    if (!quiet_ && mapRect().contains(event->pos()) && event->button() == Qt::LeftButton) {
        const QRect map = mapRect();
        const Size px = pages_.level().pixels();
        setCamera(zoom(), QPointF(double(event->pos().x() - map.x()) / map.width() * px.w,
                                  double(event->pos().y() - map.y()) / map.height() * px.h));
        return;
    }
    if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && space_)) {
        pan_ = event->position();
        setCursor(Qt::ClosedHandCursor);
        return;
    }
    if (event->button() != Qt::LeftButton && event->button() != Qt::RightButton) return;
    const Point cell = cellAt(event->position());
    if (session_.stage() == Stage::dress)
        pressProps(event, pixelAt(event->position()));
    else if (laysCells(session_.stage()))
        pressCells(event, cell);
}

void LevelView::pressCells(QMouseEvent* event, Point cell) {
    const bool left = event->button() == Qt::LeftButton;
    if (left && (session_.tool() == Tool::pick || (event->modifiers() & Qt::AltModifier))) {
        pick(cell);
        return;
    }
    const edit::Hand hand = effectiveHand(event->button(), event->modifiers());
    if (hand.kind != edit::Hand::Kind::material && hand.kind != edit::Hand::Kind::tile &&
        hand.kind != edit::Hand::Kind::eraser) {
        emit session_.said(tr("The Hand is empty: pick a material or a tile from the Tray"), true);
        return;
    }
    const bool stay = (event->modifiers() & Qt::ControlModifier) != 0 || hand.kind == edit::Hand::Kind::eraser;
    const edit::Target target =
        edit::target_of(session_.project(), *session_.level(), hand, session_.activeLayerId(), stay);
    if (target.obstacle != edit::Obstacle::none) {
        emit session_.said(reading_.text, true);
        return;
    }
    const Tool tool = session_.tool();
    const bool whole = tool == Tool::rectangle || tool == Tool::line || tool == Tool::ellipse || tool == Tool::fill;
    stroke_ = Stroke{
        *session_.level(), hand, target.layer, cell, cell, whole, tool, (event->modifiers() & Qt::ShiftModifier) != 0};
    extend(cell);
}

void LevelView::extend(Point cell) {
    const std::vector<Point> cells = cellsOf(*stroke_, cell);
    if (stroke_->box) {
        stroke_->level = *session_.level();
        stroke_->last = cell;
        if (static_cast<std::int64_t>(cells.size()) > kMostPreview) {
            update();
            return;
        }
    }
    const edit::Laid laid =
        edit::lay(session_.project(), session_.rules(), stroke_->level, stroke_->layer, stroke_->hand, cells);
    stroke_->level = laid.level;
    stroke_->last = cell;
    joined_ = laid.joined;
    show(stroke_->level);
    update();
}

void LevelView::commit() {
    Stroke stroke = std::move(*stroke_);
    stroke_.reset();
    if (stroke.box) {
        const auto cells = cellsOf(stroke, stroke.last);
        stroke.level =
            edit::lay(session_.project(), session_.rules(), *session_.level(), stroke.layer, stroke.hand, cells).level;
    }
    const level::Layer* layer = session_.level()->layer(stroke.layer);
    if (layer->grid == stroke.level.layer(stroke.layer)->grid) {
        follow();
        return;
    }
    const QString on = QString::fromStdString(layer->name);
    QString name;
    if (stroke.hand.kind == edit::Hand::Kind::eraser)
        name = tr("Erase on %1").arg(on);
    else if (stroke.hand.kind == edit::Hand::Kind::tile)
        name = tr("Lay %1 on %2").arg(spoken(edit::tile_name(session_.project(), stroke.hand.tile)), on);
    else if (const auto* m = session_.project().material(stroke.hand.material))
        name = tr("Lay %1 on %2").arg(QString::fromStdString(m->name), on);
    session_.applyLevel(name, std::move(stroke.level));
}

void LevelView::cancel() {
    stroke_.reset();
    drag_.reset();
    follow();
}

void LevelView::pick(Point cell) {
    const auto found = edit::pick(session_.project(), *session_.level(), cell, 0);
    if (!found) {
        emit session_.said(tr("There is nothing to pick up here"), true);
        return;
    }
    edit::Hand hand = found->hand;
    hand.size = session_.hand().size;
    session_.setActiveLayer(found->layer);
    session_.setHand(hand);
    if (session_.tool() == Tool::pick || session_.tool() == Tool::eraser) session_.setTool(Tool::pencil);
}

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
    if (stroke_) {
        commit();
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
    if (!stroke_ && !drag_ && session_.isOpen() && session_.level()) show(*session_.level());
    say();
    update();
}

void LevelView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
        space_ = true;
        setCursor(Qt::OpenHandCursor);
    } else if (event->key() == Qt::Key_Escape) {
        if (stroke_ || drag_)
            cancel();
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
    if (stroke_ || drag_ || !session_.isOpen() || !session_.level()) return;
    const level::Level& level = *session_.level();
    const edit::Hand hand = effectiveHand(Qt::NoButton, modifiers_);
    joined_ = 0;
    const bool here =
        pointer_ && !pan_ && area().contains(pointer_->toPoint()) && !mapRect().contains(pointer_->toPoint());
    if (here && laysCells(session_.stage()) && session_.tool() != Tool::pick && !(modifiers_ & Qt::AltModifier) &&
        (hand.kind == edit::Hand::Kind::material || hand.kind == edit::Hand::Kind::tile ||
         hand.kind == edit::Hand::Kind::eraser)) {
        const bool stay = (modifiers_ & Qt::ControlModifier) != 0 || hand.kind == edit::Hand::Kind::eraser;
        const edit::Target target = edit::target_of(session_.project(), level, hand, session_.activeLayerId(), stay);
        if (target.obstacle == edit::Obstacle::none) {
            const bool dragged = session_.tool() == Tool::rectangle || session_.tool() == Tool::ellipse;
            // What would be filled, as far as it is in view.
            const auto cells = session_.tool() == Tool::fill
                                   ? edit::fill_cells(level, target.layer, cellAt(*pointer_), seenCells())
                                   : edit::pencil_cells(cellAt(*pointer_), dragged ? 1 : hand.size);
            filled_ = static_cast<int>(cells.size());
            if (filled_ > kMostPreview) return show(level);
            const edit::Laid laid = edit::lay(session_.project(), session_.rules(), level, target.layer, hand, cells);
            joined_ = laid.joined;
            show(laid.level);
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
    show(level);
}

QString LevelView::sentence(bool& warns) const {
    warns = false;
    if (!session_.isOpen() || !session_.level()) return {};
    const level::Level& level = *session_.level();
    const level::Project& project = session_.project();
    if (!pointer_ || !area().contains(pointer_->toPoint())) return {};
    const Point cell = cellAt(*pointer_);
    const QString at = tr("cell %1, %2").arg(cell.x).arg(cell.y);
    if (!level.cells().contains(cell)) return tr("Outside the level");
    if (session_.stage() == Stage::dress) {
        if (session_.tool() != Tool::props) return tr("Places a mark in %1").arg(at);
        if (session_.hand().kind == edit::Hand::Kind::prop) {
            const edit::Target target =
                edit::target_of(project, level, session_.hand(), session_.activeLayerId(), false);
            const level::Layer* layer = level.layer(target.layer);
            warns = target.obstacle != edit::Obstacle::none;
            const QString on = layer ? QString::fromStdString(layer->name) : QString();
            if (target.obstacle == edit::Obstacle::wrong_kind)
                return tr("This level has no layer for props: add one in the Section");
            if (target.obstacle == edit::Obstacle::locked) return tr("%1 is locked: nothing is placed").arg(bold(on));
            if (target.obstacle == edit::Obstacle::hidden) return tr("%1 is hidden: nothing is placed").arg(bold(on));
            return tr("Places %1 on %2, %3 · Shift for a free place")
                .arg(bold(QString::fromStdString(project.prop_kind(session_.hand().prop)->name)), bold(on), at);
        }
        if (const auto hit = edit::prop_at(project, level, pixelAt(*pointer_)))
            return tr("%1 on %2 · drag moves it, right button removes it")
                .arg(bold(QString::fromStdString(project.prop_kind(hit->prop.kind)->name)),
                     QString::fromStdString(level.layer(hit->layer)->name));
        return at;
    }
    if (!laysCells(session_.stage())) return at;
    const edit::Hand hand = effectiveHand(Qt::NoButton, modifiers_);
    if (session_.tool() == Tool::pick || (modifiers_ & Qt::AltModifier)) {
        const auto found = edit::pick(project, level, cell, 0);
        if (!found) return tr("Nothing to pick up in %1").arg(at);
        const level::Layer* layer = level.layer(found->layer);
        return tr("Picks up %1 from %2, %3")
            .arg(bold(spoken(edit::name_at(project, *layer, cell))), bold(QString::fromStdString(layer->name)), at);
    }
    if (hand.kind == edit::Hand::Kind::empty || hand.kind == edit::Hand::Kind::prop)
        return tr("The Hand is empty · %1 · pick a material or a tile from the Tray, or Alt+click what lies here")
            .arg(at);
    const bool erases = hand.kind == edit::Hand::Kind::eraser;
    const bool stay = (modifiers_ & Qt::ControlModifier) != 0 || erases;
    const edit::Target target = edit::target_of(project, level, hand, session_.activeLayerId(), stay);
    const level::Layer* layer = level.layer(target.layer);
    const QString on = layer ? QString::fromStdString(layer->name) : QString();
    warns = target.obstacle != edit::Obstacle::none;
    switch (target.obstacle) {
        case edit::Obstacle::no_layer:
            return tr("No layer is chosen in the Section");
        case edit::Obstacle::locked:
            return tr("%1 is locked: nothing is laid").arg(bold(on));
        case edit::Obstacle::hidden:
            return tr("%1 is hidden: show it first, nothing is laid").arg(bold(on));
        case edit::Obstacle::wrong_kind:
            return tr("%1 takes no tiles: choose a tile layer in the Section").arg(bold(on));
        case edit::Obstacle::none:
            break;
    }
    const QString there = spoken(edit::name_at(project, *layer, cell));
    QString text;
    if (erases) {
        text = there.isEmpty() ? tr("Nothing of %1 lies in %2").arg(bold(on), at)
                               : tr("Removes %1 from %2, %3").arg(bold(there), bold(on), at);
    } else {
        QString what;
        if (hand.kind == edit::Hand::Kind::tile)
            what = spoken(edit::tile_name(project, hand.tile));
        else if (const auto* m = project.material(hand.material))
            what = QString::fromStdString(m->name);
        if (session_.tool() == Tool::fill)
            text = tr("Fills %1 cells in view with %2 on %3, and all that hangs together with them; Shift only those")
                       .arg(QLocale().toString(filled_))
                       .arg(bold(what), bold(on));
        else
            text = tr("Lays %1 on %2, %3").arg(bold(what), bold(on), at);
        if (target.went_home) text += tr(" (its home; Ctrl lays on the active layer)");
        if (!there.isEmpty() && there != what) text += tr(" · replaces %1").arg(there.toHtmlEscaped());
    }
    if (joined_ > 0) text += joined_ == 1 ? tr(" · joins 1 neighbour") : tr(" · joins %1 neighbours").arg(joined_);
    return text;
}

void LevelView::say() {
    bool warns = false;
    const QString text = sentence(warns);
    if (text == reading_.text && warns == reading_.warns) return;
    reading_ = {text, warns};
    emit readingChanged();
}

Box LevelView::seenCells() const {
    const QRect a = area();
    return intersection(spanning(cellAt(a.topLeft()), cellAt(a.bottomRight())), pages_.level().cells());
}

void LevelView::stepVariant(int by) {
    const level::Level* level = session_.level();
    if (!level || !pointer_ || stroke_ || drag_) return;
    const Point cell = cellAt(*pointer_);
    // The active layer, if something painted lies there, else the frontmost that has it.
    const level::Layer* found = nullptr;
    const auto look = [&](const level::Layer* layer) {
        if (layer && layer->kind == level::LayerKind::tiles && layer->shown && layer->grid.material(cell) != 0)
            found = layer;
    };
    for (const level::LayerRef& slab : level->layers) look(slab.get());
    look(session_.activeLayer());
    if (!found) return emit session_.said(tr("There is nothing painted here"), false);
    if (found->locked) return emit session_.said(tr("%1 is locked").arg(QString::fromStdString(found->name)), true);
    const auto stepped = edit::step_variant(session_.project(), *level, found->id, cell, by);
    if (!stepped) return emit session_.said(tr("There is only one tile for this place"), false);
    session_.applyLevel(tr("Variant of a cell"), stepped->level);
    emit session_.said(tr("Variant %1 of %2, pinned on %3")
                           .arg(stepped->variant)
                           .arg(stepped->of)
                           .arg(QString::fromStdString(found->name)),
                       false);
}

} // namespace vic::app
