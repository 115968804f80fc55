#include "app/parts/shape_board.hpp"

#include <QColor>
#include <QEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QPen>
#include <QPolygonF>
#include <QSizeF>
#include <algorithm>
#include <cmath>

#include "app/parts/panel.hpp"
#include "app/parts/tokens.hpp"

namespace vic::app {

using level::Polygon;
using level::Polygons;

namespace {

constexpr double kReach = 7; // pixels within which a corner or a line is taken

double distance(QPointF p, QPointF a, QPointF b) {
    const QPointF d = b - a;
    const double length = QPointF::dotProduct(d, d);
    const double t = length > 0 ? std::clamp(QPointF::dotProduct(p - a, d) / length, 0.0, 1.0) : 0.0;
    const QPointF q = p - a - t * d;
    return std::hypot(q.x(), q.y());
}

} // namespace

ShapeBoard::ShapeBoard(QWidget* parent) : QWidget(parent) {
    setObjectName("shapeBoard");
    setFixedSize(244, 212);
    setMouseTracking(true);
    setFocusPolicy(Qt::ClickFocus);
    describe(this, tr("Drawing board"), {},
             tr("Drag a corner; a click on a line adds one, a double click or Delete takes one away. Dragging over "
                "nothing adds a box"));
}

void ShapeBoard::show(const QImage& art, const Polygons& polygons) {
    art_ = art;
    if (!held_) polygons_ = polygons;
    if (lit_ && (lit_->part >= polygons_.size() || lit_->corner >= polygons_[lit_->part].size())) lit_.reset();
    update();
}

// As large as it fits, as wide to its height as the lattice.
QRectF ShapeBoard::board() const {
    const double step = 192.0 / std::max({lines_.w, lines_.h, 1});
    const double w = lines_.w * step, h = lines_.h * step;
    return {std::round((width() - w) / 2), std::round((height() - h) / 2), w, h};
}

void ShapeBoard::setLattice(Size lines) {
    if (lines == lines_) return;
    lines_ = lines;
    lit_.reset();
    held_.reset();
    boxFrom_.reset();
    update();
}

Text ShapeBoard::trouble() const {
    return lines_ == Size{level::kShapeSide, level::kShapeSide} ? level::shape_trouble(polygons_)
                                                                : level::outline_trouble(polygons_, lines_);
}

QPointF ShapeBoard::at(Point corner) const {
    return board().topLeft() + QPointF(corner.x, corner.y) * (board().width() / lines_.w);
}

Point ShapeBoard::cornerAt(QPointF p) const {
    const QPointF q = (p - board().topLeft()) * lines_.w / board().width();
    return {std::clamp(qRound(q.x()), 0, lines_.w), std::clamp(qRound(q.y()), 0, lines_.h)};
}

std::optional<ShapeBoard::Hit> ShapeBoard::hit(QPointF p) const {
    std::optional<Hit> best;
    double nearest = kReach;
    for (std::size_t i = 0; i < polygons_.size(); ++i)
        for (std::size_t k = 0; k < polygons_[i].size(); ++k) {
            const QPointF a = at(polygons_[i][k]), b = at(polygons_[i][(k + 1) % polygons_[i].size()]);
            const double corner = std::hypot(p.x() - a.x(), p.y() - a.y());
            // A corner is meant before the lines that meet there.
            if (corner <= kReach && (!best || best->line || corner < nearest)) {
                nearest = corner;
                best = Hit{i, k, false};
            } else if ((!best || best->line) && distance(p, a, b) < nearest) {
                nearest = distance(p, a, b);
                best = Hit{i, k, true};
            }
        }
    return best;
}

void ShapeBoard::remove(const Hit& which) {
    Polygon& part = polygons_[which.part];
    if (part.size() > 3)
        part.erase(part.begin() + static_cast<std::ptrdiff_t>(which.corner));
    else
        polygons_.erase(polygons_.begin() + static_cast<std::ptrdiff_t>(which.part));
    lit_.reset();
    held_.reset();
    update();
    emit drawn(polygons_);
}

void ShapeBoard::mousePressEvent(QMouseEvent* e) {
    const auto what = hit(e->position());
    if (e->button() == Qt::RightButton) {
        if (what && !what->line) remove(*what);
        return;
    }
    if (e->button() != Qt::LeftButton) return;
    if (e->type() == QEvent::MouseButtonDblClick) {
        if (what && !what->line) remove(*what);
        return;
    }
    before_ = polygons_;
    if (!what) {
        boxFrom_ = cornerAt(e->position());
        return;
    }
    held_ = what;
    if (what->line) {
        Polygon& part = polygons_[what->part];
        part.insert(part.begin() + static_cast<std::ptrdiff_t>(what->corner) + 1, cornerAt(e->position()));
        held_ = Hit{what->part, what->corner + 1, false};
    }
    lit_ = held_;
    update();
}

void ShapeBoard::mouseMoveEvent(QMouseEvent* e) {
    if (held_) {
        polygons_[held_->part][held_->corner] = cornerAt(e->position());
    } else if (boxFrom_) {
        const Point to = cornerAt(e->position());
        polygons_ = before_;
        const int x0 = std::min(boxFrom_->x, to.x), x1 = std::max(boxFrom_->x, to.x);
        const int y0 = std::min(boxFrom_->y, to.y), y1 = std::max(boxFrom_->y, to.y);
        if (x0 < x1 && y0 < y1) polygons_.push_back({{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}});
    } else {
        lit_ = hit(e->position());
    }
    update();
}

void ShapeBoard::mouseReleaseEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton || (!held_ && !boxFrom_)) return;
    const bool box = boxFrom_.has_value();
    held_.reset();
    boxFrom_.reset();
    if (polygons_ == before_) return update();
    const Text why = box && polygons_.empty() ? Text() : trouble();
    if (!why.empty()) {
        polygons_ = before_;
        lit_.reset();
        emit refused(why);
    } else {
        emit drawn(polygons_);
    }
    update();
}

void ShapeBoard::leaveEvent(QEvent*) {
    if (!held_) lit_.reset();
    update();
}

void ShapeBoard::keyPressEvent(QKeyEvent* e) {
    if ((e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) && lit_ && !lit_->line) return remove(*lit_);
    QWidget::keyPressEvent(e);
}

void ShapeBoard::paintEvent(QPaintEvent*) {
    QPainter p(this);
    const Tokens t = tokensOf(this);
    const QRectF b = board();
    p.fillRect(rect(), t.outside);
    p.fillRect(b, QColor("#DCD5C4"));
    p.drawImage(b, art_);
    p.fillRect(b, QColor(244, 240, 230, 90)); // the art steps back a little, so that the lines can be seen
    const double step = b.width() / lines_.w;
    for (const bool across : {true, false})
        for (int i = 1; i < (across ? lines_.w : lines_.h); ++i) {
            if (step < 5 && i % 8 != 0) continue;
            const QColor line(20, 16, 10, i % 8 == 0 ? 90 : i % 4 == 0 ? 50 : 22);
            const double v = std::round(i * step);
            p.fillRect(
                across ? QRectF(b.left() + v, b.top(), 1, b.height()) : QRectF(b.left(), b.top() + v, b.width(), 1),
                line);
        }
    p.setRenderHint(QPainter::Antialiasing);
    const bool right = held_ || boxFrom_ ? polygons_.empty() || trouble().empty() : true;
    const QColor dark("#22302D"), light("#FBF8F1"); // the board's ground is light in either look
    const QColor ink = right ? dark : t.vermilion;
    for (const Polygon& part : polygons_) {
        QPolygonF corners;
        for (const Point c : part) corners << at(c);
        p.setPen(QPen(light, 4));
        p.setBrush(QColor(ink.red(), ink.green(), ink.blue(), 90));
        p.drawPolygon(corners);
        p.setPen(QPen(ink, 2));
        p.setBrush(Qt::NoBrush);
        p.drawPolygon(corners);
    }
    for (std::size_t i = 0; i < polygons_.size(); ++i)
        for (std::size_t k = 0; k < polygons_[i].size(); ++k) {
            const bool lit = lit_ && !lit_->line && lit_->part == i && lit_->corner == k;
            const double side = lit ? 5 : 3.5;
            p.setPen(QPen(lit ? t.vermilion : dark, 1.5));
            p.setBrush(light);
            p.drawRect(QRectF(at(polygons_[i][k]) - QPointF(side, side), QSizeF(2 * side, 2 * side)));
        }
    if (polygons_.empty() && !boxFrom_) {
        p.setPen(dark);
        p.drawText(b, Qt::AlignCenter, tr("Drag to draw a box,\nor take it from the art"));
    }
}

} // namespace vic::app
