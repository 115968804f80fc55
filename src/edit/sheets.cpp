#include "edit/sheets.hpp"

#include <algorithm>
#include <cassert>
#include <set>

#include "edit/replace.hpp"
#include "join/resolve.hpp"
#include "sheet/cut.hpp"
#include "sheet/isometric.hpp"

namespace vic::edit {

using namespace level;

Project add_sheet(Project project, const std::string& relative, Image image, const std::string& name, const Cut& cut,
                  bool accepted, SheetId& added) {
    Sheet sheet;
    sheet.id = project.next_id++;
    sheet.name = name;
    sheet.file = relative;
    sheet.image = std::make_shared<const Image>(std::move(image));
    sheet = sheet::recut(sheet, cut, project.next_tile);
    sheet.accepted = accepted;
    added = sheet.id;
    project.put(std::move(sheet));
    return project;
}

Project recut_sheet(Project project, SheetId id, const Cut& cut, bool accepted) {
    const Sheet* sheet = project.sheet(id);
    assert(sheet && sheet->image);
    Sheet changed = sheet->cut == cut && !sheet->tiles.empty() ? *sheet : sheet::recut(*sheet, cut, project.next_tile);
    changed.accepted = accepted;
    project.put(std::move(changed));
    return project;
}

Project change_tiles(Project project, const std::vector<TileId>& tiles, const std::function<void(Tile&)>& change) {
    const std::set<TileId> wanted(tiles.begin(), tiles.end());
    for (std::size_t i = 0; i < project.sheets.size(); ++i) {
        const auto old = project.sheets[i];
        const bool any =
            std::any_of(old->tiles.begin(), old->tiles.end(), [&](const Tile& t) { return wanted.contains(t.id); });
        if (!any) continue;
        Sheet sheet = *old;
        for (Tile& t : sheet.tiles)
            if (wanted.contains(t.id)) change(t);
        project.put(std::move(sheet));
    }
    return project;
}

MadeBlock make_block(Project project, SheetId id, const std::vector<TileId>& tiles) {
    MadeBlock out{std::move(project), 0, {}};
    const Sheet* sheet = out.project.sheet(id);
    assert(sheet && sheet->image);
    Box cells;
    for (const Tile& t : sheet->tiles)
        if (std::find(tiles.begin(), tiles.end(), t.id) != tiles.end())
            cells = united(cells, sheet::block_cells(sheet->cut, sheet->image->size(), t.box));
    if (cells.size().area() < 2) {
        out.trouble = "A block is made of at least two cells of the lattice";
        return out;
    }
    if (cells.w > kMostBlockCells || cells.h > kMostBlockCells) {
        out.trouble = say("A block is at most %1 × %1 cells large", kMostBlockCells);
        return out;
    }
    const Box box = sheet::block_box(sheet->cut, sheet->image->size(), cells);
    for (const Tile& t : sheet->tiles)
        if (t.is_block() && t.box == box) {
            out.trouble = "There is a block of these cells already";
            out.tile = t.id;
            return out;
        }
    Sheet changed = *sheet;
    const auto old = std::find_if(changed.retired.begin(), changed.retired.end(),
                                  [&](const Tile& t) { return t.is_block() && t.box == box; });
    if (old != changed.retired.end() && old->block.cells == cells.size()) {
        changed.tiles.push_back(*old);
        changed.retired.erase(old);
    } else {
        changed = sheet::add_block(changed, cells, out.project.next_tile);
    }
    out.tile = changed.tiles.back().id;
    out.project.put(std::move(changed));
    return out;
}

Project remove_block(Project project, TileId block) {
    for (std::size_t i = 0; i < project.sheets.size(); ++i) {
        const auto& tiles = project.sheets[i]->tiles;
        const auto at =
            std::find_if(tiles.begin(), tiles.end(), [&](const Tile& t) { return t.id == block && t.is_block(); });
        if (at == tiles.end()) continue;
        Sheet sheet = *project.sheets[i];
        sheet.retired.push_back(*at);
        sheet.tiles.erase(sheet.tiles.begin() + (at - tiles.begin()));
        project.put(std::move(sheet));
        break;
    }
    return project;
}

std::map<TileId, std::int64_t> tile_counts(const Level& level) {
    std::map<TileId, std::int64_t> out;
    for (const LayerRef& layer : level.layers)
        if (layer->tiles())
            each_cell(layer->grid(), layer->cells(), [&](Point, Cell cell, MaterialId) {
                if (cell.tile() != 0) ++out[cell.tile()];
            });
    return out;
}

std::vector<TileId> unused_tiles(const Project& project, const Sheet& sheet) {
    std::vector<char> used(project.next_tile, 0);
    const auto use = [&](TileId id) {
        if (id < used.size()) used[id] = 1;
    };
    for (const auto& level : project.levels)
        for (const LayerRef& layer : level->layers)
            if (layer->tiles())
                each_cell(layer->grid(), layer->cells(), [&](Point, Cell cell, MaterialId) { use(cell.tile()); });
    for (const auto& material : project.materials)
        for (const auto& [mask, variants] : material->joins.cases)
            for (const Variant& v : variants) use(v.tile);
    for (const auto& material : project.materials)
        for (const auto& [other, cases] : material->joins.pairs)
            for (const auto& [mask, variants] : cases)
                for (const Variant& v : variants) use(v.tile);
    for (const auto& derived : project.sheets) // what others are composed of is used, too
        for (const level::Composed& c : derived->composed)
            for (const level::Quarter& q : c) use(q.from);
    std::vector<TileId> out;
    for (const Tile& t : sheet.tiles)
        if (!t.blank && t.id < used.size() && !used[t.id]) out.push_back(t.id);
    return out;
}

std::vector<Image> tile_pictures(const Sheet& sheet) {
    std::vector<Image> pictures;
    const bool isometric = sheet::is_isometric(sheet);
    for (std::size_t i = 0; i < sheet::lattice_tiles(sheet); ++i)
        pictures.push_back(sheet.tiles[i].blank ? Image() : sheet::ground_art(sheet, sheet.tiles[i], isometric));
    return pictures;
}

Project add_material(Project project, const Sheet& sheet, JoinKind kind, const join::JoinReading& reading,
                     const std::string& name, MaterialId& added) {
    Material material;
    material.id = project.free_material();
    assert(material.id != 0);
    material.name = free_material_name(project, name);
    material.joins.kind = kind;
    material.joins.lively = 60;
    if (kind == JoinKind::plain) {
        for (const Tile& t : sheet.tiles)
            if (!t.blank && !t.is_block()) material.joins.cases[255].push_back({t.id, t.chance, {}});
    }
    added = material.id;
    project.put(material);
    return kind == JoinKind::plain ? project : read_into(std::move(project), material.id, sheet, reading);
}

level::Cases cases_of(const Sheet& sheet, const join::JoinReading& reading) {
    level::Cases out;
    for (const auto& t : reading.tiles) {
        const Tile& tile = sheet.tiles.at(static_cast<std::size_t>(t.index));
        out[t.mask].push_back({tile.id, tile.chance, {}});
    }
    return out;
}

Project read_into(Project project, MaterialId id, const Sheet& sheet, const join::JoinReading& reading, bool instead) {
    Material material = *project.material(id);
    if (instead) {
        std::set<TileId> own;
        for (const join::TileReading& t : reading.tiles)
            own.insert(sheet.tiles.at(static_cast<std::size_t>(t.index)).id);
        for (auto& [mask, variants] : material.joins.cases)
            std::erase_if(variants, [&](const Variant& v) { return v.turn == Turn{} && own.contains(v.tile); });
        std::erase_if(material.joins.cases, [](const auto& c) { return c.second.empty(); });
    }
    for (auto& [mask, variants] : cases_of(sheet, reading)) material.joins.cases[mask] = std::move(variants);
    project.put(std::move(material));
    return project;
}

Project set_case(Project project, MaterialId id, join::Mask mask, std::vector<Variant> variants) {
    Material material = *project.material(id);
    if (variants.empty())
        material.joins.cases.erase(mask);
    else
        material.joins.cases[mask] = std::move(variants);
    project.put(std::move(material));
    return project;
}

Project rejoin(Project project) {
    const join::Rules rules(project);
    for (std::size_t i = 0; i < project.levels.size(); ++i) {
        Level level = *project.levels[i];
        bool changed = false;
        for (const level::LayerRef& layer : project.levels[i]->layers) {
            if (!layer->tiles()) continue;
            Grid grid = layer->grid();
            join::resolve(rules, grid, layer->cells(), layer->id);
            if (grid == layer->grid()) continue;
            level.edit(layer->id).grid() = std::move(grid);
            changed = true;
        }
        if (changed) project.put(std::move(level));
    }
    return project;
}

LargePicture add_large_picture(Project project, SheetId id) {
    const Sheet* sheet = project.sheet(id);
    assert(sheet && sheet->image);
    const Box whole = box_of(sheet->image->size());
    for (const auto& kind : project.prop_kinds)
        if (kind->sheet == id && kind->box == whole && kind->piece > 0) return {project, kind->id};
    PropKind kind;
    kind.id = project.next_id++;
    kind.sheet = id;
    kind.box = whole;
    kind.piece = 512;
    kind.name = sheet->name;
    for (int n = 2; !name_taken_by_prop(project, kind.name, kind.id).empty(); ++n)
        kind.name = sheet->name + " " + std::to_string(n);
    const PropKindId made = kind.id;
    project.put(std::move(kind));
    return {std::move(project), made};
}

PropKind propose_prop(const Sheet& sheet, const Box& box, PropKindId id, const std::string& name) {
    PropKind kind;
    kind.id = id;
    kind.name = name;
    kind.sheet = sheet.id;
    kind.box = box;
    int left = box.w;
    int right = -1;
    int lowest = box.h - 1;
    if (sheet.image) {
        const Image art = cropped(*sheet.image, box);
        for (int y = box.h - 1; y >= 0 && right < 0; --y)
            for (int x = 0; x < box.w; ++x)
                if (art.at(x, y).a >= 128) {
                    left = std::min(left, x);
                    right = std::max(right, x);
                    lowest = y;
                }
        // The foot is as wide as the widest of the lowest fifth, so that a rounded base counts whole.
        for (int y = std::max(0, lowest - box.h / 5); y <= lowest; ++y)
            for (int x = 0; x < box.w; ++x)
                if (art.at(x, y).a >= 128) {
                    left = std::min(left, x);
                    right = std::max(right, x);
                }
    }
    if (right < left) left = 0, right = box.w - 1;
    const int depth = std::clamp((right - left + 1) / 2, 1, std::max(1, box.h / 2));
    kind.pivot = {(left + right + 1) / 2, lowest};
    kind.foot = {left, std::max(0, lowest + 1 - depth), right - left + 1, depth};
    return kind;
}

std::string free_material_name(const Project& project, const std::string& wanted) {
    const auto taken = [&](const std::string& name) {
        return std::any_of(project.materials.begin(), project.materials.end(),
                           [&](const auto& m) { return m->name == name; });
    };
    std::string name = wanted;
    for (int n = 2; taken(name); ++n) name = wanted + " " + std::to_string(n);
    return name;
}

} // namespace vic::edit
