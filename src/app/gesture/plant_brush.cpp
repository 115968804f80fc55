// Painting where a planting grows, thinning it and clearing it, with a soft tip.

#include <QBrush>
#include <QColor>
#include <QImage>
#include <QPainter>
#include <QPen>
#include <QPointF>
#include <QString>
#include <algorithm>
#include <cstdint>
#include <cstdlib>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "app/session/tool.hpp"
#include "edit/plant.hpp"
#include "level/project.hpp"
#include "plant/area.hpp"

namespace vic::app {

namespace {

constexpr int kHardness = 50; // per cent of the tip that is as strong as its middle

class PlantBrush : public Gesture {
  public:
    PlantBrush(Board& board, edit::PlantBrush brush) : Gesture(board), brush_(brush) {}
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::dress && planting() && at.button != Qt::MiddleButton;
    }
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override { stroke_.reset(); }
    void paint(QPainter& painter, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;
    level::LayerId target() const override { return planting() ? session().activeLayerId() : 0; }

  private:
    struct Stroke {
        level::Planting recipe;
        edit::PlantBrush brush;
        Point last;
    };
    [[nodiscard]] const level::Layer* planting() const {
        const level::Layer* l = session().activeLayer();
        return l && l->planted() && !l->locked && l->shown ? l : nullptr;
    }
    [[nodiscard]] int radius() const { // pixels
        return std::max(1, session().hand().size * session().level()->cell.w / 2);
    }
    void dab(Point at);
    [[nodiscard]] int wouldCome(const Pointer& at) const;
    void paintArea(QPainter& p) const;

    edit::PlantBrush brush_;
    std::optional<Stroke> stroke_;
};

void PlantBrush::dab(Point at) {
    edit::dab(stroke_->recipe, session().level()->cell, at, radius(), kHardness, 100, stroke_->brush);
    stroke_->last = at;
}

// As many as stand on as much of the area now, on the average; 0 where that is not known.
int PlantBrush::wouldCome(const Pointer& at) const {
    const auto* grown = session().planter().grown(session().activeLayerId());
    if (!grown || stroke_) return 0;
    const level::Level& level = *session().level();
    const level::Planting& now = session().planter().recipe(session().activeLayerId());
    level::Planting then = now;
    edit::dab(then, level.cell, pixelAt(at), radius(), kHardness, 100, edit::PlantBrush::plant);
    if (!(then.area == now.area)) return 0; // it is not the painted one yet
    const Point middle = pixelAt(at);
    return plant::would_come(session().project(), level, session().activeLayerId(), now, then, *grown,
                             Box{middle.x, middle.y, 1, 1}.grown(radius()));
}

bool PlantBrush::press(const Pointer& at) {
    if (!planting()) return false;
    const bool clears = !at.left() || at.alt();
    stroke_ = Stroke{session().planter().recipe(session().activeLayerId()), clears ? edit::PlantBrush::clear : brush_,
                     pixelAt(at)};
    dab(pixelAt(at));
    board_.drawAgain();
    return true;
}

void PlantBrush::move(const Pointer& at) {
    if (!stroke_) return;
    const Point to = pixelAt(at), from = stroke_->last;
    const int step = std::max(1, radius() / 3);
    const int way = std::max(std::abs(to.x - from.x), std::abs(to.y - from.y));
    for (int i = step; i < way; i += step)
        dab({from.x + (to.x - from.x) * i / way, from.y + (to.y - from.y) * i / way});
    dab(to);
    board_.drawAgain();
}

void PlantBrush::release(const Pointer&) {
    const auto stroke = std::exchange(stroke_, std::nullopt);
    if (!stroke || !planting()) return;
    const QString name = stroke->brush == edit::PlantBrush::plant  ? tr("Paint where it grows")
                         : stroke->brush == edit::PlantBrush::thin ? tr("Thin out a planting")
                                                                   : tr("Clear some of a planting");
    session().planter().change(session().activeLayerId(), name, [&](level::Planting& p) {
        p.area = stroke->recipe.area;
        p.painted = stroke->recipe.painted;
        p.cleared = stroke->recipe.cleared;
    });
}

// The area as strongly as it is, over what is seen.
void PlantBrush::paintArea(QPainter& p) const {
    const level::Level& level = *session().level();
    const level::Planting recipe = stroke_ ? stroke_->recipe : session().planter().recipe(session().activeLayerId());
    const std::vector<plant::Obstacles> none;
    const plant::Area area(session().project(), level, session().activeLayerId(), recipe, -1, none, false);
    const int g = area.grain();
    const QRect view = camera().area();
    const Point from = camera().pixelAt(view.topLeft()), to = camera().pixelAt(view.bottomRight());
    const Box samples =
        spanning({floor_div(from.x, g), floor_div(from.y, g)}, {floor_div(to.x, g), floor_div(to.y, g)});
    constexpr int kMost = 1 << 20; // of very much in view nothing is shown
    if (samples.size().area() > kMost) return;
    std::vector<std::uint8_t> strength(static_cast<std::size_t>(samples.size().area()));
    area.strengths(samples, strength.data());
    QImage image(samples.w, samples.h, QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < samples.h; ++y)
        for (int x = 0; x < samples.w; ++x) {
            const int v = strength[static_cast<std::size_t>(y * samples.w + x)];
            // What is outside is dimmed.
            const int a = (255 - v) * 110 / 255;
            image.setPixel(x, y, qRgba(232 * a / 255, 224 * a / 255, 206 * a / 255, a));
        }
    p.drawImage(camera().onScreen(Box{samples.x * g, samples.y * g, samples.w * g, samples.h * g}), image);
}

void PlantBrush::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (!planting()) return;
    paintArea(p);
    if (!at) return;
    p.setRenderHint(QPainter::Antialiasing);
    const double r = radius() * camera().zoom();
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(paper().vermilion, 2));
    p.drawEllipse(at->place, r, r);
    p.setPen(QPen(paper().vermilion, 1, Qt::DashLine));
    p.drawEllipse(at->place, r * kHardness / 100, r * kHardness / 100);
}

Sentence PlantBrush::sentence(const Pointer& at) const {
    const level::Layer* l = planting();
    if (!l) return {tr("A planting grows here once its layer is the active one: + layer, Planting"), true};
    const QString name = bold(QString::fromStdString(l->name));
    if (brush_ == edit::PlantBrush::thin)
        return {tr("Thins out %1: about half goes · right button clears · Ctrl+wheel: the tip").arg(name)};
    const int more = wouldCome(at);
    const QString about = more > 0 ? tr(" · here about <b>%1</b> would come").arg(more) : QString();
    return {tr("Paints where %1 grows%2 · right button takes it away · Ctrl+wheel: the tip").arg(name, about)};
}

} // namespace

std::unique_ptr<Gesture> makePlantArea(Board& board) {
    return std::make_unique<PlantBrush>(board, edit::PlantBrush::plant);
}
std::unique_ptr<Gesture> makePlantThin(Board& board) {
    return std::make_unique<PlantBrush>(board, edit::PlantBrush::thin);
}

} // namespace vic::app
