// Layers whose cells are wider than the level's: what is laid there is crisp, blocks, is kept and is handed over as in
// a level with cells of that size.
#include <catch2/catch.hpp>

#include "edit/clips.hpp"
#include "edit/close_up.hpp"
#include "edit/document.hpp"
#include "edit/reshape.hpp"
#include "outline/trace.hpp"
#include "parcel/build.hpp"
#include "picture/compose.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"
#include "vicinum_level.hpp"

using namespace vic;
using namespace vic::edit;
using level::Grain;
using level::Region;

namespace {

// The layer with cells so much wider, and tiles and materials strewn over them.
level::Level strewn(const make::Small& small, level::LayerId id, int wider, unsigned seed) {
    const Refined wide = refined(small.level(), id, {1, wider});
    REQUIRE(wide.done);
    level::Level close = close_up(wide.level, id);
    make::Random random(seed);
    const join::Rules rules(small.project);
    const auto& tiles = small.project.sheets[0]->tiles;
    for (int i = 0; i < 60; ++i) {
        const Point at{random.below(close.size.w), random.below(close.size.h)};
        const level::Tile& tile = tiles[static_cast<std::size_t>(random.below(static_cast<int>(tiles.size())))];
        const Hand hand = random.flip() ? make::laying(tile.id) : make::material(2);
        close = lay(small.project, rules, close, id, hand, Region(Box{at.x, at.y, 1, 1})).level;
    }
    return put_back(wide.level, close, id);
}

// Some of the sheet's tiles block with each of the simple shapes.
void give_shapes(make::Small& small) {
    level::Sheet sheet = *small.project.sheets[0];
    for (std::size_t i = 0; i < sheet.tiles.size(); ++i)
        sheet.tiles[i].shape =
            static_cast<level::TileShape>(i % (static_cast<std::size_t>(level::TileShape::one_way_west) + 1));
    small.project.put(std::move(sheet));
}

std::vector<outline::Outline> outlines_of(const level::Project& project, const level::Level& level) {
    return outline::outlines(outline::trace(level, level::TileTable(project)));
}

} // namespace

TEST_CASE("cells of a layer and of the level tell each other", "[wide]") {
    make::Random random(3);
    for (int i = 0; i < 60; ++i) {
        Grain grain;
        (random.flip() ? grain.finer : grain.wider) = 1 + random.below(level::kMostGrain);
        const Size level{1 + random.below(50), 1 + random.below(50)};
        const Size own = grain.cells(level);
        // Boxes that lie side by side share the layer's cells out among them.
        std::map<std::pair<int, int>, int> times;
        const int side = 1 + random.below(9);
        for (int y = 0; y < level.h; y += side)
            for (int x = 0; x < level.w; x += side) {
                const Box part = grain.in_layer(intersection(Box{x, y, side, side}, box_of(level)));
                for (int v = part.y; v < part.bottom(); ++v)
                    for (int u = part.x; u < part.right(); ++u) ++times[{u, v}];
            }
        CHECK(times.size() == static_cast<std::size_t>(own.area()));
        CHECK(std::all_of(times.begin(), times.end(), [](const auto& t) { return t.second == 1; }));
        // What touches a cell covers it.
        const Point cell{random.below(level.w), random.below(level.h)};
        const Box touching = grain.touching(Box{cell.x, cell.y, 1, 1});
        CHECK(grain.in_level(touching).contains(cell));
        CHECK(box_of(own).contains(touching.corner()));
    }
}

TEST_CASE("a wide layer blocks and looks as a level with such cells does", "[wide]") {
    for (const int wider : {2, 3, 4}) {
        make::Small small({40, 31}); // no whole number of wide cells
        give_shapes(small);
        const level::Level level = strewn(small, small.ground, wider, static_cast<unsigned>(wider));
        REQUIRE(level.layer(small.ground)->solid());
        // The oracle: the layer alone, in a level that has such cells.
        level::Level alone = level;
        alone.layers = {level.layers[static_cast<std::size_t>(level.index_of(small.ground))]};
        alone.plane = 0;
        level::Level large = close_up(level, small.ground);
        // What reaches beyond the level blocks nothing there: only whole cells are compared.
        const Size whole{level.size.w / wider * wider, level.size.h / wider * wider};
        const join::Rules rules(small.project);
        alone = extended(rules, alone, {0, 0, whole.w - level.size.w, whole.h - level.size.h});
        large = extended(rules, large, {0, 0, whole.w / wider - large.size.w, whole.h / wider - large.size.h});
        auto expected = outlines_of(small.project, large);
        for (outline::Outline& o : expected)
            for (Point& p : o.points) p = {p.x * wider, p.y * wider};
        CHECK(outlines_of(small.project, alone) == expected);
        CHECK(outline::one_way_edges(outline::trace(alone, level::TileTable(small.project))).size() ==
              outline::one_way_edges(outline::trace(large, level::TileTable(small.project))).size());
        CHECK(picture::render(small.project, alone, 1) == picture::render(small.project, large, 1));
    }
}

TEST_CASE("a change on a wide layer is traced as if all were traced anew", "[wide]") {
    make::Small small({70, 70});
    give_shapes(small);
    const level::TileTable tiles(small.project);
    const level::Level before = strewn(small, small.ground, 3, 8);
    outline::Trace trace = outline::trace(before, tiles);
    const join::Rules rules(small.project);
    level::Level close = close_up(before, small.ground);
    close = lay(small.project, rules, close, small.ground, make::material(2), Region(Box{9, 10, 3, 2})).level;
    const level::Level after = put_back(before, close, small.ground);
    const auto changed = level::difference(before, after, small.project);
    REQUIRE_FALSE(changed.everything);
    outline::retrace(trace, after, tiles, changed.cells);
    CHECK(trace == outline::trace(after, tiles));
}

TEST_CASE("a wide layer is kept, extended by whole cells, taken, stamped and cleared", "[wide]") {
    make::Small small({600, 40}); // beyond one block of the files, which three does not divide
    make::Folder folder;
    const level::Level level = strewn(small, small.front, 3, 5);
    level::Project p = small.project;
    p.put(level);
    store::save(p, folder / "p");
    const level::Project back = store::load(folder / "p");
    CHECK(back.level(small.id)->layer(small.front)->grid() == level.layer(small.front)->grid());
    CHECK(back.level(small.id)->layer(small.front)->grain() == Grain{1, 3});

    const join::Rules rules(p);
    const level::Level more = extended(rules, level, {1, 2, 0, 0});
    CHECK(more.size == Size{603, 43}); // whole cells of the widest layer
    const Box bounds = level.layer(small.front)->grid().bounds();
    CHECK(more.layer(small.front)->grid().bounds() == bounds.moved({1, 1}));
    CHECK(whole_steps(level, {-4, 0, 5, 0}) == Edges{-3, 0, 5, 0}); // less is taken away rather than more

    // A stamp holds the wide cells whose corner lies in it.
    const level::Level some = [&] {
        level::Level close = close_up(cleared(p, rules, level, Region(level.cells()), {small.front}), small.front);
        REQUIRE(close.layers[0]->grid().bounds().empty());
        close = lay(p, rules, close, small.front, make::material(2), Region(Box{4, 2, 2, 2})).level;
        return put_back(level, close, small.front);
    }();
    const level::Stamp taken = take(some, Region(Box{12, 6, 6, 6}), {small.front});
    REQUIRE(taken.layers.size() == 1);
    CHECK(taken.layers[0].grid().size() == Size{2, 2});
    const Stamped there = stamp(p, rules, some, taken, {.at = {30, 12}, .fallback = small.front});
    CHECK(there.no_layer == 0);
    CHECK(there.level.layer(small.front)->grid().material({11, 5}) == 2);
    CHECK(cleared(p, rules, some, Region(Box{12, 6, 4, 6}), {small.front}).layer(small.front)->grid().count() == 0);
    // Where no wide cell has its corner there is nothing of it.
    const Region none(Box{13, 7, 1, 1});
    CHECK(take(some, none.bounds().size() == Size{1, 1} ? none : Region(), {small.front}).layers.empty());
    CHECK(cleared(p, rules, some, none, {small.front}).layer(small.front)->grid() == some.layer(small.front)->grid());
    // Turned four times a level is what it was, after it was made as large as whole wide cells.
    const level::Level odd = extended(rules, some, {0, 0, 1, 1});
    level::Level round = odd;
    for (int i = 0; i < 4; ++i) round = turned(p, rules, round, turned_right(Turn{}));
    CHECK(round.layer(small.front)->grid().bounds() == some.layer(small.front)->grid().bounds());
    CHECK(round.size.w % 3 == 0);
    const level::Level mirrored = turned(p, rules, odd, Turn{4});
    const Box seen = mirrored.layer(small.front)->grain().in_level(mirrored.layer(small.front)->grid().bounds());
    CHECK(seen.right() == mirrored.size.w - 12); // as far from the right edge as it was from the left one
}

TEST_CASE("cells become wider and narrower again", "[wide]") {
    make::Small small;
    const join::Rules rules(small.project);
    const level::Level level =
        lay(small.project, rules, small.level(), small.ground, make::material(2), Region(Box{4, 4, 6, 4})).level;
    const Refined wide = refined(level, small.ground, {1, 2});
    REQUIRE(wide.done);
    CHECK(wide.level.layer(small.ground)->grid().bounds() == Box{2, 2, 3, 2});
    CHECK(wide.level.layer(small.ground)->blocks());
    const Refined back = refined(wide.level, small.ground, {});
    CHECK(back.level.layer(small.ground)->grid().bounds() == Box{4, 4, 6, 4});
    CHECK_FALSE(refined(level, small.ground, {2, 1}).done); // what blocks is not finer
    CHECK_FALSE(refined(level, small.ground, {1, 9}).done);
    CHECK_FALSE(refined(level, small.ground, {2, 2}).done);
    // No cell becomes larger than what can be read again.
    CHECK(rescaled(small.project, wide.level, {512, 512}, LatticeKind::square).level.cell == Size{512, 512});
    CHECK(rescaled(small.project, wide.level, {600, 600}, LatticeKind::square).level.cell == level.cell);
}

TEST_CASE("the engine gets a wide layer in its own cells", "[wide]") {
    make::Small small;
    give_shapes(small);
    make::Folder folder;
    const level::Level level = strewn(small, small.ground, 2, 4);
    const vicinum::Level engine = vicinum::load(parcel::build(small.project, level, folder / "out").dir);
    const auto of = std::find_if(engine.layers.begin(), engine.layers.end(),
                                 [&](const vicinum::Layer& l) { return l.id == small.ground; });
    REQUIRE(of != engine.layers.end());
    CHECK(of->cell_size.x == 2 * level.cell.w);
    CHECK_FALSE(engine.outlines.empty());
    Point at{-1, -1};
    level::each_cell(level.layer(small.ground)->grid(), level.layer(small.ground)->cells(),
                     [&](Point p, level::Cell c, level::MaterialId) {
                         if (at.x < 0 && c.tile() != 0) at = p;
                     });
    REQUIRE(at.x >= 0);
    const vicinum::Rect place = engine.picture_place(*of, at.x, at.y, of->cell(at.x, at.y));
    CHECK(place.x == at.x * 2 * level.cell.w);
    CHECK(place.w == 2 * level.cell.w);
}
