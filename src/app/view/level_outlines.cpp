// What blocks, drawn over the art.

#include <QBrush>
#include <QColor>
#include <QPainter>
#include <QPainterPath>
#include <QPen>
#include <QPoint>
#include <QPointF>
#include <QPolygonF>
#include <QRectF>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <cstddef>

#include "app/parts/facts_look.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/thumbs.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "edit/probes.hpp"
#include "edit/used.hpp"
#include "findings/finding.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/shape.hpp"
#include "level/standing.hpp"
#include "outline/solid.hpp"
#include "outline/trace.hpp"

namespace vic::app {

// What blocks on the storey that one works on: hatched under its outline in Bound, elsewhere the outline alone.
void LevelView::paintOutlines(QPainter& p, bool hatched) {
    const level::Level level = session_.onStorey(pages_.level());
    const Box seen = seenCells();
    if (seen.empty()) return;
    const outline::Kinds kinds{tilesOf(session_.project(), level), propKindsOf(session_.project(), level)};
    const outline::Drawing drawing = outline::drawing(
        [&](const Box& box, outline::SolidCode* out, std::size_t stride, outline::Forms& forms) {
            return outline::read_solid(level, kinds, box, out, stride, forms);
        },
        seen.grown(1));
    p.save();
    p.setClipRect(camera_.area().intersected(camera_.onScreen(level.pixels()).toAlignedRect().adjusted(-2, -2, 2, 2)));
    if (!geometry().square()) p.setRenderHint(QPainter::Antialiasing);
    if (hatched) {
        anchorHatching(p);
        paintMasses(p, drawing);
    }
    p.setBrush(Qt::NoBrush);
    const auto draw = [&](const QColor& colour, int width) {
        p.setPen(QPen(colour, width, Qt::SolidLine, Qt::SquareCap));
        for (const auto& line : drawing.lines) p.drawLine(unitsToScreen(line.from), unitsToScreen(line.to));
    };
    if (!hatched) draw(paper().card, 4);
    if (hatched && unmerged_)
        paintUnmerged(p, drawing);
    else
        draw(paper().ink, 2);
    for (const auto& [cell, side] : drawing.one_way) paintOneWayCell(p, cell, side, paper().ink);
    for (const outline::OneWayEdge& edge : drawing.edges)
        paintOneWayLine(p, unitsToScreen(edge.from), unitsToScreen(edge.to), edge.side, paper().ink);
    p.restore();
}

// Whole cells lie on whole pixels of the picture, as the view draws them.
QPointF LevelView::unitsToScreen(Point units) const {
    if (!geometry().square()) return camera_.cellsToScreen(geometry()).map(QPointF(units.x, units.y) / outline::kUnit);
    const Size c = geometry().cell;
    if (units.x % outline::kUnit == 0 && units.y % outline::kUnit == 0)
        return camera_.onScreen(Point{units.x / outline::kUnit * c.w, units.y / outline::kUnit * c.h});
    return camera_.onScreen(Point{0, 0}) + QPointF(units.x * c.w * zoom(), units.y * c.h * zoom()) / outline::kUnit;
}

// To the level, so that the hatching does not swim while one pans.
void LevelView::anchorHatching(QPainter& p) const {
    const QPointF anchor = camera_.onScreen(Point{0, 0});
    p.setBrushOrigin(QPoint(static_cast<int>(std::lround(anchor.x())) % kHatchSide,
                            static_cast<int>(std::lround(anchor.y())) % kHatchSide));
}

void LevelView::paintMasses(QPainter& p, const outline::Drawing& drawing) {
    const QBrush hatch = hatching();
    p.setPen(Qt::NoPen);
    p.setBrush(hatch);
    for (const Box& run : drawing.runs)
        if (geometry().square())
            p.fillRect(camera_.around(geometry(), run), hatch);
        else
            p.drawPolygon(camera_.shapeOf(geometry(), run));
    for (const level::Polygon& polygon : drawing.polygons) {
        QPolygonF corners;
        for (const Point corner : polygon) corners << unitsToScreen(corner);
        p.drawPolygon(corners);
    }
}

// Each cell and each shape by itself, as it would be handed over without merging.
void LevelView::paintUnmerged(QPainter& p, const outline::Drawing& drawing) {
    p.setPen(QPen(paper().vermilion, 1));
    p.setBrush(Qt::NoBrush);
    for (const Box& run : drawing.runs)
        for (int x = run.x; x < run.right(); ++x)
            for (int y = run.y; y < run.bottom(); ++y) p.drawPolygon(camera_.shapeOf(geometry(), {x, y, 1, 1}));
    for (const level::Polygon& polygon : drawing.polygons) {
        QPolygonF corners;
        for (const Point corner : polygon) corners << unitsToScreen(corner);
        p.drawPolygon(corners);
    }
}

void LevelView::paintOneWayCell(QPainter& p, Point cell, int side, const QColor& ink) const {
    if (geometry().square()) {
        paintOneWay(p, camera_.around(geometry(), {cell.x, cell.y, 1, 1}), side, ink);
        return;
    }
    const double s = geometry().cell.w * zoom() * 0.6;
    p.save();
    p.setTransform(QTransform::fromScale(1 / s, 1 / s) * QTransform::fromTranslate(cell.x, cell.y) *
                       camera_.cellsToScreen(geometry()),
                   true);
    paintOneWay(p, QRectF(0, 0, s, s), side, ink);
    p.restore();
}

namespace {

Point inUnits(QPointF cells) {
    return {static_cast<int>(std::floor(cells.x() * outline::kUnit)),
            static_cast<int>(std::floor(cells.y() * outline::kUnit))};
}

} // namespace

std::optional<QPointF> LevelView::pointedPlace() const {
    if (!pointedLevelCell() || !place_) return std::nullopt;
    return camera_.cellsToScreen(geometry()).inverted().map(*place_);
}

QString LevelView::decidedThere() const {
    const auto cell = pointedLevelCell();
    if (!cell || !session_.level()) return {};
    QString wet = soak_.reading(inUnits(*pointedPlace()));
    if (wet.isEmpty()) wet = reach_.reading(inUnits(*pointedPlace()));
    if (session_.stage() != Stage::bound) return wet;
    const edit::Decided decided = edit::decided_at(
        session_.project(), session_.onStorey(stroking() ? pages_.level() : *session_.level()), *cell);
    QString who = translated(decided.says);
    if (!decided.collision_class.empty())
        who = tr("%1 · class %2").arg(who, QString::fromStdString(decided.collision_class));
    return wet.isEmpty() ? who : wet + " · " + who;
}

QPointF LevelView::placeOf(QPointF cells) const { return camera_.cellsToScreen(geometry()).map(cells); }

void LevelView::setCovered(bool on) {
    covered_ = on;
    update();
}

QPoint LevelView::placeBelow(Point cell) const {
    return camera_.around(geometry(), {cell.x, cell.y, 1, 1}).bottomLeft().toPoint() + QPoint(0, 2);
}

void LevelView::setSoak(bool on) {
    if (!session_.level() || on == soak_.on()) return;
    soak_.pour(on ? std::optional(walk::start_of(pages_.level())) : std::nullopt, pages_.level());
    update();
    emit readingChanged();
}

void LevelView::setReach(bool on) {
    if (!session_.level() || on == reach_.on()) return;
    reach_.setOn(on, pages_.level());
    pointReach();
    update();
    emit readingChanged();
}

void LevelView::setLiveTry(bool on) {
    if (!session_.level() || on == liveTry_.on()) return;
    if (!on) return liveTry_.stop();
    const auto place = pointedPlace();
    liveTry_.start(*session_.level(), place ? std::optional(walk::Position{place->x(), place->y()}) : std::nullopt);
    pointLiveTry();
    setFocus();
}

void LevelView::pointLiveTry() {
    if (!liveTry_.on()) return;
    const auto place = pointedPlace();
    liveTry_.point(place ? std::optional(walk::Position{place->x(), place->y()}) : std::nullopt);
}

void LevelView::setProbe(bool blocks) {
    const auto place = pointedPlace();
    if (!session_.level() || !place) return;
    level::Level next = edit::with_probe(*session_.level(), inUnits(*place), blocks);
    const bool more = next.probes.size() >= session_.level()->probes.size();
    session_.applyLevel(!more    ? tr("Take a probe away")
                        : blocks ? tr("The walker must be stopped here")
                                 : tr("The walker must get through here"),
                        std::move(next));
}

// A square for what must stop him, a ring for what must let him through; red where that is not so.
void LevelView::paintProbes(QPainter& p) const {
    const level::Level& level = pages_.level();
    if (level.probes.empty()) return;
    const QTransform units =
        QTransform::fromScale(1.0 / outline::kUnit, 1.0 / outline::kUnit) * camera_.cellsToScreen(geometry());
    p.save();
    p.setClipRect(camera_.area());
    p.setRenderHint(QPainter::Antialiasing);
    for (const level::Probe& probe : level.probes) {
        const QPointF at = units.map(QPointF(probe.at.x, probe.at.y));
        const Point cell{floor_div(probe.at.x, outline::kUnit), floor_div(probe.at.y - 1, outline::kUnit)};
        const auto& all = session_.findings();
        const bool fails = std::any_of(all.begin(), all.end(), [&](const findings::Finding& f) {
            return f.level == level.id && f.cell == cell && f.code.rfind("probe-", 0) == 0;
        });
        const QRectF sign(at.x() - 6, at.y() - 6, 12, 12);
        for (const auto& [colour, width] :
             {std::pair{paper().card, 5.0}, {fails ? paper().vermilion : paper().ink, 2.0}}) {
            p.setPen(QPen(colour, width));
            if (probe.blocks) {
                p.drawRect(sign);
                p.drawLine(sign.topLeft(), sign.bottomRight());
            } else {
                p.drawEllipse(sign);
                p.drawPoint(at);
            }
        }
    }
    p.restore();
}

void LevelView::pointReach() {
    const auto place = reach_.on() ? pointedPlace() : std::nullopt;
    reach_.point(place ? std::optional(inUnits(*place)) : std::nullopt);
}

void LevelView::soakFromPointer() {
    if (!session_.level()) return;
    if (soak_.on() || !pointedLevelCell()) return setSoak(!soak_.on());
    soak_.pour(inUnits(*pointedPlace()), pages_.level());
    update();
    emit readingChanged();
}

// A dotted rim tells what was drawn from what follows from cells; what opens has a wash, as such cells have.
void LevelView::paintFreeBlocker(QPainter& p, const level::FreeBlocker& free) {
    if (intersection(level::cells_of(free), seenCells()).empty()) return;
    QPainterPath path;
    for (const level::Polygon& polygon : level::covered(free)) {
        QPolygonF corners;
        for (const Point c : polygon) corners << unitsToScreen(c);
        QPainterPath one;
        one.addPolygon(corners);
        one.closeSubpath();
        path = path.united(one);
    }
    const QColor ink = free.opens ? paper().brine : paper().vermilion;
    QColor wash = ink;
    wash.setAlpha(free.opens ? 46 : 0);
    p.setPen(QPen(ink, 1.5, Qt::DotLine));
    p.setBrush(wash);
    p.drawPath(path);
}

// Cells that let one walk, whatever lies in them: in Bound they would not be told from open ground.
void LevelView::paintOwnWords(QPainter& p) {
    const level::Level& level = pages_.level();
    QColor ink = paper().brine;
    QColor wash = ink;
    wash.setAlpha(46);
    p.save();
    p.setClipRect(camera_.area());
    p.setRenderHint(QPainter::Antialiasing);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->blockers()) continue;
        for (const level::FreeBlocker& free : layer->blockers()->free()) paintFreeBlocker(p, free);
        level::each_cell(layer->grid(), seenCells(), [&](Point at, level::Cell cell, level::MaterialId) {
            if (level::Blockers::shape_of(cell) != level::TileShape::opens) return;
            p.setPen(Qt::NoPen);
            p.setBrush(wash);
            camera_.drawCells(p, geometry(), {at.x, at.y, 1, 1});
            const QRectF box = camera_.around(geometry(), {at.x, at.y, 1, 1});
            if (box.height() < 12) return;
            const QPointF m = box.center();
            const double r = std::min(box.height() * 0.22, 7.0);
            p.setPen(QPen(ink, 1.5, Qt::SolidLine, Qt::RoundCap));
            p.drawLine(m - QPointF(r, 0), m + QPointF(r, 0));
            p.drawLine(m + QPointF(r, 0), m + QPointF(r * 0.4, -r * 0.6));
            p.drawLine(m + QPointF(r, 0), m + QPointF(r * 0.4, r * 0.6));
        });
    }
    p.restore();
}

// Blockers are not seen in the game; here they are brine hatching, stronger on the active layer.
void LevelView::paintBlockers(QPainter& p) {
    const level::Level& level = pages_.level();
    const QTransform to = camera_.cellsToScreen(geometry());
    const bool close = level.cell.w * zoom() >= 4;
    p.save();
    p.setClipRect(camera_.area());
    if (!geometry().square()) p.setRenderHint(QPainter::Antialiasing);
    anchorHatching(p);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->blockers() || !layer->shown) continue;
        QColor ink = paper().brine;
        ink.setAlpha(layer->id == session_.activeLayerId() ? 235 : 110);
        QColor wash = ink;
        wash.setAlpha(ink.alpha() / 5);
        level::each_cell(layer->grid(), seenCells(), [&](Point at, level::Cell cell, level::MaterialId) {
            const level::TileShape shape = level::Blockers::shape_of(cell);
            if (level::is_one_way(shape)) {
                paintOneWay(p, camera_.around(geometry(), {at.x, at.y, 1, 1}), level::one_way_side(shape), ink);
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

// What is said of cells: a wash of the value's colour, and its word where there is room; fainter on other layers.
void LevelView::paintFacts(QPainter& p) {
    const level::Level& level = pages_.level();
    const FactsLook look = session_.factsLook();
    p.save();
    p.setClipRect(camera_.area());
    if (!geometry().square()) p.setRenderHint(QPainter::Antialiasing);
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->facts() || !layer->shown) continue;
        const level::NoteKind* kind = session_.project().note_kind(layer->facts()->note());
        const bool active = layer->id == session_.activeLayerId();
        level::each_cell(layer->grid(), seenCells(), [&](Point at, level::Cell cell, level::MaterialId) {
            const auto value = level::Facts::value_of(cell);
            if (!value) return;
            QColor colour = factColour(kind, *value);
            const bool dark = colour.lightness() <= 140;
            colour.setAlpha(active ? 185 : 90);
            if (look != FactsLook::words) {
                p.setPen(Qt::NoPen);
                p.setBrush(colour);
                camera_.drawCells(p, geometry(), {at.x, at.y, 1, 1});
            }
            const QRectF box = camera_.around(geometry(), {at.x, at.y, 1, 1});
            if (look == FactsLook::colours || !active || box.height() < 14 || box.width() < 14) return;
            QFont font = p.font();
            font.setPixelSize(std::clamp(static_cast<int>(box.height() * 0.42), 9, 16));
            p.setFont(font);
            const QString word =
                p.fontMetrics().elidedText(factWord(kind, *value), Qt::ElideRight, static_cast<int>(box.width()) - 2);
            if (look == FactsLook::words) { // on any art
                p.setPen(QColor(20, 28, 26));
                p.drawText(box.translated(1, 1), Qt::AlignCenter, word);
            }
            p.setPen(dark || look == FactsLook::words ? QColor("#FBF8F1") : QColor("#22302D"));
            p.drawText(box, Qt::AlignCenter, word);
        });
    }
    p.restore();
}

} // namespace vic::app
