// How the level view draws.

#include <QBrush>
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
#include <QString>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <optional>
#include <utility>

#include "app/parts/glyphs.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "app/view/pages.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "base/turn.hpp"
#include "edit/clips.hpp"
#include "edit/levels.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "level/block.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/region.hpp"
#include "level/shape.hpp"
#include "level/sheet.hpp"
#include "level/stamp.hpp"
#include "outline/solid.hpp"
#include "outline/trace.hpp"
#include "picture/compose.hpp"

namespace vic::app {

void LevelView::redraw(const QRect& wanted) {
    if (frame_.isNull()) return;
    const QRect part = wanted.intersected(area());
    if (part.isEmpty()) return;
    QPainter p(&frame_);
    p.setClipRect(part);
    const Tokens t = tokensOf(this);
    p.fillRect(part, t.outside);
    if (pages_.empty() || !session_.isOpen() || !session_.level()) return;
    const Box px = extent();
    p.setClipRect(part.intersected(onScreen(px).toAlignedRect()));
    const int small = zoomIndex_ < 4 ? 4 - zoomIndex_ : 0;
    const int span = Pages::kSide << small; // level pixels of a page
    const QPointF from = origin_ + QPointF(part.topLeft() - area().topLeft()) / zoom();
    const QPointF to = from + QPointF(part.width(), part.height()) / zoom();
    const int x0 = std::max(floor_div(px.x, span), static_cast<int>(std::floor(from.x() / span)));
    const int y0 = std::max(floor_div(px.y, span), static_cast<int>(std::floor(from.y() / span)));
    const int x1 = std::min(floor_div(px.right() - 1, span), static_cast<int>(std::floor(to.x() / span)));
    const int y1 = std::min(floor_div(px.bottom() - 1, span), static_cast<int>(std::floor(to.y() / span)));
    // What is to be seen of the pages, and a pixel more where they lie between those of the screen.
    const auto low = [&](double v) { return static_cast<int>(std::floor(v / (1 << small))) - 1; };
    const auto high = [&](double v) { return static_cast<int>(std::ceil(v / (1 << small))) + 1; };
    const Box wanted_pixels = spanning({low(from.x()), low(from.y())}, {high(to.x()), high(to.y())});
    pages_.prepare(small,
                   intersection(wanted_pixels, spanning({x0 * Pages::kSide, y0 * Pages::kSide},
                                                        {(x1 + 1) * Pages::kSide - 1, (y1 + 1) * Pages::kSide - 1})));
    for (int y = y0; y <= y1; ++y)
        for (int x = x0; x <= x1; ++x) {
            const QRectF place = onScreen({x * span, y * span, span, span});
            // What of the page is to be seen, and a pixel more where it lies between those of the screen.
            const double scale = Pages::kSide / place.width();
            const QRectF seen = place.intersected(part);
            if (seen.isEmpty()) continue;
            const QRect of = QRectF((seen.topLeft() - place.topLeft()) * scale, seen.size() * scale).toAlignedRect();
            p.drawImage(place, pages_.page(small, x, y, of.adjusted(-1, -1, 1, 1)));
        }
    paintLattice(p, part);
    paintMissing(p, part);
    if (geometry().square()) { // where the level ends, also where its ground is as dark as what lies around
        p.setClipRect(part);
        p.setPen(t.faint);
        p.setBrush(Qt::NoBrush);
        p.drawRect(onScreen(pages_.level().pixels()).toAlignedRect().adjusted(-1, -1, 0, 0));
    }
}

// Cells that show the nearest case because their own has no tile: a corner in vermilion.
void LevelView::paintMissing(QPainter& p, const QRect& part) {
    const level::Level& level = pages_.level();
    const double w = level.cell.w * zoom();
    const join::Rules& rules = session_.rules();
    if (w < 10 || std::all_of(session_.project().materials.begin(), session_.project().materials.end(),
                              [&](const auto& m) { return rules.complete(m->id); }))
        return;
    const Box shown = spanning(pixelAt(part.topLeft()), pixelAt(part.bottomRight()));
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(paper().vermilion);
    for (const level::LayerRef& layer : level.layers) {
        if (layer->kind != level::LayerKind::tiles || !layer->shown) continue;
        const Lattice own = level.lattice_of(*layer);
        level::each_cell(layer->grid, own.cells_in(shown), [&](Point at, level::Cell cell, level::MaterialId m) {
            if (m == 0 || cell.pinned() || rules.complete(m) || !rules.missing(join::around(layer->grid, at))) return;
            const QRectF r = around(own, {at.x, at.y, 1, 1});
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

void LevelView::paintLattice(QPainter& p, const QRect& part) {
    const Size c = pages_.level().cell;
    if (!lattice_ || (c.w * zoom() < 12 && pages_.level().lines_every * c.w * zoom() < 12)) return;
    if (!geometry().square()) return paintIsometricLattice(p, part);
    const QRectF whole = onScreen(pages_.level().pixels());
    const QColor line = session_.stage() == Stage::bound ? QColor(80, 70, 50, 26) : QColor(20, 16, 10, 34);
    const int first = static_cast<int>(std::floor((part.left() - whole.left()) / (c.w * zoom())));
    const int last = static_cast<int>(std::ceil((part.right() - whole.left()) / (c.w * zoom())));
    const int every = pages_.level().lines_every;
    const QColor strong(20, 16, 10, 110);
    // Where single cells are too small for lines, the stronger ones stay.
    const bool close = c.w * zoom() >= 12;
    const auto ink = [&](int i) {
        return every > 0 && i % every == 0 ? strong : close ? line : QColor(Qt::transparent);
    };
    // Between them, fainter, those of a layer with cells of its own, while one works on it.
    const Size fine = grain().cell;
    if (fine != c && fine.w * zoom() >= 8) {
        const QColor faint(20, 16, 10, 20);
        const int columns = c.w / fine.w;
        const int rows = c.h / fine.h;
        const int right = static_cast<int>(std::ceil((part.right() - whole.left()) / (fine.w * zoom())));
        const int low = static_cast<int>(std::ceil((part.bottom() - whole.top()) / (fine.h * zoom())));
        for (int i = std::max(1, first * columns); i <= right; ++i)
            if (i % columns != 0)
                p.fillRect(QRectF(std::round(whole.left() + i * fine.w * zoom()), part.top(), 1, part.height()), faint);
        for (int i = std::max(1, static_cast<int>(std::floor((part.top() - whole.top()) / (fine.h * zoom()))));
             i <= low; ++i)
            if (i % rows != 0)
                p.fillRect(QRectF(part.left(), std::round(whole.top() + i * fine.h * zoom()), part.width(), 1), faint);
    }
    for (int i = std::max(1, first); i <= last; ++i)
        p.fillRect(QRectF(std::round(whole.left() + i * c.w * zoom()), part.top(), 1, part.height()), ink(i));
    const int top = static_cast<int>(std::floor((part.top() - whole.top()) / (c.h * zoom())));
    const int bottom = static_cast<int>(std::ceil((part.bottom() - whole.top()) / (c.h * zoom())));
    for (int i = std::max(1, top); i <= bottom; ++i)
        p.fillRect(QRectF(part.left(), std::round(whole.top() + i * c.h * zoom()), part.width(), 1), ink(i));
}

// The lines of an isometric lattice, and the level's edge: around it nothing can be laid.
void LevelView::paintIsometricLattice(QPainter& p, const QRect& part) {
    const level::Level& level = pages_.level();
    const QTransform to = cellsToScreen(geometry());
    const bool close = level.cell.w * zoom() >= 20;
    const int every = level.lines_every;
    const QColor line = session_.stage() == Stage::bound ? QColor(80, 70, 50, 40) : QColor(20, 16, 10, 48);
    const Box seen = intersection(
        geometry().cells_in(spanning(pixelAt(part.topLeft()), pixelAt(part.bottomRight()))).grown(1), level.cells());
    if (seen.empty()) return;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    // Fainter, those of a layer with cells of its own, while one works on it.
    const int subdivision = level.cell.w / grain().cell.w;
    if (subdivision > 1 && grain().cell.w * zoom() >= 14) {
        p.setPen(QPen(QColor(20, 16, 10, 26), 1));
        for (int i = seen.x * subdivision + 1; i < seen.right() * subdivision; ++i)
            if (i % subdivision != 0)
                p.drawLine(to.map(QPointF(double(i) / subdivision, seen.y)),
                           to.map(QPointF(double(i) / subdivision, seen.bottom())));
        for (int i = seen.y * subdivision + 1; i < seen.bottom() * subdivision; ++i)
            if (i % subdivision != 0)
                p.drawLine(to.map(QPointF(seen.x, double(i) / subdivision)),
                           to.map(QPointF(seen.right(), double(i) / subdivision)));
    }
    const auto along = [&](int from, int end, const auto& place) {
        for (int i = std::max(1, from); i < end; ++i) {
            const bool strong = every > 0 && i % every == 0;
            if (!strong && !close) continue;
            p.setPen(QPen(strong ? QColor(20, 16, 10, 120) : line, 1));
            const auto [a, b] = place(i);
            p.drawLine(to.map(a), to.map(b));
        }
    };
    along(seen.x, std::min(seen.right() + 1, level.size.w),
          [&](int x) { return std::pair(QPointF(x, seen.y), QPointF(x, seen.bottom())); });
    along(seen.y, std::min(seen.bottom() + 1, level.size.h),
          [&](int y) { return std::pair(QPointF(seen.x, y), QPointF(seen.right(), y)); });
    p.setPen(QPen(QColor(251, 248, 241, 150), 1));
    p.setBrush(Qt::NoBrush);
    p.drawPolygon(shapeOf(geometry(), level.cells()));
    p.restore();
}

// What a prop stands on: its foot, aslant the diamond in it.
QPolygonF LevelView::footShape(const Box& foot) const {
    const QRectF box = onScreen(foot);
    if (geometry().square()) return QPolygonF(box);
    const double half = box.width() / 2 * pages_.level().cell.h / pages_.level().cell.w;
    const QPointF m = box.center();
    return {{QPointF(m.x(), m.y() - half), QPointF(box.right(), m.y()), QPointF(m.x(), m.y() + half),
             QPointF(box.left(), m.y())}};
}

void LevelView::paintOutlines(QPainter& p, bool hatched) {
    const level::Level& level = pages_.level();
    const Tokens t = tokensOf(this);
    const QRect a = area();
    const Box seen = seenCells();
    if (seen.empty()) return;
    const level::TileTable& tiles = tilesOf(session_.project());
    const outline::Drawing d = outline::drawing(
        [&](const Box& box, outline::SolidCode* out, std::size_t stride, outline::Forms& forms) {
            return outline::read_solid(level, tiles, box, out, stride, forms);
        },
        seen.grown(1));
    const Size c = level.cell;
    const QPointF zero = onScreen({0, 0, 1, 1}).topLeft();
    const bool square = geometry().square();
    const QTransform slant = cellsToScreen(geometry());
    const auto at = [&](Point units) { // whole cells lie on whole pixels of the picture, as the view draws them
        if (!square) return slant.map(QPointF(units.x, units.y) / outline::kUnit);
        if (units.x % outline::kUnit == 0 && units.y % outline::kUnit == 0)
            return onScreen({units.x / outline::kUnit * c.w, units.y / outline::kUnit * c.h, 1, 1}).topLeft();
        return zero + QPointF(units.x * c.w * zoom(), units.y * c.h * zoom()) / outline::kUnit;
    };
    p.save();
    p.setClipRect(a.intersected(onScreen(level.pixels()).toAlignedRect().adjusted(-2, -2, 2, 2)));
    if (!square) p.setRenderHint(QPainter::Antialiasing);
    const QColor ink = paper().ink;
    if (hatched) {
        // Anchored to the level, so that the hatching does not swim while one pans.
        const QPointF anchor = onScreen({0, 0, 1, 1}).topLeft();
        p.setBrushOrigin(QPoint(static_cast<int>(std::lround(anchor.x())) % kHatchSide,
                                static_cast<int>(std::lround(anchor.y())) % kHatchSide));
        const QBrush hatch = hatching();
        p.setPen(Qt::NoPen);
        p.setBrush(hatch);
        for (const Box& run : d.runs)
            if (square)
                p.fillRect(around(geometry(), run), hatch);
            else
                p.drawPolygon(shapeOf(geometry(), run));
        for (const level::Polygon& polygon : d.polygons) {
            QPolygonF corners;
            for (const Point p2 : polygon) corners << at(p2);
            p.drawPolygon(corners);
        }
        for (const level::LayerRef& layer : level.layers)
            for (const level::Prop& prop : layer->props) {
                const level::PropKind* kind = session_.project().prop_kind(prop.kind);
                if (kind && kind->blocks) {
                    const QPolygonF foot = footShape(picture::foot_box(prop, *kind));
                    p.drawPolygon(foot);
                    p.setPen(QPen(ink, 1.5));
                    p.setBrush(Qt::NoBrush);
                    p.drawPolygon(foot);
                    p.setBrush(hatch);
                    p.setPen(Qt::NoPen);
                }
            }
    }
    p.setBrush(Qt::NoBrush);
    if (!hatched) {
        p.setPen(QPen(paper().card, 4, Qt::SolidLine, Qt::SquareCap));
        for (const auto& line : d.lines) p.drawLine(at(line.from), at(line.to));
    }
    p.setPen(QPen(ink, 2, Qt::SolidLine, Qt::SquareCap));
    for (const auto& line : d.lines) p.drawLine(at(line.from), at(line.to));
    for (const auto& [cell, side] : d.one_way) {
        if (square) {
            paintOneWay(p, around(geometry(), {cell.x, cell.y, 1, 1}), side, ink);
            continue;
        }
        const double s = c.w * zoom() * 0.6;
        p.save();
        p.setTransform(QTransform::fromScale(1 / s, 1 / s) * QTransform::fromTranslate(cell.x, cell.y) * slant, true);
        paintOneWay(p, QRectF(0, 0, s, s), side, ink);
        p.restore();
    }
    p.restore();
    Q_UNUSED(t);
}

// Blockers are not seen in the game; here they are brine hatching, stronger on the active layer.
void LevelView::paintBlockers(QPainter& p) {
    const level::Level& level = pages_.level();
    const QTransform to = cellsToScreen(geometry());
    const bool close = level.cell.w * zoom() >= 4;
    p.save();
    p.setClipRect(area());
    if (!geometry().square()) p.setRenderHint(QPainter::Antialiasing);
    const QPointF anchor = onScreen({0, 0, 1, 1}).topLeft();
    p.setBrushOrigin(QPoint(static_cast<int>(std::lround(anchor.x())) % kHatchSide,
                            static_cast<int>(std::lround(anchor.y())) % kHatchSide));
    for (const level::LayerRef& layer : level.layers) {
        if (layer->kind != level::LayerKind::blockers || !layer->shown) continue;
        QColor ink = paper().brine;
        ink.setAlpha(layer->id == session_.activeLayerId() ? 235 : 110);
        QColor wash = ink;
        wash.setAlpha(ink.alpha() / 5);
        level::each_cell(layer->grid, seenCells(), [&](Point at, level::Cell cell, level::MaterialId) {
            const level::TileShape shape = level::blocker_shape(cell);
            if (level::is_one_way(shape)) {
                paintOneWay(p, around(geometry(), {at.x, at.y, 1, 1}), level::one_way_side(shape), ink);
                return;
            }
            for (const level::Polygon& polygon : level::polygons_of(shape)) {
                QPolygonF corners;
                for (const Point c : polygon)
                    corners << to.map(
                        QPointF(at.x + double(c.x) / level::kShapeSide, at.y + double(c.y) / level::kShapeSide));
                p.setPen(close ? QPen(ink, 1) : QPen(Qt::NoPen));
                p.setBrush(close ? wash : ink);
                p.drawPolygon(corners);
                if (!close) continue;
                p.setBrush(QBrush(ink, Qt::BDiagPattern));
                p.setPen(Qt::NoPen);
                p.drawPolygon(corners);
            }
        });
    }
    p.restore();
}

void LevelView::paintGuides(QPainter& p) {
    const level::Level& level = pages_.level();
    p.save();
    p.setClipRect(area());
    paintUserGuides(p);
    if (frameGuide_ && (session_.stage() == Stage::lay || session_.stage() == Stage::dress)) paintFrame(p);
    const QRectF figure = paintFigureAndArc(p);
    for (const level::Mark& mark : level.marks) {
        QRectF place = around(geometry(), mark.cells);
        // Aslant a flag stands in the middle.
        if (!geometry().square()) place = QRectF(QPointF(place.center().x(), place.top()), place.center());
        if (!geometry().square()) place.setWidth(1);
        // Where the figure stands beside its pole, the flag flies above its head.
        const bool meets = figure.adjusted(-4, -4, 4, 4).intersects(place.adjusted(0, 0, 1, 1));
        if (meets && !geometry().square()) place.moveLeft(figure.left() - 3);
        paintFlag(p, place, QString::fromStdString(mark.name),
                  mark.kind == level::MarkKind::note ? paper().ochre : paper().brine,
                  meets ? place.bottom() - figure.top() + 14 : 0);
    }
    paintMeasure(p);
    p.restore();
}

// What is selected: a dashed line around it that is seen on light and dark art.
void LevelView::paintSelection(QPainter& p) {
    level::Region cells = marquee_ && marquee_->tool != Tool::pick ? marqueeCells() : session_.selection();
    if (moving_) cells = cells.moved(moving_->last - moving_->from);
    if (marquee_ && marquee_->tool == Tool::pick)
        cells = level::Region(intersection(spanning(marquee_->from, marquee_->last), session_.work().cells()));
    if (cells.empty()) return;
    const Lattice lattice = grain();
    p.save();
    p.setClipRect(area());
    const QColor brine = paper().brine;
    const QTransform corners = cellsToScreen(lattice);
    if (!lattice.square()) p.setRenderHint(QPainter::Antialiasing);
    if (lattice.cell.w * zoom() >= 2)
        for (const level::Side& side :
             level::sides(cells, intersection(seenOf(lattice), session_.work().cells()).grown(1))) {
            const QPointF from = corners.map(QPointF(side.from.x, side.from.y));
            const QPointF to = corners.map(QPointF(side.to.x, side.to.y));
            p.setPen(QPen(QColor("#FBF8F1"), 3, Qt::SolidLine, Qt::SquareCap));
            p.drawLine(from, to);
            QPen dash(brine, 3, Qt::CustomDashLine, Qt::FlatCap);
            dash.setDashPattern({2, 1.4});
            p.setPen(dash);
            p.drawLine(from, to);
        }
    if (marquee_ && marquee_->tool == Tool::lasso) {
        QPolygonF line;
        for (const edit::Place& place : marquee_->line) line << corners.map(QPointF(place.x, place.y));
        p.setPen(QPen(brine, 1.5));
        p.setRenderHint(QPainter::Antialiasing);
        p.drawPolyline(line);
    }
    p.restore();
}

void LevelView::paintHover(QPainter& p) {
    if (!pointer_ || pan_ || !area().contains(pointer_->toPoint())) return;
    const level::Level& level = pages_.level();
    const Tokens t = tokensOf(this);
    p.save();
    p.setClipRect(area());
    if (session_.stage() == Stage::dress) {
        level::PropId lit = session_.prop();
        if (const auto hit = edit::prop_at(session_.project(), level, pixelAt(*pointer_));
            hit && session_.tool() == Tool::props)
            lit = hit->prop.id;
        for (const level::LayerRef& layer : level.layers)
            for (const level::Prop& prop : layer->props) {
                if (prop.id != lit && prop.id != session_.prop()) continue;
                const level::PropKind* kind = session_.project().prop_kind(prop.kind);
                if (!kind) continue;
                const bool chosen = prop.id == session_.prop();
                p.setPen(QPen(chosen ? t.vermilion : t.card, chosen ? 2 : 1));
                p.setBrush(Qt::NoBrush);
                p.drawRoundedRect(onScreen(picture::prop_box(prop, *kind)).adjusted(-1, -1, 1, 1), 3, 3);
                p.setPen(QPen(t.vermilion, 1, Qt::DashLine));
                p.drawPolygon(footShape(picture::foot_box(prop, *kind)));
            }
        if (session_.tool() != Tool::props) {
            const Point cell = cellAt(*pointer_);
            p.setPen(QPen(t.vermilion, 2));
            p.setBrush(Qt::NoBrush);
            drawCells(p, grain(), {cell.x, cell.y, 1, 1});
        }
    } else if (session_.stage() == Stage::lay || session_.stage() == Stage::bound) {
        const Point cell = cellAt(*pointer_);
        Box box{cell.x, cell.y, 1, 1};
        if (stroke_ && (stroke_->tool == Tool::rectangle || stroke_->tool == Tool::ellipse))
            box = spanning(stroke_->from, cell);
        else if (session_.hand().kind == edit::Hand::Kind::stamp && session_.tool() <= Tool::replace) {
            const level::Stamp what = stampFor(session_.hand(), std::nullopt);
            const Point corner = stampCorner(what, cell);
            box = {corner.x, corner.y, what.size.w, what.size.h};
        } else if (session_.tool() == Tool::pencil || session_.tool() == Tool::eraser ||
                   session_.tool() == Tool::line) {
            const int before = (session_.hand().size - 1) / 2;
            box = {cell.x - before, cell.y - before, session_.hand().size, session_.hand().size};
            if (const level::Tile* block = session_.blockInHand();
                block && session_.tool() == Tool::pencil && session_.hand().size == 1) {
                const Turn turn = geometry().shown(session_.hand().turn);
                const Box foot = level::foot_under(*block, cell, turn);
                box = geometry().square() ? level::cells_under(*block, cell, turn) : foot;
                p.setPen(QPen(t.vermilion, 1, Qt::DashLine));
                p.setBrush(Qt::NoBrush);
                if (geometry().square()) drawCells(p, grain(), foot, 2);
            }
        }
        const bool chooses =
            session_.tool() == Tool::select || session_.tool() == Tool::lasso || session_.tool() == Tool::measure;
        p.setPen(QPen(chooses ? paper().brine : t.vermilion, chooses ? 1 : 2));
        p.setBrush(Qt::NoBrush);
        if (!marquee_ && !moving_ && !trial_) drawCells(p, grain(), box);
    }
    p.restore();
}

QRect LevelView::mapRect() const {
    const Box px = extent();
    const QRect a = area();
    if (px.empty() || (px.w * zoom() <= a.width() && px.h * zoom() <= a.height())) return {};
    const double scale = std::min(126.0 / px.w, 96.0 / px.h);
    const QSize size(std::max(12, static_cast<int>(px.w * scale)), std::max(12, static_cast<int>(px.h * scale)));
    return {QPoint(a.right() - size.width() - 13, a.bottom() - size.height() - 13), size};
}

void LevelView::paintMap(QPainter& p) {
    const QRect map = mapRect();
    if (map.isEmpty() || stroking()) return;
    const Box px = extent();
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
    const QRect a = area();
    QRectF seen(map.x() + (origin_.x() - px.x) / px.w * map.width(),
                map.y() + (origin_.y() - px.y) / px.h * map.height(), a.width() / zoom() / px.w * map.width(),
                a.height() / zoom() / px.h * map.height());
    p.setClipping(false);
    p.setPen(QPen(QColor("#FBF8F1"), 1.5));
    p.setBrush(Qt::NoBrush);
    p.drawRect(seen.intersected(QRectF(map)));
    p.restore();
}

void LevelView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    if (!session_.isOpen() || !session_.level() || pages_.empty()) {
        p.fillRect(rect(), t.outside);
        p.setPen(QColor("#EAE4D6"));
        p.drawText(rect(), Qt::AlignCenter,
                   session_.isOpen()
                       ? tr("No level yet. Click the project's name at the upper left and add one.")
                       : tr("No project is open. Click at the upper left, or drop a project's folder on the window."));
        return;
    }
    p.drawImage(0, 0, frame_);
    const bool bound = session_.stage() == Stage::bound;
    if (bound || outlines_) paintOutlines(p, bound);
    if (!bound && !quiet_) paintBlockers(p);
    if (!quiet_ && !geometry().square()) paintEdgeNumbers(p);
    if (!quiet_) paintGuides(p);
    paintSelection(p);
    paintHover(p);
    if (!quiet_) {
        paintRulers(p);
        paintMap(p);
    }
}

} // namespace vic::app
