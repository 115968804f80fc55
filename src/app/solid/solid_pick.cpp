// What the pointer is over in three dimensions: the very piece or prop that is seen there.
#include <QCoreApplication>
#include <QMouseEvent>
#include <algorithm>
#include <cmath>
#include <set>
#include <utility>

#include "app/gesture/choose_props.hpp"
#include "app/gesture/tools.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/kit_bodies.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "app/solid/colours.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"
#include "edit/hand.hpp"
#include "edit/levels.hpp"

namespace vic::app {

std::optional<scene::Ray> SolidView::rayAt(QPointF place) const {
    return render::ray_at(matrix(), place.x(), place.y(), {width(), height()});
}

std::optional<QPointF> SolidView::cellsAt(QPointF place) const {
    const auto ray = rayAt(place);
    const auto met = ray ? scene::on_storey(*ray, plane()) : std::nullopt;
    if (!met) return std::nullopt;
    return QPointF((*met)[0], (*met)[1]);
}

std::optional<SolidView::Seen> SolidView::seenAt(QPointF place) {
    auto ray = rayAt(place);
    if (!ray || !session_.level()) return std::nullopt;
    if (cut_.second) { // it begins where the level is cut
        const std::array<double, 3> eye{double{cut_.first[0]}, double{cut_.first[1]}, double{cut_.first[2]}};
        const auto along = [&](const std::array<double, 3>& v) {
            return v[0] * eye[0] + v[1] * eye[1] + v[2] * eye[2];
        };
        const double before = along(ray->from) - double{*cut_.second}, way = along(ray->way);
        if (before > 0 && way < 0)
            for (std::size_t i = 0; i < 3; ++i) ray->from[i] -= before / way * ray->way[i];
    }
    Seen out;
    double along = 0;
    // Of the level as it is: what is only shown before a click is not pointed at.
    const PickOf now{session_.levelRef(), bodies_.all(), highest()};
    if (now != pickOf_) {
        pickOf_ = now;
        placed_ = scene::placed_in(session_.project(), *session_.level(), pickOf_.kits, pickOf_.storey);
    }
    if (const auto met = scene::hit(placed_, bodies_.models(), storeys(), *ray)) {
        const scene::Placed& p = placed_[met->placed];
        along = met->along;
        out.prop = p.prop;
        out.at = QPointF(met->at[0], met->at[2]);
        out.stands = QPointF(p.cells.x + p.cells.w / 2.0, p.cells.y + p.cells.h / 2.0);
    }
    const auto solid = [this](const scene::Card& card, double u, double v) {
        const level::Sheet* const sheet = session_.project().sheet(card.kind->sheet);
        if (!sheet || !sheet->image) return true;
        const Box box = card.kind->box;
        const Point at{box.x + static_cast<int>(u * box.w), box.y + static_cast<int>(v * box.h)};
        return !box_of(sheet->image->size()).contains(at) || sheet->image->at(at.x, at.y).a >= 128;
    };
    const auto cards = scene::cards_in(propKindsOf(session_.project()), *session_.level(), storeys(), highest());
    if (const auto met = scene::hit(cards, *ray, solid); met && (along == 0 || met->along < along)) {
        const scene::Card& card = cards[met->card];
        out.prop = card.prop;
        out.at = QPointF(double{card.foot[0]}, double{card.foot[2]});
        along = met->along;
    }
    if (along == 0) return std::nullopt;
    if (const level::Prop* prop = out.prop == 0 ? nullptr : edit::find_prop(*session_.level(), out.prop))
        out.stands =
            QPointF((prop->at.x + 0.5) / session_.level()->cell.w, (prop->at.y + 0.5) / session_.level()->cell.h);
    return out;
}

// Where what is seen there counts, and not the storey's plane behind it; nothing where the plane does.
std::optional<QPointF> SolidView::exactAt(QPointF place) {
    const bool props = session_.stage() == Stage::dress && (kindOf(session_.tool()).options & ToolKind::stands) != 0;
    const bool choose = session_.stage() == Stage::dress && session_.hand().empty();
    const bool stand = props && !choose && session_.options().rests != edit::Rests::storey;
    const bool pick = session_.tool() == Tool::pick;
    if (!choose && !stand && !pick) return std::nullopt;
    const auto seen = seenAt(place);
    if (!seen) return std::nullopt;
    if (stand) return seen->at;
    if (choose && seen->prop == 0) return std::nullopt;
    return seen->stands;
}

// Boxes round what is chosen, and round what a click would place.
// What is in the way of one is framed with it, and it is filled.
void SolidView::drawProps(const render::Matrix& seen) {
    hinderedSeen_ = 0;
    if (session_.chosen().props.empty() && !session_.hand().is<edit::held::Prop>()) return;
    const level::Level& shown = view_.shown();
    std::set<level::PropId> ids = session_.chosen().props;
    ids.insert(kShownProp);
    const auto hindered = view_.hindered();
    if (hindered) ids.insert(hindered->other);
    const render::Vec3 ink = vec3(tokensOf(this).vermilion);
    const auto box = [&](level::PropId prop, const render::Vec3& from, const render::Vec3& to) {
        const bool in_another = hindered && hindered->prop == prop;
        hinderedSeen_ += in_another || (hindered && hindered->other == prop) ? 1 : 0;
        constexpr float kRound = 0.02F; // cells that it lies round the body, so that the two do not flicker
        render::Vec3 low = from, high = to;
        for (std::size_t axis = 0; axis < 3; ++axis) low[axis] -= kRound, high[axis] += kRound;
        if (in_another)
            scene_->draw_body(seen, low, high, ink);
        else
            scene_->draw_box(seen, from, to, ink);
    };
    for (const scene::Placed& p : scene::placed_in(session_.project(), shown, bodies_.all(), highest())) {
        if (p.prop == 0 || !ids.contains(p.prop)) continue;
        const scene::Model model = scene::at_its_place(bodies_.models().of(p.kit, p.piece), *p.free);
        box(p.prop, model.least, model.most);
    }
    for (const scene::Card& c : scene::cards_in(propKindsOf(session_.project()), shown, storeys(), highest()))
        if (ids.contains(c.prop)) {
            const float half = std::min(c.left, c.right);
            box(c.prop, {c.foot[0] - c.left, c.foot[1], c.foot[2] - half},
                {c.foot[0] + c.right, c.foot[1] + c.top, c.foot[2] + half});
        }
}

// The same press, at the place of the level view that shows what is under the pointer here.
void SolidView::pass(QMouseEvent* event) {
    if (session_.stage() == Stage::walk) return; // nothing is changed there
    auto cells = cellsAt(event->position());
    if (event->type() == QEvent::MouseButtonRelease || (event->buttons() != Qt::NoButton && held_)) {
        if (cells && held_) *cells += *held_;
        if (event->type() == QEvent::MouseButtonRelease) held_.reset();
    } else if (const auto exact = exactAt(event->position())) {
        // What is held by a place above the plane stays that far from it.
        if (event->type() == QEvent::MouseButtonPress && cells && session_.hand().empty()) held_ = *exact - *cells;
        cells = exact;
    }
    if (!cells) return;
    const QPointF place = view_.placeOf(*cells);
    QMouseEvent there(event->type(), place, view_.mapToGlobal(place), event->button(), event->buttons(),
                      event->modifiers());
    QCoreApplication::sendEvent(&view_, &there);
    const Lattice own = session_.workLattice();
    const double aside[] = {double(own.origin.x) / own.cell.w, double(own.origin.y) / own.cell.h};
    pointed_ =
        Point{static_cast<int>(std::floor(cells->x() - aside[0])), static_cast<int>(std::floor(cells->y() - aside[1]))};
    update();
}

} // namespace vic::app
