#include "edit/lift.hpp"

namespace vic::edit {

using namespace level;

std::optional<LaidStroke> stroke_of(const Project& before, const Project& after) {
    std::optional<LaidStroke> out;
    for (const auto& now : after.levels) {
        const Level* was = before.level(now->id);
        if (!was || was == now.get()) continue;
        if (out || was->size != now->size) return std::nullopt;
        for (const LayerRef& l : now->layers) {
            const Layer* old = was->layer(l->id);
            // An overlay that was made for the stroke came with it.
            if (old == l.get() || !l->tiles()) continue;
            const Grid none(l->grid().size());
            const auto boxes = differences(old ? old->grid() : none, l->grid());
            if (boxes.empty()) continue;
            if (out) return std::nullopt; // more than one layer
            Box all;
            for (const Box& b : boxes) all = united(all, l->grain().in_level(b));
            out = LaidStroke{now->id, l->id, all};
        }
    }
    return out;
}

Lifted lift(const Project& now, const join::Rules& rules, const Project& before, const Project& after,
            const LaidStroke& stroke, LayerId to) {
    const Level& level = *now.level(stroke.level);
    Lifted out{level, 0, 0};
    const Level* was = before.level(stroke.level);
    const Level* then = after.level(stroke.level);
    const Layer* here = level.layer(stroke.layer);
    const Layer* target = level.layer(to);
    if (!was || !then || !here || !here->tiles() || !target || !target->tiles() || target->grain() != here->grain() ||
        to == stroke.layer || level.size != then->size)
        return out;
    const Layer* old = was->layer(stroke.layer);
    const Layer* laid = then->layer(stroke.layer);
    if (!laid) return out;
    Grid& from_grid = out.level.edit(stroke.layer).grid();
    Grid& to_grid = out.level.edit(to).grid();
    const auto own = [](const Grid& g, Point p) { // what was laid there, not what the joins made of it
        const Cell c = g.cell(p);
        const MaterialId m = g.material(p);
        return std::pair(m != 0 && !c.pinned() ? Cell{} : c, m);
    };
    Box moved;
    const Box cells = here->grain().in_layer(stroke.cells);
    for (int y = cells.y; y < cells.bottom(); ++y)
        for (int x = cells.x; x < cells.right(); ++x) {
            const Point p{x, y};
            const auto a = old ? own(old->grid(), p) : std::pair(Cell{}, MaterialId{0});
            const auto b = own(laid->grid(), p);
            if (a == b) continue; // joined anew at most
            if (own(here->grid(), p) != b) {
                ++out.changed;
                continue;
            }
            from_grid.set(p, a.first, a.second);
            if (b.first.bits != 0 || b.second != 0) to_grid.set(p, b.first, b.second);
            moved = united(moved, {x, y, 1, 1});
            ++out.cells;
        }
    if (moved.empty()) return out;
    join::resolve(rules, from_grid, moved.grown(1), stroke.layer);
    join::resolve(rules, to_grid, moved.grown(1), to);
    return out;
}

} // namespace vic::edit
