#include "app/session/planter.hpp"

#include <algorithm>
#include <exception>
#include <utility>

#include "app/parts/translated.hpp"
#include "app/session/jobs.hpp"
#include "app/session/session.hpp"
#include "base/text.hpp"
#include "edit/plant.hpp"

namespace vic::app {

Planter::Planter(Session& session) : session_(session) {}

void Planter::forget() {
    pending_.clear();
    grown_.clear();
}

const level::Planting& Planter::recipe(level::LayerId layer) const {
    const auto found = pending_.find(layer);
    return found != pending_.end() ? found->second : session_.level()->layer(layer)->planted()->recipe;
}

const std::vector<plant::PassGrown>* Planter::grown(level::LayerId layer) const {
    const auto found = grown_.find(layer);
    return found == grown_.end() ? nullptr : &found->second;
}

void Planter::change(level::LayerId id, const QString& name, const What& what, const std::string& merge) {
    const level::Layer* layer = session_.level() ? session_.level()->layer(id) : nullptr;
    if (!layer || !layer->planted()) return;
    if (layer->locked) return emit session_.said(tr("%1 is locked").arg(QString::fromStdString(layer->name)), true);
    level::Planting next = recipe(id);
    what(next);
    pending_[id] = next;
    grow({id, name, merge.empty() ? merge : merge + std::to_string(id), std::move(next), false});
}

void Planter::grow(const Order& order) {
    const auto onto = session_.levelRef();
    level::Level next = *onto;
    next.edit(order.layer).planted()->recipe = order.recipe;
    const auto work = [state = session_.document().state(), next, order](Jobs::Progress&) {
        return edit::planted(*state, next, order.layer, order.anyway ? plant::kMostGrown : plant::kAskBeyond);
    };
    const auto done = [this, order, onto](edit::Planted& planted) {
        const level::Layer* layer = session_.level() ? session_.level()->layer(order.layer) : nullptr;
        if (!layer) return;
        // What was done to the level meanwhile stays, and is planted on.
        if (session_.levelRef() != onto) return grow(order);
        pending_.erase(order.layer);
        if (planted.wanted > 0) {
            emit changed();
            return emit many(order, static_cast<qulonglong>(planted.wanted));
        }
        const std::string on = layer->name;
        grown_[order.layer] = std::move(planted.passes);
        level::Project p = session_.project();
        p.next_id = std::max(p.next_id, planted.next_id);
        p.put(std::move(planted.level));
        session_.applyGrown(order.name, std::move(p), order.merge);
        emit session_.said(translated(say_count(planted.count, "One stands on %1", "%n stand on %1", on)), false);
        emit changed();
    };
    const auto failed = [this, order](const std::exception& e) {
        pending_.erase(order.layer);
        emit session_.said(translated(e), true);
        emit changed();
    };
    session_.jobs().start<edit::Planted>("planting", tr("Planting"), work, done, failed);
}

} // namespace vic::app
