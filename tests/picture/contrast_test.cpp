// The contrast lens: what is told apart by its part, and what looks otherwise than it is.
#include <algorithm>
#include <catch2/catch.hpp>

#include "picture/compose.hpp"
#include "picture/contrast.hpp"
#include "support/make.hpp"

using namespace vic;
using picture::Doubt;
using picture::Role;

namespace {

// A level on an even grey, with props of one colour each, 20 pixels a side.
struct Greys : make::Small {
    level::Level level;
    level::PropKindId next = 700;
    Greys() : Small({40, 30}) {
        level = Small::level();
        level.ground = {120, 120, 120, 255};
        for (const level::LayerRef& l : std::vector(level.layers))
            if (l->backdrop()) level.edit(l->id).shown = false;
    }
    level::PropKindId kind(Rgba colour, bool blocks) {
        Image art({20, 20}, colour);
        level::Sheet sheet = *project.sheets.front();
        sheet.id = next++;
        sheet.tiles.clear();
        sheet.image = std::make_shared<const Image>(std::move(art));
        project.put(sheet);
        level::PropKind k = *project.prop_kind(prop);
        k.id = next++;
        k.sheet = sheet.id;
        k.factor = 1;
        k.box = {0, 0, 20, 20};
        k.pivot = {10, 19};
        k.foot = {2, 14, 16, 6};
        k.blocks = blocks;
        k.shape = level::TileShape::full;
        k.polygons.clear();
        k.areas.clear();
        k.flat = false;
        project.put(k);
        return k.id;
    }
    level::PropId put(level::PropKindId kind, Point at) {
        const level::PropId id = project.next_id++;
        level.edit(props).props().put({id, kind, at});
        return id;
    }
    [[nodiscard]] std::vector<Doubt> of_props() const {
        std::vector<Doubt> out = picture::doubts(project, level);
        std::erase_if(out, [](const Doubt& d) { return d.prop == 0; });
        return out;
    }
};

} // namespace

TEST_CASE("what blocks and is as bright as its ground blends; what is bright and blocks not looks usable",
          "[contrast]") {
    Greys g;
    const auto bright = g.kind({230, 225, 210, 255}, true);
    const auto dull = g.kind({124, 118, 122, 255}, true);
    const auto show = g.kind({235, 225, 200, 255}, false);
    const auto haze = g.kind({122, 122, 122, 255}, false);
    const auto dark = g.kind({70, 60, 66, 255}, false);
    g.put(bright, {60, 60});
    g.put(bright, {120, 60});
    const level::PropId lost = g.put(dull, {60, 140});
    const level::PropId lies = g.put(show, {200, 140});
    g.put(haze, {300, 140});
    g.put(dark, {300, 200});
    const std::vector<Doubt> found = g.of_props();
    REQUIRE(found.size() == 2);
    const auto of = [&](level::PropId id) {
        return *std::find_if(found.begin(), found.end(), [&](const Doubt& d) { return d.prop == id; });
    };
    CHECK(of(lost).what == Doubt::What::blends);
    CHECK(std::abs(of(lost).bright - of(lost).around) <= 2);
    CHECK(of(lies).what == Doubt::What::looks_usable);
    CHECK(of(lies).bright > 80);
    CHECK(of(lies).pixels == level::PropKinds(g.project).box({1, show, {200, 140}}));
    // One whose tint takes its brightness away is fine; so is one that lies flat, and one that is hidden.
    level::Prop dimmed = *g.level.layer(g.props)->props().find(lies);
    dimmed.look.tint = {70, 70, 80, 255};
    g.level.edit(g.props).props().put(dimmed);
    CHECK(g.of_props().size() == 1);
    g.level.edit(g.props).shown = false;
    CHECK(g.of_props().empty());
}

TEST_CASE("without what blocks nothing is left that does, and all else is as it was", "[contrast]") {
    Greys g;
    const auto wall = g.kind({200, 60, 60, 255}, true);
    const auto show = g.kind({60, 200, 60, 255}, false);
    const auto seat = g.kind({60, 60, 200, 255}, false);
    level::PropKind with_area = *g.project.prop_kind(seat);
    with_area.areas = {{"seat", {2, 2, 8, 8}}};
    g.project.put(with_area);
    CHECK(picture::role_of(*g.project.prop_kind(wall)) == Role::blocks);
    CHECK(picture::role_of(*g.project.prop_kind(show)) == Role::scenery);
    CHECK(picture::role_of(*g.project.prop_kind(seat)) == Role::usable);
    make::Random random(3);
    for (int i = 0; i < 60; ++i)
        g.put(std::array{wall, show, seat}[static_cast<std::size_t>(random.below(3))],
              {random.below(600), random.below(440)});
    for (int i = 0; i < 200; ++i)
        g.level.edit(g.ground).grid().set({random.below(40), random.below(30)},
                                          level::Cell(static_cast<level::TileId>(1 + random.below(47)), {}, true), 1);
    g.level.edit(g.ground).tiles()->solid = true;
    const level::Level open = picture::without(g.project, g.level, false);
    const level::Level scenery = picture::without(g.project, g.level, true);
    const level::TileTable tiles(g.project);
    const auto count = [&](const level::Level& level, Role role) {
        int out = 0;
        const level::PropKinds kinds(g.project);
        for (const level::LayerRef& layer : level.layers) {
            for (const level::Prop& p : layer->props()) out += picture::role_of(kinds, p) == role;
            if (layer->tiles())
                level::each_cell(layer->grid(), layer->cells(), [&](Point, level::Cell cell, level::MaterialId) {
                    out += cell.tile() != 0 && picture::role_of(*layer, tiles, cell) == role;
                });
        }
        return out;
    };
    CHECK(count(g.level, Role::blocks) > 10);
    CHECK(count(open, Role::blocks) == 0);
    CHECK(count(open, Role::usable) == count(g.level, Role::usable));
    CHECK(count(scenery, Role::usable) == 0);
    CHECK(count(scenery, Role::scenery) == count(g.level, Role::scenery));
    // Asked again and again it is the same, and what did not change is not another layer.
    picture::Without again(true);
    for (int i = 0; i < 20; ++i) {
        const level::Level before = again.of(g.project, g.level);
        if (random.flip())
            g.put(wall, {random.below(600), random.below(440)});
        else
            g.level.edit(g.ground).grid().set({random.below(40), random.below(30)},
                                              level::Cell(static_cast<level::TileId>(1 + random.below(47)), {}, true),
                                              1);
        const level::Level after = again.of(g.project, g.level), anew = picture::without(g.project, g.level, true);
        int same = 0;
        for (std::size_t k = 0; k < after.layers.size(); ++k) {
            same += after.layers[k] == before.layers[k];
            CHECK(after.layers[k]->props().all() == anew.layers[k]->props().all());
            if (after.layers[k]->has_cells()) CHECK(after.layers[k]->grid() == anew.layers[k]->grid());
        }
        CHECK(same == static_cast<int>(after.layers.size()) - 1);
    }
}

TEST_CASE("tiles that block elsewhere and lie open are told in runs", "[contrast]") {
    Greys g;
    level::Sheet sheet = *g.project.sheets.front();
    for (level::Tile& t : sheet.tiles) t.shape = t.id == 5 ? level::TileShape::full : level::TileShape::none;
    g.project.put(sheet);
    level::Level& l = g.level;
    for (int x = 3; x < 9; ++x) l.edit(g.front).grid().set({x, 7}, level::Cell(5, {}, true), 0);
    l.edit(g.front).grid().set({12, 7}, level::Cell(5, {}, true), 0);
    l.edit(g.front).tiles()->solid = false;
    const auto open = [&] {
        std::vector<Box> out;
        for (const Doubt& d : picture::doubts(g.project, l))
            if (d.what == Doubt::What::lies_open) out.push_back(d.pixels);
        return out;
    };
    l.edit(g.ground).tiles()->solid = false;
    CHECK(open().empty()); // nothing of the level blocks
    l.edit(g.ground).tiles()->solid = true;
    CHECK(open() == std::vector<Box>{{48, 112, 96, 16}, {192, 112, 16, 16}});
}

TEST_CASE("a mass as bright as what lies beside it blends, told in a few runs", "[contrast]") {
    Greys g;
    level::Sheet sheet = *g.project.sheets.front();
    sheet.id = g.next++;
    sheet.image = std::make_shared<const Image>(Size{16, 16}, Rgba{122, 119, 121, 255});
    level::Tile tile = sheet.tiles.front();
    tile.id = g.project.next_tile++;
    tile.box = {0, 0, 16, 16};
    tile.shape = level::TileShape::full;
    tile.polygons.clear();
    tile.blank = false;
    sheet.tiles = {tile};
    g.project.put(sheet);
    g.level.edit(g.ground).tiles()->solid = true;
    for (int y = 10; y < 16; ++y)
        for (int x = 20; x < 23; ++x) g.level.edit(g.ground).grid().set({x, y}, level::Cell(tile.id, {}, true), 0);
    const auto blending = [&] {
        std::vector<Doubt> out = picture::doubts(g.project, g.level);
        std::erase_if(out, [](const Doubt& d) { return d.what != Doubt::What::blends || d.prop != 0; });
        return out;
    };
    const std::vector<Doubt> found = blending();
    CHECK(found.size() == 4); // its top, both sides, its bottom
    std::int64_t area = 0;
    for (const Doubt& d : found) area += d.pixels.size().area();
    CHECK(area == std::int64_t{14} * 256); // all of its rim
    // On a darker ground it is plain to see.
    g.level.ground = {60, 60, 60, 255};
    CHECK(blending().empty());
}
