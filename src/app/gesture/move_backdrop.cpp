// Dragging the active backdrop and, by a corner, its size; and what is wrong with how it lies.

#include <QBrush>
#include <QCoreApplication>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QRectF>
#include <QString>
#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "base/geometry.hpp"
#include "edit/backdrop.hpp"
#include "level/backdrop.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kGrip = 7; // screen pixels around a corner, and within which it snaps

class MoveBackdrop : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override;
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override { drag_.reset(); }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;

  private:
    struct Drag {
        level::Backdrop before, now;
        Box copy; // the one that is dragged, as it was
        Point from;
        std::optional<Point> about; // while it is scaled: the corner that stays
    };
    [[nodiscard]] const level::Layer* layer() const; // the active one, where it is a backdrop with a picture
    [[nodiscard]] Size picture() const;
    [[nodiscard]] Box copyAt(const level::Backdrop& backdrop, Point pixel) const; // of its picture, there or nearest
    [[nodiscard]] std::optional<Point> opposite(const Box& copy, QPointF place) const; // of the corner there
    [[nodiscard]] level::Backdrop moved(const Pointer& at) const;
    void paintTrouble(QPainter& p, const level::Layer& layer, const Box& copy) const;

    std::optional<Drag> drag_;
};

const level::Layer* MoveBackdrop::layer() const {
    if (session().stage() != Stage::dress || session().ensemble() != 0) return nullptr;
    const Tool& tool = session().tool();
    const bool idle = session().hand().is<edit::held::Nothing>();
    if (tool != Tool::choose && !(tool == Tool::props && idle)) return nullptr;
    const level::Layer* l = session().activeLayer();
    if (!l || !l->backdrop() || !l->shown || l->locked || picture() == Size{}) return nullptr;
    return l;
}

Size MoveBackdrop::picture() const {
    const level::Layer* l = session().activeLayer();
    const level::Sheet* sheet = l && l->backdrop() ? session().project().sheet(l->backdrop()->sheet) : nullptr;
    return sheet && sheet->image ? sheet->image->size() : Size{};
}

Box MoveBackdrop::copyAt(const level::Backdrop& backdrop, Point pixel) const {
    Box box = backdrop.box(picture());
    if (backdrop.across) box.x += floor_div(pixel.x - box.x, box.w) * box.w;
    if (backdrop.down) box.y += floor_div(pixel.y - box.y, box.h) * box.h;
    return box;
}

std::optional<Point> MoveBackdrop::opposite(const Box& copy, QPointF place) const {
    const QRectF r = camera().onScreen(copy);
    const std::array<std::pair<QPointF, Point>, 4> corners{{{r.topLeft(), {copy.right(), copy.bottom()}},
                                                            {r.topRight(), {copy.x, copy.bottom()}},
                                                            {r.bottomLeft(), {copy.right(), copy.y}},
                                                            {r.bottomRight(), {copy.x, copy.y}}}};
    for (const auto& [corner, stays] : corners)
        if (std::abs(corner.x() - place.x()) <= kGrip && std::abs(corner.y() - place.y()) <= kGrip) return stays;
    return std::nullopt;
}

bool MoveBackdrop::takes(const Pointer& at) const {
    return (at.left() || at.button == Qt::NoButton) && layer() && camera().area().contains(at.place.toPoint());
}

bool MoveBackdrop::press(const Pointer& at) {
    const level::Backdrop& b = *layer()->backdrop();
    const Point pixel = pixelAt(at);
    const Box copy = copyAt(b, pixel);
    drag_ = Drag{b, b, copy, pixel, opposite(copy, at.place)};
    return true;
}

// Snaps to whole scales, and to the rims of what is seen of its layer; with Shift to nothing.
level::Backdrop MoveBackdrop::moved(const Pointer& at) const {
    const Point pixel = pixelAt(at);
    const level::Backdrop& before = drag_->before;
    if (drag_->about) {
        const Point about = *drag_->about;
        const double was = std::hypot(drag_->from.x - about.x, drag_->from.y - about.y);
        const double is = std::hypot(pixel.x - about.x, pixel.y - about.y);
        double by = std::max(0.01, edit::scale_of(before, picture()) * is / std::max(1.0, was));
        if (!at.shift()) by = edit::whole_scale(by);
        level::Backdrop copy = before;
        copy.at = drag_->copy.corner();
        return edit::drawn_at_scale(copy, picture(), by, about);
    }
    level::Backdrop out = before;
    out.at = before.at + pixel - drag_->from;
    if (at.shift()) return out;
    const Box seen = level::seen_of(*session().level(), *session().activeLayer());
    const Box copy = drag_->copy.moved(pixel - drag_->from);
    const int near = std::max(1, static_cast<int>(kGrip / camera().zoom()));
    const auto snap = [near](int first, int size, bool repeats, int from, int to) {
        // Of copies the one that is nearest.
        const auto off = [&](int rim, int wanted) {
            const int d = wanted - rim;
            return repeats ? d - floor_div(d + size / 2, size) * size : d;
        };
        if (std::abs(off(first, from)) <= near) return off(first, from);
        return std::abs(off(first + size, to)) <= near ? off(first + size, to) : 0;
    };
    out.at = out.at + Point{snap(copy.x, copy.w, out.across, seen.x, seen.right()),
                            snap(copy.y, copy.h, out.down, seen.y, seen.bottom())};
    return out;
}

void MoveBackdrop::move(const Pointer& at) {
    if (!drag_ || !layer()) return;
    drag_->now = moved(at);
    level::Level next = *session().level();
    *next.edit(session().activeLayerId()).backdrop() = drag_->now;
    board_.show(next);
}

void MoveBackdrop::release(const Pointer&) {
    const auto drag = std::exchange(drag_, std::nullopt);
    if (!drag || !layer() || drag->now == drag->before) return;
    level::Level next = *session().level();
    *next.edit(session().activeLayerId()).backdrop() = drag->now;
    session().applyLevel(drag->about ? tr("Scale a backdrop") : tr("Move a backdrop"), std::move(next));
}

void MoveBackdrop::paint(QPainter& p, const std::optional<Pointer>& at) const {
    const level::Layer* l = layer();
    if (!l) return;
    const level::Backdrop& b = drag_ ? drag_->now : *l->backdrop();
    const QRectF area(camera().area());
    const Point looked = at ? pixelAt(*at) : camera().pixelAt(area.center());
    Box copy = copyAt(b, looked);
    if (drag_) {
        const Point middle = drag_->about ? drag_->copy.corner() + Point{1, 1}
                                          : drag_->copy.corner() + (b.at - drag_->before.at) + Point{1, 1};
        copy = copyAt(b, middle);
    }
    p.save();
    paintTrouble(p, *l, copy);
    const QRectF r = camera().onScreen(copy);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(251, 248, 241, 200), 3));
    p.drawRect(r);
    p.setPen(QPen(paper().vermilion, 1));
    p.drawRect(r);
    p.setBrush(QColor("#FBF8F1"));
    for (const QPointF corner : {r.topLeft(), r.topRight(), r.bottomLeft(), r.bottomRight()})
        p.drawRect(QRectF(corner - QPointF(4, 4), QSizeF(8, 8)));
    p.restore();
}

// Hatched: what the frame sees past the picture. A red line: where the picture does not close with itself.
void MoveBackdrop::paintTrouble(QPainter& p, const level::Layer& layer, const Box& copy) const {
    const level::Backdrop& b = drag_ ? drag_->now : *layer.backdrop();
    level::Layer now = layer;
    now.content = b;
    const level::Level& level = *session().level();
    const level::Gaps gaps = level::gaps_of(level, now, picture());
    const Box seen = level::seen_of(level, layer);
    const Box own = b.box(picture());
    p.setPen(Qt::NoPen);
    p.setBrush(QBrush(QColor(194, 69, 45, 190), Qt::BDiagPattern));
    const auto hatch = [&](const Box& box) {
        if (!box.empty()) p.drawRect(camera().onScreen(box).intersected(QRectF(camera().area())));
    };
    hatch({seen.x, seen.y, gaps.left, seen.h});
    hatch({seen.right() - gaps.right, seen.y, gaps.right, seen.h});
    const int left = b.across ? seen.x : std::max(own.x, seen.x);
    const int right = b.across ? seen.right() : std::min(own.right(), seen.right());
    hatch({left, seen.y, right - left, gaps.above});
    hatch({left, seen.bottom() - gaps.below, right - left, gaps.below});
    const level::Sheet* sheet = session().project().sheet(b.sheet);
    p.setPen(QPen(paper().vermilion, 3));
    for (const bool across : {true, false}) {
        if (!(across ? b.across : b.down)) continue;
        const double scale = across ? double(copy.h) / picture().h : double(copy.w) / picture().w;
        for (const auto& [from, to] : session().derived().seam(sheet->image, across).open) {
            const Point one = across ? Point{copy.right(), copy.y + static_cast<int>(from * scale)}
                                     : Point{copy.x + static_cast<int>(from * scale), copy.bottom()};
            const Point other = across ? Point{copy.right(), copy.y + static_cast<int>(to * scale)}
                                       : Point{copy.x + static_cast<int>(to * scale), copy.bottom()};
            p.drawLine(camera().onScreen(one), camera().onScreen(other));
        }
    }
}

Sentence MoveBackdrop::sentence(const Pointer& at) const {
    const level::Layer* l = layer();
    if (!l) return {};
    const QString name = bold(QString::fromStdString(l->name));
    const level::Backdrop& b = drag_ ? drag_->now : *l->backdrop();
    const QString scale = tr("%1 %").arg(edit::scale_of(b, picture()) * 100, 0, 'g', 4);
    if (drag_ ? drag_->about.has_value() : opposite(copyAt(b, pixelAt(at)), at.place).has_value())
        return {tr("Scales the backdrop %1: %2 · Shift leaves whole numbers").arg(name, scale)};
    return {tr("Drags the backdrop %1: at %2, %3, %4 · a corner scales it · Shift without snapping")
                .arg(name)
                .arg(b.at.x)
                .arg(b.at.y)
                .arg(scale)};
}

} // namespace

std::unique_ptr<Gesture> makeMoveBackdrop(Board& board) { return std::make_unique<MoveBackdrop>(board); }

} // namespace vic::app
