// Outlines as chains of a physics engine, the judge of several tests.
#pragma once

#include <box2d/box2d.h>

#include <vector>

#include "outline/trace.hpp"

namespace outline_test {

inline void add_chains(b2Body& body, const std::vector<vic::outline::Outline>& outlines) {
    for (const auto& o : outlines) {
        std::vector<b2Vec2> points;
        for (const vic::Point p : o.points)
            points.emplace_back(static_cast<float>(p.x) / vic::outline::kUnit,
                                static_cast<float>(p.y) / vic::outline::kUnit);
        b2ChainShape chain;
        chain.CreateLoop(points.data(), static_cast<int>(points.size()));
        body.CreateFixture(&chain, 0);
    }
}

struct Nearest : b2RayCastCallback {
    float fraction = 1;
    float ReportFixture(b2Fixture*, const b2Vec2&, const b2Vec2&, float at) override { return fraction = at; }
};

} // namespace outline_test
