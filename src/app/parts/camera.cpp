#include "app/parts/camera.hpp"

#include <QPainter>
#include <QSizeF>
#include <algorithm>
#include <cmath>

namespace vic::app {

namespace {

// Whole steps above 1, halves below, so that every pixel of the art is the same size on screen.
constexpr double kZooms[] = {1.0 / 16, 1.0 / 8, 1.0 / 4, 1.0 / 2, 1, 2, 3, 4, 6, 8, 12, 16};
constexpr int kSteps = static_cast<int>(std::size(kZooms));
constexpr int kWhole = 4; // the step at which a pixel is a pixel

} // namespace

double Camera::zoom() const { return kZooms[step_]; }

int Camera::halvings() const { return std::max(0, kWhole - step_); }

QPointF Camera::centre() const { return origin_ + QPointF(area_.width(), area_.height()) / (2 * zoom()); }

void Camera::look(double zoom, QPointF centre) {
    step_ = 0;
    for (int i = 0; i < kSteps; ++i)
        if (std::abs(kZooms[i] - zoom) < std::abs(kZooms[step_] - zoom)) step_ = i;
    origin_ = centre - QPointF(area_.width(), area_.height()) / (2 * this->zoom());
    roundOrigin();
}

void Camera::move(QPointF pixels) { origin_ += pixels; }

void Camera::roundOrigin() {
    origin_ = QPointF(std::round(origin_.x() * zoom()), std::round(origin_.y() * zoom())) / zoom();
}

Camera::View Camera::stepped(int by, QPointF at) const {
    const QPointF fixed = placeAt(at);
    const double z = kZooms[std::clamp(step_ + by, 0, kSteps - 1)];
    return {z, fixed - (at - area_.topLeft()) / z + QPointF(area_.width(), area_.height()) / (2 * z)};
}

double Camera::fitting(const Box& pixels, double most) const {
    double best = kZooms[0];
    for (const double z : kZooms)
        if (z <= most && pixels.w * z <= area_.width() && pixels.h * z <= area_.height()) best = z;
    return best;
}

QRectF Camera::onScreen(const Box& pixels) const {
    const QPointF corner = (QPointF(pixels.x, pixels.y) - origin_) * zoom() + area_.topLeft();
    return {corner, QSizeF(pixels.w, pixels.h) * zoom()};
}

QPointF Camera::placeAt(QPointF screen) const { return origin_ + (screen - area_.topLeft()) / zoom(); }

Point Camera::pixelAt(QPointF screen) const {
    const QPointF p = placeAt(screen);
    return {static_cast<int>(std::floor(p.x())), static_cast<int>(std::floor(p.y()))};
}

QTransform Camera::cellsToScreen(const Lattice& lattice) const {
    const auto at = [&](double x, double y) {
        const Lattice::Pixels p = lattice.pixel_of({x, y});
        return (QPointF(p.x, p.y) - origin_) * zoom() + area_.topLeft();
    };
    const QPointF zero = at(0, 0), x = at(1, 0) - zero, y = at(0, 1) - zero;
    return {x.x(), x.y(), y.x(), y.y(), zero.x(), zero.y()};
}

QPolygonF Camera::shapeOf(const Lattice& lattice, const Box& cells) const {
    if (lattice.square()) return QPolygonF(around(lattice, cells));
    return cellsToScreen(lattice).map(
        QPolygonF({QPointF(cells.x, cells.y), QPointF(cells.right(), cells.y), QPointF(cells.right(), cells.bottom()),
                   QPointF(cells.x, cells.bottom())}));
}

QPolygonF Camera::footShape(const Lattice& lattice, const Box& foot) const {
    const QRectF box = onScreen(foot);
    if (lattice.square()) return QPolygonF(box);
    const double half = box.width() / 2 * lattice.cell.h / lattice.cell.w;
    const QPointF m = box.center();
    return {{QPointF(m.x(), m.y() - half), QPointF(box.right(), m.y()), QPointF(m.x(), m.y() + half),
             QPointF(box.left(), m.y())}};
}

Box Camera::seenOf(const Lattice& lattice) const {
    return lattice.cells_in(spanning(pixelAt(area_.topLeft()), pixelAt(area_.bottomRight())));
}

void Camera::drawCells(QPainter& p, const Lattice& lattice, const Box& cells, double inset) const {
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

} // namespace vic::app
