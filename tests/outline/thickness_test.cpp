// Outlines in which nothing is thinner than asked.
#include <catch2/catch.hpp>

#include "outline/field.hpp"
#include "outline/thickness.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using namespace outline_test;

namespace {

const Box kAll{0, 0, 20 * 64, 20 * 64};

Outline box(int x, int y, int w, int h) { return {{{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}, false}; }

// What outlines of a small place block, unit by unit; upright and level lines only.
struct Raster {
    static constexpr int kSide = 320;
    std::vector<char> solid = std::vector<char>(std::size_t{kSide} * kSide);
    explicit Raster(const std::vector<Outline>& all) {
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x)
                solid[static_cast<std::size_t>(y * kSide + x)] =
                    static_cast<char>(winding(all, (x + 0.5) / 64, (y + 0.5) / 64) > 0);
    }
    [[nodiscard]] bool at(int x, int y) const {
        const Box all{0, 0, kSide, kSide};
        return all.contains(Point{x, y}) && solid[static_cast<std::size_t>(y * kSide + x)] != 0;
    }
    // How many places of the kind lie in no square of that side that is all of it; beyond the rim all is open.
    [[nodiscard]] int thin(bool wanted, int side) const {
        const int reach = kSide + side; // squares may lie over the rim
        std::vector<int> sum(static_cast<std::size_t>((reach + side + 1) * (reach + side + 1)));
        const int n = reach + side + 1;
        const auto s = [&](int x, int y) -> int& { return sum[static_cast<std::size_t>(y * n + x)]; };
        for (int y = 1; y < n; ++y)
            for (int x = 1; x < n; ++x)
                s(x, y) = s(x - 1, y) + s(x, y - 1) - s(x - 1, y - 1) + (at(x - 1 - side, y - 1 - side) == wanted);
        std::vector<char> held(solid.size());
        for (int y = 0; y + side < n; ++y)
            for (int x = 0; x + side < n; ++x) {
                if (s(x + side, y + side) - s(x, y + side) - s(x + side, y) + s(x, y) != side * side) continue;
                for (int j = 0; j < side; ++j)
                    for (int i = 0; i < side; ++i) {
                        const Point p{x + i - side, y + j - side};
                        if (Box{0, 0, kSide, kSide}.contains(p)) held[static_cast<std::size_t>(p.y * kSide + p.x)] = 1;
                    }
            }
        int out = 0;
        for (std::size_t i = 0; i < solid.size(); ++i) out += (solid[i] != 0) == wanted && !held[i];
        return out;
    }
};

} // namespace

TEST_CASE("hairs grow until they are as thick as asked, clefts are filled, and all else stays",
          "[outline][thickness]") {
    const std::vector<Outline> fence{box(64, 100, 640, 3)};
    const auto thick = no_thinner(fence, 10, kAll);
    REQUIRE(thick.size() == 1);
    CHECK(winding(thick, 300.0 / 64, 101.5 / 64) == 1);
    CHECK(Raster(thick).thin(true, 9) == 0);
    CHECK(area2(thick[0]) <= 2 * 662 * 16); // no thicker than there is need for

    // Two masses with a cleft of four units between them; a passage of twenty stays as it is.
    const std::vector<Outline> masses{box(0, 0, 128, 128), box(132, 0, 64, 128), box(216, 0, 64, 128)};
    const auto filled = no_thinner(masses, 8, kAll);
    REQUIRE(filled.size() == 2);
    CHECK(filled[0] == box(0, 0, 196, 128));
    CHECK(filled[1] == masses[2]);
    CHECK(no_thinner(masses, 4, kAll) == masses); // exactly as wide
    CHECK(no_thinner(masses, 0, kAll) == masses);
    // A hole of three units.
    const std::vector<Outline> pierced{box(0, 0, 128, 128), {{{10, 10}, {10, 13}, {13, 13}, {13, 10}}, true}};
    CHECK(no_thinner(pierced, 8, kAll) == std::vector<Outline>{box(0, 0, 128, 128)});
}

TEST_CASE("whole cells and slopes have nothing thin in them", "[outline][thickness]") {
    make::Random random(5);
    for (int round = 0; round < make::rounds(30, 1000); ++round) {
        Patch f{{12, 12}, std::vector<SolidCode>(144)};
        for (auto& c : f.codes) {
            c = random.flip(0.45) ? kFull : kOpen;
            if (random.flip(0.2)) c = static_cast<SolidCode>(kSlopeNE + random.below(4));
        }
        const auto all = outlines(trace(f.size, f.source()));
        // A slope leaves a wedge of half a right angle: no cleft, however near one looks.
        REQUIRE(no_thinner(all, 16, {0, 0, 12 * 64, 12 * 64}) == all);
    }
}

TEST_CASE("of boxes anywhere nothing is left that is thinner than asked, and nothing opens", "[outline][thickness]") {
    make::Random random(77);
    int with_hairs = 0;
    for (int round = 0; round < make::rounds(10, 2000); ++round) {
        level::Polygons boxes;
        for (int i = 0; i < 4 + random.below(8); ++i) {
            const bool thin = random.flip(0.4), upright = random.flip(0.5);
            const int x = 20 + random.below(200), y = 20 + random.below(200);
            const int w = thin && upright ? 1 + random.below(6) : 12 + random.below(80);
            const int h = thin && !upright ? 1 + random.below(6) : 12 + random.below(80);
            boxes.push_back(box(x, y, w, h).points);
        }
        std::vector<Outline> all;
        for (const level::Polygon& p : united(boxes)) all.push_back({p, area2({p, false}) < 0});
        const int least = 4 + random.below(9);
        const auto thick = no_thinner(all, least, kAll);
        const Raster before(all), after(thick);
        with_hairs += before.thin(true, least - 2) > 0 || before.thin(false, least - 2) > 0;
        CAPTURE(round, least);
        CHECK(after.thin(true, least - 2) == 0);
        CHECK(after.thin(false, least - 2) == 0);
        for (std::size_t i = 0; i < before.solid.size(); ++i) REQUIRE(before.solid[i] <= after.solid[i]);
        for (const Outline& o : thick) {
            CHECK((area2(o) < 0) == o.hole);
            for (const Point p : o.points) CHECK(kAll.contains(p));
            // Never touching itself.
            auto sorted = o.points;
            std::sort(sorted.begin(), sorted.end());
            CHECK(std::adjacent_find(sorted.begin(), sorted.end()) == sorted.end());
        }
    }
    CHECK(with_hairs > 4);
}
