#include "edit/pour.hpp"

#include <catch2/catch.hpp>

#include "edit/sheets.hpp"
#include "join/mask.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

std::vector<level::TileId> all_tiles(const level::Sheet& sheet) {
    std::vector<level::TileId> out;
    for (const auto& t : sheet.tiles) out.push_back(t.id);
    return out;
}

// The small project and a second sheet of the same layout, drawn otherwise, of which nothing is known.
struct Two {
    make::Small small;
    level::SheetId second = 0;
    Two() {
        const auto& masks = join::cases(level::JoinKind::full);
        small.project = add_sheet(small.project, "sheets/winter.png",
                                  make::sheet(make::tiles(masks, 16, make::Style::textured, 77), 8, {}, {}), "Winter",
                                  {{16, 16}, {}, {}, 1}, true, second);
    }
};

} // namespace

TEST_CASE("a whole sheet is poured onto another of the same layout: properties and joins", "[pour]") {
    Two two;
    const level::Project& p = two.small.project;
    const auto from = all_tiles(*p.sheets.front());
    const auto to = all_tiles(*p.sheet(two.second));
    REQUIRE(pour_trouble(p, from, to).empty());
    const Poured poured = pour(p, from, to, kPourAll);
    CHECK(poured.tiles == 48);
    CHECK(poured.made == 1);
    const level::Sheet& a = *poured.project.sheets.front();
    const level::Sheet& b = *poured.project.sheet(two.second);
    for (std::size_t i = 0; i < a.tiles.size(); ++i) CHECK(a.tiles[i].shape == b.tiles[i].shape);
    const level::Material* made = nullptr;
    for (const auto& m : poured.project.materials)
        if (m->name == "Winter") made = m.get();
    REQUIRE(made);
    // The new set is the old one with every tile in the other's place.
    const level::JoinSet& old = p.material(1)->joins;
    CHECK(made->joins.kind == old.kind);
    REQUIRE(made->joins.cases.size() == old.cases.size());
    for (const auto& [mask, variants] : old.cases) {
        const auto& other = made->joins.cases.at(mask);
        REQUIRE(other.size() == variants.size());
        for (std::size_t i = 0; i < variants.size(); ++i) {
            const auto index = std::find(from.begin(), from.end(), variants[i].tile) - from.begin();
            CHECK(other[i].tile == to[static_cast<std::size_t>(index)]);
            CHECK(other[i].weight == variants[i].weight);
        }
    }
    // Once more: the same material again, nothing new.
    const Poured again = pour(poured.project, from, to, kPourAll);
    CHECK(again.made == 0);
    CHECK(again.project.materials.size() == poured.project.materials.size());
    CHECK(again.project.material(made->id)->joins == made->joins);
}

TEST_CASE("one tile is poured onto many, and only what was asked for", "[pour]") {
    Two two;
    level::Project p = two.small.project;
    const level::TileId source = p.sheets.front()->tiles[2].id;
    p = change_tiles(p, {source}, [](level::Tile& t) {
        t.tags = {"wet"};
        t.chance = 30;
        t.turns = level::kNoTurns;
        t.name = "Sill";
    });
    const auto to = all_tiles(*p.sheet(two.second));
    const Poured poured = pour(p, {source}, to, kPourTags | kPourChance);
    for (const auto& t : poured.project.sheet(two.second)->tiles) {
        CHECK(t.tags == std::vector<std::string>{"wet"});
        CHECK(t.chance == 30);
        CHECK(t.turns == level::kAllTurns);
        CHECK(t.shape == level::TileShape::none);
        CHECK(t.name.empty()); // names are given once
    }
    CHECK(poured.project.materials.size() == p.materials.size());
    CHECK(poured.project.sheets.front()->tiles == p.sheets.front()->tiles);
}

TEST_CASE("pouring that does not fit says why", "[pour]") {
    Two two;
    const level::Project& p = two.small.project;
    const auto from = all_tiles(*p.sheets.front());
    CHECK(pour_trouble(p, {}, from).english() == "No tiles are taken as a source yet");
    CHECK_FALSE(pour_trouble(p, from, {}).empty());
    CHECK(pour_trouble(p, from, {from[0], from[1]}).english() ==
          "48 tiles cannot be poured onto 2: take one, or equally many");
    CHECK_FALSE(pour_trouble(p, {9999}, from).empty());
}
