#include "store/format.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "base/match.hpp"
#include "sheet/pieces.hpp"
#include "sheet/png.hpp"
#include "store/cells.hpp"
#include "store/format_blockers.hpp"
#include "store/format_joins.hpp"
#include "store/format_kit.hpp"
#include "store/format_lay.hpp"
#include "store/format_planting.hpp"
#include "store/format_props.hpp"
#include "store/format_walk.hpp"
#include "store/project_files.hpp"

namespace vic::store {

using namespace level;

const std::vector<std::string>& shape_words() {
    static const std::vector<std::string> words{
        "none",          "full",          "slope-ne",       "slope-se",       "slope-sw",       "slope-nw",
        "one-way-top",   "one-way-right", "one-way-bottom", "one-way-left",   "half-top",       "half-right",
        "half-bottom",   "half-left",     "thin-ne",        "thin-se",        "thin-sw",        "thin-nw",
        "thick-ne",      "thick-se",      "thick-sw",       "thick-nw",       "steep-thin-ne",  "steep-thin-se",
        "steep-thin-sw", "steep-thin-nw", "steep-thick-ne", "steep-thick-se", "steep-thick-sw", "steep-thick-nw",
        "opens",         "drawn"};
    return words;
}
const std::vector<std::string>& engine_shape_words() {
    static const std::vector<std::string> words{"outlines", "parts", "rectangles", "cells"};
    return words;
}
const std::vector<std::string>& note_words() {
    static const std::vector<std::string> words{"text", "number", "yes-no", "colour", "choice", "side"};
    return words;
}
const std::vector<std::string>& join_kind_words() {
    static const std::vector<std::string> words{"plain", "edges", "corners", "edges+corners"};
    return words;
}
const std::vector<std::string>& layer_kind_words() {
    static const std::vector<std::string> words{"tiles", "props", "backdrop", "blockers", "planting", "facts"};
    return words;
}
const std::vector<std::string>& lattice_words() {
    static const std::vector<std::string> words{"square", "isometric"};
    return words;
}

const std::vector<std::string>& view_words() {
    static const std::vector<std::string> words{"above", "side"};
    return words;
}
const std::vector<std::string>& mark_words() {
    static const std::vector<std::string> words{"start", "exit", "note"};
    return words;
}
const std::vector<std::string>& side_kind_words() {
    static const std::vector<std::string> words{"open", "blocks", "leads"};
    return words;
}

Json to_json(const Polygons& polygons) {
    Json out = Json::array();
    for (const Polygon& p : polygons) {
        Json corners = Json::array();
        for (const Point c : p) corners.push_back(to_json(c));
        out.push_back(std::move(corners));
    }
    return out;
}

std::vector<LayerId> read_homes(const Field& f) {
    std::vector<LayerId> homes;
    if (!f.has("homes")) return homes;
    for (const Field& id : f["homes"].list(4096)) homes.push_back(static_cast<LayerId>(id.integer(1, UINT32_MAX)));
    return homes;
}

namespace {

template <class Enum>
const std::string& word_of(const std::vector<std::string>& words, Enum value) {
    return words.at(static_cast<std::size_t>(value));
}

const std::vector<std::string>& tray_item_words() {
    static const std::vector<std::string> words{"material", "tile", "prop"};
    return words;
}

Json tray_json(const OwnTray& t) {
    Json j{{"id", t.id}, {"name", t.name}};
    if (!t.folder.empty()) j["folder"] = t.folder;
    if (t.colour.a != 0) j["colour"] = to_json(t.colour);
    if (!t.sheets.empty()) j["sheets"] = t.sheets;
    if (!t.tags.empty()) j["tags"] = t.tags;
    for (const TrayItem& i : t.items) j["items"].push_back({word_of(tray_item_words(), i.kind), i.id});
    return j;
}

OwnTray read_tray(const Field& f) {
    OwnTray t;
    t.id = static_cast<OwnTrayId>(f["id"].integer(1, UINT32_MAX));
    t.name = f["name"].text();
    if (f.has("folder")) t.folder = f["folder"].text();
    if (f.has("colour")) t.colour = f["colour"].colour();
    // What is named here may be gone meanwhile; the tray shows what there is.
    if (f.has("sheets"))
        for (const Field& s : f["sheets"].list(4096))
            t.sheets.push_back(static_cast<SheetId>(s.integer(1, UINT32_MAX)));
    if (f.has("tags"))
        for (const Field& tag : f["tags"].list(256)) t.tags.push_back(tag.text(256));
    if (f.has("items"))
        for (const Field& item : f["items"].list()) {
            const auto pair = item.list(2);
            if (pair.size() != 2) item.refuse("A thing in a tray is a word and a number");
            t.items.push_back({static_cast<TrayItem::Kind>(pair[0].word(tray_item_words())),
                               static_cast<std::uint32_t>(pair[1].integer(1, UINT32_MAX))});
        }
    return t;
}

Json tile_json(const Tile& t) {
    Json j{{"id", t.id}, {"box", to_json(t.box)}};
    if (!t.name.empty()) j["name"] = t.name;
    if (t.chance != 100) j["chance"] = t.chance;
    if (t.shape != TileShape::none) j["shape"] = word_of(shape_words(), t.shape);
    if (t.shape == TileShape::drawn) j["polygons"] = to_json(t.polygons);
    for (const TileFrame& frame : t.frames) j["frames"].push_back({frame.tile, frame.ms});
    if (t.is_block())
        j["block"] = {{"cells", to_json(t.block.cells)},
                      {"pivot", to_json(t.block.pivot)},
                      {"offset", to_json(t.block.offset)},
                      {"stands", t.block.stands}};
    if (!t.homes.empty()) j["homes"] = t.homes;
    if (!t.tags.empty()) j["tags"] = t.tags;
    if (t.tells != 0) j["tells"] = t.tells;
    if (!t.collision_class.empty()) j["collision_class"] = t.collision_class;
    if (t.rise != 0) j["rise"] = t.rise;
    if (t.turns != kAllTurns) j["turns"] = t.turns;
    put_notes(j, t.notes);
    return j;
}

void read_properties(const Field& f, const Project& project, Tile& t) {
    if (f.has("tags")) {
        for (const Field& tag : f["tags"].list(256)) {
            const std::string text = tag.text(256);
            if (text.empty()) tag.refuse("A tag is empty");
            t.tags.push_back(text);
        }
        std::sort(t.tags.begin(), t.tags.end());
        t.tags.erase(std::unique(t.tags.begin(), t.tags.end()), t.tags.end());
    }
    if (f.has("tells")) t.tells = read_tells(f, project);
    t.collision_class = read_class(f);
    if (f.has("rise")) t.rise = f["rise"].number(0, level::kMostRise);
    if (f.has("turns")) t.turns = static_cast<std::uint8_t>(f["turns"].number(0, 255) | 1);
    t.notes = read_notes(f, project);
}

Polygons read_polygons(const Field& f) {
    Polygons out;
    for (const Field& part : f.list(kMostShapeCorners)) {
        Polygon polygon;
        for (const Field& corner : part.list(kMostShapeCorners)) polygon.push_back(corner.point(0, kShapeSide));
        out.push_back(std::move(polygon));
    }
    if (const Text trouble = shape_trouble(out); !trouble.empty()) f.refuse(trouble);
    return out;
}

Block read_block(const Field& f) {
    Block b;
    b.cells = f["cells"].size(1, kMostBlockCells);
    if (b.cells == Size{1, 1}) f["cells"].refuse("A block has at least two cells");
    b.pivot = f["pivot"].point(0, kMostBlockCells - 1);
    if (!box_of(b.cells).contains(b.pivot)) f["pivot"].refuse("The pivot is not one of the block's cells");
    b.offset = f["offset"].point(-64, 64);
    b.stands = f["stands"].number(0, b.cells.h - 1);
    return b;
}

Tile read_tile(const Field& f, const Project& project, std::set<TileId>& taken) {
    const std::uint32_t next_tile = project.next_tile;
    Tile t;
    t.id = static_cast<TileId>(f["id"].integer(1, kMostTiles));
    if (t.id >= next_tile) f["id"].refuse("The tile number is not below \"next_tile\"");
    if (!taken.insert(t.id).second) f["id"].refuse(say("Two tiles have the number %1", t.id));
    t.box = f["box"].box(0, sheet::kMostSide);
    if (t.box.empty()) f["box"].refuse("The box is empty");
    if (f.has("name")) t.name = f["name"].text();
    if (f.has("chance")) t.chance = f["chance"].number(0, 1000);
    if (f.has("shape")) t.shape = static_cast<TileShape>(f["shape"].word(shape_words()));
    if (t.shape == TileShape::drawn) t.polygons = read_polygons(f["polygons"]);
    if (f.has("block")) t.block = read_block(f["block"]);
    if (f.has("frames"))
        for (const Field& frame : f["frames"].list(kMostFrames)) {
            const auto pair = frame.list(2);
            if (pair.size() != 2) frame.refuse("A frame is a tile's number and its milliseconds");
            t.frames.push_back({static_cast<TileId>(pair[0].integer(1, kMostTiles)), pair[1].number(10, 60000)});
        }
    t.homes = read_homes(f);
    read_properties(f, project, t);
    if (t.is_block()) t.turns = static_cast<std::uint8_t>(t.turns & kMirrorOnly);
    return t;
}

Json sheet_json(const Sheet& s) {
    Json j{{"id", s.id}, {"name", s.name}, {"file", s.file}, {"accepted", s.accepted}};
    j["cut"] = {{"tile", to_json(s.cut.tile)},
                {"margin", to_json(s.cut.margin)},
                {"spacing", to_json(s.cut.spacing)},
                {"scale", s.cut.scale}};
    if (s.smooth) j["smooth"] = true;
    if (s.any_size) j["any_size"] = true;
    if (s.cut.count != Size{}) j["cut"]["count"] = to_json(s.cut.count);
    if (!s.composed.empty()) j["composed"] = composed_json(s.composed);
    if (s.recolour) j["recolour"] = recolour_json(*s.recolour);
    for (const Part& part : s.parts) j["parts"].push_back({{"name", part.name}, {"box", to_json(part.box)}});
    if (s.kit) j["kit"] = kit_json(*s.kit);
    if (!s.credits.empty()) {
        Json& c = j["credits"];
        if (!s.credits.author.empty()) c["author"] = s.credits.author;
        if (!s.credits.licence.empty()) c["licence"] = s.credits.licence;
        if (!s.credits.source.empty()) c["source"] = s.credits.source;
        if (!s.credits.note.empty()) c["note"] = s.credits.note;
    }
    j["tiles"] = Json::array();
    for (const Tile& t : s.tiles) j["tiles"].push_back(tile_json(t));
    if (!s.retired.empty())
        for (const Tile& t : s.retired) j["retired"].push_back(tile_json(t));
    return j;
}

Sheet read_sheet(const Field& f, const Project& project, std::set<TileId>& taken) {
    Sheet s;
    s.id = static_cast<SheetId>(f["id"].integer(1, UINT32_MAX));
    s.name = f["name"].text();
    s.file = f["file"].text();
    s.accepted = f["accepted"].yes();
    const Field cut = f["cut"];
    s.cut.tile = cut["tile"].size(1, sheet::kMostSide);
    s.cut.margin = cut["margin"].point(0, sheet::kMostSide);
    s.cut.spacing = cut["spacing"].point(0, sheet::kMostSide);
    s.cut.scale = cut["scale"].number(1, 64);
    if (cut.has("count")) s.cut.count = cut["count"].size(0, sheet::kMostSide);
    if (s.cut.tile.w % s.cut.scale || s.cut.tile.h % s.cut.scale)
        cut["scale"].refuse("It does not divide the tile size");
    if (f.has("smooth")) s.smooth = f["smooth"].yes();
    if (f.has("any_size")) s.any_size = f["any_size"].yes();
    if (f.has("composed")) s.composed = read_composed(f["composed"], project.next_tile);
    if (f.has("recolour")) s.recolour = read_recolour(f["recolour"]);
    if (s.recolour && !s.composed.empty()) f["recolour"].refuse("A sheet is derived in one way");
    if (f.has("parts"))
        for (const Field& p : f["parts"].list(1U << 20)) {
            s.parts.push_back({p["name"].text(), p["box"].box(0, sheet::kMostSide)});
            if (s.parts.back().box.empty()) p["box"].refuse("The box is empty");
        }
    if (f.has("credits")) {
        const Field c = f["credits"];
        const auto text = [&](const char* key) { return c.has(key) ? c[key].text() : std::string(); };
        s.credits = {text("author"), text("licence"), text("source"), text("note")};
    }
    for (const Field& t : f["tiles"].list(1U << 20)) s.tiles.push_back(read_tile(t, project, taken));
    if (f.has("kit")) s.kit = read_kit_source(f["kit"], s.tiles);
    // Blocks are the last of a sheet's tiles, in whatever order they were written.
    std::stable_partition(s.tiles.begin(), s.tiles.end(), [](const Tile& t) { return !t.is_block(); });
    if (f.has("retired"))
        for (const Field& t : f["retired"].list(1U << 20)) s.retired.push_back(read_tile(t, project, taken));
    return s;
}

Json layer_json(const Layer& l) {
    Json j{{"id", l.id},       {"name", l.name},     {"kind", word_of(layer_kind_words(), l.kind())},
           {"shown", l.shown}, {"locked", l.locked}, {"opacity", l.opacity}};
    if (!l.collision_class.empty()) j["collision_class"] = l.collision_class;
    match(
        l.content,
        [&](const level::TileCells& tiles) {
            j["solid"] = tiles.solid;
            put_grain(j, tiles.grain);
        },
        [&](const level::PlacedProps& placed) { j["props"] = props_json(placed.props.all()); },
        [&](const level::Backdrop& backdrop) { j["backdrop"] = backdrop_json(backdrop); },
        [&](const level::Blockers& blockers) {
            if (!blockers.free().empty()) j["free"] = free_blockers_json(blockers.free());
        },
        [&](const level::Facts& facts) { j["note"] = facts.note(); },
        [&](const level::PlantedProps& planted) {
            j["props"] = props_json(planted.props.all());
            j["planting"] = planting_json(planted.recipe);
        });
    put_layer_settings(j, l);
    return j;
}

level::LayerContent read_content(const Field& f, LayerKind kind, const Project& project, Size cells) {
    for (const char* key : {"finer", "wider"})
        if (f.has(key) && kind != LayerKind::tiles) f[key].refuse("Only tiles can have cells of their own");
    switch (kind) {
        case LayerKind::tiles: {
            level::TileCells tiles;
            tiles.solid = f["solid"].yes();
            tiles.grain = read_grain(f);
            const Size own = tiles.grain.cells(cells);
            if (tiles.grain.finer != 1 && tiles.solid)
                f["finer"].refuse("Only tiles that do not block can be finer than the level");
            if (own.w > kMostCells || own.h > kMostCells) f["finer"].refuse("The layer would have too many cells");
            tiles.grid = Grid(own);
            return tiles;
        }
        case LayerKind::backdrop:
            return read_backdrop(f["backdrop"], project);
        case LayerKind::props:
            return level::PlacedProps{Props(read_props(f["props"], project, UnknownKinds::refused))};
        case LayerKind::planting:
            return level::PlantedProps{Props(read_props(f["props"], project, UnknownKinds::refused)),
                                       read_planting(f["planting"], project)};
        case LayerKind::blockers: {
            level::Blockers blockers(cells);
            if (f.has("free")) blockers.set_free(read_free_blockers(f["free"], project));
            return blockers;
        }
        case LayerKind::facts:
            return level::Facts(cells, read_fact_note(f["note"], project));
    }
    return {};
}

Layer read_layer(const Field& f, const Project& project, Size cells) {
    Layer l;
    l.id = static_cast<LayerId>(f["id"].integer(1, UINT32_MAX));
    l.name = f["name"].text();
    l.shown = f["shown"].yes();
    l.locked = f["locked"].yes();
    l.opacity = f["opacity"].number(0, 100);
    l.collision_class = read_class(f);
    l.content = read_content(f, static_cast<LayerKind>(f["kind"].word(layer_kind_words())), project, cells);
    read_layer_settings(f, l);
    return l;
}

Json mark_json(const Mark& m) {
    Json j{{"id", m.id}, {"name", m.name}, {"kind", word_of(mark_words(), m.kind)}, {"cells", to_json(m.cells)}};
    if (m.colour) j["colour"] = to_json(*m.colour);
    if (m.figure != 0) j["figure"] = m.figure;
    if (m.storey != 0) j["storey"] = m.storey;
    put_notes(j, m.notes);
    return j;
}

Mark read_mark(const Field& f, const Project& project) {
    Mark m;
    m.id = static_cast<MarkId>(f["id"].integer(1, UINT32_MAX));
    m.name = f["name"].text();
    m.kind = static_cast<MarkKind>(f["kind"].word(mark_words()));
    m.cells = f["cells"].box(-kMostCells, 2 * kMostCells);
    if (f.has("colour")) m.colour = f["colour"].colour();
    if (f.has("storey")) m.storey = f["storey"].number(0, kMostStorey);
    if (f.has("figure")) {
        m.figure = static_cast<PropKindId>(f["figure"].integer(1, UINT32_MAX));
        const PropKind* kind = project.prop_kind(m.figure);
        if (!kind || kind->is_ensemble()) f["figure"].refuse(say("There is no prop %1 with a picture", m.figure));
    }
    m.notes = read_notes(f, project);
    return m;
}

NoteKind read_note_kind(const Field& f) {
    NoteKind k;
    k.id = static_cast<NoteId>(f["id"].integer(1, UINT32_MAX));
    k.name = f["name"].text(256);
    if (k.name.empty()) f["name"].refuse("The name is empty");
    k.type = static_cast<NoteType>(f["type"].word(note_words()));
    if (f.has("surface")) k.surface = f["surface"].yes();
    if (k.type != NoteType::choice) return k;
    for (const Field& c : f["choices"].list(1024)) {
        k.choices.push_back(c.text(256));
        if (std::count(k.choices.begin(), k.choices.end(), k.choices.back()) > 1) c.refuse("The choice comes twice");
    }
    if (k.choices.empty()) f["choices"].refuse("There is nothing to choose from");
    return k;
}

template <class T, class Put>
void refuse_twice(const Field& f, std::set<T>& taken, T id, Put put) {
    if (!taken.insert(id).second) f["id"].refuse("The id comes twice");
    put();
}

} // namespace

Json to_json(const NoteValue& value) {
    if (const auto* colour = std::get_if<Rgba>(&value)) return to_json(*colour);
    if (const auto* number = std::get_if<double>(&value)) {
        // A whole number is written as one.
        const double whole = std::nearbyint(*number);
        if (whole == *number && std::abs(whole) < 1e15) return static_cast<std::int64_t>(whole);
        return *number;
    }
    if (const auto* yes = std::get_if<bool>(&value)) return *yes;
    return std::get<std::string>(value);
}

NoteValue read_note(const Field& field, const NoteKind& kind) {
    switch (kind.type) {
        case NoteType::number:
            return field.real(-1e300, 1e300);
        case NoteType::yes_no:
            return field.yes();
        case NoteType::colour:
            return field.colour();
        case NoteType::choice:
            return kind.choices[static_cast<std::size_t>(field.word(kind.choices))];
        case NoteType::side:
            return level::side_words()[static_cast<std::size_t>(
                field.word({level::side_words().begin(), level::side_words().end()}))];
        case NoteType::text:
            break;
    }
    return field.text();
}

std::string project_to_text(const Project& project) {
    Json j{{"format", "vicinum-project"},
           {"version", kProjectVersion},
           {"name", project.name},
           {"next_tile", project.next_tile},
           {"next_id", project.next_id}};
    if (project.unit != 16) j["unit"] = project.unit;
    if (project.engine_shapes != level::EngineShapes::outlines)
        j["engine_shapes"] = word_of(engine_shape_words(), project.engine_shapes);
    if (project.deviation != 0) j["deviation"] = project.deviation;
    if (project.thinnest != 0) j["thinnest"] = project.thinnest;
    j["levels"] = Json::array();
    for (const auto& level : project.levels) j["levels"].push_back(level->id);
    if (!project.note_kinds.empty()) {
        j["notes"] = Json::array();
        for (const NoteKind& k : project.note_kinds) {
            Json kind{{"id", k.id}, {"name", k.name}, {"type", word_of(note_words(), k.type)}};
            if (k.type == NoteType::choice) kind["choices"] = k.choices;
            if (k.surface) kind["surface"] = true;
            j["notes"].push_back(std::move(kind));
        }
    }
    put_tables(j, project);
    j["sheets"] = Json::array();
    for (const auto& sheet : project.sheets) j["sheets"].push_back(sheet_json(*sheet));
    j["materials"] = Json::array();
    for (const auto& material : project.materials) j["materials"].push_back(material_json(*material));
    j["props"] = Json::array();
    for (const auto& kind : project.prop_kinds) j["props"].push_back(kind_json(*kind));
    for (const OrderCard& card : project.order_cards) j["order_cards"].push_back(order_card_json(card));
    for (const auto& stamp : project.stamps) j["stamps"].push_back(stamp_json(*stamp));
    for (const FrameSize& frame : project.frames)
        j["frames"].push_back({{"name", frame.name}, {"size", to_json(frame.size)}});
    for (const OwnTray& tray : project.trays) j["trays"].push_back(tray_json(tray));
    return json_lines(j);
}

Project project_from_text(const std::string& text, const std::string& file, std::vector<std::string>& level_ids) {
    const Json json = parse_json(text, file);
    const Field root(json, file, "");
    check_format(root, "vicinum-project", kProjectVersion);
    Project project;
    project.name = root["name"].text();
    project.next_tile = static_cast<std::uint32_t>(root["next_tile"].integer(1, kMostTiles + 1));
    project.next_id = static_cast<std::uint32_t>(root["next_id"].integer(1, UINT32_MAX));
    if (root.has("engine_shapes"))
        project.engine_shapes = static_cast<level::EngineShapes>(root["engine_shapes"].word(engine_shape_words()));
    if (root.has("deviation")) project.deviation = root["deviation"].number(0, level::kMostDeviation);
    if (root.has("thinnest")) project.thinnest = root["thinnest"].number(0, level::kMostThinnest);
    if (root.has("unit")) project.unit = root["unit"].number(1, 4096);
    std::set<TileId> tiles;
    std::set<std::uint32_t> ids;
    if (root.has("notes"))
        for (const Field& f : root["notes"].list(1024)) {
            NoteKind k = read_note_kind(f);
            for (const NoteKind& other : project.note_kinds)
                if (other.name == k.name) f["name"].refuse(say("Two notes are called \"%1\"", k.name));
            refuse_twice(f, ids, k.id, [&] { project.note_kinds.push_back(std::move(k)); });
        }
    read_tables(root, project, ids);
    for (const Field& f : root["sheets"].list(4096)) {
        Sheet s = read_sheet(f, project, tiles);
        refuse_twice(f, ids, s.id, [&] { project.put(std::move(s)); });
    }
    for (const Field& f : root["materials"].list(255)) {
        Material m = read_material(f, project.next_tile);
        if (project.material(m.id)) f["id"].refuse("The id comes twice");
        project.put(std::move(m));
    }
    for (const Field& f : root["props"].list(1U << 20)) {
        PropKind k = read_kind(f, project);
        refuse_twice(f, ids, k.id, [&] { project.put(std::move(k)); });
    }
    settle_ensembles(root["props"], project);
    if (root.has("order_cards"))
        for (const Field& f : root["order_cards"].list(1024)) {
            OrderCard c = read_order_card(f);
            refuse_twice(f, ids, c.id, [&] { project.order_cards.push_back(std::move(c)); });
        }
    if (root.has("stamps"))
        for (const Field& f : root["stamps"].list(4096)) {
            Stamp s = read_stamp(f, project);
            refuse_twice(f, ids, s.id, [&] { project.put(std::move(s)); });
        }
    if (root.has("frames"))
        for (const Field& f : root["frames"].list(256))
            project.frames.push_back({f["name"].text(256), f["size"].size(1, 1 << 16)});
    if (root.has("trays"))
        for (const Field& f : root["trays"].list(4096)) {
            OwnTray t = read_tray(f);
            refuse_twice(f, ids, t.id, [&] { project.trays.push_back(std::move(t)); });
        }
    for (const Field& f : root["levels"].list(4096)) {
        const std::string id = f.text(64);
        if (slug(id, "") != id) f.refuse("A level id has only lower-case letters, digits and single dashes");
        if (std::find(level_ids.begin(), level_ids.end(), id) != level_ids.end()) f.refuse("The level comes twice");
        level_ids.push_back(id);
    }
    return project;
}

std::string level_to_text(const Level& level) {
    Json j{{"format", "vicinum-level"},
           {"version", kLevelVersion},
           {"id", level.id},
           {"name", level.name},
           {"view", word_of(view_words(), level.view)},
           {"size", to_json(level.size)},
           {"cell", to_json(level.cell)},
           {"ground", to_json(level.ground)},
           {"frame", to_json(level.frame)},
           {"plane", level.plane}};
    if (level.lattice != LatticeKind::square) j["lattice"] = word_of(lattice_words(), level.lattice);
    j["walker"] = walker_json(level.walker);
    put_level_extras(j, level);
    for (const Point block : blocks_of(level)) j["blocks"].push_back(to_json(block));
    j["marks"] = Json::array();
    for (const Mark& m : level.marks) j["marks"].push_back(mark_json(m));
    put_tries(j, level);
    put_parts_here(j, level);
    j["layers"] = Json::array();
    for (const level::LayerRef& layer : level.layers) j["layers"].push_back(layer_json(*layer));
    return json_lines(j);
}

Level level_from_text(const std::string& text, const std::string& file, const Project& project,
                      std::vector<Point>* blocks) {
    const Json json = parse_json(text, file);
    const Field root(json, file, "");
    check_format(root, "vicinum-level", kLevelVersion);
    Level level;
    level.id = root["id"].text(64);
    level.name = root["name"].text();
    level.view = static_cast<View>(root["view"].word(view_words()));
    level.size = root["size"].size(1, kMostCells);
    level.cell = root["cell"].size(1, level::kMostCellPixels);
    if (root.has("lattice")) level.lattice = static_cast<LatticeKind>(root["lattice"].word(lattice_words()));
    if (level.lattice != LatticeKind::square && level.view != View::from_above)
        root["lattice"].refuse("An isometric level is seen from above");
    level.ground = root["ground"].colour();
    level.frame = root["frame"].size(1, kMostFrame);
    level.walker = read_walker(root["walker"]);
    read_level_extras(root, level);
    std::set<std::uint32_t> ids;
    for (const Field& f : root["marks"].list(1U << 20)) {
        const Mark m = read_mark(f, project);
        refuse_twice(f, ids, m.id, [&] { level.marks.push_back(m); });
    }
    read_tries(root, level);
    read_parts_here(root, project, level);
    for (const Field& f : root["layers"].list(4096)) {
        Layer l = read_layer(f, project, level.size);
        if (level.cell.w % l.grain().finer != 0 || level.cell.h % l.grain().finer != 0)
            f["finer"].refuse("The level's cells cannot be divided like that");
        if (const Size own = l.grain().cell(level.cell); std::max(own.w, own.h) > level::kMostCellPixels)
            f["wider"].refuse(say("A cell has at most %1 px a side", level::kMostCellPixels));
        refuse_twice(f, ids, l.id, [&] { level.layers.push_back(std::make_shared<const Layer>(std::move(l))); });
    }
    level.plane = root["plane"].number(0, static_cast<int>(level.layers.size()));
    if (in_blocks(level) && root.has("blocks")) {
        for (const Field& f : root["blocks"].list(1U << 12)) {
            const Point block = f.point(0, kMostCells / kBlock);
            if (block.x * kBlock >= level.size.w || block.y * kBlock >= level.size.h)
                f.refuse("The block lies outside the level");
            if (blocks) blocks->push_back(block);
        }
    }
    return level;
}

} // namespace vic::store
