// Several cells as one tile: made, laid, drawn, blocking, erased, kept through a new cut.
#include <catch2/catch.hpp>

#include "base/error.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "edit/tiles.hpp"
#include "level/block.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "sheet/cut.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;
using namespace vic::edit;

namespace {

// A block of the columns 1 - 2 and rows 0 - 2 of the first sheet.
struct Pump {
    explicit Pump(Size cells = {40, 30}) : small(cells) {
        const level::Sheet& s = *small.project.sheets[0];
        const int columns = sheet::columns_rows(s.cut, s.image->size()).w;
        for (int y = 0; y < 3; ++y)
            for (int x = 1; x < 3; ++x) members.push_back(s.tiles[static_cast<std::size_t>(y * columns + x)].id);
        MadeBlock made = make_block(small.project, s.id, members);
        REQUIRE(made.trouble.empty());
        small.project = std::move(made.project);
        id = made.tile;
    }
    [[nodiscard]] const level::Tile& tile() const { return small.project.sheets[0]->tiles.back(); }
    [[nodiscard]] Hand hand(bool mirrored = false) const {
        Hand h{held::Tile{id}};
        h.turn.code = mirrored ? 4 : 0;
        return h;
    }
    void change(const std::function<void(level::Tile&)>& how) {
        small.project = change_tiles(small.project, {id}, how);
    }
    [[nodiscard]] level::Level laid(const std::vector<Point>& cells, bool mirrored = false) const {
        return lay(small.project, join::Rules(small.project), small.level(), small.ground, hand(mirrored), cells).level;
    }
    make::Small small;
    std::vector<level::TileId> members;
    level::TileId id = 0;
};

} // namespace

TEST_CASE("a block is the cells that the chosen tiles span", "[block]") {
    Pump pump;
    CHECK(pump.tile().block.cells == Size{2, 3});
    CHECK(pump.tile().block.stands == 2);
    CHECK(pump.tile().block.pivot == Point{0, 2});
    CHECK(sheet::lattice_tiles(*pump.small.project.sheets[0]) == pump.small.project.sheets[0]->tiles.size() - 1);
    // Two opposite corners are enough; the same cells twice are refused, one cell too.
    const auto sheet = pump.small.project.sheets[0]->id;
    const MadeBlock again = make_block(pump.small.project, sheet, {pump.members.front(), pump.members.back()});
    CHECK(again.trouble.english().find("already") != std::string::npos);
    CHECK(again.tile == pump.id);
    CHECK(make_block(pump.small.project, sheet, {pump.members.front()}).trouble.english().find("two cells") !=
          std::string::npos);
    // Its art is the cells' art put together, without what lies between them.
    const level::Sheet& s = *pump.small.project.sheets[0];
    const Image art = sheet::tile_art(s, pump.tile());
    REQUIRE(art.size() == Size{32, 48});
    for (std::size_t i = 0; i < pump.members.size(); ++i)
        for (const level::Tile& t : s.tiles)
            if (t.id == pump.members[i]) {
                const Image part = sheet::tile_art(s, t);
                CHECK(cropped(art, {static_cast<int>(i % 2) * 16, static_cast<int>(i / 2) * 16, 16, 16}) == part);
            }
}

TEST_CASE("reading joins and plain materials leave blocks out", "[block]") {
    Pump pump;
    const level::Sheet& s = *pump.small.project.sheets[0];
    CHECK(tile_pictures(s).size() == s.tiles.size() - 1);
    level::MaterialId added = 0;
    const auto p = add_material(pump.small.project, s, level::JoinKind::plain, {}, "Stuff", added);
    for (const auto& v : p.material(added)->joins.cases.at(255)) CHECK(v.tile != pump.id);
}

TEST_CASE("a laid block is drawn over its cells, mirrored and moved as it says", "[block]") {
    Pump pump;
    pump.change([](level::Tile& t) { t.block.offset = {4, -2}; });
    for (const bool mirrored : {false, true}) {
        const level::Level level = pump.laid({{10, 12}}, mirrored);
        const Image drawn = picture::render(pump.small.project, level, 1);
        const Image art = sheet::tile_art(*pump.small.project.sheets[0], pump.tile());
        // The pivot is the left column, or the right one where it is mirrored.
        const Point at{(mirrored ? 9 : 10) * 16 + (mirrored ? -4 : 4), 10 * 16 - 2};
        for (int y = 0; y < 48; ++y)
            for (int x = 0; x < 32; ++x) {
                const Rgba wanted = art.at(mirrored ? 31 - x : x, y);
                if (wanted.a == 255) REQUIRE(drawn.at(at.x + x, at.y + y) == wanted);
            }
    }
}

TEST_CASE("of blocks the one whose foot is further down stands in front", "[block]") {
    Pump pump;
    // Laid in either order, two that overlap in their upper parts look the same.
    const Image a = picture::render(pump.small.project, pump.laid({{10, 12}, {11, 13}}), 1);
    const Image b = picture::render(pump.small.project, pump.laid({{11, 13}, {10, 12}}), 1);
    CHECK(a == b);
    const Image art = sheet::tile_art(*pump.small.project.sheets[0], pump.tile());
    for (int y = 0; y < 48; ++y)
        for (int x = 0; x < 32; ++x)
            if (art.at(x, y).a == 255) REQUIRE(a.at(11 * 16 + x, 11 * 16 + y) == art.at(x, y));
}

TEST_CASE("the foot blocks, what stands up does not, and shapes stretch over the foot", "[block]") {
    Pump pump;
    pump.change([](level::Tile& t) { t.shape = level::TileShape::full; });
    const auto traced = [&](const level::Level& level) {
        return outline::outlines(outline::trace(level, level::TileTable(pump.small.project)));
    };
    auto all = traced(pump.laid({{10, 12}}));
    REQUIRE(all.size() == 1);
    CHECK(all[0].points ==
          std::vector<Point>{{10 * 64, 12 * 64}, {12 * 64, 12 * 64}, {12 * 64, 13 * 64}, {10 * 64, 13 * 64}});
    // A slope over two cells is one of 1 : 2.
    pump.change([](level::Tile& t) { t.shape = level::TileShape::slope_se; });
    all = traced(pump.laid({{10, 12}}));
    REQUIRE(all.size() == 1);
    CHECK(all[0].points == std::vector<Point>{{12 * 64, 12 * 64}, {12 * 64, 13 * 64}, {10 * 64, 13 * 64}});
    all = traced(pump.laid({{11, 12}}, true));
    CHECK(all[0].points == std::vector<Point>{{10 * 64, 12 * 64}, {12 * 64, 13 * 64}, {10 * 64, 13 * 64}});
    // One-way: only the upper side of the foot's upper row.
    pump.change([](level::Tile& t) {
        t.shape = level::TileShape::one_way_north;
        t.block.stands = 1;
    });
    const auto edges =
        outline::one_way_edges(outline::trace(pump.laid({{10, 12}}), level::TileTable(pump.small.project)));
    REQUIRE(edges.size() == 1);
    CHECK(edges[0].from == Point{10 * 64, 11 * 64});
    CHECK(edges[0].to == Point{12 * 64, 11 * 64});
}

TEST_CASE("feet never overlap: a stroke sets blocks side by side", "[block]") {
    Pump pump;
    std::vector<Point> row;
    for (int x = 3; x < 20; ++x) row.push_back({x, 20});
    const level::Level level = pump.laid(row);
    CHECK(level.layer(pump.small.ground)->grid().count() == 9);
    make::Random random(4);
    level::Level busy = pump.small.level();
    const join::Rules rules(pump.small.project);
    for (int i = 0; i < 300; ++i) {
        const std::vector<Point> one{{random.below(40), random.below(30)}};
        busy = lay(pump.small.project, rules, busy, pump.small.ground, pump.hand(random.flip()), one).level;
    }
    std::map<Point, int> feet;
    level::each_cell(busy.layer(pump.small.ground)->grid(), busy.cells(),
                     [&](Point at, level::Cell c, level::MaterialId) {
                         const Box foot = level::foot_under(pump.tile(), at, c.turn());
                         for (int y = foot.y; y < foot.bottom(); ++y)
                             for (int x = foot.x; x < foot.right(); ++x) ++feet[{x, y}];
                     });
    for (const auto& [cell, n] : feet) CHECK(n == 1);
    // What stands there is found by any of its cells, and erased by its foot.
    const level::TileTable tiles(pump.small.project);
    const level::Level one = pump.laid({{10, 12}});
    const auto& grid = one.layer(pump.small.ground)->grid();
    CHECK(level::block_at(tiles, grid, {11, 10}).at == Point{10, 12});
    CHECK(level::block_at(tiles, grid, {12, 10}).tile == nullptr);
    const auto picked = pick(pump.small.project, one, {11, 11}, pump.small.ground);
    REQUIRE(picked);
    CHECK(picked->hand.tile() == pump.id);
    const std::vector<Point> foot{{11, 12}}, above{{11, 10}}, beside{{12, 12}};
    CHECK(lay(pump.small.project, rules, one, pump.small.ground, make::eraser(), beside)
              .level.layer(pump.small.ground)
              ->grid() == grid);
    CHECK(lay(pump.small.project, rules, one, pump.small.ground, make::eraser(), foot)
              .level.layer(pump.small.ground)
              ->grid()
              .count() == 0);
    CHECK(lay(pump.small.project, rules, one, pump.small.ground, make::eraser(), above)
              .level.layer(pump.small.ground)
              ->grid()
              .count() == 0);
}

TEST_CASE("with blocks, a part redrawn and re-traced is the whole drawn and traced anew", "[block]") {
    Pump pump({150, 140});
    pump.change([](level::Tile& t) {
        t.shape = level::TileShape::drawn;
        t.polygons = {{{2, 2}, {14, 0}, {16, 16}, {0, 16}}};
        t.block.offset = {-9, 5};
        t.block.stands = 1;
    });
    const join::Rules rules(pump.small.project);
    const level::TileTable tiles(pump.small.project);
    make::Random random(9);
    level::Level level = pump.small.level();
    outline::Trace live = outline::trace(level, tiles);
    picture::Art art;
    picture::Canvas canvas(level.pixels());
    picture::draw(pump.small.project, level, art, canvas, canvas.box);
    for (int i = 0; i < 120; ++i) {
        Hand hand = random.flip(0.7) ? pump.hand(random.flip()) : make::eraser();
        // Often near the borders of chunks.
        const std::vector<Point> at{{random.flip() ? 60 + random.below(8) : random.below(150),
                                     random.flip() ? 60 + random.below(8) : random.below(140)}};
        level::Level next = lay(pump.small.project, rules, level, pump.small.ground, hand, at).level;
        const auto difference = level::difference(level, next, pump.small.project);
        level = std::move(next);
        outline::retrace(live, level, tiles, difference.cells);
        for (const Box& cells : difference.cells)
            picture::draw(pump.small.project, level, art, canvas,
                          {cells.x * 16, cells.y * 16, cells.w * 16, cells.h * 16});
    }
    CHECK(outline::outlines(live) == outline::outlines(outline::trace(level, tiles)));
    CHECK(live == outline::trace(level, tiles));
    picture::Art fresh_art;
    picture::Canvas fresh(level.pixels());
    picture::draw(pump.small.project, level, fresh_art, fresh, fresh.box);
    CHECK(canvas.pixels == fresh.pixels);
}

TEST_CASE("a block keeps its id through a new cut, a save and a build", "[block]") {
    Pump pump;
    pump.change([](level::Tile& t) {
        t.name = "Wind pump";
        t.block.offset = {3, -1};
        t.shape = level::TileShape::drawn;
        t.polygons = {{{0, 8}, {16, 4}, {16, 16}, {0, 16}}};
    });
    const auto sheet_id = pump.small.project.sheets[0]->id;
    const level::Cut cut = pump.small.project.sheets[0]->cut;
    level::Cut other = cut;
    other.margin.x += 1;
    level::Project moved = recut_sheet(pump.small.project, sheet_id, other, true);
    CHECK(level::TileTable(moved).find(pump.id).tile == nullptr);
    moved = recut_sheet(moved, sheet_id, cut, true);
    REQUIRE(level::TileTable(moved).find(pump.id).tile != nullptr);
    CHECK(*level::TileTable(moved).find(pump.id).tile == pump.tile());
    // Taken apart and made again it is the same.
    level::Project apart = remove_block(moved, pump.id);
    CHECK(level::reach_of(apart).none());
    const MadeBlock made = make_block(apart, sheet_id, pump.members);
    CHECK(made.tile == pump.id);

    pump.small.set(pump.laid({{10, 12}}, true));
    make::Folder dir;
    make::save_with_pictures(pump.small.project, dir / "p");
    const level::Project loaded = store::load(dir / "p");
    REQUIRE(level::TileTable(loaded).find(pump.id).tile != nullptr);
    CHECK(*level::TileTable(loaded).find(pump.id).tile == pump.tile());
    const vicinum::Level back = vicinum::load(parcel::build(loaded, *loaded.levels[0], dir / "out").dir);
    REQUIRE(back.tiles.size() == 1);
    CHECK(back.tiles[0].cells.x == 2);
    CHECK(back.tiles[0].cells.y == 3);
    CHECK(back.tiles[0].pivot.y == 2);
    CHECK(back.tiles[0].offset.x == 3);
    CHECK(back.tiles[0].stands == 2);
    CHECK(back.tiles[0].atlas.w == 32);
    CHECK(back.tiles[0].atlas.h == 48);
    CHECK(back.tiles[0].polygons.size() == 1);
}

TEST_CASE("a block's numbers keep within its size, frames are timed one by one or all", "[block][frames]") {
    level::Block b{{2, 3}, {7, -1}, {-99, 99}, 3};
    CHECK(fitted(b) == level::Block{{2, 3}, {1, 0}, {-64, 64}, 2});
    make::Small small;
    level::Project p = animate(small.project, {4, 6, 8}, 120);
    const auto frames = [&] { return level::TileTable(p).find(4).tile->frames; };
    CHECK(frames() == std::vector<level::TileFrame>{{4, 120}, {6, 120}, {8, 120}});
    p = time_frames(p, 4, {1}, 50);
    CHECK(frames() == std::vector<level::TileFrame>{{4, 120}, {6, 50}, {8, 120}});
    p = time_frames(p, 4, {}, 70);
    CHECK(frames() == std::vector<level::TileFrame>{{4, 70}, {6, 70}, {8, 70}});
}
