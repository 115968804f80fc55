#include "app/parts/area_board.hpp"

#include <QColor>
#include <QFontMetrics>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QSizeF>
#include <algorithm>
#include <cmath>
#include <cstddef>
#include <utility>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

AreaBoard::AreaBoard(QWidget* parent) : QWidget(parent) {
    setObjectName("areaBoard");
    setFixedSize(244, 212);
    setFocusPolicy(Qt::ClickFocus);
    describe(this, tr("Areas that tell"), {},
             tr("Drag over nothing to draw one, drag one to move it; Delete takes the chosen one away. They do not "
                "block; the engine is told their names"));
}

void AreaBoard::show(const QImage& art, Size pixels, const std::vector<level::PropArea>& areas) {
    art_ = art;
    pixels_ = {std::max(1, pixels.w), std::max(1, pixels.h)};
    if (!from_) areas_ = areas;
    if (chosen_ >= static_cast<int>(areas_.size())) chosen_ = static_cast<int>(areas_.size()) - 1;
    update();
}

void AreaBoard::choose(int which) {
    const int wanted = which < static_cast<int>(areas_.size()) ? which : -1;
    if (wanted == chosen_) return;
    chosen_ = wanted;
    update();
    emit choiceChanged();
}

QRectF AreaBoard::board() const {
    const double step = 192.0 / std::max(pixels_.w, pixels_.h);
    const double w = pixels_.w * step, h = pixels_.h * step;
    return {std::round((width() - w) / 2), std::round((height() - h) / 2), w, h};
}

QPointF AreaBoard::at(Point pixel) const {
    return board().topLeft() + QPointF(pixel.x, pixel.y) * (board().width() / pixels_.w);
}

QRectF AreaBoard::drawn(const Box& box) const { return {at(box.corner()), at({box.x + box.w, box.y + box.h})}; }

Point AreaBoard::pixelAt(QPointF p) const {
    const QPointF q = (p - board().topLeft()) * pixels_.w / board().width();
    return {std::clamp(qRound(q.x()), 0, pixels_.w), std::clamp(qRound(q.y()), 0, pixels_.h)};
}

// The chosen one before the others, the last drawn before earlier ones.
int AreaBoard::areaAt(QPointF p) const {
    if (chosen_ >= 0 && drawn(areas_[static_cast<std::size_t>(chosen_)].box).contains(p)) return chosen_;
    for (int i = static_cast<int>(areas_.size()) - 1; i >= 0; --i)
        if (drawn(areas_[static_cast<std::size_t>(i)].box).contains(p)) return i;
    return -1;
}

void AreaBoard::remove(int which) {
    areas_.erase(areas_.begin() + which);
    chosen_ = std::min(which, static_cast<int>(areas_.size()) - 1);
    update();
    emit changed(areas_);
    emit choiceChanged();
}

void AreaBoard::mousePressEvent(QMouseEvent* e) {
    const int on = areaAt(e->position());
    if (e->button() == Qt::RightButton && on >= 0) return remove(on);
    if (e->button() != Qt::LeftButton) return;
    before_ = areas_;
    from_ = pixelAt(e->position());
    draws_ = on < 0;
    if (on >= 0) choose(on);
}

void AreaBoard::mouseMoveEvent(QMouseEvent* e) {
    if (!from_) return;
    const Point to = pixelAt(e->position());
    areas_ = before_;
    if (draws_) {
        const Box box{std::min(from_->x, to.x), std::min(from_->y, to.y), std::abs(to.x - from_->x),
                      std::abs(to.y - from_->y)};
        if (box.w > 0 && box.h > 0 && areas_.size() < level::kMostPropAreas)
            areas_.push_back({tr("area").toStdString(), box});
    } else {
        Box& box = areas_[static_cast<std::size_t>(chosen_)].box;
        box.x = std::clamp(box.x + to.x - from_->x, std::min(0, pixels_.w - box.w), std::max(0, pixels_.w - box.w));
        box.y = std::clamp(box.y + to.y - from_->y, std::min(0, pixels_.h - box.h), std::max(0, pixels_.h - box.h));
    }
    update();
}

void AreaBoard::mouseReleaseEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || !from_) return;
    from_.reset();
    if (areas_ != before_) {
        if (std::exchange(draws_, false)) chosen_ = static_cast<int>(areas_.size()) - 1;
        emit changed(areas_);
        emit choiceChanged();
    }
    update();
}

void AreaBoard::keyPressEvent(QKeyEvent* e) {
    if ((e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) && chosen_ >= 0) return remove(chosen_);
    QWidget::keyPressEvent(e);
}

void AreaBoard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    const QColor dark("#22302D"), light("#FBF8F1"); // the board's ground is light in either look
    p.fillRect(rect(), t.outside);
    p.fillRect(board(), QColor("#DCD5C4"));
    p.drawImage(board(), art_);
    p.fillRect(board(), QColor(244, 240, 230, 90));
    for (std::size_t i = 0; i < areas_.size(); ++i) {
        const QRectF box = drawn(areas_[i].box);
        const bool is = static_cast<int>(i) == chosen_;
        const QColor ink = is ? t.vermilion : dark;
        p.setPen(QPen(light, 3));
        p.setBrush(QColor(ink.red(), ink.green(), ink.blue(), 60));
        p.drawRect(box);
        p.setPen(QPen(ink, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box);
        const QString name = QFontMetrics(font()).elidedText(QString::fromStdString(areas_[i].name), Qt::ElideRight,
                                                             static_cast<int>(std::max(24.0, box.width() - 6)));
        const QRectF chip(box.topLeft() + QPointF(1, 1),
                          QSizeF(QFontMetrics(font()).horizontalAdvance(name) + 8, QFontMetrics(font()).height()));
        p.fillRect(chip, QColor(light.red(), light.green(), light.blue(), 215));
        p.setPen(ink);
        p.drawText(chip, Qt::AlignCenter, name);
    }
    if (areas_.empty()) {
        p.setPen(dark);
        p.drawText(board(), Qt::AlignCenter, tr("Drag to draw\na part that tells"));
    }
}

} // namespace vic::app
