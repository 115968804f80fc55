#include "edit/document.hpp"

#include "store/project_files.hpp"

namespace vic::edit {

Document::Document(level::Project project, fs::path dir)
    : dir_(std::move(dir)), now_(std::make_shared<const level::Project>(std::move(project))), saved_(now_) {}

Document Document::open(const fs::path& dir) { return Document(store::load(dir), dir); }

void Document::apply(std::string name, level::Project next, const std::string& merge) {
    const bool joins = !merge.empty() && merge == merge_ && !past_.empty();
    if (!joins) past_.push_back({std::move(name), now_});
    merge_ = merge;
    future_.clear();
    now_ = std::make_shared<const level::Project>(std::move(next));
}

void Document::undo() {
    if (past_.empty()) return;
    Step step = std::move(past_.back());
    past_.pop_back();
    std::swap(step.other, now_);
    future_.push_back(std::move(step));
    merge_.clear();
}

void Document::redo() {
    if (future_.empty()) return;
    Step step = std::move(future_.back());
    future_.pop_back();
    std::swap(step.other, now_);
    past_.push_back(std::move(step));
    merge_.clear();
}

void Document::save() {
    store::save(*now_, dir_, saved_.get());
    saved_ = now_;
}

} // namespace vic::edit
