#include "edit/placing.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "edit/levels.hpp"
#include "edit/props.hpp"
#include "edit/storeys.hpp"
#include "outline/solid.hpp"

namespace vic::edit {

using namespace level;

namespace {

constexpr int kNear = 16;         // cells around a prop in which others are snapped to
constexpr int kSteepest = 450;    // tenths of a degree up to which a prop tilts
constexpr int kDegreesStep = 150; // tenths of a degree
constexpr int kFarthest = 8;      // cells that a prop is pushed
constexpr int kCurveParts = 16;   // straight parts of a curve between two points

// The three lines of a box that are snapped to.
std::array<int, 3> stops(const Box& b, bool upright) {
    return upright ? std::array{b.y, b.y + b.h / 2, b.bottom()} : std::array{b.x, b.x + b.w / 2, b.right()};
}

int from_of(const Box& b, bool upright) { return upright ? b.y : b.x; }
int to_of(const Box& b, bool upright) { return upright ? b.bottom() : b.right(); }

struct Shift {
    int by = 0;
    SnapLine line;
};

// The least shift along one way that brings an edge or middle onto one of another's.
std::optional<Shift> to_edges(const Box& box, const std::vector<Box>& others, bool upright, int tolerance) {
    std::optional<Shift> best;
    for (const Box& other : others)
        for (const int mine : stops(box, upright))
            for (const int theirs : stops(other, upright)) {
                const int by = theirs - mine;
                if (std::abs(by) > tolerance || (best && std::abs(best->by) <= std::abs(by))) continue;
                const int from = std::min(from_of(box, !upright), from_of(other, !upright));
                const int to = std::max(to_of(box, !upright), to_of(other, !upright));
                best = Shift{by, {!upright, theirs, from, to}};
            }
    return best;
}

// The least shift that makes the distance to a neighbour the same as that between it and the next, or both sides alike.
std::optional<Shift> to_gaps(const Box& box, const std::vector<Box>& others, bool upright, int tolerance) {
    // Those that stand in the same row, in order.
    std::vector<Box> row;
    for (const Box& b : others)
        if (from_of(b, !upright) < to_of(box, !upright) && from_of(box, !upright) < to_of(b, !upright))
            row.push_back(b);
    std::sort(row.begin(), row.end(),
              [&](const Box& a, const Box& b) { return from_of(a, upright) < from_of(b, upright); });
    std::optional<Shift> best;
    const int length = to_of(box, upright) - from_of(box, upright);
    const auto consider = [&](int place, std::pair<int, int> gap) {
        const int by = place - from_of(box, upright);
        if (std::abs(by) > tolerance || (best && std::abs(best->by) <= std::abs(by))) return;
        const int along = from_of(box, !upright) + (to_of(box, !upright) - from_of(box, !upright)) / 2;
        SnapLine line{upright, along, gap.first, gap.second};
        line.gap = gap;
        best = Shift{by, line};
    };
    for (std::size_t i = 0; i + 1 < row.size(); ++i) {
        const int left_end = to_of(row[i], upright), right_begin = from_of(row[i + 1], upright);
        const int gap = right_begin - left_end;
        if (gap < 0) continue;
        const int behind = to_of(row[i + 1], upright) + gap; // right of both
        consider(behind, {to_of(row[i + 1], upright), behind});
        const int before = from_of(row[i], upright) - gap - length; // left of both
        consider(before, {before + length, from_of(row[i], upright)});
        if (gap >= length) {
            const int middle = left_end + (gap - length) / 2;
            consider(middle, {left_end, middle});
        }
    }
    return best;
}

Spots moved(const Spots& spots, double x, double y) {
    Spots out = spots;
    for (Spot& s : out) {
        s.x += x;
        s.y += y;
    }
    return out;
}

Box cells_around(const Spots& cells) {
    double left = cells.front().x, right = left, top = cells.front().y, bottom = top;
    for (const Spot& s : cells) {
        left = std::min(left, s.x);
        right = std::max(right, s.x);
        top = std::min(top, s.y);
        bottom = std::max(bottom, s.y);
    }
    const int x = static_cast<int>(std::floor(left)), y = static_cast<int>(std::floor(top));
    return {x, y, static_cast<int>(std::floor(right)) - x + 1, static_cast<int>(std::floor(bottom)) - y + 1};
}

} // namespace

Point on_lattice(const Level& level, Point pixel, Lattices step) {
    if (step == Lattices::free) return pixel;
    if (step == Lattices::cells) return snapped(level, pixel);
    const int parts = step == Lattices::halves ? 2 : 4;
    const Lattice lattice = level.geometry();
    // Counted from where things stand in whole cells, so that the finer places hold the coarser ones.
    const CellPlace at = lattice.place_of(pixel.x + 0.5, pixel.y + 0.5);
    const auto near = [&](double v) { return std::round(v * parts) / parts; };
    if (!lattice.square()) {
        const Lattice::Pixels p = lattice.pixel_of({near(at.x), near(at.y)});
        return {static_cast<int>(std::lround(p.x)), static_cast<int>(std::lround(p.y))};
    }
    const double x = near(at.x - 0.5) + 0.5, y = near(at.y);
    return {static_cast<int>(std::floor(x * level.cell.w)), static_cast<int>(std::ceil(y * level.cell.h)) - 1};
}

Point on_lattice(const Level& level, Point pixel, Lattices step, const PropKind& piece, int turn) {
    const Lattice lattice = level.geometry();
    if (step == Lattices::free || !lattice.square()) return on_lattice(level, pixel, step);
    const int parts = step == Lattices::cells ? 1 : step == Lattices::halves ? 2 : 4;
    Point pivot = piece.drawn_pivot();
    if ((turn + kFullTurn / 8) / (kFullTurn / 4) % 2 != 0) pivot = {pivot.y, pivot.x};
    const auto near = [&](int at, int of, int cell) {
        const double rest = of % cell, part = double(cell) / parts;
        return static_cast<int>(std::lround(std::round((at - rest) / part) * part + rest));
    };
    return {near(pixel.x, pivot.x, level.cell.w), near(pixel.y, pivot.y, level.cell.h)};
}

Snapped to_props(const Project& project, const Level& level, const Prop& moving, const std::set<PropId>& kept,
                 int tolerance) {
    const PropKinds kinds(project);
    const Box box = kinds.box(moving);
    Snapped out{moving.at, {}};
    if (box.empty()) return out;
    const Box around = box.grown(kNear * std::max(level.cell.w, level.cell.h));
    std::vector<Box> others;
    for (const LayerRef& layer : level.layers) {
        if (!layer->shown || !std::holds_alternative<PlacedProps>(layer->content)) continue;
        layer->props().each_in(around, [&](const Prop& p) {
            if (p.id != moving.id && !kept.contains(p.id)) others.push_back(kinds.box(p));
        });
    }
    for (const bool upright : {false, true}) {
        std::optional<Shift> best = to_edges(box, others, upright, tolerance);
        if (const auto gap = to_gaps(box, others, upright, tolerance);
            gap && (!best || std::abs(gap->by) < std::abs(best->by)))
            best = gap;
        if (!best) continue;
        (upright ? out.at.y : out.at.x) += best->by;
        out.lines.push_back(best->line);
    }
    return out;
}

Ground::Ground(const Project& project, const Level& level, std::set<PropId> kept, int storey)
    : project_(project),
      level_(storey_alone(level, storey)),
      kept_(std::move(kept)),
      kinds_(project),
      tiles_(project) {}

std::vector<Spots> Ground::feet_of(const Prop& prop, bool flat) const {
    std::vector<Spots> out;
    kinds_.each_piece(prop, [&](const Piece& piece) {
        if (!piece.kind->foot.empty() && piece.kind->flat == flat) out.push_back(foot_of(piece, level_.geometry()));
    });
    return out;
}

std::vector<Spots> Ground::all_feet_of(const Prop& prop) const {
    std::vector<Spots> out = feet_of(prop, false);
    for (Spots& lies : feet_of(prop, true)) out.push_back(std::move(lies));
    return out;
}

bool Ground::meets_ground(const std::vector<Spots>& feet) const {
    const Lattice lattice = level_.geometry();
    for (const Spots& foot : feet) {
        Spots in_cells;
        for (const Spot& s : foot) {
            const CellPlace at = lattice.place_of(s.x, s.y);
            in_cells.push_back({at.x, at.y});
        }
        const Box cells = intersection(cells_around(in_cells), level_.cells());
        if (cells.empty()) continue;
        std::vector<outline::SolidCode> codes(static_cast<std::size_t>(cells.size().area()));
        outline::Forms forms;
        outline::read_solid(level_, tiles_, cells, codes.data(), static_cast<std::size_t>(cells.w), forms);
        for (int y = 0; y < cells.h; ++y)
            for (int x = 0; x < cells.w; ++x) {
                const outline::SolidCode code = codes[static_cast<std::size_t>(y * cells.w + x)];
                const outline::Solid solid = outline::solid_of(code);
                if (solid == outline::kOpen) continue;
                const double cx = cells.x + x, cy = cells.y + y;
                if (solid == outline::kFull &&
                    overlap(in_cells, {{cx, cy}, {cx + 1, cy}, {cx + 1, cy + 1}, {cx, cy + 1}}))
                    return true;
                if (solid == outline::kFull) continue;
                const bool form = solid == outline::kForm;
                const auto shape = static_cast<TileShape>(static_cast<int>(TileShape::slope_ne) +
                                                          static_cast<int>(solid) - outline::kSlopeNE);
                const double side = form ? outline::kUnit : kShapeSide;
                for (const Polygon& polygon : form ? forms[code].polygons : polygons_of(shape)) {
                    Spots mass;
                    for (const Point p : polygon) mass.push_back({cx + p.x / side, cy + p.y / side});
                    if (overlap(in_cells, mass)) return true;
                }
            }
    }
    return false;
}

Stand Ground::stand(const Prop& prop) const {
    const std::vector<Spots> feet = feet_of(prop, false), lying = feet_of(prop, true);
    const Box level = level_.pixels();
    const Box seen = kinds_.foot_box(prop);
    const Point middle{seen.x + seen.w / 2, seen.y + seen.h / 2};
    if (!level_.cells().contains(level_.geometry().cell_at(seen.empty() ? prop.at : middle)) ||
        (level_.geometry().square() && !seen.empty() && !level.contains(seen)))
        return {InTheWay::beyond, 0};
    Stand out;
    for (const LayerRef& layer : level_.layers) {
        if (!layer->shown || !std::holds_alternative<PlacedProps>(layer->content) || layer->props().empty()) continue;
        if (layer->parallax != Layer().parallax) continue;
        const int reach = kinds_.reach(layer->props());
        layer->props().each_in(seen.grown(reach), [&](const Prop& other) {
            if (out.way != InTheWay::nothing || other.id == prop.id || kept_.contains(other.id)) return;
            for (const bool flat : {false, true}) // what lies flat has room under what stands
                for (const Spots& theirs : feet_of(other, flat))
                    for (const Spots& mine : flat ? lying : feet)
                        if (overlap(mine, theirs)) out = {InTheWay::another, other.id};
        });
    }
    if (out.way == InTheWay::nothing && meets_ground(all_feet_of(prop))) out.way = InTheWay::blocks;
    return out;
}

std::optional<Point> Ground::nearest_free(const Prop& prop, int most) const {
    if (stand(prop).way == InTheWay::nothing) return prop.at;
    const int step = std::max(1, std::min(level_.cell.w, level_.cell.h) / 8);
    std::vector<Point> places;
    for (int y = -most / step; y <= most / step; ++y)
        for (int x = -most / step; x <= most / step; ++x) {
            const Point by{x * step, y * step};
            if (by.x * by.x + by.y * by.y <= most * most) places.push_back(by);
        }
    std::stable_sort(places.begin(), places.end(),
                     [](Point a, Point b) { return a.x * a.x + a.y * a.y < b.x * b.x + b.y * b.y; });
    Prop there = prop;
    for (const Point by : places) {
        there.at = prop.at + by;
        if (stand(there).way == InTheWay::nothing) return there.at;
    }
    return std::nullopt;
}

std::optional<int> Ground::fall(std::vector<Spots> feet) const {
    if (feet.empty()) return std::nullopt;
    const auto at = [&](int by) {
        std::vector<Spots> out;
        out.reserve(feet.size());
        for (const Spots& s : feet) out.push_back(moved(s, 0, by));
        return out;
    };
    const int height = level_.pixels().h;
    if (meets_ground(feet)) {
        for (int up = 1; up <= height; ++up)
            if (!meets_ground(at(-up))) return -up;
        return std::nullopt;
    }
    for (int down = 0; down <= height; ++down)
        if (meets_ground(at(down + 1))) return down;
    return std::nullopt;
}

Point Ground::dropped(const Prop& prop) const {
    if (level_.view == View::from_the_side && level_.geometry().square())
        if (const auto by = fall(all_feet_of(prop))) return {prop.at.x, prop.at.y + *by};
    return {prop.at.x, snapped(level_, prop.at).y};
}

std::int16_t Ground::tilt(const Prop& prop) const {
    const PropKind* kind = kinds_.find(prop.kind);
    if (!kind || kind->lit || level_.view != View::from_the_side || !level_.geometry().square()) return 0;
    Prop flat = prop;
    flat.look.turn = 0;
    const Box foot = kinds_.foot_box(flat);
    if (foot.w < 2) return 0;
    // What is below either end of the foot, from a little above it.
    const double top = foot.bottom() - 1 - foot.w;
    const auto below = [&](double x) { return fall({{{x, top}, {x + 1, top}, {x + 1, top + 1}, {x, top + 1}}}); };
    const auto left = below(foot.x), right = below(foot.right() - 1);
    if (!left || !right) return 0;
    const double angle = std::atan2(*right - *left, foot.w - 1) * (kFullTurn / 2.0) / std::numbers::pi;
    const int turn = static_cast<int>(std::lround(angle));
    return std::abs(turn) > kSteepest ? std::int16_t{0} : turned_by(turn, 0);
}

Prop on_ground(const Ground& ground, Prop prop) {
    prop.at = ground.dropped(prop);
    if (const std::int16_t tilt = ground.tilt(prop); tilt != 0) {
        prop.look.turn = tilt;
        prop.at = ground.dropped(prop);
    }
    return prop;
}

Pushed push_free(const Project& project, const Level& level, const std::set<PropId>& props) {
    Pushed out{level};
    for (const PropId id : props) {
        const Prop* found = find_prop(out.level, id);
        if (!found) continue;
        const Prop prop = *found;
        // Those that went before stand in the way, too.
        const auto on = std::find_if(out.level.layers.begin(), out.level.layers.end(), [&](const LayerRef& layer) {
            return std::holds_alternative<PlacedProps>(layer->content) && layer->props().find(id);
        });
        const Ground ground(project, out.level, {}, on == out.level.layers.end() ? 0 : (*on)->storey);
        if (ground.stand(prop).way == InTheWay::nothing) continue;
        const auto free = ground.nearest_free(prop, kFarthest * level.cell.w);
        if (free) out.level = move_prop(std::move(out.level), id, *free);
        ++(free ? out.moved : out.stuck);
    }
    return out;
}

namespace {

std::int16_t turn_along(const std::vector<Spot>& places, std::size_t at, std::int16_t turn) {
    if (places.size() < 2) return turn;
    const Spot& a = places[at == 0 ? 0 : at - 1];
    const Spot& b = places[at == 0 ? 1 : at];
    const double angle = std::atan2(b.y - a.y, b.x - a.x) * (kFullTurn / 2.0) / std::numbers::pi;
    return turned_by(turn, static_cast<int>(std::lround(angle)));
}

} // namespace

Row row_of(const Project& project, const Level& level, LayerId layer, const Prop& like, const std::vector<Spot>& places,
           RowOptions options, std::uint32_t next_id) {
    Row out{level, 0, 0, next_id};
    const Ground ground(project, level, {});
    Props& props = out.level.edit(layer).props();
    for (std::size_t i = 0; i < places.size(); ++i) {
        Prop prop = like;
        prop.id = out.next_id;
        prop.at = {static_cast<int>(std::floor(places[i].x)), static_cast<int>(std::floor(places[i].y))};
        prop.kind = variant_at(project, like.kind, prop.at);
        const PropKind* kind = project.prop_kind(prop.kind);
        if (options.along && kind && !kind->lit) prop.look.turn = turn_along(places, i, like.look.turn);
        if (options.drops) prop.at = ground.dropped(prop);
        const InTheWay way = ground.stand(prop).way;
        if (way == InTheWay::another || way == InTheWay::beyond) {
            ++out.obstructed;
            continue;
        }
        props.put(prop);
        ++out.next_id;
        ++out.count;
    }
    return out;
}

std::vector<Spot> places_along(const std::vector<Spot>& line, double apart, bool smooth) {
    if (line.empty()) return {};
    apart = std::max(1.0, apart);
    std::vector<Spot> way;
    if (!smooth || line.size() < 3) {
        way = line;
    } else {
        const auto at = [&](std::ptrdiff_t i) {
            return line[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(i, 0, std::ssize(line) - 1))];
        };
        for (std::ptrdiff_t i = 0; i + 1 < std::ssize(line); ++i)
            for (int part = 0; part < kCurveParts; ++part) {
                const double t = double(part) / kCurveParts;
                const Spot a = at(i - 1), b = at(i), c = at(i + 1), d = at(i + 2);
                const auto curve = [t](double p0, double p1, double p2, double p3) {
                    return 0.5 * (2 * p1 + (p2 - p0) * t + (2 * p0 - 5 * p1 + 4 * p2 - p3) * t * t +
                                  (3 * p1 - p0 - 3 * p2 + p3) * t * t * t);
                };
                way.push_back({curve(a.x, b.x, c.x, d.x), curve(a.y, b.y, c.y, d.y)});
            }
        way.push_back(line.back());
    }
    std::vector<Spot> out{way.front()};
    double left = apart;
    for (std::size_t i = 0; i + 1 < way.size(); ++i) {
        Spot from = way[i];
        const Spot to = way[i + 1];
        double length = std::hypot(to.x - from.x, to.y - from.y);
        while (length >= left) {
            const double share = left / length;
            from = {from.x + (to.x - from.x) * share, from.y + (to.y - from.y) * share};
            out.push_back(from);
            length -= left;
            left = apart;
        }
        left -= length;
    }
    return out;
}

std::int16_t facing(Point from, Point to, bool freely) {
    if (from == to) return 0;
    // Its front looks down, which is a quarter on from the way to the right.
    const double angle = std::atan2(to.y - from.y, to.x - from.x) * (kFullTurn / 2.0) / std::numbers::pi - 900;
    const int turn = static_cast<int>(std::lround(angle));
    if (freely) return turned_by(turn, 0);
    return turned_by(static_cast<int>(std::lround(double(turn) / kDegreesStep)) * kDegreesStep, 0);
}

} // namespace vic::edit
