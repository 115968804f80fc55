#include "app/session/play_clock.hpp"

#include <algorithm>

#include "level/prop_kind.hpp"
#include "level/sheet.hpp"

namespace vic::app {

PlayClock::PlayClock() {
    timer_.setInterval(30);
    connect(&timer_, &QTimer::timeout, this, [this] {
        now_ = before_ + since_.elapsed();
        emit ticked();
    });
}

void PlayClock::follow(const std::vector<std::shared_ptr<const level::Sheet>>& sheets,
                       const std::vector<std::shared_ptr<const level::PropKind>>& kinds) {
    any_ = moves_.get(sheets, [&] {
        return std::any_of(sheets.begin(), sheets.end(), [](const auto& s) {
            return std::any_of(s->tiles.begin(), s->tiles.end(),
                               [](const level::Tile& t) { return !t.frames.empty(); });
        });
    });
    any_ = kindsMove_.get(kinds, [&] {
        return std::any_of(kinds.begin(), kinds.end(), [](const auto& k) { return k->frames > 1; });
    }) || any_;
    run();
}

void PlayClock::setPlaying(bool on) {
    playing_ = on;
    run();
    emit ticked();
}

void PlayClock::run() {
    const bool runs = any_ && playing_;
    if (runs == timer_.isActive()) return;
    if (runs) {
        since_.start();
        timer_.start();
    } else {
        timer_.stop();
        before_ = now_;
    }
}

} // namespace vic::app
