#include "edit/props.hpp"

#include <algorithm>
#include <cassert>
#include <functional>

#include "base/chance.hpp"
#include "edit/kits.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "level/block.hpp"
#include "level/standing.hpp"
#include "outline/from_art.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr double kDeviation = 1; // pixels that a shape may be off its art

// Calls change(level, prop) for a copy of every placed prop of the wanted kinds; props for which it gives false are
// removed. What it adds to `more` is placed in front of the prop.
void each_placed(Project& project, const std::function<bool(PropKindId)>& wanted,
                 const std::function<bool(Prop&, std::vector<Prop>& more)>& change) {
    for (std::size_t i = 0; i < project.levels.size(); ++i) {
        Level level = *project.levels[i];
        bool touched = false;
        for (const LayerRef& layer : project.levels[i]->layers) {
            if (std::none_of(layer->props().begin(), layer->props().end(),
                             [&](const Prop& p) { return wanted(p.kind); }))
                continue;
            std::vector<Prop> props;
            for (Prop p : layer->props()) {
                if (!wanted(p.kind)) {
                    props.push_back(p);
                    continue;
                }
                std::vector<Prop> more;
                if (change(p, more)) props.push_back(p);
                props.insert(props.end(), more.begin(), more.end());
            }
            level.edit(layer->id).props() = Props(props);
            touched = true;
        }
        if (touched) project.put(std::move(level));
    }
}

Point pivot_on_sheet(const PropKind& k) { return k.box.corner() + k.pivot; }

void shift(Prop& prop, const PropKind& from, const PropKind& to) {
    const Point by = pivot_on_sheet(to) - pivot_on_sheet(from);
    prop.at = level::part_place(prop.at, prop.look, {by.x * to.factor, by.y * to.factor});
}

} // namespace

void change_props(Project& project, const std::function<bool(const Prop&)>& wanted,
                  const std::function<void(Prop&)>& change) {
    for (const auto& old : std::vector(project.levels)) {
        Level level = *old;
        bool touched = false;
        for (const LayerRef& layer : old->layers) {
            std::vector<Prop> changed;
            for (const Prop& p : layer->props())
                if (wanted(p)) changed.push_back(p);
            if (changed.empty()) continue;
            Props& props = level.edit(layer->id).props();
            for (Prop& p : changed) {
                change(p);
                props.put(p);
            }
            touched = true;
        }
        if (touched) project.put(std::move(level));
    }
}

bool is_taken(const Project& project, SheetId sheet, const Box& box) {
    return std::any_of(project.prop_kinds.begin(), project.prop_kinds.end(), [&](const auto& k) {
        return k->sheet == sheet && 2 * intersection(k->box, box).size().area() > box.size().area();
    });
}

TakenIslands take_islands(Project project, SheetId sheet_id, const std::vector<Box>& boxes, const std::string& stem) {
    const Sheet* sheet = project.sheet(sheet_id);
    assert(sheet && sheet->image);
    TakenIslands out;
    int number = 1;
    for (const Box& box : boxes) {
        if (is_taken(project, sheet_id, box)) continue;
        const auto name = [&] { return stem + " " + std::to_string(number); };
        while (std::any_of(project.prop_kinds.begin(), project.prop_kinds.end(),
                           [&](const auto& k) { return k->name == name(); }))
            ++number;
        PropKind kind = propose_prop(*sheet, box, project.next_id++, name());
        out.added.push_back(kind.id);
        project.put(std::move(kind));
    }
    out.project = std::move(project);
    return out;
}

namespace {

// What is seen of a tile, in pixels within its box; all of it where nothing is, or where there is no picture.
Box seen_of(const Sheet& sheet, const Tile& tile) {
    Box out;
    for (int y = 0; sheet.image && y < tile.box.h; ++y)
        for (int x = 0; x < tile.box.w; ++x)
            if (box_of(sheet.image->size()).contains(tile.box.corner() + Point{x, y}) &&
                sheet.image->at(tile.box.x + x, tile.box.y + y).a != 0)
                out = united(out, {x, y, 1, 1});
    return out.empty() ? box_of(tile.box.size()) : out;
}

// Of a piece of a kit, seen from above: it is turned about its middle, and stands on all that is seen of it.
void stand_piece(const Sheet& sheet, const Tile& tile, PropKind& out) {
    out.body = tile.id;
    out.foot = seen_of(sheet, tile);
    out.pivot = {tile.box.w / 2, tile.box.h / 2};
    out.blocks = tile.shape != TileShape::none;
    out.flat = !out.blocks;
}

} // namespace

PropKind prop_of_tile(const Sheet& sheet, const Tile& tile, PropKindId id, const std::string& name) {
    PropKind out;
    out.id = id;
    out.name = name;
    out.sheet = sheet.id;
    out.box = tile.box;
    out.tags = tile.tags;
    out.notes = tile.notes;
    if (piece_of(sheet, tile.id)) {
        stand_piece(sheet, tile, out);
        return out;
    }
    const Size cell{tile.box.w / tile.block.cells.w, tile.box.h / tile.block.cells.h};
    const int deep = tile.is_block() ? foot_under(tile, {}, {}).h * cell.h : cell.h;
    out.foot = {0, tile.box.h - deep, tile.box.w, deep};
    out.pivot = {tile.box.w / 2, tile.box.h - 1};
    out.flat = tile.rise == 0 && !tile.is_block() && tile.shape == TileShape::none;
    out.height = out.flat ? 0 : tile.box.h;
    out.blocks = tile.shape != TileShape::none;
    if (!out.blocks) return out;
    out.shape = tile.shape;
    for (Polygon polygon : tile.polygons) { // in 1/16 of what it is stretched over
        for (Point& c : polygon)
            c = {out.foot.x + c.x * out.foot.w / kShapeSide, out.foot.y + c.y * out.foot.h / kShapeSide};
        out.polygons.push_back(std::move(polygon));
    }
    if (out.shape == TileShape::drawn &&
        !outline_trouble(out.polygons, out.box.size()).empty()) { // so small that corners fall together
        out.shape = TileShape::full;
        out.polygons.clear();
    }
    return out;
}

TakenIslands props_of_tiles(Project project, SheetId sheet_id, const std::vector<TileId>& tiles) {
    TakenIslands out;
    const Sheet sheet = *project.sheet(sheet_id);
    int number = 0;
    for (const Tile& tile : sheet.tiles) {
        ++number;
        if (tile.blank || std::find(tiles.begin(), tiles.end(), tile.id) == tiles.end()) continue;
        if (is_taken(project, sheet_id, tile.box)) continue;
        if (const KitPiece* piece = piece_of(sheet, tile.id); piece && piece->turn != 0)
            continue; // props turn themselves
        const std::string name = tile.name.empty() ? sheet.name + " " + std::to_string(number) : tile.name;
        PropKind kind = prop_of_tile(sheet, tile, project.next_id++, name);
        out.added.push_back(kind.id);
        project.put(std::move(kind));
    }
    out.project = std::move(project);
    return out;
}

namespace {

// Whether props of the kind stand in a level, or are to be planted.
bool in_use(const Project& project, PropKindId kind) {
    if (placed(project, kind) > 0) return true;
    for (const auto& level : project.levels)
        for (const LayerRef& layer : level->layers)
            if (const auto* planted = std::get_if<PlantedProps>(&layer->content))
                for (const Pass& pass : planted->recipe.passes)
                    for (const PlantKind& k : pass.kinds)
                        if (k.kind == kind) return true;
    return false;
}

PutFolder as_tiles(Project project, SheetId id) {
    PutFolder out;
    const int side = project.sheet(id)->parts.front().box.w;
    const std::size_t before = project.sheet(id)->tiles.size();
    project = recut_sheet(std::move(project), id, {{side, side}, {}, {}, 1}, true);
    Sheet sheet = *project.sheet(id);
    for (Tile& tile : sheet.tiles)
        for (const Part& part : sheet.parts)
            if (tile.name.empty() && part.box == tile.box) tile.name = part.name;
    out.fresh = static_cast<int>(sheet.tiles.size()) - (before > 1 ? static_cast<int>(before) : 0);
    project.put(std::move(sheet));
    std::vector<PropKindId> gone;
    for (const auto& kind : project.prop_kinds)
        if (kind->sheet == id && !in_use(project, kind->id)) gone.push_back(kind->id);
    out.project = remove_kinds(std::move(project), gone);
    out.sheet = id;
    return out;
}

} // namespace

FolderAs folder_is(const Sheet& sheet) {
    return sheet.image && sheet.cut.tile != sheet.image->size() ? FolderAs::tiles : FolderAs::props;
}

PutFolder folder_as(Project project, SheetId id, FolderAs as) {
    const Sheet sheet = *project.sheet(id);
    assert(sheet.image && !sheet.parts.empty());
    if (as == FolderAs::tiles) return as_tiles(std::move(project), id);
    project = recut_sheet(std::move(project), id, {sheet.image->size(), {}, {}, 1}, true);
    return put_folder(std::move(project), id, sheet.name, sheet.file, sheet.image, sheet.parts, as);
}

PutFolder put_folder(Project project, SheetId id, const std::string& name, const std::string& file,
                     std::shared_ptr<const Image> image, const std::vector<Part>& parts, FolderAs as) {
    PutFolder out;
    const std::vector<Part> before = id ? project.sheet(id)->parts : std::vector<Part>();
    const std::string free = free_sheet_name(project, name);
    if (id)
        project = replace_image(std::move(project), id, image, file);
    else
        project = add_sheet(std::move(project), file, *image, free, {image->size(), {}, {}, 1}, true, id);
    Sheet sheet = *project.sheet(id);
    sheet.image = std::move(image);
    sheet.parts = parts;
    project.put(std::move(sheet));
    if (as == FolderAs::tiles) return as_tiles(std::move(project), id);
    for (const Part& part : parts) {
        const auto old = std::find_if(before.begin(), before.end(), [&](const Part& b) { return b.name == part.name; });
        const PropKind* kind = nullptr;
        for (const auto& k : project.prop_kinds)
            if (old != before.end() && k->sheet == id && k->box == old->box) kind = k.get();
        if (kind && kind->box == part.box) continue;
        PropKind made = propose_prop(*project.sheet(id), part.box, kind ? kind->id : project.next_id++, part.name);
        if (kind) {
            made.name = kind->name;
            made.blocks = kind->blocks;
        } else {
            for (int n = 2; !name_taken_by_prop(project, made.name, 0).empty(); ++n)
                made.name = part.name + " " + std::to_string(n);
            ++out.fresh;
        }
        project.put(std::move(made));
    }
    out.project = std::move(project);
    out.sheet = id;
    return out;
}

Project change_kind(Project project, PropKind changed) {
    const PropKind* found = project.prop_kind(changed.id);
    assert(found);
    const PropKind old = *found;
    if (pivot_on_sheet(old) != pivot_on_sheet(changed))
        each_placed(
            project, [&](PropKindId id) { return id == old.id; },
            [&](Prop& p, std::vector<Prop>&) {
                shift(p, old, changed);
                return true;
            });
    project.put(std::move(changed));
    level::fit_ensembles(project);
    return project;
}

Project merge_kinds(Project project, const std::vector<PropKindId>& kinds) {
    assert(!kinds.empty());
    const PropKind first = *project.prop_kind(kinds.front());
    Box box;
    std::vector<PropKind> old;
    for (const PropKindId id : kinds) {
        old.push_back(*project.prop_kind(id));
        box = united(box, old.back().box);
    }
    PropKind merged = propose_prop(*project.sheet(first.sheet), box, first.id, first.name);
    merged.blocks = std::any_of(old.begin(), old.end(), [](const PropKind& k) { return k.blocks; });
    each_placed(
        project, [&](PropKindId id) { return std::find(kinds.begin(), kinds.end(), id) != kinds.end(); },
        [&](Prop& p, std::vector<Prop>&) {
            shift(p, *std::find_if(old.begin(), old.end(), [&](const PropKind& k) { return k.id == p.kind; }), merged);
            p.kind = merged.id;
            return true;
        });
    for (const auto& old_level : std::vector(project.levels)) {
        Level level = *old_level;
        for (Mark& m : level.marks)
            if (std::find(kinds.begin(), kinds.end(), m.figure) != kinds.end()) m.figure = merged.id;
        if (level.marks != old_level->marks) project.put(std::move(level));
    }
    project.put(merged);
    std::erase_if(project.prop_kinds, [&](const auto& k) {
        return k->id != merged.id && std::find(kinds.begin(), kinds.end(), k->id) != kinds.end();
    });
    level::fit_ensembles(project);
    return project;
}

Project split_kind(Project project, PropKindId id, const std::vector<Box>& parts) {
    if (parts.size() < 2) return project;
    const PropKind old = *project.prop_kind(id);
    const Sheet sheet = *project.sheet(old.sheet);
    std::vector<PropKind> made;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const std::string name = i == 0 ? old.name : old.name + " " + std::to_string(i + 1);
        made.push_back(propose_prop(sheet, parts[i], i == 0 ? id : project.next_id++, name));
        made.back().blocks = old.blocks;
    }
    std::uint32_t next = project.next_id;
    each_placed(
        project, [&](PropKindId k) { return k == id; },
        [&](Prop& p, std::vector<Prop>& more) {
            const Prop whole = p;
            shift(p, old, made.front());
            for (std::size_t i = 1; i < made.size(); ++i) {
                Prop part = whole;
                part.id = next++;
                part.kind = made[i].id;
                shift(part, old, made[i]);
                more.push_back(part);
            }
            return true;
        });
    project.next_id = next;
    for (PropKind& k : made) project.put(std::move(k));
    level::fit_ensembles(project);
    return project;
}

int placed(const Project& project, PropKindId kind) {
    int n = 0;
    for (const auto& level : project.levels)
        for (const LayerRef& layer : level->layers)
            n += static_cast<int>(std::count_if(layer->props().begin(), layer->props().end(),
                                                [&](const Prop& p) { return p.kind == kind; }));
    return n;
}

Project remove_kinds(Project project, const std::vector<PropKindId>& kinds) {
    const auto gone = [&](PropKindId id) { return std::find(kinds.begin(), kinds.end(), id) != kinds.end(); };
    std::erase_if(project.prop_kinds, [&](const auto& k) { return gone(k->id); });
    level::fit_ensembles(project); // which may go with their last part
    each_placed(
        project, [&](PropKindId id) { return project.prop_kind(id) == nullptr; },
        [](Prop&, std::vector<Prop>&) { return false; });
    for (const auto& old : std::vector(project.levels)) {
        if (std::none_of(old->marks.begin(), old->marks.end(), [&](const Mark& m) { return gone(m.figure); })) continue;
        Level level = *old;
        for (Mark& m : level.marks)
            if (gone(m.figure)) m.figure = 0;
        project.put(std::move(level));
    }
    // Kinds and copies that spoke of them do so no more.
    for (const auto& old : std::vector(project.prop_kinds))
        if (gone(old->variant_of)) {
            PropKind kind = *old;
            kind.variant_of = 0;
            project.put(std::move(kind));
        }
    const auto spoke_of = [&](const Prop& p) {
        const auto& changes = p.of_its_own().changes;
        return std::any_of(changes.begin(), changes.end(),
                           [&](const auto& c) { return c.second.kind && gone(*c.second.kind); });
    };
    change_props(project, spoke_of, [&](Prop& p) {
        PropOwn own = p.of_its_own();
        for (auto& [part, change] : own.changes)
            if (change.kind && gone(*change.kind)) change.kind.reset();
        std::erase_if(own.changes, [](const auto& c) { return c.second == PartChange{}; });
        p.set_own(std::move(own));
    });
    return project;
}

Polygons shape_in_foot(const Project& project, const PropKind& kind) {
    const Sheet* sheet = project.sheet(kind.sheet);
    if (!sheet || !sheet->image || kind.foot.empty()) return {};
    const Box foot = intersection(kind.foot, box_of(kind.box.size()));
    if (foot.empty()) return {};
    const outline::ArtShape shape =
        outline::shape_from_art(cropped(*sheet->image, foot.moved(kind.box.corner())), kDeviation);
    Polygons out;
    for (const Polygon& from : shape.polygons) {
        Polygon to;
        for (const Point c : from) {
            const Point p{foot.x + (c.x * foot.w + kShapeSide / 2) / kShapeSide,
                          foot.y + (c.y * foot.h + kShapeSide / 2) / kShapeSide};
            if (to.empty() || to.back() != p) to.push_back(p);
        }
        if (to.size() > 1 && to.front() == to.back()) to.pop_back();
        if (to.size() >= 3 && area2(to) > 0) out.push_back(std::move(to));
    }
    return outline_trouble(out, kind.box.size()).empty() ? out : Polygons();
}

std::vector<PropKindId> variants_of(const Project& project, PropKindId id) {
    const PropKind* kind = project.prop_kind(id);
    const PropKindId head = kind && kind->variant_of != 0 ? kind->variant_of : id;
    std::vector<PropKindId> out{head};
    for (const auto& k : project.prop_kinds)
        if (k->variant_of == head && k->id != head) out.push_back(k->id);
    return out;
}

PropKindId variant_at(const Project& project, PropKindId id, Point at) {
    const PropKind* kind = project.prop_kind(id);
    if (!kind || kind->variant_of != 0) return id; // one variant was asked for
    const std::vector<PropKindId> all = variants_of(project, id);
    int sum = 0;
    for (const PropKindId k : all) sum += project.prop_kind(k)->chance;
    if (all.size() < 2 || sum == 0) return id;
    std::uint64_t cast =
        mix(mix(std::uint64_t{id}) ^ (static_cast<std::uint64_t>(static_cast<std::uint32_t>(at.x)) << 32) ^
            static_cast<std::uint32_t>(at.y)) %
        static_cast<std::uint64_t>(sum);
    for (const PropKindId k : all) {
        const auto chance = static_cast<std::uint64_t>(project.prop_kind(k)->chance);
        if (cast < chance) return k;
        cast -= chance;
    }
    return id;
}

Point pivot_preset(Size box, int column, int row) {
    const auto place = [](int length, int at) { return at == 0 ? 0 : at == 1 ? length / 2 : length - 1; };
    return {place(box.w, column), place(box.h, row)};
}

} // namespace vic::edit
