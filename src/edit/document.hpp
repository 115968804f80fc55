// A project under change: its present state, how it came to be, and where it is kept.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "base/files.hpp"
#include "level/project.hpp"

namespace vic::edit {

using ProjectState = std::shared_ptr<const level::Project>;

class Document {
  public:
    // A new document without a past. `dir` is the project's folder.
    Document(level::Project project, fs::path dir);
    static Document open(const fs::path& dir); // throws InputError

    [[nodiscard]] const level::Project& project() const { return *now_; }
    [[nodiscard]] ProjectState state() const { return now_; }
    [[nodiscard]] const fs::path& dir() const { return dir_; }

    // One step of history. Steps that follow one another with the same non-empty `merge` become one, so that a slider
    // that is dragged is undone at once.
    void apply(std::string name, level::Project next, const std::string& merge = {});

    [[nodiscard]] bool can_undo() const { return !past_.empty(); }
    [[nodiscard]] bool can_redo() const { return !future_.empty(); }
    [[nodiscard]] std::string undo_name() const { return past_.empty() ? "" : past_.back().name; }
    [[nodiscard]] std::string redo_name() const { return future_.empty() ? "" : future_.back().name; }
    void undo();
    void redo();

    // Whether the state on disk is another than the present one.
    [[nodiscard]] bool unsaved() const { return now_ != saved_; }
    void save(); // throws InputError; the document is then still unsaved

  private:
    struct Step {
        std::string name;
        ProjectState other; // the state before (in the past) or after (in the future)
    };
    fs::path dir_;
    ProjectState now_;
    ProjectState saved_;
    std::vector<Step> past_;
    std::vector<Step> future_;
    std::string merge_;
};

} // namespace vic::edit
