#include "app/gesture/lay.hpp"

#include <QGuiApplication>
#include <QPainter>
#include <QPalette>
#include <QPen>
#include <QPointF>
#include <algorithm>
#include <string>
#include <utility>

#include "app/gesture/tools.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "base/lattice.hpp"
#include "base/match.hpp"
#include "edit/clips.hpp"
#include "edit/overlay.hpp"
#include "edit/reshape.hpp"
#include "edit/swap_pieces.hpp"
#include "scene/fits.hpp"

namespace vic::app {

namespace {

constexpr std::int64_t kMostPreview = 1 << 16; // cells up to which a stroke is shown before it is let go

bool differs(const level::Level& a, const level::Level& b) {
    if (a.layers.size() != b.layers.size()) return true;
    for (const level::LayerRef& l : a.layers) {
        const level::Layer* old = b.layer(l->id);
        if (!old || !(old->grid() == l->grid()) || old->props() != l->props()) return true;
    }
    return false;
}

} // namespace

bool LayGesture::takes(const Pointer& at) const {
    return laysCells(session().stage()) && (at.left() || at.button == Qt::RightButton || at.button == Qt::NoButton);
}

edit::Hand LayGesture::handFor(Qt::MouseButton button) const {
    edit::Hand hand = session().hand();
    if (button == Qt::RightButton || session().tool() == Tool::eraser) {
        hand.holds = edit::held::Eraser{};
        hand.share_empty = 0;
    }
    return hand;
}

LayGesture::Fitted LayGesture::fitted(edit::Hand hand, level::LayerId id, Point cell) const {
    Fitted out{std::move(hand), id};
    if (!out.hand.is<edit::held::Tile>() || session().tool() != Tool::pencil || out.hand.size != 1) return out;
    const auto kits = session().bodies().all();
    if (kits.empty()) return out;
    const scene::Fits fits(session().project(), kits);
    const level::Level work = session().work();
    for (const level::Layer* const layer : scene::Fits::layers_for(work, id)) {
        const auto fit = fits.turned(*layer, cell, out.hand.tile(), out.hand.turn);
        if (!fit || layer->locked || !layer->shown) continue;
        out.hand.holds = edit::held::Tile{fit->tile};
        out.hand.turn = fit->turn;
        out.layer = layer->id;
        out.swaps = true;
        break;
    }
    return out;
}

// As the level is looked at: what is not seen is hidden.
edit::Target LayGesture::targetOf(const edit::Hand& hand, bool stay) const {
    return edit::target_of(session().project(), session().seen(session().work()), hand, session().activeLayerId(),
                           stay);
}

bool LayGesture::stays(const edit::Hand& hand, const Pointer& at) {
    return at.control() || hand.is<edit::held::Eraser>();
}

bool LayGesture::press(const Pointer& at) {
    const Point cell = cellAt(at);
    const edit::Hand hand = handFor(at.button);
    if (!edit::lays_cells(hand) && !hand.is<edit::held::Stamp>()) {
        emit session().said(Session::tr("The Hand is empty: pick a material or a tile from the Tray"), true);
        return false;
    }
    const edit::Target target = targetOf(hand, stays(hand, at));
    if (target.obstacle != edit::Obstacle::none && needsTarget(hand)) {
        emit session().said(sentence(at).text, true);
        return false;
    }
    const level::Level work = session().work();
    const Fitted fit = fitted(hand, target.layer, cell);
    stroke_ =
        Stroke{work, fit.hand, fit.layer, cell, cell, work, session().project().next_id, {}, at.shift(), fit.swaps};
    extend(cell, at);
    return true;
}

// A growing level makes room for what is laid; what is seen stays where it is on the screen.
void LayGesture::growFor(const Box& cells) {
    const edit::Edges by = edit::growth(stroke_->level, cells);
    if (by == edit::Edges{}) return;
    stroke_->level = edit::extended(session().derived().rules(), stroke_->level, by);
    stroke_->before = edit::extended(session().derived().rules(), stroke_->before, by);
    const Point move{by.left, by.top};
    stroke_->from = stroke_->from + move;
    stroke_->last = stroke_->last + move;
    stroke_->grown = stroke_->grown + move;
    const Point pixels = board_.shown().geometry().step(move);
    board_.shift(QPointF(pixels.x, pixels.y));
}

void LayGesture::layOnto(const level::Level& onto, const level::Region& cells, const Pointer&) {
    Stroke& s = *stroke_;
    if (s.swaps) {
        s.level = edit::with_pieces_swapped(session().project(), session().derived().rules(), onto, s.layer, cells,
                                            s.hand.tile(), s.hand.turn);
        return;
    }
    const level::Layer* layer = onto.layer(s.layer);
    const std::string over =
        Session::tr("%1, overlay").arg(QString::fromStdString(layer ? layer->name : "")).toStdString();
    const edit::LaidOver laid = edit::lay_over(session().project(), session().derived().rules(), onto,
                                               {.layer = s.layer,
                                                .hand = s.hand,
                                                .cells = cells,
                                                .replaces = session().options().replaces,
                                                .overlay_name = over,
                                                .before = &s.before});
    s.level = laid.level;
    s.nextId = std::max(s.nextId, laid.next_id);
    found_.joined = laid.joined;
    found_.onOverlay = laid.on_overlay;
    found_.stayedOut = laid.stayed_out;
}

void LayGesture::layStamp(const level::Level& onto, const level::Stamp& stamp, Point corner, const Pointer& at) {
    Stroke& s = *stroke_;
    const level::LayerId only = at.control() ? session().activeLayerId() : 0;
    const edit::Stamped laid =
        edit::stamp(session().project(), session().derived().rules(), session().seen(onto), stamp,
                    {corner, session().activeLayerId(), only, s.hand.as<edit::held::Stamp>()->pins});
    s.level = laid.level;
    // What is only not looked at is still shown in the game.
    for (const level::LayerRef& l : onto.layers)
        if (s.level.layer(l->id)->shown != l->shown) s.level.edit(l->id).shown = l->shown;
    s.nextId = laid.next_id;
    found_.noLayer = laid.no_layer;
    found_.joined = 0;
}

level::Stamp LayGesture::stampFor(const edit::Hand& hand, const std::optional<Box>& box) const {
    const Lattice lattice = board_.shown().geometry();
    level::Stamp what = hand.turn.code == 0
                            ? *hand.stamp()
                            : edit::turned(session().project(), *hand.stamp(), lattice.of_places(hand.turn));
    if (!box) return what;
    return what.nine ? edit::stretched(what, box->size()) : edit::patterned(what, *box);
}

void LayGesture::extend(Point to, const Pointer& at) {
    if (stroke_->level.grows) {
        const Point before = stroke_->grown;
        const int reach = stroke_->hand.size;
        growFor(Box{to.x - reach, to.y - reach, 2 * reach + 1, 2 * reach + 1});
        to = to + (stroke_->grown - before);
    }
    if (whole()) {
        stroke_->last = to;
        stroke_->level = stroke_->before;
        const level::Region cells = cellsOf(*stroke_, to, at);
        if (cells.count() <= kMostPreview) layOnto(stroke_->before, cells, at);
    } else {
        layOnto(stroke_->level, cellsOf(*stroke_, to, at), at);
        stroke_->last = to;
    }
    showStroke();
}

void LayGesture::showStroke() {
    board_.show(session().withWork(stroke_->level));
    board_.drawAgain();
}

void LayGesture::move(const Pointer& at) {
    if (const Point cell = cellAt(at); cell != stroke_->last) extend(cell, at);
}

void LayGesture::release(const Pointer& at) {
    if (whole()) layOnto(stroke_->before, cellsOf(*stroke_, stroke_->last, at), at);
    commit();
}

void LayGesture::commit() {
    const Stroke stroke = std::move(*stroke_);
    stroke_.reset();
    if (!differs(stroke.level, stroke.before)) {
        const Point back = board_.shown().geometry().step(stroke.grown);
        board_.shift(QPointF(-back.x, -back.y));
        return;
    }
    session().applyWork(strokeName(stroke), stroke.level, stroke.nextId);
}

QString LayGesture::strokeName(const Stroke& stroke) const {
    const level::Layer* layer = stroke.before.layer(stroke.layer);
    const QString on = layer ? QString::fromStdString(layer->name) : QString();
    const level::Project& project = session().project();
    return match(
        stroke.hand.holds, [&](const edit::held::Eraser&) { return Session::tr("Erase on %1").arg(on); },
        [&](const edit::held::Tile& t) {
            return Session::tr("Lay %1 on %2").arg(translated(edit::tile_name(project, t.id)), on);
        },
        [&](const edit::held::Blocker&) { return Session::tr("Lay blockers on %1").arg(on); },
        [&](const edit::held::Fact& f) {
            return Session::tr("Lay %1").arg(translated(edit::fact_name(project, f.note, f.value)));
        },
        [&](const edit::held::Spread&) { return Session::tr("Spread on %1").arg(on); },
        [&](const edit::held::Stamp& s) {
            return s.stamp->name.empty() ? Session::tr("Lay what was copied")
                                         : Session::tr("Lay the stamp %1").arg(QString::fromStdString(s.stamp->name));
        },
        [&](const edit::held::Material& held) {
            const auto* m = project.material(held.id);
            return Session::tr("Lay %1 on %2").arg(m ? QString::fromStdString(m->name) : QString(), on);
        },
        [](const edit::held::Nothing&) { return QString(); }, // lays nothing
        [](const edit::held::Prop&) { return QString(); });   // placed, not laid
}

void LayGesture::cancel() {
    if (stroke_) {
        const Point back = board_.shown().geometry().step(stroke_->grown);
        board_.shift(QPointF(-back.x, -back.y));
    }
    stroke_.reset();
}

level::Region LayGesture::previewCells(const level::Level&, level::LayerId, Point cell) const {
    return level::Region(Box{cell.x, cell.y, 1, 1});
}

bool LayGesture::preview(const Pointer& at) {
    found_ = {};
    const edit::Hand hand = handFor(Qt::NoButton);
    if (!edit::lays_cells(hand)) return false;
    const level::Level work = session().work();
    const edit::Target target = targetOf(hand, stays(hand, at));
    found_.target = target.layer;
    if (target.obstacle != edit::Obstacle::none) return false;
    const level::Region cells = previewCells(work, target.layer, cellAt(at));
    found_.filled = cells.count();
    if (found_.filled > kMostPreview) return false;
    const Fitted fit = fitted(hand, target.layer, cellAt(at));
    found_.target = fit.layer;
    if (fit.swaps) {
        board_.show(session().withWork(edit::with_pieces_swapped(session().project(), session().derived().rules(), work,
                                                                 fit.layer, cells, fit.hand.tile(), fit.hand.turn)));
        return true;
    }
    const edit::LaidOver laid = edit::lay_over(
        session().project(), session().derived().rules(), work,
        {.layer = fit.layer, .hand = fit.hand, .cells = cells, .replaces = session().options().replaces});
    found_.joined = laid.joined;
    found_.onOverlay = laid.on_overlay;
    found_.stayedOut = laid.stayed_out;
    if (laid.overlay != 0) found_.target = laid.overlay;
    board_.show(session().withWork(laid.level));
    return true;
}

void LayGesture::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (!at) return;
    p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 2));
    p.setBrush(Qt::NoBrush);
    camera().drawCells(p, grain(), marked(cellAt(*at)));
}

} // namespace vic::app
