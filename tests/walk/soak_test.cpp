// Soaking: against a search that moves the foot sample by sample, and against walkers in the physics.
#include "walk/soak.hpp"

#include <catch2/catch.hpp>
#include <deque>
#include <set>

#include "parcel/build.hpp"
#include "support/make.hpp"
#include "walk/world.hpp"

using namespace vic;
using namespace vic::walk;
using outline::kUnit;

namespace {

// Blockers in a level of nothing else, drawn by letters: '#' full, 'n e s w' one-way, '/' '\' slopes with the mass
// below.
struct Place {
    make::Small small;
    explicit Place(const std::vector<std::string>& rows, level::View view = level::View::from_above)
        : small({static_cast<int>(rows[0].size()), static_cast<int>(rows.size())}, view) {
        level::Level level = small.level();
        level.layers.clear();
        level.plane = 0;
        level.marks.clear();
        level::Layer layer;
        layer.id = small.project.next_id++;
        level::Blockers b(level.size);
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x)
                b.set({x, y}, shape(rows[static_cast<std::size_t>(y)][static_cast<std::size_t>(x)]));
        layer.content = b;
        level.layers.push_back(std::make_shared<const level::Layer>(layer));
        level.walker.width = 48;
        level.walker.height = 64;
        small.set(level);
    }
    static level::TileShape shape(char c) {
        switch (c) {
            case '#':
                return level::TileShape::full;
            case 'n':
                return level::TileShape::one_way_north;
            case 'e':
                return level::TileShape::one_way_east;
            case 's':
                return level::TileShape::one_way_south;
            case 'w':
                return level::TileShape::one_way_west;
            case '/':
                return level::TileShape::slope_se;
            case '\\':
                return level::TileShape::slope_sw;
            default:
                return level::TileShape::none;
        }
    }
    [[nodiscard]] Soaked from(Point middle) const {
        const level::TileTable tiles(small.project);
        const level::PropKinds kinds(small.project);
        return soak(small.level(), {tiles, kinds}, middle);
    }
    void change(const std::function<void(level::Level&)>& what) {
        level::Level level = small.level();
        what(level);
        small.set(level);
    }
};

Point middle_of(int x, int y) { return {x * kUnit + kUnit / 2, y * kUnit + kUnit / 2}; }

std::vector<std::string> random_rows(make::Random& random, Size size, const std::string& letters, double share) {
    std::vector<std::string> rows(static_cast<std::size_t>(size.h), std::string(static_cast<std::size_t>(size.w), '.'));
    for (auto& row : rows)
        for (char& c : row)
            if (random.flip(share))
                c = letters[static_cast<std::size_t>(random.below(static_cast<int>(letters.size())))];
    return rows;
}

// What is wet, found by moving the foot one sample at a time.
std::set<Point> slowly(const Place& place, Point middle) {
    const level::Level& level = place.small.level();
    const int g = 16, s = kUnit / g;
    const Size foot{foot_of(level).w / s, foot_of(level).h / s}, all{level.size.w * g, level.size.h * g};
    const auto letter = [&](Point cell) { return level.layers[0]->blockers()->shape(cell); };
    std::vector<bool> solid(static_cast<std::size_t>(all.area()));
    for (int y = 0; y < all.h; ++y)
        for (int x = 0; x < all.w; ++x) {
            bool any = false;
            for (int v = 0; v < s; ++v)
                for (int u = 0; u < s; ++u) {
                    const double fx = ((x % g) * s + u + 0.5) / kUnit, fy = ((y % g) * s + v + 0.5) / kUnit;
                    const auto shape = letter({x / g, y / g});
                    any = any || shape == level::TileShape::full ||
                          (shape == level::TileShape::slope_se && fx + fy > 1) ||
                          (shape == level::TileShape::slope_sw && fy > fx);
                }
            solid[static_cast<std::size_t>(y * all.w + x)] = any;
        }
    const auto room = [&](Point p) {
        if (p.x < 0 || p.y < 0 || p.x + foot.w > all.w || p.y + foot.h > all.h) return false;
        for (int y = p.y; y < p.y + foot.h; ++y)
            for (int x = p.x; x < p.x + foot.w; ++x)
                if (solid[static_cast<std::size_t>(y * all.w + x)]) return false;
        return true;
    };
    // Whether the step is stopped by an edge: its leading side lies on the line, and overlaps it.
    const auto stopped = [&](Point p, Point step) {
        for (int y = 0; y < level.size.h; ++y)
            for (int x = 0; x < level.size.w; ++x) {
                const auto shape = letter({x, y});
                if (!level::is_one_way(shape)) continue;
                const bool beside = p.x < (x + 1) * g && p.x + foot.w > x * g;
                const bool over = p.y < (y + 1) * g && p.y + foot.h > y * g;
                switch (level::one_way_side(shape)) {
                    case 0:
                        if (step.y > 0 && beside && p.y + foot.h == y * g) return true;
                        break;
                    case 1:
                        if (step.x < 0 && over && p.x == (x + 1) * g) return true;
                        break;
                    case 2:
                        if (step.y < 0 && beside && p.y == (y + 1) * g) return true;
                        break;
                    default:
                        if (step.x > 0 && over && p.x + foot.w == x * g) return true;
                }
            }
        return false;
    };
    const Point start{middle.x / s - foot.w / 2, middle.y / s - foot.h / 2};
    std::set<Point> seen, wet;
    std::deque<Point> open;
    if (room(start)) open.push_back(start), seen.insert(start);
    while (!open.empty()) {
        const Point p = open.front();
        open.pop_front();
        for (int y = p.y; y < p.y + foot.h; ++y)
            for (int x = p.x; x < p.x + foot.w; ++x) wet.insert({x, y});
        for (const Point step : {Point{1, 0}, Point{-1, 0}, Point{0, 1}, Point{0, -1}})
            if (!seen.contains(p + step) && room(p + step) && !stopped(p, step)) {
                seen.insert(p + step);
                open.push_back(p + step);
            }
    }
    return wet;
}

} // namespace

TEST_CASE("what is wet is what a foot that is moved sample by sample comes to cover", "[soak]") {
    make::Random random(41);
    for (int round = 0; round < 24; ++round) {
        auto rows = random_rows(random, {9, 7}, round % 2 == 0 ? "#" : "#/\\nesw", round % 2 == 0 ? 0.3 : 0.4);
        rows[3][4] = '.';
        Place place(rows, round % 3 == 0 ? level::View::from_the_side : level::View::from_above);
        place.change([&](level::Level& level) {
            level.walker.width = 4 * (3 + random.below(13));
            level.walker.height = 4 * (3 + random.below(13));
        });
        const Soaked soaked = place.from(middle_of(4, 3));
        const std::set<Point> expected = slowly(place, middle_of(4, 3));
        INFO(round);
        REQUIRE(!expected.empty());
        int wrong = 0;
        for (int y = 0; y < soaked.samples.h; ++y)
            for (int x = 0; x < soaked.samples.w; ++x) wrong += soaked.at({x, y}) != expected.contains({x, y});
        CHECK(wrong == 0);
    }
}

TEST_CASE("no walker of the physics ever stands where it is dry", "[soak][physics]") {
    make::Random random(7);
    int stood = 0, dry = 0;
    for (int round = 0; round < 12; ++round) {
        auto rows = random_rows(random, {14, 11}, "#/\\ne", 0.3);
        rows[5][7] = '.';
        Place place(rows);
        place.change([](level::Level& level) {
            for (auto& side : level.sides) side.kind = level::SideKind::blocks;
            level.marks.push_back({1, "Start", level::MarkKind::start, {7, 5, 1, 1}});
        });
        const make::Folder dir;
        parcel::build(place.small.project, place.small.level(), dir / "p");
        const vicinum::Level built = vicinum::load(dir / "p");
        const Soaked soaked = place.from(start_of(place.small.level()));
        if (soaked.shut_in) continue;
        const double w = foot_of(place.small.level()).w / 64.0, h = foot_of(place.small.level()).h / 64.0;
        for (int walker = 0; walker < 20; ++walker) {
            World world(built);
            Input input;
            for (int t = 0; t < 600; ++t) {
                if (t % 20 == 0)
                    input = {random.flip(0.4), random.flip(0.4), random.flip(0.4), random.flip(0.4), false};
                world.tick(input);
                const Position p = world.foot();
                // The middle of its foot, and its corners a little within: contacts are some hundredths soft.
                for (const double dx : {-w / 2 + 0.08, 0.0, w / 2 - 0.08})
                    for (const double dy : {-h + 0.08, -h / 2, -0.08}) {
                        ++stood;
                        dry += !soaked.at({static_cast<int>(std::floor((p.x + dx) * 16)),
                                           static_cast<int>(std::floor((p.y + dy) * 16))});
                    }
            }
        }
    }
    CHECK(stood > 500'000);
    CHECK(dry == 0);
}

TEST_CASE("a gap in a wall that is narrower than a cell is told with its width", "[soak]") {
    Place place({"############", "#....#.....#", "#....#.....#", "#..........#", "#....#.....#", "############"});
    CHECK(place.from(middle_of(2, 2)).narrow.empty()); // a whole cell is what it looks like
    place.change([&](level::Level& level) {
        level::Blockers& b = *level.edit(level.layers[0]->id).blockers();
        b.set_free({{1,
                     {{5 * kUnit, 3 * kUnit},
                      {6 * kUnit, 3 * kUnit},
                      {6 * kUnit, 3 * kUnit + 12},
                      {5 * kUnit, 3 * kUnit + 12}},
                     0,
                     false,
                     0,
                     {},
                     {}}});
    });
    Soaked soaked = place.from(middle_of(2, 2));
    REQUIRE(soaked.narrow.size() == 1);
    CHECK(soaked.narrow[0].width == 52);
    CHECK(Box{4 * kUnit, 3 * kUnit, 3 * kUnit, kUnit}.contains(soaked.narrow[0].place));
    CHECK(soaked.touches({8, 2, 1, 1}));
    // Narrower than the foot: it does not get through, and what lies behind stays dry.
    place.change([&](level::Level& level) { level.walker.width = 60; });
    soaked = place.from(middle_of(2, 2));
    CHECK(soaked.narrow.empty());
    CHECK_FALSE(soaked.touches({8, 2, 1, 1}));
    REQUIRE(soaked.dry.size() == 1);
    CHECK(soaked.dry[0].count >= 20);
    CHECK(soaked.dry[0].cells.contains({8, 2}));
    CHECK(soaked.cells().count() >= 16);
}

TEST_CASE("an open rim is found where one gets to it, unless its side says otherwise", "[soak]") {
    Place place({"######", "#....#", "......", "#....#", "##..##"});
    Soaked soaked = place.from(middle_of(2, 2));
    CHECK(soaked.rims == std::vector<Soaked::OpenRim>{
                             {1, 2 * kUnit, 3 * kUnit}, {2, 2 * kUnit, 4 * kUnit}, {3, 2 * kUnit, 3 * kUnit}});
    place.change([](level::Level& level) {
        level.sides[1].kind = level::SideKind::leads;
        level.sides[2].kind = level::SideKind::blocks;
    });
    soaked = place.from(middle_of(2, 2));
    CHECK(soaked.rims == std::vector<Soaked::OpenRim>{{3, 2 * kUnit, 3 * kUnit}});
    // What no one gets to leaks nowhere.
    place.change([](level::Level& level) {
        for (int y = 1; y < 5; ++y) level.edit(level.layers[0]->id).blockers()->set({1, y}, level::TileShape::full);
    });
    CHECK(place.from(middle_of(3, 2)).rims.empty());
}

TEST_CASE("who is walled in stays dry, and so does all where there is no room at all", "[soak]") {
    Place place({"#####", "#####", "#####", "##..#", "#####"});
    CHECK(place.from(middle_of(0, 0)).shut_in);
    CHECK_FALSE(place.from(middle_of(2, 3)).shut_in);
    CHECK_FALSE(place.from(middle_of(1, 3)).shut_in); // a cell beside it there is
    place.change([](level::Level& level) { level.walker.width = 64 * 10; });
    const Soaked none = place.from(middle_of(2, 3)); // larger than the level
    CHECK(none.shut_in);
    CHECK(none.cells().empty());
}

TEST_CASE("a one-way edge lets through one way, and what lies behind stays wet from there only", "[soak]") {
    for (const auto& [letter, from, to] : {std::tuple{'w', 2, 7}, std::tuple{'e', 7, 2}}) {
        std::vector<std::string> rows{"##########", "#........#", "##########"};
        rows[1][5] = letter;
        const Place place(rows);
        const Soaked stopped = place.from(middle_of(from, 1)), through = place.from(middle_of(to, 1));
        CHECK_FALSE(stopped.touches({to, 1, 1, 1}));
        CHECK(through.touches({from, 1, 1, 1}));
        CHECK(through.dry.empty());
        CHECK(stopped.dry.size() == 1);
    }
}

TEST_CASE("a very large level is soaked in coarser samples", "[soak]") {
    make::Small small({2048, 1024});
    level::Level level = small.level();
    level.layers.clear();
    level.plane = 0;
    small.set(level);
    const Soaked soaked = soak(level, level::TileTable(small.project), {kUnit, kUnit});
    CHECK(soaked.grain == 8);
    CHECK(soaked.at({2048 * 8 - 1, 1024 * 8 - 1}));
    CHECK(soaked.rims.size() == 4);
}

TEST_CASE("a passage that ends in nothing is a dead end, one with something at its end is none", "[walk][soak][dead]") {
    // A hall; to the right a passage of one cell with a bend, below one of two cells, to the left a niche.
    const std::vector<std::string> rows{"####################", //
                                        "######......########", //
                                        "######......###.####", //
                                        "######.........#####", //
                                        "#####.......########", //
                                        "######......########", //
                                        "########..##########", //
                                        "########..##########", //
                                        "########..##########", //
                                        "########..##########", //
                                        "####################"};
    Place place(rows);
    const auto ends = [&] { return place.from(middle_of(8, 3)).dead_ends; };
    auto bent = rows;
    bent[2] = "######......##.#####";
    Place turned(bent);
    const auto two = turned.from(middle_of(8, 3)).dead_ends;
    REQUIRE(two.size() == 2);
    CHECK(two[0] == Soaked::DeadEnd{{12, 2, 3, 2}, {14, 2}, 4});
    CHECK(two[1] == Soaked::DeadEnd{{8, 6, 2, 4}, {8, 8}, 4});
    REQUIRE(ends().size() == 2); // the cell that only a corner joins is no part of it
    CHECK(ends()[1] == Soaked::DeadEnd{{12, 3, 3, 1}, {14, 3}, 3});
    place.change([](level::Level& l) { l.marks = {{900, "Chest", level::MarkKind::note, {14, 3, 1, 1}}}; });
    REQUIRE(ends().size() == 1);
    CHECK(ends()[0].cells == Box{8, 6, 2, 4});
    // With a passage of one cell that leads on it is none, nor where one gets out of the level.
    auto on = rows;
    on[9] = "########........####";
    on[8] = "########..#####.####";
    CHECK(Place(on).from(middle_of(8, 3)).dead_ends.front().cells == Box{10, 8, 6, 2});
    auto out = rows;
    out[10] = "########..##########";
    CHECK(Place(out).from(middle_of(8, 3)).dead_ends.size() == 1);
    Place side(rows, level::View::from_the_side);
    CHECK(side.from(middle_of(8, 3)).dead_ends.empty());
}

TEST_CASE("without a dead end all else hangs together as before", "[walk][soak][dead]") {
    make::Random random(19);
    int found = 0;
    for (int round = 0; round < make::rounds(60, 3000); ++round) {
        const Place place(random_rows(random, {16, 14}, "#", 0.3 + 0.05 * random.below(5)));
        const Soaked soaked = place.from(middle_of(8, 7));
        if (soaked.shut_in) continue;
        const auto wet = [&](Point p) {
            return Box{0, 0, 16, 14}.contains(p) &&
                   soaked.at({p.x * soaked.grain + soaked.grain / 2, p.y * soaked.grain + soaked.grain / 2});
        };
        // How many cells one gets to from one on, without those of a box.
        const auto reached = [&](Point from, const Box& without) {
            std::set<Point> seen{from};
            std::deque<Point> open{from};
            while (!open.empty()) {
                const Point at = open.front();
                open.pop_front();
                for (const Point step : {Point{1, 0}, {0, 1}, {-1, 0}, {0, -1}})
                    if (wet(at + step) && !without.contains(at + step) && seen.insert(at + step).second)
                        open.push_back(at + step);
            }
            return static_cast<int>(seen.size());
        };
        for (const Soaked::DeadEnd& dead : soaked.dead_ends) {
            ++found;
            CHECK(dead.cells.contains(dead.end));
            REQUIRE(wet(dead.end));
            if (std::min(dead.cells.w, dead.cells.h) > 1) continue; // with a bend the box holds more than the passage
            int inside = 0;
            Point outside{-1, -1};
            for (int y = 0; y < 14; ++y)
                for (int x = 0; x < 16; ++x) {
                    if (!wet({x, y})) continue;
                    if (dead.cells.contains(Point{x, y}))
                        ++inside;
                    else if (reached({x, y}, {}) == reached(dead.end, {}))
                        outside = {x, y};
                }
            CHECK(inside == dead.length);
            if (outside.x < 0) continue;
            CHECK(reached(outside, dead.cells) + inside == reached(outside, {}));
        }
    }
    CHECK(found > 20);
}
