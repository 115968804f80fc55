// What a level blocks and where one gets to, on the command line.
#include "base/files.hpp"
#include "cli/commands.hpp"
#include "outline/convex.hpp"
#include "outline/rectangles.hpp"
#include "outline/svg.hpp"
#include "outline/thickness.hpp"
#include "outline/trace.hpp"
#include "store/project_files.hpp"
#include "walk/reach.hpp"
#include "walk/soak.hpp"

namespace vic::cli {

namespace {

Json point(Point p) { return {p.x, p.y}; }

Json outline_json(const outline::Outline& o) {
    Json points = Json::array();
    for (const Point p : o.points) points.push_back(point(p));
    return {{"hole", o.hole}, {"points", points}};
}

} // namespace

Outcome trace_level(const std::string& dir, const std::string& id, const std::optional<std::string>& of_class,
                    int deviation, int thinnest, const std::string& svg) {
    static constexpr const char* sides[4] = {"north", "east", "south", "west"};
    level::Project project = store::load(dir);
    project.deviation = deviation;
    project.thinnest = thinnest;
    const level::Level& level = level_of(project, id, dir);
    const level::TileTable tiles(project, level);
    const level::PropKinds props(project, level);
    outline::Kinds kinds{tiles, props};
    if (of_class) kinds.collision_class = &*of_class;
    const outline::Trace traced = outline::trace(level, kinds);
    const auto outlines = outline::for_engine(project, level, outline::outlines(traced));
    const auto parts = outline::convex_parts(outlines);
    const auto boxes = outline::fewest_rectangles(level.size, outline::full_cells(level, kinds));
    const auto edges = outline::one_way_edges(traced);
    std::int64_t area = 0;
    int holes = 0;
    std::size_t corners = 0;
    Outcome out;
    out.json = {
        {"outlines", Json::array()}, {"parts", Json::array()}, {"boxes", Json::array()}, {"one_way", Json::array()}};
    for (const auto& o : outlines) {
        area += outline::area2(o);
        holes += o.hole;
        corners += o.points.size();
        out.json["outlines"].push_back(outline_json(o));
    }
    for (const auto& part : parts) {
        Json corner = Json::array();
        for (const Point p : part) corner.push_back(point(p));
        out.json["parts"].push_back(std::move(corner));
    }
    for (const Box& b : boxes) out.json["boxes"].push_back({b.x, b.y, b.w, b.h});
    for (const auto& e : edges)
        out.json["one_way"].push_back({{"from", point(e.from)}, {"to", point(e.to)}, {"side", sides[e.side]}});
    if (!svg.empty()) write_file(svg, outline::svg(level, outlines, edges));
    if (of_class) out.json["class"] = *of_class;
    out.json["area"] = static_cast<double>(area) / 2 / outline::kUnit / outline::kUnit;
    out.json["components"] = static_cast<int>(outlines.size()) - holes;
    out.json["holes"] = holes;
    out.json["vertices"] = corners;
    out.json["rectangles"] = boxes.size();
    out.json["shapes"] = traced.shape_count();
    out.text = std::to_string(traced.shape_count()) + " shapes, " + std::to_string(outlines.size()) +
               " outlines with " + std::to_string(corners) + " corners, " + std::to_string(parts.size()) +
               " convex parts, " + std::to_string(boxes.size()) + " rectangles, " + std::to_string(edges.size()) +
               " one-way edges";
    return out;
}

Outcome soak(const std::string& dir, const std::string& id, const std::optional<Point>& from) {
    static constexpr const char* sides[4] = {"north", "east", "south", "west"};
    const level::Project project = store::load(dir);
    const level::Level& level = level_of(project, id, dir);
    if (from && !level.cells().contains(*from))
        throw InputError(say("Cell %1, %2 lies outside the level", from->x, from->y), dir,
                         Text::verbatim("levels/" + level.id),
                         say("The level has %1 × %2 cells, counted from 0", level.size.w, level.size.h));
    const level::TileTable tiles(project, level);
    const level::PropKinds props(project, level);
    const Point start =
        from ? Point{from->x * outline::kUnit + outline::kUnit / 2, from->y * outline::kUnit + outline::kUnit / 2}
             : walk::start_of(level);
    const walk::Soaked soaked = walk::soak(level, {tiles, props}, start);
    Outcome out;
    out.json = {{"wet", soaked.cells().count()},   {"shut_in", soaked.shut_in}, {"rims", Json::array()},
                {"narrow", Json::array()},         {"dry", Json::array()},      {"dead_ends", Json::array()},
                {"unreached_marks", Json::array()}};
    for (const auto& rim : soaked.rims)
        out.json["rims"].push_back({{"side", sides[rim.side]}, {"from", rim.from}, {"to", rim.to}});
    for (const auto& n : soaked.narrow)
        out.json["narrow"].push_back({{"place", {n.place.x, n.place.y, n.place.w, n.place.h}}, {"width", n.width}});
    for (const auto& d : soaked.dry) {
        const Box b = d.cells.bounds();
        out.json["dry"].push_back({{"cells", d.count}, {"around", {b.x, b.y, b.w, b.h}}});
    }
    for (const auto& d : soaked.dead_ends)
        out.json["dead_ends"].push_back({{"cells", {d.cells.x, d.cells.y, d.cells.w, d.cells.h}},
                                         {"end", {d.end.x, d.end.y}},
                                         {"length", d.length}});
    for (const level::Mark& m : level.marks)
        if (!soaked.touches(m.cells)) out.json["unreached_marks"].push_back(m.id);
    out.text = soaked.shut_in
                   ? "no room for the walker there"
                   : std::to_string(soaked.cells().count()) + " cells are wet, " + std::to_string(soaked.rims.size()) +
                         " open stretches of the rim, " + std::to_string(soaked.narrow.size()) + " narrow places, " +
                         std::to_string(soaked.dead_ends.size()) + " dead ends, " + std::to_string(soaked.dry.size()) +
                         " places stay dry";
    return out;
}

Outcome reach(const std::string& dir, const std::string& id) {
    static constexpr const char* words[3] = {"reached", "no way back", "not reached"};
    const level::Project project = store::load(dir);
    const level::Level& level = level_of(project, id, dir);
    if (level.view != level::View::from_the_side)
        throw InputError("The level is seen from above", dir, Text::verbatim("levels/" + level.id),
                         "Ask soak where one gets to there");
    const walk::Reach reach(project, level);
    Outcome out;
    out.json = {{"standable", reach.standable()},
                {"reachable", reach.reachable()},
                {"unreached_marks", Json::array()},
                {"strips", Json::array()}};
    for (const level::Mark& m : level.marks) {
        const int u = outline::kUnit;
        if (m.kind != level::MarkKind::start && m.figure == 0 &&
            !reach.touches({m.cells.x * u, m.cells.y * u, m.cells.w * u, m.cells.h * u}))
            out.json["unreached_marks"].push_back(m.id);
    }
    for (const walk::Strip& s : reach.strips())
        out.json["strips"].push_back({{"y", s.y},
                                      {"from", s.from},
                                      {"to", s.to},
                                      {"gets", words[static_cast<std::size_t>(reach.ledges()[s.ledge].gets)]}});
    out.text = !reach.begins() ? "nothing to stand on at the start"
                               : std::to_string(reach.reachable()) + " of " + std::to_string(reach.standable()) +
                                     " cells that one can stand on are reached, " +
                                     std::to_string(out.json["unreached_marks"].size()) + " marks are not";
    return out;
}

} // namespace vic::cli
