#include <catch2/catch.hpp>

#include "level/project.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {
// The solid corners of a shape on a unit square: NE, SE, SW, NW.
std::set<int> corners(TileShape s) {
    if (s == TileShape::full) return {0, 1, 2, 3};
    if (!is_slope(s)) return {};
    const int c = static_cast<int>(s) - static_cast<int>(TileShape::slope_ne);
    return {c, (c + 1) % 4, (c + 3) % 4};
}
} // namespace

TEST_CASE("shapes turn as the picture does", "[level]") {
    for (int i = 0; i <= static_cast<int>(TileShape::slope_nw); ++i)
        for (std::uint8_t code = 0; code < 8; ++code) {
            const auto shape = static_cast<TileShape>(i);
            std::set<int> wanted;
            for (const int c : corners(shape)) wanted.insert(turned_corner({code}, c));
            CHECK(corners(turned(shape, {code})) == wanted);
        }
    CHECK(turned(TileShape::one_way_north, {1}) == TileShape::one_way_east);
    CHECK(turned(TileShape::one_way_north, {4}) == TileShape::one_way_north);
    CHECK(turned(TileShape::one_way_east, {4}) == TileShape::one_way_west);
}

TEST_CASE("things are put by id and found again", "[level]") {
    make::Small small;
    Project& p = small.project;
    const std::size_t sheets = p.sheets.size();
    Sheet changed = *p.sheets[0];
    changed.name = "Other";
    p.put(changed);
    CHECK(p.sheets.size() == sheets);
    CHECK(p.sheet(changed.id)->name == "Other");
    CHECK(p.sheet(9999) == nullptr);
    CHECK(p.material(1)->name == "Rock");
    CHECK(p.level("nowhere") == nullptr);
    CHECK(p.free_level_id("Place") == "place-2");
    CHECK(p.free_level_id("Elsewhere!") == "elsewhere");
    p.remove_level("place");
    CHECK(p.levels.empty());
    CHECK(p.free_level_id("Place") == "place");
}

TEST_CASE("material ids run out at 255", "[level]") {
    Project p;
    for (int i = 1; i <= 255; ++i) {
        const MaterialId id = p.free_material();
        REQUIRE(id == i);
        Material m;
        m.id = id;
        p.put(m);
    }
    CHECK(p.free_material() == 0);
}

TEST_CASE("tiles are found by id, with their shape turned", "[level]") {
    make::Small small;
    const TileTable table(small.project);
    CHECK(table.find(1).tile->box == Box{0, 0, 16, 16});
    CHECK(table.find(0).tile == nullptr);
    CHECK(table.find(100000).tile == nullptr);
    CHECK(table.shape(Cell(1)) == TileShape::full);
    CHECK(material_of(small.project, 1) == 1);
    CHECK(material_of(small.project, small.project.sheets[1]->tiles[0].id) == 2);
    CHECK(material_of(small.project, 4000) == 0);
}

TEST_CASE("changing a layer leaves other copies of the level alone", "[level]") {
    make::Small small;
    const Level before = small.level();
    Level after = before;
    after.edit(small.ground).name = "Changed";
    CHECK(before.layer(small.ground)->name == "Ground");
    CHECK(after.layer(small.ground)->name == "Changed");
    CHECK(before.layer(small.props) == after.layer(small.props));
    CHECK(before.index_of(small.front) == 2);
    CHECK(before.index_of(12345) == -1);
}

TEST_CASE("the home is the one that this level has", "[level]") {
    make::Small small;
    CHECK(home_in(small.level(), {}) == 0);
    CHECK(home_in(small.level(), {7777, small.front}) == small.front);
}

TEST_CASE("differences between levels are boxes of cells or everything", "[level]") {
    make::Small small;
    const Level a = small.level();
    Level b = a;
    CHECK(difference(a, b, small.project).cells.empty());
    b.edit(small.ground).grid().set({3, 4}, Cell(1), 1);
    auto d = difference(a, b, small.project);
    CHECK_FALSE(d.everything);
    REQUIRE(d.cells.size() == 1);
    CHECK(d.cells[0] == Box{3, 4, 1, 1});

    Level c = a;
    c.edit(small.props).props().put({1, small.prop, {100, 100}, {false}});
    d = difference(a, c, small.project);
    REQUIRE(d.cells.size() == 1);
    // The post is 16 x 32 pixels and stands with its pivot at 100, 100.
    CHECK(d.cells[0].contains(Box{5, 4, 2, 3}));
    Level moved = c;
    moved.edit(small.props).props().change_all([](Prop& p) { p.at = {300, 100}; });
    CHECK(difference(c, moved, small.project).cells.size() == 2);

    Level hidden = a;
    hidden.edit(small.ground).shown = false;
    CHECK(difference(a, hidden, small.project).everything);
    Level renamed = a;
    renamed.edit(small.ground).name = "Other";
    CHECK_FALSE(difference(a, renamed, small.project).everything);
}

TEST_CASE("a layer holds what its kind holds, and nothing of the others", "[level]") {
    for (int i = 0; i < static_cast<int>(std::variant_size_v<LayerContent>); ++i) {
        const auto kind = static_cast<LayerKind>(i);
        INFO(i);
        Layer layer;
        layer.content = empty_content(kind, {20, 10});
        CHECK(layer.kind() == kind);
        CHECK((layer.tiles() != nullptr) == (kind == LayerKind::tiles));
        CHECK((layer.blockers() != nullptr) == (kind == LayerKind::blockers));
        CHECK((layer.backdrop() != nullptr) == (kind == LayerKind::backdrop));
        CHECK((layer.planted() != nullptr) == (kind == LayerKind::planting));
        CHECK(layer.cells() == (layer.has_cells() ? Box{0, 0, 20, 10} : Box{}));
        CHECK(layer.blocks() == (kind == LayerKind::blockers));
        CHECK(std::as_const(layer).props().empty());
        if (layer.has_cells())
            layer.grid().set({3, 4}, Blockers::cell_of(TileShape::full), 0);
        else
            CHECK_THROWS_AS(layer.grid(), std::bad_variant_access);
        if (layer.has_props())
            layer.props().put({7, 1, {5, 5}, {false}});
        else
            CHECK_THROWS_AS(layer.props(), std::bad_variant_access);
        CHECK(std::as_const(layer).grid().count() == (layer.has_cells() ? 1 : 0));
        CHECK(std::as_const(layer).props().size() == (layer.has_props() ? 1U : 0U));
    }
}

TEST_CASE("blockers give back the shapes that were put there, turned ones by their own name", "[level]") {
    Blockers blockers({40, 1});
    for (int i = 0; i < static_cast<int>(TileShape::drawn); ++i) blockers.set({i, 0}, static_cast<TileShape>(i));
    for (int i = 0; i < static_cast<int>(TileShape::drawn); ++i) {
        const auto shape = static_cast<TileShape>(i);
        CHECK(blockers.shape({i, 0}) == shape);
        for (std::uint8_t code = 0; code < 8; ++code) {
            const Cell cell(1 + static_cast<TileId>(i), Turn{code}, true);
            if (shape != TileShape::none) CHECK(Blockers::shape_of(cell) == turned(shape, Turn{code}));
            CHECK(Blockers::holds(cell));
        }
    }
    CHECK(blockers.shape({39, 0}) == TileShape::none);
    CHECK(blockers.shape({99, 0}) == TileShape::none);
    CHECK_FALSE(Blockers::holds(Cell(kTileShapes, {}, true)));
}
