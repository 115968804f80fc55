#include "edit/classes.hpp"

#include <algorithm>
#include <set>
#include <utility>

#include "edit/sheets.hpp"
#include "level/limits.hpp"

namespace vic::edit {

using namespace level;

namespace {

// visit(name) for the class of each part of a thing that can name one.
template <class Visit>
void each_class(const Project& project, const TileTable& tiles, const Level& level, const Used& thing,
                const Visit& visit) {
    if (thing.kind == UsedKind::blockers) {
        if (const Layer* layer = level.layer(thing.id)) visit(layer->collision_class);
        return;
    }
    if (thing.kind == UsedKind::prop) {
        const PropKind* kind = project.prop_kind(thing.id);
        if (kind && !kind->is_ensemble()) visit(kind->collision_class);
        return;
    }
    for (const TileId id : tiles_of(project, thing))
        if (const Tile* tile = tiles.find(id).tile; tile && !tile->blank) visit(tile->collision_class);
}

// No letter is cut in two.
std::string shortened(const std::string& name) {
    std::size_t letters = 0, at = 0;
    for (; at < name.size(); ++at)
        if ((static_cast<unsigned char>(name[at]) & 0xC0U) != 0x80U && ++letters > std::size_t{kMostClassLetters})
            break;
    return name.substr(0, at);
}

} // namespace

std::optional<std::string> class_of(const Project& project, const Level& level, const std::vector<Used>& things) {
    const TileTable tiles(project);
    std::set<std::string> names;
    for (const Used& thing : things)
        each_class(project, tiles, level, thing, [&](const std::string& name) { names.insert(name); });
    return names.size() == 1 ? std::optional(*names.begin()) : std::nullopt;
}

Project with_class(Project project, const std::string& level, const std::vector<Used>& things,
                   const std::string& name) {
    const std::string own = shortened(name);
    std::vector<TileId> tiles;
    for (const Used& thing : things) {
        const auto mine = tiles_of(project, thing);
        tiles.insert(tiles.end(), mine.begin(), mine.end());
        const PropKind* kind = thing.kind == UsedKind::prop ? project.prop_kind(thing.id) : nullptr;
        if (kind && !kind->is_ensemble() && kind->collision_class != own) {
            PropKind changed = *kind;
            changed.collision_class = own;
            project.put(std::move(changed));
        }
        const Level* here = thing.kind == UsedKind::blockers ? project.level(level) : nullptr;
        if (!here || !here->layer(thing.id)) continue;
        Level next = *here;
        next.edit(thing.id).collision_class = own;
        project.put(std::move(next));
    }
    if (tiles.empty()) return project;
    return change_tiles(std::move(project), tiles, [&](Tile& t) { t.collision_class = t.blank ? std::string() : own; });
}

std::vector<std::string> classes_of(const Project& project) {
    std::set<std::string> out;
    for (const auto& sheet : project.sheets)
        for (const Tile& tile : sheet->tiles) out.insert(tile.collision_class);
    for (const auto& kind : project.prop_kinds) out.insert(kind->collision_class);
    for (const auto& level : project.levels)
        for (const LayerRef& layer : level->layers) {
            out.insert(layer->collision_class);
            if (const Blockers* blockers = layer->blockers())
                for (const FreeBlocker& free : blockers->free()) out.insert(free.collision_class);
        }
    for (const Mover& mover : project.movers) out.insert(mover.passes.begin(), mover.passes.end());
    out.erase("");
    return {out.begin(), out.end()};
}

} // namespace vic::edit
