// The prop in the Hand, placed: facing where one drags to. With an empty Hand it chooses.

#include <QCoreApplication>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QLineF>
#include <QPainter>
#include <QPalette>
#include <QPen>
#include <QString>
#include <memory>
#include <optional>
#include <utility>

#include "app/gesture/choose_props.hpp"
#include "app/parts/camera.hpp"
#include "app/parts/tokens.hpp"
#include "app/session/session.hpp"
#include "edit/levels.hpp"
#include "edit/placing.hpp"
#include "edit/props.hpp"
#include "edit/stroke.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr int kFarthest = 8;  // cells that it is pushed
constexpr double kFaces = 10; // pixels of the screen that one drags before it faces anywhere

class PlaceProp : public ChooseProps {
  public:
    explicit PlaceProp(Board& board) : ChooseProps(board, false) {}
    bool press(const Pointer& at) override;
    void move(const Pointer& at) override;
    void release(const Pointer& at) override;
    void cancel() override;
    bool holds() const override { return pressed_ || placed_ || ChooseProps::holds(); }
    bool preview(const Pointer& at) override;
    void forget() override { spot_.reset(); }
    void paint(QPainter& p, const std::optional<Pointer>& at) const override;
    Sentence sentence(const Pointer& at) const override;
    bool key(const QKeyEvent& event) override;
    bool putAway() override;

  private:
    [[nodiscard]] bool places() const { return session().hand().is<edit::held::Prop>(); }
    [[nodiscard]] edit::Target where() const {
        return edit::target_of(session().project(), session().dressed(), session().hand(), session().dressedLayer(),
                               false);
    }
    [[nodiscard]] Spot spotAt(const Pointer& at) const;
    void showSpot();
    void place(level::Prop prop);
    std::optional<Pointer> pressed_;
    std::optional<Spot> spot_; // as it is shown
    bool placed_ = false;      // by a key, while it was pressed
};

bool PlaceProp::press(const Pointer& at) {
    spot_.reset();
    placed_ = false;
    if (!at.left() || !places()) return ChooseProps::press(at);
    const edit::Target to = where();
    if (to.obstacle != edit::Obstacle::none) {
        emit session().said(sentence(at).text, true);
        return false;
    }
    pressed_ = at;
    spot_ = spotAt(at);
    showSpot();
    return true;
}

void PlaceProp::move(const Pointer& at) {
    if (placed_) return;
    if (!pressed_) return ChooseProps::move(at);
    spot_ = spotAt(*pressed_);
    const level::PropKind* kind = session().project().prop_kind(spot_->prop.kind);
    if (QLineF(pressed_->place, at.place).length() >= kFaces && kind && !kind->lit)
        spot_->prop.look.turn = edit::facing(spot_->prop.at, pixelAt(at), at.control());
    showSpot();
}

void PlaceProp::release(const Pointer& at) {
    if (std::exchange(placed_, false)) return;
    if (!pressed_) return ChooseProps::release(at);
    pressed_.reset();
    place(std::exchange(spot_, std::nullopt)->prop);
}

void PlaceProp::cancel() {
    pressed_.reset();
    spot_.reset();
    ChooseProps::cancel();
}

bool PlaceProp::preview(const Pointer& at) {
    spot_.reset();
    if (!places() || where().obstacle != edit::Obstacle::none) return false;
    spot_ = spotAt(at);
    showSpot();
    return true;
}

void PlaceProp::paint(QPainter& p, const std::optional<Pointer>& at) const {
    if (!spot_) return ChooseProps::paint(p, places() ? std::nullopt : at);
    ChooseProps::paint(p, std::nullopt);
    const level::Level& level = board_.shown();
    paintProp(p, level, kShownProp, true);
    paintFeet(p, level, spot_->prop, spot_->stand.way != edit::InTheWay::nothing);
    paintLines(p, spot_->lines);
    if (!pressed_ || !at) return;
    p.setPen(QPen(tokensOf(QGuiApplication::palette()).vermilion, 1));
    p.drawLine(camera().onScreen(spot_->prop.at), at->place);
}

bool PlaceProp::putAway() {
    if (!places()) return ChooseProps::putAway();
    session().setHand({});
    return true;
}

ChooseProps::Spot PlaceProp::spotAt(const Pointer& at) const {
    const edit::held::Prop& held = *session().hand().as<edit::held::Prop>();
    Spot out = spotFor({kShownProp, held.kind, pixelAt(at), held.look}, {}, at.shift());
    out.prop.kind = edit::variant_at(session().project(), held.kind, out.prop.at);
    return out;
}

void PlaceProp::showSpot() {
    board_.show(edit::add_prop(session().dressed(), where().layer, spot_->prop));
    if (spot_->stand.way != edit::InTheWay::nothing) board_.hinder({kShownProp, spot_->stand.other});
    board_.drawAgain();
}

void PlaceProp::place(level::Prop prop) {
    const std::uint32_t id = session().project().next_id;
    prop.id = id;
    session().applyDressed(tr("Place %1").arg(nameOf(prop)), edit::add_prop(session().dressed(), where().layer, prop),
                           {}, id + 1);
}

// K: at the nearest place where nothing is in its way.
bool PlaceProp::key(const QKeyEvent& event) {
    if (!spot_ || event.key() != Qt::Key_K || event.modifiers() != Qt::NoModifier) return ChooseProps::key(event);
    const level::Level level = session().dressed();
    const level::Layer* const on = level.layer(where().layer);
    const auto free = edit::Ground(session().project(), level, {}, on ? on->storey : 0)
                          .nearest_free(spot_->prop, kFarthest * level.cell.w);
    if (!free) {
        emit session().said(tr("There is no free place near"), true);
        return true;
    }
    level::Prop there = spot_->prop;
    there.at = *free;
    place(there);
    if (!pressed_) return true;
    // Placed while it was held: letting go places nothing more.
    pressed_.reset();
    spot_.reset();
    placed_ = true;
    return true;
}

Sentence PlaceProp::sentence(const Pointer& at) const {
    if (!places()) return ChooseProps::sentence(at);
    if (const auto outside = beyond(at)) return *outside;
    const edit::Target to = where();
    const level::Level level = session().dressed();
    const level::Layer* layer = level.layer(to.layer);
    const QString on = bold(layer ? QString::fromStdString(layer->name) : QString());
    if (to.obstacle == edit::Obstacle::wrong_kind)
        return {tr("This level has no layer for props: add one in the Section"), true};
    if (to.obstacle == edit::Obstacle::locked) return {tr("%1 is locked: nothing is placed").arg(on), true};
    if (to.obstacle == edit::Obstacle::hidden) return {tr("%1 is hidden: nothing is placed").arg(on), true};
    if (to.obstacle != edit::Obstacle::none) return {tr("Nothing can be placed here"), true};
    const QString name = bold(QString::fromStdString(session().project().prop_kind(session().hand().prop())->name));
    if (spot_ && spot_->stand.way != edit::InTheWay::nothing)
        return {
            tr("Places %1, but %2 · K places it at the nearest free place").arg(name, inTheWay(level, spot_->stand)),
            true};
    return {tr("Places %1 on %2, %3 · dragging turns it there · Shift for a free place").arg(name, on, placeName(at))};
}

} // namespace

std::unique_ptr<Gesture> makeProps(Board& board) { return std::make_unique<PlaceProp>(board); }

} // namespace vic::app
