#include "app/session/joined_changes.hpp"

#include <QObject>
#include <cstdint>
#include <utility>

#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "edit/document.hpp"
#include "level/project.hpp"

namespace vic::app {

namespace {

constexpr const char* kJob = "joined";
constexpr std::int64_t kAtOnce = std::int64_t{8} << 20; // cells; joining so many takes some 30 ms

std::int64_t cells_of(const level::Project& project) {
    std::int64_t cells = 0;
    for (const auto& level : project.levels)
        for (const level::LayerRef& layer : level->layers)
            if (layer->tiles()) cells += layer->grid().size().area();
    return cells;
}

} // namespace

void JoinedChanges::apply(JoinedChange change) {
    const bool at_work = session_.jobs().running(kJob);
    if (!at_work) waiting_.clear(); // one that was stopped
    if (!at_work && cells_of(session_.project()) <= kAtOnce) {
        session_.apply(change.name, change.change(session_.project()), change.merge);
        if (change.then) change.then();
        return;
    }
    waiting_.push_back(std::move(change));
    if (!at_work) work();
}

void JoinedChanges::work() {
    const edit::ProjectState state = session_.document().state();
    session_.jobs().start<level::Project>(
        kJob, QObject::tr("Joining anew"),
        [state, change = waiting_.front().change](Jobs::Progress&) { return change(*state); },
        [this, state](level::Project& next) {
            if (session_.document().state() != state) return work();
            const JoinedChange done = std::move(waiting_.front());
            waiting_.pop_front();
            session_.apply(done.name, std::move(next), done.merge);
            if (done.then) done.then();
            if (!waiting_.empty()) work();
        },
        session_.complain());
}

} // namespace vic::app
