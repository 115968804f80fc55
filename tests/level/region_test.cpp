#include "level/region.hpp"

#include <catch2/catch.hpp>
#include <set>

#include "support/make.hpp"

using namespace vic;
using namespace vic::level;

namespace {

std::set<Point> cells_of(const Region& r) {
    const auto list = r.cells();
    std::set<Point> out(list.begin(), list.end());
    REQUIRE(out.size() == list.size());
    return out;
}

Region scattered(make::Random& random, int n) {
    Region out;
    for (int i = 0; i < n; ++i) {
        const Point at{random.below(300) - 140, random.below(200) - 90};
        if (random.flip(0.3))
            out.add(Box{at.x, at.y, 1 + random.below(90), 1 + random.below(20)});
        else
            out.add(at);
    }
    return out;
}

} // namespace

TEST_CASE("a region does what a set of cells does", "[region]") {
    make::Random random(11);
    for (int round = 0; round < 30; ++round) {
        const Region a = scattered(random, 12);
        const Region b = scattered(random, 12);
        const auto sa = cells_of(a);
        const auto sb = cells_of(b);
        Region both = a;
        both.add(b);
        Region without = a;
        without.remove(b);
        Region common = a;
        common.keep(b);
        const Box box{random.below(60) - 40, random.below(60) - 30, 70, 40};
        Region boxed = a;
        boxed.keep(box);
        const Point by{random.below(400) - 200, random.below(200) - 100};
        std::set<Point> s_both = sa, s_without, s_common, s_boxed, s_moved;
        s_both.insert(sb.begin(), sb.end());
        Box bounds;
        for (const Point p : sa) {
            (sb.contains(p) ? s_common : s_without).insert(p);
            if (box.contains(p)) s_boxed.insert(p);
            s_moved.insert(p + by);
            bounds = united(bounds, {p.x, p.y, 1, 1});
            CHECK(a.contains(p));
        }
        CHECK(cells_of(both) == s_both);
        CHECK(cells_of(without) == s_without);
        CHECK(cells_of(common) == s_common);
        CHECK(cells_of(boxed) == s_boxed);
        CHECK(cells_of(a.moved(by)) == s_moved);
        CHECK(a.moved(by).moved({-by.x, -by.y}) == a);
        CHECK(a.bounds() == bounds);
        CHECK(a.count() == static_cast<std::int64_t>(sa.size()));
        Region emptied = a;
        emptied.remove(a);
        CHECK(emptied.empty());
        CHECK(emptied == Region());
    }
}

TEST_CASE("growing and shrinking by four or eight neighbours", "[region]") {
    make::Random random(5);
    const Box level{0, 0, 150, 120};
    for (const bool corners : {false, true})
        for (int round = 0; round < 10; ++round) {
            Region a;
            for (int i = 0; i < 6; ++i)
                a.add(intersection(
                    Box{random.below(150), random.below(120), 1 + random.below(50), 1 + random.below(40)}, level));
            std::set<Point> grown, shrunk;
            for (const Point p : a.cells()) {
                bool inner = true;
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx) {
                        if (!corners && dx != 0 && dy != 0) continue;
                        const Point q{p.x + dx, p.y + dy};
                        grown.insert(q);
                        inner = inner && (a.contains(q) || !level.contains(q));
                    }
                if (inner) shrunk.insert(p);
            }
            CHECK(cells_of(a.grown(corners)) == grown);
            CHECK(cells_of(a.shrunk(corners, level)) == shrunk);
        }
}

TEST_CASE("the outline of a region has as many sides as its cells have open ones", "[region]") {
    make::Random random(8);
    for (int round = 0; round < 20; ++round) {
        const Region a = scattered(random, 9);
        std::int64_t open = 0;
        for (const Point p : a.cells())
            for (const Point by : {Point{1, 0}, Point{-1, 0}, Point{0, 1}, Point{0, -1}}) open += !a.contains(p + by);
        std::int64_t length = 0;
        for (const Side& s : sides(a, a.bounds())) length += std::abs(s.to.x - s.from.x) + std::abs(s.to.y - s.from.y);
        CHECK(length == open);
    }
    CHECK(sides(Region(Box{3, 4, 5, 6}), {0, 0, 99, 99}).size() == 4);
}

TEST_CASE("a flood reaches what a flood cell by cell reaches", "[region]") {
    make::Random random(21);
    for (int round = 0; round < 24; ++round) {
        const Box within{3, 5, 150, 130};
        Region open;
        const int share = 45 + random.below(30);
        for (int y = 0; y < 140; ++y)
            for (int x = 0; x < 160; ++x)
                if (random.below(100) < share) open.add(Point{x, y});
        const Point from{10 + random.below(120), 10 + random.below(100)};
        open.add(from);
        const bool corners = random.flip();
        std::set<Point> wanted;
        std::vector<Point> todo{from};
        while (!todo.empty()) {
            const Point p = todo.back();
            todo.pop_back();
            if (!within.contains(p) || !open.contains(p) || !wanted.insert(p).second) continue;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx)
                    if (corners || dx == 0 || dy == 0) todo.push_back({p.x + dx, p.y + dy});
        }
        const Region got = flood(from, corners, within, [&](Point chunk) {
            const Region::Rows* rows = open.rows(chunk);
            return rows ? *rows : Region::Rows{};
        });
        CHECK(cells_of(got) == wanted);
    }
    // A spiral goes through each chunk many times.
    Region walls;
    for (int i = 0; i < 30; ++i) {
        walls.add(Box{2 * i, 2 * i, 190 - 4 * i, 1});
        walls.add(Box{189 - 2 * i, 2 * i, 1, 190 - 4 * i});
        walls.add(Box{2 * i, 189 - 2 * i, 190 - 4 * i, 1});
        walls.add(Box{2 * i, 2 * i + 2, 1, 188 - 4 * i});
    }
    Region way(Box{0, 0, 190, 190});
    way.remove(walls);
    std::int64_t all = 0;
    Region left = way;
    while (!left.empty()) {
        const Region part = flood(left.cells().front(), false, {0, 0, 190, 190}, [&](Point chunk) {
            const Region::Rows* rows = way.rows(chunk);
            return rows ? *rows : Region::Rows{};
        });
        REQUIRE(!part.empty());
        all += part.count();
        left.remove(part);
    }
    CHECK(all == way.count()); // each cell in one part only
}
