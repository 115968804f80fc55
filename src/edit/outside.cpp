#include "edit/outside.hpp"

#include <algorithm>
#include <set>
#include <utility>

#include "base/lock.hpp"
#include "store/format.hpp"
#include "store/project_files.hpp"

namespace vic::edit {

namespace {

constexpr const char* kRoot = "project.json";
constexpr const char* kLevels = "levels/";

// The level that a file belongs to; empty for project.json.
std::string level_of(const std::string& file) {
    if (!file.starts_with(kLevels)) return {};
    const std::string rest = file.substr(std::string(kLevels).size());
    return rest.substr(0, rest.find_first_of("./"));
}

// `theirs` with what is the same as in `known` shared.
level::Project sharing(level::Project theirs, const level::Project& known, const std::set<std::string>& changed,
                       bool root_changed) {
    if (!root_changed) {
        level::Project out = known;
        for (const auto& l : theirs.levels)
            if (changed.contains(l->id)) out.put(level::Level(*l));
        return out;
    }
    for (auto& slot : theirs.sheets)
        for (const auto& old : known.sheets)
            if (old->id == slot->id && old->image && slot->image && *old->image == *slot->image) {
                level::Sheet same = *slot;
                same.image = old->image;
                slot = std::make_shared<const level::Sheet>(std::move(same));
                break;
            }
    const auto share = [](auto& now, const auto& before) {
        for (auto& slot : now)
            for (const auto& old : before)
                if (old->id == slot->id && *old == *slot) slot = old;
    };
    share(theirs.materials, known.materials);
    share(theirs.prop_kinds, known.prop_kinds);
    share(theirs.stamps, known.stamps);
    for (auto& slot : theirs.levels)
        for (const auto& old : known.levels)
            if (old->id == slot->id && !changed.contains(old->id)) slot = old;
    return theirs;
}

// All that is not levels. Their list, and which numbers are free, stand in the same file and are no change of the rest.
std::string rest_of(level::Project project) {
    project.levels.clear();
    project.next_tile = project.next_id = 1;
    return store::project_to_text(project);
}

const level::Level* find(const level::Project& p, const std::string& id) { return p.level(id); }

} // namespace

bool Outside::conflict() const {
    return std::any_of(units.begin(), units.end(), [](const Unit& u) { return u.conflict(); });
}

bool Outside::whole() const {
    return std::any_of(units.begin(), units.end(), [](const Unit& u) { return u.level.empty() && u.conflict(); });
}

Outside read_outside(const Document::Saving& saving) {
    Outside out;
    const FolderLock lock(saving.dir, FolderLock::For::reading); // no save of ours or of others is half done meanwhile
    const std::vector<std::string> files = saving.seen->changed(saving.dir);
    if (files.empty()) return out;
    out.seen = std::make_shared<store::Seen>();
    level::Project disk = store::load(saving.dir, nullptr, out.seen.get());
    std::set<std::string> changed;
    bool root = false;
    for (const std::string& file : files) {
        if (file == kRoot) root = true;
        if (const std::string id = level_of(file); !id.empty()) changed.insert(id);
    }
    const level::Project& known = *saving.before;
    const level::Project& ours = *saving.state;
    for (const auto& l : disk.levels)
        if (!find(known, l->id)) changed.insert(l->id);
    for (const auto& l : known.levels)
        if (!find(disk, l->id)) changed.insert(l->id);
    if (root) {
        root = rest_of(known) != rest_of(disk);
        if (root) out.units.push_back({{}, {}, true, rest_of(ours) != rest_of(known), false});
    }
    for (const std::string& id : changed) {
        const level::Level* there = find(disk, id);
        const level::Level* here = find(ours, id);
        const level::Level* before = find(known, id);
        if (!there && !here) continue;
        out.units.push_back({id, (here ? here : there)->name, true, here != before, !there});
    }
    const bool listed = disk.levels.size() != known.levels.size() ||
                        !std::equal(disk.levels.begin(), disk.levels.end(), known.levels.begin(),
                                    [](const auto& a, const auto& b) { return a->id == b->id; });
    out.disk = std::make_shared<const level::Project>(sharing(std::move(disk), known, changed, root || listed));
    return out;
}

ProjectState settled(const ProjectState& ours, const Outside& outside, const std::map<std::string, Keep>& choices,
                     const std::function<std::string(const std::string&)>& ours_name) {
    const auto choice = [&](const std::string& id) {
        const auto at = choices.find(id);
        return at == choices.end() ? Keep::theirs : at->second;
    };
    if (outside.whole()) return choice({}) == Keep::ours ? ours : outside.disk;
    const bool root =
        std::any_of(outside.units.begin(), outside.units.end(), [](const Unit& u) { return u.level.empty(); });
    level::Project out = root ? *outside.disk : *ours;
    out.next_tile = std::max(ours->next_tile, outside.disk->next_tile);
    out.next_id = std::max(ours->next_id, outside.disk->next_id);
    // Levels: ours, but for those that changed on the disk.
    const auto unit = [&](const std::string& id) {
        return std::find_if(outside.units.begin(), outside.units.end(), [&](const Unit& u) { return u.level == id; });
    };
    std::vector<std::shared_ptr<const level::Level>> levels;
    std::vector<level::Level> copies;
    for (const auto& l : ours->levels) {
        const auto u = unit(l->id);
        if (u == outside.units.end()) {
            levels.push_back(l);
            continue;
        }
        const level::Level* there = find(*outside.disk, l->id);
        const Keep keep = u->conflict() ? choice(l->id) : Keep::theirs;
        if (keep == Keep::ours || (keep == Keep::both && !there)) {
            levels.push_back(l);
            continue;
        }
        for (const auto& theirs : outside.disk->levels)
            if (theirs->id == l->id) levels.push_back(theirs);
        if (keep == Keep::both) {
            copies.push_back(*l);
            copies.back().name = ours_name(l->name);
        }
    }
    for (const auto& l : outside.disk->levels)
        if (const auto u = unit(l->id);
            !find(*ours, l->id) && u != outside.units.end() && (!u->conflict() || choice(l->id) != Keep::ours))
            levels.push_back(l);
    out.levels = std::move(levels);
    for (level::Level& copy : copies) {
        copy.id = out.free_level_id(copy.name);
        out.put(std::move(copy));
    }
    const bool all_theirs =
        out.levels == outside.disk->levels && store::project_to_text(out) == store::project_to_text(*outside.disk);
    if (all_theirs) return outside.disk;
    for (const auto& l : out.levels) store::level_from_text(store::level_to_text(*l), "levels/" + l->id + ".json", out);
    return std::make_shared<const level::Project>(std::move(out));
}

} // namespace vic::edit
