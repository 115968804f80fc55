#include "app/solid/solid_stroll.hpp"

#include <QTimerEvent>
#include <algorithm>
#include <cmath>
#include <utility>

namespace vic::app {

namespace {

constexpr qint64 kTick = 1000000000LL / 60;
constexpr float kTurn = 2.2F; // degrees a tick
constexpr double kRadians = 3.14159265358979 / 180;

} // namespace

void SolidStroll::begin(QPointF cells, double height, float heading) {
    on_ = true;
    from_ = {cells.x(), height, cells.y()};
    heading_ = heading;
    down_ = 0;
    forward_ = back_ = left_ = right_ = jump_ = false;
    walker_.reset();
    mass_.reset();
    behind_ = 0;
    clock_.start();
    timer_.start(8, Qt::PreciseTimer, this);
    emit moved();
}

void SolidStroll::end() {
    on_ = false;
    timer_.stop();
    walker_.reset();
    mass_.reset();
    emit moved();
}

void SolidStroll::follow(const std::shared_ptr<const WalkedMass>& mass, const level::Upright& upright) {
    if (!on_ || !mass || (mass == mass_ && upright_ == upright)) return;
    if (walker_) from_ = walker_->foot();
    walker_.reset();
    mass_ = mass;
    walker_ = std::make_unique<upright::Stroll>(*mass_->terrain, upright, from_);
    upright_ = upright;
}

bool SolidStroll::isKey(int key) {
    return key == Qt::Key_Up || key == Qt::Key_Down || key == Qt::Key_Left || key == Qt::Key_Right ||
           key == Qt::Key_Space;
}

bool SolidStroll::key(int key, bool down) {
    if (!on_ || !isKey(key)) return false;
    (key == Qt::Key_Up      ? forward_
     : key == Qt::Key_Down  ? back_
     : key == Qt::Key_Left  ? left_
     : key == Qt::Key_Right ? right_
                            : jump_) = down;
    return true;
}

void SolidStroll::turnBy(float degrees, float down) {
    heading_ = std::fmod(heading_ + degrees + 360, 360.0F);
    down_ = std::clamp(down_ + down, -80.0F, 80.0F);
}

void SolidStroll::seenFrom(std::optional<float> heading) {
    if (game_ == heading) return;
    game_ = heading;
    emit moved();
}

float SolidStroll::tall() const {
    constexpr float kCrown = 1.1F; // of how high the eyes are
    return (walker_ ? static_cast<float>(walker_->eyes()) : 0.8F) * kCrown;
}

std::array<double, 3> SolidStroll::foot() const { return walker_ ? walker_->foot() : from_; }

QVector3D SolidStroll::eye() const {
    const auto at = foot();
    const double eyes = walker_ ? walker_->eyes() : 0.8;
    return {static_cast<float>(at[0]), static_cast<float>(at[1] + eyes), static_cast<float>(at[2])};
}

void SolidStroll::step() {
    if (!walker_) return;
    if (game_) {
        const double way = *game_ * kRadians;
        const double up = (forward_ ? 1 : 0) - (back_ ? 1 : 0), across = (right_ ? 1 : 0) - (left_ ? 1 : 0);
        const double length = std::max(1.0, std::hypot(up, across));
        const double east = (std::sin(way) * up + std::cos(way) * across) / length;
        const double south = (-std::cos(way) * up + std::sin(way) * across) / length;
        if (up != 0 || across != 0) heading_ = static_cast<float>(std::atan2(east, -south) / kRadians);
        walker_->step(east, south, jump_);
        return;
    }
    if (left_ != right_) turnBy(left_ ? -kTurn : kTurn, 0);
    const double ahead = forward_ == back_ ? 0 : forward_ ? 1 : -0.6;
    const double way = heading_ * kRadians;
    walker_->step(std::sin(way) * ahead, -std::cos(way) * ahead, jump_);
}

void SolidStroll::timerEvent(QTimerEvent* event) {
    if (event->timerId() != timer_.timerId()) return QObject::timerEvent(event);
    behind_ = std::min<qint64>(behind_ + clock_.nsecsElapsed(), 12 * kTick);
    clock_.start();
    const auto before = foot();
    const float heading = heading_;
    for (; behind_ >= kTick; behind_ -= kTick) step();
    if (before != foot() || heading != heading_) emit moved();
}

} // namespace vic::app
