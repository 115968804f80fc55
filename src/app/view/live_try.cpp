#include "app/view/live_try.hpp"

#include <QTimerEvent>
#include <algorithm>
#include <exception>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "walk/bones.hpp"

namespace vic::app {

namespace {

const char* const kTryJob = "live-try";

}

void LiveTry::start(const level::Level& level, std::optional<walk::Position> from) {
    stop();
    on_ = true;
    from_ = from;
    follow(level);
    clock_.start();
    timer_.start(1000 / walk::kTicks / 2, Qt::PreciseTimer, this);
}

void LiveTry::stop() {
    if (!on_) return;
    on_ = false;
    timer_.stop();
    session_.jobs().stop(kTryJob);
    world_.reset();
    bones_.reset();
    of_.reset();
    input_ = {};
    leads_ = false;
    emit moved();
}

void LiveTry::follow(const level::Level& level) {
    Of of{level.layers, level.walker, level.sides, level.here};
    if (!on_ || of_ == of) return;
    of_ = std::move(of);
    session_.jobs().start<std::shared_ptr<const vicinum::Level>>(
        kTryJob, {},
        [state = session_.document().state(), level](Jobs::Progress&) {
            return std::make_shared<const vicinum::Level>(walk::bones_of(*state, level));
        },
        [this](std::shared_ptr<const vicinum::Level>& bones) { take(std::move(bones)); },
        [this](const std::exception& e) { emit session_.said(translated(e), true); });
}

void LiveTry::take(std::shared_ptr<const vicinum::Level> bones) {
    if (!on_) return;
    auto next = std::make_unique<walk::World>(*bones);
    if (world_)
        next->take_over(*world_);
    else if (from_)
        next->place(*from_);
    world_ = std::move(next);
    bones_ = std::move(bones);
    emit moved();
}

bool LiveTry::key(int key, bool down) {
    if (!on_) return false;
    switch (key) {
        case Qt::Key_Left:
            input_.left = down;
            return true;
        case Qt::Key_Right:
            input_.right = down;
            return true;
        case Qt::Key_Up:
            input_.up = input_.jump = down;
            return true;
        case Qt::Key_Down:
            input_.down = down;
            return true;
        case Qt::Key_Space:
            input_.jump = leads_ = down;
            return true;
        default:
            return false;
    }
}

walk::Position LiveTry::foot() const { return world_ ? world_->foot() : from_.value_or(walk::Position{}); }

void LiveTry::step() {
    if (!world_) return;
    input_.towards = leads_ && pointed_ ? walk::towards(world_->foot(), *pointed_) : -1;
    world_->tick(input_);
    if (!world_->fell_out() && !world_->left_by()) return;
    world_ = std::make_unique<walk::World>(*bones_);
    if (from_) world_->place(*from_);
    emit fell();
}

void LiveTry::timerEvent(QTimerEvent* event) {
    if (event->timerId() != timer_.timerId()) return QObject::timerEvent(event);
    constexpr qint64 tick = 1000000000LL / walk::kTicks;
    behind_ = std::min<qint64>(behind_ + clock_.nsecsElapsed(), 15 * tick);
    clock_.start();
    const walk::Position before = foot();
    for (; behind_ >= tick; behind_ -= tick) step();
    if (!(foot() == before)) emit moved();
}

} // namespace vic::app
