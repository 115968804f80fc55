// Materials together: what counts as the same, rank, tiles for two materials, what lies below; lively variants.
#include <catch2/catch.hpp>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "store/fields.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::join;
using level::Cell;
using level::Grid;
using level::MaterialId;

namespace {

// Three materials that all join by the same 47 tiles; 4 has tiles of its own, two variants a case.
level::Project three(make::Small& small) {
    level::Project p = small.project;
    for (const MaterialId id : {MaterialId{3}, MaterialId{4}}) {
        level::Material m = *p.material(1);
        m.id = id;
        m.name = "Rock " + std::to_string(id);
        p.put(std::move(m));
    }
    return p;
}

Mask by_words(const level::Project& p, const Grid& grid, Point at) {
    const level::Material& own = *p.material(grid.material(at));
    Mask mask = 0;
    for (unsigned i = 0; i < 8; ++i) {
        const Point n = at + kNeighbour[i];
        bool same = own.joins.beyond_is_same;
        if (box_of(grid.size()).contains(n)) {
            const MaterialId m = grid.material(n);
            const level::Material* other = p.material(m);
            same = m == own.id ||
                   (other && (std::find(own.joins.same.begin(), own.joins.same.end(), m) != own.joins.same.end() ||
                              other->joins.priority > own.joins.priority));
        }
        if (same) mask = static_cast<Mask>(mask | (1U << i));
    }
    return mask;
}

} // namespace

TEST_CASE("what counts as the same and who ranks higher joins as the words say, cell by cell and stroke by stroke",
          "[relations]") {
    make::Small small({70, 66});
    level::Project p = three(small);
    p = edit::change_set(p, 1, [](level::JoinSet& s) { s.same = {3}; });
    p = edit::change_set(p, 4, [](level::JoinSet& s) { s.priority = 5; });
    p = edit::change_set(p, 3, [](level::JoinSet& s) { s.beyond_is_same = false; });
    const Rules rules(p);
    make::Random random(4);
    level::Level level = small.level();
    for (int stroke = 0; stroke < 600; ++stroke) {
        const bool paints = random.flip(0.8);
        const MaterialId ids[] = {1, 3, 4, 2};
        const MaterialId id = ids[random.below(4)];
        const edit::Hand hand = paints ? make::material(id) : make::eraser();
        const Point from{random.below(72) - 1, random.below(68) - 1};
        level = edit::lay(p, rules, level, small.ground, hand,
                          edit::box_cells({from.x, from.y, 1 + random.below(9), 1 + random.below(7)}))
                    .level;
    }
    const Grid& grid = level.layer(small.ground)->grid();
    Grid again = grid;
    resolve(rules, again, level.cells(), small.ground);
    CHECK(again == grid);
    int wrong = 0;
    level::each_cell(grid, level.cells(), [&](Point at, Cell cell, MaterialId m) {
        if (m == 2) return;
        wrong += cell != rules.choose(m, by_words(p, grid, at), at.x, at.y, small.ground);
        wrong += rules.mask(around(grid, at)) != by_words(p, grid, at);
    });
    CHECK(wrong == 0);
}

TEST_CASE("where two materials meet, tiles drawn for the two serve, and the own ones elsewhere", "[relations]") {
    make::Small small({12, 6});
    level::Project p = three(small);
    const level::TileId special = 46;
    const Mask west_open = 255 & ~(kNW | kW | kSW);
    p = edit::change_set(p, 1, [&](level::JoinSet& s) { s.pairs[3][west_open] = {{special, 100, {}}}; });
    level::Level level = *p.level(small.id);
    Grid& grid = level.edit(small.ground).grid();
    for (int y = 0; y < 6; ++y)
        for (int x = 0; x < 12; ++x) grid.set({x, y}, {}, x < 6 ? 3 : 1);
    const Rules rules(p);
    resolve(rules, grid, level.cells(), small.ground);
    CHECK(grid.cell({6, 3}).tile() == special);
    CHECK_FALSE(rules.missing(around(grid, {6, 3})));
    // A case that the pair has no tile for is served by the material's own.
    grid.set({6, 2}, {}, 3);
    resolve(rules, grid, level.cells(), small.ground);
    CHECK(grid.cell({6, 3}).tile() ==
          p.material(1)->joins.cases.at(canonical(by_words(p, grid, {6, 3}), level::JoinKind::full)).front().tile);
    // Against nothing, its own.
    for (int y = 0; y < 6; ++y)
        for (int x = 0; x < 7; ++x) grid.set({x, y}, {}, x == 6 ? 1 : 0);
    resolve(rules, grid, level.cells(), small.ground);
    CHECK(grid.cell({6, 3}).tile() == p.material(1)->joins.cases.at(west_open).front().tile);
}

TEST_CASE("what lies over another shows it below its rim, in the picture and in the parcel", "[relations]") {
    make::Small small({8, 6});
    level::Project p = three(small);
    p = edit::change_set(p, 1, [](level::JoinSet& s) { s.over = true; });
    level::Level level = *p.level(small.id);
    Grid& grid = level.edit(small.ground).grid();
    for (int y = 0; y < 6; ++y)
        for (int x = 0; x < 8; ++x) grid.set({x, y}, {}, x < 4 ? 3 : 1);
    const Rules rules(p);
    resolve(rules, grid, level.cells(), small.ground);
    const Grid below = underlay(rules, grid, level.cells(), small.ground);
    for (int y = 0; y < 6; ++y)
        for (int x = 0; x < 8; ++x) {
            const bool rim = x == 4;
            CHECK(below.cell({x, y}).empty() == !rim);
            if (rim) CHECK(below.cell({x, y}).tile() == p.material(3)->joins.cases.at(255).front().tile);
        }
    p.put(level);
    const auto parcel = store::parse_json(parcel::files(p, level).at("level.json"), "level.json");
    const auto& layers = parcel["layers"];
    REQUIRE(layers.size() == level.layers.size() + 1);
    CHECK(layers[0]["name"] == level.layers[0]->name + ", below");
    CHECK(layers[0]["cells"]["box"] == store::Json({4, 0, 1, 6}));
    CHECK(parcel["plane"] == level.plane + 1);
    // The same pixels as with the tile laid by hand on a layer below.
    level::Level by_hand = level;
    level::Layer under;
    under.id = 999;
    under.grid() = below;
    by_hand.layers.insert(by_hand.layers.begin(), std::make_shared<const level::Layer>(under));
    level::Project plain = edit::change_set(p, 1, [](level::JoinSet& s) { s.over = false; });
    CHECK(picture::render(p, level, 1) == picture::render(plain, by_hand, 1));
}

TEST_CASE("lively variants lie beside themselves less than by chance, and their weights hold", "[lively]") {
    make::Small small({4, 4});
    const auto& sand = small.project.sheets[1]->tiles;
    const auto field = [&](int lively, std::vector<int> weights) {
        std::vector<level::Variant> variants;
        for (std::size_t i = 0; i < weights.size(); ++i) variants.push_back({sand[i].id, weights[i], {}});
        level::Project p = edit::set_case(small.project, 2, 255, variants);
        p = edit::change_set(p, 2, [&](level::JoinSet& s) { s.lively = lively; });
        Grid grid(Size{128, 128});
        for (int y = 0; y < 128; ++y)
            for (int x = 0; x < 128; ++x) grid.set({x, y}, {}, 2);
        resolve(Rules(p), grid, box_of(grid.size()), 7);
        return std::pair{p, grid};
    };
    for (const std::vector<int>& weights :
         {std::vector<int>{100, 100}, {100, 100, 100}, {100, 100, 100, 100}, {300, 100, 50}}) {
        double total = 0;
        for (const int w : weights) total += w;
        double before = 1;
        for (const int lively : {0, 50, 100}) {
            const auto [p, grid] = field(lively, weights);
            const Repetition r = repetition(p, grid, 2);
            INFO(weights.size() << " variants, lively " << lively << ": " << r.share() << " by chance " << r.by_chance);
            CHECK(r.pairs == 2 * 127 * 128);
            if (lively == 0) CHECK(std::abs(r.share() - r.by_chance) < 0.02);
            if (lively > 0) CHECK(r.share() < r.by_chance);
            CHECK(r.share() <= before + 0.01);
            before = r.share();
            std::map<level::TileId, int> tally;
            level::each_cell(grid, box_of(grid.size()), [&](Point, Cell c, MaterialId) { ++tally[c.tile()]; });
            for (std::size_t i = 0; i < weights.size(); ++i)
                CHECK(std::abs(tally[sand[i].id] / (128.0 * 128.0) - weights[i] / total) < 0.02);
        }
    }
    // Steady: a cell's variant depends on its place alone.
    const auto [p, grid] = field(70, {100, 100, 100});
    const Rules rules(p);
    CHECK(rules.choose(2, 255, 31, 77, 7) == grid.cell({31, 77}));
}
