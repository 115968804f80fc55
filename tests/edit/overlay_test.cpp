// Nothing is wiped out: overlays, homes, lifted strokes.
#include <catch2/catch.hpp>

#include "edit/homes.hpp"
#include "edit/levels.hpp"
#include "edit/lift.hpp"
#include "edit/overlay.hpp"
#include "edit/sheets.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using level::Region;

namespace {

// A Small with a sheet of two see-through tiles.
struct Reeds : make::Small {
    Reeds() : make::Small({30, 20}) {
        level::SheetId id = 0;
        project = add_sheet(std::move(project), "sheets/reeds.png",
                            make::sheet(make::tiles({0, 255}, 16, make::Style::see_through, 3), 2, {}, {}), "Reeds",
                            {{16, 16}, {}, {}, 1}, true, id);
        reed = project.sheet(id)->tiles[0].id;
    }
    level::TileId reed = 0;
};

} // namespace

TEST_CASE("a see-through tile over another goes to the overlay, which is made once", "[overlay]") {
    Reeds r;
    const join::Rules rules(r.project);
    CHECK(see_through(r.project, r.reed));
    CHECK_FALSE(see_through(r.project, 49));
    const level::Level ground =
        lay(r.project, rules, r.level(), r.ground, make::laying(49), box_cells({0, 0, 10, 20})).level;
    // Half of the cells have ground below them.
    const LaidOver laid = lay_over(r.project, rules, ground,
                                   {.layer = r.ground,
                                    .hand = make::laying(r.reed),
                                    .cells = Region(Box{5, 2, 10, 3}),
                                    .overlay_name = "Ground, overlay"});
    REQUIRE(laid.overlay == r.project.next_id);
    CHECK(laid.next_id == r.project.next_id + 1);
    CHECK(laid.on_overlay == 15);
    const level::Layer* over = laid.level.layer(laid.overlay);
    REQUIRE(over);
    CHECK(over->name == "Ground, overlay");
    CHECK(over->overlay_of() == r.ground);
    CHECK_FALSE(over->solid());
    CHECK(laid.level.index_of(laid.overlay) == laid.level.index_of(r.ground) + 1);
    CHECK(laid.level.plane == ground.plane + 1);
    const level::Grid& now = laid.level.layer(r.ground)->grid();
    for (int x = 5; x < 15; ++x) {
        CHECK(now.cell({x, 3}).tile() == (x < 10 ? 49 : r.reed));
        CHECK(over->grid().cell({x, 3}).tile() == (x < 10 ? r.reed : 0));
    }
    // Once more: the same overlay serves.
    r.project.next_id = laid.next_id;
    const LaidOver more = lay_over(
        r.project, rules, laid.level,
        {.layer = r.ground, .hand = make::laying(r.reed), .cells = Region(Box{0, 8, 3, 1}), .overlay_name = "x"});
    CHECK(more.overlay == laid.overlay);
    CHECK(more.next_id == laid.next_id);
    // Asked to replace, it replaces; an opaque tile always does.
    const LaidOver instead = lay_over(r.project, rules, ground,
                                      {.layer = r.ground,
                                       .hand = make::laying(r.reed),
                                       .cells = Region(Box{5, 2, 2, 2}),
                                       .replaces = true,
                                       .overlay_name = "x"});
    CHECK(instead.overlay == 0);
    CHECK(instead.level.layer(r.ground)->grid().cell({5, 2}).tile() == r.reed);
    const LaidOver opaque =
        lay_over(r.project, rules, ground,
                 {.layer = r.ground, .hand = make::laying(50), .cells = Region(Box{5, 2, 2, 2}), .overlay_name = "x"});
    CHECK(opaque.overlay == 0);
    CHECK(opaque.level.layer(r.ground)->grid().cell({5, 2}).tile() == 50);
    // A locked overlay takes nothing and loses nothing.
    level::Level locked = laid.level;
    locked.edit(laid.overlay).locked = true;
    const LaidOver out = lay_over(
        r.project, rules, locked,
        {.layer = r.ground, .hand = make::laying(r.reed), .cells = Region(Box{0, 8, 3, 1}), .overlay_name = "x"});
    CHECK(out.stayed_out == 3);
    CHECK(out.level.layer(r.ground)->grid() == locked.layer(r.ground)->grid());
    CHECK(out.level.layer(laid.overlay)->grid() == locked.layer(laid.overlay)->grid());
}

TEST_CASE("the eraser takes the overlay first, and not both in one stroke", "[overlay]") {
    Reeds r;
    const join::Rules rules(r.project);
    const level::Level ground =
        lay(r.project, rules, r.level(), r.ground, make::laying(49), box_cells({0, 0, 10, 10})).level;
    const LaidOver laid = lay_over(
        r.project, rules, ground,
        {.layer = r.ground, .hand = make::laying(r.reed), .cells = Region(Box{2, 2, 2, 1}), .overlay_name = "Over"});
    const Region cells(Box{1, 2, 2, 1});
    LaidOver erased = lay_over(r.project, rules, laid.level,
                               {.layer = r.ground, .hand = make::eraser(), .cells = cells, .overlay_name = "x"});
    // The stroke comes over the same cells again.
    erased = lay_over(
        r.project, rules, erased.level,
        {.layer = r.ground, .hand = make::eraser(), .cells = cells, .overlay_name = "x", .before = &laid.level});
    CHECK(erased.level.layer(laid.overlay)->grid().cell({2, 2}).empty());
    CHECK(erased.level.layer(r.ground)->grid().cell({2, 2}).tile() == 49);
    CHECK(erased.level.layer(r.ground)->grid().cell({1, 2}).empty());
    const LaidOver second = lay_over(r.project, rules, erased.level,
                                     {.layer = r.ground, .hand = make::eraser(), .cells = cells, .overlay_name = "x"});
    CHECK(second.level.layer(r.ground)->grid().cell({2, 2}).empty());
}

TEST_CASE("a home is proposed from looks, and from where the tile lies already", "[home]") {
    Reeds r;
    const join::Rules rules(r.project);
    // Shapes: the tiles of Full block, the others do not.
    const auto wall = propose_home(r.project, r.level(), make::laying(1));
    REQUIRE(wall);
    CHECK(wall->layer == r.ground); // which is solid
    const auto reed = propose_home(r.project, r.level(), make::laying(r.reed));
    REQUIRE(reed);
    CHECK(reed->layer == r.front);
    const auto sand = propose_home(r.project, r.level(), make::material(2));
    REQUIRE(sand);
    CHECK(sand->layer == r.ground);
    // Use outweighs looks.
    level::Project p = r.project;
    p.put(lay(p, rules, r.level(), r.ground, make::laying(r.reed), box_cells({0, 0, 4, 4})).level);
    CHECK(propose_home(p, *p.level(r.id), make::laying(r.reed))->layer == r.ground);
    // Once it has one, nothing is proposed; it can be taken away.
    p = set_home(p, *p.level(r.id), make::laying(r.reed), r.front);
    CHECK(home_of(p, *p.level(r.id), make::laying(r.reed)) == r.front);
    CHECK_FALSE(propose_home(p, *p.level(r.id), make::laying(r.reed)));
    CHECK(target_of(p, *p.level(r.id), make::laying(r.reed), r.ground, false).layer == r.front);
    p = set_home(p, *p.level(r.id), make::laying(r.reed), 0);
    CHECK(home_of(p, *p.level(r.id), make::laying(r.reed)) == 0);
    p = set_home(p, *p.level(r.id), make::material(1), r.front);
    CHECK(target_of(p, *p.level(r.id), make::material(1), r.ground, false).layer == r.front);
}

TEST_CASE("a stroke on the wrong layer is lifted to the right one, and what it covered is there again", "[lift]") {
    make::Small small({30, 20});
    const join::Rules rules(small.project);
    level::Project before = small.project;
    before.put(lay(before, rules, small.level(), small.ground, make::material(1), box_cells({0, 0, 12, 12})).level);
    level::Project after = before;
    const std::vector<Point> cells = box_cells({5, 5, 10, 3});
    after.put(lay(after, rules, *before.level(small.id), small.ground, make::material(2), cells).level);
    const auto stroke = stroke_of(before, after);
    REQUIRE(stroke);
    CHECK(stroke->level == small.id);
    CHECK(stroke->layer == small.ground);
    CHECK(stroke->cells.contains(Box{5, 5, 10, 3}));
    const Lifted lifted = lift(after, rules, before, after, *stroke, small.front);
    CHECK(lifted.cells == 30);
    CHECK(lifted.changed == 0);
    CHECK(lifted.level.layer(small.ground)->grid() == before.level(small.id)->layer(small.ground)->grid());
    CHECK(lifted.level.layer(small.front)->grid() ==
          lay(before, rules, *before.level(small.id), small.front, make::material(2), cells)
              .level.layer(small.front)
              ->grid());
    // Cells that were painted over since stay.
    level::Project later = after;
    later.put(lay(later, rules, *after.level(small.id), small.ground, make::laying(50), box_cells({5, 5, 2, 1})).level);
    const Lifted most = lift(later, rules, before, after, *stroke, small.front);
    CHECK(most.cells == 28);
    CHECK(most.changed == 2);
    CHECK(most.level.layer(small.ground)->grid().cell({5, 5}).tile() == 50);
    // Other steps are no strokes.
    CHECK_FALSE(stroke_of(before, before));
    level::Project renamed = before;
    renamed.name = "Other";
    CHECK_FALSE(stroke_of(before, renamed));
    level::Project prop = before;
    prop.put(add_prop(*before.level(small.id), small.props, {999, small.prop, {5, 5}, {false}}));
    CHECK_FALSE(stroke_of(before, prop));
    CHECK(lift(after, rules, before, after, *stroke, small.props).cells == 0); // no layer of tiles
}
