// Changing a cut in the picture: lines pulled by their grips and nudged by keys; islands chosen, drawn and moved.

#include <QColor>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPen>
#include <QPoint>
#include <QPointF>
#include <QPolygonF>
#include <QRectF>
#include <QWidget>
#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>
#include <vector>

#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/sheet/sheet_view.hpp"
#include "base/geometry.hpp"
#include "edit/props.hpp"
#include "level/level.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"
#include "sheet/cut.hpp"

namespace vic::app {

namespace {
constexpr double kGripSide = 9; // screen pixels
constexpr double kPivotReach = 7;
} // namespace

void SheetView::setMarks(unsigned marks) {
    marks_ = marks;
    update();
}

void SheetView::setMode(Mode mode) {
    if (mode_ == mode) return;
    mode_ = mode;
    setShownCut({});
    moved_.reset();
    setCursor(Qt::ArrowCursor);
    update();
}

void SheetView::setIslands(std::vector<Box> boxes) {
    islands_ = std::move(boxes);
    update();
}

void SheetView::setKinds(std::vector<level::PropKindId> kinds) {
    kinds_ = std::move(kinds);
    update();
}

QPoint SheetView::placeOf(Point pixel) const { return place({pixel.x, pixel.y, 1, 1}).topLeft().toPoint(); }

std::vector<SheetView::Grip> SheetView::grips() const {
    const level::Sheet* s = sheet();
    if (!s || !imageOf_ || sheet::cut_trouble(shownCut_.value_or(s->cut), imageOf_->size())) return {};
    const level::Cut cut = shownCut_.value_or(s->cut);
    const Size count = sheet::columns_rows(cut, imageOf_->size());
    std::vector<Grip> out;
    for (const bool across : {true, false}) {
        const int margin = across ? cut.margin.x : cut.margin.y;
        const int tile = across ? cut.tile.w : cut.tile.h;
        const int gap = across ? cut.spacing.x : cut.spacing.y;
        out.push_back({across, Grip::margin, margin});
        out.push_back({across, Grip::tile, margin + tile});
        if ((across ? count.w : count.h) > 1) out.push_back({across, Grip::gap, margin + tile + gap});
    }
    return out;
}

QRectF SheetView::gripPlace(const Grip& g) const {
    const QRectF whole = place(box_of(imageOf_->size()));
    // The gap's grip stands on its own line, further out, so that two at the same pixel can both be taken.
    const double out = (g.line == Grip::gap ? 2.0 : 1.0) * (kGripSide + 2) + 20;
    if (g.across)
        return {origin_.x() + g.at * zoom_ - kGripSide / 2, whole.top() - out - kGripSide / 2 + 6, kGripSide,
                kGripSide};
    return {whole.left() - out - 22 - kGripSide / 2, origin_.y() + g.at * zoom_ - kGripSide / 2, kGripSide, kGripSide};
}

std::optional<SheetView::Grip> SheetView::gripAt(QPointF at) const {
    if (!imageOf_ || use_ != Use::cut || mode_ != Mode::lattice) return std::nullopt;
    for (const Grip& g : grips())
        if (gripPlace(g).adjusted(-2, -2, 2, 2).contains(at)) return g;
    return std::nullopt;
}

level::Cut SheetView::pulled(const Grip& g, QPointF at) const {
    level::Cut cut = sheet()->cut;
    const int scale = cut.scale;
    // Whole pixels of the art as drawn.
    const double raw = g.across ? (at.x() - origin_.x()) / zoom_ : (at.y() - origin_.y()) / zoom_;
    const int pixel = static_cast<int>(std::lround(raw / scale)) * scale;
    int& margin = g.across ? cut.margin.x : cut.margin.y;
    int& tile = g.across ? cut.tile.w : cut.tile.h;
    int& gap = g.across ? cut.spacing.x : cut.spacing.y;
    const int room = g.across ? imageOf_->width() : imageOf_->height();
    if (g.line == Grip::margin) margin = std::clamp(pixel, 0, room - tile);
    if (g.line == Grip::tile) tile = std::clamp(pixel - margin, scale, room - margin);
    if (g.line == Grip::gap) gap = std::max(0, pixel - margin - tile);
    return cut;
}

void SheetView::paintGrips(QPainter& p) {
    const Tokens t = tokensOf(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (const Grip& g : grips()) {
        const QRectF r = gripPlace(g);
        const bool lit = (grip_ && grip_->across == g.across && grip_->line == g.line) ||
                         (!grip_ && r.adjusted(-2, -2, 2, 2).contains(pointer_) && underMouse());
        const QRectF whole = place(box_of(imageOf_->size()));
        p.setPen(QPen(lit ? t.vermilion : QColor("#A5B2AB"), 1));
        if (g.across)
            p.drawLine(QPointF(r.center().x(), r.bottom()), QPointF(r.center().x(), whole.top()));
        else
            p.drawLine(QPointF(r.right(), r.center().y()), QPointF(whole.left(), r.center().y()));
        p.setPen(QPen(QColor("#FBF8F1"), 1));
        p.setBrush(lit ? t.vermilion : QColor("#22302D"));
        if (g.line == Grip::margin)
            p.drawEllipse(r.center(), 4, 4);
        else if (g.line == Grip::tile)
            p.drawRect(r.adjusted(1, 1, -1, -1));
        else
            p.drawPolygon(QPolygonF{QPointF(r.center().x(), r.top()), QPointF(r.right(), r.center().y()),
                                    QPointF(r.center().x(), r.bottom()), QPointF(r.left(), r.center().y())});
    }
    p.setRenderHint(QPainter::Antialiasing, false);
}

void SheetView::keyPressEvent(QKeyEvent* event) {
    if (mode_ == Mode::islands && use_ == Use::cut) {
        if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) return emit removeAsked();
        if (event->key() == Qt::Key_J) return emit mergeAsked();
    }
    const level::Sheet* s = sheet();
    int dx = 0;
    int dy = 0;
    if (event->key() == Qt::Key_Left) dx = -1;
    if (event->key() == Qt::Key_Right) dx = 1;
    if (event->key() == Qt::Key_Up) dy = -1;
    if (event->key() == Qt::Key_Down) dy = 1;
    if (!s || !imageOf_ || use_ != Use::cut || (dx == 0 && dy == 0)) return QWidget::keyPressEvent(event);
    if (mode_ == Mode::islands) {
        if (kinds_.size() != 1) return;
        level::PropKind k = *session_.project().prop_kind(kinds_.front());
        k.box.x = std::clamp(k.box.x + dx, 0, imageOf_->width() - k.box.w);
        k.box.y = std::clamp(k.box.y + dy, 0, imageOf_->height() - k.box.h);
        emit kindChanged(k);
        return;
    }
    level::Cut cut = s->cut;
    dx *= cut.scale;
    dy *= cut.scale;
    if (event->modifiers() & Qt::ShiftModifier)
        cut.tile = {cut.tile.w + dx, cut.tile.h + dy};
    else if (event->modifiers() & Qt::AltModifier)
        cut.spacing = cut.spacing + Point{dx, dy};
    else
        cut.margin = cut.margin + Point{dx, dy};
    if (!sheet::cut_trouble(cut, imageOf_->size())) emit cutPulled(cut, true);
}

QPointF SheetView::pivotPlace(const level::PropKind& k) const {
    return place({k.box.x + k.pivot.x, k.box.y + k.pivot.y, 1, 1}).center();
}

const level::PropKind* SheetView::kindAt(QPointF at) const {
    // The smallest box under the pointer, so that a thing before a larger one can be taken.
    const level::PropKind* found = nullptr;
    for (const auto& k : session_.project().prop_kinds)
        if (k->sheet == sheet_ && k->box.contains(pixelAt(at)) &&
            (!found || k->box.size().area() < found->box.size().area()))
            found = k.get();
    return found;
}

void SheetView::paintIslands(QPainter& p) {
    const Tokens t = tokensOf(this);
    p.setBrush(Qt::NoBrush);
    for (const Box& b : islands_) {
        if (edit::is_taken(session_.project(), sheet_, b)) continue;
        const QRectF r = place(b).adjusted(-0.5, -0.5, 0.5, 0.5);
        p.setPen(QPen(QColor("#22302D"), 1));
        p.drawRect(r);
        p.setPen(QPen(QColor("#FBF8F1"), 1, Qt::DashLine));
        p.drawRect(r);
    }
    for (const auto& kind : session_.project().prop_kinds) {
        if (kind->sheet != sheet_) continue;
        const level::PropKind& k = moved_ && moved_->id == kind->id ? *moved_ : *kind;
        const bool chosen = std::find(kinds_.begin(), kinds_.end(), k.id) != kinds_.end();
        const QRectF r = place(k.box).adjusted(-0.5, -0.5, 0.5, 0.5);
        if (chosen) {
            p.setPen(QPen(QColor("#FBF8F1"), 4));
            p.drawRect(r);
        }
        p.setPen(QPen(chosen ? t.vermilion : t.brine, chosen ? 2 : 1));
        p.drawRect(r);
        const QPointF at = pivotPlace(k);
        const double arm = chosen ? 7 : 4;
        for (const auto& [colour, width] : {std::pair{QColor("#22302D"), 3.0}, {QColor("#FBF8F1"), 1.0}}) {
            p.setPen(QPen(colour, width));
            p.drawLine(at - QPointF(arm, 0), at + QPointF(arm, 0));
            p.drawLine(at - QPointF(0, arm), at + QPointF(0, arm));
        }
        if (chosen && kinds_.size() == 1) {
            const QRectF foot = place(k.foot.moved(k.box.corner()));
            p.setPen(QPen(t.ochre, 1, Qt::DotLine));
            p.drawRect(foot);
        }
    }
}

void SheetView::pressIsland(QMouseEvent* event) {
    rubber_ = event->position();
    pivoting_ = false;
    moved_.reset();
    if (kinds_.size() == 1) {
        const level::PropKind* k = session_.project().prop_kind(kinds_.front());
        const QPointF off = k ? pivotPlace(*k) - event->position() : QPointF(99, 99);
        if (k && std::hypot(off.x(), off.y()) <= kPivotReach) {
            moved_ = *k;
            pivoting_ = true;
            return;
        }
    }
    const level::PropKind* k = kindAt(event->position());
    // What is chosen is moved by dragging; elsewhere dragging draws a box.
    if (k && kinds_ == std::vector<level::PropKindId>{k->id} && !(event->modifiers() & Qt::ShiftModifier)) moved_ = *k;
}

void SheetView::releaseIsland(QMouseEvent* event) {
    const QRectF r = QRectF(*rubber_, event->position()).normalized();
    rubber_.reset();
    const bool dragged = r.width() > 4 || r.height() > 4;
    const auto moved = moved_;
    moved_.reset();
    if (moved && dragged) {
        emit kindChanged(*moved);
    } else if (dragged) {
        const Box box =
            intersection(spanning(pixelAt(r.topLeft()), pixelAt(r.bottomRight())), box_of(imageOf_->size()));
        if (!box.empty()) emit boxDrawn(box);
    } else {
        const level::PropKind* k = kindAt(event->position());
        std::vector<level::PropKindId> chosen;
        if (event->modifiers() & Qt::ControlModifier) chosen = kinds_;
        if (k) {
            const auto at = std::find(chosen.begin(), chosen.end(), k->id);
            if (at == chosen.end())
                chosen.push_back(k->id);
            else
                chosen.erase(at);
        }
        kinds_ = std::move(chosen);
        emit kindsChosen();
    }
    update();
}

} // namespace vic::app
