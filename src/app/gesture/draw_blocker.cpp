// Drawing blockers free of the lattice in Bound: boxes by dragging, other shapes and lines corner by corner.

#include <QKeyEvent>
#include <QLineF>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QPolygonF>
#include <QString>
#include <QTransform>
#include <cmath>
#include <cstdint>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "edit/free_blockers.hpp"
#include "level/level.hpp"

namespace vic::app {

namespace {

using level::kBlockerUnit;

constexpr int kSnap = kBlockerUnit / 4; // places lie on quarters of cells, unless Ctrl is held
constexpr double kNear = 8;             // pixels of the screen within which the first corner closes a shape
constexpr double kDragged = 4;          // from which on a press is a drag

class DrawBlocker : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::bound && at.button != Qt::MiddleButton;
    }
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override { to_ = place(at); }
    void release(const Pointer& at) override;
    void cancel() override { pressed_.reset(); }
    bool holds() const override { return false; }
    bool putAway() override {
        const bool any = !corners_.empty();
        corners_.clear();
        return any;
    }
    bool key(const QKeyEvent& event) override;
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;

  private:
    [[nodiscard]] QTransform toScreen() const {
        return QTransform::fromScale(1.0 / kBlockerUnit, 1.0 / kBlockerUnit) *
               camera().cellsToScreen(board_.shown().geometry());
    }
    [[nodiscard]] QPointF screen(Point units) const { return toScreen().map(QPointF(units.x, units.y)); }
    [[nodiscard]] Point exact(const Pointer& at) const {
        const QPointF p = toScreen().inverted().map(at.place);
        return {static_cast<int>(std::floor(p.x())), static_cast<int>(std::floor(p.y()))};
    }
    [[nodiscard]] Point place(const Pointer& at) const {
        return edit::snapped(exact(at), at.control() ? 1 : at.shift() ? kBlockerUnit : kSnap);
    }
    [[nodiscard]] bool line() const { return session().options().blockerLine; }
    [[nodiscard]] int width() const { return session().hand().size * kSnap; }
    [[nodiscard]] bool closes(const Pointer& at) const {
        return !line() && corners_.size() >= 3 && QLineF(screen(corners_.front()), at.place).length() <= kNear;
    }
    [[nodiscard]] level::FreeBlocker made(std::vector<Point> points) const {
        level::FreeBlocker out;
        out.points = std::move(points);
        out.width = line() ? width() : 0;
        out.opens = session().options().blockerOpens;
        return out;
    }
    static std::vector<Point> box(Point a, Point b) { return {a, {b.x, a.y}, b, {a.x, b.y}}; }
    void add(std::vector<Point> points);
    void draw(QPainter& p, const level::FreeBlocker& blocker, const QColor& colour) const;

    std::vector<Point> corners_; // of the shape that is being drawn corner by corner
    std::optional<Pointer> pressed_;
    Point to_;
};

void DrawBlocker::add(std::vector<Point> points) {
    corners_.clear();
    const level::FreeBlocker blocker = made(std::move(points));
    if (const Text trouble = level::blocker_trouble(blocker); !trouble.empty()) {
        emit session().said(translated(trouble), true);
        return;
    }
    level::Project p = session().project();
    level::Level next = edit::with_free_blocker(*session().level(), session().activeLayerId(), blocker,
                                                tr("Own words").toStdString(), p.next_id);
    if (next.layers == session().level()->layers) {
        emit session().said(tr("The layer of blockers is locked: unlock it in the Section"), true);
        return;
    }
    p.put(std::move(next));
    session().apply(blocker.opens ? tr("Draw where one may walk") : tr("Draw a blocker"), std::move(p));
}

bool DrawBlocker::press(const Pointer& at) {
    if (!at.left()) { // takes back
        if (!corners_.empty()) {
            corners_.pop_back();
            board_.drawAgain();
        } else if (const auto hit = edit::free_blocker_at(*session().level(), exact(at))) {
            session().applyLevel(tr("Take a blocker away"), edit::without_free_blocker(*session().level(), *hit));
        }
        return false;
    }
    if (at.twice && corners_.size() >= (line() ? 2U : 3U)) {
        add(std::move(corners_));
        return false;
    }
    pressed_ = at;
    to_ = place(at);
    return true;
}

void DrawBlocker::release(const Pointer& at) {
    const Pointer from = *std::exchange(pressed_, std::nullopt);
    const bool dragged = QLineF(from.place, at.place).length() >= kDragged;
    if (dragged && corners_.empty()) {
        const Point a = place(from), b = place(at);
        if (line() ? a != b : a.x != b.x && a.y != b.y) add(line() ? std::vector{a, b} : box(a, b));
        return;
    }
    if (closes(at)) return add(std::move(corners_));
    if (corners_.empty() || corners_.back() != place(at)) corners_.push_back(place(at));
    board_.drawAgain();
}

bool DrawBlocker::key(const QKeyEvent& event) {
    if ((event.key() != Qt::Key_Return && event.key() != Qt::Key_Enter) || corners_.size() < (line() ? 2U : 3U))
        return false;
    add(std::move(corners_));
    return true;
}

void DrawBlocker::draw(QPainter& p, const level::FreeBlocker& blocker, const QColor& colour) const {
    QColor wash = colour;
    wash.setAlpha(60);
    p.setPen(Qt::NoPen);
    p.setBrush(wash);
    for (const auto& polygon : level::covered(blocker)) {
        QPolygonF corners;
        for (const Point c : polygon) corners << screen(c);
        p.drawPolygon(corners);
    }
}

void DrawBlocker::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (!session().level()) return;
    const QColor colour = session().options().blockerOpens ? paper().brine : paper().vermilion;
    p.setRenderHint(QPainter::Antialiasing);
    const bool dragging = pressed_ && corners_.empty() && place(*pressed_) != to_;
    if (dragging) draw(p, made(line() ? std::vector{place(*pressed_), to_} : box(place(*pressed_), to_)), colour);
    QPolygonF way;
    for (const Point c : corners_) way << screen(c);
    if (at && !way.isEmpty()) {
        way << screen(place(*at));
        std::vector<Point> points = corners_;
        if (points.back() != place(*at)) points.push_back(place(*at));
        if (points.size() >= (line() ? 2U : 3U)) draw(p, made(std::move(points)), colour);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour, 1.5, Qt::DashLine));
    p.drawPolyline(way);
    p.setPen(QPen(colour, 1.5));
    p.setBrush(paper().card);
    for (const Point c : corners_) p.drawRect(QRectF(screen(c) - QPointF(3, 3), QSizeF(6, 6)));
    if (at) p.drawEllipse(screen(place(*at)), 3.5, 3.5);
}

Sentence DrawBlocker::sentence(const Pointer& at) const {
    const QString what = session().options().blockerOpens ? tr("what <b>lets one walk</b>") : tr("what <b>blocks</b>");
    if (!corners_.empty())
        return {
            line()
                ? tr("Goes on with a line of %1 · Enter or a double click ends it · right button takes a corner back")
                      .arg(what)
            : closes(at) ? tr("Closes the shape of %1").arg(what)
                         : tr("Next corner of %1 · the first corner, Enter or a double click closes it").arg(what)};
    if (edit::free_blocker_at(*session().level(), exact(at)))
        return {tr("Drag or click to draw %1 · right button takes this one away").arg(what)};
    return {line() ? tr("Drag for a line of %1, or click from corner to corner · Ctrl+wheel: its width · Shift: whole "
                        "cells, Ctrl: anywhere")
                         .arg(what)
                   : tr("Drag for a box of %1, or click from corner to corner · Shift: whole cells, Ctrl: anywhere")
                         .arg(what)};
}

} // namespace

std::unique_ptr<Gesture> makeDrawBlocker(Board& board) { return std::make_unique<DrawBlocker>(board); }

} // namespace vic::app
