// A project on disk. Formats: docs/formats/project.md.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <string>
#include <vector>

#include "base/error.hpp"
#include "base/files.hpp"
#include "base/text.hpp"
#include "level/project.hpp"
#include "store/seen.hpp"

namespace vic::store {

inline constexpr int kProjectVersion = 1;
inline constexpr int kLevelVersion = 2; // 2: large levels in blocks

// The project in the folder `dir`. Nothing is changed there: of a save that was cut short when it was complete the new
// files are read where they lie. Waits for a save that is going on. A picture that cannot be read leaves its sheet with
// a `trouble` text and no image; anything else that is wrong throws InputError, links anywhere in the project among it.
// Where `damages` is given, cells of a layer that cannot be read do not keep the others from being opened: they are
// listed, the layer keeps what could be read and is locked, and the file as it was is kept beside itself; that is the
// one thing that is written.
struct Damage {
    std::string level;
    level::LayerId layer = 0;
    std::string file;
    std::string aside; // the copy that is kept untouched
    Text what;
};
// `seen` is told of every file that is read but the pictures.
level::Project load(const fs::path& dir, std::vector<Damage>* damages = nullptr, Seen* seen = nullptr);

// Gives a project's sheets their pictures: those that `known` has under the same file, others from the disk. What
// cannot be read is told as by load().
void give_pictures(level::Project& project, const fs::path& dir, const level::Project& known);

// Writes what differs from `saved` (everything where null). All files change at once or not at all: they are first
// written and flushed to a folder of their own, whose renaming decides; what is left to do after that is finished by
// the next save(). The folder is locked meanwhile, and what is to be written is first read as load() would. Throws
// InputError; the project on disk is then as it was. Any thread may save values that nobody changes meanwhile.
struct SaveHelp {
    // Called before every action on the disk; tests stop the process there.
    std::function<void()> step = {};
    // Asked until the save decides; where it says yes, nothing is changed and SaveStopped is thrown.
    std::function<bool()> stopped = {};
    // What is known of the files. Where any is another now, nothing is written and ChangedOutside is thrown.
    Seen* seen = nullptr;
};
void save(const level::Project& project, const fs::path& dir, const level::Project* saved = nullptr,
          const SaveHelp& help = {});

class SaveStopped : public InputError {
  public:
    explicit SaveStopped(const fs::path& dir);
};

// The project's folder is no longer there (any more as a project): what differs from `saved` is not enough.
class ProjectGone : public InputError {
  public:
    explicit ProjectGone(const fs::path& dir);
};

// Somebody else has changed files of the project since they were read.
class ChangedOutside : public InputError {
  public:
    ChangedOutside(const fs::path& dir, std::vector<std::string> files);
    [[nodiscard]] const std::vector<std::string>& files() const { return files_; }

  private:
    std::vector<std::string> files_; // relative to the project
};

// Throws InputError where there is something in the folder.
void must_be_free(const fs::path& dir);
// A copy of a project with everything in its folder but what lies under .vicinum, into a folder that is empty or
// absent. Throws InputError.
void copy_project(const fs::path& from, const fs::path& to);

// Makes the folder (which must be empty or absent) and saves into it.
void create(const level::Project& project, const fs::path& dir);

// Writes the pictures of a project's sheets, as they are in memory, into a folder that has none. Throws InputError.
void write_pictures(const level::Project& project, const fs::path& dir);

// Copies a picture into the project's sheets/ folder under a free name; a file that is there already and has the same
// bytes serves. Returns the path relative to the project.
std::string adopt_picture(const fs::path& dir, const fs::path& picture);

// Keep-points: states of the project under .vicinum/kept, complete but for the pictures, which they share with it.
struct Kept {
    std::string id; // names its folder
    std::string name;
    std::int64_t when = 0; // seconds since 1970
};
// Writes one; returns its id. Throws InputError.
std::string keep_state(const level::Project& project, const fs::path& dir, const std::string& name, std::int64_t when);
std::vector<Kept> kept_states(const fs::path& dir);                   // the latest first; damaged ones are passed over
level::Project load_kept(const fs::path& dir, const std::string& id); // throws InputError
void forget_kept(const fs::path& dir, const std::string& id);         // throws InputError

// The files of a project as text, by relative path; without the pictures.
std::map<std::string, std::string> texts(const level::Project& project, const level::Project* saved = nullptr);

} // namespace vic::store
