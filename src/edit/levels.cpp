#include "edit/levels.hpp"

#include <algorithm>
#include <cassert>
#include <map>
#include <memory>
#include <tuple>
#include <utility>

#include "level/material.hpp"
#include "level/standing.hpp"

namespace vic::edit {

using namespace level;

Level add_layer(Level level, LayerId id, const std::string& name, LayerKind kind, LayerId behind) {
    Layer layer;
    layer.id = id;
    layer.name = name;
    layer.content = level::empty_content(kind, level.size);
    layer.by_feet = layer.has_props() && level.view == View::from_above; // as those that new levels have
    const int index = level.index_of(behind) + 1;
    level.layers.insert(level.layers.begin() + index, std::make_shared<const Layer>(std::move(layer)));
    if (behind == 0 || index <= level.plane) ++level.plane;
    return level;
}

Level remove_layer(Level level, LayerId id) {
    const int index = level.index_of(id);
    if (index < 0) return level;
    level.layers.erase(level.layers.begin() + index);
    if (index < level.plane) --level.plane;
    return level;
}

std::vector<SectionEntry> section_order(const Level& level) {
    std::vector<SectionEntry> entries;
    for (const level::LayerRef& layer : level.layers) entries.push_back({layer->id});
    entries.insert(entries.begin() + level.plane, SectionEntry{});
    return entries;
}

Level move_entry(Level level, int from, int to) {
    auto entries = section_order(level);
    const int last = static_cast<int>(entries.size()) - 1;
    assert(from >= 0 && from <= last);
    to = std::clamp(to, 0, last);
    const SectionEntry moved = entries[static_cast<std::size_t>(from)];
    entries.erase(entries.begin() + from);
    entries.insert(entries.begin() + to, moved);
    std::vector<std::shared_ptr<const Layer>> layers;
    for (const SectionEntry e : entries) {
        if (e.layer == 0)
            level.plane = static_cast<int>(layers.size());
        else
            layers.push_back(level.layers[static_cast<std::size_t>(level.index_of(e.layer))]);
    }
    level.layers = std::move(layers);
    return level;
}

Level add_prop(Level level, LayerId layer, const Prop& prop) {
    level.edit(layer).props().put(prop);
    return level;
}

Level move_prop(Level level, PropId id, Point at) {
    for (const level::LayerRef& layer : level.layers) {
        const Prop* prop = layer->props().find(id);
        if (!prop) continue;
        Prop moved = *prop;
        moved.at = at;
        level.edit(layer->id).props().put(moved);
        break;
    }
    return level;
}

Level remove_prop(Level level, PropId id) {
    for (const level::LayerRef& layer : level.layers) {
        if (!layer->props().find(id)) continue;
        level.edit(layer->id).props().remove(id);
        break;
    }
    return level;
}

const Prop* find_prop(const Level& level, PropId id) {
    for (const level::LayerRef& layer : level.layers)
        if (const Prop* prop = layer->props().find(id)) return prop;
    return nullptr;
}

namespace {

bool is_seen_at(const Project& project, const level::Piece& piece, Point pixel) {
    const Sheet* sheet = project.sheet(piece.kind->sheet);
    if (!sheet || !sheet->image) return false;
    const Point drawn = piece.placing().seen_in(pixel);
    if (!box_of(piece.kind->drawn()).contains(drawn)) return false;
    const Point art{piece.kind->box.x + drawn.x / piece.kind->factor, piece.kind->box.y + drawn.y / piece.kind->factor};
    return box_of(sheet->image->size()).contains(art) && sheet->image->at(art.x, art.y).a >= 16;
}

} // namespace

std::optional<PropHit> prop_at(const Project& project, const Level& level, Point pixel) {
    const level::PropKinds kinds(project);
    for (auto at = level.layers.rbegin(); at != level.layers.rend(); ++at) {
        const Layer& layer = **at;
        if (!layer.shown || layer.locked || layer.props().empty()) continue;
        PropHit best{layer.id, {}};
        level::Piece front;
        layer.props().each_in(Box{pixel.x, pixel.y, 1, 1}.grown(kinds.reach(layer.props())), [&](const Prop& prop) {
            kinds.each_piece(prop, [&](const level::Piece& piece) {
                if (!piece.box().contains(pixel)) return;
                if (!piece.foot_box().contains(pixel) && !is_seen_at(project, piece, pixel)) return;
                if (best.prop.id != 0 && level::before(piece, front)) return;
                best.prop = prop;
                front = piece;
            });
        });
        if (best.prop.id != 0) return best;
    }
    return std::nullopt;
}

Level place_mark(Level level, MarkId id, MarkKind kind, const std::string& name, Point cell) {
    assert(level.cells().contains(cell));
    if (kind == MarkKind::start) std::erase_if(level.marks, [](const Mark& m) { return m.kind == MarkKind::start; });
    level.marks.push_back({id, name, kind, {cell.x, cell.y, 1, 1}});
    return level;
}

Level place_mark_over(Level level, MarkId id, MarkKind kind, const std::string& name, const Box& cells) {
    level = place_mark(std::move(level), id, kind, name, cells.corner());
    return change_mark(std::move(level), id, [&](Mark& m) { m.cells = cells; });
}

Level change_mark(Level level, MarkId id, const std::function<void(Mark&)>& what) {
    for (Mark& m : level.marks) {
        if (m.id != id) continue;
        what(m);
        m.id = id;
        m.cells.w = std::clamp(m.cells.w, 1, level.size.w);
        m.cells.h = std::clamp(m.cells.h, 1, level.size.h);
        m.cells.x = std::clamp(m.cells.x, 0, level.size.w - m.cells.w);
        m.cells.y = std::clamp(m.cells.y, 0, level.size.h - m.cells.h);
        if (m.kind == MarkKind::start)
            std::erase_if(level.marks, [&](const Mark& o) { return o.kind == MarkKind::start && o.id != id; });
        break;
    }
    return level;
}

Level move_mark(Level level, MarkId id, Point corner) {
    for (Mark& m : level.marks) {
        if (m.id != id) continue;
        m.cells.x = std::clamp(corner.x, 0, std::max(0, level.size.w - m.cells.w));
        m.cells.y = std::clamp(corner.y, 0, std::max(0, level.size.h - m.cells.h));
    }
    return level;
}

Level remove_mark(Level level, MarkId id) {
    std::erase_if(level.marks, [&](const Mark& m) { return m.id == id; });
    return level;
}

const Mark* mark_at(const Level& level, Point cell) {
    const Mark* best = nullptr;
    for (const Mark& m : level.marks)
        if (m.cells.contains(cell) && (!best || m.cells.size().area() < best->cells.size().area())) best = &m;
    return best;
}

Point snapped(const Level& level, Point pixel) {
    const Lattice lattice = level.geometry();
    return lattice.stand(lattice.cell_at(pixel));
}

namespace {

using NewIds = std::map<LayerId, LayerId>; // of a level's layers, in its copy

// Gives all layers ids of their own, also where they name one another.
NewIds renumber(Project& project, Level& copy) {
    NewIds ids;
    for (const LayerRef& of : copy.layers) ids[of->id] = project.next_id++;
    const auto now = [&](LayerId id) {
        const auto at = ids.find(id);
        return at == ids.end() ? LayerId{0} : at->second;
    };
    for (auto& slot : copy.layers) {
        Layer layer = *slot;
        layer.id = now(layer.id);
        if (TileCells* tiles = layer.tiles()) tiles->overlay_of = now(tiles->overlay_of);
        if (level::PlantedProps* planted = layer.planted()) {
            const auto follow = [&](std::vector<level::AreaTerm>& terms) {
                for (level::AreaTerm& t : terms) t.layer = now(t.layer);
            };
            follow(planted->recipe.area);
            for (level::Pass& pass : planted->recipe.passes) follow(pass.where);
        }
        slot = std::make_shared<const Layer>(std::move(layer));
    }
    return ids;
}

void share_homes(Project& project, const NewIds& ids) {
    const auto more = [&](const std::vector<LayerId>& homes) {
        std::vector<LayerId> out;
        for (const LayerId home : homes)
            if (const auto at = ids.find(home); at != ids.end()) out.push_back(at->second);
        return out;
    };
    const auto add = [](std::vector<LayerId>& homes, const std::vector<LayerId>& with) {
        homes.insert(homes.end(), with.begin(), with.end());
    };
    for (auto& slot : project.materials)
        if (const auto with = more(slot->homes); !with.empty()) {
            level::Material changed = *slot;
            add(changed.homes, with);
            slot = std::make_shared<const level::Material>(std::move(changed));
        }
    for (auto& slot : project.sheets) {
        const auto lives = [&](const level::Tile& t) { return !more(t.homes).empty(); };
        if (std::none_of(slot->tiles.begin(), slot->tiles.end(), lives)) continue;
        level::Sheet changed = *slot;
        for (level::Tile& t : changed.tiles) add(t.homes, more(t.homes));
        slot = std::make_shared<const level::Sheet>(std::move(changed));
    }
}

} // namespace

Level duplicate(Project& project, const Level& level, const std::string& name) {
    Level copy = level;
    copy.id = project.free_level_id(name);
    copy.name = name;
    share_homes(project, renumber(project, copy));
    for (auto& slot : copy.layers) {
        if (!slot->has_props()) continue;
        Layer layer = *slot;
        layer.props().change_all([&](Prop& p) { p.id = project.next_id++; });
        slot = std::make_shared<const Layer>(std::move(layer));
    }
    for (Mark& m : copy.marks) m.id = project.next_id++;
    return copy;
}

Level level_like(Project& project, const Level& level, const std::string& name, Size size) {
    Level out = level;
    out.id = project.free_level_id(name);
    out.name = name;
    out.size = size;
    out.marks.clear();
    out.guides.clear();
    out.frame_at.reset();
    out.plan.reset();
    out.reference.reset();
    for (auto& slot : out.layers) {
        Layer layer = *slot;
        if (layer.has_cells()) layer.grid() = level::Grid(layer.grain().cells(size));
        if (layer.has_props()) layer.props() = level::Props();
        slot = std::make_shared<const Layer>(std::move(layer));
    }
    share_homes(project, renumber(project, out));
    return out;
}

int prop_count(const Level& level) {
    std::size_t n = 0;
    for (const level::LayerRef& layer : level.layers) n += layer->props().size();
    return static_cast<int>(n);
}

} // namespace vic::edit
