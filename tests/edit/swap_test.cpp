// One sheet for another of the same layout.
#include "edit/swap.hpp"

#include <catch2/catch.hpp>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "join/resolve.hpp"
#include "outline/trace.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

constexpr int kColumns = 8;

// A level painted with one season, and a second sheet with the same cases in the same places.
struct Seasons {
    explicit Seasons(int rows_less = 0) {
        const auto masks = join::cases(level::JoinKind::full);
        flood = project().sheets[0]->id;
        const level::Cut cut = project().sheets[0]->cut;
        std::vector<Image> tiles = make::tiles(masks, cut.tile.w, make::Style::textured, 99);
        columns = (project().sheets[0]->image->width() + cut.spacing.x) / (cut.tile.w + cut.spacing.x);
        const int keep = static_cast<int>(tiles.size()) - rows_less * columns;
        tiles.resize(static_cast<std::size_t>(keep), Image(cut.tile));
        small.project = add_sheet(std::move(small.project), "sheets/dry.png",
                                  make::sheet(tiles, columns, cut.margin, cut.spacing), "Dry", cut, true, dry);
        const join::Rules rules(small.project);
        level::Level level = small.level();
        for (const Box& b : {Box{3, 3, 8, 5}, Box{14, 10, 1, 9}, Box{20, 4, 6, 1}})
            level = lay(small.project, rules, level, small.ground,
                        make::material(static_cast<int>(small.project.materials[0]->id)), level::Region(b))
                        .level;
        small.set(level);
    }
    level::Project& project() { return small.project; }
    make::Small small;
    level::SheetId flood = 0, dry = 0;
    int columns = kColumns;
};

std::int64_t cells_of(const level::Project& p, const level::Level& level, level::SheetId sheet) {
    const level::TileTable table(p);
    std::int64_t n = 0;
    for (const auto& l : level.layers)
        if (l->tiles())
            level::each_cell(l->grid(), l->cells(), [&](Point, level::Cell c, level::MaterialId) {
                const level::TileRef ref = table.find(c.tile());
                n += ref.sheet && ref.sheet->id == sheet;
            });
    return n;
}

} // namespace

TEST_CASE("a season is swapped for another through a level, joins and collision with it", "[swap]") {
    Seasons s;
    const std::int64_t all = cells_of(s.project(), s.small.level(), s.flood);
    REQUIRE(all > 20);
    const auto before = outline::outlines(outline::trace(s.small.level(), level::TileTable(s.project())));
    const Swapped done = swapped(s.project(), s.flood, s.dry, {s.small.id});
    CHECK(done.made >= 1);
    CHECK(done.cells == all);
    CHECK(done.stayed == 0);
    const level::Level& level = *done.project.level(s.small.id);
    CHECK(cells_of(done.project, level, s.flood) == 0);
    CHECK(cells_of(done.project, level, s.dry) == all);
    CHECK(outline::outlines(outline::trace(level, level::TileTable(done.project))) == before);
    // What is painted now is of a material that joins by itself.
    const level::MaterialId m = level.layer(s.small.ground)->grid().material({4, 4});
    CHECK(main_sheet(done.project, done.project.material(m)->joins) == s.dry);
    // Back again the first material is found, none is made, and the level is as it was.
    const Swapped back = swapped(done.project, s.dry, s.flood, {});
    CHECK(back.made == 0);
    CHECK(back.project.level(s.small.id)->layer(s.small.ground)->grid() ==
          s.small.level().layer(s.small.ground)->grid());
}

TEST_CASE("what has no counterpart is told first, and stays", "[swap]") {
    Seasons s(2); // the last rows of the other sheet are missing
    const Counterparts pairs = counterparts(s.project(), s.flood, s.dry);
    CHECK_FALSE(pairs.tiles.empty());
    CHECK_FALSE(pairs.alone.empty());
    for (const level::TileId id : pairs.alone) CHECK_FALSE(pairs.tiles.contains(id));
    const Swapped done = swapped(s.project(), s.flood, s.dry, {});
    CHECK(done.cells > 0);
    // A pinned tile without a counterpart stays as it is.
    level::Level level = s.small.level();
    level.edit(s.small.front).grid().set({1, 1}, level::Cell(pairs.alone.front(), Turn{}, true), 0);
    s.small.set(level);
    const Swapped pinned = swapped(s.project(), s.flood, s.dry, {});
    CHECK(pinned.project.level(s.small.id)->layer(s.small.front)->grid().cell({1, 1}).tile() == pairs.alone.front());
    CHECK(pinned.stayed >= 1);
}

TEST_CASE("only the levels that are named change", "[swap]") {
    Seasons s;
    level::Level other = s.small.level();
    other.id = "other";
    s.project().put(other);
    const Swapped done = swapped(s.project(), s.flood, s.dry, {"other"});
    CHECK(done.project.level(s.small.id)->layer(s.small.ground)->grid() ==
          s.small.level().layer(s.small.ground)->grid());
    CHECK(cells_of(done.project, *done.project.level("other"), s.flood) == 0);
    CHECK(counterparts(s.project(), s.flood, s.flood).tiles.empty());
}
