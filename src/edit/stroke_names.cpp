// What lies in cells, in words.
#include <set>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "base/match.hpp"
#include "edit/stroke.hpp"
#include "level/block.hpp"
#include "level/facts.hpp"
#include "level/project.hpp"

namespace vic::edit {

using namespace level;

Text tile_name(const Project& project, TileId tile) {
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles)
            if (t.id == tile && !t.name.empty()) return Text::verbatim(t.name);
    return say("tile %1", tile);
}

Text fact_name(const Project& project, NoteId note, int value) {
    const NoteKind* kind = project.note_kind(note);
    if (!kind) return say("%1", value);
    const auto v = fact_value(*kind, value);
    if (!v) return say("%1: %2, which is no choice", kind->name, value);
    return match(
        *v, [&](const std::string& word) { return say("%1: %2", kind->name, word); },
        [&](double) { return say("%1: %2", kind->name, value); },
        [&](bool yes) { return yes ? say("%1: yes", kind->name) : say("%1: no", kind->name); },
        [&](const Rgba&) { return Text::verbatim(kind->name); });
}

Text name_at(const Project& project, const Layer& layer, Point cell) {
    const auto names = names_in(project, layer, std::span(&cell, 1));
    return names.empty() ? Text() : names.front();
}

std::vector<Text> names_in(const Project& project, const Layer& layer, std::span<const Point> cells) {
    const bool blocks = !reach_of(project).none() && layer.cells_are() == CellsAre::tiles;
    const TileTable tiles = blocks ? TileTable(project) : TileTable();
    std::set<std::pair<MaterialId, TileId>> known; // a material, or a tile that goes by none
    std::vector<Text> names;
    for (const Point p : cells) {
        const Cell c = layer.grid().cell(p);
        const Material* m = c.pinned() ? nullptr : project.material(layer.grid().material(p));
        std::pair<MaterialId, TileId> what{m ? m->id : MaterialId{0}, m ? TileId{0} : c.tile()};
        if (blocks)
            if (const LaidBlock over = block_at(tiles, layer.grid(), p); over.tile) what = {0, over.tile->id};
        if (what == std::pair<MaterialId, TileId>{} || !known.insert(what).second) continue;
        if (layer.blockers()) return {Text("a blocker")};
        if (const Facts* facts = layer.facts()) {
            names.push_back(fact_name(project, facts->note(), *facts->value(p)));
            continue;
        }
        names.push_back(what.first != 0 ? Text::verbatim(project.material(what.first)->name)
                                        : tile_name(project, what.second));
    }
    return names;
}

} // namespace vic::edit
