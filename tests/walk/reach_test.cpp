#include <algorithm>
#include <array>
#include <catch2/catch.hpp>
#include <cmath>
#include <map>
#include <set>

#include "base/parallel.hpp"
#include "edit/fill_in.hpp"
#include "edit/stroke.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"
#include "walk/bones.hpp"
#include "walk/jump.hpp"
#include "walk/reach.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::walk;
using outline::kUnit;

namespace {

struct Cave {
    explicit Cave(Size cells) : small(cells, level::View::from_the_side) {
        level::Level level = small.level();
        level.walker = {52, 102, 6, 3.2};
        for (auto& side : level.sides) side.kind = level::SideKind::blocks;
        small.set(level);
        level::Sheet s = *small.project.sheets[0];
        for (std::size_t i = 0; i < 4; ++i)
            s.tiles[i].shape =
                static_cast<level::TileShape>(static_cast<int>(level::TileShape::slope_ne) + static_cast<int>(i));
        s.tiles[4].shape = level::TileShape::one_way_north;
        s.tiles[5].tells = 900;
        s.tiles[6].tells = 901;
        s.tiles[5].shape = s.tiles[6].shape = level::TileShape::none;
        small.project.area_kinds = {{900, "Ladder", {}, level::AreaMeans::ladder},
                                    {901, "Sump", {}, level::AreaMeans::water}};
        small.project.put(s);
    }
    // '#' full, '/' slope up to the right, '\' down to the right, '=' one-way top, 'H' ladder, '~' water, 'S' start.
    void draw(const std::vector<std::string>& rows) {
        level::Level level = small.level();
        for (int y = 0; y < static_cast<int>(rows.size()); ++y)
            for (int x = 0; x < static_cast<int>(rows[static_cast<std::size_t>(y)].size()); ++x) {
                const char c = rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)];
                const level::TileId tile = c == '#'    ? 10
                                           : c == '/'  ? 2
                                           : c == '\\' ? 3
                                           : c == '='  ? 5
                                           : c == 'H'  ? 6
                                           : c == '~'  ? 7
                                                       : 0;
                if (tile) level.edit(small.ground).grid().set({x, y}, level::Cell(tile, {}, true), 0);
                if (c == 'S') level.marks = {{1, "Start", level::MarkKind::start, {x, y - 1, 1, 2}}};
            }
        small.set(level);
    }
    void change(const std::function<void(level::Level&)>& what) {
        level::Level level = small.level();
        what(level);
        small.set(level);
    }
    [[nodiscard]] Reach reach() const { return {small.project, small.level()}; }
    // Of the ledge under a cell's middle.
    static Gets gets(const Reach& reach, int x, int y) {
        const auto ledge = reach.ledge_under({x * kUnit + 32, (y + 1) * kUnit});
        REQUIRE(ledge);
        return reach.ledges()[*ledge].gets;
    }
    make::Small small;
};

// A cave with ledges, slopes, thin floors and now and then a ladder or a water.
void random_cave(Cave& place, make::Random& random, bool wet) {
    const Size s = place.small.level().size;
    std::vector<std::string> rows(static_cast<std::size_t>(s.h), std::string(static_cast<std::size_t>(s.w), ' '));
    const auto put = [&](int x, int y, char c) {
        if (x >= 0 && y >= 0 && x < s.w && y < s.h) rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)] = c;
    };
    for (int i = 0; i < s.w * s.h / 30; ++i) {
        const int y = 3 + random.below(s.h - 4);
        const int x = random.below(s.w);
        const int w = 1 + random.below(5);
        const char c = random.flip(0.25) ? '=' : '#';
        for (int k = 0; k < w; ++k) put(x + k, y, c);
        if (c == '#' && random.flip(0.4)) put(x - 1, y, '/');
        if (c == '#' && random.flip(0.4)) put(x + w, y, '\\');
    }
    if (wet) {
        const int x = random.below(s.w);
        for (int y = s.h / 3; y < s.h - 2; ++y) put(x, y, 'H');
        const int at = random.below(s.w - 4);
        for (int k = 0; k < 4; ++k)
            for (int y = s.h - 4; y < s.h - 1; ++y) put(at + k, y, '~');
    }
    for (int x = 0; x < s.w; ++x) put(x, s.h - 1, '#');
    for (int y = s.h - 4; y < s.h - 1; ++y)
        for (int x = 1; x < 4; ++x) put(x, y, ' ');
    put(2, s.h - 2, 'S');
    place.draw(rows);
}

} // namespace

TEST_CASE("a ledge as high as a jump is reached, and one a little higher is not, by how much", "[reach]") {
    Cave place({20, 14});
    place.draw({"", "", "", "", "", "", "     ###", "", "", "", "            ##", "", "  S", "####################"});
    Reach reach = place.reach();
    REQUIRE(reach.begins());
    CHECK(Cave::gets(reach, 2, 12) == Gets::reached);
    CHECK(Cave::gets(reach, 12, 9) == Gets::reached);    // three cells up
    CHECK(Cave::gets(reach, 6, 5) == Gets::not_reached); // seven cells up, four from the other
    const auto high = reach.ledge_under({6 * kUnit + 32, 6 * kUnit});
    REQUIRE(high);
    const auto lack = reach.lack_of(*high);
    REQUIRE(lack);
    CHECK(lack->height + lack->gap > 0);
    const auto cell = remedy_for(place.small.project, place.small.level(), reach, *high);
    REQUIRE(cell);
    place.change(
        [&](level::Level& level) { level.edit(place.small.ground).grid().set(*cell, level::Cell(10, {}, true), 0); });
    reach = place.reach();
    CHECK(Cave::gets(reach, 6, 5) == Gets::reached);
}

TEST_CASE("a ledge that floats by itself is moved as little as does it", "[reach][remedy]") {
    Cave place({20, 14});
    place.draw(
        {"", "", "", "", "", "     ##", "    /###", "", "", "", "            ##", "", "  S", "####################"});
    const Reach before = place.reach();
    const auto high = before.ledge_under({6 * kUnit + 32, 5 * kUnit});
    REQUIRE(high);
    REQUIRE(before.ledges()[*high].gets == Gets::not_reached);
    const auto shift = shift_for(place.small.project, place.small.level(), before, *high);
    REQUIRE(shift);
    CHECK(shift->mass.count() == 6);
    CHECK(shift->mass.contains({4, 6}));
    const int far = std::abs(shift->by.x) + std::abs(shift->by.y);
    CHECK(far > 0);
    const level::Level was = place.small.level();
    // No shorter way does it, and this one does, in the level itself.
    for (int y = -3; y <= 3; ++y)
        for (int x = -3; x <= 3; ++x) {
            const Point by{x, y};
            const bool taken = by == shift->by;
            if (!taken && (std::abs(x) + std::abs(y) >= far || by == Point{})) continue;
            place.small.set(edit::with_ledge_moved(place.small.project, was, shift->mass, by));
            const Reach then = place.reach();
            const auto now = then.ledge_under({(6 + x) * kUnit + 32, (5 + y) * kUnit});
            REQUIRE(now);
            CHECK((then.ledges()[*now].gets != Gets::not_reached) == taken);
        }
    place.small.set(was);
    // One that hangs on the ground is not moved, nor one that is out of reach of it all.
    place.draw({"", "", "", "", "", "     ##", "      #", "      #", "      #", "      #", "      #", "      #",
                "  S   #", "####################"});
    const Reach grown = place.reach();
    const auto top = grown.ledge_under({6 * kUnit + 32, 5 * kUnit});
    REQUIRE(top);
    CHECK_FALSE(shift_for(place.small.project, place.small.level(), grown, *top));
}

TEST_CASE("what stands on a ledge goes along when that is moved, what lies behind it stays", "[reach][remedy]") {
    make::Small small({16, 12}, level::View::from_the_side);
    level::Level level = small.level();
    level.edit(small.props).props() = level::Props();
    const join::Rules rules(small.project);
    level::Region mass;
    mass.add(Box{5, 6, 3, 1});
    level = edit::lay(small.project, rules, level, small.ground, make::material(1), mass).level;
    level.edit(small.props).props().put({5000, small.prop, {6 * 16 + 8, 6 * 16 - 2}});
    level.edit(small.props).props().put({5001, small.prop, {12 * 16 + 8, 6 * 16 - 2}});
    level.marks = {{900, "Chest", level::MarkKind::note, {5, 5, 1, 1}}};
    const level::Level after = edit::with_ledge_moved(small.project, level, mass, {2, 1});
    const auto laid = [&](const level::Level& of, Point at) {
        return of.layer(small.ground)->grid().material(at) != 0;
    };
    for (int x = 5; x < 8; ++x) {
        CHECK(laid(after, {x + 2, 7}));
        CHECK_FALSE(laid(after, {x, 6}));
    }
    CHECK(after.layer(small.props)->props().find(5000)->at == Point{8 * 16 + 8, 7 * 16 - 2});
    CHECK(after.layer(small.props)->props().find(5001)->at == Point{12 * 16 + 8, 6 * 16 - 2});
    CHECK(after.marks[0].cells == Box{7, 6, 1, 1});
    level::Level locked = level;
    locked.edit(small.ground).locked = true;
    CHECK(laid(edit::with_ledge_moved(small.project, locked, mass, {2, 1}), {6, 6}));
}

TEST_CASE("a pit without a way out is a place of no return", "[reach]") {
    Cave place({24, 16});
    place.draw({"", "", "", "", "", "", "  S", "#######      ###########", "      #      #", "      #      #",
                "      #      #", "      #      #", "      #      #", "      #      #", "      #      #",
                "########################"});
    const Reach reach = place.reach();
    CHECK(Cave::gets(reach, 2, 6) == Gets::reached);
    CHECK(Cave::gets(reach, 9, 14) == Gets::no_way_back);
    CHECK(Cave::gets(reach, 20, 6) == Gets::reached); // across the gap, and back
    CHECK(Cave::gets(reach, 2, 14) == Gets::not_reached);
    // With an exit in it, it is where one is to go.
    place.change([](level::Level& level) { level.marks.push_back({2, "Out", level::MarkKind::exit, {9, 14, 1, 1}}); });
    CHECK(Cave::gets(place.reach(), 9, 14) == Gets::reached);
}

TEST_CASE("ladders and water lead up, thin floors are dropped through", "[reach]") {
    Cave place({20, 18});
    place.draw({"", "", "", "", "     ====", "        H", "        H", "        H", "        H", "        H",
                "        H", "        H", "        H", "        H", "        H", "        H", "  S     H",
                "####################"});
    CHECK(Cave::gets(place.reach(), 6, 3) == Gets::reached);
    place.change([](level::Level& level) { level.walker.climb = 0; });
    CHECK(Cave::gets(place.reach(), 6, 3) == Gets::not_reached);
}

TEST_CASE("a walker that plays at random never stands where reach says that none can", "[reach][slow]") {
    make::Random random(77);
    int stood = 0, wrong = 0;
    for (int round = 0; round < 40; ++round) {
        Cave place({26, 20});
        random_cave(place, random, round % 3 == 0);
        place.change([&](level::Level& level) {
            if (round % 4 == 1) level.walker.least_jump = 1;
            if (round % 5 == 2) level.walker.wall_jump = 2;
            if (round % 5 == 3) level.walker.run = 9;
        });
        const Reach reach = place.reach();
        if (!reach.begins()) continue;
        const vicinum::Level bones = bones_of(place.small.project, place.small.level());
        for (int walker = 0; walker < 6; ++walker) {
            World world(bones);
            Input held;
            std::array<Position, 2> last{world.foot(), world.foot()};
            for (int tick = 0; tick < 1500; ++tick) {
                if (tick % (4 + random.below(30)) == 0) {
                    held.left = random.flip(0.4);
                    held.right = !held.left && random.flip(0.7);
                    held.jump = random.flip(0.6);
                    held.down = random.flip(0.1);
                    held.up = random.flip(0.2);
                    held.run = random.flip(0.5);
                }
                world.tick(held);
                const std::array<Position, 2> places =
                    last; // contacts are those of the last tick, or of the one before
                last = {last[1], world.foot()};
                if (!world.grounded() || world.climbing() || world.swimming()) continue;
                ++stood;
                // Within two samples of a strip that is reached, and the corners that are cut off his foot.
                const bool near = std::any_of(places.begin(), places.end(), [&](const Position& p) {
                    const Point at{static_cast<int>(std::lround(p.x * kUnit)),
                                   static_cast<int>(std::lround(p.y * kUnit))};
                    return std::any_of(reach.strips().begin(), reach.strips().end(), [&](const Strip& s) {
                        return reach.ledges()[s.ledge].gets != Gets::not_reached && std::abs(s.y - at.y) <= 14 &&
                               at.x >= s.from - 9 && at.x <= s.to + 9;
                    });
                });
                wrong += !near;
            }
        }
    }
    INFO(stood << " places");
    CHECK(stood > 50'000);
    CHECK(wrong == 0);
}

namespace {

// Whether he comes to stand on the ledge from that place, when he waits so long before he steers, so long again before
// he jumps, and then makes for `aim`.
bool gets_there(World& world, const Reach& reach, Position from, std::size_t ledge, double aim, int wait, bool jumps,
                bool drops) {
    world.place(from);
    for (int tick = 0; tick < 4; ++tick) world.tick({});
    for (int tick = 0; tick < 150; ++tick) {
        Input held;
        const double off = aim - world.foot().x;
        if (tick >= wait) {
            held.left = off < -0.06;
            held.right = off > 0.06;
        }
        held.jump = jumps && tick >= 1;
        held.down = drops && tick < 20;
        world.tick(held);
        if (!world.grounded()) continue;
        const Position p = world.foot();
        const Point at{static_cast<int>(std::lround(p.x * kUnit)), static_cast<int>(std::lround(p.y * kUnit))};
        for (const Strip& s : reach.strips())
            if (s.ledge == ledge && std::abs(s.y - at.y) <= 10 && at.x >= s.from - 9 && at.x <= s.to + 9) return true;
    }
    return false;
}

} // namespace

TEST_CASE("where reach says that one gets, a planned input gets there in the physics", "[reach][slow]") {
    make::Random random(31);
    int pairs = 0, failed = 0;
    for (int round = 0; round < 6; ++round) {
        Cave place({22, 18});
        random_cave(place, random, false);
        const Reach reach = place.reach();
        if (!reach.begins()) continue;
        const vicinum::Level bones = bones_of(place.small.project, place.small.level());
        World world(bones);
        for (std::size_t from = 0; from < reach.ledges().size(); ++from) {
            if (reach.ledges()[from].gets == Gets::not_reached) continue;
            std::map<std::size_t, std::vector<Strip>> landings;
            for (const Strip& s : reach.landings(from)) landings[s.ledge].push_back(s);
            for (const auto& [to, strips] : landings) {
                ++pairs;
                bool there = false;
                for (const Strip& mine : reach.strips()) {
                    if (mine.ledge != from || there) continue;
                    for (int k = 0; k <= 4 && !there; ++k) {
                        const Position at{(mine.from + (mine.to - 1 - mine.from) * k / 4) / double(kUnit),
                                          mine.y / double(kUnit)};
                        for (const Strip& aim : {strips[strips.size() / 2], strips.front(), strips.back()})
                            for (const int x : {(aim.from + aim.to) / 2, aim.from, aim.to})
                                for (const int wait : {0, 10, 20})
                                    for (const int how : {1, 0, 2})
                                        there = there || gets_there(world, reach, at, to, x / double(kUnit), wait,
                                                                    how == 1, how == 2);
                    }
                }
                failed += !there;
            }
        }
    }
    INFO(failed << " of " << pairs);
    CHECK(pairs > 80);
    CHECK(failed * 100 <= pairs * 3);
}

TEST_CASE("one, two and four threads find the same ledges and ways between them", "[reach][threads]") {
    make::Random random(12);
    Cave place({60, 40});
    random_cave(place, random, true);
    std::vector<std::vector<std::size_t>> first;
    for (const int workers : {1, 2, 4}) {
        const WithWorkers limit(workers);
        const Reach reach = place.reach();
        std::vector<std::vector<std::size_t>> to;
        for (const Ledge& ledge : reach.ledges()) to.push_back(ledge.to);
        REQUIRE(to.size() > 32); // as many as are worth a second thread
        if (first.empty()) first = to;
        CHECK(to == first);
    }
}

TEST_CASE("after a change it is as if reach were made anew", "[reach][follow]") {
    make::Random random(77);
    int followed = 0, differs = 0;
    const int rounds = make::rounds(4, 60);
    for (int round = 0; round < rounds; ++round) {
        static constexpr int heights[] = {20, 22, 70, 26}; // of more rows than are read together, too
        Cave place({16 + random.below(8), heights[round % 4]});
        // With ladders and water, too, or with those that are laid only on the way.
        const bool wet = round % 2 == 1;
        random_cave(place, random, wet && round % 4 == 1);
        if (wet) place.small.project.area_kinds.push_back({902, "Way out", {}, level::AreaMeans::exit});
        if (wet) {
            level::Sheet s = *place.small.project.sheets[0];
            s.tiles[7].tells = 902;
            s.tiles[7].shape = level::TileShape::none;
            place.small.project.put(s);
        }
        place.change([&](level::Level& level) {
            if (round % 3 == 1) level.walker.wall_jump = 2;
            if (round % 3 == 2) level.walker.least_jump = 1, level.walker.grace_edge = 120;
            level.marks.push_back({2, "Out", level::MarkKind::exit, {15, 15, 1, 1}});
        });
        Reach live = place.reach();
        for (int step = 0; step < 4; ++step) {
            std::vector<Box> changed;
            place.change([&](level::Level& level) {
                for (int i = 0; i < 1 + random.below(3); ++i) {
                    const Point at{random.below(level.size.w), random.below(level.size.h)};
                    const int kind = random.below(wet ? 7 : 4);
                    level.edit(place.small.ground)
                        .grid()
                        .set(at,
                             kind == 0 ? level::Cell()
                                       : level::Cell(kind == 1   ? 5
                                                     : kind == 2 ? 2
                                                     : kind == 3 ? 10
                                                                 : 2 + kind, // ladder, water, way out
                                                     {}, true),
                             0);
                    changed.push_back({at.x, at.y, 1, 1});
                }
            });
            const std::int64_t before = live.reachable();
            REQUIRE(live.follow(place.small.project, place.small.level(), changed));
            const Reach anew = place.reach();
            ++followed;
            differs += anew.reachable() != before;
            REQUIRE(live.begins() == anew.begins());
            if (live.begins()) REQUIRE(live.start() == anew.start());
            REQUIRE(live.strips() == anew.strips());
            REQUIRE(live.ledges().size() == anew.ledges().size());
            for (std::size_t i = 0; i < anew.ledges().size(); ++i) {
                const Ledge &a = live.ledges()[i], &b = anew.ledges()[i];
                REQUIRE(a.to == b.to);
                REQUIRE((a.gets == b.gets && a.around == b.around && a.length == b.length && a.floats == b.floats));
            }
            const Point somewhere{random.below(64 * 20), random.below(64 * 20)};
            if (const auto ledge = live.ledge_under(somewhere)) CHECK(live.landings(*ledge) == anew.landings(*ledge));
        }
    }
    CHECK(differs > followed / 8);
    // A level that is not as large any more is made anew.
    Reach reach = Cave({20, 18}).reach();
    const Cave larger({21, 18});
    CHECK_FALSE(reach.follow(larger.small.project, larger.small.level(), {{3, 3, 1, 1}}));
}
