// How the level view draws.

#include <QColor>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPoint>
#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QSize>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <optional>

#include "app/gesture/gesture.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "app/view/pages.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "join/resolve.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/region.hpp"

namespace vic::app {

void LevelView::redraw(const QRect& wanted) {
    if (frame_.isNull()) return;
    const QRect part = wanted.intersected(camera_.area());
    if (part.isEmpty()) return;
    QPainter p(&frame_);
    p.setClipRect(part);
    const Tokens t = tokensOf(this);
    p.fillRect(part, t.outside);
    if (pages_.empty() || !session_.isOpen() || !session_.level()) return;
    const Box px = pages_.extent();
    p.setClipRect(part.intersected(camera_.onScreen(px).toAlignedRect()));
    drawPages(p, part);
    paintLattice(p, part);
    paintMissing(p, part);
    if (honesty_) paintDishonest(p, part);
    if (trial_) paintUnknown(p);
    if (geometry().square()) { // where the level ends, also where its ground is as dark as what lies around
        p.setClipRect(part);
        p.setPen(t.faint);
        p.setBrush(Qt::NoBrush);
        p.drawRect(camera_.onScreen(pages_.level().pixels()).toAlignedRect().adjusted(-1, -1, 0, 0));
    }
}

void LevelView::drawPages(QPainter& p, const QRect& part) {
    const Box px = pages_.extent();
    const int small = camera_.halvings();
    const int span = Pages::kSide << small; // level pixels of a page
    const QPointF from = camera_.origin() + QPointF(part.topLeft() - camera_.area().topLeft()) / zoom();
    const QPointF to = from + QPointF(part.width(), part.height()) / zoom();
    const int x0 = std::max(floor_div(px.x, span), static_cast<int>(std::floor(from.x() / span)));
    const int y0 = std::max(floor_div(px.y, span), static_cast<int>(std::floor(from.y() / span)));
    const int x1 = std::min(floor_div(px.right() - 1, span), static_cast<int>(std::floor(to.x() / span)));
    const int y1 = std::min(floor_div(px.bottom() - 1, span), static_cast<int>(std::floor(to.y() / span)));
    // What is to be seen of the pages, and a pixel more where they lie between those of the screen.
    const auto low = [&](double v) { return static_cast<int>(std::floor(v / (1 << small))) - 1; };
    const auto high = [&](double v) { return static_cast<int>(std::ceil(v / (1 << small))) + 1; };
    const Box wanted_pixels = spanning({low(from.x()), low(from.y())}, {high(to.x()), high(to.y())});
    const Box needed = intersection(
        wanted_pixels,
        spanning({x0 * Pages::kSide, y0 * Pages::kSide}, {(x1 + 1) * Pages::kSide - 1, (y1 + 1) * Pages::kSide - 1}));
    const bool lens = contrast_.on() && session_.stage() != Stage::bound; // art is in tones of paper there
    pages_.prepare(small, needed);
    if (lens) contrast_.prepare(small, needed);
    for (int y = y0; y <= y1; ++y)
        for (int x = x0; x <= x1; ++x) {
            const QRectF place = camera_.onScreen({x * span, y * span, span, span});
            // What of the page is to be seen, and a pixel more where it lies between those of the screen.
            const double scale = Pages::kSide / place.width();
            const QRectF seen = place.intersected(part);
            if (seen.isEmpty()) continue;
            const QRect of = QRectF((seen.topLeft() - place.topLeft()) * scale, seen.size() * scale).toAlignedRect();
            const QRect drawn = of.adjusted(-1, -1, 1, 1);
            p.drawImage(place, lens ? contrast_.page(pages_, small, x, y, drawn) : pages_.page(small, x, y, drawn));
        }
}

// Cells that show the nearest case because their own has no tile: a corner in vermilion.
void LevelView::paintMissing(QPainter& p, const QRect& part) {
    const level::Level& level = pages_.level();
    const double w = level.cell.w * zoom();
    const join::Rules& rules = session_.derived().rules();
    if (w < 10 || std::all_of(session_.project().materials.begin(), session_.project().materials.end(),
                              [&](const auto& m) { return rules.complete(m->id); }))
        return;
    const Box shown = spanning(camera_.pixelAt(part.topLeft()), camera_.pixelAt(part.bottomRight()));
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(paper().vermilion);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->tiles() || !layer->shown) continue;
        const Lattice own = level.lattice_of(*layer);
        level::each_cell(layer->grid(), own.cells_in(shown), [&](Point at, level::Cell cell, level::MaterialId m) {
            if (m == 0 || cell.pinned() || rules.complete(m) || !rules.missing(join::around(layer->grid(), at))) return;
            const QRectF r = camera_.around(own, {at.x, at.y, 1, 1});
            const double s = std::clamp(w / 3, 4.0, 10.0);
            if (!geometry().square()) {
                const QPointF right(r.right(), r.center().y());
                p.drawPolygon(QPolygonF{{right, right + QPointF(-s, -s / 2), right + QPointF(-s, s / 2)}});
                return;
            }
            p.drawPolygon(QPolygonF{{r.topRight(), r.topRight() + QPointF(-s, 0), r.topRight() + QPointF(0, s)}});
        });
    }
    p.setRenderHint(QPainter::Antialiasing, false);
}

// Where the plan on trial has a colour that means nothing: a cross in vermilion on light, seen on any art.
void LevelView::paintUnknown(QPainter& p) {
    if (!trial_->plan) return;
    const level::Plan& plan = *trial_->plan;
    const Lattice lattice = geometry();
    const Box part = intersection(camera_.seenOf(lattice), {plan.at.x, plan.at.y, plan.size.w, plan.size.h});
    p.setRenderHint(QPainter::Antialiasing);
    const bool small = lattice.cell.w * zoom() < 6;
    for (int y = part.y; y < part.bottom(); ++y)
        for (int x = part.x; x < part.right(); ++x) {
            const auto at = static_cast<std::size_t>((y - plan.at.y) * plan.size.w + x - plan.at.x);
            if (at >= plan.laid.size() || plan.laid[at] != level::kNoKey) continue;
            const QRectF cell = camera_.around(lattice, {x, y, 1, 1});
            if (small) {
                p.fillRect(cell, paper().vermilion);
                continue;
            }
            const double s = std::min(cell.width(), cell.height()) * 0.22;
            const QPointF c = cell.center();
            for (const auto& [colour, width] : {std::pair(QColor("#FBF8F1"), 4.0), {paper().vermilion, 2.0}}) {
                p.setPen(QPen(colour, width, Qt::SolidLine, Qt::RoundCap));
                p.drawLine(c + QPointF(-s, -s), c + QPointF(s, s));
                p.drawLine(c + QPointF(-s, s), c + QPointF(s, -s));
            }
        }
    p.setRenderHint(QPainter::Antialiasing, false);
}

// What is selected: a dashed line around it that is seen on light and dark art.
void LevelView::paintSelection(QPainter& p) {
    const auto own = active_ ? active_->chosen() : std::nullopt;
    paintAround(p, own ? *own : session_.selection(), paper().brine);
    paintAround(p, marked_, paper().vermilion);
}

void LevelView::paintAround(QPainter& p, const level::Region& cells, const QColor& colour) {
    if (cells.empty()) return;
    const Lattice lattice = grain();
    p.save();
    p.setClipRect(camera_.area());
    const QTransform corners = camera_.cellsToScreen(lattice);
    if (!lattice.square()) p.setRenderHint(QPainter::Antialiasing);
    if (lattice.cell.w * zoom() >= 2)
        for (const level::Side& side :
             level::sides(cells, intersection(camera_.seenOf(lattice), session_.work().cells()).grown(1))) {
            const QPointF from = corners.map(QPointF(side.from.x, side.from.y));
            const QPointF to = corners.map(QPointF(side.to.x, side.to.y));
            p.setPen(QPen(QColor("#FBF8F1"), 3, Qt::SolidLine, Qt::SquareCap));
            p.drawLine(from, to);
            QPen dash(colour, 3, Qt::CustomDashLine, Qt::FlatCap);
            dash.setDashPattern({2, 1.4});
            p.setPen(dash);
            p.drawLine(from, to);
        }
    p.restore();
}

QRect LevelView::mapPlace() const {
    if (covered_) return {};
    if (quiet_ || pages_.empty()) return {};
    const Box px = pages_.extent();
    const QRect a = camera_.area();
    if (px.empty() || (px.w * zoom() <= a.width() && px.h * zoom() <= a.height())) return {};
    const double scale = std::min(126.0 / px.w, 96.0 / px.h);
    const QSize size(std::max(12, static_cast<int>(px.w * scale)), std::max(12, static_cast<int>(px.h * scale)));
    return {QPoint(a.right() - size.width() - 13, a.bottom() - size.height() - 13), size};
}

void LevelView::paintMap(QPainter& p) {
    const QRect map = mapPlace();
    if (map.isEmpty() || stroking()) return;
    const Box px = pages_.extent();
    p.save();
    p.fillRect(map.adjusted(-4, -4, 4, 4), paper().ink);
    // The smallest pages serve; for levels too large for them, what is in view is marked on a plain ground.
    const int small = Pages::kLeast;
    const int span = Pages::kSide << small;
    if (px.w <= 2 * span && px.h <= 2 * span) {
        p.setRenderHint(QPainter::SmoothPixmapTransform);
        p.setClipRect(map);
        const double sx = double(map.width()) / px.w;
        const double sy = double(map.height()) / px.h;
        for (int y = floor_div(px.y, span); y * span < px.bottom(); ++y)
            for (int x = floor_div(px.x, span); x * span < px.right(); ++x)
                p.drawImage(
                    QRectF(map.x() + (x * span - px.x) * sx, map.y() + (y * span - px.y) * sy, span * sx, span * sy),
                    pages_.page(small, x, y));
    } else {
        p.fillRect(map, paper().outside.lighter(140));
    }
    const QRect a = camera_.area();
    QRectF seen(map.x() + (camera_.origin().x() - px.x) / px.w * map.width(),
                map.y() + (camera_.origin().y() - px.y) / px.h * map.height(), a.width() / zoom() / px.w * map.width(),
                a.height() / zoom() / px.h * map.height());
    p.setClipping(false);
    p.setPen(QPen(QColor("#FBF8F1"), 1.5));
    p.setBrush(Qt::NoBrush);
    p.drawRect(seen.intersected(QRectF(map)));
    p.restore();
}

// A place to begin, where there is no level.
void LevelView::paintNothing(QPainter& p) {
    p.fillRect(rect(), tokensOf(this).outside);
    p.setPen(QColor("#EAE4D6"));
    p.drawText(rect(), Qt::AlignCenter, tr("No level yet. Click the project's name at the upper left and add one."));
}

void LevelView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    if (!open() || pages_.empty()) return paintNothing(p);
    p.drawImage(0, 0, frame_);
    const bool bound = session_.stage() == Stage::bound;
    if (bound && bounds_ == Bounds::section)
        p.fillRect(camera_.area().intersected(camera_.onScreen(pages_.level().pixels()).toAlignedRect()), paper().card);
    if (bound ? bounds_ != Bounds::art : outlines_) paintOutlines(p, bound);
    if (!bound && !quiet_) paintBlockers(p);
    if (!quiet_) paintOwnWords(p);
    soak_.paint(p, camera_, geometry());
    reach_.paint(p, camera_, geometry());
    if (bound) paintProbes(p);
    if (!quiet_) paintFacts(p);
    if (!quiet_ && !geometry().square()) paintEdgeNumbers(p);
    if (!quiet_) paintGuides(p);
    if (!bound) contrast_.paint(p, camera_);
    if (heat_ && !bound) paintHeat(p);
    paintSelection(p);
    p.save();
    p.setClipRect(camera_.area());
    // Without a pointer here it is what one in the middle would do.
    const Gesture* gesture = active_    ? active_
                             : offered_ ? offered_
                                        : gestureFor({QPointF(camera_.area().center()), {}});
    if (!gesture) gesture = &toolGesture();
    gesture->paint(p, trial_ ? std::nullopt : pointer());
    p.restore();
    if (quiet_) return;
    paintRulers(p);
    paintMap(p);
}

} // namespace vic::app
