#include "edit/trays.hpp"

#include <algorithm>
#include <cassert>
#include <set>

#include "edit/notes.hpp"
#include "edit/stroke.hpp"

namespace vic::edit {

using namespace level;
using Thing = TrayItem::Kind;

namespace {

std::string tidied(const std::string& folder) {
    std::string out;
    for (std::size_t from = 0; from <= folder.size();) {
        const std::size_t to = std::min(folder.find('/', from), folder.size());
        std::string part = folder.substr(from, to - from);
        part.erase(0, std::min(part.find_first_not_of(" \t"), part.size()));
        part.erase(part.find_last_not_of(" \t") + 1);
        if (!part.empty()) out += (out.empty() ? "" : "/") + part;
        from = to + 1;
    }
    return out;
}

bool shares(const std::vector<std::string>& a, const std::vector<std::string>& b) {
    return std::any_of(a.begin(), a.end(),
                       [&](const std::string& tag) { return std::find(b.begin(), b.end(), tag) != b.end(); });
}

} // namespace

Text tray_trouble(const Project& project, const OwnTray& tray) {
    if (tray.name.empty()) return "A tray needs a name";
    for (const OwnTray& other : project.trays)
        if (other.id != tray.id && other.name == tray.name && other.folder == tidied(tray.folder))
            return other.folder.empty() ? say("There is a tray \"%1\" already", tray.name)
                                        : say("There is a tray \"%1\" already, in %2", tray.name, other.folder);
    return {};
}

Project put_tray(Project project, OwnTray tray) {
    tray.folder = tidied(tray.folder);
    assert(tray_trouble(project, tray).empty());
    if (tray.id == 0) tray.id = project.next_id++;
    for (OwnTray& old : project.trays)
        if (old.id == tray.id) {
            old = std::move(tray);
            return project;
        }
    project.trays.push_back(std::move(tray));
    return project;
}

Project remove_tray(Project project, OwnTrayId id) {
    std::erase_if(project.trays, [&](const OwnTray& t) { return t.id == id; });
    return project;
}

std::vector<TrayItem> tray_content(const Project& project, const OwnTray& tray) {
    std::vector<TrayItem> out;
    std::set<TrayItem> seen;
    const auto add = [&](const TrayItem& item) {
        if (seen.insert(item).second) out.push_back(item);
    };
    for (const TrayItem& item : tray.items)
        if (exists(project, item)) add(item);
    for (const SheetId id : tray.sheets)
        if (const Sheet* sheet = project.sheet(id))
            for (const Tile& t : sheet->tiles)
                if (!t.blank) add({Thing::tile, t.id});
    if (!tray.tags.empty())
        for (const auto& sheet : project.sheets)
            for (const Tile& t : sheet->tiles)
                if (!t.blank && shares(t.tags, tray.tags)) add({Thing::tile, t.id});
    return out;
}

std::vector<TrayItem> find_things(const Project& project, const std::function<bool(const std::string&)>& fits,
                                  std::size_t most) {
    std::vector<TrayItem> out;
    const auto add = [&](const std::string& text, const TrayItem& item) {
        if (out.size() < most && fits(text)) out.push_back(item);
    };
    for (const auto& m : project.materials) add(m->name, {Thing::material, m->id});
    for (const auto& k : project.prop_kinds) add(k->name, {Thing::prop, k->id});
    // What has a name or a tag of its own comes before the crowd of a sheet.
    for (const bool own : {true, false})
        for (const auto& sheet : project.sheets) {
            if (sheet->tiles.size() < 2) continue;
            for (const Tile& t : sheet->tiles) {
                if (t.blank || (!t.name.empty() || !t.tags.empty()) != own) continue;
                add(own ? t.name + " " + tags_text(t.tags) + " " + sheet->name : sheet->name, {Thing::tile, t.id});
            }
        }
    return out;
}

bool exists(const Project& project, const TrayItem& item) {
    switch (item.kind) {
        case Thing::material:
            return item.id < 256 && project.material(static_cast<MaterialId>(item.id)) != nullptr;
        case Thing::prop:
            return project.prop_kind(item.id) != nullptr;
        case Thing::tile:
            for (const auto& sheet : project.sheets)
                for (const Tile& t : sheet->tiles)
                    if (t.id == item.id) return true;
            return false;
    }
    return false;
}

Text name_of(const Project& project, const TrayItem& item) {
    if (item.kind == Thing::material)
        if (const Material* m = project.material(static_cast<MaterialId>(item.id))) return Text::verbatim(m->name);
    if (item.kind == Thing::prop)
        if (const PropKind* k = project.prop_kind(item.id)) return Text::verbatim(k->name);
    return item.kind == Thing::tile ? tile_name(project, item.id) : Text();
}

} // namespace vic::edit
