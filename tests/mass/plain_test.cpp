// What is flat and blocks among pieces: on which storey, and where pieces carry over it.
#include "mass/plain.hpp"
#include "edit/own_word.hpp"
#include "support/make.hpp"
#include "upright/made_tower.hpp"
#include "upright/stroll.hpp"

namespace {

using upright_test::Tower;
using namespace vic;

// Blockers behind all that the tower is made of.
level::LayerId put_behind(Tower& tower) {
    level::Layer layer;
    layer.id = 7000;
    layer.name = "Water";
    layer.content = level::empty_content(level::LayerKind::blockers, tower.level.size);
    tower.level.layers.insert(tower.level.layers.begin(), std::make_shared<const level::Layer>(std::move(layer)));
    return 7000;
}

void say(Tower& tower, Point cell, edit::OwnWord word, int storey) {
    std::uint32_t next = 8000 + static_cast<std::uint32_t>(storey);
    tower.level = edit::with_own_word(tower.level, level::Region(Box{cell.x, cell.y, 1, 1}), word, "Own", next, storey);
}

double cells_of(const mass::Slab& slab) {
    double out = 0;
    for (const outline::Outline& o : *slab.outlines)
        out += static_cast<double>(outline::area2(o)) / 2 / outline::kUnit / outline::kUnit;
    return out;
}

bool within(const std::vector<outline::Outline>& outlines, double x, double y) {
    bool in = false;
    for (const outline::Outline& o : outlines)
        for (std::size_t i = 0, k = o.points.size() - 1; i < o.points.size(); k = i++) {
            const Point a = o.points[i], b = o.points[k];
            if ((a.y > y) != (b.y > y) && x < a.x + (y - a.y) * (b.x - a.x) / double(b.y - a.y)) in = !in;
        }
    return in;
}

const upright::Ground::Place* at_height(const upright::Ground& ground, Point cell, int height) {
    const auto [first, last] = ground.column({cell.x * 8 + 4, cell.y * 8 + 4});
    for (std::size_t i = first; i < last; ++i)
        if (ground.places()[i].height == height) return &ground.places()[i];
    return nullptr;
}

} // namespace

TEST_CASE("pieces carry over what lies behind them, not over what lies in front", "[mass][plain]") {
    Tower tower;
    const level::LayerId water = put_behind(tower);
    for (int x = 10; x < 12; ++x)
        for (int y = 0; y < 10; ++y) tower.level.edit(water).blockers()->set({x, y}, level::TileShape::full);
    upright::Survey survey = tower.survey();
    REQUIRE(survey.plain.blocked.size() == 1);
    CHECK(cells_of(survey.plain.blocked[0]) == 20);
    CHECK(survey.plain.blocked[0].from == 0);
    CHECK(survey.plain.blocked[0].to == 96); // as high as the storey
    CHECK_FALSE(at_height(*survey.ground, {10, 5}, 0));
    // A jetty: a floor, and a rail along it.
    tower.lay(tower.below, {10, 5}, "Floor");
    survey = tower.survey();
    CHECK(cells_of(survey.plain.blocked[0]) == 19);
    REQUIRE(at_height(*survey.ground, {10, 5}, 0));
    CHECK(at_height(*survey.ground, {10, 5}, 0)->clear);
    CHECK_FALSE(at_height(*survey.ground, {11, 5}, 0));
    // Closed by the cell's own word, it lies in front of the jetty.
    say(tower, {10, 5}, edit::OwnWord::may_not_walk, 0);
    survey = tower.survey();
    CHECK(cells_of(survey.plain.blocked[0]) == 20);
    CHECK_FALSE(at_height(*survey.ground, {10, 5}, 0));
    // And opened, there is nothing that a piece has to carry over.
    say(tower, {10, 5}, edit::OwnWord::may_walk, 0);
    say(tower, {11, 5}, edit::OwnWord::may_walk, 0);
    CHECK(cells_of(tower.survey().plain.blocked[0]) == 18);
}

TEST_CASE("cells have their own word on each storey", "[mass][plain][upright]") {
    Tower tower;
    REQUIRE(at_height(*tower.survey().ground, {6, 3}, 96));
    say(tower, {6, 3}, edit::OwnWord::may_not_walk, 1);
    const level::Layer& words = *tower.level.layers.back();
    CHECK(words.storey == 1);
    CHECK(edit::own_word_layer(tower.level, 1) == words.id);
    CHECK(edit::own_word_of(tower.level, {6, 3}, 1) == edit::OwnWord::may_not_walk);
    CHECK(edit::own_word_of(tower.level, {6, 3}, 0) == edit::OwnWord::none);
    const upright::Survey survey = tower.survey();
    REQUIRE(survey.plain.blocked.size() == 1);
    const mass::Slab& slab = survey.plain.blocked[0];
    CHECK(slab.storey == 1);
    CHECK(slab.from == 96);
    CHECK(slab.to == 192);
    CHECK(cells_of(slab) == 1);
    CHECK_FALSE(at_height(*survey.ground, {6, 3}, 96));
    CHECK(at_height(*survey.ground, {7, 3}, 96));
    REQUIRE(at_height(*survey.ground, {6, 3}, 0)); // below it one walks on
    CHECK(at_height(*survey.ground, {6, 3}, 0)->clear);
    // The physics says the same.
    const upright::Terrain terrain(mass::shell_of(survey.mass), survey.plain, survey.metres);
    for (const double height : {1.5, 0.0}) {
        upright::Stroll walker(terrain, tower.level.walker.upright, {7.5, height, 3.5});
        for (int tick = 0; tick < 120; ++tick) walker.step(-1, 0, false);
        INFO(height);
        CHECK((walker.foot()[0] > 7) == (height > 0));
    }
    // A word below is written in front of what lies there, and behind what is above.
    say(tower, {1, 1}, edit::OwnWord::may_not_walk, 0);
    CHECK(tower.level.layers.back()->storey == 1);
    CHECK(edit::own_word_of(tower.level, {1, 1}, 0) == edit::OwnWord::may_not_walk);
    CHECK(tower.survey().plain.blocked.size() == 2);
}

TEST_CASE("what blocks flat is what its layers say, less what carries over it", "[mass][plain]") {
    make::Random random(29);
    for (int round = 0; round < 12; ++round) {
        Tower tower;
        const level::LayerId water = put_behind(tower);
        const char* const names[] = {"Floor", "Block", "Post", "Rail", "Wall"};
        for (int i = 0; i < 25; ++i)
            tower.lay(random.flip(0.7) ? tower.below : tower.above, {random.below(12), random.below(10)},
                      names[random.below(5)]);
        level::Region behind, front;
        for (int i = 0; i < 60; ++i) {
            const Point cell{random.below(12), random.below(10)};
            if (random.flip(0.7)) {
                tower.level.edit(water).blockers()->set(cell, level::TileShape::full);
                behind.add(cell);
            } else {
                say(tower, cell, edit::OwnWord::may_not_walk, 0);
                front.add(cell);
            }
        }
        const upright::Survey survey = tower.survey();
        REQUIRE(survey.plain.blocked.size() == 1);
        const mass::Slab& slab = survey.plain.blocked[0];
        for (int i = 0; i < 400; ++i) {
            const double x = random.below(12 * 64) + 0.37, y = random.below(10 * 64) + 0.61;
            const Point cell{static_cast<int>(x) / 64, static_cast<int>(y) / 64};
            bool carried = false;
            for (const mass::Slab& s : survey.mass.slabs)
                carried = carried || (s.to <= 64 && within(*s.outlines, x, y));
            CHECK(within(*slab.outlines, x, y) == (front.contains(cell) || (behind.contains(cell) && !carried)));
        }
        const mass::Shell shell = mass::raised(slab);
        double volume = 0;
        for (const mass::Shell::Triangle& t : shell.triangles) {
            const auto &a = shell.points[t.corners[0]], &b = shell.points[t.corners[1]],
                       &c = shell.points[t.corners[2]];
            volume += double(a[0]) * (double(b[1]) * c[2] - double(b[2]) * c[1]) +
                      double(a[1]) * (double(b[2]) * c[0] - double(b[0]) * c[2]) +
                      double(a[2]) * (double(b[0]) * c[1] - double(b[1]) * c[0]);
        }
        CHECK(volume / 6 == Approx(cells_of(slab) * 64 * 64 * (slab.to - slab.from)));
    }
}
