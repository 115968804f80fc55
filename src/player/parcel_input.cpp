// What the player of the game holds down: keys, and the mouse for a walker that goes all ways.
#include <QKeyEvent>
#include <QMouseEvent>

#include "level/walker.hpp"
#include "player/parcel_view.hpp"

namespace vic::player {

void ParcelView::setKey(int key, bool down) {
    switch (key) {
        case Qt::Key_Left:
        case Qt::Key_A:
            input_.left = down;
            break;
        case Qt::Key_Right:
        case Qt::Key_D:
            input_.right = down;
            break;
        case Qt::Key_Up:
        case Qt::Key_W:
            input_.up = input_.jump = down;
            break;
        case Qt::Key_Down:
        case Qt::Key_S:
            input_.down = down;
            break;
        case Qt::Key_Shift:
            input_.run = down;
            break;
        case Qt::Key_Space:
            input_.jump = down;
            break;
        default:
            break;
    }
}

void ParcelView::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        emit leaveAsked();
    else if (event->key() == Qt::Key_R && !event->isAutoRepeat())
        restart();
    else if (event->key() == Qt::Key_O && !event->isAutoRepeat())
        setOutlines(!outlines_);
    else if (!event->isAutoRepeat())
        setKey(event->key(), true);
}

void ParcelView::keyReleaseEvent(QKeyEvent* event) {
    if (!event->isAutoRepeat()) setKey(event->key(), false);
}

void ParcelView::focusOutEvent(QFocusEvent*) {
    input_ = {};
    led_.reset();
}

void ParcelView::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) led_ = event->position();
}

void ParcelView::mouseMoveEvent(QMouseEvent* event) {
    if (led_) led_ = event->position();
}

void ParcelView::mouseReleaseEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) led_.reset();
}

// Towards where the mouse is held.
void ParcelView::lead() {
    input_.towards = -1;
    const vicinum::Level& of = level();
    if (!led_ || of.from_the_side || of.walker.ways != level::kAllWays) return;
    const Shown now = shown();
    const QPointF pixel = (*led_ - QPointF(now.corner)) / now.zoom + QPointF(now.frame.x, now.frame.y);
    const auto [x, y] = of.place(pixel.x(), pixel.y());
    input_.towards = walk::towards(world().foot(), {x, y});
}


} // namespace vic::player
