#include "edit/hand_text.hpp"

#include <algorithm>
#include <cstdint>

#include "base/match.hpp"
#include "level/project.hpp"
#include "store/fields.hpp"
#include "store/format_props.hpp"

namespace vic::edit {

namespace {

using store::Field;
using store::Json;

// In the order of Held.
const std::vector<std::string>& words() {
    static const std::vector<std::string> all{"empty",  "material", "tile",    "eraser", "prop",
                                              "spread", "stamp",    "blocker", "fact"};
    return all;
}

Json json_of(const Hand& h) {
    Json j{{"kind", words().at(h.holds.index())}, {"turn", h.turn.code}, {"size", h.size}, {"round", h.round},
           {"share_empty", h.share_empty},        {"seed", h.seed}};
    match(
        h.holds, [](const held::Nothing&) {}, [](const held::Eraser&) {},
        [&](const held::Material& m) { j["material"] = m.id; }, [&](const held::Tile& t) { j["tile"] = t.id; },
        [&](const held::Prop& p) {
            j["prop"] = p.kind;
            j["look"] = Json::object();
            store::put_look(j["look"], p.look);
        },
        [&](const held::Blocker& b) { j["shape"] = static_cast<int>(b.shape); },
        [&](const held::Fact& fact) {
            j["note"] = fact.note;
            j["value"] = fact.value;
        },
        [&](const held::Stamp& s) {
            j["stamp"] = s.stamp->id;
            j["pins"] = s.pins;
        },
        [&](const held::Spread& s) {
            j["spread"] = Json::array();
            for (const SpreadItem& i : s.items)
                j["spread"].push_back(
                    {{"material", i.material}, {"tile", i.tile}, {"turn", i.turn.code}, {"weight", i.weight}});
        });
    return j;
}

std::uint32_t id_of(const Field& f) { return static_cast<std::uint32_t>(f.integer(0, UINT32_MAX)); }

Turn turn_of(const Field& f) { return Turn{static_cast<std::uint8_t>(f.number(0, 7))}; }

level::MaterialId material_id_of(const Field& f) { return static_cast<level::MaterialId>(f.number(0, 255)); }

// What the field says, nothing where the project has it no more.
Held held_of(const Field& f, const level::Project& project, const level::TileTable& tiles) {
    const auto has = [&](const SpreadItem& i) {
        return i.material != 0 ? project.material(i.material) != nullptr : tiles.find(i.tile).tile != nullptr;
    };
    const auto if_there = [](bool there, const auto& held) { return there ? Held(held) : Held{}; };
    const std::string& kind = words().at(f["kind"].word(words()));
    if (kind == "material") {
        const held::Material m{material_id_of(f["material"])};
        return if_there(project.material(m.id) != nullptr, m);
    }
    if (kind == "tile") {
        const held::Tile t{id_of(f["tile"])};
        return if_there(tiles.find(t.id).tile != nullptr, t);
    }
    if (kind == "eraser") return held::Eraser{};
    if (kind == "prop") {
        held::Prop p{id_of(f["prop"])};
        if (f.has("look")) p.look = store::read_look(f["look"]);
        return if_there(project.prop_kind(p.kind) != nullptr, p);
    }
    if (kind == "spread") {
        held::Spread s;
        for (const Field& i : f["spread"].list(1024))
            s.items.push_back(
                {material_id_of(i["material"]), id_of(i["tile"]), turn_of(i["turn"]), i["weight"].number(0, 1000)});
        return if_there(!s.items.empty() && std::all_of(s.items.begin(), s.items.end(), has), s);
    }
    if (kind == "stamp") {
        const held::Stamp s{project.stamp(id_of(f["stamp"])), f["pins"].yes()};
        return if_there(s.stamp != nullptr, s);
    }
    if (kind == "blocker")
        return held::Blocker{static_cast<level::TileShape>(f["shape"].number(1, level::kTileShapes - 2))};
    if (kind == "fact") {
        const held::Fact fact{id_of(f["note"]), f["value"].number(-level::kMostFact, level::kMostFact)};
        return if_there(fact.note == 0 || project.note_kind(fact.note) != nullptr, fact);
    }
    return held::Nothing{};
}

Hand hand_of(const Field& f, const level::Project& project, const level::TileTable& tiles) {
    Hand h{held_of(f, project, tiles)};
    if (h.empty()) return h;
    h.turn = turn_of(f["turn"]);
    h.size = f["size"].number(1, 16);
    h.round = f["round"].yes();
    h.share_empty = f["share_empty"].number(0, 99);
    h.seed = id_of(f["seed"]);
    return h;
}

} // namespace

std::string hands_to_text(const std::vector<Hand>& hands) {
    Json all = Json::array();
    for (const Hand& h : hands) all.push_back(json_of(h));
    return all.dump();
}

std::vector<Hand> hands_from_text(const std::string& text, const level::Project& project) {
    const std::string name = "pockets";
    const Json json = store::parse_json(text, name);
    const level::TileTable tiles(project);
    std::vector<Hand> out;
    for (const Field& f : Field(json, name, "").list(64)) {
        out.push_back(hand_of(f, project, tiles));
    }
    return out;
}

} // namespace vic::edit
