// What a project begins with, and what its first art makes of it.
#include "edit/beginnings.hpp"

#include <catch2/catch.hpp>

#include "edit/sheets.hpp"
#include "support/make.hpp"

using namespace vic;
using edit::Beginning;

namespace {

level::Project fresh(Beginning beginning) { return edit::begun("Fresh", beginning, "First", {"a", "b", "c"}); }

level::Project with_sheet(level::Project project, const level::Cut& cut, level::SheetId& id, bool accepted = true) {
    Image image({cut.tile.w * 4, cut.tile.h * 3}, {90, 120, 60, 255});
    const std::string file = "sheets/" + std::to_string(project.sheets.size()) + ".png";
    return edit::add_sheet(std::move(project), file, std::move(image), file, cut, accepted, id);
}

} // namespace

TEST_CASE("each beginning is one empty level", "[edit][beginnings]") {
    for (const Beginning b : {Beginning::from_above, Beginning::from_the_side, Beginning::isometric}) {
        const level::Project p = fresh(b);
        const edit::BeginningShape shape = edit::shape_of(b);
        REQUIRE(p.levels.size() == 1);
        CHECK(p.levels[0]->size == shape.size);
        CHECK(p.levels[0]->cell == shape.cell);
        CHECK(p.levels[0]->view == shape.view);
        CHECK(p.levels[0]->lattice == shape.lattice);
    }
}

TEST_CASE("the first art sets the size of cells, once", "[edit][beginnings]") {
    level::SheetId first = 0, second = 0;
    level::Project p = with_sheet(fresh(Beginning::from_the_side), {{48, 48}, {}, {}, 3}, first);
    edit::FirstArt art = edit::with_cells_of(p, first);
    CHECK(art.cell == Size{48, 48}); // as it is in the picture
    CHECK(art.project.levels[0]->cell == Size{48, 48});
    CHECK(art.project.levels[0]->size == p.levels[0]->size);
    CHECK(art.project.levels[0]->frame == Size{p.levels[0]->frame.w * 3, p.levels[0]->frame.h * 3}); // as many cells
    CHECK(art.project.unit == 48);
    SECTION("a second sheet changes nothing") {
        p = with_sheet(art.project, {{32, 32}, {}, {}, 1}, second);
        art = edit::with_cells_of(p, second);
        CHECK(art.cell.empty());
        CHECK(art.project.levels[0]->cell == Size{48, 48});
    }
    SECTION("nor does another cut of the first where something was laid") {
        level::Level level = *art.project.levels[0];
        level.edit(level.layers[0]->id).grid().set({3, 3}, level::Cell(art.project.sheets[0]->tiles[0].id), 0);
        p = art.project;
        p.put(std::move(level));
        p = edit::recut_sheet(p, first, {{24, 24}, {}, {}, 1}, true);
        CHECK(edit::with_cells_of(p, first).cell.empty());
    }
    SECTION("as long as nothing was laid it does") {
        p = edit::recut_sheet(art.project, first, {{24, 24}, {}, {}, 1}, true);
        CHECK(edit::with_cells_of(p, first).project.levels[0]->cell == Size{24, 24});
    }
}

TEST_CASE("what is only proposed, a single picture or no diamond sets nothing", "[edit][beginnings]") {
    level::SheetId id = 0;
    CHECK(edit::with_cells_of(with_sheet(fresh(Beginning::from_above), {{32, 32}, {}, {}, 1}, id, false), id)
              .cell.empty());
    CHECK(edit::cell_of_first_art(with_sheet(fresh(Beginning::from_above), {{32, 32}, {}, {}, 1}, id, false), id) ==
          Size{32, 32}); // as it is said before
    CHECK(edit::with_cells_of(with_sheet(fresh(Beginning::from_above), {{2, 2}, {}, {}, 1}, id), id).cell.empty());
    CHECK(edit::with_cells_of(with_sheet(fresh(Beginning::isometric), {{32, 32}, {}, {}, 1}, id), id).cell.empty());
    CHECK(edit::with_cells_of(with_sheet(fresh(Beginning::isometric), {{64, 32}, {}, {}, 1}, id), id).cell ==
          Size{64, 32});
}
