#include "edit/joins.hpp"

#include <algorithm>
#include <cassert>
#include <map>

#include "base/files.hpp"
#include "edit/replace.hpp"
#include "edit/sheets.hpp"
#include "join/compose_sheet.hpp"
#include "join/resolve.hpp"
#include "sheet/cut.hpp"

namespace vic::edit {

using namespace level;

namespace {
constexpr std::int64_t kCounted = 1 << 18; // cells of a level up to which cases are counted
constexpr double kSure = 0.5;              // confidence from which on a reading speaks against the table
} // namespace

Project change_set(Project project, MaterialId id, const std::function<void(JoinSet&)>& change) {
    const Material* old = project.material(id);
    if (!old) return project;
    Material material = *old;
    change(material.joins);
    project.put(std::move(material));
    return rejoin(std::move(project));
}

Project move_tile(Project project, MaterialId id, TileId tile, join::Mask to) {
    return change_set(std::move(project), id, [&](JoinSet& set) {
        Variant moved{tile, 100, {}};
        for (auto it = set.cases.begin(); it != set.cases.end();) {
            std::erase_if(it->second, [&](const Variant& v) {
                const bool is = v.tile == tile && v.turn == Turn{};
                if (is) moved = v;
                return is;
            });
            it = it->second.empty() ? set.cases.erase(it) : std::next(it);
        }
        set.cases[join::canonical(to, set.kind)].push_back(moved);
        // The designer has said so himself.
        const auto at = std::lower_bound(set.accepted.begin(), set.accepted.end(), tile);
        if (at == set.accepted.end() || *at != tile) set.accepted.insert(at, tile);
    });
}

join::Mask with_petal(JoinKind kind, join::Mask mask, int bit) {
    const auto one = static_cast<join::Mask>(1U << bit);
    if (kind == JoinKind::corners) {
        join::Mask corners = 0;
        for (unsigned c = 1; c < 8; c += 2)
            if (mask & (1U << c)) corners = static_cast<join::Mask>(corners | (1U << c));
        return join::of_corners(static_cast<join::Mask>(corners ^ one));
    }
    return join::canonical(static_cast<join::Mask>(mask ^ one), kind);
}

Rejoined rejoin_part(const Project& project, const std::string& id, const Box& cells, bool pinned_too) {
    Rejoined out{project, 0};
    const Level* level = project.level(id);
    if (!level) return out;
    const join::Rules rules(project);
    Level next = *level;
    const Box box = intersection(cells, level->cells());
    for (const LayerRef& layer : level->layers) {
        if (!layer->tiles() || layer->locked) continue;
        Grid grid = layer->grid();
        const Box own = layer->grain().touching(box);
        if (pinned_too)
            each_cell(layer->grid(), own, [&](Point p, Cell cell, MaterialId m) {
                if (m != 0 && cell.pinned()) grid.set(p, {}, m);
            });
        join::resolve(rules, grid, own, layer->id);
        std::int64_t changed = 0;
        for (const Box& part : differences(layer->grid(), grid))
            for (int y = part.y; y < part.bottom(); ++y)
                for (int x = part.x; x < part.right(); ++x) {
                    const Cell was = layer->grid().cell({x, y});
                    const Cell now = grid.cell({x, y});
                    changed += was.tile() != now.tile() || was.turn() != now.turn();
                }
        if (changed == 0 && grid == layer->grid()) continue;
        out.cells += changed;
        next.edit(layer->id).grid() = std::move(grid);
    }
    out.project.put(std::move(next));
    return out;
}

std::optional<Stepped> step_variant(const Project& project, const Level& level, LayerId layer_id, Point cell, int by) {
    const Layer* layer = level.layer(layer_id);
    if (!layer || !layer->tiles()) return std::nullopt;
    const Material* m = project.material(layer->grid().material(cell));
    if (!m) return std::nullopt;
    const join::Rules rules(project);
    std::vector<Variant> all = join::serving(m->joins, rules.mask(join::around(layer->grid(), cell)));
    std::erase_if(all, [](const Variant& v) { return v.weight <= 0; });
    if (all.size() < 2) return std::nullopt;
    const Cell now = layer->grid().cell(cell);
    const auto same = [&](const Variant& v) { return v.tile == now.tile() && v.turn == now.turn(); };
    const auto at = std::find_if(all.begin(), all.end(), same);
    const int n = static_cast<int>(all.size());
    const int next = at == all.end() ? 0 : (static_cast<int>(at - all.begin()) + by + n) % n;
    Stepped out{level, next + 1, n};
    const Variant& v = all[static_cast<std::size_t>(next)];
    out.level.edit(layer_id).grid().set(cell, Cell(v.tile, v.turn, true), m->id);
    return out;
}

std::int64_t cells_of_case(const Project& project, const Level* level, MaterialId id, join::Mask mask) {
    const Material* m = project.material(id);
    if (!m || !level || level->size.area() > kCounted) return -1;
    const join::Rules rules(project);
    std::int64_t n = 0;
    for (const LayerRef& layer : level->layers) {
        if (!layer->tiles()) continue;
        each_cell(layer->grid(), layer->cells(), [&](Point p, Cell, MaterialId of) {
            n += of == id && join::canonical(rules.mask(join::around(layer->grid(), p)), m->joins.kind) == mask;
        });
    }
    return n;
}

SheetId main_sheet(const Project& project, const JoinSet& set) {
    const TileTable table(project);
    std::map<SheetId, int> counts;
    for (const auto& [mask, variants] : set.cases)
        for (const Variant& v : variants)
            if (const TileRef ref = table.find(v.tile); ref.tile && ref.sheet->composed.empty())
                ++counts[ref.sheet->id];
    SheetId best = 0;
    for (const auto& [id, n] : counts)
        if (best == 0 || n > counts[best]) best = id;
    return best;
}

ComposedCases compose_missing(Project project, MaterialId id, std::optional<join::Mask> only) {
    ComposedCases out;
    const Material* m = project.material(id);
    assert(m);
    auto made = join::composable(project, m->joins, m->joins.turns);
    if (only) std::erase_if(made, [&](const join::Made& one) { return one.mask != *only; });
    const Sheet* source = project.sheet(main_sheet(project, m->joins));
    if (made.empty() || !source) {
        const auto cover = join::coverage(m->joins);
        return {std::move(project), 0, cover.of - cover.have};
    }
    // The derived sheet of the same source, where there is one with tiles of the same size.
    const std::string wanted = source->name + ", composed";
    SheetId derived = 0;
    for (const auto& s : project.sheets)
        if (!s->composed.empty() && s->name.rfind(wanted, 0) == 0 && s->cut.tile == sheet::drawn_size(source->cut))
            derived = s->id;
    std::string name = wanted;
    for (int n = 2; !derived && !name_taken_by_sheet(project, name, 0).empty(); ++n)
        name = wanted + " " + std::to_string(n);
    std::string file;
    for (int n = 1;; ++n) {
        file = "sheets/" + slug(wanted, "composed") + (n == 1 ? "" : "-" + std::to_string(n)) + ".png";
        if (std::none_of(project.sheets.begin(), project.sheets.end(), [&](const auto& s) { return s->file == file; }))
            break;
    }
    out.made = static_cast<int>(made.size());
    out.project = rejoin(join::add_composed(std::move(project), id, made, derived, name, file));
    const auto cover = join::coverage(out.project.material(id)->joins);
    out.left = cover.of - cover.have;
    return out;
}

Text card_trouble(const Project& project, SheetId sheet, const Material& material, const std::string& name) {
    if (name.empty()) return "An order card needs a name";
    for (const OrderCard& c : project.order_cards)
        if (c.name == name) return say("There is an order card \"%1\" already", name);
    const Sheet* s = project.sheet(sheet);
    if (!s || !s->image || material.joins.kind == JoinKind::plain) return "The material has no order to keep";
    for (const auto& [mask, variants] : material.joins.cases)
        for (const Variant& v : variants)
            for (const Tile& t : s->tiles)
                if (t.id == v.tile && v.turn == Turn{}) return {};
    return "No tile of this sheet serves a case of the material";
}

Project keep_order(Project project, SheetId sheet_id, const Material& material, const std::string& name) {
    const Sheet& sheet = *project.sheet(sheet_id);
    OrderCard card;
    card.id = project.next_id++;
    card.name = name;
    card.kind = material.joins.kind;
    card.layout = sheet::columns_rows(sheet.cut, sheet.image->size());
    card.masks.resize(static_cast<std::size_t>(card.layout.area()));
    for (std::size_t i = 0; i < std::min(card.masks.size(), sheet::lattice_tiles(sheet)); ++i)
        for (const auto& [mask, variants] : material.joins.cases)
            for (const Variant& v : variants)
                if (v.tile == sheet.tiles[i].id && v.turn == Turn{}) card.masks[i] = mask;
    project.order_cards.push_back(std::move(card));
    return project;
}

bool card_fits(const OrderCard& card, const Sheet& sheet) {
    return sheet.image && sheet.composed.empty() &&
           sheet::columns_rows(sheet.cut, sheet.image->size()) == card.layout &&
           sheet::lattice_tiles(sheet) == card.masks.size();
}

join::JoinReading reading_by_card(const OrderCard& card, const Sheet& sheet) {
    assert(card_fits(card, sheet));
    join::JoinReading out;
    std::map<join::Mask, std::vector<int>> by_mask;
    for (std::size_t i = 0; i < card.masks.size(); ++i) {
        if (!card.masks[i] || sheet.tiles[i].blank) continue;
        const int index = static_cast<int>(i);
        out.tiles.push_back({index, *card.masks[i], 1.0});
        by_mask[*card.masks[i]].push_back(index);
        if (*card.masks[i] == join::canonical(255, card.kind)) out.centre = index;
    }
    for (const join::Mask m : join::cases(card.kind)) {
        if (!by_mask.contains(m))
            out.missing.push_back(m);
        else if (by_mask[m].size() > 1)
            out.doubled.push_back({m, by_mask[m]});
    }
    return out;
}

bool fits_better(const Sheet& sheet, const JoinSet& set, const join::JoinReading& a, const join::JoinReading& b) {
    const auto agree = [&](const join::JoinReading& r) {
        int n = 0;
        for (const join::TileReading& t : r.tiles) {
            const auto at = set.cases.find(t.mask);
            if (at == set.cases.end()) continue;
            const TileId id = sheet.tiles.at(static_cast<std::size_t>(t.index)).id;
            n += std::any_of(at->second.begin(), at->second.end(),
                             [&](const Variant& v) { return v.tile == id && v.turn == Turn{}; });
        }
        return n;
    };
    return agree(a) > agree(b);
}

std::vector<DoubtfulTile> doubtful_tiles(const Sheet& sheet, const JoinSet& set, const join::JoinReading& reading) {
    std::map<TileId, join::Mask> serves;
    for (const auto& [mask, variants] : set.cases)
        for (const Variant& v : variants)
            if (v.turn == Turn{}) serves.emplace(v.tile, mask);
    std::vector<DoubtfulTile> out;
    for (const auto* list : {&reading.contradictory, &reading.doubtful})
        for (const auto& d : *list) {
            const TileId tile = sheet.tiles.at(static_cast<std::size_t>(d.index)).id;
            if (!serves.contains(tile) || std::binary_search(set.accepted.begin(), set.accepted.end(), tile)) continue;
            if (std::any_of(out.begin(), out.end(), [&](const DoubtfulTile& o) { return o.tile == tile; })) continue;
            out.push_back({tile, serves.at(tile), d.why});
        }
    std::map<TileId, const join::TileReading*> read;
    for (const join::TileReading& t : reading.tiles) read[sheet.tiles.at(static_cast<std::size_t>(t.index)).id] = &t;
    for (const auto& [mask, variants] : set.cases)
        for (const Variant& v : variants) {
            const auto t = read.find(v.tile);
            if (v.turn != Turn{} || t == read.end() || t->second->mask == mask || t->second->confidence < kSure ||
                std::binary_search(set.accepted.begin(), set.accepted.end(), v.tile) ||
                std::any_of(out.begin(), out.end(),
                            [&, mask = mask](const DoubtfulTile& o) { return o.tile == v.tile && o.mask == mask; }))
                continue;
            out.push_back({v.tile, mask, say("by its art it is %1", join::describe(t->second->mask, set.kind))});
        }
    std::stable_sort(out.begin(), out.end(),
                     [](const DoubtfulTile& a, const DoubtfulTile& b) { return a.mask < b.mask; });
    return out;
}

Project accept_tile(Project project, MaterialId id, TileId tile) {
    const Material* old = project.material(id);
    if (!old) return project;
    Material material = *old;
    auto& list = material.joins.accepted;
    const auto at = std::lower_bound(list.begin(), list.end(), tile);
    if (at == list.end() || *at != tile) list.insert(at, tile);
    project.put(std::move(material));
    return project;
}

} // namespace vic::edit
