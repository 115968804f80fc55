#include "edit/clips.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <utility>

#include "base/chance.hpp"
#include "edit/close_up.hpp"
#include "edit/levels.hpp"
#include "edit/reshape.hpp"
#include "level/block.hpp"

namespace vic::edit {

using namespace level;

namespace {

Point cell_of(const Level& level, Point pixel) { return level.geometry().cell_at(pixel); }

const Layer* place_for(const Level& level, const Stamp& stamp, const StampLayer& from, LayerId fallback, LayerId only) {
    const auto usable = [&](LayerId id) -> const Layer* {
        const Layer* l = level.layer(id);
        if (!l || l->kind() != from.kind() || l->grain() != from.grain()) return nullptr;
        const auto* facts = std::get_if<Facts>(&from.content); // values of another note mean something else
        return !facts || facts->note() == l->facts()->note() ? l : nullptr;
    };
    if (stamp.layers.size() == 1)
        if (const Layer* l = usable(only)) return l;
    if (const Layer* l = usable(from.from)) return l;
    for (const LayerRef& l : level.layers)
        if (l->name == from.name && usable(l->id)) return l.get();
    return stamp.layers.size() == 1 ? usable(fallback) : nullptr;
}

Region within_level(const Region& region, const Level& level) {
    Region out = region;
    out.keep(level.cells());
    return out;
}

} // namespace

std::vector<LayerId> concerned(const Level& level, LayerId one, bool all) {
    std::vector<LayerId> out;
    for (const LayerRef& l : level.layers)
        if (!l->backdrop() && (all ? l->shown && !l->locked : l->id == one)) out.push_back(l->id);
    return out;
}

Stamp take(const Level& level, const Region& region, const std::vector<LayerId>& layers) {
    const Box bounds = region.bounds();
    assert(!bounds.empty());
    Stamp out;
    out.size = bounds.size();
    out.cell = level.cell;
    out.lattice = level.lattice;
    for (const LayerRef& l : level.layers) {
        if (std::find(layers.begin(), layers.end(), l->id) == layers.end()) continue;
        StampLayer layer{l->id, l->name, {}};
        if (l->has_cells()) {
            const Box own = l->grain().in_layer(bounds);
            if (l->blockers())
                layer.content = Blockers(own.size());
            else if (l->facts())
                layer.content = Facts(own.size(), l->facts()->note());
            else
                layer.content = StampTiles{Grid(l->grain().cells(bounds.size())), l->grain()};
            each_cell(l->grid(), own, [&](Point p, Cell c, MaterialId m) {
                if (region.contains(l->grain().in_level(p))) layer.grid().set(p - own.corner(), c, m);
            });
            if (layer.grid().bounds().empty()) continue;
        } else {
            StampProps taken{{}, l->planted() != nullptr};
            for (Prop p : l->props().all()) {
                if (!region.contains(cell_of(level, p.at))) continue;
                p.at = p.at - level.geometry().step(bounds.corner());
                p.pass = 0; // where it comes to stand it is by hand
                taken.props.push_back(p);
            }
            if (taken.props.empty()) continue;
            layer.content = std::move(taken);
        }
        out.layers.push_back(std::move(layer));
    }
    return out;
}

Level cleared(const Project& project, const join::Rules& rules, const Level& level, const Region& region,
              const std::vector<LayerId>& layers) {
    Level out = level;
    for (const LayerId id : layers) {
        const Layer* l = level.layer(id);
        if (!l) continue;
        if (l->has_cells()) {
            const Hand eraser{held::Eraser{}};
            if (!l->grain().own())
                out = lay(project, rules, out, id, eraser, region).level;
            else
                out = put_back(
                    out, lay(project, rules, close_up(out, id), id, eraser, own_cells(region, l->grain())).level, id);
        } else if (l->has_props()) {
            const auto inside = [&](const Prop& p) { return region.contains(cell_of(level, p.at)); };
            if (std::any_of(l->props().begin(), l->props().end(), inside)) out.edit(id).props().remove_if(inside);
        }
    }
    return out;
}

Stamped stamp(const Project& project, const join::Rules& rules, const Level& level, const Stamp& what,
              const Stamping& how) {
    const Point at = how.at;
    const LayerId fallback = how.fallback, only = how.only;
    const bool pins = how.pins;
    Stamped out;
    out.level = level;
    out.next_id = project.next_id;
    std::map<std::uint32_t, std::uint32_t> groups;
    for (const StampLayer& from : what.layers) {
        const Layer* to = place_for(level, what, from, fallback, only);
        if (!to || to->locked || !to->shown) {
            ++out.no_layer;
            continue;
        }
        if (const StampProps* taken = from.props()) {
            Layer& layer = out.level.edit(to->id);
            for (Prop p : taken->props) {
                if (!project.prop_kind(p.kind)) continue;
                p.id = out.next_id++;
                // What was together stays together, apart from what it was taken from.
                if (p.group != 0) p.group = groups.emplace(p.group, p.id).first->second;
                p.at = p.at + level.geometry().step(at);
                layer.props().put(p);
                ++out.props;
            }
            continue;
        }
        Grid& grid = out.level.edit(to->id).grid();
        Box laid;
        const Point corner = from.grain().in_layer(Box{at.x, at.y, 1, 1}).corner();
        const Box all = box_of(grid.size());
        const CellsAre are = to->cells_are();
        const auto holds = [&](Cell c) {
            if (are == CellsAre::tiles) return c.tile() < project.next_tile;
            return are == CellsAre::shapes ? Blockers::holds(c) : Facts::holds(c);
        };
        each_cell(from.grid(), box_of(from.grid().size()), [&](Point p, Cell c, MaterialId m) {
            const Point place = p + corner;
            if (!all.contains(place) || !holds(c)) return;
            if (m != 0 && !project.material(m)) m = 0;
            const bool pin = pins || c.pinned() || m == 0;
            const Turn turn = are == CellsAre::tiles ? level.geometry().shown(c.turn()) : c.turn();
            grid.set(place, pin ? Cell(c.tile(), turn, c.tile() != 0) : Cell{}, m);
            laid = united(laid, {place.x, place.y, 1, 1});
            ++out.cells;
        });
        if (laid.empty()) continue;
        const Box touched = intersection(laid.grown(1), all);
        join::resolve(rules, grid, touched, to->id);
        out.touched = united(out.touched, from.grain().in_level(touched));
    }
    return out;
}

Stamp turned(const Project& project, const Stamp& stamp, Turn turn) {
    Stamp out = stamp;
    const Size size = turned_size(turn, stamp.size);
    out.size = size;
    const Lattice lattice{stamp.lattice, stamp.cell};
    const TileTable tiles(project);
    for (StampLayer& layer : out.layers) {
        if (StampProps* taken = layer.props())
            taken->props = turned_props(lattice, std::move(taken->props), turn, stamp.size);
        else
            layer.grid() = turned_grid(tiles, layer.grid(), turn, lattice, layer.cells_are());
    }
    return out;
}

namespace {

// Which column (or row) of `had` stands at `i` of `want`.
int stretched_index(int i, int want, int had) {
    const int rim = std::max(1, had / 3);
    const int first = had == 1 ? 0 : rim; // kept at the beginning
    const int last = had <= 1 ? 0 : rim;  // kept at the end
    const int middle = std::max(1, had - first - last);
    if (want <= first + last) { // the middle is lost first, then the rims from within
        const int front = (want + 1) / 2;
        return i < front ? std::min(i, had - 1) : had - (want - i);
    }
    if (i < first) return i;
    if (i >= want - last) return had - (want - i);
    if (had - first - last <= 0) return std::min(first - 1 + (i - first) % 2, had - 1);
    return first + (i - first) % middle;
}

template <class Source>
Stamp remade(const Stamp& stamp, Size size, Source source) {
    Stamp out = stamp;
    out.size = size;
    std::erase_if(out.layers, [](const StampLayer& l) { return !l.has_cells(); });
    for (StampLayer& layer : out.layers) {
        const Grid from = layer.grid();
        const Grain grain = layer.grain();
        const int n = grain.finer;
        layer.grid() = Grid(grain.cells(size));
        const Size own = layer.grid().size();
        for (int y = 0; y < own.h; ++y)
            for (int x = 0; x < own.w; ++x) {
                const Point whole = source(grain.in_level(Point{x, y}));
                const Point first = grain.touching(Box{whole.x, whole.y, 1, 1}).corner();
                const Point p{first.x + x % n, first.y + y % n};
                layer.grid().set({x, y}, from.cell(p), from.material(p));
            }
    }
    return out;
}

} // namespace

Stamp stretched(const Stamp& stamp, Size size) {
    return remade(stamp, size, [&](Point p) {
        return Point{stretched_index(p.x, size.w, stamp.size.w), stretched_index(p.y, size.h, stamp.size.h)};
    });
}

Stamp patterned(const Stamp& stamp, const Box& box) {
    return remade(stamp, box.size(), [&](Point p) {
        const Point at = p + box.corner();
        return Point{at.x - floor_div(at.x, stamp.size.w) * stamp.size.w,
                     at.y - floor_div(at.y, stamp.size.h) * stamp.size.h};
    });
}

namespace {

// Marks by the cell in their middle, probes by that of the foot.
Level with_marks_moved(Level level, const Region& cells, Point by) {
    for (const Mark& m : std::vector(level.marks))
        if (cells.contains({m.cells.x + m.cells.w / 2, m.cells.y + m.cells.h / 2}))
            level = move_mark(std::move(level), m.id, m.cells.corner() + by);
    const Point far{level.size.w * kBlockerUnit, level.size.h * kBlockerUnit};
    for (level::Probe& p : level.probes) {
        const Point cell{floor_div(p.at.x, kBlockerUnit), floor_div(p.at.y - 1, kBlockerUnit)};
        if (!cells.contains(cell)) continue;
        const Point to = p.at + Point{by.x * kBlockerUnit, by.y * kBlockerUnit};
        p.at = {std::clamp(to.x, 0, far.x - 1), std::clamp(to.y, 1, far.y)};
    }
    return level;
}

} // namespace

Stamped moved(const Project& project, const join::Rules& rules, const Level& level, const Region& region,
              const std::vector<LayerId>& layers, Point by, bool marks) {
    const Region cells = within_level(region, level);
    Stamped out{level, project.next_id, {}, 0, 0, 0};
    if (cells.empty() || by == Point{}) return out;
    const Stamp content = take(level, cells, layers);
    const Box from = cells.bounds();
    const Level without = cleared(project, rules, level, cells, layers);
    out = stamp(project, rules, without, content, {.at = from.corner() + by});
    // What was moved is still the same prop.
    std::map<PropId, Prop> same;
    out.next_id = project.next_id;
    std::uint32_t fresh = project.next_id;
    for (const StampLayer& l : content.layers)
        if (l.props())
            for (const Prop& p : l.props()->props)
                if (project.prop_kind(p.kind)) same[fresh++] = p;
    if (!same.empty())
        for (const LayerRef& l : std::vector(out.level.layers)) {
            if (!l->has_props()) continue;
            Props& props = out.level.edit(l->id).props();
            for (const auto& [laid, was] : same) {
                const Prop* prop = props.find(laid);
                if (!prop) continue;
                Prop kept = *prop;
                kept.id = was.id;
                kept.group = was.group;
                props.remove(laid);
                props.put(kept);
            }
        }
    out.touched = united(out.touched, intersection(from.grown(1), level.cells()));
    if (marks) out.level = with_marks_moved(std::move(out.level), cells, by);
    return out;
}

Stamped moved_to(const Project& project, const join::Rules& rules, const Level& level, const Region& region,
                 LayerId from, LayerId to) {
    const Region cells = within_level(region, level);
    Stamped out{level, project.next_id, {}, 0, 0, 0};
    const Layer* target = level.layer(to);
    if (cells.empty() || from == to || !level.layer(from)) return out;
    if (!target || target->kind() != level.layer(from)->kind() || target->grain() != level.layer(from)->grain()) {
        out.no_layer = 1;
        return out;
    }
    const Stamp content = take(level, cells, {from});
    if (content.layers.empty()) return out;
    const Level without = cleared(project, rules, level, cells, {from});
    out = stamp(project, rules, without, content, {.at = cells.bounds().corner(), .fallback = to, .only = to});
    if (out.no_layer > 0) { // it stays where it is rather than nowhere
        out.level = level;
        return out;
    }
    out.touched = intersection(cells.bounds().grown(1), level.cells());
    return out;
}

Laid thinned(const Project& project, const join::Rules& rules, const Level& level, LayerId layer, const Region& region,
             int per_cent, std::uint32_t seed) {
    Region gone;
    if (const Layer* l = level.layer(layer); l && l->has_cells())
        region.each([&](Point p) {
            if (l->grid().cell(p).bits == 0 && l->grid().material(p) == 0) return;
            const auto chance = static_cast<std::uint32_t>(place_hash((std::uint64_t{seed} << 32) ^ ~layer, p.x, p.y));
            if (scaled(chance, 100) < static_cast<std::uint32_t>(per_cent)) gone.add(p);
        });
    const Hand eraser{held::Eraser{}};
    return lay(project, rules, level, layer, eraser, gone);
}

Laid rerolled(const Project& project, const join::Rules& rules, const Level& level, LayerId layer, const Region& region,
              const Hand& hand) {
    const Layer* l = level.layer(layer);
    if (!l || !l->tiles()) return {level, {}, 0};
    const auto mine = [&](Point p) {
        const Cell c = l->grid().cell(p);
        const MaterialId m = l->grid().material(p);
        if (c.bits == 0 && m == 0) return true;
        const auto is = [&](const SpreadItem& i) {
            return i.material != 0 ? i.material == m && !c.pinned() : i.tile == c.tile();
        };
        if (const auto* spread = hand.as<held::Spread>())
            return std::any_of(spread->items.begin(), spread->items.end(), is);
        return is({hand.material(), hand.tile()});
    };
    Region cells;
    region.each([&](Point p) {
        if (level.cells().contains(p) && mine(p)) cells.add(p);
    });
    const Hand eraser{held::Eraser{}};
    const Laid without = lay(project, rules, level, layer, eraser, cells);
    return lay(project, rules, without.level, layer, hand, cells);
}

Replaced replaced(const Project& project, const join::Rules& rules, const Level& level, const Region& region,
                  const std::vector<LayerId>& layers, const Hand& what, const Hand& by) {
    Replaced out{level, 0};
    const Region cells = within_level(region, level);
    for (const LayerId id : layers) {
        const Layer* l = level.layer(id);
        if (!l || !l->tiles() || l->locked || !l->shown) continue;
        Region found;
        each_cell(l->grid(), cells.bounds(), [&](Point p, Cell c, MaterialId m) {
            const bool is = what.is<held::Material>() ? m == what.material() && !c.pinned()
                                                      : c.tile() == what.tile() && (m == 0 || c.pinned());
            if (is && cells.contains(p)) found.add(p);
        });
        if (found.empty()) continue;
        out.cells += found.count();
        out.level = lay(project, rules, out.level, id, by, found).level;
    }
    return out;
}

Region lasso(const std::vector<Place>& line, const Box& within) {
    Region out;
    if (line.size() < 3) return out;
    double top = line[0].y;
    double bottom = line[0].y;
    for (const Place& p : line) {
        top = std::min(top, p.y);
        bottom = std::max(bottom, p.y);
    }
    const int first = std::max(within.y, static_cast<int>(std::floor(top - 0.5)));
    const int last = std::min(within.bottom() - 1, static_cast<int>(std::ceil(bottom)));
    for (int y = first; y <= last; ++y) {
        // Where the line crosses the middles of this row, in pairs.
        std::vector<double> at;
        const double middle = y + 0.5;
        for (std::size_t i = 0; i < line.size(); ++i) {
            const Place a = line[i];
            const Place b = line[(i + 1) % line.size()];
            if ((a.y <= middle) == (b.y <= middle)) continue;
            at.push_back(a.x + (middle - a.y) / (b.y - a.y) * (b.x - a.x));
        }
        std::sort(at.begin(), at.end());
        for (std::size_t i = 0; i + 1 < at.size(); i += 2) {
            const int from = std::max(within.x, static_cast<int>(std::ceil(at[i] - 0.5)));
            const int to = std::min(within.right() - 1, static_cast<int>(std::ceil(at[i + 1] - 0.5)) - 1);
            if (to >= from) out.add(Box{from, y, to - from + 1, 1});
        }
    }
    return out;
}

Project keep_stamp(Project project, Stamp stamp, const std::string& name) {
    const auto taken = [&](const std::string& n) {
        return std::any_of(project.stamps.begin(), project.stamps.end(),
                           [&](const auto& s) { return s->name == n && s->id != stamp.id; });
    };
    stamp.name = name;
    for (int n = 2; taken(stamp.name); ++n) stamp.name = name + " " + std::to_string(n);
    if (stamp.id == 0) stamp.id = project.next_id++;
    project.put(std::move(stamp));
    return project;
}

Project remove_stamp(Project project, StampId id) {
    std::erase_if(project.stamps, [&](const auto& s) { return s->id == id; });
    return project;
}

Stamp stamp_of_tiles(const level::Sheet& sheet, const std::vector<TileId>& tiles, const Level& level) {
    const level::Cut& cut = sheet.cut;
    std::vector<std::pair<Point, TileId>> places;
    const Layer* of = nullptr; // where they are at home
    Box all;
    for (const level::Tile& t : sheet.tiles) {
        if (t.is_block() || t.blank || std::find(tiles.begin(), tiles.end(), t.id) == tiles.end()) continue;
        const Point at{(t.box.x - cut.margin.x) / (cut.tile.w + cut.spacing.x),
                       (t.box.y - cut.margin.y) / (cut.tile.h + cut.spacing.y)};
        all = places.empty() ? Box{at.x, at.y, 1, 1} : united(all, Box{at.x, at.y, 1, 1});
        places.emplace_back(at, t.id);
        for (const LayerId home : t.homes)
            if (const Layer* layer = level.layer(home)) of = layer;
    }
    Stamp out;
    if (places.empty()) return out;
    const Grain grain = of && of->tiles() ? of->grain() : Grain{};
    // As many of the level's cells as they cover.
    const auto cells = [&](int n) { return (n * grain.wider + grain.finer - 1) / grain.finer; };
    out.size = {cells(all.w), cells(all.h)};
    out.cell = level.cell;
    out.lattice = level.lattice;
    level::StampTiles laid{level::Grid(grain.cells(out.size)), grain};
    for (const auto& [at, tile] : places) laid.grid.set(at - all.corner(), Cell(tile), 0);
    out.layers.push_back({of ? of->id : 0, {}, std::move(laid)});
    return out;
}

} // namespace vic::edit
