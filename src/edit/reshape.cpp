#include "edit/reshape.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <numeric>

#include "edit/levels.hpp"
#include "edit/overlay.hpp"
#include "level/standing.hpp"

namespace vic::edit {

using namespace level;

Point turned_place(Turn turn, Point p, Size size) {
    if (turn.mirrored()) p.x = size.w - 1 - p.x;
    for (int i = 0; i < turn.quarters(); ++i) {
        p = {size.h - 1 - p.y, p.x};
        std::swap(size.w, size.h);
    }
    return p;
}

Size turned_size(Turn turn, Size size) {
    if (turn.quarters() % 2 != 0) std::swap(size.w, size.h);
    return size;
}

Grid turned_grid(const TileTable& tiles, const Grid& grid, Turn turn, const Lattice& lattice, CellsAre are) {
    const Turn pictures = are == CellsAre::values ? Turn{} : are == CellsAre::shapes ? turn : lattice.shown(turn);
    Grid out(turned_size(turn, grid.size()));
    each_cell(grid, box_of(grid.size()), [&](Point p, Cell c, MaterialId m) {
        Turn now = after(c.turn(), pictures);
        const Tile* t = are == CellsAre::tiles ? tiles.find(c.tile()).tile : nullptr;
        // Changed over is what a tile shows that is mirrored.
        const Turn asked = lattice.square() || now == Turn{} ? now : Turn{4};
        if (c.tile() == 0 || (t && ((t->turns >> asked.code) & 1) == 0)) now = c.turn();
        out.set(turned_place(turn, p, grid.size()), Cell(c.tile(), now, c.pinned()), m);
    });
    return out;
}

namespace {

// Those that lie free, each corner moved. That grids were changed meanwhile does not matter.
template <class Move>
void move_free(Blockers& to, const Blockers& from, const Move& move) {
    std::vector<FreeBlocker> free = from.free();
    for (FreeBlocker& blocker : free)
        for (Point& p : blocker.points) p = move(p);
    to.set_free(std::move(free));
}

// In cells of the level: what moves by it moves whole cells of every layer.
int widest_step(const Level& level) {
    int step = 1;
    for (const LayerRef& l : level.layers) step = std::lcm(step, l->grain().wider);
    return step;
}

} // namespace

Edges whole_steps(const Level& level, Edges by) {
    const int step = widest_step(level);
    const auto up = [&](int n) { return -floor_div(-n, step) * step; };
    by.left = up(by.left);
    by.top = up(by.top);
    return by;
}

Level extended(const join::Rules& rules, const Level& level, const Edges& wanted) {
    const Edges by = whole_steps(level, wanted);
    Level out = level;
    int finest = 1;
    for (const LayerRef& l : level.layers) finest = std::max(finest, l->grain().finer);
    const auto limited = [&](int n) { return std::clamp(n, 1, kMostCells / finest); };
    out.size = {limited(level.size.w + by.left + by.right), limited(level.size.h + by.top + by.bottom)};
    const Point move{by.left, by.top};
    const Point pixels = level.geometry().step(move);
    for (const LayerRef& l : level.layers) {
        Layer& layer = out.edit(l->id);
        if (pixels != Point{} && l->has_props()) layer.props().change_all([&](Prop& p) { p.at = p.at + pixels; });
        if (pixels != Point{} && l->planted()) move_planting(layer.planted()->recipe, level.cell, pixels);
        if (!l->has_cells()) continue;
        const Grain grain = l->grain();
        const Size size = grain.cells(out.size);
        const Point step = grain.in_layer(Box{move.x, move.y, 1, 1}).corner();
        layer.grid() = l->grid().moved(step, size);
        if (layer.blockers())
            move_free(*layer.blockers(), *l->blockers(), [&](Point p) {
                return p + Point{move.x * kBlockerUnit, move.y * kBlockerUnit};
            });
        // What lies at an edge, old or new, has other neighbours now. Variants go by place, so a moved level keeps
        // those it has.
        const Box old = l->cells().moved(step);
        for (const Box& edge :
             {Box{old.x - 1, old.y - 1, old.w + 2, 2}, Box{old.x - 1, old.bottom() - 1, old.w + 2, 2},
              Box{old.x - 1, old.y - 1, 2, old.h + 2}, Box{old.right() - 1, old.y - 1, 2, old.h + 2},
              Box{0, 0, size.w, 1}, Box{0, size.h - 1, size.w, 1}, Box{0, 0, 1, size.h}, Box{size.w - 1, 0, 1, size.h}})
            join::resolve(rules, layer.grid(), edge, l->id);
    }
    std::vector<Mark> marks;
    for (Mark m : level.marks) {
        m.cells = intersection(m.cells.moved(move), out.cells());
        if (!m.cells.empty()) marks.push_back(m);
    }
    out.marks = std::move(marks);
    for (Guide& g : out.guides) g.at += g.upright ? pixels.x : pixels.y;
    if (out.frame_at) out.frame_at = *out.frame_at + pixels;
    if (out.plan) out.plan->at = out.plan->at + move;
    if (out.reference) out.reference->at = out.reference->at + pixels;
    return out;
}

Box content(const Level& level) {
    Box out;
    for (const LayerRef& l : level.layers) {
        if (l->has_cells()) out = united(out, l->grain().in_level(l->grid().bounds()));
        for (const Prop& p : l->props()) {
            const Point at = level.geometry().cell_at(p.at);
            out = united(out, {at.x, at.y, 1, 1});
        }
    }
    for (const Mark& m : level.marks) out = united(out, m.cells);
    return intersection(out, level.cells());
}

Edges growth(const Level& level, const Box& cells) {
    Edges out;
    if (!level.grows || cells.empty()) return out;
    int most = kMostCells;
    for (const LayerRef& l : level.layers) most = std::min(most, kMostCells / l->grain().finer);
    const auto chunks = [](int n) { return n <= 0 ? 0 : (n + kChunk - 1) / kChunk * kChunk; };
    out = {chunks(-cells.x), chunks(-cells.y), chunks(cells.right() - level.size.w),
           chunks(cells.bottom() - level.size.h)};
    out = whole_steps(level, out);
    if (level.size.w + out.left + out.right > most) out.left = out.right = 0;
    if (level.size.h + out.top + out.bottom > most) out.top = out.bottom = 0;
    return out;
}

bool can_turn(const Level& level, Turn turn) {
    return turn.quarters() % 2 == 0 || level.cell.w == level.cell.h || level.lattice == LatticeKind::isometric;
}

namespace {

// Where a pixel comes to lie when the cells around it are turned.
Point turned_pixel(const Lattice& lattice, Turn turn, Point p, Size cells) {
    if (lattice.square()) return turned_place(turn, p, {cells.w * lattice.cell.w, cells.h * lattice.cell.h});
    CellPlace at = lattice.place_of(p.x, p.y);
    if (turn.mirrored()) at.x = cells.w - at.x;
    for (int i = 0; i < turn.quarters(); ++i) {
        at = {cells.h - at.y, at.x};
        std::swap(cells.w, cells.h);
    }
    const Lattice::Pixels px = lattice.pixel_of(at);
    return {static_cast<int>(std::lround(px.x)), static_cast<int>(std::lround(px.y))};
}

} // namespace

std::vector<Prop> turned_props(const Lattice& lattice, std::vector<Prop> props, Turn turn, Size cells) {
    // Aslant, left and right change places where x and y do; a quarter turn shows the same side of a thing.
    for (Prop& p : props) {
        p.at = turned_pixel(lattice, turn, p.at, cells);
        p.look.mirrored = p.look.mirrored != turn.mirrored();
        if (turn.mirrored()) p.look.turn = level::turned_by(0, -p.look.turn);
    }
    return props;
}

Level turned(const Project& project, const join::Rules& rules, const Level& as_is, Turn turn) {
    assert(can_turn(as_is, turn));
    // Wider cells that reach beyond an edge would come to lie before the other one: the level is made to hold them.
    const int step = widest_step(as_is);
    const auto short_of = [&](int n) { return (step - n % step) % step; };
    const Edges whole{0, 0, short_of(as_is.size.w), short_of(as_is.size.h)};
    const Level level = whole == Edges{} ? as_is : extended(rules, as_is, whole);
    Level out = level;
    out.size = turned_size(turn, level.size);
    const TileTable tiles(project);
    for (const LayerRef& l : level.layers) {
        Layer& layer = out.edit(l->id);
        if (l->has_cells()) {
            layer.grid() = turned_grid(tiles, l->grid(), turn, level.geometry(), l->cells_are());
            const Size units{level.size.w * kBlockerUnit, level.size.h * kBlockerUnit};
            // Corners are places between units: one more each way.
            if (layer.blockers())
                move_free(*layer.blockers(), *l->blockers(), [&](Point p) {
                    return turned_place(turn, p, {units.w + 1, units.h + 1});
                });
            join::resolve(rules, layer.grid(), layer.cells(), l->id);
        } else if (l->has_props()) {
            layer.props() = Props(turned_props(level.geometry(), layer.props().all(), turn, level.size));
        }
    }
    for (std::size_t i = 0; i < level.sides.size(); ++i)
        out.sides[static_cast<std::size_t>(turned_side(turn, static_cast<int>(i)))] = level.sides[i];
    for (Mark& m : out.marks) {
        const Point a = turned_place(turn, m.cells.corner(), level.size);
        const Point b = turned_place(turn, {m.cells.right() - 1, m.cells.bottom() - 1}, level.size);
        m.cells = spanning(a, b);
    }
    // The screen's directions are none of an isometric lattice's.
    if (level.lattice != LatticeKind::square) out.guides.clear();
    for (Guide& g : out.guides) {
        // A guide is the line before a pixel: it is turned as the two pixels beside it are.
        const auto place = [&](int at) {
            const Point p = turned_place(turn, g.upright ? Point{at, 0} : Point{0, at}, level.pixels().size());
            return (turn.quarters() % 2 != 0) != g.upright ? p.x : p.y;
        };
        const int before = place(g.at - 1);
        const int after_it = place(g.at);
        g = {(turn.quarters() % 2 != 0) != g.upright, std::max(before, after_it)};
    }
    std::sort(out.guides.begin(), out.guides.end());
    out.frame_at.reset();
    out.plan.reset();
    return out;
}

namespace {

// Another kind of lattice: all cells stay, what stands in them stands in the same.
Rescaled relaid(const Level& level, Size cell, LatticeKind kind) {
    Rescaled out{level, {}};
    out.level.cell = cell;
    out.level.lattice = kind;
    const Lattice from = level.geometry();
    const Lattice to = out.level.geometry();
    const auto moved = [&](Point p) {
        const Lattice::Pixels at = to.pixel_of(from.place_of(p.x, p.y));
        return Point{static_cast<int>(std::lround(at.x)), static_cast<int>(std::lround(at.y))};
    };
    std::int64_t turned = 0;
    for (const LayerRef& l : level.layers) {
        Layer& layer = out.level.edit(l->id);
        if (l->has_props()) layer.props().change_all([&](Prop& p) { p.at = moved(p.at); });
        if (l->planted())
            for (TakenAway& t : layer.planted()->recipe.taken) t.at = moved(t.at);
        if (!l->tiles() || kind == LatticeKind::square) continue;
        each_cell(l->grid(), l->cells(), [&](Point p, Cell c, MaterialId m) {
            const Turn shown = to.shown(c.turn());
            if (shown == c.turn()) return;
            layer.grid().set(p, Cell(c.tile(), shown, c.pinned()), m);
            ++turned;
        });
    }
    if (kind == LatticeKind::isometric) out.level.view = View::from_above;
    out.level.guides.clear();
    out.level.frame_at.reset();
    out.says = kind == LatticeKind::isometric
                   ? turned == 0
                         ? Text(
                               "All cells stay where they are and become diamonds. Tiles are drawn as wide as a "
                               "cell, higher ones stand up")
                         : say_count(turned,
                                     "All cells stay where they are and become diamonds. Tiles are drawn as "
                                     "wide as a cell, higher ones stand up; one lies turned and is shown "
                                     "unturned, as what is seen aslant can only be mirrored",
                                     "All cells stay where they are and become diamonds. Tiles are drawn as "
                                     "wide as a cell, higher ones stand up; %n lie turned and are shown "
                                     "unturned, as what is seen aslant can only be mirrored")
                   : Text("All cells stay where they are and become boxes; each tile fills its box");
    return out;
}

} // namespace

Rescaled rescaled(const Project& project, const Level& level, Size cell, LatticeKind kind) {
    Rescaled out{level, {}};
    for (const LayerRef& l : level.layers) {
        if (cell.w % l->grain().finer != 0 || cell.h % l->grain().finer != 0) {
            out.says = say("The layer \"%1\" divides each cell by %2: a new size must be divisible by that", l->name,
                           l->grain().finer);
            return out;
        }
        const Size own = l->grain().cell(cell);
        if (std::max(own.w, own.h) > kMostCellPixels) {
            out.says = say("The layer \"%1\" takes %2 cells as one: that would be more than %3 px", l->name,
                           l->grain().wider, kMostCellPixels);
            return out;
        }
    }
    if (kind != level.lattice) return relaid(level, cell, kind);
    const auto scaled = [](int at, int to, int from) { return floor_div(at * to, from); };
    out.level.cell = cell;
    for (const LayerRef& l : level.layers) {
        if (l->props().empty()) continue;
        out.level.edit(l->id).props().change_all([&](Prop& p) {
            p.at = {scaled(p.at.x, cell.w, level.cell.w), scaled(p.at.y, cell.h, level.cell.h)};
        });
        if (PlantedProps* planted = out.level.edit(l->id).planted())
            for (TakenAway& t : planted->recipe.taken)
                t.at = {scaled(t.at.x, cell.w, level.cell.w), scaled(t.at.y, cell.h, level.cell.h)};
    }
    for (Guide& g : out.level.guides)
        g.at = g.upright ? scaled(g.at, cell.w, level.cell.w) : scaled(g.at, cell.h, level.cell.h);
    if (out.level.frame_at)
        out.level.frame_at =
            Point{scaled(level.frame_at->x, cell.w, level.cell.w), scaled(level.frame_at->y, cell.h, level.cell.h)};
    if (out.level.reference) {
        level::Reference& r = *out.level.reference;
        r.at = {scaled(r.at.x, cell.w, level.cell.w), scaled(r.at.y, cell.h, level.cell.h)};
        r.scale = std::clamp(r.scale * cell.w / level.cell.w, 1, level::kMostReferenceScale);
    }
    const bool up = cell.w % level.cell.w == 0 && cell.h % level.cell.h == 0;
    const bool down = level.cell.w % cell.w == 0 && level.cell.h % cell.h == 0;
    // Whether the art has a pixel for each of the cell's, or a whole number of them.
    int uneven = 0;
    std::int64_t tiles = 0;
    for (const auto& sheet : project.sheets)
        for (const Tile& t : sheet->tiles) {
            if (t.is_block()) continue;
            ++tiles;
            const Size art{t.box.w / sheet->cut.scale, t.box.h / sheet->cut.scale};
            if (art.empty() || cell.w % art.w != 0 || cell.h % art.h != 0) ++uneven;
        }
    if (cell == level.cell)
        out.says = "Nothing changes";
    else if (uneven == 0 && (up || down))
        out.says = up ? say("The picture stays and is drawn %1 times as large", cell.w / level.cell.w)
                      : say("The picture stays and is drawn at 1/%1 of its size", level.cell.w / cell.w);
    else if (uneven == 0)
        out.says = "Every tile fits the new cell by a whole factor; cells and props keep their places in cells";
    else if (uneven == tiles)
        out.says =
            "No tile fits the new cell by a whole factor: all will be drawn uneven; cells and props keep their "
            "places in cells";
    else
        out.says =
            say("%1 of %2 tiles do not fit the new cell by a whole factor and will be drawn uneven; cells and "
                "props keep their places in cells",
                uneven, tiles);
    return out;
}

Level duplicate_layer(const Level& level, LayerId id, const std::string& name, std::uint32_t& next_id) {
    const int index = level.index_of(id);
    assert(index >= 0);
    Layer copy = *level.layers[static_cast<std::size_t>(index)];
    copy.id = next_id++;
    copy.name = name;
    if (TileCells* tiles = copy.tiles()) tiles->overlay_of = 0;
    if (copy.has_props()) copy.props().change_all([&](Prop& p) { p.id = next_id++; });
    Level out = level;
    out.layers.insert(out.layers.begin() + index + 1, std::make_shared<const Layer>(std::move(copy)));
    if (index < level.plane) ++out.plane;
    return out;
}

Merged merged_down(const Project& project, const join::Rules& rules, const Level& level, LayerId id) {
    Merged out{level, false, 0};
    const int index = level.index_of(id);
    if (index < 1) return out;
    const Layer& above = *level.layers[static_cast<std::size_t>(index)];
    const Layer& below = *level.layers[static_cast<std::size_t>(index) - 1];
    if (above.kind() != below.kind() || !(above.has_cells() || above.kind() == LayerKind::props) || below.locked ||
        above.locked || above.shift != below.shift || above.grain() != below.grain())
        return out;
    if (above.facts() && above.facts()->note() != below.facts()->note()) return out;
    out.done = true;
    Layer& to = out.level.edit(below.id);
    if (above.kind() == LayerKind::props) {
        for (const Prop& p : above.props()) to.props().put(p);
        out.level = remove_layer(out.level, id);
        return out;
    }
    Grid left = above.grid();
    std::map<TileId, bool> shows;
    each_cell(above.grid(), above.cells(), [&](Point p, Cell c, MaterialId m) {
        auto [known, fresh] = shows.try_emplace(c.tile(), false);
        if (fresh && above.tiles()) known->second = see_through(project, c.tile(), level.geometry());
        if (known->second && (below.grid().cell(p).bits != 0 || below.grid().material(p) != 0)) {
            ++out.stayed;
            return;
        }
        to.grid().set(p, c, m);
        left.set(p, {}, 0);
    });
    join::resolve(rules, to.grid(), to.cells(), below.id);
    if (out.stayed == 0) {
        out.level = remove_layer(out.level, id);
    } else {
        join::resolve(rules, left, above.cells(), id);
        out.level.edit(id).grid() = left;
    }
    return out;
}

} // namespace vic::edit
