// Places set out by chance, against what one can say of them without knowing how they were found.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <cstdint>
#include <map>
#include <set>

#include "base/chance.hpp"
#include "base/parallel.hpp"
#include "plant/scatter.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::plant;

namespace {

// A ground of blots: every sample by a rule of its own.
class Blots : public Ground {
  public:
    explicit Blots(unsigned seed, int grain = 4) : seed_(seed), grain_(grain) {}
    [[nodiscard]] int grain() const override { return grain_; }
    [[nodiscard]] bool at(Point sample) const {
        if (holes_.contains(sample)) return false;
        return place_hash(seed_, floor_div(sample.x, 9), floor_div(sample.y, 7)) % 4 != 0;
    }
    Open open(const Box& samples, std::uint8_t* out) const override {
        for (int y = samples.y; y < samples.bottom(); ++y)
            for (int x = samples.x; x < samples.right(); ++x) *out++ = at({x, y}) ? 255 : 0;
        return Open::some;
    }
    void inside(const Box& samples, std::uint8_t* out) const override {
        for (int y = samples.y; y < samples.bottom(); ++y)
            for (int x = samples.x; x < samples.right(); ++x)
                *out++ = static_cast<std::uint8_t>(place_hash(seed_ + 1, floor_div(x, 16), floor_div(y, 16)) % 256);
    }
    void dig(const Box& samples) { holes_ = samples; }

  private:
    unsigned seed_;
    int grain_;
    Box holes_;
};

class All : public Ground {
  public:
    [[nodiscard]] int grain() const override { return 4; }
    Open open(const Box&, std::uint8_t*) const override { return Open::all; }
};

Spread random_spread(make::Random& random) {
    Spread out;
    out.seed = static_cast<std::uint64_t>(random.below(1 << 30));
    const int kinds = 1 + random.below(4);
    for (int i = 0; i < kinds; ++i)
        out.kinds.push_back({static_cast<std::uint32_t>(1 + random.below(100)), 16 * 4 + random.below(16 * 36)});
    out.least = 60 + random.below(60);
    out.most = out.least + (random.flip() ? random.below(100) : 0);
    if (random.flip(0.3)) out.rim = 40 + random.below(150);
    return out;
}

bool too_near(const Stand& a, const Stand& b) {
    const double d = std::hypot(a.at.x - b.at.x, a.at.y - b.at.y);
    return d < (a.apart + b.apart) / 2.0 / kParts - 1e-9;
}

// Pairs that are too near, and how many pairs were looked at: all that are less than the largest distance apart.
std::pair<std::int64_t, std::int64_t> pairs_too_near(std::vector<Stand> all) {
    int most = 0;
    for (const Stand& s : all) most = std::max(most, s.apart);
    const int side = most / kParts + 1;
    std::map<std::pair<int, int>, std::vector<Stand>> squares;
    for (const Stand& s : all) squares[{floor_div(s.at.x, side), floor_div(s.at.y, side)}].push_back(s);
    std::int64_t bad = 0, looked = 0;
    for (const auto& [where, in] : squares)
        for (int dy = 0; dy <= 1; ++dy)
            for (int dx = dy == 0 ? 0 : -1; dx <= 1; ++dx) {
                const auto other = squares.find({where.first + dx, where.second + dy});
                if (other == squares.end()) continue;
                for (std::size_t i = 0; i < in.size(); ++i)
                    for (std::size_t k = dx == 0 && dy == 0 ? i + 1 : 0; k < other->second.size(); ++k) {
                        ++looked;
                        bad += too_near(in[i], other->second[k]);
                    }
            }
    return {bad, looked};
}

bool same(std::vector<Stand> a, std::vector<Stand> b) {
    const auto order = [](const Stand& x, const Stand& y) {
        return std::tuple(x.at, x.kind) < std::tuple(y.at, y.kind);
    };
    std::sort(a.begin(), a.end(), order);
    std::sort(b.begin(), b.end(), order);
    return a == b;
}

} // namespace

TEST_CASE("no two are nearer than both ask, on any ground, of any kinds", "[plant][scatter]") {
    make::Random random(5);
    std::int64_t looked = 0;
    for (int round = 0; round < 16; ++round) {
        const Spread spread = random_spread(random);
        Scatter scatter(spread, {-200, -100, 1000, 900});
        scatter.settle(Blots(static_cast<unsigned>(round)), {});
        const auto [bad, pairs] = pairs_too_near(scatter.all());
        REQUIRE(bad == 0);
        looked += pairs;
    }
    CHECK(looked > 200'000);
}

TEST_CASE("of ten million pairs none is too near", "[plant][scatter]") {
    Spread spread;
    spread.kinds = {{1, 8 * kParts}, {2, 21 * kParts}};
    Scatter scatter(spread, {0, 0, 10000, 10000});
    scatter.settle(All(), {});
    const auto [bad, pairs] = pairs_too_near(scatter.all());
    CHECK(bad == 0);
    CHECK(pairs > 10'000'000);
}

TEST_CASE("full is full: in no pixel of the ground there is room for another", "[plant][scatter]") {
    make::Random random(6);
    for (int round = 0; round < 16; ++round) {
        Spread spread = random_spread(random);
        spread.rim = 100;
        const Blots ground(static_cast<unsigned>(round));
        Obstacles obstacles;
        std::vector<Obstacle> around;
        for (int i = 0; i < 12; ++i) {
            around.push_back({{random.below(600), random.below(500)}, 16 * (1 + random.below(60))});
            obstacles.add(around.back());
        }
        const Box pixels{0, 0, 600, 500};
        Scatter scatter(spread, pixels.grown(100)); // what stands beyond takes room here, too
        scatter.settle(ground, obstacles);
        int least = 1 << 30;
        for (const auto& k : spread.kinds) least = std::min(least, k.apart * spread.least / 100);
        least = std::max(least, kParts);
        // Each place takes the room around it away from the smallest.
        std::vector<char> taken(static_cast<std::size_t>(pixels.size().area()), 0);
        const auto take = [&](Point at, int apart) {
            const double r = (least + apart) / 2.0 / kParts;
            const int far = static_cast<int>(r) + 1;
            for (int y = std::max(0, at.y - far); y < std::min(pixels.h, at.y + far + 1); ++y)
                for (int x = std::max(0, at.x - far); x < std::min(pixels.w, at.x + far + 1); ++x)
                    if (std::hypot(x - at.x, y - at.y) < r - 1e-9)
                        taken[static_cast<std::size_t>(y * pixels.w + x)] = 1;
        };
        for (const Stand& s : scatter.all()) take(s.at, s.apart);
        for (const Obstacle& o : around) take(o.at, o.apart);
        int room = 0;
        for (int y = 0; y < pixels.h; ++y)
            for (int x = 0; x < pixels.w; ++x)
                room += ground.at({x / 4, y / 4}) && !taken[static_cast<std::size_t>(y * pixels.w + x)];
        REQUIRE(room == 0);
    }
}

TEST_CASE("all stand on the ground, off obstacles, as often as their weights say", "[plant][scatter]") {
    Spread spread;
    spread.kinds = {{3, 10 * kParts}, {1, 10 * kParts}};
    const Blots ground(3);
    Obstacles obstacles;
    obstacles.add({{400, 300}, 200 * kParts});
    Scatter scatter(spread, {0, 0, 1400, 1400});
    scatter.settle(ground, obstacles);
    int first = 0;
    for (const Stand& s : scatter.all()) {
        REQUIRE(ground.at({floor_div(s.at.x, 4), floor_div(s.at.y, 4)}));
        REQUIRE(std::hypot(s.at.x - 400, s.at.y - 300) >= 105 - 1e-9);
        first += s.kind == 0;
    }
    CHECK(first / double(scatter.all().size()) == Approx(0.75).margin(0.03));
}

TEST_CASE("one, two and four threads give the same bytes", "[plant][scatter]") {
    make::Random random(21);
    for (int round = 0; round < 3; ++round) {
        const Spread spread = random_spread(random);
        const Blots ground(static_cast<unsigned>(40 + round));
        std::vector<std::vector<Stand>> all;
        for (const int workers : {1, 2, 4}) {
            const WithWorkers with(workers);
            Scatter some(spread, {0, 0, 2600, 2100});
            some.settle(ground, {}, true);
            all.push_back(some.all());
        }
        CHECK(all[0].size() > 500);
        CHECK(all[1] == all[0]);
        CHECK(all[2] == all[0]);
    }
}

TEST_CASE("one thread or two, and whatever was there before: the same places", "[plant][scatter]") {
    make::Random random(8);
    for (int round = 0; round < 5; ++round) {
        const Spread spread = random_spread(random);
        const Blots ground(static_cast<unsigned>(round));
        const Box pixels{-50, 20, 1300, 1000};
        Scatter one(spread, pixels), two(spread, pixels), other(spread, pixels);
        one.settle(ground, {}, false);
        two.settle(ground, {}, true);
        CHECK(one.all() == two.all());
        other.settle(Blots(99), {});
        other.settle(ground, {});
        CHECK(one.all() == other.all());
        // More of the plane, same places in what both have, away from the rim.
        Scatter wider(spread, {-50, 20, 1700, 1400});
        wider.settle(ground, {});
        CHECK(wider.count() > one.count());
    }
}

TEST_CASE("after a local change it is as if all had been settled anew, and far from it nothing moved",
          "[plant][scatter]") {
    make::Random random(9);
    int moved_far = 0, changes = 0;
    for (int round = 0; round < 4; ++round) {
        const Spread spread = random_spread(random);
        Blots ground(static_cast<unsigned>(round));
        const Box pixels{0, 0, 2000, 2000};
        Scatter scatter(spread, pixels);
        scatter.settle(ground, {});
        Box last;
        for (int step = 0; step < 4; ++step) {
            const std::vector<Stand> before = scatter.all();
            const Box hole{random.below(460), random.below(460), 2 + random.below(30), 2 + random.below(30)};
            Box changed = hole;
            ground.dig(hole);
            if (step > 0) changed = united(changed, last);
            last = hole;
            const Box pixels_changed{changed.x * 4, changed.y * 4, changed.w * 4, changed.h * 4};
            scatter.settle_again(ground, {}, {pixels_changed});
            Scatter anew(spread, pixels);
            anew.settle(ground, {});
            const std::vector<Stand> after = scatter.all();
            REQUIRE(same(after, anew.all()));
            const Box reach = pixels_changed.grown(scatter.reach());
            std::set<std::pair<int, int>> now;
            for (const Stand& s : after) now.insert({s.at.x, s.at.y});
            for (const Stand& s : before) moved_far += !reach.contains(s.at) && !now.contains({s.at.x, s.at.y});
            changes += after != before;
        }
    }
    CHECK(moved_far == 0);
    CHECK(changes > 8);
}
