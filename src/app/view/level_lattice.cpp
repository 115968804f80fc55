// The lines between the cells.

#include <QColor>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QRect>
#include <QRectF>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/session/session.hpp"
#include "app/view/level_view.hpp"
#include "base/geometry.hpp"
#include "level/level.hpp"

namespace vic::app {

void LevelView::paintLattice(QPainter& p, const QRect& part) {
    const Size c = pages_.level().cell;
    if (!lattice_ || (c.w * zoom() < 12 && pages_.level().lines_every * c.w * zoom() < 12)) return;
    if (!geometry().square()) return paintIsometricLattice(p, part);
    const QRectF whole = camera_.onScreen(pages_.level().pixels());
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
    paintFineLines(p, part);
    for (int i = std::max(1, first); i <= last; ++i)
        p.fillRect(QRectF(std::round(whole.left() + i * c.w * zoom()), part.top(), 1, part.height()), ink(i));
    const int top = static_cast<int>(std::floor((part.top() - whole.top()) / (c.h * zoom())));
    const int bottom = static_cast<int>(std::ceil((part.bottom() - whole.top()) / (c.h * zoom())));
    for (int i = std::max(1, top); i <= bottom; ++i)
        p.fillRect(QRectF(part.left(), std::round(whole.top() + i * c.h * zoom()), part.width(), 1), ink(i));
}

// Between the level's lines, fainter, those of a layer with cells of its own, while one works on it.
void LevelView::paintFineLines(QPainter& p, const QRect& part) {
    const Size c = pages_.level().cell;
    const Size fine = grain().cell;
    if (fine == c || fine.w * zoom() < 8) return;
    const QRectF whole = camera_.onScreen(pages_.level().pixels());
    const QColor faint(20, 16, 10, fine.w > c.w ? 60 : 20);
    // Those of wider cells are stronger than the level's, finer ones fainter.
    const bool wider = fine.w > c.w;
    const int columns = wider ? 0 : c.w / fine.w;
    const int rows = wider ? 0 : c.h / fine.h;
    const int right = static_cast<int>(std::ceil((part.right() - whole.left()) / (fine.w * zoom())));
    const int low = static_cast<int>(std::ceil((part.bottom() - whole.top()) / (fine.h * zoom())));
    for (int i = std::max(1, static_cast<int>(std::floor((part.left() - whole.left()) / (fine.w * zoom()))));
         i <= right; ++i)
        if (wider || i % columns != 0)
            p.fillRect(QRectF(std::round(whole.left() + i * fine.w * zoom()), part.top(), 1, part.height()), faint);
    for (int i = std::max(1, static_cast<int>(std::floor((part.top() - whole.top()) / (fine.h * zoom())))); i <= low;
         ++i)
        if (wider || i % rows != 0)
            p.fillRect(QRectF(part.left(), std::round(whole.top() + i * fine.h * zoom()), part.width(), 1), faint);
}

// The lines of an isometric lattice, and the level's edge: around it nothing can be laid.
void LevelView::paintIsometricLattice(QPainter& p, const QRect& part) {
    const level::Level& level = pages_.level();
    const QTransform to = camera_.cellsToScreen(geometry());
    const bool close = level.cell.w * zoom() >= 20;
    const int every = level.lines_every;
    const QColor line = session_.stage() == Stage::bound ? QColor(80, 70, 50, 40) : QColor(20, 16, 10, 48);
    const Box seen = intersection(
        geometry().cells_in(spanning(camera_.pixelAt(part.topLeft()), camera_.pixelAt(part.bottomRight()))).grown(1),
        level.cells());
    if (seen.empty()) return;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    // Fainter, those of a layer with cells of its own, while one works on it.
    const double finer = double(level.cell.w) / grain().cell.w; // below one: wider
    if (grain().cell != level.cell && grain().cell.w * zoom() >= 14) {
        p.setPen(QPen(QColor(20, 16, 10, finer < 1 ? 60 : 26), 1));
        const auto lines = [&](int from, int end, const auto& line) {
            for (int i = std::max(1, static_cast<int>(from * finer)); i < end * finer; ++i)
                if (finer < 1 || i % static_cast<int>(finer) != 0) line(i / finer);
        };
        lines(seen.x, seen.right(),
              [&](double x) { p.drawLine(to.map(QPointF(x, seen.y)), to.map(QPointF(x, seen.bottom()))); });
        lines(seen.y, seen.bottom(),
              [&](double y) { p.drawLine(to.map(QPointF(seen.x, y)), to.map(QPointF(seen.right(), y))); });
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
    p.drawPolygon(camera_.shapeOf(geometry(), level.cells()));
    p.restore();
}

} // namespace vic::app
