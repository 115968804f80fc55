// Props made of tiles and blocks, and materials that stand up.
#include <algorithm>
#include <catch2/catch.hpp>

#include "edit/props.hpp"
#include "edit/sheets.hpp"
#include "edit/tiles.hpp"
#include "join/mask.hpp"
#include "support/make.hpp"

using namespace vic;

TEST_CASE("props of tiles have their picture, part and words, and lie flat where they have no part", "[props][tiles]") {
    make::Small small({20, 20});
    level::Project project = small.project;
    const level::Sheet& sheet = *project.sheets.front();
    std::vector<level::TileId> tiles;
    for (const level::Tile& t : sheet.tiles)
        if (!t.blank && tiles.size() < 4) tiles.push_back(t.id);
    REQUIRE(tiles.size() == 4);
    int i = 0;
    for (const level::TileId id : tiles) {
        project = edit::change_tiles(std::move(project), {id}, [&](level::Tile& t) {
            t.shape = std::array{level::TileShape::none, level::TileShape::full, level::TileShape::slope_se,
                                 level::TileShape::one_way_north}[static_cast<std::size_t>(i)];
            t.name = "Tile " + std::to_string(i);
            t.tags = {"made"};
            t.polygons.clear();
        });
        ++i;
    }
    std::erase_if(project.prop_kinds, [&](const auto& k) { return k->sheet == sheet.id; });
    const edit::TakenIslands made = edit::props_of_tiles(project, sheet.id, tiles);
    REQUIRE(made.added.size() == 4);
    const auto kind = [&](std::size_t n) { return *made.project.prop_kind(made.added[n]); };
    CHECK(kind(0).flat);
    CHECK_FALSE(kind(0).blocks);
    CHECK(kind(1).blocks);
    CHECK_FALSE(kind(1).flat);
    CHECK(kind(2).shape == level::TileShape::slope_se);
    CHECK(kind(3).blocks);
    CHECK(kind(3).shape == level::TileShape::one_way_north);
    for (std::size_t n = 0; n < 4; ++n) {
        CHECK(kind(n).name == "Tile " + std::to_string(n));
        CHECK(kind(n).tags == std::vector<std::string>{"made"});
        CHECK(std::any_of(made.project.sheet(sheet.id)->tiles.begin(), made.project.sheet(sheet.id)->tiles.end(),
                          [&](const level::Tile& t) { return t.box == kind(n).box; }));
    }
    // Once is enough.
    CHECK(edit::props_of_tiles(made.project, sheet.id, tiles).added.empty());
}

TEST_CASE("a material stands up in one action, its tops one row above its faces", "[tiles][feet]") {
    make::Small small({20, 20});
    const level::MaterialId m = small.project.materials.front()->id;
    REQUIRE(small.project.material(m)->joins.kind == level::JoinKind::full);
    for (const int rows : {2, 1, 0}) {
        const level::Project p = edit::stand_up(small.project, m, rows);
        CHECK(edit::stands_up(p, m) == rows);
        const level::TileTable tiles(p);
        int wrong = 0;
        for (const auto& [mask, variants] : p.material(m)->joins.cases)
            for (const level::Variant& v : variants) {
                const level::TileRef ref = tiles.find(v.tile);
                const int wanted = rows == 2 && (mask & join::kS) ? 2 : std::min(rows, 1);
                wrong += ref.tile && ref.tile->rise != wanted;
            }
        CHECK(wrong == 0);
    }
    level::Project odd = edit::stand_up(small.project, m, 2);
    const level::TileId one = odd.material(m)->joins.cases.begin()->second.front().tile;
    odd = edit::change_tiles(std::move(odd), {one}, [](level::Tile& t) { t.rise = 5; });
    CHECK_FALSE(edit::stands_up(odd, m));
}
