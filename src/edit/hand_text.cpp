#include "edit/hand_text.hpp"

#include <algorithm>
#include <cstdint>

#include "level/project.hpp"
#include "store/fields.hpp"

namespace vic::edit {

namespace {

using store::Field;
using store::Json;

const std::vector<std::string>& words() {
    static const std::vector<std::string> all{"empty", "material", "tile",  "eraser",
                                              "prop",  "spread",   "stamp", "blocker"};
    return all;
}

Json json_of(const Hand& h) {
    Json j{{"kind", words().at(static_cast<std::size_t>(h.kind))},
           {"material", h.material},
           {"tile", h.tile},
           {"prop", h.prop},
           {"turn", h.turn.code},
           {"size", h.size},
           {"round", h.round},
           {"share_empty", h.share_empty},
           {"seed", h.seed},
           {"stamp", h.stamp ? h.stamp->id : 0},
           {"pins", h.pins},
           {"spread", Json::array()}};
    for (const SpreadItem& i : h.spread)
        j["spread"].push_back(
            {{"material", i.material}, {"tile", i.tile}, {"turn", i.turn.code}, {"weight", i.weight}});
    return j;
}

std::uint32_t id_of(const Field& f) { return static_cast<std::uint32_t>(f.integer(0, UINT32_MAX)); }

Turn turn_of(const Field& f) { return Turn{static_cast<std::uint8_t>(f.number(0, 7))}; }

Hand hand_of(const Field& f, const level::Project& project) {
    Hand h;
    h.kind = static_cast<Hand::Kind>(f["kind"].word(words()));
    h.material = static_cast<level::MaterialId>(f["material"].number(0, 255));
    h.tile = id_of(f["tile"]);
    h.prop = id_of(f["prop"]);
    h.turn = turn_of(f["turn"]);
    h.size = f["size"].number(1, 16);
    h.round = f["round"].yes();
    h.share_empty = f["share_empty"].number(0, 99);
    h.seed = id_of(f["seed"]);
    h.pins = f["pins"].yes();
    h.stamp = project.stamp(id_of(f["stamp"]));
    for (const Field& i : f["spread"].list(1024))
        h.spread.push_back({static_cast<level::MaterialId>(i["material"].number(0, 255)), id_of(i["tile"]),
                            turn_of(i["turn"]), i["weight"].number(0, 1000)});
    return h;
}

bool is_there(const Hand& h, const level::Project& project, const level::TileTable& tiles) {
    const auto has = [&](const SpreadItem& i) {
        return i.material != 0 ? project.material(i.material) != nullptr : tiles.find(i.tile).tile != nullptr;
    };
    switch (h.kind) {
        case Hand::Kind::material:
            return project.material(h.material) != nullptr;
        case Hand::Kind::tile:
            return tiles.find(h.tile).tile != nullptr;
        case Hand::Kind::prop:
            return project.prop_kind(h.prop) != nullptr;
        case Hand::Kind::spread:
            return !h.spread.empty() && std::all_of(h.spread.begin(), h.spread.end(), has);
        case Hand::Kind::stamp:
            return h.stamp != nullptr;
        case Hand::Kind::blocker:
            return h.tile >= 1 && h.tile < level::kBlockerLimit;
        case Hand::Kind::empty:
        case Hand::Kind::eraser:
            return true;
    }
    return false;
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
        const Hand h = hand_of(f, project);
        out.push_back(is_there(h, project, tiles) ? h : Hand{});
    }
    return out;
}

} // namespace vic::edit
