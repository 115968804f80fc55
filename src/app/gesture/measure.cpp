// Measuring between two pixels of the level, as a dimension line.

#include <QColor>
#include <QCoreApplication>
#include <QLineF>
#include <QLocale>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QString>
#include <cmath>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/glyphs.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "base/geometry.hpp"
#include "base/lattice.hpp"
#include "level/level.hpp"
#include "walk/jump.hpp"

namespace vic::app {

namespace {

class Measure : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer&) const override { return laysCells(session().stage()); }
    bool press(const Pointer& at) override {
        measured_.reset();
        if (at.left()) measured_ = {pixelAt(at), pixelAt(at)};
        board_.drawAgain();
        return at.left();
    }
    void move(const Pointer& at) override { measured_->second = pixelAt(at); }
    void release(const Pointer&) override {
        if (measured_) session().setMeasured(measured_);
    }
    bool holds() const override { return false; }
    void cancel() override { measured_.reset(); }
    bool putAway() override { return std::exchange(measured_, std::nullopt).has_value(); }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override {
        return {measured_ ? inWords() : tr("Drag to measure · %1").arg(placeName(at))};
    }

  private:
    [[nodiscard]] QString inWords() const;
    [[nodiscard]] QPointF cells() const;              // along both of the lattice's directions
    std::optional<std::pair<Point, Point>> measured_; // pixels of the level
};

QPointF Measure::cells() const {
    const auto [a, b] = *measured_;
    const Lattice lattice = board_.shown().geometry();
    const CellPlace from = lattice.place_of(a.x, a.y), to = lattice.place_of(b.x, b.y);
    return {std::abs(to.x - from.x), std::abs(to.y - from.y)};
}

QString Measure::inWords() const {
    const level::Level& level = board_.shown();
    const auto [a, b] = *measured_;
    const double dx = std::abs(b.x - a.x);
    const double dy = std::abs(b.y - a.y);
    const QLocale locale;
    const auto number = [&](double v) { return locale.toString(v, 'f', v < 10 && v != std::floor(v) ? 2 : 0); };
    const double unit = session().project().unit;
    QString text = tr("<b>%1 × %2 px</b> · %3 × %4 cells · %5 × %6 units of the engine")
                       .arg(number(dx), number(dy), number(cells().x()), number(cells().y()), number(dx / unit),
                            number(dy / unit));
    text += tr(" · %1 px across").arg(number(std::hypot(dx, dy)));
    const double tall = level.walker.height / 64.0 * level.geometry().upright();
    text += tr(" · %1 walkers high").arg(number(dy / tall));
    if (const double jump = walk::jump_length(level.walker) * level.cell.w;
        jump > 0 && level.view == level::View::from_the_side)
        text += tr(" · %1 jumps wide, %2 jumps high")
                    .arg(number(dx / jump), number(dy / (level.walker.jump * level.cell.h)));
    return text;
}

void Measure::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (at) {
        p.setPen(QPen(paper().brine, 1));
        p.setBrush(Qt::NoBrush);
        const Point cell = cellAt(*at);
        camera().drawCells(p, grain(), {cell.x, cell.y, 1, 1});
    }
    if (!measured_) return;
    p.save();
    p.setRenderHint(QPainter::Antialiasing);
    const QLineF line(camera().onScreen(measured_->first), camera().onScreen(measured_->second));
    const QPointF across = line.length() > 0 ? QPointF(-line.dy(), line.dx()) / line.length() * 6 : QPointF(0, 6);
    for (const bool under : {true, false}) {
        p.setPen(QPen(under ? QColor("#FBF8F1") : paper().vermilion, under ? 3.5 : 1.5));
        p.drawLine(line);
        p.drawLine(line.p1() - across, line.p1() + across);
        p.drawLine(line.p2() - across, line.p2() + across);
    }
    p.restore();
    const QLocale locale;
    paintTag(p, line.center() + QPointF(8, 6),
             tr("%1 × %2 cells").arg(locale.toString(cells().x(), 'f', 1), locale.toString(cells().y(), 'f', 1)),
             QColor(34, 48, 45, 225), QColor("#FBF8F1"));
}

} // namespace

std::unique_ptr<Gesture> makeMeasure(Board& board) { return std::make_unique<Measure>(board); }

} // namespace vic::app
