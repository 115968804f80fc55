#include "parcel/walking.hpp"

#include <algorithm>
#include <set>
#include <string>

#include "level/standing.hpp"
#include "outline/areas.hpp"
#include "outline/movers.hpp"
#include "outline/solids.hpp"
#include "store/format.hpp"
#include "store/format_walk.hpp"

namespace vic::parcel {

using level::Layer;
using level::Level;
using level::Project;
using store::to_json;

namespace {

Json outlines_json(const std::vector<outline::Outline>& outlines) {
    Json out = Json::array();
    for (const auto& o : outlines) {
        Json points = Json::array();
        for (const Point p : o.points) {
            points.push_back(p.x);
            points.push_back(p.y);
        }
        out.push_back({{"hole", o.hole}, {"points", points}});
    }
    return out;
}

Json one_way_json(const outline::Trace& trace) {
    static const char* sides[4] = {"north", "east", "south", "west"};
    Json out = Json::array();
    for (const auto& e : outline::one_way_edges(trace))
        out.push_back({{"from", to_json(e.from)}, {"to", to_json(e.to)}, {"side", sides[e.side]}});
    return out;
}

// What blocks as solid shapes, as the project asks for them.
void put_solids(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds) {
    if (project.engine_shapes == level::EngineShapes::outlines) return;
    const outline::Solids all = outline::solids(level, kinds, project.engine_shapes);
    j["parts"] = Json::array();
    for (const level::Polygon& part : all.parts) {
        Json points = Json::array();
        for (const Point p : part) {
            points.push_back(p.x);
            points.push_back(p.y);
        }
        j["parts"].push_back(std::move(points));
    }
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

// The collision classes of what blocks, by name; none where no layer has one.
std::set<std::string> blocking_classes(const Project& project, const Level& level) {
    std::set<std::string> out;
    const level::PropKinds kinds(project);
    for (const level::LayerRef& layer : level.layers)
        if (layer->blocks() || any_blocks(kinds, *layer)) out.insert(layer->collision_class);
    if (out == std::set<std::string>{""}) out.clear();
    return out;
}

} // namespace

bool props_block(const Project& project, const Level& level) {
    const level::PropKinds kinds(project);
    return std::any_of(level.layers.begin(), level.layers.end(),
                       [&](const level::LayerRef& l) { return any_blocks(kinds, *l); });
}

void put_blocking(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds) {
    const outline::Trace trace = outline::trace(level, kinds);
    j["outlines"] = outlines_json(outline::outlines(trace));
    j["one_way"] = one_way_json(trace);
    put_solids(j, project, level, kinds);
    for (const std::string& name : blocking_classes(project, level)) {
        outline::Kinds of_class = kinds;
        of_class.collision_class = &name;
        const outline::Trace own = outline::trace(level, of_class);
        j["collision_classes"].push_back(
            {{"name", name}, {"outlines", outlines_json(outline::outlines(own))}, {"one_way", one_way_json(own)}});
        put_solids(j["collision_classes"].back(), project, level, of_class);
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

void put_walking(Json& j, const Project& project, const Level& level, const outline::Kinds& kinds) {
    for (const level::Mover& m : project.movers) {
        Json mover{{"name", m.name}, {"passes", m.passes}};
        if (outline::passes_any(level, m)) {
            const outline::Trace own = outline::trace_for(level, kinds, m);
            mover["outlines"] = outlines_json(outline::outlines(own));
            mover["one_way"] = one_way_json(own);
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
}

} // namespace vic::parcel
