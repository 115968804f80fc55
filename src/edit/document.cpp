#include "edit/document.hpp"

#include <algorithm>

#include "edit/outside.hpp"
#include "store/project_files.hpp"

namespace vic::edit {

namespace {

// Bytes of cells in `a` that `b` does not share, and a little for each step.
std::size_t own_bytes(const level::Project& a, const level::Project& b) {
    std::size_t bytes = 4096;
    for (const auto& level : a.levels) {
        const level::Level* other = b.level(level->id);
        if (other == level.get()) continue;
        for (const level::LayerRef& layer : level->layers) {
            const level::Layer* there = other ? other->layer(layer->id) : nullptr;
            if (there == layer.get()) continue;
            bytes += level::unshared(layer->grid(), there ? there->grid() : level::Grid()) * sizeof(level::Chunk) +
                     layer->props().unshared(there ? there->props() : level::Props());
        }
    }
    return bytes;
}

} // namespace

Document::Document(level::Project project, fs::path dir)
    : dir_(std::move(dir)),
      now_(std::make_shared<const level::Project>(std::move(project))),
      saved_(now_),
      opened_(std::chrono::system_clock::now()) {}

Document Document::open(const fs::path& dir) {
    std::vector<store::Damage> damages;
    auto seen = std::make_shared<store::Seen>();
    Document out(store::load(dir, &damages, seen.get()), dir);
    out.seen_ = std::move(seen);
    out.damages_ = std::move(damages);
    // What could be read only in part is another state than that on disk: a save writes it whole.
    if (!out.damages_.empty()) out.saved_ = std::make_shared<const level::Project>();
    for (const store::Kept& k : store::kept_states(dir))
        out.kept_.push_back({k.id, k.name, Moment(std::chrono::seconds(k.when)), nullptr});
    return out;
}

void Document::apply(std::string name, level::Project next, const std::string& merge) {
    apply(std::move(name), std::make_shared<const level::Project>(std::move(next)), merge);
}

void Document::apply(std::string name, ProjectState next, const std::string& merge) {
    const bool joins = !merge.empty() && merge == merge_ && !past_.empty();
    const ProjectState before = now_;
    if (!joins) past_.push_back({name, now_, {}, 0});
    past_.back().when = std::chrono::system_clock::now();
    merge_ = merge;
    for (const Step& step : future_) held_ -= step.bytes;
    future_.clear();
    now_ = std::move(next);
    Step& last = past_.back();
    held_ -= last.bytes;
    last.bytes = own_bytes(*last.other, *now_);
    held_ += last.bytes;
    keep_to_budget();
    tell(std::move(name), merge, before, false);
}

void Document::set_budget(std::size_t bytes) {
    budget_ = bytes;
    keep_to_budget();
}

// The last step always stays.
void Document::keep_to_budget() {
    std::size_t gone = 0;
    while (held_ > budget_ && gone + 1 < past_.size()) held_ -= past_[gone++].bytes;
    past_.erase(past_.begin(), past_.begin() + static_cast<std::ptrdiff_t>(gone));
    let_go_ += gone;
}

void Document::undo() {
    const ProjectState before = now_;
    std::string name = undo_name();
    back();
    if (now_ != before) tell(std::move(name), {}, before, true);
}

void Document::redo() {
    const ProjectState before = now_;
    std::string name = redo_name();
    forth();
    if (now_ != before) tell(std::move(name), {}, before, true);
}

void Document::back() {
    if (past_.empty()) return;
    Step step = std::move(past_.back());
    past_.pop_back();
    std::swap(step.other, now_);
    future_.push_back(std::move(step));
    merge_.clear();
}

void Document::forth() {
    if (future_.empty()) return;
    Step step = std::move(future_.back());
    future_.pop_back();
    std::swap(step.other, now_);
    past_.push_back(std::move(step));
    merge_.clear();
}

int Document::replay(store::JournalReader& journal) {
    using Kind = store::JournalStep::Kind;
    auto base = static_cast<std::int64_t>(place());
    int steps = 0;
    for (; const auto step = journal.next(); ++steps) {
        if (step->kind == Kind::back && place() == 0) {
            replay_back(*step);
            ++base; // the state that the journal counts from has one more before it
        } else if (step->kind == Kind::go) {
            go_to(static_cast<std::size_t>(
                std::max<std::int64_t>(base + step->place - static_cast<std::int64_t>(let_go_), 0)));
            journal.went(now_);
        } else {
            apply(step->name, step->after, step->merge);
            past_.back().when = Moment(std::chrono::seconds(step->when));
        }
    }
    return steps;
}

// The present state, the first that there was, has been led to by a step that is undone now.
void Document::replay_back(const store::JournalStep& step) {
    future_.push_back({step.name, now_, Moment(std::chrono::seconds(step.when)), own_bytes(*now_, *step.after)});
    held_ += future_.back().bytes;
    now_ = step.after;
    merge_.clear();
}

std::vector<Document::Past> Document::history() const {
    std::vector<Past> out;
    out.push_back({"", opened_, past_.empty() ? now_ : past_.front().other});
    for (std::size_t i = 0; i < past_.size(); ++i)
        out.push_back({past_[i].name, past_[i].when, i + 1 < past_.size() ? past_[i + 1].other : now_});
    for (std::size_t i = future_.size(); i-- > 0;) out.push_back({future_[i].name, future_[i].when, future_[i].other});
    return out;
}

void Document::go_to(std::size_t place) {
    while (past_.size() > place && can_undo()) undo();
    while (past_.size() < place && can_redo()) redo();
}

void Document::keep(const std::string& name) { kept(write_kept(now_, dir_, name)); }

KeepPoint Document::write_kept(ProjectState state, const fs::path& dir, const std::string& name) {
    const Moment when = std::chrono::system_clock::now();
    const auto seconds = std::chrono::duration_cast<std::chrono::seconds>(when.time_since_epoch()).count();
    const std::string id = store::keep_state(*state, dir, name, seconds);
    return {id, name, when, std::move(state)};
}

ProjectState Document::read_kept(const KeepPoint& point, const fs::path& dir) {
    return point.state ? point.state : std::make_shared<const level::Project>(store::load_kept(dir, point.id));
}

void Document::kept(KeepPoint point) { kept_.insert(kept_.begin(), std::move(point)); }

void Document::kept_read(const std::string& id, const ProjectState& state) {
    for (KeepPoint& k : kept_)
        if (k.id == id) k.state = state;
}

void Document::go_back(std::size_t keep_point) {
    KeepPoint& kept = kept_.at(keep_point);
    kept.state = read_kept(kept, dir_);
    level::Project next = *kept.state;
    // Numbers that were given out since are never given out again.
    next.next_tile = std::max(next.next_tile, now_->next_tile);
    next.next_id = std::max(next.next_id, now_->next_id);
    apply(kept.name, std::move(next));
}

void Document::forget(std::size_t keep_point) {
    store::forget_kept(dir_, kept_.at(keep_point).id);
    kept_.erase(kept_.begin() + static_cast<std::ptrdiff_t>(keep_point));
}

void Document::save() {
    const Saving all = saving();
    all.write();
    saved(all);
}

void Document::take_over(const Outside& outside, ProjectState next, std::string name) {
    if (next != now_) apply(std::move(name), std::move(next));
    saved_ = outside.disk;
    seen_ = outside.seen;
}

Document::Saving Document::elsewhere(fs::path dir) const {
    return {now_, nullptr, std::move(dir), std::make_shared<store::Seen>()};
}

void Document::moved(const Saving& done) {
    dir_ = done.dir;
    seen_ = done.seen;
    saved(done);
}

void Document::Saving::write(const std::function<bool()>& stopped) const {
    store::SaveHelp help;
    help.stopped = stopped;
    help.seen = seen.get();
    if (!before) store::write_pictures(*state, dir);
    store::save(*state, dir, before.get(), help);
}

} // namespace vic::edit
