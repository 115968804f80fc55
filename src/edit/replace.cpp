#include "edit/replace.hpp"

#include <algorithm>
#include <cassert>
#include <map>
#include <set>

#include "sheet/cut.hpp"

namespace vic::edit {

using namespace level;

Project replace_image(Project project, SheetId id, std::shared_ptr<const Image> image, const std::string& file) {
    const Sheet* found = project.sheet(id);
    assert(found && image && !image->empty());
    Sheet sheet = *found;
    const Size size = image->size();
    const bool one = sheet.tiles.size() == 1 && sheet.tiles.front().box.corner() == Point{} &&
                     sheet.tiles.front().box.size() == sheet.cut.tile && sheet.cut.margin == Point{} &&
                     (!sheet.image || sheet.cut.tile == sheet.image->size());
    sheet.image = std::move(image);
    sheet.file = file;
    sheet.trouble = {};
    if (one) {
        sheet.cut.tile = size;
        sheet.cut.scale = 1;
        sheet.tiles.front().box = box_of(size);
    }
    const Cut cut = sheet::cut_trouble(sheet.cut, size) ? Cut{size, {}, {}, 1} : sheet.cut;
    project.put(sheet::recut(sheet, cut, project.next_tile));
    return project;
}

Losses losses(const Project& before, const Project& after) {
    Losses out;
    const TileTable old_tiles(before);
    const TileTable new_tiles(after);
    std::set<TileId> lost;
    for (const auto& sheet : before.sheets)
        for (const Tile& t : sheet->tiles)
            if (!new_tiles.find(t.id).tile) lost.insert(t.id);
    std::set<TileId> used;
    if (!lost.empty()) {
        std::vector<char> gone(before.next_tile, 0);
        for (const TileId id : lost) gone[id] = 1;
        for (const auto& level : before.levels)
            for (const LayerRef& layer : level->layers) {
                if (!layer->tiles()) continue;
                each_cell(layer->grid(), layer->cells(), [&](Point, Cell cell, MaterialId) {
                    if (cell.tile() >= gone.size() || !gone[cell.tile()]) return;
                    ++out.cells;
                    used.insert(cell.tile());
                });
            }
        for (const auto& material : before.materials)
            for (const auto& [mask, variants] : material->joins.cases) {
                bool hit = false;
                for (const Variant& v : variants)
                    if (lost.contains(v.tile)) {
                        hit = true;
                        used.insert(v.tile);
                    }
                out.cases += hit;
            }
    }
    out.tiles = static_cast<int>(used.size());
    if (!used.empty()) out.first = *used.begin();
    std::set<PropKindId> kinds;
    for (const auto& kind : before.prop_kinds) {
        const Sheet* was = before.sheet(kind->sheet);
        const Sheet* now = after.sheet(kind->sheet);
        const bool had = was && was->image && box_of(was->image->size()).contains(kind->box);
        const bool has = now && now->image && box_of(now->image->size()).contains(kind->box);
        if (had && !has) kinds.insert(kind->id);
    }
    out.kinds = static_cast<int>(kinds.size());
    for (const auto& level : before.levels)
        for (const LayerRef& layer : level->layers)
            for (const Prop& p : layer->props()) out.placed += kinds.contains(p.kind);
    return out;
}

Text Losses::text() const {
    std::vector<Text> parts;
    if (tiles > 0)
        parts.push_back(say("%1 with %2 and %3", say_count(tiles, "one tile in use", "%n tiles in use"),
                            say_count(cells, "one cell", "%n cells"), say_count(cases, "one case", "%n cases")));
    if (kinds > 0)
        parts.push_back(
            say("%1 standing %2", say_count(kinds, "one prop", "%n props"), say_count(placed, "once", "%n times")));
    return parts.empty() ? Text() : say("This would lose %1", listed(parts));
}

namespace {

template <class List, class Id>
Text taken_in(const List& all, const std::string& name, Id self, const Text& where) {
    for (const auto& one : all)
        if (one->id != self && one->name == name) return where;
    return {};
}

} // namespace

std::string free_sheet_name(const Project& project, const std::string& wanted) {
    std::string name = wanted;
    for (int n = 2; !name_taken_by_sheet(project, name, 0).empty(); ++n) name = wanted + " " + std::to_string(n);
    return name;
}

Text name_taken_by_sheet(const Project& project, const std::string& name, SheetId self) {
    return taken_in(project.sheets, name, self, say("There is a sheet \"%1\" already, in the list of sheets", name));
}

Text name_taken_by_material(const Project& project, const std::string& name, MaterialId self) {
    return taken_in(project.materials, name, self, say("There is a material \"%1\" already, in Join", name));
}

Text name_taken_by_prop(const Project& project, const std::string& name, PropKindId self) {
    for (const auto& kind : project.prop_kinds)
        if (kind->id != self && kind->name == name) {
            const Sheet* sheet = project.sheet(kind->sheet);
            return say("There is a prop \"%1\" already, on the sheet \"%2\"", name, sheet ? sheet->name : "?");
        }
    return {};
}

Text name_taken_by_tile(const Project& project, const std::string& name, TileId self) {
    for (const auto& sheet : project.sheets)
        for (std::size_t i = 0; i < sheet->tiles.size(); ++i)
            if (sheet->tiles[i].id != self && sheet->tiles[i].name == name)
                return say("There is a tile \"%1\" already: number %2 on the sheet \"%3\"", name, i, sheet->name);
    return {};
}

} // namespace vic::edit
