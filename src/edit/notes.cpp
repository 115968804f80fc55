#include "edit/notes.hpp"

#include <algorithm>

#include "edit/props.hpp"

namespace vic::edit {

using namespace level;

namespace {

bool has_note(const Prop& p, NoteId id) {
    const PropOwn& own = p.of_its_own();
    return own.notes.contains(id) || std::any_of(own.changes.begin(), own.changes.end(), [&](const auto& c) {
               return c.second.notes && c.second.notes->contains(id);
           });
}

bool has_note(const PropKind& k, NoteId id) {
    return k.notes.contains(id) ||
           std::any_of(k.parts.begin(), k.parts.end(), [&](const EnsemblePart& p) { return p.notes.contains(id); });
}

void remove_from_props(Project& project, NoteId id) {
    for (const auto& old : std::vector(project.prop_kinds)) {
        if (!has_note(*old, id)) continue;
        PropKind kind = *old;
        kind.notes.erase(id);
        for (EnsemblePart& p : kind.parts) p.notes.erase(id);
        project.put(std::move(kind));
    }
    change_props(
        project, [&](const Prop& p) { return has_note(p, id); },
        [&](Prop& p) {
            PropOwn own = p.of_its_own();
            own.notes.erase(id);
            for (auto& [part, change] : own.changes)
                if (change.notes) change.notes->erase(id);
            p.set_own(std::move(own));
        });
}

} // namespace

Text note_trouble(const Project& project, const NoteKind& kind) {
    if (kind.name.empty()) return "A note needs a name";
    for (const NoteKind& other : project.note_kinds)
        if (other.id != kind.id && other.name == kind.name) return say("There is a note \"%1\" already", kind.name);
    if (kind.type == NoteType::choice && kind.choices.empty()) return "There is nothing to choose from";
    return {};
}

Project add_note_kind(Project project, NoteKind kind) {
    kind.id = project.next_id++;
    project.note_kinds.push_back(std::move(kind));
    return project;
}

Project remove_note_kind(Project project, NoteId id) {
    std::erase_if(project.note_kinds, [&](const NoteKind& k) { return k.id == id; });
    for (std::size_t i = 0; i < project.sheets.size(); ++i) {
        const auto has = [&](const Tile& t) { return t.notes.contains(id); };
        const Sheet& old = *project.sheets[i];
        if (std::none_of(old.tiles.begin(), old.tiles.end(), has) &&
            std::none_of(old.retired.begin(), old.retired.end(), has))
            continue;
        Sheet sheet = old;
        for (auto* list : {&sheet.tiles, &sheet.retired})
            for (Tile& t : *list) t.notes.erase(id);
        project.put(std::move(sheet));
    }
    for (const auto& old : std::vector(project.levels)) {
        const auto of_it = [&](const LayerRef& l) { return l->facts() && l->facts()->note() == id; };
        const auto has = [&](const Mark& m) { return m.notes.contains(id); };
        if (std::none_of(old->layers.begin(), old->layers.end(), of_it) &&
            std::none_of(old->marks.begin(), old->marks.end(), has))
            continue;
        Level level = *old;
        for (const LayerRef& l : old->layers)
            if (of_it(l)) level.edit(l->id).content = Facts(level.size, 0);
        for (Mark& m : level.marks) m.notes.erase(id);
        project.put(std::move(level));
    }
    remove_from_props(project, id);
    return project;
}

int noted(const Project& project, NoteId id) {
    int n = 0;
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles) n += t.notes.contains(id);
    for (const auto& level : project.levels) {
        for (const Mark& m : level->marks) n += m.notes.contains(id);
        for (const LayerRef& l : level->layers)
            if (l->facts() && l->facts()->note() == id) n += static_cast<int>(l->facts()->cells().count());
        for (const LayerRef& l : level->layers)
            for (const Prop& p : l->props()) n += has_note(p, id);
    }
    for (const auto& kind : project.prop_kinds) n += has_note(*kind, id);
    return n;
}

std::vector<std::string> parse_tags(const std::string& text) {
    std::vector<std::string> out;
    std::size_t from = 0;
    while (from <= text.size()) {
        const std::size_t to = std::min(text.find(',', from), text.size());
        std::string tag = text.substr(from, to - from);
        tag.erase(0, std::min(tag.find_first_not_of(" \t"), tag.size()));
        tag.erase(tag.find_last_not_of(" \t") + 1);
        if (!tag.empty()) out.push_back(tag);
        from = to + 1;
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

std::string tags_text(const std::vector<std::string>& tags) {
    std::string out;
    for (const std::string& tag : tags) out += (out.empty() ? "" : ", ") + tag;
    return out;
}

} // namespace vic::edit
