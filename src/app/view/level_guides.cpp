// What helps to build in the level view: the game's frame, guides, marks, and the walker's figure with its jump.

#include <QColor>
#include <QLineF>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QSizeF>
#include <QString>
#include <QTransform>
#include <algorithm>

#include "app/parts/glyphs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "level/frame.hpp"
#include "level/level.hpp"
#include "level/stamp.hpp"
#include "picture/art.hpp"
#include "picture/compose.hpp"
#include "walk/jump.hpp"
#include "walk/world.hpp"

namespace vic::app {

void LevelView::paintGuides(QPainter& p) {
    p.save();
    p.setClipRect(camera_.area());
    paintUserGuides(p);
    if (frameGuide_ && (session_.stage() == Stage::lay || session_.stage() == Stage::dress)) paintFrame(p);
    paintSides(p);
    const QRectF figure = paintFigureAndArc(p);
    paintMarks(p, figure);
    p.restore();
}

// What is said of the level's sides, at the rim: a wall where one blocks, arrows where one leads on.
void LevelView::paintSides(QPainter& p) {
    const level::Level& level = pages_.level();
    if (level.sides == level::LevelSides{}) return;
    const QTransform to = camera_.cellsToScreen(geometry());
    const double w = level.size.w, h = level.size.h;
    const QPointF corners[4] = {to.map(QPointF(0, 0)), to.map(QPointF(w, 0)), to.map(QPointF(w, h)),
                                to.map(QPointF(0, h))};
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < 4; ++i) {
        const level::LevelSide& side = level.sides[i];
        if (side.kind == level::SideKind::open) continue;
        QLineF line(corners[i], corners[(i + 1) % 4]);
        const QLineF out = QLineF(QPointF(), QPointF(line.dy(), -line.dx())).unitVector(); // away from the level
        const QPointF away(out.dx(), out.dy());
        if (side.kind == level::SideKind::blocks) {
            const QPolygonF wall{
                {line.p1() - away * 3, line.p2() - away * 3, line.p2() + away * 4, line.p1() + away * 4}};
            p.setPen(Qt::NoPen);
            p.setBrush(QColor("#22302D"));
            p.drawPolygon(wall);
            p.setBrush(QBrush(QColor("#EAE4D6"), Qt::BDiagPattern));
            p.drawPolygon(wall);
            continue;
        }
        p.setPen(QPen(paper().vermilion, 2, Qt::DashLine));
        p.drawLine(line);
        p.setPen(Qt::NoPen);
        p.setBrush(paper().vermilion);
        const QPointF along = (line.p2() - line.p1()) / std::max(1.0, line.length());
        for (double at = 40; at < line.length(); at += 96) {
            const QPointF foot = line.p1() + along * at - away * 14; // within the level, so that it is always seen
            p.drawPolygon(QPolygonF{{foot - along * 7, foot + along * 7, foot + away * 10}});
        }
        if (const level::Level* next = session_.project().level(side.to)) {
            const QString name = tr("to %1").arg(QString::fromStdString(next->name));
            const double wide = p.fontMetrics().horizontalAdvance(name) + 12;
            const QPointF middle = line.pointAt(0.5) - away * 30;
            paintTag(p, middle - QPointF(away.x() * wide / 2 + wide / 2, 8), name, QColor(34, 48, 45, 225),
                     QColor("#FBF8F1"));
        }
    }
    p.restore();
}

Point LevelView::figureFoot() const {
    const level::Level& level = pages_.level();
    // On the lower edge of a square, in the middle of a diamond.
    const Point under{0, level.lattice == LatticeKind::square ? 1 : 0};
    const auto middle = [&](Point cell) { return level.geometry().stand(cell) + under; };
    if (liveTry_.walks()) {
        const Lattice::Pixels at = level.geometry().pixel_of({liveTry_.foot().x, liveTry_.foot().y});
        return {static_cast<int>(at.x), static_cast<int>(at.y)};
    }
    if (figureAtPointer_)
        if (const auto cell = pointedLevelCell()) return middle(*cell);
    if (const auto parked = parked_.find(level.id); parked != parked_.end()) return parked->second;
    if (const level::Mark* start = level.first_mark(level::MarkKind::start)) {
        const bool square = level.lattice == LatticeKind::square;
        const Lattice::Pixels at =
            level.geometry().pixel_of({start->cells.x + start->cells.w / 2.0,
                                       square ? double(start->cells.bottom()) : start->cells.y + start->cells.h / 2.0});
        return {static_cast<int>(at.x), static_cast<int>(at.y)};
    }
    return middle({level.size.w / 2, level.size.h / 2});
}

void LevelView::setFigureAtPointer(bool on) {
    figureAtPointer_ = on;
    update();
}

void LevelView::parkFigure() {
    const auto cell = pointedLevelCell();
    if (!cell) return;
    parked_[pages_.level().id] =
        geometry().stand(*cell) + Point{0, pages_.level().lattice == LatticeKind::square ? 1 : 0};
    figureAtPointer_ = false;
    update();
}

void LevelView::setJumpArc(bool on) {
    jumpArc_ = on;
    update();
}

QRectF LevelView::paintFigureAndArc(QPainter& p) {
    const level::Level& level = pages_.level();
    const Point foot = figureFoot();
    if (jumpArc_ && level.view == level::View::from_the_side && level.walker.jump > 0)
        paintArc(p, camera_.onScreen(foot));
    const QRectF figure = camera_.onScreen(
        {foot.x - level.walker.width * level.cell.w / 128, foot.y - level.walker.height * geometry().upright() / 64,
         level.walker.width * level.cell.w / 64, level.walker.height * geometry().upright() / 64});
    const level::Mark* start = level.first_mark(level::MarkKind::start);
    if (!start || !paintActor(p, start->figure, foot + Point{0, geometry().square() ? -1 : 0}, still_))
        paintFigure(p, figure, paper().vermilion);
    paintBeforeFigure(p, figure, foot);
    return figure;
}

// The picture of a kind, standing there; false where it has none.
bool LevelView::paintActor(QPainter& p, level::PropKindId figure, Point at, picture::Art& art) const {
    const level::PropKind* kind = figure == 0 ? nullptr : session_.project().prop_kind(figure);
    if (!kind) return false;
    const level::Prop prop{1, kind->id, at};
    art.update(session_.project());
    const QImage picture = toQImage(picture::prop_picture(session_.project(), art, prop));
    if (picture.isNull()) return false;
    p.drawImage(camera_.onScreen(level::PropKinds(session_.project()).box(prop)), picture);
    return true;
}

// What the walker would go behind, over his figure; where that hides nearly all of it, it shines through.
void LevelView::paintBeforeFigure(QPainter& p, const QRectF& figure, Point foot) {
    const level::Level& level = pages_.level();
    const int w = level.walker.width * level.cell.w / 64, h = level.walker.height * geometry().upright() / 64;
    const Box box = Box{foot.x - w / 2, foot.y - h, w, h}.grown(4);
    picture::Canvas canvas(box);
    canvas.see_through = true;
    picture::draw_before(session_.project(), level, session_.derived().art(), canvas, {double(foot.x), double(foot.y)});
    const QImage over(reinterpret_cast<const uchar*>(canvas.pixels.data()), box.w, box.h, box.w * 4,
                      QImage::Format_ARGB32_Premultiplied);
    p.drawImage(camera_.onScreen(box), over);
    std::int64_t hidden = 0;
    const Box inner = box.grown(-4);
    for (int y = inner.y; y < inner.bottom(); ++y)
        for (int x = inner.x; x < inner.right(); ++x)
            hidden += canvas.pixels[static_cast<std::size_t>((y - box.y) * box.w + x - box.x)] >> 31;
    figureHidden_ = inner.size().area() > 0 && hidden * 5 > inner.size().area() * 4;
    if (!figureHidden_) return;
    p.save();
    p.setOpacity(0.6);
    paintFigure(p, figure.adjusted(-1, -1, 1, 1), QColor("#FBF8F1"));
    paintFigure(p, figure, paper().vermilion);
    p.restore();
}

// Both ways, with its measures as dimension lines.
void LevelView::paintArc(QPainter& p, QPointF from) {
    const level::Level& level = pages_.level();
    const QSizeF c = QSizeF(level.cell.w, level.cell.h) * zoom();
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    for (const int side : {1, -1}) {
        QPolygonF way;
        for (const walk::Position& at : walk::jump_arc(level.walker, 2))
            way << from + QPointF(side * at.x * c.width(), at.y * c.height());
        p.setPen(QPen(QColor("#FBF8F1"), 3));
        p.drawPolyline(way);
        QPen dash(paper().vermilion, 1.6, Qt::CustomDashLine);
        dash.setDashPattern({4, 3});
        p.setPen(dash);
        p.drawPolyline(way);
    }
    const double length = walk::jump_length(level.walker);
    const double high = level.walker.jump * c.height();
    const QPointF end = from + QPointF(length * c.width(), 0);
    p.setPen(QPen(paper().vermilion, 1));
    p.drawLine(from + QPointF(0, 4), end + QPointF(0, 4));
    p.drawLine(end + QPointF(0, 0), end + QPointF(0, 8));
    p.drawLine(from + QPointF(-6, -high), from + QPointF(6, -high));
    p.restore();
    paintTag(p, end + QPointF(5, -6), tr("%1 far, %2 high").arg(length, 0, 'f', 1).arg(level.walker.jump, 0, 'f', 1),
             QColor(34, 48, 45, 225), QColor("#FBF8F1"));
}

void LevelView::paintMarks(QPainter& p, const QRectF& figure) {
    const level::Level& level = pages_.level();
    for (const level::Mark& mark : level.marks) {
        const QColor own = mark.colour                          ? QColor(mark.colour->r, mark.colour->g, mark.colour->b)
                           : mark.kind == level::MarkKind::note ? paper().ochre
                                                                : paper().brine;
        const bool chosen = session_.mark() && session_.mark()->id == mark.id && session_.stage() == Stage::dress;
        // The cells that it stands for, where those are more than a figure fills.
        const bool box = mark.cells.size().area() > (mark.kind == level::MarkKind::note ? 1 : 4);
        if (chosen || box) {
            p.setPen(QPen(chosen ? paper().vermilion : own, chosen ? 2 : 1, chosen ? Qt::SolidLine : Qt::DashLine));
            QColor wash = own;
            wash.setAlpha(34);
            p.setBrush(wash);
            camera_.drawCells(p, geometry(), mark.cells);
        }
        QRectF place = camera_.around(geometry(), mark.cells);
        // Aslant a flag stands in the middle.
        if (!geometry().square()) place = QRectF(QPointF(place.center().x(), place.top()), place.center());
        if (!geometry().square()) place.setWidth(1);
        // Where the figure stands beside its pole, the flag flies above its head.
        const bool meets = figure.adjusted(-4, -4, 4, 4).intersects(place.adjusted(0, 0, 1, 1));
        if (meets && !geometry().square()) place.moveLeft(figure.left() - 3);
        paintFlag(p, place, QString::fromStdString(mark.name), own, meets ? place.bottom() - figure.top() + 14 : 0);
    }
}

Box LevelView::framePixels() const { return level::frame_box(pages_.level()); }

QRect LevelView::frameTag() const {
    if (covered_) return {};
    const QRectF box = camera_.onScreen(framePixels());
    if (!frameGuide_ || !box.intersects(QRectF(camera_.area()))) return {};
    const QPointF corner(std::max(box.left(), double(camera_.area().left())),
                         std::max(box.top(), double(camera_.area().top())) + 1);
    return QRectF(corner, QSizeF(112, 18)).toRect();
}

void LevelView::paintFrame(QPainter& p) {
    const level::Level& level = pages_.level();
    const QRectF box = camera_.onScreen(framePixels());
    p.setPen(QPen(QColor(20, 16, 10, 150), 1));
    p.setBrush(Qt::NoBrush);
    p.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
    QPen dash(QColor(255, 255, 255, 235), 1, Qt::CustomDashLine);
    dash.setDashPattern({5, 4});
    p.setPen(dash);
    p.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
    // Where its corner is out of view, the name stays at the rim.
    const QRect tag = frameTag();
    if (tag.isEmpty()) return;
    QString name;
    for (const level::FrameSize& f : session_.project().frames)
        if (f.size == level.frame) name = QString::fromStdString(f.name);
    paintTag(p, tag.topLeft(),
             name.isEmpty() ? tr("frame %1 × %2").arg(level.frame.w).arg(level.frame.h)
                            : tr("%1, %2 × %3").arg(name).arg(level.frame.w).arg(level.frame.h),
             QColor(34, 48, 45, 225), QColor("#FBF8F1"));
}

void LevelView::paintUserGuides(QPainter& p) {
    const QRect a = camera_.area();
    p.setPen(QPen(paper().brine, 1));
    for (const level::Guide& g : pages_.level().guides) {
        const QPointF at = camera_.onScreen(g.upright ? Point{g.at, 0} : Point{0, g.at});
        if (g.upright)
            p.drawLine(QPointF(at.x() + 0.5, a.top()), QPointF(at.x() + 0.5, a.bottom()));
        else
            p.drawLine(QPointF(a.left(), at.y() + 0.5), QPointF(a.right(), at.y() + 0.5));
    }
}

} // namespace vic::app
