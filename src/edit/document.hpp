// A project under change: its present state, how it came to be, and where it is kept.
#pragma once

#include <chrono>
#include <functional>
#include <memory>
#include <string>
#include <vector>

#include "base/files.hpp"
#include "level/project.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "store/seen.hpp"

namespace vic::edit {

using ProjectState = std::shared_ptr<const level::Project>;

using Moment = std::chrono::system_clock::time_point;

// A named state of the project to come back to. It is kept in the project's folder and outlives the history.
struct KeepPoint {
    std::string id; // names its folder
    std::string name;
    Moment when{};
    ProjectState state; // null until it is gone back to, for those of earlier times
};

struct Outside; // edit/outside.hpp

class Document {
  public:
    // A new document without a past. `dir` is the project's folder.
    Document(level::Project project, fs::path dir);
    // Layers whose cells are damaged do not keep it from being opened; damages() tells of them. Throws InputError.
    static Document open(const fs::path& dir);
    [[nodiscard]] const std::vector<store::Damage>& damages() const { return damages_; }

    [[nodiscard]] const level::Project& project() const { return *now_; }
    [[nodiscard]] ProjectState state() const { return now_; }
    [[nodiscard]] const fs::path& dir() const { return dir_; }

    // How many bytes of cells the history may hold on to (1 GiB at first): beyond that the oldest steps are let go.
    // Those are gone; keep-points stay.
    void set_budget(std::size_t bytes);
    [[nodiscard]] std::size_t held() const { return held_; }     // bytes, by the cells that steps do not share
    [[nodiscard]] std::size_t let_go() const { return let_go_; } // steps

    // One step of history. Steps that follow one another with the same non-empty `merge` become one, so that a slider
    // that is dragged is undone at once.
    void apply(std::string name, level::Project next, const std::string& merge = {});
    void apply(std::string name, ProjectState next, const std::string& merge = {});

    // Does again what a journal holds, which goes on from the present state; the document is without a past. Returns
    // how many steps there were.
    int replay(store::JournalReader& journal);

    [[nodiscard]] bool can_undo() const { return !past_.empty(); }
    [[nodiscard]] bool can_redo() const { return !future_.empty(); }
    [[nodiscard]] std::string undo_name() const { return past_.empty() ? "" : past_.back().name; }
    [[nodiscard]] std::string redo_name() const { return future_.empty() ? "" : future_.back().name; }
    void undo();
    void redo();

    // The states from the first (0, as opened) to the last that can be redone; `now` is the present one's place.
    struct Past {
        std::string name; // of the step that led to it; empty for the first
        Moment when{};
        ProjectState state;
    };
    [[nodiscard]] std::vector<Past> history() const;
    [[nodiscard]] std::size_t now() const { return past_.size(); }
    // As many steps back or forward as it takes. `place` is one of history()'s.
    void go_to(std::size_t place);

    // Keep-points, the latest first. A new one is written at once; going back to one is a step of history, so nothing
    // is lost by it. Throw InputError.
    [[nodiscard]] const std::vector<KeepPoint>& keep_points() const { return kept_; }
    void keep(const std::string& name);
    void go_back(std::size_t keep_point);
    // The slow halves of both, for any thread.
    [[nodiscard]] static KeepPoint write_kept(ProjectState state, const fs::path& dir, const std::string& name);
    [[nodiscard]] static ProjectState read_kept(const KeepPoint& point, const fs::path& dir);
    void kept(KeepPoint point); // as write_kept() gave it
    void kept_read(const std::string& id, const ProjectState& state);
    void forget(std::size_t keep_point);

    // Is told of every change of the state as it has happened, for a journal.
    struct Told {
        std::string name; // of the step that was done, undone or done again
        std::string merge;
        ProjectState before;
        std::size_t place = 0; // steps from the first state of all, those that were let go among them
        bool went = false;     // undone or done again: one step through the history
    };
    using Listener = std::function<void(const Told&)>;
    void set_listener(Listener listener) { listener_ = std::move(listener); }
    [[nodiscard]] std::size_t place() const { return let_go_ + past_.size(); }

    // Whether the state on disk is another than the present one.
    [[nodiscard]] bool unsaved() const { return now_ != saved_; }
    void save(); // throws InputError; the document is then still unsaved
    // The same in two parts: what any thread may do while the document goes on changing, and what is told it after.
    struct Saving {
        ProjectState state, before;
        fs::path dir;
        std::shared_ptr<store::Seen> seen;
        void write(const std::function<bool()>& stopped = {}) const; // as save(); throws SaveStopped where it is
    };
    [[nodiscard]] Saving saving() const { return {now_, saved_, dir_, seen_}; }
    void saved(const Saving& done) { saved_ = done.state; }
    // The project lies in another folder from now on, where `done` was written.
    void moved(const Saving& done);
    [[nodiscard]] const store::Seen& seen() const { return *seen_; }
    [[nodiscard]] ProjectState disk() const { return saved_; } // what the files hold
    // A save of everything, pictures too, into a new folder.
    [[nodiscard]] Saving elsewhere(fs::path dir) const;
    // After changes by others (edit/outside.hpp): one step to `next`; what is on the disk counts as saved.
    void take_over(const Outside& outside, ProjectState next, std::string name);

  private:
    void tell(std::string name, std::string merge, ProjectState before, bool went) const {
        if (listener_) listener_({std::move(name), std::move(merge), std::move(before), place(), went});
    }
    void replay_back(const store::JournalStep& step);
    void back();
    void forth();
    struct Step {
        std::string name;
        ProjectState other; // the state before (in the past) or after (in the future)
        Moment when{};
        std::size_t bytes = 0; // of cells that `other` does not share with what came after (or before)
    };
    void keep_to_budget();
    fs::path dir_;
    ProjectState now_;
    ProjectState saved_;
    std::vector<Step> past_;
    std::vector<Step> future_;
    std::string merge_;
    std::size_t budget_ = std::size_t{1} << 30;
    std::size_t held_ = 0;
    std::size_t let_go_ = 0;
    std::shared_ptr<store::Seen> seen_ = std::make_shared<store::Seen>();
    Moment opened_{};
    Listener listener_;
    std::vector<KeepPoint> kept_;
    std::vector<store::Damage> damages_;
};

} // namespace vic::edit
