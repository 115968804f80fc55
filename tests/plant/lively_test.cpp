// How lively a planting looks, on layouts of which it is known.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "plant/lively.hpp"
#include "support/make.hpp"

using namespace vic;
using plant::Lively;

namespace {

struct Yard : make::Small {
    level::Level level;
    Yard() : Small({120, 120}) {
        level = Small::level();
        level.edit(props).props() = level::Props();
    }
    void put(Point at, int light = 0, bool mirrored = false) {
        level::Prop p{project.next_id++, prop, at};
        p.look.light = static_cast<std::int8_t>(light);
        p.look.mirrored = mirrored;
        level.edit(props).props().put(p);
    }
    [[nodiscard]] Lively lively() const { return plant::lively_of(project, level, *level.layer(props)); }
};

} // namespace

TEST_CASE("evenness is 1 by chance, less in heaps and 2 on a lattice", "[plant][lively]") {
    make::Random random(5);
    Yard chance, lattice, heaps;
    for (int i = 0; i < 900; ++i) {
        chance.put({random.below(1920), random.below(1920)});
        lattice.put({32 + i % 30 * 64, 32 + i / 30 * 64});
        heaps.put({i % 6 * 320 + random.below(60), i % 7 * 270 + random.below(60)});
    }
    CHECK(chance.lively().evenness == Approx(1).margin(0.15));
    CHECK(lattice.lively().evenness > 1.7);
    CHECK(heaps.lively().evenness < 0.8);
    // As by chance, whatever the density.
    Yard thin;
    for (int i = 0; i < 300; ++i) thin.put({random.below(1920), random.below(1920)});
    CHECK(thin.lively().evenness < 1.3);
}

TEST_CASE("the same right beside is hot, and what the eye tells apart is cold", "[plant][lively]") {
    Yard yard;
    const int wide = level::PropKinds(yard.project).box({1, yard.prop, {0, 0}}).w;
    yard.put({200, 200});
    CHECK(yard.lively().heat.empty());
    CHECK(yard.lively().alike == 0);
    yard.put({200 + wide, 200}, 30);          // lighter
    yard.put({200 + 2 * wide, 200}, 0, true); // mirrored
    CHECK(yard.lively().heat.empty());
    yard.put({200, 200 + 10 * wide}); // far off
    CHECK(yard.lively().heat.empty());
    yard.put({200 + 3 * wide, 200});
    const Lively one = yard.lively();
    REQUIRE(one.heat.size() == 2);
    CHECK(one.alike == Approx(3 * wide));
    CHECK(one.heat[1].hot == Approx(1 - std::exp(-0.25)));
    yard.put({200, 200 + wide}, 3); // nobody sees so little
    const Lively two = yard.lively();
    REQUIRE(two.heat.size() == 3);
    CHECK(two.alike == Approx(wide));
    CHECK(two.heat.back().hot > one.heat.back().hot);
    for (std::size_t i = 1; i < two.heat.size(); ++i) CHECK(two.heat[i - 1].hot <= two.heat[i].hot);
    for (const Lively::Heat& h : two.heat) CHECK((h.hot > 0 && h.hot <= 1));
}
