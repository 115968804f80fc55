#include "edit/trail.hpp"

#include <algorithm>
#include <chrono>

namespace vic::edit {

namespace {

store::JournalStep step_of(store::JournalStep::Kind kind, const ProjectState& before, const ProjectState& after,
                           const std::string& name) {
    store::JournalStep out;
    out.kind = kind;
    out.name = name;
    out.before = before;
    out.after = after;
    return out;
}

} // namespace

Trail::Trail(std::size_t place) : known_{{place, 0}}, place_(place) {}

std::vector<store::JournalStep> Trail::begin(const Document& document, const ProjectState& base, bool whole,
                                             const std::string& way) {
    const std::vector<Document::Past> history = document.history();
    const std::size_t now = document.now(), let_go = document.place() - now;
    const auto found = std::find_if(history.begin(), history.end(), [&](const auto& p) { return p.state == base; });
    if (found == history.end())
        return begin_short({{}, {}, document.state(), document.place(), true}, document.state(), base, way);
    std::vector<store::JournalStep> out;
    auto at = static_cast<std::size_t>(found - history.begin());
    *this = Trail(let_go + at);
    const auto to = [&](std::size_t place) {
        while (at != place) {
            const std::size_t next = at < place ? at + 1 : at - 1;
            const Document::Past& step = history[std::max(at, next)];
            out.push_back(record({step.name, {}, history[at].state, let_go + next, true}, history[next].state, way));
            out.back().when = std::chrono::duration_cast<std::chrono::seconds>(step.when.time_since_epoch()).count();
            at = next;
        }
    };
    if (whole) {
        to(0);
        to(history.size() - 1);
    }
    to(now);
    return out;
}

std::vector<store::JournalStep> Trail::begin_short(const Document::Told& told, const ProjectState& now,
                                                   const ProjectState& base, const std::string& way) {
    *this = Trail(told.place);
    std::vector<store::JournalStep> out;
    if (base != told.before) out.push_back(append(base, told.before, way, {}));
    if (now != told.before) out.push_back(append(told.before, now, told.went ? way : told.name, {}));
    known_[place_] = at_;
    return out;
}

store::JournalStep Trail::record(const Document::Told& told, const ProjectState& now, const std::string& way) {
    if (!told.went) {
        // Whether it became one with the step before it, and whether it will again when the journal is read.
        const bool joins = told.place == place_ && !told.merge.empty() && told.merge == merge_;
        if (joins) --at_;
        std::erase_if(known_, [&](const auto& k) { return k.second > at_ || k.first >= told.place; });
        place_ = told.place;
        known_[place_] = at_ + 1;
        return append(told.before, now, told.name, told.merge);
    }
    const bool back = told.place + 1 == place_;
    const bool forth = told.place == place_ + 1;
    place_ = told.place;
    if (const auto there = known_.find(place_); there != known_.end()) return go(there->second);
    if (back && at_ == first_) {
        known_[place_] = at_ = --first_;
        merge_.clear();
        return step_of(store::JournalStep::Kind::back, told.before, now, told.name);
    }
    std::erase_if(known_, [&](const auto& k) { return k.second > at_; });
    known_[place_] = at_ + 1;
    return append(told.before, now, forth ? told.name : way, {});
}

store::JournalStep Trail::append(const ProjectState& before, const ProjectState& now, const std::string& name,
                                 const std::string& merge) {
    ++at_;
    merge_ = merge;
    store::JournalStep out = step_of(store::JournalStep::Kind::apply, before, now, name);
    out.merge = merge;
    return out;
}

store::JournalStep Trail::go(std::int64_t to) {
    at_ = to;
    merge_.clear();
    store::JournalStep out;
    out.kind = store::JournalStep::Kind::go;
    out.place = to;
    return out;
}

} // namespace vic::edit
