// The smallest change that brings a ledge within reach.
#include <algorithm>
#include <cstdlib>
#include <map>
#include <memory>
#include <set>
#include <utility>

#include "outline/solid.hpp"
#include "walk/reach.hpp"

namespace vic::walk {

using outline::kUnit;

namespace {

// With a cell that blocks on a layer of its own.
level::Level with_cell(const level::Level& level, Point cell) {
    level::Level out = level;
    level::Layer layer;
    layer.id = 0x7FFFFFFFU;
    level::Blockers blockers(level.size);
    blockers.set(cell, level::TileShape::full);
    layer.content = std::move(blockers);
    out.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    return out;
}

// The cells that anything blocks in, or that the walker or a mark takes up.
std::set<Point> taken(const level::Project& project, const level::Level& level, const Box& cells) {
    std::set<Point> out;
    const level::TileTable tiles(project, level);
    const level::PropKinds props(project, level);
    std::vector<outline::SolidCode> codes(static_cast<std::size_t>(cells.size().area()));
    outline::Forms forms;
    outline::read_solid(level, {tiles, props}, cells, codes.data(), static_cast<std::size_t>(cells.w), forms);
    for (int y = 0; y < cells.h; ++y)
        for (int x = 0; x < cells.w; ++x)
            if (codes[static_cast<std::size_t>(y) * static_cast<std::size_t>(cells.w) + static_cast<std::size_t>(x)] !=
                outline::kOpen)
                out.insert(cells.corner() + Point{x, y});
    for (const level::Mark& m : level.marks)
        for (int y = m.cells.y; y < m.cells.bottom(); ++y)
            for (int x = m.cells.x; x < m.cells.right(); ++x) out.insert({x, y});
    return out;
}

// What a cell that is shaped so is as a blocker; nothing for a shape off the lattice.
std::optional<level::TileShape> as_blocker(outline::SolidCode code) {
    using level::TileShape;
    static constexpr TileShape shapes[] = {TileShape::none,     TileShape::full,     TileShape::slope_ne,
                                           TileShape::slope_se, TileShape::slope_sw, TileShape::slope_nw};
    if (outline::solid_of(code) == outline::kForm) return std::nullopt;
    if (outline::solid_of(code) != outline::kOpen) return shapes[outline::solid_of(code)];
    switch (outline::one_way_of(code)) {
        case 1:
            return TileShape::one_way_north;
        case 2:
            return TileShape::one_way_east;
        case 4:
            return TileShape::one_way_south;
        case 8:
            return TileShape::one_way_west;
        default:
            return std::nullopt;
    }
}

// A mass that can be moved: its cells with what they are.
using Mass = std::map<Point, level::TileShape>;

// The mass under a ledge; empty where it hangs together with too much, or has a shape that cannot be told.
Mass mass_under(const level::Level& level, const outline::Kinds& kinds, const Reach& reach, std::size_t ledge) {
    const Box around = reach.ledges()[ledge].around;
    constexpr int kFar = static_cast<int>(kMostShifted);
    const Point first{floor_div(around.x, kUnit), floor_div(around.y, kUnit)};
    const Box box =
        intersection(Box{first.x, first.y, around.w / kUnit + 1, around.h / kUnit + 1}.grown(kFar), level.cells());
    std::vector<outline::SolidCode> codes(static_cast<std::size_t>(box.size().area()));
    outline::Forms forms;
    outline::read_solid(level, kinds, box, codes.data(), static_cast<std::size_t>(box.w), forms);
    const auto code = [&](Point p) {
        return codes[static_cast<std::size_t>(p.y - box.y) * static_cast<std::size_t>(box.w) +
                     static_cast<std::size_t>(p.x - box.x)];
    };
    Mass out;
    std::vector<Point> open;
    const auto take = [&](Point p) {
        if (!box.contains(p) || code(p) == outline::kOpen || out.contains(p)) return true;
        const auto shape = as_blocker(code(p));
        const bool rim = p.x == 0 || p.y == 0 || p.x == level.size.w - 1 || p.y == level.size.h - 1;
        if (!shape || rim || out.size() >= kMostShifted) return false;
        out.emplace(p, *shape);
        open.push_back(p);
        return true;
    };
    for (const Strip& s : reach.strips()) {
        if (s.ledge != ledge) continue;
        for (int x = floor_div(s.from, kUnit); x <= floor_div(s.to - 1, kUnit); ++x)
            if (!take({x, floor_div(s.y, kUnit)})) return {};
    }
    while (!open.empty()) {
        const Point at = open.back();
        open.pop_back();
        for (const Point step : {Point{1, 0}, {0, 1}, {-1, 0}, {0, -1}})
            if (!take(at + step)) return {};
    }
    return out;
}

level::Level with_shifted(const level::Level& level, const Mass& mass, Point by) {
    level::Level out = level;
    level::Layer layer;
    layer.id = 0x7FFFFFFFU;
    level::Blockers blockers(level.size);
    for (const auto& [cell, shape] : mass) blockers.set(cell, level::TileShape::opens);
    for (const auto& [cell, shape] : mass) blockers.set(cell + by, shape);
    layer.content = std::move(blockers);
    out.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    return out;
}

} // namespace

std::optional<Shift> shift_for(const level::Project& project, const level::Level& level, const Reach& reach,
                               std::size_t ledge, int most) {
    if (!reach.lack_of(ledge)) return std::nullopt;
    const level::TileTable tiles(project, level);
    const level::PropKinds props(project, level);
    const Mass mass = mass_under(level, {tiles, props}, reach, ledge);
    if (mass.empty()) return std::nullopt;
    level::Region cells;
    for (const auto& [cell, shape] : mass) cells.add(cell);
    constexpr int kFar = 3;
    const std::set<Point> not_free = taken(project, level, intersection(cells.bounds().grown(kFar), level.cells()));
    const Ledge& far = reach.ledges()[ledge];
    std::vector<Strip> mine, all; // of the ledge; of all that moves, from which one may get up to it
    for (const Strip& s : reach.strips()) {
        if (s.ledge == ledge) mine.push_back(s);
        if (cells.contains({floor_div((s.from + s.to) / 2, kUnit), floor_div(s.y, kUnit)})) all.push_back(s);
    }
    all.insert(all.end(), mine.begin(), mine.end());
    const auto comes_near = [&](Point by) {
        return std::any_of(reach.strips().begin(), reach.strips().end(), [&](const Strip& from) {
            if (reach.ledges()[from.ledge].gets == Gets::not_reached) return false;
            return std::any_of(all.begin(), all.end(), [&](Strip to) {
                to.y += by.y * kUnit;
                to.from += by.x * kUnit;
                to.to += by.x * kUnit;
                const Reach::Lack lack = reach.lack_between(from, to); // an estimate
                return lack.height <= kUnit && lack.gap <= 2 * kUnit;
            });
        });
    };
    std::vector<std::pair<int, Point>> ways;
    for (int y = -kFar; y <= kFar; ++y)
        for (int x = -kFar; x <= kFar; ++x) {
            const Point by{x, y};
            const bool room = std::all_of(mass.begin(), mass.end(), [&](const auto& m) {
                const Point to = m.first + by;
                return level.cells().contains(to) && (mass.contains(to) || not_free.count(to) == 0);
            });
            if ((x != 0 || y != 0) && room && comes_near(by)) ways.emplace_back(std::abs(x) + std::abs(y), by);
        }
    std::sort(ways.begin(), ways.end());
    const Point aim{(mine.front().from + mine.front().to) / 2, mine.front().y}; // the topmost of it
    for (const auto& [length, by] : ways) {
        if (--most < 0) break;
        const Reach then(project, with_shifted(level, mass, by));
        const Point there{aim.x + by.x * kUnit, aim.y + by.y * kUnit};
        const auto now = then.ledge_under(there);
        if (now && then.ledges()[*now].gets != Gets::not_reached &&
            then.ledges()[*now].around.y <= far.around.y + by.y * kUnit && then.reachable() > reach.reachable())
            return Shift{cells, by};
    }
    return std::nullopt;
}

std::optional<Point> remedy_for(const level::Project& project, const level::Level& level, const Reach& reach,
                                std::size_t ledge, int most) {
    const auto lack = reach.lack_of(ledge);
    if (!lack) return std::nullopt;
    const Ledge& far = reach.ledges()[ledge];
    // Cells onto which one could jump, and from which on to it, were nothing in the way; the nearest to it first.
    const auto cells_of = [](const Box& box) {
        const int x = floor_div(box.x, kUnit), y = floor_div(box.y, kUnit);
        return Box{x, y, floor_div(box.right() - 1, kUnit) - x + 1, floor_div(box.bottom() - 1, kUnit) - y + 1};
    };
    const Box there = cells_of(far.around);
    constexpr int kWide = 10;
    const Box all = intersection(there.grown(kWide), level.cells());
    const std::set<Point> not_free = taken(project, level, all);
    std::vector<Strip> mine, reached;
    const Box seen{(all.x - kWide) * kUnit, (all.y - kWide) * kUnit, (all.w + 2 * kWide) * kUnit,
                   (all.h + 2 * kWide) * kUnit};
    for (const Strip& s : reach.strips()) {
        if (s.ledge == ledge) mine.push_back(s);
        if (reach.ledges()[s.ledge].gets != Gets::not_reached && seen.contains(Point{s.from, s.y}))
            reached.push_back(s);
    }
    const auto goes = [&](const Strip& from, const Strip& to) {
        const Reach::Lack lack = reach.lack_between(from, to);
        return lack.height == 0 && lack.gap == 0;
    };
    const int half = level.walker.width / 2;
    std::vector<std::pair<int, Point>> tries;
    for (int y = all.y; y < all.bottom(); ++y)
        for (int x = all.x; x < all.right(); ++x) {
            if (not_free.count({x, y}) != 0) continue;
            const Strip top{y * kUnit, x * kUnit - half, (x + 1) * kUnit + half, 0};
            if (std::none_of(mine.begin(), mine.end(), [&](const Strip& s) { return goes(top, s); }) ||
                std::none_of(reached.begin(), reached.end(), [&](const Strip& s) { return goes(s, top); }))
                continue;
            const int aside = std::max({0, there.x - x, x - there.right() + 1});
            const int down = std::abs(y - there.bottom());
            tries.emplace_back(aside + down, Point{x, y});
        }
    std::sort(tries.begin(), tries.end());
    const Point aim{(mine.front().from + mine.front().to) / 2, mine.front().y}; // the topmost of it
    if (tries.empty() || most <= 0) return std::nullopt;
    // One of our own follows from try to try, where it can.
    Reach then(project, with_cell(level, tries.front().second));
    Point last = tries.front().second;
    for (const auto& [away, cell] : tries) {
        if (--most < 0) break;
        const level::Level with = with_cell(level, cell);
        const std::vector<Box> changed{{last.x, last.y, 1, 1}, {cell.x, cell.y, 1, 1}};
        if (!(cell == last) && !then.follow(project, with, changed)) then = Reach(project, with);
        last = cell;
        const auto now = then.ledge_under(aim);
        if (now && then.ledges()[*now].gets != Gets::not_reached && then.ledges()[*now].around.y <= far.around.y &&
            then.reachable() > reach.reachable())
            return cell;
    }
    return std::nullopt;
}

} // namespace vic::walk
