// A physics engine as the judge: rays cast against chains made of the outlines stop where the cells begin to block.
#include <catch2/catch.hpp>
#include <cmath>

#include "outline/chains.hpp"
#include "outline/field.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using namespace outline_test;

TEST_CASE("Box2D is stopped by the chains where the cells block, and nowhere else", "[outline][physics]") {
    make::Random random(77);
    for (int round = 0; round < 25; ++round) {
        Patch f{{30 + random.below(30), 20 + random.below(30)}, {}};
        f.codes.resize(static_cast<std::size_t>(f.size.area()));
        for (auto& c : f.codes)
            c = static_cast<SolidCode>(random.flip(0.35) ? 1 : random.flip(0.2) ? 2 + random.below(4) : 0);
        const auto all = outlines(trace(f.size, f.source()));
        b2World world(b2Vec2(0, 0));
        b2BodyDef def;
        b2Body* body = world.CreateBody(&def);
        add_chains(*body, all);
        for (int ray = 0; ray < 200; ++ray) {
            const double x = random.below(f.size.w * 100) / 100.0 + 0.0031,
                         y = random.below(f.size.h * 100) / 100.0 + 0.0017;
            if (blocked(f, x, y)) continue; // rays begin in the open: chains stop only from outside
            const double angle = random.below(62832) / 10000.0;
            const double reach = 12;
            Nearest nearest;
            world.RayCast(&nearest, b2Vec2(static_cast<float>(x), static_cast<float>(y)),
                          b2Vec2(static_cast<float>(x + reach * std::cos(angle)),
                                 static_cast<float>(y + reach * std::sin(angle))));
            // Walk along the ray in small steps until a cell blocks.
            double first = reach;
            for (double d = 0; d < reach; d += 0.002)
                if (blocked(f, x + d * std::cos(angle), y + d * std::sin(angle))) {
                    first = d;
                    break;
                }
            const double hit = static_cast<double>(nearest.fraction) * reach;
            // A ray may graze a corner by less than a step: what it passes there is thinner than the step.
            if (std::abs(hit - first) > 0.01) CHECK(hit < first + 0.01);
            if (hit < first - 0.01) {
                const double px = x + hit * std::cos(angle), py = y + hit * std::sin(angle);
                const double rx = std::abs(px - std::round(px)), ry = std::abs(py - std::round(py));
                INFO(px << ", " << py);
                CHECK(std::max(rx, ry) < 0.01);
            }
        }
    }
}
