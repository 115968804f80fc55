#include "parcel/walking.hpp"

#include <algorithm>
#include <set>
#include <string>

#include "level/standing.hpp"
#include "outline/areas.hpp"
#include "outline/movers.hpp"
#include "outline/solids.hpp"
#include "outline/surfaces.hpp"
#include "outline/thickness.hpp"
#include "parcel/things.hpp"
#include "store/format.hpp"
#include "store/format_walk.hpp"

namespace vic::parcel {

using level::Layer;
using level::Level;
using level::Project;
using store::to_json;

namespace {

Json points_json(const std::vector<Point>& points) {
    Json out = Json::array();
    for (const Point p : points) {
        out.push_back(p.x);
        out.push_back(p.y);
    }
    return out;
}

Json outlines_json(const std::vector<outline::Outline>& outlines) {
    Json out = Json::array();
    for (const auto& o : outlines) out.push_back({{"hole", o.hole}, {"points", points_json(o.points)}});
    return out;
}

// Outlines and one-way edges as the project asks for them, each with its number among the surfaces.
void put_traced(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds,
                const outline::Trace& trace, std::vector<level::Notes>& surfaces) {
    static const char* sides[4] = {"north", "east", "south", "west"};
    const outline::Surfaced told = outline::with_surfaces(
        project, level, kinds, outline::for_engine(project, level, outline::outlines(trace)), surfaces);
    j["outlines"] = outlines_json(told.outlines);
    for (std::size_t i = 0; i < told.of.size(); ++i)
        if (std::any_of(told.of[i].begin(), told.of[i].end(), [](std::uint32_t s) { return s != 0; }))
            j["outlines"][i]["surfaces"] = told.of[i];
    const outline::SurfacedEdges edges =
        outline::with_surfaces(project, level, kinds, outline::one_way_edges(trace), surfaces);
    j["one_way"] = Json::array();
    for (std::size_t i = 0; i < edges.edges.size(); ++i) {
        const outline::OneWayEdge& e = edges.edges[i];
        j["one_way"].push_back({{"from", to_json(e.from)}, {"to", to_json(e.to)}, {"side", sides[e.side]}});
        if (edges.of[i] != 0) j["one_way"].back()["surface"] = edges.of[i];
    }
}

// What blocks as solid shapes, as the project asks for them.
void put_solids(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds) {
    if (project.engine_shapes == level::EngineShapes::outlines) return;
    const outline::Solids all = outline::solids(level, kinds, project.engine_shapes);
    j["parts"] = Json::array();
    for (const level::Polygon& part : all.parts) j["parts"].push_back(points_json(part));
    if (project.engine_shapes == level::EngineShapes::parts) return;
    j["boxes"] = Json::array();
    for (const Box& box : all.boxes) j["boxes"].push_back(to_json(box));
}

// Whether anything that stands on the layer blocks.
bool any_blocks(const level::PropKinds& kinds, const Layer& layer) {
    bool out = false;
    for (const level::Prop& prop : layer.props())
        if (!out) kinds.each_piece(prop, [&](const level::Piece& piece) { out = out || piece.kind->blocks; });
    return out;
}

// The collision classes of what blocks, by name; none where nothing has one.
std::vector<std::string> blocking_classes(const Level& level, const outline::Kinds& kinds) {
    std::vector<std::string> out = outline::classes_in(level, kinds);
    if (out.size() == 1 && out[0].empty()) out.clear();
    return out;
}

} // namespace

bool props_block(const Project& project, const Level& level) {
    const level::PropKinds kinds(project, level);
    return std::any_of(level.layers.begin(), level.layers.end(),
                       [&](const level::LayerRef& l) { return any_blocks(kinds, *l); });
}

void put_blocking(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds,
                  std::vector<level::Notes>& surfaces) {
    put_traced(j, project, level, kinds, outline::trace(level, kinds), surfaces);
    put_solids(j, project, level, kinds);
    for (const std::string& name : blocking_classes(level, kinds)) {
        outline::Kinds of_class = kinds;
        of_class.collision_class = &name;
        Json own{{"name", name}};
        put_traced(own, project, level, of_class, outline::trace(level, of_class), surfaces);
        put_solids(own, project, level, of_class);
        j["collision_classes"].push_back(std::move(own));
    }
}

// As in the level's file, but for its size.
Json walker_json(const level::Walker& walker) {
    Json j{{"size", {walker.width, walker.height}}};
    j.update(store::walker_json(walker));
    j.erase("width");
    j.erase("height");
    return j;
}

void put_walking(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds,
                 std::vector<level::Notes>& surfaces) {
    for (const level::Mover& m : project.movers) {
        Json mover{{"name", m.name}, {"passes", m.passes}};
        if (outline::passes_any(level, kinds, m)) {
            outline::Kinds for_it = kinds;
            for_it.passes = &m.passes;
            put_traced(mover, project, level, for_it, outline::trace_for(level, kinds, m), surfaces);
        }
        j["movers"].push_back(std::move(mover));
    }
    for (const level::AreaKind& k : project.area_kinds)
        if (const auto told = outline::told_outlines(project, level, k.id); !told.empty())
            j["telling"].push_back({{"name", k.name},
                                    {"means", store::area_means_words()[static_cast<std::size_t>(k.means)]},
                                    {"colour", to_json(k.colour)},
                                    {"outlines", outlines_json(told)}});
    store::put_tries(j, level);
    if (surfaces.size() > 1)
        for (const level::Notes& notes : surfaces) j["surfaces"].push_back(notes_json(project, notes));
}

} // namespace vic::parcel
