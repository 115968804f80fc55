#include "app/parts/picture_board.hpp"

#include <QColor>
#include <QPainter>
#include <QPen>
#include <algorithm>
#include <cmath>

#include "app/parts/tokens.hpp"

namespace vic::app {

namespace {
constexpr double kGrip = 5; // pixels to either side of a line by which it is held
}

PictureBoard::PictureBoard(QWidget* parent) : QWidget(parent) {
    setFixedSize(244, 212);
    setFocusPolicy(Qt::ClickFocus);
    setMouseTracking(true);
}

void PictureBoard::setArt(const QImage& art, Size pixels) {
    art_ = art;
    pixels_ = {std::max(1, pixels.w), std::max(1, pixels.h)};
    update();
}

QRectF PictureBoard::board() const {
    const double step = 192.0 / std::max(pixels_.w, pixels_.h);
    const double w = pixels_.w * step, h = pixels_.h * step;
    return {std::round((width() - w) / 2), std::round((height() - h) / 2), w, h};
}

QPointF PictureBoard::at(Point pixel) const {
    return board().topLeft() + QPointF(pixel.x, pixel.y) * (board().width() / pixels_.w);
}

QRectF PictureBoard::drawn(const Box& box) const { return {at(box.corner()), at({box.x + box.w, box.y + box.h})}; }

Point PictureBoard::pixelAt(QPointF p) const {
    const QPointF q = (p - board().topLeft()) * pixels_.w / board().width();
    return {std::clamp(qRound(q.x()), 0, pixels_.w), std::clamp(qRound(q.y()), 0, pixels_.h)};
}

void PictureBoard::paintArt(QPainter& p) const {
    p.fillRect(rect(), tokensOf(this).outside);
    p.fillRect(board(), QColor("#DCD5C4"));
    p.drawImage(board(), art_);
    p.fillRect(board(), QColor(244, 240, 230, 90));
}

void PictureBoard::paintBox(QPainter& p, const Box& box, bool chosen) const {
    const QColor dark("#22302D"), light("#FBF8F1"); // the board's ground is light in either look
    const QRectF place = drawn(box);
    const QColor ink = chosen ? tokensOf(this).vermilion : dark;
    p.setPen(QPen(light, 3));
    p.setBrush(QColor(ink.red(), ink.green(), ink.blue(), 60));
    p.drawRect(place);
    p.setPen(QPen(ink, 1, Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    p.drawRect(place);
    if (!chosen) return;
    p.setPen(QPen(ink, 1));
    p.setBrush(light);
    for (const QPointF corner : {place.topLeft(), place.topRight(), place.bottomLeft(), place.bottomRight()})
        p.drawRect(QRectF(corner - QPointF(3, 3), QSizeF(6, 6)));
    p.setBrush(Qt::NoBrush);
}

Qt::CursorShape PictureBoard::Grip::cursor() const {
    if (middle()) return Qt::SizeAllCursor;
    if (x == 0) return Qt::SizeVerCursor;
    if (y == 0) return Qt::SizeHorCursor;
    return x == y ? Qt::SizeFDiagCursor : Qt::SizeBDiagCursor;
}

std::optional<PictureBoard::Grip> PictureBoard::gripAt(const Box& box, QPointF p) const {
    const QRectF place = drawn(box);
    if (!place.adjusted(-kGrip, -kGrip, kGrip, kGrip).contains(p)) return std::nullopt;
    // Of a small one, the middle third moves it.
    const auto side = [](double at, double from, double to) {
        const double reach = std::min(kGrip, (to - from) / 3);
        return at < from + reach ? -1 : at > to - reach ? 1 : 0;
    };
    return Grip{side(p.x(), place.left(), place.right()), side(p.y(), place.top(), place.bottom())};
}

Box PictureBoard::dragged(const Box& box, Grip grip, Point by) const {
    Box out = box;
    if (grip.middle()) {
        out.x = std::clamp(box.x + by.x, std::min(0, pixels_.w - box.w), std::max(0, pixels_.w - box.w));
        out.y = std::clamp(box.y + by.y, std::min(0, pixels_.h - box.h), std::max(0, pixels_.h - box.h));
        return out;
    }
    const auto drag = [](int which, int& from, int& length, int move, int most) {
        const int to = from + length;
        if (which < 0) {
            from = std::clamp(from + move, std::min(0, from), to - 1);
            length = to - from;
        } else if (which > 0) {
            length = std::clamp(to + move, from + 1, std::max(to, most)) - from;
        }
    };
    drag(grip.x, out.x, out.w, by.x, pixels_.w);
    drag(grip.y, out.y, out.h, by.y, pixels_.h);
    return out;
}

} // namespace vic::app
