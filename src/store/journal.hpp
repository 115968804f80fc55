// The journal: what was done in a project since it was saved, written step by step, so that a program that is killed
// loses nothing that was done. Format: docs/formats/journal.md.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <utility>

#include "base/files.hpp"
#include "level/project.hpp"

namespace vic::store {

inline constexpr int kJournalVersion = 2;
inline constexpr std::uintmax_t kMostJournal = 512U << 20; // bytes that are read

using ProjectRef = std::shared_ptr<const level::Project>;

struct JournalStep {
    // back: beyond all that the journal knew, to a state from which a step of this name led to its first.
    enum class Kind : std::uint8_t { apply, back, go };
    Kind kind = Kind::apply;
    std::string name;         // of the step of history
    std::string merge;        // steps in a row with the same become one
    std::int64_t when = 0;    // seconds since 1970
    std::int64_t place = 0;   // go: how many steps after the saved state one is now, or (below 0) before it
    ProjectRef before, after; // before: only to write
};

// Where the journal of a project lies in its folder. Throws InputError where a link is in the way.
fs::path journal_place(const fs::path& dir);

// A record as it stands in the file: "LENGTH HASH", a new line, the bytes, a new line.
std::string journal_frame(const std::string& bytes);

// Appends steps to a file. For one thread at a time.
class JournalWriter {
  public:
    // A new file in the place of any that is there, when its first step is written; `mark` (Seen::mark) stands for the
    // files that it goes on from. Throws InputError.
    JournalWriter(fs::path file, std::uint64_t mark);
    ~JournalWriter();
    JournalWriter(const JournalWriter&) = delete;
    JournalWriter& operator=(const JournalWriter&) = delete;
    // Is on its way to the disk when this returns; flushed with `flush`. Costs what differs between before and after.
    // Several at once: all or none. Throws InputError; what was written before stands.
    void write(std::span<const JournalStep> steps);
    void write(const JournalStep& step) { write({&step, 1}); }
    void flush();
    [[nodiscard]] std::uintmax_t size() const { return size_; }
    [[nodiscard]] const fs::path& file() const { return file_; }

  private:
    fs::path file_;
    fs::path begun_; // where it is until then; empty after that
    int handle_ = -1;
    std::uintmax_t size_ = 0;
};

// What a journal holds, without looking into its steps.
struct JournalHead {
    std::uint64_t mark = 0;
    int steps = 0;
    std::int64_t last = 0; // when the last of them was done
    bool torn = false;     // something stands behind them that is none
};
// None where there is no journal. Throws InputError for a file that is no journal or that cannot be read.
std::optional<JournalHead> journal_head(const fs::path& file);

// Gives a journal's steps, each with the state that it led to. What is not as it should be ends it: the steps before
// stand, torn() tells.
class JournalReader {
  public:
    // `base` is what the project's files hold, `dir` its folder, for pictures. Throws InputError as journal_head().
    JournalReader(const fs::path& file, ProjectRef base, fs::path dir);
    std::optional<JournalStep> next();
    // After a way through the history: the state that it led to, from which the next step goes on.
    void went(ProjectRef state) { now_ = std::move(state); }
    [[nodiscard]] bool torn() const { return torn_; }

  private:
    fs::path dir_;
    std::string file_, bytes_;
    std::size_t at_ = 0;
    ProjectRef now_;
    bool torn_ = false;
};

} // namespace vic::store
