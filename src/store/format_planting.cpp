#include "store/format_planting.hpp"

#include <algorithm>
#include <map>
#include <string>
#include <vector>

#include "level/limits.hpp"

namespace vic::store {

using namespace level;

namespace {

constexpr std::size_t kMostTaken = 1U << 20;
constexpr int kMostSample = 1 << 22;
constexpr int kFarAway = 1 << 26; // pixels

const std::vector<std::string>& of_words() {
    static const std::vector<std::string> words{"everywhere", "painted", "material", "layer",      "tile",    "marks",
                                                "props",      "pass",    "tops",     "undersides", "picture", "frame"};
    return words;
}
const std::vector<std::string>& join_words() {
    static const std::vector<std::string> words{"with", "or_else", "without"};
    return words;
}
const std::vector<std::string>& how_words() {
    static const std::vector<std::string> words{"full", "part", "area", "per_cells"};
    return words;
}

Json term_json(const AreaTerm& t) {
    const AreaTerm plain;
    Json j{{"of", of_words()[static_cast<std::size_t>(t.of)]}};
    if (t.join != plain.join) j["join"] = join_words()[static_cast<std::size_t>(t.join)];
    if (t.layer != 0) j["layer"] = t.layer;
    if (t.material != 0) j["material"] = t.material;
    if (t.tile != 0) j["tile"] = t.tile;
    if (t.kind != 0) j["kind"] = t.kind;
    if (t.sheet != 0) j["sheet"] = t.sheet;
    if (t.of == AreaOf::pass) j["pass"] = t.pass + 1;
    if (t.from) j["from"] = *t.from;
    if (t.to) j["to"] = *t.to;
    if (t.falloff != 0) j["falloff"] = t.falloff;
    return j;
}

AreaTerm read_term(const Field& f, int pass) {
    AreaTerm t;
    t.of = static_cast<AreaOf>(f["of"].word(of_words()));
    if (f.has("join")) t.join = static_cast<AreaJoin>(f["join"].word(join_words()));
    const auto id = [&](const char* key) {
        return f.has(key) ? static_cast<std::uint32_t>(f[key].integer(0, UINT32_MAX)) : 0U;
    };
    t.layer = id("layer");
    t.material = static_cast<MaterialId>(f.has("material") ? f["material"].number(0, 255) : 0);
    t.tile = id("tile");
    t.kind = id("kind");
    t.sheet = id("sheet");
    if (t.of == AreaOf::pass) {
        t.pass = f["pass"].number(1, static_cast<int>(kMostPasses)) - 1;
        if (t.pass >= pass) f["pass"].refuse("A pass can look at earlier ones only");
    }
    t.to.reset();
    if (f.has("from")) t.from = f["from"].number(-kMostPlantApart, kMostPlantApart);
    if (f.has("to")) t.to = f["to"].number(-kMostPlantApart, kMostPlantApart);
    if (f.has("falloff")) t.falloff = f["falloff"].number(0, kMostPlantApart);
    return t;
}

std::vector<AreaTerm> read_terms(const Field& f, const char* key, int pass) {
    std::vector<AreaTerm> out;
    if (!f.has(key)) return out;
    for (const Field& t : f[key].list(kMostTerms)) out.push_back(read_term(t, pass));
    return out;
}

void put_range(Json& j, const char* key, int least, int most, int plain) {
    if (least != plain || most != plain) j[key] = {least, most};
}

void read_range(const Field& f, const char* key, int& least, int& most, int low, int high) {
    if (!f.has(key)) return;
    const Point range = f[key].point(low, high);
    if (range.x > range.y) f[key].refuse("The least is more than the most");
    least = range.x;
    most = range.y;
}

Json pass_json(const Pass& p) {
    const Pass plain;
    Json j{{"name", p.name}, {"kinds", Json::array()}};
    if (p.muted) j["muted"] = true;
    for (const PlantKind& k : p.kinds) {
        Json one{{"kind", k.kind}, {"weight", k.weight}};
        if (k.apart != 0) one["apart"] = k.apart;
        j["kinds"].push_back(std::move(one));
    }
    if (p.apart != 0) j["apart"] = p.apart;
    j["covers"] = {{"how", how_words()[static_cast<std::size_t>(p.covers.how)]}, {"amount", p.covers.amount}};
    if (p.clumps != plain.clumps)
        j["clumps"] = {
            {"size", p.clumps.size}, {"apart", p.clumps.apart}, {"most", p.clumps.most}, {"by_kind", p.clumps.by_kind}};
    if (p.even) j["even"] = true;
    for (const AreaTerm& t : p.where) j["where"].push_back(term_json(t));
    for (std::size_t i = 0; i < kMostPasses; ++i)
        if ((p.ignores >> i) & 1U) j["ignores"].push_back(i + 1);
    if (!p.minds_placed) j["minds_placed"] = false;
    put_range(j, "scale", p.least_scale, p.most_scale, 100);
    if (p.rim != plain.rim) j["rim"] = p.rim;
    if (p.rim_wide != plain.rim_wide) j["rim_wide"] = p.rim_wide;
    put_range(j, "turn", p.least_turn, p.most_turn, 0);
    if (!p.mirrors) j["mirrors"] = false;
    put_range(j, "light", p.least_light, p.most_light, 0);
    if (p.opacity != 100) j["opacity"] = p.opacity;
    if (p.tint != plain.tint) j["tint"] = to_json(p.tint);
    if (p.tint_to) j["tint_to"] = to_json(*p.tint_to);
    return j;
}

void read_how_many(const Field& f, Pass& p) {
    p.covers.how = static_cast<Covers::How>(f["covers"]["how"].word(how_words()));
    p.covers.amount = f["covers"]["amount"].number(1, p.covers.how == Covers::How::per_cells ? 10000 : 100);
    if (!f.has("clumps")) return;
    const Field c = f["clumps"];
    p.clumps = {c["size"].number(0, kMostPlantApart), c["apart"].number(0, kMostPlantApart),
                c["most"].number(0, 100000), c["by_kind"].yes()};
}

Pass read_pass(const Field& f, const Project& project, int index) {
    Pass p;
    p.name = f["name"].text(4 * kMostNameLetters);
    if (f.has("muted")) p.muted = f["muted"].yes();
    for (const Field& k : f["kinds"].list(kMostGrown)) {
        PlantKind kind{static_cast<PropKindId>(k["kind"].integer(1, UINT32_MAX)), k["weight"].number(0, 1000),
                       k.has("apart") ? k["apart"].number(0, kMostPlantApart) : 0};
        if (project.prop_kind(kind.kind)) p.kinds.push_back(kind);
    }
    if (f.has("apart")) p.apart = f["apart"].number(0, kMostPlantApart);
    read_how_many(f, p);
    if (f.has("even")) p.even = f["even"].yes();
    p.where = read_terms(f, "where", index);
    if (f.has("ignores"))
        for (const Field& one : f["ignores"].list(kMostPasses))
            p.ignores |= std::uint64_t{1} << (one.number(1, static_cast<int>(kMostPasses)) - 1);
    if (f.has("minds_placed")) p.minds_placed = f["minds_placed"].yes();
    read_range(f, "scale", p.least_scale, p.most_scale, kLeastScale, kMostScale);
    if (f.has("rim")) p.rim = f["rim"].number(10, 1000);
    if (f.has("rim_wide")) p.rim_wide = f["rim_wide"].number(1, kMostPlantApart);
    read_range(f, "turn", p.least_turn, p.most_turn, -kFullTurn / 2, kFullTurn / 2);
    if (f.has("mirrors")) p.mirrors = f["mirrors"].yes();
    read_range(f, "light", p.least_light, p.most_light, -100, 100);
    if (f.has("opacity")) p.opacity = f["opacity"].number(0, 100);
    if (f.has("tint")) p.tint = f["tint"].colour();
    if (f.has("tint_to")) p.tint_to = f["tint_to"].colour();
    return p;
}

// Rows of runs: [y, x, length, strength, x, length, strength …].
Json painted_json(const Painted& painted) {
    std::map<int, std::vector<int>> rows;
    painted.each_run([&](Point at, int length, int strength) {
        auto& row = rows[at.y];
        const std::size_t n = row.size();
        if (n > 0 && row[n - 3] + row[n - 2] == at.x && row[n - 1] == strength) {
            row[n - 2] += length;
            return;
        }
        row.insert(row.end(), {at.x, length, strength});
    });
    Json out = Json::array();
    for (const auto& [y, runs] : rows) {
        Json row{y};
        for (const int v : runs) row.push_back(v);
        out.push_back(std::move(row));
    }
    return out;
}

Painted read_painted(const Field& f) {
    Painted out;
    std::int64_t left = 1 << 26; // samples
    for (const Field& row : f.list(1U << 16)) {
        const auto values = row.list(1U << 16);
        if (values.empty() || values.size() % 3 != 1) row.refuse("A row is its place, then runs of three numbers each");
        const int y = values[0].number(-kMostSample, kMostSample);
        for (std::size_t i = 1; i < values.size(); i += 3) {
            const int x = values[i].number(-kMostSample, kMostSample), length = values[i + 1].number(1, 1 << 16);
            const int strength = values[i + 2].number(1, 255);
            left -= length;
            if (left < 0) row.refuse("There is too much painted");
            for (int k = 0; k < length; ++k) out.set({x + k, y}, strength);
        }
    }
    return out;
}

// What older programs wrote: one pass on a layer's material.
Planting read_first(const Field& f, const Project& project) {
    Planting out;
    AreaTerm where;
    where.layer = static_cast<LayerId>(f["on"].integer(0, UINT32_MAX));
    where.material = static_cast<MaterialId>(f["material"].number(0, 255));
    where.of = where.material != 0 ? AreaOf::material : AreaOf::layer;
    out.area = {where};
    Pass pass;
    pass.name = "1";
    pass.apart = f["apart"].number(1, kMostPlantApart);
    const int leaves = f["leaves"].number(0, 99);
    if (leaves > 0) pass.covers = {Covers::How::part, 100 - leaves};
    for (const Field& k : f["kinds"].list(kMostGrown)) {
        PlantKind kind{static_cast<PropKindId>(k["kind"].integer(1, UINT32_MAX)), k["weight"].number(0, 1000)};
        if (project.prop_kind(kind.kind)) pass.kinds.push_back(kind);
    }
    out.passes = {pass};
    out.seed = static_cast<std::uint32_t>(f["seed"].integer(0, UINT32_MAX));
    return out;
}

} // namespace

Json planting_json(const Planting& p) {
    Json j{{"seed", p.seed}, {"passes", Json::array()}};
    for (const AreaTerm& t : p.area) j["area"].push_back(term_json(t));
    for (const Pass& pass : p.passes) j["passes"].push_back(pass_json(pass));
    if (!p.painted.empty()) j["painted"] = painted_json(p.painted);
    if (!p.cleared.empty()) j["cleared"] = painted_json(p.cleared);
    for (const TakenAway& t : p.taken) j["taken"].push_back({t.at.x, t.at.y, t.radius});
    return j;
}

Planting read_planting(const Field& f, const Project& project) {
    if (!f.has("passes")) return read_first(f, project);
    Planting out;
    out.seed = static_cast<std::uint32_t>(f["seed"].integer(0, UINT32_MAX));
    out.area = read_terms(f, "area", 0);
    for (const Field& pass : f["passes"].list(kMostPasses))
        out.passes.push_back(read_pass(pass, project, static_cast<int>(out.passes.size())));
    if (f.has("painted")) out.painted = read_painted(f["painted"]);
    if (f.has("cleared")) out.cleared = read_painted(f["cleared"]);
    if (f.has("taken"))
        for (const Field& t : f["taken"].list(kMostTaken)) {
            const auto three = t.list(3);
            if (three.size() != 3) t.refuse("A place that was taken is three numbers");
            out.taken.push_back({{three[0].number(-kFarAway, kFarAway), three[1].number(-kFarAway, kFarAway)},
                                 three[2].number(0, kMostPlantApart)});
        }
    return out;
}

} // namespace vic::store
