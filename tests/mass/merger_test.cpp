// Merging only what changed: against merging all.
#include <catch2/catch.hpp>
#include <cmath>

#include "kit/made_house.hpp"
#include "mass/merge.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

void check_alike(const mass::Mass& now, const mass::Mass& anew) {
    CHECK(now.pieces == anew.pieces);
    CHECK(now.open == anew.open);
    REQUIRE(now.slabs.size() == anew.slabs.size());
    for (std::size_t i = 0; i < now.slabs.size(); ++i) {
        const mass::Slab &a = now.slabs[i], &b = anew.slabs[i];
        REQUIRE(std::array{a.from, a.to, a.storey} == std::array{b.from, b.to, b.storey});
        REQUIRE(*a.outlines == *b.outlines);
    }
    REQUIRE(now.bodies.size() == anew.bodies.size());
    for (std::size_t i = 0; i < now.bodies.size(); ++i) {
        CHECK(now.bodies[i]->points == anew.bodies[i]->points);
        CHECK(now.bodies[i]->storey == anew.bodies[i]->storey);
    }
    REQUIRE(now.levels.size() == anew.levels.size());
    for (std::size_t i = 0; i < now.levels.size(); ++i) {
        const mass::Level &a = now.levels[i], &b = anew.levels[i];
        REQUIRE(std::array{a.height, int{a.up}, a.storey} == std::array{b.height, int{b.up}, b.storey});
        REQUIRE(*a.outlines == *b.outlines);
    }
}

// Pieces anywhere, in all turns, on three storeys; now and then free of the lattice, aslant.
class Chance {
  public:
    explicit Chance(unsigned seed) : random_(seed) {
        auto kit = std::make_shared<scene::LoadedKit>(*house.kit);
        kit->blocking[kit->piece_of.at(house.tile("Lean-to"))] = {level::PieceBlocks::ramp, 0, {}};
        house.kits = {kit};
    }
    scene::Placed piece(int reach, bool aslant) {
        scene::Placed p;
        p.piece = static_cast<std::size_t>(random_.below(8));
        const Size cells = house.kit->read.pieces[p.piece].cells;
        p.turn = {static_cast<std::uint8_t>(random_.below(8))};
        p.cells = {random_.below(reach) - reach / 4, random_.below(reach) - reach / 4, cells.w, cells.h};
        if (p.turn.quarters() % 2 == 1) std::swap(p.cells.w, p.cells.h);
        p.storey = random_.below(3);
        if (random_.flip(0.1)) p.half = {1, 1};
        if (!aslant || !random_.flip(0.2)) return p;
        const double angle = random_.below(360) * 3.14159265 / 180;
        const auto c = static_cast<float>(std::cos(angle)), s = static_cast<float>(std::sin(angle));
        const float x = static_cast<float>(p.cells.x), z = static_cast<float>(p.cells.y);
        p.free = scene::Placing{{{c, 0, s, x}, {0, 1, 0, static_cast<float>(random_.below(90)) / 64}, {-s, 0, c, z}}};
        return p;
    }
    make::Random& random() { return random_; }
    kit_test::House house;

  private:
    make::Random random_;
};

} // namespace

TEST_CASE("what is merged again only where it changed is as if all were merged anew", "[mass][merger]") {
    for (int round = 0; round < make::rounds(6, 60); ++round) {
        Chance chance(static_cast<unsigned>(round) + 11);
        make::Random& random = chance.random();
        const scene::Storeys storeys(chance.house.kits);
        // Large ones, where a change is small; and small ones, which grow beyond what they had.
        const int reach = round % 2 == 0 ? 40 : 12;
        std::vector<scene::Placed> placed;
        for (int i = 0; i < 10 * reach; ++i) placed.push_back(chance.piece(reach, round % 3 == 0));
        mass::Merger merger;
        std::size_t ramps = 0;
        for (int step = 0; step < 12; ++step) {
            for (int i = random.below(4); i > 0 && !placed.empty(); --i)
                placed.erase(placed.begin() + random.below(static_cast<int>(placed.size())));
            for (int i = random.below(4); i > 0; --i)
                placed.insert(placed.begin() + random.below(static_cast<int>(placed.size()) + 1),
                              chance.piece(step % 5 == 4 ? 2 * reach : reach, round % 3 == 0));
            if (step == 7) std::reverse(placed.begin(), placed.end()); // another order is no change
            if (step == 9) placed.resize(placed.size() / 8);
            INFO("round " << round << ", step " << step);
            const mass::Mass now = merger.update(placed, chance.house.kits, storeys);
            check_alike(now, mass::merged(placed, chance.house.kits, storeys));
            ramps += now.bodies.size();
        }
        CHECK(ramps > 0);
        placed.clear();
        check_alike(merger.update(placed, chance.house.kits, storeys), {});
    }
}

TEST_CASE("storeys of another height, and another kit, are seen", "[mass][merger]") {
    Chance chance(3);
    std::vector<scene::Placed> placed;
    for (int i = 0; i < 60; ++i) placed.push_back(chance.piece(12, false));
    mass::Merger merger;
    const scene::Storeys low(chance.house.kits), high(chance.house.kits, {{0, 160}});
    const auto update = [&](const auto& kits, const scene::Storeys& storeys) {
        const mass::Mass now = merger.update(placed, kits, storeys);
        check_alike(now, mass::merged(placed, kits, storeys));
        return mass::volume2(now);
    };
    const std::int64_t before = update(chance.house.kits, low);
    CHECK(merger.update(placed, chance.house.kits, high).slabs.back().to > 3 * 96);
    update(chance.house.kits, high);
    auto other = std::make_shared<scene::LoadedKit>(*chance.house.kit);
    for (std::size_t i = 0; i < other->read.pieces.size(); ++i)
        other->blocking[i] = {level::PieceBlocks::nothing, 0, {}};
    CHECK(update(std::vector<std::shared_ptr<const scene::LoadedKit>>{other}, low) == 0);
    CHECK(update(chance.house.kits, low) == before);
}
