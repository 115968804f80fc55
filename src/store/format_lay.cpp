#include "store/format_lay.hpp"

#include <algorithm>

#include "store/cells.hpp"
#include "store/format.hpp"
#include "store/format_props.hpp"
#include "store/stamp_text.hpp"

namespace vic::store {

using namespace level;

namespace {

const std::vector<std::string>& plan_words() {
    static const std::vector<std::string> words{"nothing", "material", "tile", "prop", "mark", "start", "exit"};
    return words;
}

// A row of a plan as runs of keys: "5x2 1 3x-", `-` where none fits.
std::string row_text(const std::uint8_t* row, int count) {
    std::string out;
    for (int x = 0; x < count;) {
        int same = x + 1;
        while (same < count && row[same] == row[x]) ++same;
        if (!out.empty()) out += ' ';
        if (same - x > 1) out += std::to_string(same - x) + 'x';
        out += row[x] == kNoKey ? "-" : std::to_string(row[x]);
        x = same;
    }
    return out;
}

void read_row_text(const Field& f, std::size_t keys, int count, std::vector<std::uint8_t>& out) {
    const std::string text = f.text(1U << 16);
    std::size_t at = 0;
    int have = 0;
    const auto number = [&]() -> int {
        int n = 0;
        const std::size_t from = at;
        while (at < text.size() && text[at] >= '0' && text[at] <= '9' && n <= kMostPlan)
            n = n * 10 + (text[at++] - '0');
        if (at == from) f.refuse("A number is missing");
        return n;
    };
    const auto key = [&]() -> std::uint8_t {
        if (at < text.size() && text[at] == '-') {
            ++at;
            return kNoKey;
        }
        const int k = number();
        if (k >= static_cast<int>(keys)) f.refuse(say("The plan has no key %1", k));
        return static_cast<std::uint8_t>(k);
    };
    while (at < text.size()) {
        int times = 1;
        const std::size_t from = at;
        if (text[at] != '-') {
            times = number();
            if (at < text.size() && text[at] == 'x')
                ++at;
            else
                at = from, times = 1;
        }
        const std::uint8_t k = key();
        if (times < 1 || have + times > count) f.refuse("The row is longer than the plan");
        out.insert(out.end(), static_cast<std::size_t>(times), k);
        have += times;
        if (at < text.size() && text[at++] != ' ') f.refuse("A space is missing");
    }
    if (have != count) f.refuse("The row is shorter than the plan");
}

Json plan_json(const Plan& plan) {
    Json j{{"file", plan.file},     {"at", to_json(plan.at)}, {"bottom_up", plan.bottom_up},
           {"gather", plan.gather}, {"layer", plan.layer},    {"keys", Json::array()}};
    for (const PlanKey& k : plan.keys) {
        Json key{{"colour", to_json(k.colour)}, {"is", plan_words().at(static_cast<std::size_t>(k.kind))}};
        if (k.id != 0) key["id"] = k.id;
        if (!k.name.empty()) key["name"] = k.name;
        j["keys"].push_back(std::move(key));
    }
    j["size"] = to_json(plan.size);
    j["laid"] = Json::array();
    for (int y = 0; y < plan.size.h; ++y)
        j["laid"].push_back(row_text(&plan.laid[static_cast<std::size_t>(y * plan.size.w)], plan.size.w));
    return j;
}

Plan read_plan(const Field& f) {
    Plan plan;
    plan.file = f["file"].text();
    plan.at = f["at"].point(-kMostCells, kMostCells);
    plan.bottom_up = f["bottom_up"].yes();
    plan.gather = f["gather"].number(0, 441);
    plan.layer = static_cast<LayerId>(f["layer"].integer(0, UINT32_MAX));
    for (const Field& k : f["keys"].list(kMostPlanKeys)) {
        PlanKey key;
        key.colour = k["colour"].colour();
        key.kind = static_cast<PlanKey::Kind>(k["is"].word(plan_words()));
        // What is named here may be gone meanwhile; then nothing is laid.
        if (k.has("id")) key.id = static_cast<std::uint32_t>(k["id"].integer(1, UINT32_MAX));
        if (k.has("name")) key.name = k["name"].text(256);
        // Before they were kinds of their own, start and exit went by their names.
        if (key.kind == PlanKey::Kind::mark && key.name == "Start") key.kind = PlanKey::Kind::start;
        if (key.kind == PlanKey::Kind::mark && key.name == "Exit") key.kind = PlanKey::Kind::exit;
        plan.keys.push_back(std::move(key));
    }
    plan.size = f["size"].size(0, kMostPlan);
    const auto rows = f["laid"].list(kMostPlan);
    if (static_cast<int>(rows.size()) != plan.size.h) f["laid"].refuse("There is not a row for each of the plan");
    for (const Field& row : rows) read_row_text(row, plan.keys.size(), plan.size.w, plan.laid);
    return plan;
}

} // namespace

Json backdrop_json(const level::Backdrop& b) {
    const level::Backdrop plain;
    Json j{{"sheet", b.sheet}, {"tint", to_json(b.tint)}};
    if (!b.across) j["across"] = false;
    if (!b.down) j["down"] = false;
    if (b.at != plain.at) j["at"] = to_json(b.at);
    if (b.drawn != plain.drawn) j["drawn"] = to_json(b.drawn);
    if (b.smooth) j["smooth"] = true;
    if (b.steps_back != 0) j["steps_back"] = b.steps_back;
    return j;
}

level::Backdrop read_backdrop(const Field& f, const Project& project) {
    constexpr int kMost = level::kMostBackdropPixels;
    level::Backdrop out;
    out.sheet = static_cast<level::SheetId>(f["sheet"].integer(0, UINT32_MAX));
    if (out.sheet && !project.sheet(out.sheet)) f["sheet"].refuse("There is no such sheet");
    out.tint = f["tint"].colour();
    if (f.has("across")) out.across = f["across"].yes();
    if (f.has("down")) out.down = f["down"].yes();
    if (f.has("at")) out.at = f["at"].point(-kMost, kMost);
    if (f.has("drawn")) out.drawn = f["drawn"].size(1, kMost);
    if (f.has("smooth")) out.smooth = f["smooth"].yes();
    if (f.has("steps_back")) out.steps_back = f["steps_back"].number(0, 100);
    return out;
}

void put_layer_settings(Json& j, const Layer& l) {
    const Layer plain;
    if (l.tint != plain.tint) j["tint"] = to_json(l.tint);
    if (l.parallax != plain.parallax) j["parallax"] = to_json(l.parallax);
    if (l.shift != plain.shift) j["shift"] = to_json(l.shift);
    if (l.by_feet) j["by_feet"] = true;
    if (!l.group.empty()) j["group"] = l.group;
    if (l.storey != 0) j["storey"] = l.storey;
    if (l.overlay_of() != 0) j["overlay_of"] = l.overlay_of();
}

void read_layer_settings(const Field& f, Layer& l) {
    if (f.has("tint")) l.tint = f["tint"].colour();
    if (f.has("parallax")) l.parallax = f["parallax"].point(0, 400);
    if (f.has("shift")) l.shift = f["shift"].point(-1, 1);
    if (f.has("by_feet")) l.by_feet = f["by_feet"].yes();
    if (f.has("group")) l.group = f["group"].text(4 * kMostNameLetters);
    if (f.has("storey")) l.storey = f["storey"].number(0, level::kMostStorey);
    if (f.has("overlay_of") && !l.tiles()) f["overlay_of"].refuse("Only a layer of tiles lies over another");
    if (f.has("overlay_of")) l.tiles()->overlay_of = static_cast<LayerId>(f["overlay_of"].integer(1, UINT32_MAX));
}

void put_depth(Json& j, const Level& level) {
    if (const level::Light& l = level.light; l != level::Light{}) {
        j["light"] = {{"minute", l.minute}, {"warmth", l.warmth}};
        if (l.fog != 0) j["light"]["fog"] = l.fog;
    }
    if (const level::Sight& s = level.sight; s != level::Sight{})
        j["sight"] = {{"tilt", s.tilt}, {"lens", s.lens}, {"turn", s.turn}};
    for (const auto& [storey, height] : level.storey_heights)
        j["storey_heights"].push_back({{"storey", storey}, {"height", height}});
}

namespace {

void read_depth(const Field& f, Level& level) {
    if (f.has("light")) {
        const Field l = f["light"];
        level.light.minute = l["minute"].number(0, level::kMostMinute);
        level.light.warmth = l["warmth"].number(level::kLeastWarmth, level::kMostWarmth);
        if (l.has("fog")) level.light.fog = l["fog"].number(0, level::kMostFog);
    }
    if (f.has("sight")) {
        const Field s = f["sight"];
        level.sight.tilt = s["tilt"].number(level::kLeastTilt, level::kMostTilt);
        level.sight.lens = s["lens"].number(0, level::kMostLens);
        if (level.sight.lens != 0 && level.sight.lens < level::kLeastLens)
            s["lens"].refuse("A lens is 0, or sees at least five degrees");
        level.sight.turn = s["turn"].number(0, 359);
    }
    if (f.has("storey_heights"))
        for (const Field& s : f["storey_heights"].list(level::kMostStorey + 1))
            level.storey_heights[s["storey"].number(0, level::kMostStorey)] =
                s["height"].number(1, level::kMostStoreyHeight);
}

} // namespace

void put_level_extras(Json& j, const Level& level) {
    if (level.grows) j["grows"] = true;
    if (level.frame_at) j["frame_at"] = to_json(*level.frame_at);
    if (level.lines_every != 0) j["lines_every"] = level.lines_every;
    for (const Guide& g : level.guides) j["guides"].push_back({{"upright", g.upright}, {"at", g.at}});
    if (level.plan) j["plan"] = plan_json(*level.plan);
    if (level.sides != level::LevelSides{})
        for (const level::LevelSide& side : level.sides) {
            Json one{{"kind", side_kind_words().at(static_cast<std::size_t>(side.kind))}};
            if (!side.to.empty()) one["to"] = side.to;
            j["sides"].push_back(std::move(one));
        }
    put_depth(j, level);
    if (const auto& r = level.reference)
        j["reference"] = {{"sheet", r->sheet},     {"at", to_json(r->at)}, {"scale", r->scale},
                          {"opacity", r->opacity}, {"over", r->over},      {"shown", r->shown}};
}

void read_level_extras(const Field& f, Level& level) {
    if (f.has("grows")) level.grows = f["grows"].yes();
    if (f.has("frame_at")) level.frame_at = f["frame_at"].point(-kFar, kFar);
    if (f.has("lines_every")) level.lines_every = f["lines_every"].number(0, kMostCells);
    if (f.has("guides"))
        for (const Field& g : f["guides"].list(1024))
            level.guides.push_back({g["upright"].yes(), g["at"].number(-kFar, kFar)});
    std::sort(level.guides.begin(), level.guides.end());
    if (f.has("plan")) level.plan = read_plan(f["plan"]);
    if (f.has("sides")) {
        const auto sides = f["sides"].list(4);
        if (sides.size() != level.sides.size()) f["sides"].refuse("A level has four sides");
        for (std::size_t i = 0; i < sides.size(); ++i) {
            level.sides[i].kind = static_cast<level::SideKind>(sides[i]["kind"].word(side_kind_words()));
            if (sides[i].has("to")) level.sides[i].to = sides[i]["to"].text(64);
        }
    }
    read_depth(f, level);
    if (f.has("reference")) {
        const Field r = f["reference"];
        level.reference = {static_cast<SheetId>(r["sheet"].integer(1, UINT32_MAX)),
                           r["at"].point(-kFar, kFar),
                           r["scale"].number(1, level::kMostReferenceScale),
                           r["opacity"].number(0, 100),
                           r["over"].yes(),
                           r["shown"].yes()};
    }
}

Json stamp_json(const Stamp& s) {
    Json j{{"id", s.id}, {"name", s.name}, {"size", to_json(s.size)}, {"cell", to_json(s.cell)}};
    if (s.lattice != LatticeKind::square) j["lattice"] = lattice_words().at(static_cast<std::size_t>(s.lattice));
    if (s.nine) j["nine"] = true;
    j["layers"] = Json::array();
    for (const StampLayer& l : s.layers) {
        Json layer{
            {"from", l.from}, {"name", l.name}, {"kind", layer_kind_words().at(static_cast<std::size_t>(l.kind()))}};
        put_grain(layer, l.grain());
        if (const auto* facts = std::get_if<level::Facts>(&l.content)) layer["note"] = facts->note();
        if (l.props())
            layer["props"] = props_json(l.props()->props);
        else
            layer["rows"] = write_rows(l.grid());
        j["layers"].push_back(std::move(layer));
    }
    return j;
}

void put_notes(Json& j, const level::Notes& notes) {
    for (const auto& [id, value] : notes) j["notes"][std::to_string(id)] = to_json(value);
}

level::Notes read_notes(const Field& f, const Project& project) {
    level::Notes out;
    if (!f.has("notes")) return out;
    for (const auto& [key, value] : f["notes"].entries()) {
        const level::NoteKind* kind = nullptr;
        for (const level::NoteKind& k : project.note_kinds)
            if (std::to_string(k.id) == key) kind = &k;
        if (!kind) value.refuse(say("The project has no note %1", key));
        out[kind->id] = read_note(value, *kind);
    }
    return out;
}

level::NoteId read_fact_note(const Field& f, const Project& project) {
    const auto id = static_cast<level::NoteId>(f.integer(0, UINT32_MAX));
    const level::NoteKind* kind = project.note_kind(id);
    if (id != 0 && !kind) f.refuse(say("The project has no note %1", id));
    if (kind && !level::may_be_fact(*kind)) f.refuse(say("Cells cannot have values of the note \"%1\"", kind->name));
    return id;
}

void put_grain(Json& layer, level::Grain grain) {
    if (grain.finer != 1) layer["finer"] = grain.finer;
    if (grain.wider != 1) layer["wider"] = grain.wider;
}

level::Grain read_grain(const Field& layer) {
    level::Grain out;
    if (layer.has("finer")) out.finer = layer["finer"].number(1, level::kMostGrain);
    if (layer.has("wider")) out.wider = layer["wider"].number(1, level::kMostGrain);
    if (out.finer != 1 && out.wider != 1) layer["wider"].refuse("Cells cannot be both finer and wider");
    return out;
}

Stamp read_stamp(const Field& f, const Project& project) {
    Stamp s;
    s.id = static_cast<StampId>(f["id"].integer(1, UINT32_MAX));
    s.name = f["name"].text();
    s.size = f["size"].size(1, 1024);
    s.cell = f["cell"].size(1, 1024);
    if (f.has("lattice")) s.lattice = static_cast<LatticeKind>(f["lattice"].word(lattice_words()));
    s.nine = f.has("nine") && f["nine"].yes();
    for (const Field& l : f["layers"].list(256)) {
        StampLayer layer;
        layer.from = static_cast<LayerId>(l["from"].integer(0, UINT32_MAX));
        layer.name = l["name"].text();
        const auto kind = static_cast<LayerKind>(l["kind"].word(layer_kind_words()));
        const auto rows = [&](level::Grain grain, std::uint32_t limit) {
            std::vector<std::string> lines;
            for (const Field& row : l["rows"].list(1024 * level::kMostGrain)) lines.push_back(row.text(1U << 16));
            return read_rows(lines, grain.cells(s.size), l.file(), l["rows"].path(), limit);
        };
        switch (kind) {
            case LayerKind::tiles: {
                const level::Grain grain = read_grain(l);
                layer.content = StampTiles{rows(grain, project.next_tile), grain};
                break;
            }
            case LayerKind::blockers: {
                Grid cells = rows({}, kTileShapes);
                each_cell(cells, box_of(cells.size()), [&](Point, Cell, MaterialId m) {
                    if (m != 0) l["rows"].refuse("Blockers have no material");
                });
                layer.content = Blockers::of(std::move(cells));
                break;
            }
            case LayerKind::facts: {
                Grid cells = rows({}, level::Facts::kCodes);
                each_cell(cells, box_of(cells.size()), [&](Point, Cell c, MaterialId m) {
                    if (m != 0 || !level::Facts::holds(c)) l["rows"].refuse("This is no value of a cell");
                });
                // What is named here may be gone meanwhile.
                const auto note = static_cast<level::NoteId>(l["note"].integer(0, UINT32_MAX));
                layer.content = level::Facts::of(project.note_kind(note) ? note : 0, std::move(cells));
                break;
            }
            case LayerKind::props:
            case LayerKind::planting: {
                // What is named here may be gone meanwhile.
                layer.content =
                    StampProps{read_props(l["props"], project, UnknownKinds::left_out), kind == LayerKind::planting};
                break;
            }
            case LayerKind::backdrop:
                l["kind"].refuse("A stamp has no backdrops");
        }
        s.layers.push_back(std::move(layer));
    }
    return s;
}

std::string copied_to_text(const Copied& copied) {
    return Json{{"project", copied.project}, {"stamp", copied.stamp}}.dump();
}

Copied copied_from_text(const std::string& text) {
    constexpr std::size_t kMostText = std::size_t{1} << 29;
    const std::string name = "clipboard";
    const Json json = parse_json(text, name);
    const Field root(json, name, "");
    return {root["project"].text(), root["stamp"].text(kMostText)};
}

std::string stamp_to_text(const Stamp& stamp) {
    Stamp named = stamp;
    named.id = std::max<StampId>(1, stamp.id); // what is only copied has none
    return json_lines(stamp_json(named));
}

Stamp stamp_from_text(const std::string& text, const std::string& name, const Project& project) {
    const Json json = parse_json(text, name);
    Stamp stamp = read_stamp(Field(json, name, ""), project);
    stamp.id = 0;
    return stamp;
}

} // namespace vic::store
