// Walking in height: places against what is filled there, findings of a house made wrong, walkers in Bullet.
#include <array>
#include <cstdlib>
#include <map>

#include "mass/shell.hpp"
#include "support/make.hpp"
#include "upright/made_tower.hpp"
#include "upright/stroll.hpp"

namespace {

using namespace upright_test;
using upright::Snag;
using upright::Wet;

// Whether a place is within what is merged, by the outlines of the slab at its height.
bool filled(const mass::Mass& mass, double x, double y, double height) {
    for (const mass::Slab& slab : mass.slabs) {
        if (height <= slab.from || height >= slab.to) continue;
        bool in = false;
        for (const outline::Outline& o : *slab.outlines)
            for (std::size_t i = 0, k = o.points.size() - 1; i < o.points.size(); k = i++) {
                const Point a = o.points[i], b = o.points[k];
                if ((a.y > y) != (b.y > y) && x < a.x + (y - a.y) * (b.x - a.x) / double(b.y - a.y)) in = !in;
            }
        return in;
    }
    return false;
}

std::vector<Snag::Kind> kinds(const std::vector<Snag>& all) {
    std::vector<Snag::Kind> out;
    for (const Snag& s : all) out.push_back(s.kind);
    return out;
}

} // namespace

TEST_CASE("places to stand on lie on what is filled, with what is free above them", "[upright]") {
    make::Random random(11);
    for (int round = 0; round < (std::getenv("VICINUM_MANY") ? 40 : 5); ++round) {
        Tower tower;
        const char* const names[] = {"Floor", "Wall", "Beam", "Post", "Block", "Stair"};
        for (int i = 0; i < 30; ++i)
            tower.lay(random.flip(0.5) ? tower.below : tower.above, {random.below(12), random.below(9)},
                      names[random.below(6)]);
        const upright::Survey survey = tower.survey();
        const upright::Ground& ground = *survey.ground;
        REQUIRE(ground.side() == 8);
        for (int i = 0; i < 120; ++i) {
            const Point sample{random.below(ground.samples().w), random.below(ground.samples().h)};
            const double x = sample.x * 8 + 4, y = sample.y * 8 + 4;
            // From below, half a unit at a time.
            std::vector<std::pair<int, int>> free; // from, to
            bool before = true;
            for (int h = 0; h <= 800; ++h) {
                const bool in = filled(survey.mass, x, y, h + 0.5);
                if (!in && before) free.emplace_back(h, upright::Ground::kFree);
                if (in && !before) free.back().second = h;
                before = in;
            }
            const auto [first, last] = ground.column(sample);
            REQUIRE(last - first == free.size());
            for (std::size_t k = 0; k < free.size(); ++k) {
                const auto& place = ground.places()[first + k];
                CHECK(place.height == free[k].first);
                CHECK(place.head == (free[k].second == upright::Ground::kFree ? upright::Ground::kFree
                                                                              : free[k].second - free[k].first));
            }
        }
    }
}

TEST_CASE("one gets up a stair to the floor above, and no further than one's body can", "[upright]") {
    Tower tower;
    const upright::Survey survey = tower.survey();
    REQUIRE(survey.soaked.from);
    CHECK(tower.snags().empty());
    const upright::Ground& ground = *survey.ground;
    int loft = 0, walls = 0;
    for (std::size_t i = 0; i < ground.places().size(); ++i) {
        const auto& p = ground.places()[i];
        if (survey.soaked.wet[i] == Wet::dry) continue;
        CHECK(p.clear);
        CHECK(p.head >= ground.body().tall);
        loft += p.height == 96 ? 1 : 0;
        walls += p.height > 96 ? 1 : 0;
    }
    CHECK(loft > 20 * 64);
    CHECK(walls == 0);
    // Without the stair nothing leads up.
    tower.clear(tower.below, {4, 5});
    CHECK(kinds(tower.snags()) == std::vector{Snag::Kind::mark, Snag::Kind::hole});
    // One who jumps higher needs none.
    tower.level.walker.upright.jump = 320;
    CHECK(kinds(tower.snags()) == std::vector{Snag::Kind::hole});
}

TEST_CASE("a stair without an opening, a hole, a low and a narrow place and a high step are found", "[upright]") {
    Tower tower;
    SECTION("the floor is closed over the stair") {
        tower.lay(tower.above, {4, 4}, "Floor");
        tower.lay(tower.above, {4, 5}, "Floor");
        const auto found = tower.snags();
        REQUIRE(found.size() >= 2);
        REQUIRE(found[0].kind == Snag::Kind::stair);
        CHECK(found[0].storey == 0);
        CHECK(found[0].opening == std::vector<Point>{{4, 4}, {4, 5}});
        CHECK(found[1].kind == Snag::Kind::mark);
        CHECK(found[1].mark == 2);
        // The remedy is one.
        for (const Point p : found[0].opening) tower.clear(tower.above, p);
        CHECK(tower.snags().empty());
    }
    SECTION("a cell of the floor is missing") {
        tower.clear(tower.above, {6, 5});
        const auto found = tower.snags();
        REQUIRE(found.size() == 1);
        CHECK(found[0].kind == Snag::Kind::hole);
        CHECK(found[0].cell == Point{6, 5});
        CHECK(found[0].storey == 1);
        // At the floor's rim it is none.
        Tower open;
        open.clear(open.above, {2, 2});
        CHECK(open.snags().empty());
    }
    SECTION("a beam too low lies across the only way") {
        for (int y = 0; y < 10; ++y) tower.lay(tower.below, {2, y}, "Wall");
        tower.lay(tower.below, {2, 8}, "Beam");
        const auto found = tower.snags();
        REQUIRE(kinds(found) == std::vector{Snag::Kind::mark, Snag::Kind::low, Snag::Kind::high}); // or onto the beam
        CHECK(found[1].cell == Point{2, 8});
        CHECK(found[1].what.english() == "It is too low here: 1.25 m are free, the walker has 1.75 m");
        tower.level.walker.upright.tall = 120;
        CHECK(tower.snags().empty());
    }
    SECTION("a gap too narrow is the only way") {
        for (int y = 0; y < 10; ++y) tower.lay(tower.below, {2, y}, "Wall");
        tower.lay(tower.below, {2, 8}, "Post");
        tower.level.walker.upright.wide = 160;
        const auto found = tower.snags();
        REQUIRE(kinds(found) == std::vector{Snag::Kind::mark, Snag::Kind::narrow});
        CHECK(found[1].cell == Point{2, 8});
        tower.level.walker.upright.wide = 60;
        CHECK(tower.snags().empty());
    }
    SECTION("one falls into a pit") {
        for (int y = 6; y < 10; ++y)
            for (int x = 8; x < 12; ++x)
                if (x > 9 || y > 7) tower.lay(tower.below, {x, y}, "Block");
        // From the floor above one gets onto the blocks; down from them one gets, too. But a ring of walls keeps one
        // in.
        Tower pit;
        for (int y = 5; y < 9; ++y)
            for (int x = 8; x < 12; ++x)
                if (y == 5 || y == 8 || x == 8 || x == 11) pit.lay(pit.below, {x, y}, "Wall");
        for (int x = 8; x < 10; ++x) pit.lay(pit.above, {x, 5}, "Floor");
        const auto found = pit.snags();
        REQUIRE(kinds(found) == std::vector{Snag::Kind::no_return, Snag::Kind::hole});
        CHECK(Box{9, 6, 2, 2}.contains(found[0].cell));
    }
    SECTION("there is no room at the start") {
        tower.lay(tower.below, {1, 8}, "Wall");
        tower.lay(tower.below, {0, 8}, "Wall");
        for (int x = 0; x < 3; ++x) {
            tower.lay(tower.below, {x, 7}, "Wall");
            tower.lay(tower.below, {x, 9}, "Wall");
        }
        tower.lay(tower.below, {2, 8}, "Wall");
        const auto found = tower.snags();
        REQUIRE(!found.empty());
        CHECK(found[0].kind == Snag::Kind::shut_in);
    }
}

TEST_CASE("what is thinner than a sample blocks, too, however it runs", "[upright]") {
    // A yard of rails round the start, in the corner of the level; with one of them taken away it is open.
    for (const int taken : {-1, 0, 2, 4}) {
        Tower tower;
        int number = 0;
        const auto rail = [&](Point at, int turn) {
            if (number++ != taken)
                tower.level.edit(tower.below)
                    .grid()
                    .set(at, level::Cell(tower.tile("Rail"), {static_cast<std::uint8_t>(turn)}, true), 0);
        };
        for (int x = 0; x < 3; ++x) rail({x, 6}, 0);  // along cells, in the middle of each
        for (int y = 7; y < 10; ++y) rail({3, y}, 1); // and down
        // Between their ends at 3, 6 and 3.5, 7.
        tower.lay(tower.below, {3, 6}, "Wall");
        const auto survey = tower.survey();
        const upright::Ground& ground = *survey.ground;
        const auto outside = ground.near({9 * 64 + 32, 8 * 64 + 32}, 0);
        REQUIRE(outside);
        REQUIRE(survey.soaked.from);
        INFO("taken " << taken);
        CHECK(survey.soaked.at(*outside) == (taken >= 0));
    }
}

TEST_CASE("a walker of any size is looked at, and nothing hangs", "[upright]") {
    Tower tower;
    for (const auto& [wide, tall] : {std::pair{1, 1}, {10'000, 175}, {60, 10'000}, {10'000, 10'000}}) {
        tower.level.walker.upright.wide = wide;
        tower.level.walker.upright.tall = tall;
        const upright::Survey survey = tower.survey();
        CHECK(survey.ground->body().wide <= upright::kMostWide);
        for (std::size_t i = 0; i < survey.soaked.wet.size(); ++i)
            if (survey.soaked.at(i)) CHECK(survey.ground->places()[i].head >= survey.ground->body().tall);
        CHECK_NOTHROW(tower.snags());
    }
    // On a level without a piece, and without a start.
    level::Level empty = level::make_level(tower.project, "Empty", {3, 3}, {16, 16}, level::View::from_above);
    const upright::Survey survey = upright::survey(tower.project, empty, tower.kits);
    CHECK_FALSE(survey.soaked.from);
    CHECK(survey.ground->places().size() == 24 * 24);
    CHECK(upright::snags(survey, tower.project, empty, tower.kits).empty());
}

TEST_CASE("what a piece blocks can be another: box, hull, ramp, another piece, nothing", "[upright][kit]") {
    Tower tower;
    const std::int64_t cell = 64 * 64;
    int aslant = 0;
    const auto volume = [&](const std::string& name, level::PieceBlocks blocks, const std::string& as = {}) {
        level::Level level = level::make_level(tower.project, "One", {4, 4}, {16, 16}, level::View::from_above);
        level::LayerId layer = 0;
        for (const auto& l : level.layers)
            if (l->tiles()) layer = l->id;
        level.edit(layer).grid().set({1, 1}, level::Cell(tower.tile(name), {}, true), 0);
        scene::LoadedKit kit = *tower.kit;
        kit.blocking.clear();
        const std::size_t piece = kit.piece_of.at(tower.tile(name));
        if (blocks != level::PieceBlocks::mesh)
            kit.blocking[piece] = {blocks, as.empty() ? 0 : kit.piece_of.at(tower.tile(as))};
        const std::vector<std::shared_ptr<const scene::LoadedKit>> kits{
            std::make_shared<const scene::LoadedKit>(std::move(kit))};
        const mass::Mass mass =
            mass::merged(scene::placed_in(tower.project, level, kits, 9), kits, scene::Storeys(kits));
        CHECK(mass.open == 0);
        CHECK(mass.pieces == (blocks == level::PieceBlocks::nothing ? 0 : 1));
        // By the shell, which is closed: its volume by its triangles.
        std::int64_t six = 0;
        std::map<std::pair<std::uint32_t, std::uint32_t>, int> sides;
        const mass::Shell shell = mass::shell_of(mass);
        for (const auto& t : shell.triangles) {
            std::array<std::array<std::int64_t, 3>, 3> p{};
            for (std::size_t k = 0; k < 3; ++k) {
                for (std::size_t axis = 0; axis < 3; ++axis) p[k][axis] = shell.points[t.corners[k]][axis];
                const std::uint32_t from = t.corners[k], to = t.corners[(k + 1) % 3];
                sides[std::minmax(from, to)] += from < to ? 1 : -1;
            }
            six += p[0][0] * (p[1][1] * p[2][2] - p[1][2] * p[2][1]) +
                   p[0][1] * (p[1][2] * p[2][0] - p[1][0] * p[2][2]) +
                   p[0][2] * (p[1][0] * p[2][1] - p[1][1] * p[2][0]);
        }
        for (const auto& [side, count] : sides) CHECK(count == 0);
        aslant = static_cast<int>(mass.bodies.size());
        return six / 6;
    };
    using level::PieceBlocks;
    CHECK(volume("Post", PieceBlocks::mesh) == 16 * 16 * 96);
    CHECK(volume("Post", PieceBlocks::nothing) == 0);
    CHECK(volume("Post", PieceBlocks::another, "Wall") == cell * 96);
    CHECK(volume("Stair", PieceBlocks::box) == 2 * cell * 96);
    CHECK(aslant == 0);
    // Half of its box: a ramp has no steps.
    const std::int64_t ramp = volume("Stair", PieceBlocks::ramp), hull = volume("Stair", PieceBlocks::hull);
    CHECK(aslant == 1);
    CHECK(ramp == cell * 96);
    // What is upright all round is merged with the rest, though it is a hull.
    CHECK(volume("Post", PieceBlocks::hull) == 16 * 16 * 96);
    CHECK(aslant == 0);
    CHECK(hull > ramp);
    CHECK(hull < 2 * cell * 96 * 6 / 10);
}

TEST_CASE("a ramp is smooth, and one walks up it where it is not too steep", "[upright][kit]") {
    Tower tower;
    scene::LoadedKit kit = *tower.kit;
    kit.blocking[kit.piece_of.at(tower.tile("Stair"))] = {level::PieceBlocks::ramp, 0, {}};
    tower.kits = {std::make_shared<const scene::LoadedKit>(std::move(kit))};
    // Sent up it from its foot, for five seconds: how high it gets, and the highest step on the way.
    const auto climb = [&](const upright::Survey& survey) {
        const upright::Terrain terrain(mass::shell_of(survey.mass), survey.plain, survey.metres);
        upright::Stroll walker(terrain, tower.level.walker.upright, {4.5, 0, 6.7});
        double high = 0, step = 0, before = 0;
        for (int tick = 0; tick < 300; ++tick) {
            walker.step(0, -1, false);
            const double now = walker.foot()[1];
            if (now > 0.2 && now < 1.3) step = std::max(step, now - before);
            high = std::max(high, now);
            before = now;
        }
        return std::pair(high, step);
    };
    const upright::Survey survey = tower.survey();
    REQUIRE(survey.mass.bodies.size() == 1);
    CHECK(survey.mass.bodies[0]->slope == 37); // three metres over four
    CHECK(tower.snags().empty());
    const auto [high, step] = climb(survey);
    CHECK(high > 1.4);
    CHECK(step < 0.05);
    // Who does not get up so much is told, and stays below.
    tower.level.walker.upright.slope = 30;
    CHECK(kinds(tower.snags()) == std::vector{Snag::Kind::mark, Snag::Kind::steep});
    CHECK(climb(tower.survey()).first < 0.7);
}

TEST_CASE("walkers among what is merged neither fall through nor get stuck, and get where soaking says", "[upright]") {
    Tower tower;
    make::Random random(3);
    for (int i = 0; i < 6; ++i) tower.lay(tower.below, {random.below(12), 7 + random.below(2)}, "Block");
    const upright::Survey survey = tower.survey();
    const upright::Ground& ground = *survey.ground;
    REQUIRE(survey.soaked.from);
    const upright::Terrain terrain(mass::shell_of(survey.mass), survey.plain, survey.metres);
    const auto& start = ground.places()[*survey.soaked.from];
    const Point middle = ground.middle(start);
    const int walkers = std::getenv("VICINUM_MANY") ? 500 : 6;
    int upstairs = 0;
    for (int k = 0; k < walkers; ++k) {
        upright::Stroll walker(terrain, tower.level.walker.upright,
                               {middle.x / 64.0, start.height / 64.0, middle.y / 64.0});
        double east = 0, south = 0, moved = 0;
        std::array<double, 3> before = walker.foot();
        bool up = false;
        for (int tick = 0; tick < 60 * 30; ++tick) {
            if (tick % 40 == 0) {
                const double way = random.below(628) / 100.0;
                east = std::cos(way);
                south = std::sin(way);
            }
            walker.step(east, south, random.below(90) == 0);
            const auto foot = walker.foot();
            REQUIRE(foot[1] > -0.05);
            REQUIRE(foot[0] > 0);
            REQUIRE(foot[0] < 12);
            REQUIRE(foot[2] > 0);
            REQUIRE(foot[2] < 10);
            // Its middle is in nothing, by more than the physics lets it be pressed against an edge.
            bool within = true;
            for (const double x : {-3.0, 3.0})
                for (const double y : {-3.0, 3.0})
                    within = within && filled(survey.mass, foot[0] * 64 + x, foot[2] * 64 + y, (foot[1] + 0.5) * 64);
            REQUIRE_FALSE(within);
            moved += std::hypot(foot[0] - before[0], foot[2] - before[2]);
            before = foot;
            if (tick % 600 == 599) { // in ten seconds it gets somewhere
                CHECK(moved > 1);
                moved = 0;
            }
            if (!walker.stands()) continue;
            up = up || foot[1] > 1.45;
            if (tick % 20 != 0) continue;
            // Where it stands one gets to by soaking: within a cell's eighth, and a step.
            bool wet = false;
            const Point at{static_cast<int>(foot[0] * 8), static_cast<int>(foot[2] * 8)};
            for (int y = at.y - 3; y <= at.y + 3; ++y)
                for (int x = at.x - 3; x <= at.x + 3; ++x) {
                    const auto [first, last] = ground.column({x, y});
                    for (std::size_t i = first; i < last; ++i)
                        wet = wet || (survey.soaked.at(i) && std::abs(ground.places()[i].height - foot[1] * 64) < 14);
                }
            INFO("walker " << k << " at " << foot[0] << ", " << foot[1] << ", " << foot[2]);
            CHECK(wet);
        }
        upstairs += up ? 1 : 0;
    }
    INFO(upstairs << " of " << walkers << " got upstairs");
    // Sent up the stair, it gets up.
    upright::Stroll walker(terrain, tower.level.walker.upright, {4.5, 0, 6.7});
    for (int tick = 0; tick < 120; ++tick) walker.step(0, -1, false);
    CHECK(walker.foot()[1] == Approx(1.5).margin(0.05));
    CHECK(walker.foot()[2] < 4);
}
