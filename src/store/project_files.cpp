#include "store/project_files.hpp"

#include <unistd.h>

#include <algorithm>
#include <mutex>
#include <set>
#include <tuple>

#include "base/error.hpp"
#include "base/lock.hpp"
#include "base/parallel.hpp"
#include "join/compose_sheet.hpp"
#include "sheet/inspect.hpp"
#include "sheet/png.hpp"
#include "store/cells.hpp"
#include "store/format.hpp"

namespace vic::store {

namespace {

constexpr const char* kRoot = "project.json";
constexpr std::uintmax_t kMostJson = 1U << 28; // bytes; in memory it is up to thirty times as much
constexpr const char* kWork = ".vicinum";
constexpr const char* kPending = ".vicinum/pending"; // being written; thrown away if found
constexpr const char* kCommit = ".vicinum/commit";   // complete; finished if found

void make_folder(const fs::path& dir) {
    std::error_code trouble;
    fs::create_directories(dir, trouble);
    if (trouble)
        throw InputError(say("The folder cannot be made: %1", trouble.message()), dir.string(), "",
                         "Choose a place where you may write");
}

// A place in the project that no link leads away from.
fs::path own(const fs::path& dir, const std::string& relative) { return inside(dir, relative, dir.string(), ""); }

// The files of a complete save that was cut short, by their place in the project.
std::vector<fs::path> committed(const fs::path& dir) {
    const fs::path commit = own(dir, kCommit);
    std::vector<fs::path> files;
    std::error_code trouble;
    if (!fs::is_directory(commit, trouble)) return files;
    for (const auto& entry : fs::recursive_directory_iterator(commit)) {
        if (entry.is_symlink())
            throw InputError("There is a link among the files of a save", entry.path().string(), "",
                             say("Saving puts none there: remove %1", commit.string()));
        if (entry.is_regular_file()) files.push_back(entry.path());
    }
    return files;
}

// Moves the files of a complete save to their places. Doing it twice does no harm.
void finish_commit(const fs::path& dir, const std::function<void()>& step) {
    const fs::path commit = dir / kCommit;
    const std::vector<fs::path> files = committed(dir);
    std::error_code trouble;
    if (!fs::is_directory(commit, trouble)) return;
    for (const fs::path& file : files) {
        const fs::path relative = fs::relative(file, commit);
        const fs::path target = inside(dir, relative.string(), commit.string(), "");
        make_folder(target.parent_path());
        if (step) step();
        fs::rename(file, target, trouble);
        if (trouble)
            throw InputError(say("A saved file cannot be put in place: %1", trouble.message()), target.string(), "",
                             say("Check who may write there; the save is complete in %1", commit.string()));
        flush_folder(target.parent_path());
    }
    if (step) step();
    fs::remove_all(commit, trouble);
}

void tidy_up(const fs::path& dir, const std::function<void()>& step) {
    std::error_code ignored;
    finish_commit(dir, step);
    fs::remove_all(own(dir, kPending), ignored);
    for (const char* folder : {kWork, "sheets", "plans"})
        if (!fs::is_symlink(dir / folder, ignored)) remove_left_parts(dir / folder);
    ::rmdir((dir / kWork).c_str()); // only when it is an empty folder
}

// Where a file of the project is to be read: in a save that is complete but was cut short, else in its place. So
// reading touches nothing.
fs::path newest(const fs::path& dir, const std::string& relative, const std::string& said_in, const Text& where) {
    const fs::path kept = inside(dir, std::string(kCommit) + "/" + relative, said_in, where);
    std::error_code trouble;
    return fs::exists(kept, trouble) ? kept : inside(dir, relative, said_in, where);
}

} // namespace

void give_pictures(level::Project& project, const fs::path& dir, const level::Project& known) {
    for (auto& slot : project.sheets) {
        if (slot->derived()) continue; // made from the others below
        level::Sheet sheet = *slot;
        const auto same = std::find_if(known.sheets.begin(), known.sheets.end(),
                                       [&](const auto& s) { return s->file == sheet.file && s->image; });
        // Before anything is read: a path that leads elsewhere is no picture that cannot be read, but refused.
        const fs::path file = newest(dir, sheet.file, (dir / kRoot).string(), say("the sheet \"%1\"", sheet.name));
        if (sheet.kit) inside(dir, sheet.kit->file, (dir / kRoot).string(), say("the kit \"%1\"", sheet.name));
        try {
            sheet.image =
                same != known.sheets.end() ? (*same)->image : std::make_shared<const Image>(sheet::read_png(file));
            const auto gaps = sheet::gap_colour(*sheet.image, sheet.cut);
            for (level::Tile& tile : sheet.tiles) tile.blank = sheet::is_blank(*sheet.image, tile.box, gaps);
        } catch (const InputError& e) {
            sheet.trouble = e.text();
        }
        slot = std::make_shared<const level::Sheet>(std::move(sheet));
    }
    // The pictures of derived sheets follow from their sources; their files are for others to read.
    project = join::compose_sheets(std::move(project));
}

namespace {

std::string cells_name(const std::string& id) { return "levels/" + id + ".cells"; }
std::string block_name(const std::string& id, Point block) {
    return "levels/" + id + "/" + std::to_string(block.x) + "-" + std::to_string(block.y) + ".cells";
}
Box block_box(Point block) { return {block.x * kBlock, block.y * kBlock, kBlock, kBlock}; }

// The names of the files that hold the level's cells, with the part that each holds.
std::map<std::string, Box> cell_files(const level::Level& level) {
    std::map<std::string, Box> out;
    if (!in_blocks(level)) out[cells_name(level.id)] = level.cells();
    for (const Point block : blocks_of(level)) out[block_name(level.id, block)] = block_box(block);
    return out;
}

// A damaged file is kept as it was under another name: the next save writes anew what could be read.
std::string kept_aside(const fs::path& file, const std::string& bytes) {
    std::error_code trouble;
    for (int n = 1;; ++n) {
        const fs::path aside = file.string() + ".damaged" + (n == 1 ? "" : "-" + std::to_string(n));
        const fs::file_status there = fs::symlink_status(aside, trouble);
        if (there.type() != fs::file_type::not_found) {
            if (fs::is_regular_file(there) && fs::file_size(aside, trouble) == bytes.size() &&
                read_file(aside) == bytes)
                return aside.string();
            continue;
        }
        write_file(aside, bytes);
        flush_folder(aside.parent_path());
        return aside.string();
    }
}

void read_level_cells(const fs::path& dir, const fs::path& root, level::Level& level, const std::vector<Point>& blocks,
                      std::uint32_t next_tile, const join::Rules& rules, CellBudget& budget,
                      std::vector<Damage>* damages, Seen* seen) {
    CellReader reader(level, next_tile, &budget);
    std::mutex guard;
    const auto read = [&](const std::string& name, const Box& part) {
        const fs::path file = newest(dir, name, root.string(), "levels");
        const std::string bytes = read_file(file);
        if (seen) seen->note(name, bytes);
        std::vector<DamagedCells> damaged;
        reader.read(bytes, file.string(), part, damages ? &damaged : nullptr);
        if (damaged.empty()) return;
        const std::string aside = kept_aside(inside(dir, name, root.string(), "levels"), bytes);
        const std::lock_guard lock(guard);
        for (const DamagedCells& d : damaged) damages->push_back({level.id, d.layer, d.file, aside, d.what});
    };
    if (!in_blocks(level)) {
        read(cells_name(level.id), level.cells());
    } else {
        // Rows of blocks share nothing, so two threads can fill them.
        const auto every_other = [&](int which) {
            for (const Point block : blocks)
                if (block.y % 2 == which) read(block_name(level.id, block), block_box(block));
        };
        parallel_both(
            true, [&] { every_other(0); }, [&] { every_other(1); });
    }
    reader.finish(rules);
    if (!damages) return;
    for (const Damage& d : *damages)
        if (d.level == level.id) level.edit(d.layer).locked = true;
}

// A project whose pictures lie in another folder than its other files.
level::Project load_from(const fs::path& dir, const fs::path& pictures, std::vector<Damage>* damages = nullptr,
                         Seen* seen = nullptr) {
    std::error_code trouble;
    if (!fs::is_directory(dir, trouble))
        throw InputError("There is no such project folder", dir.string(), "",
                         "Choose a folder that holds project.json");
    const FolderLock lock(dir, FolderLock::For::reading);
    const fs::path root = dir / kRoot;
    const fs::path newest_root = newest(dir, kRoot, root.string(), "");
    if (!fs::exists(newest_root, trouble))
        throw InputError("This folder is no Vicinum project", dir.string(), "",
                         "Choose a folder that holds project.json");
    const std::string root_text = read_file(newest_root, kMostJson);
    if (seen) seen->note(kRoot, root_text);
    std::vector<std::string> level_ids;
    level::Project project = project_from_text(root_text, root.string(), level_ids);
    give_pictures(project, pictures, {});
    const join::Rules rules(project);
    CellBudget budget;
    for (const std::string& id : level_ids) {
        const std::string name = "levels/" + id + ".json";
        const fs::path file = newest(dir, name, root.string(), "levels");
        const std::string text = read_file(file, kMostJson);
        if (seen) seen->note(name, text);
        std::vector<Point> blocks;
        level::Level level = level_from_text(text, file.string(), project, &blocks);
        if (level.id != id)
            throw InputError(say("The level calls itself \"%1\"", level.id), file.string(), "id",
                             "File and id belong together: rename one of them back");
        read_level_cells(dir, root, level, blocks, project.next_tile, rules, budget, damages, seen);
        project.put(std::move(level));
    }
    return project;
}

constexpr const char* kKept = ".vicinum/kept";
constexpr const char* kKeptName = "kept.json";

} // namespace

level::Project load(const fs::path& dir, std::vector<Damage>* damages, Seen* seen) {
    return load_from(dir, dir, damages, seen);
}

std::string keep_state(const level::Project& project, const fs::path& dir, const std::string& name, std::int64_t when) {
    const std::string stem = std::to_string(when) + "-" + slug(name, "kept");
    std::string id = stem;
    std::error_code trouble;
    own(dir, kKept);
    for (int n = 2; fs::exists(dir / kKept / id, trouble); ++n) id = stem + "-" + std::to_string(n);
    const fs::path place = dir / kKept / id;
    // The name is written last: a folder without it is no keep-point.
    save(project, place);
    const Json head{{"format", "vicinum-kept"}, {"version", 1}, {"name", name}, {"when", when}};
    write_file(place / kKeptName, json_lines(head));
    flush_folder(place);
    return id;
}

std::vector<Kept> kept_states(const fs::path& dir) {
    std::vector<Kept> out;
    std::error_code trouble;
    if (fs::is_symlink(dir / kWork, trouble) || fs::is_symlink(dir / kKept, trouble)) return out;
    for (const auto& entry : fs::directory_iterator(dir / kKept, trouble)) {
        const fs::path file = entry.path() / kKeptName;
        if (entry.is_symlink() || !fs::is_regular_file(file, trouble)) continue;
        try {
            const Json json = parse_json(read_file(file, 1U << 20), file.string());
            const Field root(json, file.string(), "");
            check_format(root, "vicinum-kept", 1);
            out.push_back({entry.path().filename().string(), root["name"].text(), root["when"].integer(0, 1LL << 40)});
        } catch (const InputError&) {
            // A damaged keep-point is no reason not to open the project; its folder stays as it is.
        }
    }
    std::sort(out.begin(), out.end(),
              [](const Kept& a, const Kept& b) { return std::tuple(-a.when, a.id) < std::tuple(-b.when, b.id); });
    return out;
}

level::Project load_kept(const fs::path& dir, const std::string& id) {
    return load_from(own(dir, std::string(kKept) + "/" + id), dir);
}

void forget_kept(const fs::path& dir, const std::string& id) {
    std::error_code trouble;
    const fs::path place = own(dir, std::string(kKept) + "/" + id);
    fs::remove(place / kKeptName, trouble); // from here on it is no keep-point any more
    fs::remove_all(place, trouble);
    if (trouble)
        throw InputError(say("The keep-point cannot be removed: %1", trouble.message()), place.string(), "",
                         "Check who may write there");
}

std::map<std::string, std::string> texts(const level::Project& project, const level::Project* saved) {
    std::map<std::string, std::string> out;
    out[kRoot] = project_to_text(project);
    if (saved && project_to_text(*saved) == out[kRoot]) out.erase(kRoot);
    for (const auto& sheet : project.sheets) {
        const level::Sheet* old = saved ? saved->sheet(sheet->id) : nullptr;
        if (sheet->derived() && sheet->image && !(old && old->image == sheet->image))
            out[sheet->file] = sheet::encode_png(*sheet->image);
    }
    const join::Rules rules(project);
    // What is told by rule is told anew when the rules have changed.
    const bool rules_same = saved && saved->materials == project.materials;
    for (const auto& level : project.levels) {
        const level::Level* old = saved ? saved->level(level->id) : nullptr;
        if (old == level.get() && rules_same) continue;
        if (old != level.get()) out["levels/" + level->id + ".json"] = level_to_text(*level);
        bool alike = rules_same && old && old->size == level->size && old->layers.size() == level->layers.size();
        for (std::size_t i = 0; alike && i < level->layers.size(); ++i)
            alike = old->layers[i]->id == level->layers[i]->id && old->layers[i]->kind() == level->layers[i]->kind() &&
                    old->layers[i]->grain() == level->layers[i]->grain();
        for (const auto& [name, part] : cell_files(*level)) {
            // A file is written where a cell of its part, or one beside it by which it is joined, has changed.
            const auto touched = [&, part = part] {
                for (std::size_t i = 0; i < level->layers.size(); ++i) {
                    if (level->layers[i] == old->layers[i] || !level->layers[i]->has_cells()) continue;
                    for (const Box& box : level::differences(old->layers[i]->grid(), level->layers[i]->grid()))
                        if (!intersection(level->layers[i]->grain().in_level(box.grown(1)), part).empty()) return true;
                }
                return false;
            };
            if (!alike || touched()) out[name] = write_cells(*level, rules, part);
        }
    }
    return out;
}

namespace {

// Reads what is about to be written as the next start would. Throws InputError where that would refuse it; cells and
// pictures are not read again, what they hold has no limits that a user could go over.
void read_back(const level::Project& as_is, const std::map<std::string, std::string>& files, const fs::path& dir) {
    std::vector<std::string> ids;
    const auto root = files.find(kRoot);
    const level::Project project =
        root == files.end() ? as_is : project_from_text(root->second, (dir / kRoot).string(), ids);
    for (const auto& [name, text] : files)
        if (name.starts_with("levels/") && name.ends_with(".json"))
            level_from_text(text, (dir / name).string(), project);
}

} // namespace

SaveStopped::SaveStopped(const fs::path& dir)
    : InputError("The save was stopped", dir.string(), "", "The project on disk is as it was: save again") {}

ProjectGone::ProjectGone(const fs::path& dir)
    : InputError("The project is no longer in its folder", dir.string(), "",
                 "Nothing was written: save it as a whole in another place, or bring the folder back") {}

ChangedOutside::ChangedOutside(const fs::path& dir, std::vector<std::string> files)
    : InputError(say("Somebody else has changed %1 since it was opened", files.front()), (dir / files.front()).string(),
                 "", "Nothing was written: choose what is to stay"),
      files_(std::move(files)) {}

namespace {

// The files as they are now; those of levels that the project no longer has are nobody's.
void note_all(Seen& seen, const level::Project& project, const std::map<std::string, std::string>& files) {
    for (const auto& [name, text] : files)
        if (!name.ends_with(".png")) seen.note(name, text);
    for (const std::string& name : seen.names()) {
        if (!name.starts_with("levels/")) continue;
        const std::string rest = name.substr(7);
        if (!project.level(rest.substr(0, rest.find_first_of("./")))) seen.forget(name);
    }
}

} // namespace

void save(const level::Project& project, const fs::path& dir, const level::Project* saved, const SaveHelp& help) {
    const auto step = [&] {
        if (help.step) help.step();
    };
    const auto go_on = [&] {
        if (help.stopped && help.stopped()) throw SaveStopped(dir);
    };
    const auto files = texts(project, saved);
    go_on();
    read_back(project, files, dir);
    step();
    std::error_code trouble;
    if (saved && !fs::exists(dir / kRoot, trouble) && !fs::exists(dir / kCommit / kRoot, trouble))
        throw ProjectGone(dir);
    make_folder(dir);
    const FolderLock lock(dir, FolderLock::For::writing);
    // What would be refused when it is put in place is refused before anything is written.
    own(dir, "levels");
    for (const auto& [name, text] : files) own(dir, name);
    tidy_up(dir, step);
    if (help.seen)
        if (auto outside = help.seen->changed(dir); !outside.empty()) throw ChangedOutside(dir, std::move(outside));
    const fs::path pending = dir / kPending;
    for (const auto& [name, text] : files) {
        go_on();
        const fs::path file = pending / name;
        make_folder(file.parent_path());
        step();
        write_file(file, text);
        flush_folder(file.parent_path());
    }
    if (files.empty()) return;
    flush_folder(pending);
    go_on();
    step();
    fs::rename(pending, dir / kCommit, trouble);
    if (trouble)
        throw InputError(say("The save cannot be completed: %1", trouble.message()), dir.string(), "",
                         "Check who may write there; the project on disk is unchanged");
    if (help.seen) note_all(*help.seen, project, files);
    flush_folder(dir / kWork);
    step();
    tidy_up(dir, step);
    // Cells that no level names any more. Left behind by a crash they would do no harm.
    if (!saved) return;
    std::set<std::string> named;
    for (const auto& level : project.levels)
        for (const auto& [name, part] : cell_files(*level)) named.insert(name);
    for (const auto& level : saved->levels)
        if (project.level(level->id) != level.get())
            for (const auto& [name, part] : cell_files(*level))
                if (!named.contains(name) && project.level(level->id)) {
                    fs::remove(dir / name, trouble);
                    if (help.seen) help.seen->forget(name);
                }
}

void must_be_free(const fs::path& dir) {
    std::error_code trouble;
    if (fs::exists(dir, trouble) && (!fs::is_directory(dir, trouble) || !fs::is_empty(dir, trouble)))
        throw InputError("There is something in the way", dir.string(), "", "Choose a new or an empty folder");
}

void copy_project(const fs::path& from, const fs::path& to) {
    must_be_free(to);
    load(from); // what is no project, or one that leads elsewhere, is refused
    const FolderLock lock(from, FolderLock::For::reading);
    try {
        for (auto entry = fs::recursive_directory_iterator(from); entry != fs::recursive_directory_iterator();
             ++entry) {
            const fs::path relative = fs::relative(entry->path(), from);
            if (*relative.begin() == kWork) {
                if (entry->is_directory()) entry.disable_recursion_pending();
                continue;
            }
            if (entry->is_symlink()) continue;
            if (entry->is_directory()) {
                make_folder(to / relative);
            } else if (entry->is_regular_file()) {
                make_folder((to / relative).parent_path());
                fs::copy_file(entry->path(), to / relative);
            }
        }
    } catch (const fs::filesystem_error& e) {
        throw InputError(say("The copy cannot be made: %1", e.code().message()), to.string(), "",
                         "Check the free space and who may write there");
    }
}

void create(const level::Project& project, const fs::path& dir) {
    must_be_free(dir);
    save(project, dir);
}

void write_pictures(const level::Project& project, const fs::path& dir) {
    for (const auto& sheet : project.sheets) {
        if (!sheet->image || sheet->derived()) continue;
        make_folder(dir);
        const fs::path file = own(dir, sheet->file);
        make_folder(file.parent_path());
        write_file(file, sheet::encode_png(*sheet->image));
    }
}

std::string adopt_picture(const fs::path& dir, const fs::path& picture) {
    const std::string bytes = read_file(picture, 1ULL << 29);
    sheet::decode_png(bytes, picture.string());
    const fs::path sheets = own(dir, "sheets");
    make_folder(sheets);
    const std::string stem = slug(picture.stem().string(), "sheet");
    for (int n = 1;; ++n) {
        std::string relative = "sheets/" + stem + (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        const fs::path target = dir / relative;
        std::error_code trouble;
        const fs::file_status there = fs::symlink_status(target, trouble);
        if (!fs::exists(there)) {
            write_file(target, bytes);
            flush_folder(sheets);
            return relative;
        }
        if (fs::is_regular_file(there) && fs::file_size(target, trouble) == bytes.size() && read_file(target) == bytes)
            return relative;
    }
}

} // namespace vic::store
