#include "edit/replace.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "picture/compose.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

// The small project with some rock laid, so that tiles of the first sheet are in use.
level::Project painted(make::Small& small) {
    const join::Rules rules(small.project);
    Hand hand{held::Material{1}};
    const Laid laid =
        lay(small.project, rules, *small.project.levels.front(), small.ground, hand, box_cells({3, 3, 9, 7}));
    small.project.put(laid.level);
    return small.project;
}

std::shared_ptr<const Image> sized(const Image& from, Size size) {
    auto out = std::make_shared<Image>(size);
    for (int y = 0; y < std::min(size.h, from.height()); ++y)
        for (int x = 0; x < std::min(size.w, from.width()); ++x) out->set(x, y, from.at(x, y));
    return out;
}

} // namespace

TEST_CASE("a picture that grew by a row and a column keeps every tile and gives new ones", "[replace]") {
    make::Small small;
    const level::Project before = painted(small);
    const level::Sheet& old = *before.sheets.front();
    const Size size{old.image->width() + 16, old.image->height() + 16};
    const level::Project after = replace_image(before, old.id, sized(*old.image, size), "sheets/new.png");
    const level::Sheet& now = *after.sheets.front();
    CHECK(now.file == "sheets/new.png");
    CHECK(now.tiles.size() == 9 * 7);
    CHECK(now.retired.empty());
    for (const level::Tile& t : old.tiles) {
        const auto kept = std::find_if(now.tiles.begin(), now.tiles.end(), [&](const auto& n) { return n.id == t.id; });
        REQUIRE(kept != now.tiles.end());
        CHECK(kept->box == t.box);
        CHECK(kept->shape == t.shape);
    }
    CHECK_FALSE(losses(before, after).any());
    CHECK(picture::render(after, *after.levels.front(), 1) == picture::render(before, *before.levels.front(), 1));
}

TEST_CASE("a picture that shrank lists what is in use and falls outside; the whole picture brings it back",
          "[replace]") {
    make::Small small;
    const level::Project before = painted(small);
    const level::Sheet old = *before.sheets.front();
    const level::Project after = replace_image(before, old.id, sized(*old.image, {old.image->width(), 16}), old.file);
    CHECK(after.sheets.front()->tiles.size() == 8);
    CHECK(after.sheets.front()->retired.size() == 40);
    const Losses lost = losses(before, after);
    // Counted another way: by walking all cells and cases.
    std::set<level::TileId> kept;
    for (const auto& t : after.sheets.front()->tiles) kept.insert(t.id);
    for (const auto& t : after.sheets.back()->tiles) kept.insert(t.id);
    int cells = 0;
    std::set<level::TileId> used;
    const level::Grid& grid = before.levels.front()->layer(small.ground)->grid();
    for (int y = 0; y < 30; ++y)
        for (int x = 0; x < 40; ++x) {
            const level::TileId id = grid.cell({x, y}).tile();
            if (id && !kept.contains(id)) ++cells, used.insert(id);
        }
    for (const auto& [mask, variants] : before.materials.front()->joins.cases)
        for (const auto& v : variants)
            if (!kept.contains(v.tile)) used.insert(v.tile);
    CHECK(lost.cells == cells);
    CHECK(lost.tiles == static_cast<int>(used.size()));
    CHECK(lost.cases == 39);
    CHECK(lost.kinds == 1); // the post is 32 pixels high
    CHECK(lost.text().english().find("This would lose 39 tiles in use") == 0);

    const level::Project back = replace_image(after, old.id, old.image, old.file);
    CHECK(back.sheets.front()->tiles == old.tiles);
    CHECK_FALSE(losses(before, back).any());
    CHECK(losses(before, before).text().empty());
}

TEST_CASE("a picture smaller than a tile retires all; one picture stays one tile", "[replace]") {
    make::Small small;
    const level::Project before = painted(small);
    const level::Sheet old = *before.sheets.front();
    const level::Project tiny = replace_image(before, old.id, std::make_shared<Image>(Size{5, 3}), old.file);
    CHECK(tiny.sheets.front()->tiles.size() == 1);
    CHECK(tiny.sheets.front()->retired.size() == old.tiles.size());

    level::SheetId id = 0;
    level::Project p =
        add_sheet(before, "sheets/sky.png", Image({50, 40}, {1, 2, 3, 255}), "Sky", {{50, 40}, {}, {}, 1}, true, id);
    const level::TileId tile = p.sheet(id)->tiles.front().id;
    p = replace_image(p, id, std::make_shared<Image>(Size{90, 30}, Rgba{9, 9, 9, 255}), "sheets/sky.png");
    REQUIRE(p.sheet(id)->tiles.size() == 1);
    CHECK(p.sheet(id)->tiles.front().id == tile);
    CHECK(p.sheet(id)->tiles.front().box == Box{0, 0, 90, 30});
}

TEST_CASE("a name that is taken says where", "[replace]") {
    make::Small small;
    const level::Project& p = small.project;
    CHECK(name_taken_by_sheet(p, "Full", p.sheets.front()->id).empty());
    CHECK(name_taken_by_sheet(p, "Plain", p.sheets.front()->id).english() ==
          "There is a sheet \"Plain\" already, in the list of sheets");
    CHECK(free_sheet_name(p, "Plain") == "Plain 2");
    CHECK(free_sheet_name(p, "Other") == "Other");
    CHECK_FALSE(name_taken_by_material(p, "Rock", 2).empty());
    CHECK(name_taken_by_material(p, "Rock", 1).empty());
    CHECK(name_taken_by_prop(p, "Post", 0).english().find("on the sheet \"Full\"") != std::string::npos);
    const level::TileId second = p.sheets.front()->tiles[1].id;
    const level::Project named = change_tiles(p, {second}, [](level::Tile& t) { t.name = "Sprung"; });
    CHECK(name_taken_by_tile(named, "Sprung", second).empty());
    CHECK(name_taken_by_tile(named, "Sprung", 1).english() ==
          "There is a tile \"Sprung\" already: number 1 on the sheet \"Full\"");
}

TEST_CASE("unused tiles are those that nothing names", "[replace]") {
    make::Small small;
    level::SheetId id = 0;
    level::Project p = add_sheet(small.project, "sheets/more.png",
                                 make::sheet(make::tiles({1, 2, 3, 4, 5}, 16, make::Style::textured, 3), 3, {}, {}),
                                 "More", {{16, 16}, {}, {}, 1}, true, id);
    const auto tiles = p.sheet(id)->tiles;
    CHECK(unused_tiles(p, *p.sheet(id)).size() == 5); // the sixth cell is blank
    level::Level l = *p.levels.front();
    l.edit(small.front).grid().set({3, 4}, level::Cell(tiles[1].id, {}, true), 0);
    p.put(std::move(l));
    p = set_case(p, 2, 255, {{tiles[4].id, 0, {}}});
    CHECK(unused_tiles(p, *p.sheet(id)) == std::vector<level::TileId>{tiles[0].id, tiles[2].id, tiles[3].id});
    CHECK(unused_tiles(p, *p.sheets.front()).empty());
}
