// The smallest change that brings a ledge within reach.
#include <algorithm>
#include <memory>
#include <set>

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

} // namespace

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
    const Point aim{(far.around.x + far.around.right()) / 2, far.around.bottom()};
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
        if (now && then.ledges()[*now].gets != Gets::not_reached &&
            then.ledges()[*now].around.bottom() <= far.around.bottom() && then.reachable() > reach.reachable())
            return cell;
    }
    return std::nullopt;
}

} // namespace vic::walk
