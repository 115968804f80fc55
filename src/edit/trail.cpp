#include "edit/trail.hpp"

namespace vic::edit {

Trail::Trail(std::size_t place, std::int64_t steps) : known_{{place, steps}}, place_(place), at_(steps) {}

store::JournalStep Trail::record(const Document::Told& told, const ProjectState& now, const std::string& way) {
    if (!told.name.empty()) {
        // Whether it became one with the step before it, and whether it will again when the journal is read.
        const bool joins = told.place == place_ && !told.merge.empty() && told.merge == merge_;
        if (joins) --at_;
        std::erase_if(known_, [&](const auto& k) { return k.second > at_ || k.first >= told.place; });
        place_ = told.place;
        known_[place_] = at_ + 1;
        return append(told.before, now, told.name, told.merge);
    }
    place_ = told.place;
    if (const auto there = known_.find(place_); there != known_.end()) return go(there->second);
    std::erase_if(known_, [&](const auto& k) { return k.second > at_; });
    known_[place_] = at_ + 1;
    return append(told.before, now, way, {});
}

store::JournalStep Trail::append(const ProjectState& before, const ProjectState& now, const std::string& name,
                                 const std::string& merge) {
    ++at_;
    merge_ = merge;
    store::JournalStep out;
    out.name = name;
    out.merge = merge;
    out.before = before;
    out.after = now;
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
