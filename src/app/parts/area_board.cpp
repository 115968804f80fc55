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

AreaBoard::AreaBoard(QWidget* parent) : PictureBoard(parent) {
    setObjectName("areaBoard");
    describe(this, tr("Areas that tell"), {},
             tr("Drag over nothing to draw one, drag one to move it, its sides to change it; Delete takes the chosen "
                "one away. They do not "
                "block; the engine is told their names"));
}

void AreaBoard::show(const QImage& art, Size pixels, const std::vector<level::PropArea>& areas) {
    setArt(art, pixels);
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

// The chosen one before the others, the last drawn before earlier ones.
int AreaBoard::areaAt(QPointF p) const {
    if (chosen_ >= 0 && gripAt(areas_[static_cast<std::size_t>(chosen_)].box, p)) return chosen_;
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
    if (on < 0) return;
    choose(on);
    grip_ = gripAt(areas_[static_cast<std::size_t>(on)].box, e->position()).value_or(Grip{});
}

void AreaBoard::mouseMoveEvent(QMouseEvent* e) {
    if (!from_) {
        const auto grip =
            chosen_ < 0 ? std::nullopt : gripAt(areas_[static_cast<std::size_t>(chosen_)].box, e->position());
        return setCursor(grip ? grip->cursor() : Qt::CrossCursor);
    }
    const Point to = pixelAt(e->position());
    areas_ = before_;
    if (draws_) {
        const Box box{std::min(from_->x, to.x), std::min(from_->y, to.y), std::abs(to.x - from_->x),
                      std::abs(to.y - from_->y)};
        if (box.w > 0 && box.h > 0 && areas_.size() < level::kMostPropAreas)
            areas_.push_back({tr("area").toStdString(), box});
    } else {
        Box& box = areas_[static_cast<std::size_t>(chosen_)].box;
        box = dragged(box, grip_, to - *from_);
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
    paintArt(p);
    for (std::size_t i = 0; i < areas_.size(); ++i) {
        const QRectF box = drawn(areas_[i].box);
        const bool is = static_cast<int>(i) == chosen_;
        const QColor ink = is ? t.vermilion : dark;
        paintBox(p, areas_[i].box, is);
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
