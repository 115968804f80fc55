#include "app/gesture/marquee.hpp"

#include <QPainter>
#include <QPen>
#include <QPointF>

#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "base/lattice.hpp"

namespace vic::app {

bool Marquee::takes(const Pointer& at) const {
    return laysCells(session().stage()) && (at.left() || at.button == Qt::NoButton);
}

bool Marquee::press(const Pointer& at) {
    using Mode = Drawn::Mode;
    const Point cell = cellAt(at);
    drawn_ = Drawn{at.shift() ? Mode::add : at.alt() ? Mode::remove : Mode::fresh, cell, cell, {}};
    move(at);
    return true;
}

void Marquee::move(const Pointer& at) {
    drawn_->last = cellAt(at);
    const QPointF pixel = camera().placeAt(at.place);
    const CellPlace place = grain().place_of(pixel.x(), pixel.y());
    drawn_->line.push_back({place.x, place.y});
    board_.drawAgain();
}

void Marquee::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (drawn_ || !at) return;
    p.setPen(QPen(paper().brine, 1));
    p.setBrush(Qt::NoBrush);
    const Point cell = cellAt(*at);
    camera().drawCells(p, grain(), {cell.x, cell.y, 1, 1});
}

} // namespace vic::app
