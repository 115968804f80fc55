// Layers with cells of their own, blockers and plantings.
#include <catch2/catch.hpp>

#include "edit/clips.hpp"
#include "edit/close_up.hpp"
#include "edit/document.hpp"
#include "edit/levels.hpp"
#include "edit/overlay.hpp"
#include "edit/plant.hpp"
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
using level::Region;

namespace {

level::LayerId add(make::Small& small, level::LayerKind kind) {
    const level::LayerId id = small.project.next_id++;
    small.project.put(add_layer(small.level(), id, "New", kind, small.front));
    return id;
}

// The front layer twice as fine, with something in its cells.
level::Level fine_level(make::Small& small) {
    const Refined fine = refined(small.level(), small.front, {2, 1});
    REQUIRE(fine.done);
    const join::Rules rules(small.project);
    level::Level close = close_up(fine.level, small.front);
    close = lay(small.project, rules, close, small.front, make::material(2), Region(Box{5, 7, 3, 2})).level;
    return put_back(fine.level, close, small.front);
}

} // namespace

TEST_CASE("A finer layer covers the same ground, and back it is as it was", "[close-up]") {
    make::Small small;
    const join::Rules rules(small.project);
    level::Level level =
        lay(small.project, rules, small.level(), small.front, make::material(2), Region(Box{3, 4, 5, 2})).level;
    const Refined fine = refined(level, small.front, {2, 1});
    REQUIRE(fine.done);
    const level::Layer& layer = *fine.level.layer(small.front);
    CHECK(layer.grid().size() == Size{level.size.w * 2, level.size.h * 2});
    CHECK(layer.grid().bounds() == Box{6, 8, 10, 4});
    const Refined back = refined(fine.level, small.front, {1, 1});
    REQUIRE(back.done);
    CHECK(back.level.layer(small.front)->grid() == level.layer(small.front)->grid());
    // What blocks keeps the level's cells; cells must divide evenly.
    CHECK_FALSE(refined(level, small.ground, {2, 1}).done);
    CHECK_FALSE(refined(level, small.front, {3, 1}).done);
    CHECK(refined(level, small.front, {3, 1}).says.english().find("divided by 3") != std::string::npos);
    // Another cell size of the level must be divisible as well.
    CHECK(rescaled(small.project, fine.level, {15, 15}, LatticeKind::square).level.cell == level.cell);
}

TEST_CASE("A close-up is a level: what is laid there lies in the layer's own cells", "[close-up]") {
    make::Small small;
    const level::Level level = fine_level(small);
    CHECK(level.layer(small.front)->grain() == level::Grain{2, 1});
    CHECK(level.layer(small.front)->grid().bounds() == Box{5, 7, 3, 2});
    CHECK(level.layers.size() == small.level().layers.size());
    // Nothing of it without a close-up.
    CHECK(target_of(small.project, level, make::material(2), small.front, true).obstacle == Obstacle::own_cells);
    CHECK_FALSE(pick(small.project, level, {2, 3}, small.front).has_value());
    // An overlay that the close-up needs is as fine and lies right in front.
    Hand see{held::Tile{49}};
    level::Level close = close_up(level, small.front);
    const std::uint32_t overlay = small.project.next_id;
    close = add_layer(close, overlay, "Over", level::LayerKind::tiles, small.front);
    const level::Level with = put_back(level, close, small.front);
    REQUIRE(with.index_of(overlay) == with.index_of(small.front) + 1);
    CHECK(with.layer(overlay)->grain() == level::Grain{2, 1});
    // The difference is told in cells of the level.
    const auto changed = level::difference(small.level(), level, small.project);
    CHECK(changed.everything);
    level::Level more = close_up(level, small.front);
    more =
        lay(small.project, join::Rules(small.project), more, small.front, make::material(2), Region(Box{40, 20, 1, 1}))
            .level;
    const auto now = level::difference(level, put_back(level, more, small.front), small.project);
    REQUIRE(now.cells.size() == 1);
    CHECK(now.cells[0].contains(Point{20, 10}));
    CHECK(now.cells[0].w <= 3);
}

TEST_CASE("Finer layers are kept, extended, turned, taken and drawn in their own cells", "[close-up]") {
    make::Small small;
    make::Folder folder;
    const level::Level level = fine_level(small);
    level::Project p = small.project;
    p.put(level);
    store::save(p, folder / "p");
    const level::Project back = store::load(folder / "p");
    CHECK(back.level(small.id)->layer(small.front)->grid() == level.layer(small.front)->grid());
    CHECK(back.level(small.id)->layer(small.front)->grain() == level::Grain{2, 1});

    const join::Rules rules(p);
    CHECK(extended(rules, level, {3, 1, 0, 0}).layer(small.front)->grid().bounds() == Box{11, 9, 3, 2});
    level::Level round = level;
    for (int i = 0; i < 4; ++i) round = turned(p, rules, round, turned_right(Turn{}));
    CHECK(round.layer(small.front)->grid() == level.layer(small.front)->grid());

    // A stamp over all layers takes the part of the level's cells and lays it again.
    const Stamped there = stamp(p, rules, level, take(level, Region(Box{2, 3, 3, 3}), {small.front}),
                                {.at = {10, 10}, .fallback = small.front});
    CHECK(there.no_layer == 0);
    CHECK(there.level.layer(small.front)->grid().material({21, 21}) == 2);
    CHECK(cleared(p, rules, level, Region(Box{2, 3, 3, 3}), {small.front}).layer(small.front)->grid().bounds().empty());

    // Drawn half as large: the picture of a tile fills a quarter of the level's cell.
    const Image picture = picture::render(p, level, 1);
    const Image without = picture::render(p, cleared(p, rules, level, Region(level.cells()), {small.front}), 1);
    Box seen;
    for (int y = 0; y < picture.height(); ++y)
        for (int x = 0; x < picture.width(); ++x)
            if (!(picture.at(x, y) == without.at(x, y))) seen = united(seen, {x, y, 1, 1});
    const Size half{level.cell.w / 2, level.cell.h / 2};
    CHECK(Box{5 * half.w, 7 * half.h, 3 * half.w, 2 * half.h}.contains(seen));
    CHECK(seen.w > 2 * half.w);

    const vicinum::Level engine = vicinum::load(parcel::build(p, level, folder / "out").dir);
    const vicinum::Layer* front = nullptr;
    for (const auto& l : engine.layers)
        if (l.id == small.front) front = &l;
    REQUIRE(front);
    CHECK(front->cell_size.x == half.w);
    REQUIRE_FALSE(front->cell(5, 7).empty());
    const vicinum::Rect place = engine.picture_place(*front, 5, 7, front->cell(5, 7));
    CHECK(place.x == 5 * half.w);
    CHECK(place.w == half.w);
}

TEST_CASE("Blockers block and are not seen; only they lie on their layer", "[blockers]") {
    make::Small small;
    make::Folder folder;
    const level::LayerId id = add(small, level::LayerKind::blockers);
    const join::Rules rules(small.project);
    const Hand full = blocker_hand(level::TileShape::full);
    CHECK(target_of(small.project, small.level(), full, small.front, false).layer == id);
    CHECK(target_of(small.project, small.level(), make::material(1), id, true).obstacle == Obstacle::wrong_kind);
    CHECK(target_of(small.project, small.level(), full, small.front, true).obstacle == Obstacle::wrong_kind);
    level::Level level = lay(small.project, rules, small.level(), id, full, Region(Box{4, 4, 3, 2})).level;
    Hand slope = blocker_hand(level::TileShape::slope_se);
    slope.turn = turned_right(Turn{});
    level = lay(small.project, rules, level, id, slope, Region(Box{10, 4, 1, 1})).level;

    const auto outlines = outline::outlines(outline::trace(level, level::TileTable(small.project)));
    REQUIRE(outlines.size() == 2);
    CHECK(outline::area2(outlines[0]) == 2 * 6 * 64 * 64);
    CHECK(outline::area2(outlines[1]) == 64 * 64);
    CHECK(picture::render(small.project, level, 1) == picture::render(small.project, small.level(), 1));

    const auto picked = pick(small.project, level, {10, 4}, id);
    REQUIRE(picked);
    CHECK(picked->hand == blocker_hand(level::turned(level::TileShape::slope_se, slope.turn)));
    CHECK_FALSE(pick(small.project, level, {10, 4}, 0));
    CHECK(name_at(small.project, *level.layer(id), {4, 4}).english() == "a blocker");
    CHECK(name_at(small.project, *level.layer(id), {0, 0}).english().empty());

    // Turned with the level: the slope's corner goes round, four times is nothing.
    level::Level round = level;
    for (int i = 0; i < 4; ++i) {
        round = turned(small.project, rules, round, turned_right(Turn{}));
        CHECK(outline::outlines(outline::trace(round, level::TileTable(small.project))).size() == 2);
    }
    CHECK(round.layer(id)->grid() == level.layer(id)->grid());

    // In the files with its shapes, also where the project has fewer tiles than there are shapes; in the parcel as
    // outlines alone.
    level::Project p = small.project;
    p.put(level);
    store::save(p, folder / "p");
    CHECK(store::load(folder / "p").level(small.id)->layer(id)->grid() == level.layer(id)->grid());
    const vicinum::Level engine = vicinum::load(parcel::build(p, level, folder / "out").dir);
    CHECK(engine.outlines.size() == 2);
    for (const auto& l : engine.layers) CHECK(l.id != id);
}

TEST_CASE("Collision classes are told apart, and together they are the whole", "[blockers]") {
    make::Small small;
    make::Folder folder;
    const level::LayerId id = add(small, level::LayerKind::blockers);
    const join::Rules rules(small.project);
    level::Level level =
        lay(small.project, rules, small.level(), id, blocker_hand(level::TileShape::full), Region(Box{4, 4, 3, 2}))
            .level;
    level = lay(small.project, rules, level, small.ground, make::material(1), Region(Box{7, 4, 2, 2})).level;
    CHECK(vicinum::load(parcel::build(small.project, level, folder / "a").dir).collision_classes.empty());
    level.edit(id).collision_class = "water";
    const vicinum::Level engine = vicinum::load(parcel::build(small.project, level, folder / "b").dir);
    REQUIRE(engine.outlines.size() == 1);
    REQUIRE(engine.collision_classes.size() == 2);
    const auto area = [](const std::vector<vicinum::Outline>& all) {
        long long sum = 0;
        for (const auto& o : all)
            for (std::size_t i = 0; i < o.points.size(); ++i) {
                const auto a = o.points[i], b = o.points[(i + 1) % o.points.size()];
                sum += 1LL * a.x * b.y - 1LL * b.x * a.y;
            }
        return sum;
    };
    CHECK(engine.collision_classes[0].name.empty());
    CHECK(engine.collision_classes[1].name == "water");
    CHECK(area(engine.collision_classes[1].outlines) == 2 * 6 * 64 * 64);
    CHECK(area(engine.collision_classes[0].outlines) + area(engine.collision_classes[1].outlines) ==
          area(engine.outlines));
}

TEST_CASE("What is planted stands on its ground, keeps apart and is the same again", "[planting]") {
    make::Small small;
    const level::LayerId id = add(small, level::LayerKind::planting);
    const join::Rules rules(small.project);
    level::Level level =
        lay(small.project, rules, small.level(), small.ground, make::material(1), Region(Box{4, 4, 20, 12})).level;
    level::Planting recipe;
    recipe.area = {{.of = level::AreaOf::material, .layer = small.ground, .material = 1}};
    recipe.passes.emplace_back();
    recipe.passes[0].kinds = {{small.prop, 100}};
    recipe.passes[0].apart = 20;
    recipe.passes[0].minds_placed = false;
    recipe.seed = 3;
    level.edit(id).planted()->recipe = recipe;
    const Planted planted = edit::planted(small.project, level, id);
    const std::vector<level::Prop> props = planted.level.layer(id)->props().all();
    REQUIRE(planted.count > 20);
    const Region ground(Box{4, 4, 20, 12});
    for (std::size_t i = 0; i < props.size(); ++i) {
        CHECK(ground.contains(level.geometry().cell_at(props[i].at)));
        for (std::size_t j = 0; j < i; ++j) {
            const int dx = props[i].at.x - props[j].at.x, dy = props[i].at.y - props[j].at.y;
            CHECK(dx * dx + dy * dy >= 400);
        }
    }
    // No place is left where one more would have room for sure.
    const Box pixels{4 * 16, 4 * 16, 20 * 16, 12 * 16};
    for (int y = pixels.y; y < pixels.bottom(); y += 7)
        for (int x = pixels.x; x < pixels.right(); x += 7)
            CHECK(std::any_of(props.begin(), props.end(), [&](const level::Prop& p) {
                return (p.at.x - x) * (p.at.x - x) + (p.at.y - y) * (p.at.y - y) < 40 * 40;
            }));
    CHECK(edit::planted(small.project, level, id).level.layer(id)->props().size() == props.size());
    // Half the places stay empty; another seed, other places; nothing to plant, nothing planted.
    level.edit(id).planted()->recipe.passes[0].covers = {level::Covers::How::part, 50};
    const int half = edit::planted(small.project, level, id).count;
    CHECK(half > planted.count / 4);
    CHECK(half < planted.count * 3 / 4);
    level.edit(id).planted()->recipe.passes[0].kinds.clear();
    CHECK(edit::planted(small.project, level, id).count == 0);
    // It is kept with its recipe.
    make::Folder folder;
    level::Project p = small.project;
    p.put(planted.level);
    p.next_id = planted.next_id;
    store::save(p, folder / "p");
    const level::Project back = store::load(folder / "p");
    CHECK(back.level(small.id)->layer(id)->planted()->recipe == planted.level.layer(id)->planted()->recipe);
    CHECK(back.level(small.id)->layer(id)->props().all() == props);
}

TEST_CASE("The history keeps to its budget by letting the oldest steps go", "[history]") {
    make::Small small({256, 256});
    make::Folder folder;
    Document document(small.project, folder / "p");
    const join::Rules rules(small.project);
    const auto step = [&](int i) {
        level::Project p = document.project();
        p.put(lay(p, rules, *p.level(small.id), small.ground, make::material(1 + i % 2), Region(Box{0, 0, 256, 256}))
                  .level);
        document.apply("step", std::move(p));
    };
    for (int i = 0; i < 6; ++i) step(i);
    CHECK(document.history().size() == 7);
    const std::size_t held = document.held();
    CHECK(held > 5 * sizeof(level::Chunk));
    document.set_budget(held / 2);
    CHECK(document.held() <= held / 2);
    CHECK(document.let_go() > 0);
    CHECK(document.let_go() + document.history().size() == 7);
    REQUIRE(document.can_undo());
    const auto now = document.state();
    while (document.can_undo()) document.undo();
    while (document.can_redo()) document.redo();
    CHECK(document.state() == now);
    // The last step can always be taken back.
    document.set_budget(0);
    CHECK(document.can_undo());
    CHECK(document.history().size() == 2);
}
