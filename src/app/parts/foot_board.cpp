#include "app/parts/foot_board.hpp"

#include <QColor>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <algorithm>
#include <cstdlib>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

FootBoard::FootBoard(QWidget* parent) : PictureBoard(parent) {
    setObjectName("footBoard");
    describe(this, tr("The foot"), {},
             tr("The ground that it stands on: drag it to move it, its sides and corners to change it, or draw another "
                "over nothing. Planting keeps feet apart, what blocks is part of it, walkers go behind what is above "
                "it"));
}

void FootBoard::show(const QImage& art, Size pixels, const Box& foot, Point pivot) {
    setArt(art, pixels);
    if (!from_) foot_ = foot;
    pivot_ = pivot;
}

void FootBoard::mousePressEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton) return;
    before_ = foot_;
    from_ = pixelAt(e->position());
    grip_ = gripAt(foot_, e->position());
}

void FootBoard::mouseMoveEvent(QMouseEvent* e) {
    if (!from_) {
        const auto grip = gripAt(foot_, e->position());
        return setCursor(grip ? grip->cursor() : Qt::CrossCursor);
    }
    const Point to = pixelAt(e->position());
    if (grip_) {
        foot_ = dragged(before_, *grip_, to - *from_);
    } else {
        const Box box{std::min(from_->x, to.x), std::min(from_->y, to.y), std::abs(to.x - from_->x),
                      std::abs(to.y - from_->y)};
        foot_ = box.w > 0 && box.h > 0 ? box : before_;
    }
    update();
}

void FootBoard::mouseReleaseEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || !from_) return;
    from_.reset();
    if (foot_ != before_) emit changed(foot_);
    update();
}

void FootBoard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    paintArt(p);
    if (!foot_.empty()) paintBox(p, foot_, true);
    // The pivot, in the middle of its pixel.
    const double half = board().width() / pixels_.w / 2;
    const QPointF at = this->at(pivot_) + QPointF(half, half);
    for (const auto& [colour, wide] : {std::pair(QColor("#FBF8F1"), 3), std::pair(QColor("#22302D"), 1)}) {
        p.setPen(QPen(colour, wide));
        p.drawLine(at - QPointF(5, 0), at + QPointF(5, 0));
        p.drawLine(at - QPointF(0, 5), at + QPointF(0, 5));
    }
}

} // namespace vic::app
