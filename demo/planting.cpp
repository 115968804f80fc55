// The recipe of the marsh edge: from the large to the small, each pass among what the earlier ones planted.
#include "levels.hpp"

namespace pell {

using namespace vic;
using level::AreaJoin;
using level::AreaOf;
using level::AreaTerm;
using level::Covers;
using level::Pass;

namespace {

level::LayerId layer_of(const level::Level& level, const std::string& name) {
    for (const auto& l : level.layers)
        if (l->name == name) return l->id;
    return 0;
}

} // namespace

level::Planting creek_bank(const Stock& stock, const level::Level& level) {
    enum Order { trees, stains, twigs, stones, reeds, sedge, flowers };
    const level::LayerId marsh = layer_of(level, "Marsh"), boards = layer_of(level, "Boardwalk");
    const level::LayerId pans = layer_of(level, "Pans");
    const auto on_marsh = [&](std::optional<int> from, std::optional<int> to) {
        AreaTerm out{.of = AreaOf::material, .layer = marsh, .material = stock.materials.at("Marsh")};
        out.from = from;
        out.to = to;
        return out;
    };
    const auto by_water = [&](int to, AreaJoin join) {
        AreaTerm out{.of = AreaOf::layer, .join = join, .layer = pans};
        out.to = to;
        return out;
    };
    const auto near_pass = [](int pass, int to, AreaJoin join) {
        AreaTerm out{.of = AreaOf::pass, .join = join, .pass = pass};
        out.to = to;
        return out;
    };
    const auto clear_of_boards = [&](int by) {
        AreaTerm out{.of = AreaOf::layer, .join = AreaJoin::without, .layer = boards};
        out.to = by;
        return out;
    };
    const auto pass = [&](const std::string& name, std::vector<std::pair<const char*, int>> kinds, int apart,
                          Covers covers) {
        Pass out;
        out.name = name;
        for (const auto& [kind, weight] : kinds) out.kinds.push_back({stock.props.at(kind), weight, 0});
        out.apart = apart;
        out.covers = covers;
        return out;
    };
    const auto part = [](int share) { return Covers{Covers::How::part, share}; };

    level::Planting out;
    out.seed = 7;
    // A little beyond the marsh, where stones and drift lie; neither on the boards nor in the water.
    out.area = {on_marsh({}, 10), clear_of_boards(8), by_water(2, AreaJoin::without)};
    out.passes.resize(flowers + 1);

    Pass& t = out.passes[trees] = pass(
        "Alder and willow", {{"Alder", 70}, {"Young alder", 100}, {"Willow", 60}, {"Young willow", 80}}, 40, part(80));
    t.where = {on_marsh({}, -8), clear_of_boards(44), by_water(10, AreaJoin::without)};
    t.clumps = {180, 230, 0, false};
    t.least_light = -8;
    t.most_light = 8;

    Pass& s = out.passes[stains] = pass("Wet ground under them", {{"Stain", 100}, {"Small stain", 60}}, 22, {});
    s.where = {near_pass(trees, 9, AreaJoin::with)};
    s.opacity = 50;

    Pass& w = out.passes[twigs] = pass("Twigs", {{"Twigs", 100}, {"Few twigs", 100}}, 14, part(70));
    w.where = {near_pass(trees, 28, AreaJoin::with)};

    Pass& d = out.passes[stones] = pass("Driftwood and stones",
                                        {{"Boulder", 90},
                                         {"Stone", 120},
                                         {"Small stone", 60},
                                         {"Driftwood", 70},
                                         {"Drift log", 70},
                                         {"Drift branch", 60}},
                                        0, part(70));
    d.where = {on_marsh(-14, 8), clear_of_boards(20)};
    d.clumps = {76, 170, 6, false};

    Pass& r = out.passes[reeds] =
        pass("Reeds by the creek", {{"Reeds", 100}, {"Tall reeds", 70}, {"Few reeds", 60}}, 9, part(85));
    r.where = {by_water(18, AreaJoin::with), on_marsh({}, 2)};
    r.clumps = {96, 120, 0, false};
    r.least_light = -6;
    r.most_light = 6;

    Pass& g = out.passes[sedge] = pass("Sedge", {{"Sedge", 80}, {"Low sedge", 100}, {"Thin sedge", 100}}, 11, part(45));
    g.where = {on_marsh({}, -3)};
    g.clumps = {110, 150, 0, false};
    g.rim = 100;
    g.least_light = -10;
    g.most_light = 10;

    Pass& f = out.passes[flowers] =
        pass("Flowers by colour", {{"Sea lavender", 120}, {"Thrift", 90}, {"Marsh marigold", 70}}, 10, part(95));
    f.where = {on_marsh({}, -4), near_pass(trees, 10, AreaJoin::without)};
    f.clumps = {58, 96, 0, true};
    return out;
}

} // namespace pell
