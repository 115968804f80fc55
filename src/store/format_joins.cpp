#include "store/format_joins.hpp"

#include <algorithm>

#include "join/mask.hpp"
#include "store/format.hpp"

namespace vic::store {

using namespace level;

namespace {

const std::string& word_of(JoinKind kind) { return join_kind_words().at(static_cast<std::size_t>(kind)); }

// [tile, weight], or [tile, weight, turn] of what is laid turned.
Json cases_json(const Cases& all, JoinKind kind) {
    Json out = Json::array();
    for (const auto& [mask, variants] : all) {
        Json tiles = Json::array();
        for (const Variant& v : variants)
            if (v.turn.code == 0)
                tiles.push_back({v.tile, v.weight});
            else
                tiles.push_back({v.tile, v.weight, v.turn.code});
        out.push_back({{"mask", join::file_mask(mask, kind)}, {"tiles", tiles}});
    }
    return out;
}

std::uint8_t read_mask(const Field& f, JoinKind kind) {
    auto mask = static_cast<std::uint8_t>(f.number(0, 255));
    // Joined corners are written without their sides.
    if (kind == JoinKind::corners && (mask & join::kSides) == 0) mask = join::of_corners(mask);
    if (join::canonical(mask, kind) != mask)
        f.refuse(say("The mask %1 is no case of the kind %2", mask, word_of(kind)));
    return mask;
}

TileId read_tile_id(const Field& f, std::uint32_t next_tile) {
    const auto id = f.integer(0, kMostTiles);
    if (id < 1 || id >= next_tile) f.refuse(say("Tile %1 was never given out", id));
    return static_cast<TileId>(id);
}

Cases read_cases(const Field& f, JoinKind kind, std::uint32_t next_tile) {
    Cases out;
    for (const Field& c : f.list(256)) {
        const std::uint8_t mask = read_mask(c["mask"], kind);
        if (out.contains(mask)) c["mask"].refuse("The case comes twice");
        auto& variants = out[mask];
        for (const Field& v : c["tiles"].list(4096)) {
            const auto parts = v.list(3);
            if (parts.size() < 2) v.refuse("A variant is a tile's number, its weight, and its turn if it has one");
            Variant variant;
            variant.tile = read_tile_id(parts[0], next_tile);
            variant.weight = parts[1].number(0, 1000);
            if (parts.size() == 3) variant.turn.code = static_cast<std::uint8_t>(parts[2].number(0, 7));
            variants.push_back(variant);
        }
    }
    return out;
}

} // namespace

Json material_json(const Material& m) {
    const JoinSet& set = m.joins;
    Json j{{"id", m.id}, {"name", m.name}, {"kind", word_of(set.kind)}};
    j["beyond_is_same"] = set.beyond_is_same;
    if (set.turns != kNoTurns) j["turns"] = set.turns;
    if (set.lively != 0) j["lively"] = set.lively;
    if (set.priority != 0) j["priority"] = set.priority;
    if (set.over) j["over"] = true;
    if (!set.same.empty()) j["same"] = set.same;
    if (!set.accepted.empty()) j["accepted"] = set.accepted;
    if (!m.homes.empty()) j["homes"] = m.homes;
    j["cases"] = cases_json(set.cases, set.kind);
    for (const auto& [other, cases] : set.pairs)
        j["pairs"].push_back({{"with", other}, {"cases", cases_json(cases, set.kind)}});
    return j;
}

Material read_material(const Field& f, std::uint32_t next_tile) {
    Material m;
    m.id = static_cast<MaterialId>(f["id"].number(1, 255));
    m.name = f["name"].text();
    JoinSet& set = m.joins;
    set.kind = static_cast<JoinKind>(f["kind"].word(join_kind_words()));
    set.beyond_is_same = f["beyond_is_same"].yes();
    if (f.has("turns")) {
        set.turns = static_cast<std::uint8_t>(f["turns"].number(1, 255));
        if (!(set.turns & 1)) f["turns"].refuse("A tile may always be laid as it is drawn: the first bit is set");
    }
    if (f.has("lively")) set.lively = f["lively"].number(0, 100);
    if (f.has("priority")) set.priority = f["priority"].number(0, 255);
    if (f.has("over")) set.over = f["over"].yes();
    if (f.has("same")) {
        for (const Field& id : f["same"].list(255)) set.same.push_back(static_cast<MaterialId>(id.number(1, 255)));
        std::sort(set.same.begin(), set.same.end());
        set.same.erase(std::unique(set.same.begin(), set.same.end()), set.same.end());
    }
    if (f.has("accepted")) {
        for (const Field& id : f["accepted"].list(4096)) set.accepted.push_back(read_tile_id(id, next_tile));
        std::sort(set.accepted.begin(), set.accepted.end());
    }
    m.homes = read_homes(f);
    set.cases = read_cases(f["cases"], set.kind, next_tile);
    if (f.has("pairs"))
        for (const Field& p : f["pairs"].list(255)) {
            const auto other = static_cast<MaterialId>(p["with"].number(1, 255));
            if (set.pairs.contains(other)) p["with"].refuse("The pair comes twice");
            set.pairs[other] = read_cases(p["cases"], set.kind, next_tile);
        }
    return m;
}

Json order_card_json(const OrderCard& card) {
    Json masks = Json::array();
    for (const auto& mask : card.masks)
        masks.push_back(mask ? static_cast<int>(join::file_mask(*mask, card.kind)) : -1);
    Json j{{"id", card.id},
           {"name", card.name},
           {"kind", word_of(card.kind)},
           {"layout", to_json(card.layout)},
           {"masks", masks}};
    if (card.drawn != Size{}) j["drawn"] = to_json(card.drawn);
    return j;
}

OrderCard read_order_card(const Field& f) {
    OrderCard card;
    card.id = static_cast<std::uint32_t>(f["id"].integer(1, UINT32_MAX));
    card.name = f["name"].text();
    card.kind = static_cast<JoinKind>(f["kind"].word(join_kind_words()));
    card.layout = f["layout"].size(1, 4096);
    const auto masks = f["masks"].list(1U << 20);
    if (static_cast<std::int64_t>(masks.size()) != card.layout.area())
        f["masks"].refuse(say("The card has %1 places for %2 tiles", masks.size(), card.layout.area()));
    for (const Field& m : masks)
        card.masks.push_back(m.number(-1, 255) < 0 ? std::nullopt : std::optional(read_mask(m, card.kind)));
    if (f.has("drawn")) card.drawn = f["drawn"].size(1, level::kMostCellPixels);
    return card;
}

Json composed_json(const std::vector<Composed>& all) {
    Json out = Json::array();
    for (const Composed& c : all) {
        Json tile = Json::array();
        for (const Quarter& q : c) tile.push_back({q.from, q.turn.code});
        out.push_back(std::move(tile));
    }
    return out;
}

std::vector<Composed> read_composed(const Field& f, std::uint32_t next_tile) {
    std::vector<Composed> out;
    for (const Field& tile : f.list(4096)) {
        const auto quarters = tile.list(4);
        if (quarters.size() != 4) tile.refuse("A composed tile has four quarters");
        Composed c;
        for (std::size_t q = 0; q < 4; ++q) {
            const auto pair = quarters[q].list(2);
            if (pair.size() != 2) quarters[q].refuse("A quarter is a tile's number and its turn");
            c[q] = {read_tile_id(pair[0], next_tile), {static_cast<std::uint8_t>(pair[1].number(0, 7))}};
        }
        out.push_back(c);
    }
    return out;
}

Json recolour_json(const level::Recolour& by) {
    Json j{{"of", by.of}, {"hue", by.hue}, {"saturation", by.saturation}, {"lightness", by.lightness}};
    for (const auto& [from, to] : by.swaps) j["swaps"].push_back({to_json(from), to_json(to)});
    return j;
}

level::Recolour read_recolour(const Field& f) {
    level::Recolour by;
    by.of = static_cast<level::SheetId>(f["of"].integer(1, UINT32_MAX));
    by.hue = f["hue"].number(-180, 180);
    by.saturation = f["saturation"].number(-100, 100);
    by.lightness = f["lightness"].number(-100, 100);
    if (f.has("swaps"))
        for (const Field& swap : f["swaps"].list(level::kMostSwaps)) {
            const auto pair = swap.list(2);
            if (pair.size() != 2) swap.refuse("A colour is exchanged for one other");
            by.swaps.emplace_back(pair[0].colour(), pair[1].colour());
        }
    return by;
}

} // namespace vic::store
