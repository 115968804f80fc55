#include "store/format_walk.hpp"

#include <algorithm>
#include <string>
#include <vector>

#include "level/limits.hpp"
#include "store/format.hpp"

namespace vic::store {

using namespace level;

namespace {

template <class Enum>
const std::string& word(const std::vector<std::string>& words, Enum value) {
    return words.at(static_cast<std::size_t>(value));
}

constexpr int kMostSlack = 1 << 14;
constexpr int kMostGrace = 10'000;
constexpr int kFarthestTry = 2 * kMostCells * 64; // 1/64 cells

// The numbers that only some walkers have, by their names in files.
struct Real {
    const char* name;
    double Walker::*value;
    double least, most;
};
constexpr Real kReals[] = {{"run", &Walker::run, 0, 1000},
                           {"least_jump", &Walker::least_jump, 0, 1000},
                           {"gravity", &Walker::gravity, 0.1, 10'000},
                           {"fastest", &Walker::fastest, 0.1, 1000},
                           {"wall_jump", &Walker::wall_jump, 0, 1000},
                           {"climb", &Walker::climb, 0, 1000},
                           {"swim", &Walker::swim, 0, 1000}};
struct Whole {
    const char* name;
    int Walker::*value;
    int least, most;
};
constexpr Whole kWholes[] = {{"grace_edge", &Walker::grace_edge, 0, kMostGrace},
                             {"grace_landing", &Walker::grace_landing, 0, kMostGrace},
                             {"foot", &Walker::foot, 0, 64 * 64},
                             {"ways", &Walker::ways, 0, 8}};
struct InHeight { // centimetres, but for the slope
    const char* name;
    int Upright::*value;
    int least, most;
};
constexpr InHeight kInHeight[] = {{"wide", &Upright::wide, 1, 10'000},  {"tall", &Upright::tall, 1, 10'000},
                                  {"eyes", &Upright::eyes, 0, 10'000},  {"step", &Upright::step, 0, 10'000},
                                  {"slope", &Upright::slope, 0, 80},    {"pace", &Upright::pace, 1, 100'000},
                                  {"jump", &Upright::jump, 0, 100'000}, {"drop", &Upright::drop, 0, 1'000'000}};

} // namespace

Json walker_json(const Walker& walker) {
    const Walker plain;
    Json j{{"width", walker.width}, {"height", walker.height}, {"speed", walker.speed}, {"jump", walker.jump}};
    for (const Real& r : kReals)
        if (walker.*r.value != plain.*r.value) j[r.name] = walker.*r.value;
    for (const Whole& w : kWholes)
        if (walker.*w.value != plain.*w.value) j[w.name] = walker.*w.value;
    for (const InHeight& u : kInHeight)
        if (walker.upright.*u.value != plain.upright.*u.value) j["upright"][u.name] = walker.upright.*u.value;
    if (walker.slack != plain.slack) j["slack"] = to_json(walker.slack);
    if (!walker.mover.empty()) j["mover"] = walker.mover;
    return j;
}

Walker read_walker(const Field& f) {
    Walker out;
    out.width = f["width"].number(1, 64 * 64);
    out.height = f["height"].number(1, 64 * 64);
    out.speed = f["speed"].real(0, 1000);
    out.jump = f["jump"].real(0, 1000);
    for (const Real& r : kReals)
        if (f.has(r.name)) out.*r.value = f[r.name].real(r.least, r.most);
    for (const Whole& w : kWholes)
        if (f.has(w.name)) out.*w.value = f[w.name].number(w.least, w.most);
    if (out.ways != 4 && out.ways != kAllWays) out.ways = 8;
    if (f.has("upright"))
        for (const InHeight& u : kInHeight)
            if (f["upright"].has(u.name)) out.upright.*u.value = f["upright"][u.name].number(u.least, u.most);
    if (f.has("slack")) out.slack = f["slack"].size(0, kMostSlack);
    if (f.has("mover")) out.mover = f["mover"].text(256);
    return out;
}

const std::vector<std::string>& area_means_words() {
    static const std::vector<std::string> words{"tells", "water", "ladder", "hazard", "exit"};
    return words;
}

void put_tables(Json& j, const Project& project) {
    for (const AreaKind& k : project.area_kinds)
        j["areas"].push_back({{"id", k.id},
                              {"name", k.name},
                              {"colour", to_json(k.colour)},
                              {"means", word(area_means_words(), k.means)}});
    for (const Mover& m : project.movers) {
        Json mover{{"name", m.name}};
        if (!m.passes.empty()) mover["passes"] = m.passes;
        j["movers"].push_back(std::move(mover));
    }
}

void read_tables(const Field& root, Project& project, std::set<std::uint32_t>& ids) {
    if (root.has("areas"))
        for (const Field& f : root["areas"].list(kMostAreaKinds)) {
            AreaKind k{static_cast<AreaKindId>(f["id"].integer(1, UINT32_MAX)), f["name"].text(256),
                       f["colour"].colour(), static_cast<AreaMeans>(f["means"].word(area_means_words()))};
            if (k.name.empty()) f["name"].refuse("An area has no name");
            for (const AreaKind& other : project.area_kinds)
                if (other.name == k.name) f["name"].refuse(say("Two areas are called \"%1\"", k.name));
            if (!ids.insert(k.id).second) f["id"].refuse("The id comes twice");
            project.area_kinds.push_back(std::move(k));
        }
    if (root.has("movers"))
        for (const Field& f : root["movers"].list(kMostMovers)) {
            Mover m{f["name"].text(256), {}};
            if (m.name.empty()) f["name"].refuse("A mover has no name");
            if (project.mover(m.name)) f["name"].refuse(say("Two movers are called \"%1\"", m.name));
            if (f.has("passes"))
                for (const Field& name : f["passes"].list(kMostClasses))
                    m.passes.push_back(name.text(4 * kMostClassLetters));
            std::sort(m.passes.begin(), m.passes.end());
            m.passes.erase(std::unique(m.passes.begin(), m.passes.end()), m.passes.end());
            project.movers.push_back(std::move(m));
        }
}

std::string read_class(const Field& f) {
    return f.has("collision_class") ? f["collision_class"].text(4 * kMostClassLetters) : std::string();
}

AreaKindId read_tells(const Field& f, const Project& project) {
    const auto id = static_cast<AreaKindId>(f["tells"].integer(1, UINT32_MAX));
    if (!project.area_kind(id)) f["tells"].refuse("It tells an area that the project does not have");
    return id;
}

void put_tries(Json& j, const Level& level) {
    for (const Probe& p : level.probes)
        j["probes"].push_back({{"id", p.id}, {"at", to_json(p.at)}, {"blocks", p.blocks}});
    for (const Proof& p : level.proofs) {
        Json proof{{"id", p.id}, {"name", p.name}, {"from", to_json(p.from)}};
        for (const Held& h : p.held) {
            Json held{h.ticks, h.keys};
            if (h.towards >= 0) held.push_back(h.towards);
            proof["held"].push_back(std::move(held));
        }
        for (const Point at : p.way) proof["way"].push_back(to_json(at));
        if (!p.mark.empty()) proof["mark"] = p.mark;
        j["proofs"].push_back(std::move(proof));
    }
}

namespace {

Proof read_proof(const Field& f) {
    Proof p;
    p.id = static_cast<std::uint32_t>(f["id"].integer(1, UINT32_MAX));
    p.name = f["name"].text(256);
    p.from = f["from"].point(-kFarthestTry, kFarthestTry);
    int left = kMostProofTicks;
    for (const Field& h : f["held"].list(kMostProofTicks)) {
        const auto of = h.list(3);
        if (of.size() < 2) h.refuse("What is held is a number of ticks, a number of keys, and where it was led");
        const Held held{of[0].number(1, kMostProofTicks), static_cast<std::uint8_t>(of[1].number(0, 63)),
                        static_cast<std::int16_t>(of.size() == 3 ? of[2].number(0, 359) : -1)};
        left -= held.ticks;
        if (left < 0) f["held"].refuse("A proof is at most half an hour long");
        p.held.push_back(held);
    }
    if (f.has("way"))
        for (const Field& at : f["way"].list(kMostProofTicks / kTicksOfWay + 2))
            p.way.push_back(at.point(-kFarthestTry, kFarthestTry));
    if (f.has("mark")) p.mark = f["mark"].text();
    return p;
}

} // namespace

void read_tries(const Field& root, Level& level) {
    std::set<std::uint32_t> ids;
    if (root.has("probes"))
        for (const Field& f : root["probes"].list(kMostProbes)) {
            const Probe p{static_cast<std::uint32_t>(f["id"].integer(1, UINT32_MAX)),
                          f["at"].point(-kFarthestTry, kFarthestTry), f["blocks"].yes()};
            if (!ids.insert(p.id).second) f["id"].refuse("The id comes twice");
            level.probes.push_back(p);
        }
    ids.clear();
    if (root.has("proofs"))
        for (const Field& f : root["proofs"].list(kMostProofs)) {
            Proof p = read_proof(f);
            if (!ids.insert(p.id).second) f["id"].refuse("The id comes twice");
            level.proofs.push_back(std::move(p));
        }
}

namespace {

Json part_here_json(std::uint32_t id, const PartHere& part) {
    Json j{{"id", id}, {"shape", word(shape_words(), part.shape)}};
    if (part.shape == TileShape::drawn) j["polygons"] = to_json(part.polygons);
    if (part.tells != 0 || part.telling) j["tells"] = part.tells;
    return j;
}

PartHere read_part_here(const Field& f, const Project& project) {
    PartHere out;
    out.shape = static_cast<TileShape>(f["shape"].word(shape_words()));
    if (out.shape == TileShape::drawn) {
        for (const Field& polygon : f["polygons"].list(kMostShapeCorners)) {
            out.polygons.emplace_back();
            for (const Field& c : polygon.list(kMostShapeCorners))
                out.polygons.back().push_back(c.point(-kFarthestTry, kFarthestTry));
        }
    }
    // Of a prop it is said, too, that it tells nothing.
    const bool nothing = f.has("tells") && f["tells"].integer(0, UINT32_MAX) == 0;
    if (f.has("tells") && !nothing) out.tells = read_tells(f, project);
    return out;
}

} // namespace

void put_parts_here(Json& j, const Level& level) {
    for (const auto& [id, part] : level.here.tiles) j["here"]["tiles"].push_back(part_here_json(id, part));
    for (const auto& [id, part] : level.here.props) j["here"]["props"].push_back(part_here_json(id, part));
}

void read_parts_here(const Field& root, const Project& project, Level& level) {
    if (!root.has("here")) return;
    const Field here = root["here"];
    if (here.has("tiles")) {
        const TileTable tiles(project);
        for (const Field& f : here["tiles"].list(kMostTiles)) {
            const auto id = static_cast<TileId>(f["id"].integer(1, kMostTiles));
            if (!tiles.find(id).tile) continue;
            PartHere part = read_part_here(f, project);
            const Text trouble = part.shape == TileShape::drawn ? shape_trouble(part.polygons) : Text();
            if (!trouble.empty()) f["polygons"].refuse(trouble);
            level.here.tiles[id] = std::move(part);
        }
    }
    if (here.has("props"))
        for (const Field& f : here["props"].list(1U << 20)) {
            const auto id = static_cast<PropKindId>(f["id"].integer(1, UINT32_MAX));
            const PropKind* kind = project.prop_kind(id);
            if (!kind || kind->is_ensemble()) continue;
            PartHere part = read_part_here(f, project);
            part.telling = f.has("tells");
            // Its box may have become another since.
            if (part.shape != TileShape::drawn || outline_trouble(part.polygons, kind->box.size()).empty())
                level.here.props[id] = std::move(part);
        }
}

} // namespace vic::store
