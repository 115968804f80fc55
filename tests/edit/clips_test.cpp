// Selections, stamps, turning and what is done to whole levels.
#include <catch2/catch.hpp>

#include "edit/clips.hpp"
#include "edit/fill.hpp"
#include "edit/levels.hpp"
#include "edit/reshape.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::edit;
using level::Region;

namespace {

// A level with some of everything on it.
level::Level busy(make::Small& small, unsigned seed) {
    make::Random random(seed);
    level::Project& p = small.project;
    level::Level level = small.level();
    const join::Rules rules(p);
    for (int i = 0; i < 12; ++i) {
        const Box box{random.below(level.size.w), random.below(level.size.h), 1 + random.below(12),
                      1 + random.below(9)};
        level = lay(p, rules, level, random.flip() ? small.ground : small.front,
                    random.flip(0.6) ? make::material(1 + random.below(2))
                                     : make::laying(static_cast<level::TileId>(49 + random.below(4)),
                                                    Turn{static_cast<std::uint8_t>(random.below(8))}),
                    box_cells(box))
                    .level;
    }
    for (int i = 0; i < 5; ++i)
        level = add_prop(level, small.props,
                         {p.next_id++,
                          small.prop,
                          {random.below(level.pixels().w), random.below(level.pixels().h)},
                          {random.flip()}});
    level = place_mark(level, p.next_id++, level::MarkKind::start, "Start", {2, 3});
    level.guides = {{false, 17}, {true, 40}};
    return level;
}

bool same_content(const level::Level& a, const level::Level& b) {
    if (a.size != b.size || a.layers.size() != b.layers.size() || a.marks != b.marks || a.guides != b.guides)
        return false;
    for (std::size_t i = 0; i < a.layers.size(); ++i)
        if (!(a.layers[i]->grid() == b.layers[i]->grid()) || a.layers[i]->props() != b.layers[i]->props()) return false;
    return true;
}

} // namespace

TEST_CASE("turning a level four times, or mirroring it twice, is nothing", "[reshape]") {
    for (unsigned seed = 1; seed <= 8; ++seed) {
        make::Small small({40, 30});
        const level::Level level = busy(small, seed);
        const join::Rules rules(small.project);
        level::Level now = level;
        for (int i = 1; i <= 4; ++i) {
            now = turned(small.project, rules, now, turned_right(Turn{}));
            CHECK(now.size == (i % 2 ? Size{30, 40} : Size{40, 30}));
            if (i == 1) CHECK_FALSE(same_content(now, level));
        }
        CHECK(same_content(now, level));
        now = turned(small.project, rules, level, mirrored(Turn{}));
        CHECK_FALSE(same_content(now, level));
        CHECK(same_content(turned(small.project, rules, now, mirrored(Turn{})), level));
    }
}

TEST_CASE("a turned level shows the turned picture of every tile laid by hand", "[reshape]") {
    make::Small small({9, 7});
    const level::Level level = lay(small.project, join::Rules(small.project), small.level(), small.ground,
                                   make::laying(51, Turn{1}), std::vector<Point>{{2, 1}})
                                   .level;
    const level::Level now =
        turned(small.project, join::Rules(small.project), level, after(turned_right(Turn{}), Turn{4}));
    const Point at = turned_place(after(turned_right(Turn{}), Turn{4}), {2, 1}, {9, 7});
    CHECK(now.layer(small.ground)->grid().cell(at).tile() == 51);
    CHECK(now.layer(small.ground)->grid().cell(at).turn() == after(Turn{1}, after(turned_right(Turn{}), Turn{4})));
    // One that must not be turned stays upright.
    level::Project fixed = small.project;
    level::Sheet sheet = *fixed.sheets[1];
    for (auto& t : sheet.tiles) t.turns = 1;
    fixed.put(sheet);
    const level::Level upright =
        lay(fixed, join::Rules(fixed), small.level(), small.ground, make::laying(51), std::vector<Point>{{2, 1}}).level;
    const level::Level after_it = turned(fixed, join::Rules(fixed), upright, turned_right(Turn{}));
    CHECK(after_it.layer(small.ground)->grid().cell(turned_place(Turn{1}, {2, 1}, {9, 7})).turn() == Turn{});
}

TEST_CASE("extending and cropping back is nothing, and everything keeps its place", "[reshape]") {
    make::Random random(3);
    for (unsigned seed = 1; seed <= 6; ++seed) {
        make::Small small({70, 66});
        const level::Level level = busy(small, seed);
        const join::Rules rules(small.project);
        const Edges by{random.below(80), random.below(80), random.below(80), random.below(80)};
        const level::Level larger = extended(rules, level, by);
        CHECK(larger.size == Size{70 + by.left + by.right, 66 + by.top + by.bottom});
        CHECK(same_content(extended(rules, larger, {-by.left, -by.top, -by.right, -by.bottom}), level));
        const Box had = content(level);
        CHECK(content(larger) == had.moved({by.left, by.top}));
        // Cropped to what it has, nothing is lost.
        const level::Level tight =
            extended(rules, level, {-had.x, -had.y, had.right() - level.size.w, had.bottom() - level.size.h});
        CHECK(tight.size == had.size());
        CHECK(tight.layer(small.ground)->grid().count() == level.layer(small.ground)->grid().count());
    }
}

TEST_CASE("a growing level grows by whole chunks, on any side, and shares what it had", "[reshape]") {
    make::Small small({128, 128});
    level::Level level = small.level();
    CHECK(growth(level, {-3, 0, 1, 1}) == Edges{});
    level.grows = true;
    CHECK(growth(level, {5, 5, 10, 10}) == Edges{});
    CHECK(growth(level, {-3, 0, 1, 1}) == Edges{64, 0, 0, 0});
    CHECK(growth(level, {100, -70, 60, 300}) == Edges{0, 128, 64, 128});
    const join::Rules rules(small.project);
    level = lay(small.project, rules, level, small.ground, make::laying(49), box_cells({10, 10, 90, 90})).level;
    const level::Level larger = extended(rules, level, {64, 0, 0, 0});
    CHECK(larger.layer(small.ground)->grid().chunk({1, 0}) == level.layer(small.ground)->grid().chunk({0, 0}));
}

TEST_CASE("what is copied and pasted elsewhere is the same, joins anew where it was painted", "[clips]") {
    make::Small small({60, 50});
    const join::Rules rules(small.project);
    level::Level level =
        lay(small.project, rules, small.level(), small.ground, make::material(1), box_cells({3, 3, 6, 5})).level;
    level = lay(small.project, rules, level, small.front, make::laying(50, Turn{3}), box_cells({4, 4, 2, 2})).level;
    level = add_prop(level, small.props, {900, small.prop, {5 * 16 + 3, 6 * 16 + 1}, {true}});
    small.project.next_id = 1000;
    Region region(Box{3, 3, 6, 5});
    const auto layers = concerned(level, 0, true);
    const level::Stamp copy = take(level, region, layers);
    REQUIRE(copy.layers.size() == 3);
    const Stamped there = stamp(small.project, rules, level, copy, {.at = {30, 20}});
    CHECK(there.cells == 34);
    CHECK(there.props == 1);
    CHECK(there.no_layer == 0);
    const level::Level direct =
        lay(small.project, rules, level, small.ground, make::material(1), box_cells({30, 20, 6, 5})).level;
    CHECK(there.level.layer(small.ground)->grid() == direct.layer(small.ground)->grid());
    CHECK(there.level.layer(small.front)->grid().cell({32, 22}).turn() == Turn{3});
    CHECK(there.level.layer(small.props)->props().all().back() ==
          level::Prop{1000, small.prop, {32 * 16 + 3, 23 * 16 + 1}, {true}});
    // Pasted beside itself it joins on; left as it was it does not.
    const level::Stamp ground = take(level, region, {small.ground});
    const Stamped joined = stamp(small.project, rules, level, ground, {.at = {9, 3}});
    CHECK(joined.level.layer(small.ground)->grid() ==
          lay(small.project, rules, level, small.ground, make::material(1), box_cells({9, 3, 6, 5}))
              .level.layer(small.ground)
              ->grid());
    const Stamped pinned = stamp(small.project, rules, level, ground, {.at = {9, 3}, .pins = true});
    CHECK(pinned.level.layer(small.ground)->grid().cell({9, 3}).tile() ==
          level.layer(small.ground)->grid().cell({3, 3}).tile());
    CHECK(pinned.level.layer(small.ground)->grid().cell({9, 3}).pinned());
    // Onto another layer where that is asked for, and none where its layer is locked.
    const Stamped other = stamp(small.project, rules, level, ground, {.at = {30, 20}, .only = small.front});
    CHECK(other.level.layer(small.front)->grid().material({30, 20}) == 1);
    level.edit(small.ground).locked = true;
    const Stamped none = stamp(small.project, rules, level, ground, {.at = {30, 20}});
    CHECK(none.no_layer == 1);
    CHECK(none.cells == 0);
}

TEST_CASE("a stamp turned four times or mirrored twice is itself, and goes as its level goes", "[clips]") {
    for (unsigned seed = 1; seed <= 6; ++seed) {
        make::Small small({24, 18});
        const level::Level level = busy(small, seed);
        const level::Stamp all = take(level, Region(level.cells()), concerned(level, 0, true));
        level::Stamp now = all;
        for (int i = 0; i < 4; ++i) now = turned(small.project, now, turned_right(Turn{}));
        CHECK(now == all);
        CHECK(turned(small.project, turned(small.project, all, Turn{4}), Turn{4}) == all);
        // The oracle: the whole level turned.
        const join::Rules rules(small.project);
        const level::Level as_level = turned(small.project, rules, level, Turn{5});
        const level::Stamp as_stamp = turned(small.project, all, Turn{5});
        for (const level::StampLayer& l : as_stamp.layers)
            if (l.kind() == level::LayerKind::tiles)
                each_cell(l.grid(), box_of(l.grid().size()), [&](Point p, level::Cell c, level::MaterialId m) {
                    const level::Grid& other = as_level.layer(l.from)->grid();
                    CHECK(other.material(p) == m);
                    if (c.pinned()) CHECK(other.cell(p) == c);
                });
    }
}

TEST_CASE("a stamp of three by three is stretched, and a pattern keeps its place", "[clips]") {
    level::Stamp nine;
    nine.size = {3, 3};
    level::StampLayer l;
    l.grid() = level::Grid({3, 3});
    for (int i = 0; i < 9; ++i)
        l.grid().set({i % 3, i / 3}, level::Cell(static_cast<level::TileId>(i + 1), {}, true), 0);
    nine.layers.push_back(l);
    const auto tile_at = [](const level::Stamp& s, Point p) { return s.layers[0].grid().cell(p).tile(); };
    for (const Size size : {Size{1, 1}, {2, 2}, {3, 3}, {5, 4}, {9, 2}}) {
        const level::Stamp s = stretched(nine, size);
        CHECK(s.size == size);
        for (int y = 0; y < size.h; ++y)
            for (int x = 0; x < size.w; ++x) {
                const unsigned column = x == 0 ? 0 : x == size.w - 1 ? 2 : 1;
                const unsigned row = y == 0 ? 0 : y == size.h - 1 ? 2 : 1;
                CHECK(tile_at(s, {x, y}) == row * 3 + column + 1);
            }
    }
    const level::Stamp a = patterned(nine, {4, 5, 6, 6});
    const level::Stamp b = patterned(nine, {6, 6, 6, 6});
    CHECK(tile_at(a, {2, 1}) == tile_at(b, {0, 0}));
    CHECK(tile_at(a, {0, 0}) == 1 + 4 % 3 + 5 % 3 * 3);
}

TEST_CASE("a selection moved and moved back is nothing; to another layer it leaves its own", "[clips]") {
    make::Small small({60, 50});
    const level::Level level = busy(small, 4);
    const join::Rules rules(small.project);
    const auto layers = concerned(level, 0, true);
    // Onto empty ground: what it is moved onto is replaced.
    level::Level wide = extended(rules, level, {0, 0, 60, 0});
    const Region region(Box{5, 5, 20, 20});
    const Stamped there = moved(small.project, rules, wide, region, layers, {60, 3});
    CHECK_FALSE(same_content(there.level, wide));
    CHECK(there.level.layer(small.ground)->grid().count() == wide.layer(small.ground)->grid().count());
    CHECK(there.next_id == small.project.next_id); // no new props
    const Stamped back = moved(small.project, rules, there.level, region.moved({60, 3}), layers, {-60, -3});
    CHECK(back.level.layer(small.ground)->grid() == wide.layer(small.ground)->grid());
    CHECK(back.level.layer(small.front)->grid() == wide.layer(small.front)->grid());
    CHECK(back.level.layer(small.props)->props().size() == wide.layer(small.props)->props().size());

    const std::int64_t had = level.layer(small.ground)->grid().count();
    level::Level empty_front = level;
    empty_front.edit(small.front).grid() = level::Grid(level.size);
    const Stamped over = moved_to(small.project, rules, empty_front, Region(level.cells()), small.ground, small.front);
    CHECK(over.level.layer(small.ground)->grid().count() == 0);
    CHECK(over.level.layer(small.front)->grid().count() == had);
    const Stamped wrong = moved_to(small.project, rules, level, Region(level.cells()), small.ground, small.props);
    CHECK(wrong.no_layer == 1);
    CHECK(same_content(wrong.level, level));
}

TEST_CASE("a spread leaves out the share it is asked to, steadily, by weight", "[spread]") {
    make::Small small({200, 200});
    const join::Rules rules(small.project);
    Hand hand{held::Spread{{{0, 49, {}, 300}, {0, 50, {}, 100}}}};
    hand.share_empty = 70;
    const level::Level all =
        lay(small.project, rules, small.level(), small.front, hand, Region(Box{0, 0, 200, 200})).level;
    const auto& grid = all.layer(small.front)->grid();
    std::int64_t count[2] = {0, 0};
    each_cell(grid, all.cells(), [&](Point, level::Cell c, level::MaterialId) { ++count[c.tile() - 49]; });
    const double laid = double(count[0] + count[1]);
    CHECK(laid / 40000 == Approx(0.30).margin(0.01));
    CHECK(double(count[0]) / laid == Approx(0.75).margin(0.02));
    // The same cell by cell as at once: the preview is the truth.
    level::Level piecewise = small.level();
    for (int y = 0; y < 200; y += 40)
        for (int x = 0; x < 200; x += 50)
            piecewise = lay(small.project, rules, piecewise, small.front, hand, Region(Box{x, y, 50, 40})).level;
    CHECK(piecewise.layer(small.front)->grid() == grid);
    for (int i = 0; i < 500; ++i) {
        const Point p{i % 200, i / 200 * 7};
        CHECK(left_out(hand, small.front, p) == (grid.cell(p).tile() == 0));
        if (grid.cell(p).tile() != 0) CHECK(choice(hand, small.front, p).tile == grid.cell(p).tile());
    }
    // What was there stays where it is left out.
    const level::Level on_ground =
        lay(small.project, rules, small.level(), small.front, make::laying(51), Region(all.cells())).level;
    const level::Level mixed = lay(small.project, rules, on_ground, small.front, hand, Region(all.cells())).level;
    CHECK(mixed.layer(small.front)->grid().count() == 40000);

    // Thinned out by half, and cast again.
    const Laid half = thinned(small.project, rules, all, small.front, Region(all.cells()), 50, 7);
    CHECK(double(half.level.layer(small.front)->grid().count()) / laid == Approx(0.5).margin(0.02));
    CHECK(thinned(small.project, rules, all, small.front, Region(all.cells()), 100, 7)
              .level.layer(small.front)
              ->grid()
              .count() == 0);
    Hand again = hand;
    again.seed = 99;
    const Laid anew = rerolled(small.project, rules, all, small.front, Region(all.cells()), again);
    CHECK(anew.level.layer(small.front)->grid() ==
          lay(small.project, rules, small.level(), small.front, again, Region(all.cells()))
              .level.layer(small.front)
              ->grid());
    CHECK_FALSE(anew.level.layer(small.front)->grid() == grid);
}

TEST_CASE("replacing lays one thing for another and leaves the rest", "[clips]") {
    make::Small small({30, 20});
    const join::Rules rules(small.project);
    level::Level level =
        lay(small.project, rules, small.level(), small.ground, make::material(1), box_cells({0, 0, 10, 10})).level;
    level = lay(small.project, rules, level, small.ground, make::material(2), box_cells({10, 0, 10, 10})).level;
    const Replaced here = replaced(small.project, rules, level, Region(Box{5, 0, 10, 10}), {small.ground},
                                   make::material(1), make::material(2));
    CHECK(here.cells == 50);
    CHECK(here.level.layer(small.ground)->grid() ==
          lay(small.project, rules, level, small.ground, make::material(2), box_cells({5, 0, 5, 10}))
              .level.layer(small.ground)
              ->grid());
    const Replaced everywhere = replaced(small.project, rules, level, Region(level.cells()), {small.ground},
                                         make::material(1), make::laying(51));
    CHECK(everywhere.cells == 100);
    CHECK(everywhere.level.layer(small.ground)->grid().cell({4, 4}).tile() == 51);
}

TEST_CASE("a lasso takes the cells whose middle it goes round", "[clips]") {
    const Box level{0, 0, 40, 40};
    CHECK(lasso({{2, 2}, {8, 2}, {8, 5}, {2, 5}}, level) == Region(Box{2, 2, 6, 3}));
    CHECK(lasso({{2.4, 2.4}, {7.6, 2.4}, {7.6, 4.6}, {2.4, 4.6}}, level) == Region(Box{2, 2, 6, 3}));
    CHECK(lasso({{2.6, 2.6}, {7.4, 2.6}, {7.4, 4.4}, {2.6, 4.4}}, level) == Region(Box{3, 3, 4, 1}));
    CHECK(lasso({{-9, -9}, {90, -9}, {90, 90}, {-9, 90}}, level) == Region(level));
    const Region triangle = lasso({{0, 0}, {20, 0}, {0, 20}}, level);
    CHECK(triangle.contains({0, 0}));
    CHECK(triangle.contains({9, 9}));
    CHECK_FALSE(triangle.contains({11, 11}));
    CHECK(triangle.count() == Approx(200).margin(12));
    CHECK(lasso({{1, 1}, {5, 5}}, level).empty());
}

TEST_CASE("merging down lays the upper over the lower and keeps what one sees through", "[reshape]") {
    make::Small small({20, 20});
    const join::Rules rules(small.project);
    level::LayerId upper = 0;
    level::Level level = small.level();
    upper = small.project.next_id++;
    level = add_layer(level, upper, "Upper", level::LayerKind::tiles, small.ground);
    level = lay(small.project, rules, level, small.ground, make::laying(49), box_cells({0, 0, 10, 10})).level;
    level = lay(small.project, rules, level, upper, make::laying(50), box_cells({5, 5, 10, 10})).level;
    const Merged merged = merged_down(small.project, rules, level, upper);
    REQUIRE(merged.done);
    CHECK(merged.stayed == 0);
    CHECK(merged.level.layer(upper) == nullptr);
    CHECK(merged.level.layers.size() == level.layers.size() - 1);
    CHECK(merged.level.layer(small.ground)->grid().cell({7, 7}).tile() == 50);
    CHECK(merged.level.layer(small.ground)->grid().cell({2, 2}).tile() == 49);
    CHECK_FALSE(merged_down(small.project, rules, level, small.ground).done); // nothing behind it
    CHECK_FALSE(merged_down(small.project, rules, level, small.props).done);  // of another kind
}

TEST_CASE("another cell size keeps every place in cells and says what becomes of the picture", "[reshape]") {
    make::Small small({20, 20});
    level::Level level = add_prop(small.level(), small.props, {77, small.prop, {35, 50}, {false}});
    level.guides = {{true, 32}};
    const Rescaled twice = rescaled(small.project, level, {32, 32}, LatticeKind::square);
    CHECK(twice.level.cell == Size{32, 32});
    CHECK(twice.level.layer(small.props)->props().all()[0].at == Point{70, 100});
    CHECK(twice.level.guides[0].at == 64);
    CHECK(twice.says.english().find("2 times as large") != std::string::npos);
    CHECK(rescaled(small.project, twice.level, {16, 16}, LatticeKind::square)
              .level.layer(small.props)
              ->props()
              .all()[0]
              .at == Point{35, 50});
    CHECK(rescaled(small.project, level, {24, 16}, LatticeKind::square).says.english().find("uneven") !=
          std::string::npos);
    CHECK(rescaled(small.project, level, {16, 16}, LatticeKind::square).says.english() == "Nothing changes");
}
