#include "store/format_props.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "level/limits.hpp"
#include "level/standing.hpp"
#include "sheet/cut.hpp"
#include "sheet/pieces.hpp"
#include "sheet/png.hpp"
#include "store/format.hpp"
#include "store/format_walk.hpp"

namespace vic::store {

using namespace level;

const std::vector<std::string>& stands_words() {
    static const std::vector<std::string> words{"facing", "fixed", "crossed"};
    return words;
}

namespace {

constexpr std::uint32_t kMostShown = 1U << 22; // pictures of the props of a layer, the parts of ensembles counted

void put_changes(Json& j, const PropOwn& own) {
    for (const auto& [id, change] : own.changes) {
        Json c{{"part", id}};
        if (change.kind) c["kind"] = *change.kind;
        if (change.tint) c["tint"] = to_json(*change.tint);
        if (change.notes) {
            c["notes"] = Json::object();
            put_notes(c, *change.notes);
        }
        j["changes"].push_back(std::move(c));
    }
}

void read_changes(const Field& f, const Project& project, PropOwn& own) {
    if (!f.has("changes")) return;
    for (const Field& c : f["changes"].list(kMostParts)) {
        PartChange change;
        if (c.has("kind")) {
            const auto kind = static_cast<PropKindId>(c["kind"].integer(0, UINT32_MAX));
            const PropKind* other = project.prop_kind(kind);
            if (kind == 0 || (other && !other->is_ensemble())) change.kind = kind; // else it follows again
        }
        if (c.has("tint")) change.tint = c["tint"].colour();
        if (c.has("notes")) change.notes = read_notes(c, project);
        if (change != PartChange{})
            own.changes[static_cast<PartId>(c["part"].integer(1, UINT32_MAX))] = std::move(change);
    }
}

// What it has in three dimensions.
void put_depth(Json& j, const PropOwn& own) {
    if (own.up != 0) j["up"] = own.up;
    if (own.lean != Point{}) j["lean"] = to_json(own.lean);
    if (own.stands) j["stands"] = stands_words().at(static_cast<std::size_t>(*own.stands));
}

void read_depth(const Field& f, PropOwn& own) {
    if (f.has("up")) own.up = f["up"].number(-kMostUp, kMostUp);
    if (f.has("lean")) own.lean = f["lean"].point(-kMostLean, kMostLean);
    if (f.has("stands")) own.stands = static_cast<Stands>(f["stands"].word(stands_words()));
}

Polygons read_outline(const Field& f) {
    Polygons out;
    for (const Field& polygon : f.list(64)) {
        Polygon corners;
        for (const Field& c : polygon.list(kMostShapeCorners)) corners.push_back(c.point(-kFar, kFar));
        out.push_back(std::move(corners));
    }
    return out;
}

void put_parts(Json& j, const PropKind& k) {
    for (const EnsemblePart& part : k.parts) {
        Json p{{"id", part.id}, {"kind", part.kind}, {"at", to_json(part.at)}};
        put_look(p, part.look);
        if (!part.name.empty()) p["name"] = part.name;
        put_notes(p, part.notes);
        j["parts"].push_back(std::move(p));
    }
}

void read_parts(const Field& f, const Project& project, PropKind& k) {
    if (!f.has("parts")) return;
    for (const Field& p : f["parts"].list(kMostParts)) {
        EnsemblePart part;
        part.id = static_cast<PartId>(p["id"].integer(1, UINT32_MAX));
        if (std::any_of(k.parts.begin(), k.parts.end(), [&](const EnsemblePart& o) { return o.id == part.id; }))
            p["id"].refuse("The part comes twice");
        part.kind = static_cast<PropKindId>(p["kind"].integer(1, UINT32_MAX));
        part.at = p["at"].point(-sheet::kMostSide, sheet::kMostSide);
        part.look = read_look(p);
        if (p.has("name")) part.name = p["name"].text();
        part.notes = read_notes(p, project);
        k.parts.push_back(std::move(part));
    }
}

void put_finer(Json& j, const PropKind& k) {
    if (k.shape != TileShape::full) j["shape"] = shape_words().at(static_cast<std::size_t>(k.shape));
    if (k.shape == TileShape::drawn) j["polygons"] = to_json(k.polygons);
    if (k.height != 0) j["height"] = k.height;
    for (const PropArea& area : k.areas) j["areas"].push_back({{"name", area.name}, {"box", to_json(area.box)}});
    if (!k.tags.empty()) j["tags"] = k.tags;
    if (!k.collision_class.empty()) j["collision_class"] = k.collision_class;
    put_notes(j, k.notes);
    if (k.variant_of != 0) j["variant_of"] = k.variant_of;
    if (k.chance != 100) j["chance"] = k.chance;
    if (k.lit) j["lit"] = true;
    if (k.flat) j["flat"] = true;
    if (k.stands != Stands::facing) j["stands"] = stands_words().at(static_cast<std::size_t>(k.stands));
    if (k.body != 0) j["body"] = k.body;
    if (k.frames > 1) j["frames"] = {k.frames, k.frame_ms};
    if (k.least != 25 || k.most != 400) j["scales"] = {k.least, k.most};
}

void read_finer(const Field& f, const Project& project, PropKind& k) {
    if (f.has("shape")) k.shape = static_cast<TileShape>(f["shape"].word(shape_words()));
    if (k.shape == TileShape::none) f["shape"].refuse("No shape of a prop");
    if (k.shape == TileShape::drawn) {
        k.polygons = read_outline(f["polygons"]);
        if (const Text why = outline_trouble(k.polygons, k.box.size()); !why.empty()) f["polygons"].refuse(why);
    }
    if (f.has("height")) k.height = f["height"].number(0, sheet::kMostSide);
    if (f.has("areas"))
        for (const Field& a : f["areas"].list(level::kMostPropAreas))
            k.areas.push_back({a["name"].text(256), a["box"].box(-kFar, kFar)});
    if (f.has("tags"))
        for (const Field& t : f["tags"].list(256)) k.tags.push_back(t.text(256));
    std::sort(k.tags.begin(), k.tags.end());
    k.tags.erase(std::unique(k.tags.begin(), k.tags.end()), k.tags.end());
    std::erase(k.tags, "");
    k.collision_class = read_class(f);
    k.notes = read_notes(f, project);
    if (f.has("variant_of")) k.variant_of = static_cast<PropKindId>(f["variant_of"].integer(1, UINT32_MAX));
    if (f.has("chance")) k.chance = f["chance"].number(0, 1000);
    if (f.has("lit")) k.lit = f["lit"].yes();
    if (f.has("flat")) k.flat = f["flat"].yes();
    if (f.has("stands")) k.stands = static_cast<Stands>(f["stands"].word(stands_words()));
    if (f.has("body")) k.body = static_cast<TileId>(f["body"].integer(1, kMostTiles));
    if (f.has("frames")) {
        const auto frames = f["frames"].list(2);
        if (frames.size() != 2) f["frames"].refuse("Two numbers are wanted: how many, and milliseconds for each");
        k.frames = frames[0].number(1, kMostPropFrames);
        k.frame_ms = frames[1].number(10, 60'000);
    }
    if (f.has("scales")) {
        const auto scales = f["scales"].list(2);
        if (scales.size() != 2) f["scales"].refuse("Two scales are wanted: the least and the most");
        k.least = scales[0].number(kLeastScale, kMostScale);
        k.most = scales[1].number(k.least, kMostScale);
    }
}

} // namespace

void put_look(Json& j, const Look& look) {
    if (look.mirrored) j["mirrored"] = true;
    if (look.turn != 0) j["turn"] = look.turn / 10.0;
    if (look.scale != 100) j["scale"] = look.scale;
    if (look.light != 0) j["light"] = look.light;
    if (look.opacity != 100) j["opacity"] = look.opacity;
    if (look.tint != Look{}.tint) j["tint"] = to_json(look.tint);
    if (look.ahead != 0) j["ahead"] = look.ahead;
}

Look read_look(const Field& f) {
    Look out;
    out.mirrored = f.has("mirrored") && f["mirrored"].yes();
    if (f.has("turn")) out.turn = turned_by(static_cast<int>(std::lround(f["turn"].real(-360, 360) * 10)), 0);
    if (f.has("scale")) out.scale = static_cast<std::int16_t>(f["scale"].number(kLeastScale, kMostScale));
    if (f.has("light")) out.light = static_cast<std::int8_t>(f["light"].number(-100, 100));
    if (f.has("opacity")) out.opacity = static_cast<std::uint8_t>(f["opacity"].number(0, 100));
    if (f.has("tint")) out.tint = f["tint"].colour();
    if (f.has("ahead")) out.ahead = static_cast<std::int16_t>(f["ahead"].number(-kMostAhead, kMostAhead));
    out.tint.a = 255;
    return out;
}

Json kind_json(const PropKind& k) {
    Json j{{"id", k.id}, {"name", k.name}};
    if (k.is_ensemble()) {
        put_parts(j, k);
    } else {
        j.update({{"sheet", k.sheet},
                  {"box", to_json(k.box)},
                  {"pivot", to_json(k.pivot)},
                  {"foot", to_json(k.foot)},
                  {"blocks", k.blocks}});
        if (k.factor != 1) j["factor"] = k.factor;
        if (k.piece != 0) j["piece"] = k.piece;
    }
    put_finer(j, k);
    return j;
}

PropKind read_kind(const Field& f, const Project& project) {
    PropKind k;
    k.id = static_cast<PropKindId>(f["id"].integer(1, UINT32_MAX));
    k.name = f["name"].text();
    read_parts(f, project, k);
    if (k.is_ensemble()) {
        read_finer(f, project, k);
        return k;
    }
    k.sheet = static_cast<SheetId>(f["sheet"].integer(1, UINT32_MAX));
    if (!project.sheet(k.sheet)) f["sheet"].refuse(say("There is no sheet %1", k.sheet));
    k.box = f["box"].box(0, sheet::kMostSide);
    if (k.box.empty()) f["box"].refuse("The box is empty");
    k.pivot = f["pivot"].point(-kFar, kFar);
    k.foot = f["foot"].box(-kFar, kFar);
    k.blocks = f["blocks"].yes();
    if (f.has("factor")) k.factor = f["factor"].number(1, 16);
    if (f.has("piece")) k.piece = f["piece"].number(sheet::kLeastPiece, sheet::kMostSide);
    read_finer(f, project, k);
    return k;
}

void settle_ensembles(const Field& props, Project& project) {
    if (const Text why = ensembles_trouble(project); !why.empty()) props.refuse(why);
    fit_ensembles(project);
}

Json props_json(const std::vector<Prop>& props) {
    Json out = Json::array();
    for (const Prop& p : props) {
        Json prop{{"id", p.id}, {"kind", p.kind}, {"at", to_json(p.at)}};
        put_look(prop, p.look);
        if (p.group != 0) prop["group"] = p.group;
        if (p.pass != 0) prop["pass"] = p.pass;
        if (p.own) {
            if (!p.own->name.empty()) prop["name"] = p.own->name;
            put_notes(prop, p.own->notes);
            put_changes(prop, *p.own);
            put_depth(prop, *p.own);
        }
        out.push_back(std::move(prop));
    }
    return out;
}

std::vector<Prop> read_props(const Field& f, const Project& project, UnknownKinds unknown) {
    std::vector<Prop> out;
    const PropKinds kinds(project);
    const auto pictures = piece_counts(project); // of a prop of the kind
    std::int64_t all = 0;
    for (const Field& p : f.list(kMostShown)) {
        Prop prop;
        prop.id = static_cast<PropId>(p["id"].integer(1, UINT32_MAX));
        prop.kind = static_cast<PropKindId>(p["kind"].integer(1, UINT32_MAX));
        const bool known = kinds.find(prop.kind) != nullptr;
        all += known ? pictures.at(prop.kind) : 0;
        if (all > std::int64_t{kMostShown})
            p["kind"].refuse(say("With this one the layer shows more than %1 pictures of props", kMostShown));
        if (!known && unknown == UnknownKinds::refused) p["kind"].refuse(say("There is no prop %1", prop.kind));
        prop.at = p["at"].point(-kFar, kFar);
        prop.look = read_look(p);
        if (p.has("pass")) prop.pass = static_cast<std::uint8_t>(p["pass"].number(0, 255));
        if (p.has("group")) prop.group = static_cast<std::uint32_t>(p["group"].integer(0, UINT32_MAX));
        PropOwn own;
        if (p.has("name")) own.name = p["name"].text();
        own.notes = read_notes(p, project);
        read_changes(p, project, own);
        read_depth(p, own);
        prop.set_own(std::move(own));
        if (known) out.push_back(std::move(prop));
    }
    return out;
}

} // namespace vic::store
