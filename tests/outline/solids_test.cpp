// Solid shapes for engines: each place that is enclosed, once, whatever they are made of.
#include "outline/solids.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "outline/convex.hpp"
#include "outline/field.hpp"
#include "support/make.hpp"

using namespace vic;
using namespace vic::outline;
using level::EngineShapes;

namespace {

level::Level random_level(make::Small& small, make::Random& random) {
    level::Level level = small.level();
    level.layers.clear();
    level.plane = 0;
    level::Layer layer;
    layer.id = small.project.next_id++;
    level::Blockers b(level.size);
    for (int y = 0; y < level.size.h; ++y)
        for (int x = 0; x < level.size.w; ++x)
            if (random.flip(0.5))
                b.set({x, y}, random.flip(0.7) ? level::TileShape::full
                                               : static_cast<level::TileShape>(random.below(level::kTileShapes - 2)));
    b.set_free({{1, {{100, 100}, {700, 180}, {300, 600}}, 0, false, 0, {}, {}}});
    layer.content = b;
    level.layers.push_back(std::make_shared<const level::Layer>(std::move(layer)));
    return level;
}

} // namespace

TEST_CASE("parts, rectangles and boxes together are what the outlines enclose, each place once", "[solids]") {
    make::Random random(9);
    for (int round = 0; round < 12; ++round) {
        make::Small small({14, 12});
        const level::Level level = random_level(small, random);
        const level::TileTable tiles(small.project);
        const auto all = outlines(trace(level, tiles));
        std::int64_t enclosed = 0;
        for (const Outline& o : all) enclosed += area2(o);
        std::size_t boxes[4] = {};
        for (const EngineShapes shapes : {EngineShapes::parts, EngineShapes::rectangles, EngineShapes::cells}) {
            const Solids made = solids(level, tiles, shapes);
            boxes[static_cast<std::size_t>(shapes)] = made.boxes.size();
            std::int64_t area = 0;
            for (const auto& part : made.parts) {
                CHECK(part.size() <= 4);
                CHECK(level::area2(part) > 0);
                area += level::area2(part);
            }
            for (const Box& box : made.boxes) area += 2 * box.size().area() * kUnit * kUnit;
            std::int64_t slack = 0;
            (void)convex_parts(all, &slack);
            CHECK(std::abs(area - enclosed) <= slack + 64 * 64);
            // Places at random lie in one of them where they lie in what blocks.
            for (int i = 0; i < 300; ++i) {
                const double x = random.below(14 * 1000) / 1000.0 + 0.0003,
                             y = random.below(12 * 1000) / 1000.0 + 0.0007;
                int in = 0;
                for (const auto& part : made.parts) in += outline_test::holds(part, x * kUnit, y * kUnit);
                for (const Box& b : made.boxes) in += x > b.x && x < b.right() && y > b.y && y < b.bottom();
                // A unit beside a slanted line either may be.
                bool near = false;
                for (const double d : {-0.025, 0.025}) {
                    near = near || outline_test::winding(all, x + d, y) != outline_test::winding(all, x, y) ||
                           outline_test::winding(all, x, y + d) != outline_test::winding(all, x, y);
                }
                CHECK(in <= 2);
                if (!near) CHECK((in > 0) == (outline_test::winding(all, x, y) != 0));
            }
        }
        CHECK(boxes[static_cast<std::size_t>(EngineShapes::rectangles)] <
              boxes[static_cast<std::size_t>(EngineShapes::cells)]);
        CHECK(boxes[static_cast<std::size_t>(EngineShapes::parts)] == 0);
    }
}
