#include "app/view/level_view.hpp"

#include <QPainter>
#include <QResizeEvent>
#include <QSize>
#include <QSizeF>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstring>

#include "app/session/session.hpp"
#include "picture/compose.hpp"

namespace vic::app {

namespace {
// Whole steps above 1, halves below, so that every pixel of the art is the same size on screen.
constexpr double kZooms[] = {1.0 / 16, 1.0 / 8, 1.0 / 4, 1.0 / 2, 1, 2, 3, 4, 6, 8, 12, 16};
constexpr int kZoomCount = static_cast<int>(std::size(kZooms));
} // namespace

LevelView::LevelView(Session& session, QWidget* parent) : QWidget(parent), session_(session), pages_(session.art()) {
    setObjectName("levelView");
    setAccessibleName(tr("Level"));
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(320, 240);
    setAttribute(Qt::WA_OpaquePaintEvent);
    connect(&session_, &Session::changed, this, &LevelView::refresh);
    connect(&session_, &Session::ticked, this, &LevelView::tick);
    const auto again = [this] {
        preview();
        say();
        update();
    };
    connect(&session_, &Session::handChanged, this, again);
    connect(&session_, &Session::selectionChanged, this, again);
}

double LevelView::zoom() const { return kZooms[zoomIndex_]; }

QRect LevelView::area() const { return quiet_ ? rect() : QRect(kRuler, kRuler, width() - kRuler, height() - kRuler); }

QPointF LevelView::centre() const {
    const QRect a = area();
    return origin_ + QPointF(a.width(), a.height()) / (2 * zoom());
}

void LevelView::setCamera(double zoom, QPointF centre) {
    int best = 0;
    for (int i = 0; i < kZoomCount; ++i)
        if (std::abs(kZooms[i] - zoom) < std::abs(kZooms[best] - zoom)) best = i;
    const bool sameZoom = best == zoomIndex_;
    const QPointF before = origin_;
    zoomIndex_ = best;
    const QRect a = area();
    const QPointF corner = centre - QPointF(a.width(), a.height()) / (2 * this->zoom());
    // Whole screen pixels, so that the art does not swim.
    origin_ = QPointF(std::round(corner.x() * this->zoom()), std::round(corner.y() * this->zoom())) / this->zoom();
    if (!sameZoom || !scroll((before - origin_) * this->zoom())) redraw(area());
    preview();
    say();
    update();
    emit cameraChanged();
}

// Moves what is drawn by whole screen pixels and draws only what came into view. False where that cannot be done.
bool LevelView::scroll(QPointF by) {
    const double ratio = frame_.devicePixelRatio();
    const QPoint d(static_cast<int>(std::lround(by.x() * ratio)), static_cast<int>(std::lround(by.y() * ratio)));
    const QRect a = area();
    if (frame_.isNull() || ratio != std::floor(ratio) || std::abs(d.x()) >= a.width() * ratio ||
        std::abs(d.y()) >= a.height() * ratio || QPointF(d) / ratio != QPointF(std::round(by.x()), std::round(by.y())))
        return false;
    const int r = static_cast<int>(ratio);
    const QRect all(a.topLeft() * r, a.size() * r);
    const QRect from = all.intersected(all.translated(-d));
    const QRect to = from.translated(d);
    const auto bytes = static_cast<std::size_t>(from.width()) * 4;
    for (int i = 0; i < from.height(); ++i) {
        const int row = d.y() > 0 ? from.height() - 1 - i : i; // so that no row is written before it is read
        std::memmove(frame_.scanLine(to.top() + row) + to.left() * 4,
                     frame_.constScanLine(from.top() + row) + from.left() * 4, bytes);
    }
    const QPoint s = d / r;
    if (s.x() != 0) redraw(QRect(s.x() > 0 ? a.left() : a.right() + 1 + s.x(), a.top(), std::abs(s.x()), a.height()));
    if (s.y() != 0) redraw(QRect(a.left(), s.y() > 0 ? a.top() : a.bottom() + 1 + s.y(), a.width(), std::abs(s.y())));
    return true;
}

void LevelView::zoomStep(int by, QPointF at) {
    const QPointF fixed = origin_ + (at - area().topLeft()) / zoom();
    const int index = std::clamp(zoomIndex_ + by, 0, kZoomCount - 1);
    if (index == zoomIndex_) return;
    const double z = kZooms[index];
    const QRect a = area();
    setCamera(z, fixed - (at - a.topLeft()) / z + QPointF(a.width(), a.height()) / (2 * z));
}

void LevelView::fit() {
    const level::Level* level = session_.level();
    if (!level) return;
    const Box px = picture::extent(session_.project(), *level);
    const QRect a = area();
    double best = kZooms[0];
    for (const double z : kZooms)
        if (px.w * z <= a.width() && px.h * z <= a.height()) best = z;
    setCamera(best, QPointF(px.x + px.w / 2.0, px.y + px.h / 2.0));
}

QRectF LevelView::onScreen(const Box& pixels) const {
    const QPointF corner = (QPointF(pixels.x, pixels.y) - origin_) * zoom() + area().topLeft();
    return {corner, QSizeF(pixels.w, pixels.h) * zoom()};
}

QPoint LevelView::cellCentre(Point cell) const { return onScreen(grain().box(cell)).center().toPoint(); }

QTransform LevelView::cellsToScreen(const Lattice& l) const {
    const auto at = [&](double x, double y) {
        const Lattice::Pixels p = l.pixel_of({x, y});
        return (QPointF(p.x, p.y) - origin_) * zoom() + area().topLeft();
    };
    const QPointF zero = at(0, 0), x = at(1, 0) - zero, y = at(0, 1) - zero;
    return {x.x(), x.y(), y.x(), y.y(), zero.x(), zero.y()};
}

QPolygonF LevelView::shapeOf(const Lattice& lattice, const Box& cells) const {
    if (lattice.square()) return QPolygonF(around(lattice, cells));
    return cellsToScreen(lattice).map(
        QPolygonF({QPointF(cells.x, cells.y), QPointF(cells.right(), cells.y), QPointF(cells.right(), cells.bottom()),
                   QPointF(cells.x, cells.bottom())}));
}

void LevelView::drawCells(QPainter& p, const Lattice& lattice, const Box& cells, double inset) const {
    if (lattice.square()) {
        p.drawRect(around(lattice, cells).adjusted(inset, inset, -inset, -inset));
        return;
    }
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    QPolygonF shape = shapeOf(lattice, cells);
    if (inset > 0) {
        const QPointF middle = shape.boundingRect().center();
        const double by = 1 - 3 * inset / std::max(8.0, shape.boundingRect().width());
        for (QPointF& corner : shape) corner = middle + (corner - middle) * by;
    }
    p.drawPolygon(shape);
    p.restore();
}

Point LevelView::pixelAt(QPointF place) const {
    const QPointF p = origin_ + (place - area().topLeft()) / zoom();
    return {static_cast<int>(std::floor(p.x())), static_cast<int>(std::floor(p.y()))};
}

Point LevelView::cellAt(QPointF place) const { return grain().cell_at(pixelAt(place)); }

void LevelView::lookAt(Point cell) {
    const Lattice::Pixels p = geometry().pixel_of({cell.x + 0.5, cell.y + 0.5});
    setCamera(std::max(zoom(), 1.0), QPointF(p.x, p.y));
}

void LevelView::setTrial(std::optional<level::Level> level) {
    trial_ = std::move(level);
    preview();
    say();
    update();
}

void LevelView::setLattice(bool on) {
    lattice_ = on;
    redraw(area());
    update();
}

void LevelView::setOutlines(bool on) {
    outlines_ = on;
    update();
}

void LevelView::setFrameGuide(bool on) {
    frameGuide_ = on;
    update();
}

void LevelView::setQuiet(bool on) {
    const QPointF kept = centre();
    quiet_ = on;
    setCamera(zoom(), kept);
    redraw(area());
}

void LevelView::refresh() {
    const level::Level* level = session_.isOpen() ? session_.level() : nullptr;
    if (!level) {
        update();
        return;
    }
    const bool other = cameraOf_ != level->id;
    if (other) {
        stroke_.reset();
        drag_.reset();
        marquee_.reset();
        moving_.reset();
        pull_.reset();
        measure_.reset();
    }
    if (!stroking()) show(trial_ ? *trial_ : *level);
    if (other) {
        cameraOf_ = level->id;
        const Box px = level->pixels();
        // Where the walker begins is where one looks first.
        QPointF look(px.x + px.w / 2.0, px.y + px.h / 2.0);
        if (const level::Mark* start = level->first_mark(level::MarkKind::start)) {
            const Point corner = level->geometry().corner(start->cells.corner());
            look = QPointF(corner.x, corner.y);
        }
        setCamera(zoom(), look);
    }
    preview();
    say();
    update();
}

void LevelView::show(const level::Level& as_it_is) {
    const level::Level level = session_.seen(as_it_is);
    const auto changed = pages_.show(session_.document().state(), level, session_.stage() == Stage::bound);
    // Which cases are missing may change without any cell, and is told of a cell by its neighbours, too.
    const bool rules = marksOf_ != session_.project().materials;
    marksOf_ = session_.project().materials;
    const bool subdivision = drawnGrain_ != grain(); // its lines are drawn
    drawnGrain_ = grain();
    if (!changed || rules || subdivision) {
        redraw(area());
    } else {
        for (const Box& changedCells : *changed) {
            const Box cells = changedCells.grown(1);
            redraw(around(geometry(), cells).toAlignedRect());
        }
        if (changed->empty()) return;
    }
    update();
    emit shownChanged();
}

void LevelView::tick() {
    if (!isVisible() || !session_.isOpen() || pages_.empty()) return;
    const auto drawn = pages_.tick(session_.clock(), seenCells());
    for (const Box& cells : drawn) redraw(around(geometry(), cells).toAlignedRect());
    if (!drawn.empty()) update();
}

void LevelView::resizeEvent(QResizeEvent* event) {
    // The middle stays where it is.
    const QSize old = event->oldSize();
    if (old.isValid()) {
        origin_ += QPointF(old.width() - width(), old.height() - height()) / (2 * zoom());
        origin_ = QPointF(std::round(origin_.x() * zoom()), std::round(origin_.y() * zoom())) / zoom();
    }
    frame_ = QImage(size() * devicePixelRatioF(), QImage::Format_RGB32);
    frame_.setDevicePixelRatio(devicePixelRatioF());
    redraw(area());
    emit cameraChanged();
}

} // namespace vic::app
