// What helps to build in the level view: the game's frame, guides, the walker's figure with its jump, and measuring.

#include <QColor>
#include <QLineF>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <QPen>
#include <QPoint>
#include <QPointF>
#include <QPolygonF>
#include <QRect>
#include <QRectF>
#include <QSizeF>
#include <QString>
#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>
#include <vector>

#include "app/parts/glyphs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "edit/stroke.hpp"
#include "level/level.hpp"
#include "level/stamp.hpp"
#include "walk/jump.hpp"
#include "walk/world.hpp"

namespace vic::app {

namespace {

constexpr int kGrip = 5; // screen pixels around a guide's sign on the ruler

} // namespace

Point LevelView::figureFoot() const {
    const level::Level& level = pages_.level();
    // On the lower edge of a square, in the middle of a diamond.
    const Point under{0, level.lattice == LatticeKind::square ? 1 : 0};
    const auto middle = [&](Point cell) { return level.geometry().stand(cell) + under; };
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
    const Size c = level.cell;
    const Point foot = figureFoot();
    if (jumpArc_ && level.view == level::View::from_the_side && level.walker.jump > 0) {
        const QPointF from = onScreen({foot.x, foot.y, 0, 0}).topLeft();
        p.save();
        p.setRenderHint(QPainter::Antialiasing);
        for (const int side : {1, -1}) {
            QPolygonF way;
            for (const walk::Position& at : walk::jump_arc(level.walker, 2))
                way << from + QPointF(side * at.x * c.w, at.y * c.h) * zoom();
            p.setBrush(Qt::NoBrush);
            p.setPen(QPen(QColor("#FBF8F1"), 3));
            p.drawPolyline(way);
            QPen dash(paper().vermilion, 1.6, Qt::CustomDashLine);
            dash.setDashPattern({4, 3});
            p.setPen(dash);
            p.drawPolyline(way);
        }
        // How high and how far, as dimension lines.
        const double high = level.walker.jump * c.h * zoom();
        const double far = walk::jump_length(level.walker) * c.w * zoom();
        p.setPen(QPen(paper().vermilion, 1));
        const QPointF end = from + QPointF(far, 0);
        p.drawLine(from + QPointF(0, 4), end + QPointF(0, 4));
        p.drawLine(end + QPointF(0, 0), end + QPointF(0, 8));
        p.drawLine(from + QPointF(-6, -high), from + QPointF(6, -high));
        p.restore();
        paintTag(
            p, end + QPointF(5, -6),
            tr("%1 far, %2 high").arg(walk::jump_length(level.walker), 0, 'f', 1).arg(level.walker.jump, 0, 'f', 1),
            QColor(34, 48, 45, 225), QColor("#FBF8F1"));
    }
    const QRectF figure = onScreen(
        {foot.x - level.walker.width * c.w / 128, foot.y - level.walker.height * level.geometry().upright() / 64,
         level.walker.width * c.w / 64, level.walker.height * level.geometry().upright() / 64});
    paintFigure(p, figure, paper().vermilion);
    return figure;
}

Box LevelView::framePixels() const {
    const level::Level& level = pages_.level();
    if (level.frame_at) return {level.frame_at->x, level.frame_at->y, level.frame.w, level.frame.h};
    const level::Mark* start = level.first_mark(level::MarkKind::start);
    const Box all = level.pixels();
    const Lattice l = level.geometry();
    Point foot{all.x + all.w / 2, all.y + all.h / 2};
    if (start) {
        const Lattice::Pixels at =
            l.pixel_of({start->cells.x + start->cells.w / 2.0,
                        l.square() ? double(start->cells.bottom()) : start->cells.y + start->cells.h / 2.0});
        foot = {static_cast<int>(at.x), static_cast<int>(at.y)};
    }
    const auto along = [](int middle, int shown, int from, int whole) {
        return from + (whole <= shown ? (whole - shown) / 2 : std::clamp(middle - from - shown / 2, 0, whole - shown));
    };
    return {along(foot.x, level.frame.w, all.x, all.w), along(foot.y - l.upright(), level.frame.h, all.y, all.h),
            level.frame.w, level.frame.h};
}

QRect LevelView::frameTag() const {
    const QRectF box = onScreen(framePixels());
    if (!frameGuide_ || !box.intersects(QRectF(area()))) return {};
    const QPointF corner(std::max(box.left(), double(area().left())), std::max(box.top(), double(area().top())) + 1);
    return QRectF(corner, QSizeF(112, 18)).toRect();
}

void LevelView::paintFrame(QPainter& p) {
    const level::Level& level = pages_.level();
    const QRectF box = onScreen(framePixels());
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
    const level::Level& level = pages_.level();
    std::vector<level::Guide> all = level.guides;
    if (pull_ && !pull_->frame) all.push_back(pull_->guide);
    for (const level::Guide& g : all) {
        const QPointF at = onScreen({g.upright ? g.at : 0, g.upright ? 0 : g.at, 0, 0}).topLeft();
        const QRect a = area();
        p.setPen(QPen(paper().brine, 1));
        if (g.upright)
            p.drawLine(QPointF(at.x() + 0.5, a.top()), QPointF(at.x() + 0.5, a.bottom()));
        else
            p.drawLine(QPointF(a.left(), at.y() + 0.5), QPointF(a.right(), at.y() + 0.5));
    }
}

std::optional<level::Guide> LevelView::guideAt(QPoint place) const {
    const bool top = place.y() < kRuler && place.x() >= kRuler;
    const bool left = place.x() < kRuler && place.y() >= kRuler;
    for (const level::Guide& g : pages_.level().guides) {
        const QPointF at = onScreen({g.upright ? g.at : 0, g.upright ? 0 : g.at, 0, 0}).topLeft();
        if (top && g.upright && std::abs(at.x() - place.x()) <= kGrip) return g;
        if (left && !g.upright && std::abs(at.y() - place.y()) <= kGrip) return g;
    }
    return std::nullopt;
}

bool LevelView::pressGuides(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return false;
    const QPoint place = event->pos();
    // Where something would be laid, laying goes first.
    const bool idle = session_.hand().kind == edit::Hand::Kind::empty ||
                      (session_.tool() >= Tool::select && session_.tool() <= Tool::measure);
    if (idle && frameTag().contains(place) && (session_.stage() == Stage::lay || session_.stage() == Stage::dress)) {
        const Box frame = framePixels();
        const Point at = pixelAt(place);
        pull_ = Pull{true, {}, QPointF(frame.x - at.x, frame.y - at.y)};
        return true;
    }
    if (area().contains(place)) return false;
    if (const auto known = guideAt(place)) {
        level::Level next = *session_.level();
        std::erase(next.guides, *known);
        pull_ = Pull{false, *known, {}};
        session_.applyLevel(tr("Move a guide"), std::move(next), "guide");
        return true;
    }
    if (place.x() < kRuler && place.y() < kRuler) return true;
    // From the upper ruler comes a level guide, from the left one an upright one.
    const bool upright = place.x() < kRuler;
    pull_ = Pull{false, {upright, 0}, {}};
    movePull(place);
    return true;
}

void LevelView::movePull(QPointF place) {
    const Point at = pixelAt(place);
    const Size c = pages_.level().cell;
    const bool free = (modifiers_ & Qt::ShiftModifier) != 0;
    const auto snapped = [&](int v, int cell) {
        return free ? v : static_cast<int>(std::lround(double(v) / cell)) * cell;
    };
    if (pull_->frame) {
        level::Level next = *session_.level();
        next.frame_at = Point{snapped(at.x + static_cast<int>(pull_->grip.x()), c.w),
                              snapped(at.y + static_cast<int>(pull_->grip.y()), c.h)};
        if (next.frame_at != session_.level()->frame_at)
            session_.applyLevel(tr("Move the frame"), std::move(next), "frame");
    } else {
        pull_->guide.at = pull_->guide.upright ? snapped(at.x, c.w) : snapped(at.y, c.h);
    }
    update();
}

void LevelView::releasePull(QPointF place) {
    const Pull pull = *pull_;
    pull_.reset();
    if (pull.frame) return;
    // Over a ruler it is put away.
    if (!area().contains(place.toPoint())) return update();
    level::Level next = *session_.level();
    next.guides.push_back(pull.guide);
    std::sort(next.guides.begin(), next.guides.end());
    next.guides.erase(std::unique(next.guides.begin(), next.guides.end()), next.guides.end());
    session_.applyLevel(tr("Place a guide"), std::move(next), "guide");
}

// Cells along both of the lattice's directions.
QPointF LevelView::measuredCells() const {
    const auto [a, b] = *measure_;
    const CellPlace from = geometry().place_of(a.x, a.y), to = geometry().place_of(b.x, b.y);
    return {std::abs(to.x - from.x), std::abs(to.y - from.y)};
}

QString LevelView::measured() const {
    const level::Level& level = pages_.level();
    const auto [a, b] = *measure_;
    const double dx = std::abs(b.x - a.x);
    const double dy = std::abs(b.y - a.y);
    const double far = std::hypot(dx, dy);
    const QLocale locale;
    const auto number = [&](double v) { return locale.toString(v, 'f', v < 10 && v != std::floor(v) ? 2 : 0); };
    const QPointF cells = measuredCells();
    QString text = tr("<b>%1 × %2 px</b> · %3 × %4 cells · %5 × %6 units of the engine")
                       .arg(number(dx), number(dy), number(cells.x()), number(cells.y()),
                            number(dx / session_.project().unit), number(dy / session_.project().unit));
    text += tr(" · %1 px across").arg(number(far));
    const double tall = level.walker.height / 64.0 * level.geometry().upright();
    text += tr(" · %1 walkers high").arg(number(dy / tall));
    if (const double jump = walk::jump_length(level.walker) * level.cell.w;
        jump > 0 && level.view == level::View::from_the_side)
        text += tr(" · %1 jumps wide, %2 jumps high")
                    .arg(number(dx / jump), number(dy / (level.walker.jump * level.cell.h)));
    return text;
}

void LevelView::paintMeasure(QPainter& p) {
    if (!measure_) return;
    const auto place = [&](Point at) { return onScreen({at.x, at.y, 0, 0}).topLeft(); };
    const QPointF a = place(measure_->first);
    const QPointF b = place(measure_->second);
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QLineF line(a, b);
    const QPointF across = line.length() > 0 ? QPointF(-line.dy(), line.dx()) / line.length() * 6 : QPointF(0, 6);
    for (const bool under : {true, false}) {
        p.setPen(QPen(under ? QColor("#FBF8F1") : paper().vermilion, under ? 3.5 : 1.5));
        p.drawLine(line);
        p.drawLine(a - across, a + across);
        p.drawLine(b - across, b + across);
    }
    p.restore();
    const QLocale locale;
    const QPointF cells = measuredCells();
    paintTag(p, line.center() + QPointF(8, 6),
             tr("%1 × %2 cells").arg(locale.toString(cells.x(), 'f', 1), locale.toString(cells.y(), 'f', 1)),
             QColor(34, 48, 45, 225), QColor("#FBF8F1"));
}

void LevelView::zoomTo(const Box& cells) {
    if (cells.empty()) return;
    const QRect a = area();
    const Box px = grain().box(cells);
    const QPointF middle(px.x + px.w / 2.0, px.y + px.h / 2.0);
    double best = 1.0 / 16;
    for (const double z : {1.0 / 8, 1.0 / 4, 1.0 / 2, 1.0, 2.0, 3.0, 4.0, 6.0, 8.0})
        if (px.w * z <= a.width() && px.h * z <= a.height()) best = z;
    setCamera(best, middle);
}

} // namespace vic::app
