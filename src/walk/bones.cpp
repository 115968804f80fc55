#include "walk/bones.hpp"

#include "outline/areas.hpp"
#include "outline/movers.hpp"
#include "outline/thickness.hpp"
#include "outline/trace.hpp"
#include "store/format.hpp"
#include "store/format_walk.hpp"
#include "walk/proofs.hpp"

namespace vic::walk {

namespace {

vicinum::Vec vec(Point p) { return {p.x, p.y}; }

std::vector<vicinum::Outline> outlines_of(const std::vector<outline::Outline>& all) {
    std::vector<vicinum::Outline> out;
    for (const outline::Outline& o : all) {
        out.push_back({o.hole, {}, {}});
        for (const Point p : o.points) out.back().points.push_back(vec(p));
    }
    return out;
}

std::vector<vicinum::OneWay> one_way_of(const outline::Trace& trace) {
    std::vector<vicinum::OneWay> out;
    for (const outline::OneWayEdge& e : outline::one_way_edges(trace))
        out.push_back({vec(e.from), vec(e.to), level::side_words()[static_cast<std::size_t>(e.side)], 0});
    return out;
}

vicinum::Walker walker_of(const level::Walker& w) {
    vicinum::Walker out;
    out.width = w.width;
    out.height = w.height;
    out.speed = w.speed;
    out.jump = w.jump;
    out.run = w.run;
    out.least_jump = w.least_jump;
    out.gravity = w.gravity;
    out.fastest = w.fastest;
    out.grace_edge = w.grace_edge;
    out.grace_landing = w.grace_landing;
    out.wall_jump = w.wall_jump;
    out.climb = w.climb;
    out.swim = w.swim;
    out.foot = w.foot;
    out.ways = w.ways;
    out.slack = {w.slack.w, w.slack.h};
    out.mover = w.mover;
    return out;
}

} // namespace

vicinum::Level bones_of(const level::Project& project, const level::Level& level) {
    const auto& marks = store::mark_words();
    const auto& sides = store::side_kind_words();
    const auto& means = store::area_means_words();
    vicinum::Level out;
    out.id = level.id;
    out.name = level.name;
    out.from_the_side = level.view == level::View::from_the_side;
    out.size = {level.size.w, level.size.h};
    out.cell = {level.cell.w, level.cell.h};
    out.isometric = level.lattice == LatticeKind::isometric;
    out.frame = {level.frame.w, level.frame.h};
    out.walker = walker_of(level.walker);
    const level::TileTable tiles(project, level);
    const level::PropKinds props(project, level);
    const outline::Kinds kinds{tiles, props};
    const outline::Trace trace = outline::trace(level, kinds);
    out.outlines = outlines_of(outline::for_engine(project, level, outline::outlines(trace)));
    out.one_way = one_way_of(trace);
    out.props_merged = true;
    for (const level::Mover& m : project.movers) {
        vicinum::Mover mover{m.name, m.passes, outline::passes_any(level, kinds, m), {}, {}};
        if (mover.own) {
            const outline::Trace own = outline::trace_for(level, kinds, m);
            mover.outlines = outlines_of(outline::for_engine(project, level, outline::outlines(own)));
            mover.one_way = one_way_of(own);
        }
        out.movers.push_back(std::move(mover));
    }
    for (const level::AreaKind& k : project.area_kinds) {
        std::vector<outline::Outline> told = outline::told_outlines(project, level, k.id);
        if (!told.empty())
            out.telling.push_back({k.name,
                                   means[static_cast<std::size_t>(k.means)],
                                   {k.colour.r, k.colour.g, k.colour.b, k.colour.a},
                                   outlines_of(told)});
    }
    for (std::size_t i = 0; i < 4; ++i)
        out.sides[i] = {sides[static_cast<std::size_t>(level.sides[i].kind)], level.sides[i].to};
    for (const level::Mark& m : level.marks)
        out.marks.push_back({m.id,
                             m.name,
                             marks[static_cast<std::size_t>(m.kind)],
                             {m.cells.x, m.cells.y, m.cells.w, m.cells.h},
                             {},
                             {},
                             {}});
    for (const level::Probe& p : level.probes) out.probes.push_back({vec(p.at), p.blocks});
    for (const level::Proof& p : level.proofs) out.proofs.push_back(as_built(p));
    return out;
}

} // namespace vic::walk
