// A row of the prop in the Hand, along the line that one drags.

#include <QCoreApplication>
#include <QGuiApplication>
#include <QPainter>
#include <QPainterPath>
#include <QPalette>
#include <QPen>
#include <QString>
#include <algorithm>
#include <cmath>
#include <memory>
#include <optional>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/parts/translated.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/placing.hpp"
#include "edit/stroke.hpp"
#include "level/project.hpp"
#include "level/standing.hpp"

namespace vic::app {

namespace {

constexpr std::size_t kMostOfRow = 2000;
constexpr double kLineStep = 24; // pixels of the screen between the points of a curve that is drawn

class PropRow : public Gesture {
  public:
    using Gesture::Gesture;
    bool takes(const Pointer& at) const override {
        return session().stage() == Stage::dress && (at.left() || at.button == Qt::NoButton);
    }
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override { line_.clear(); }
    void paint(QPainter& p, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;

  private:
    [[nodiscard]] edit::Target where() const {
        return edit::target_of(session().project(), session().dressed(), session().hand(), session().dressedLayer(),
                               false);
    }
    [[nodiscard]] bool ready() const {
        return session().hand().is<edit::held::Prop>() && where().obstacle == edit::Obstacle::none;
    }
    [[nodiscard]] double apart() const;
    [[nodiscard]] std::vector<level::Spot> places() const;
    [[nodiscard]] edit::Row rowed() const;
    std::vector<QPointF> line_; // on the screen; the first point, and what was drawn of a curve
    QPointF end_;
};

bool PropRow::press(const Pointer& at) {
    if (!ready()) {
        emit session().said(sentence(at).text, true);
        return false;
    }
    line_ = {at.place};
    end_ = at.place;
    return true;
}

void PropRow::move(const Pointer& at) {
    end_ = at.place;
    if (at.shift()) line_.resize(1); // straight
    const QPointF way = end_ - line_.back();
    if (!at.shift() && session().options().curve && std::hypot(way.x(), way.y()) >= kLineStep) line_.push_back(end_);
    board_.show(rowed().level);
    board_.drawAgain();
}

void PropRow::release(const Pointer&) {
    const edit::Row all = rowed();
    line_.clear();
    if (all.count == 0) return;
    session().applyDressed(
        translated(say_count(static_cast<std::int64_t>(all.count), "Place a row of one", "Place a row of %n")),
        all.level, {}, all.next_id);
}

void PropRow::paint(QPainter& p, const std::optional<Pointer>&) const {
    if (line_.empty()) return;
    QPainterPath path(line_.front());
    for (const QPointF& at : line_) path.lineTo(at);
    path.lineTo(end_);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 1, Qt::DashLine));
    p.drawPath(path);
}

Sentence PropRow::sentence(const Pointer& at) const {
    if (!session().hand().is<edit::held::Prop>()) return {tr("Take a prop from the Tray: a row of it is placed"), true};
    if (!ready()) return {tr("Props cannot be placed on this layer"), true};
    const QString name = bold(QString::fromStdString(session().project().prop_kind(session().hand().prop())->name));
    if (line_.empty())
        return {tr("Drag to place a row of %1, %2 px apart · Shift for a straight one · %3")
                    .arg(name)
                    .arg(std::lround(apart()))
                    .arg(placeName(at))};
    const edit::Row all = rowed();
    if (all.obstructed == 0) return {tr("Places %1 of %2").arg(bold(QString::number(all.count)), name)};
    return {tr("Places %1 of %2; %3 are left out, as something stands there")
                .arg(bold(QString::number(all.count)), name)
                .arg(all.obstructed),
            true};
}

// From one to the next: as asked, else as wide as the foot, but not so near that half of each picture is hidden.
double PropRow::apart() const {
    if (session().options().rowApart > 0) return session().options().rowApart;
    const edit::held::Prop& held = *session().hand().as<edit::held::Prop>();
    const level::PropKinds kinds(session().project());
    const level::Prop one{1, held.kind, {}, held.look};
    const int foot = kinds.foot_box(one).w;
    return std::max({2, foot + 1, kinds.box(one).w / 2});
}

std::vector<level::Spot> PropRow::places() const {
    std::vector<level::Spot> line;
    for (const QPointF& at : line_) {
        const QPointF place = camera().placeAt(at);
        line.push_back({place.x(), place.y()});
    }
    const QPointF end = camera().placeAt(end_);
    line.push_back({end.x(), end.y()});
    std::vector<level::Spot> out = edit::places_along(line, apart(), session().options().curve);
    if (out.size() > kMostOfRow) out.resize(kMostOfRow);
    return out;
}

edit::Row PropRow::rowed() const {
    const edit::held::Prop& held = *session().hand().as<edit::held::Prop>();
    const ToolOptions& o = session().options();
    return edit::row_of(session().project(), session().dressed(), where().layer, {0, held.kind, {}, held.look},
                        places(), {o.drops, o.rowFaces}, session().project().next_id);
}

} // namespace

std::unique_ptr<Gesture> makeRow(Board& board) { return std::make_unique<PropRow>(board); }

} // namespace vic::app
