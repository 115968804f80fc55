// How fast plantings grow: a million places on one thread and on two, beside the textbook's method; a local change in
// them; and a marsh edge in six passes.
#include <benchmark/benchmark.h>

#include <cmath>
#include <cstdint>
#include <random>
#include <vector>

#include "edit/plant.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "plant/grow.hpp"
#include "plant/scatter.hpp"
#include "store/project_files.hpp"
#include "support/hands.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

constexpr int kMillionApart = 24;    // pixels
constexpr int kMillionSide = 28'700; // pixels of a square with a million places

class All : public plant::Ground {
  public:
    [[nodiscard]] int grain() const override { return 4; }
    Open open(const Box&, std::uint8_t*) const override { return Open::all; }
};

plant::Spread spread() {
    plant::Spread out;
    out.kinds = {{1, kMillionApart * plant::kParts}};
    return out;
}

void plant_full(benchmark::State& state) {
    std::size_t count = 0;
    for (auto _ : state) {
        plant::Scatter scatter(spread(), {0, 0, kMillionSide, kMillionSide});
        scatter.settle(All(), {}, state.range(0) > 1);
        count = scatter.count();
    }
    state.counters["places"] = static_cast<double>(count);
    state.SetItemsProcessed(state.iterations() * static_cast<std::int64_t>(count));
}
BENCHMARK(plant_full)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond);

// The textbook's: from each place thirty tries in the ring around it, places kept in cells. R. Bridson, "Fast Poisson
// disk sampling in arbitrary dimensions", SIGGRAPH 2007. It does not come to be full.
std::size_t ring_of_tries(int side) {
    const double r = kMillionApart, cell = r / std::sqrt(2.0);
    const int across = static_cast<int>(side / cell) + 1;
    struct At {
        float x, y;
    };
    std::vector<At> places;
    std::vector<int> held(static_cast<std::size_t>(across) * static_cast<std::size_t>(across), -1);
    std::vector<int> active;
    std::mt19937 random(1);
    const auto unit = [&] { return static_cast<double>(random()) / 4294967296.0; };
    const auto put = [&](double x, double y) {
        held[static_cast<std::size_t>(y / cell) * static_cast<std::size_t>(across) +
             static_cast<std::size_t>(x / cell)] = static_cast<int>(places.size());
        active.push_back(static_cast<int>(places.size()));
        places.push_back({static_cast<float>(x), static_cast<float>(y)});
    };
    const auto fits = [&](double x, double y) {
        const int cx = static_cast<int>(x / cell), cy = static_cast<int>(y / cell);
        for (int v = std::max(0, cy - 2); v <= std::min(across - 1, cy + 2); ++v)
            for (int u = std::max(0, cx - 2); u <= std::min(across - 1, cx + 2); ++u) {
                const int i =
                    held[static_cast<std::size_t>(v) * static_cast<std::size_t>(across) + static_cast<std::size_t>(u)];
                if (i < 0) continue;
                const double dx = places[static_cast<std::size_t>(i)].x - x,
                             dy = places[static_cast<std::size_t>(i)].y - y;
                if (dx * dx + dy * dy < r * r) return false;
            }
        return true;
    };
    put(side / 2.0, side / 2.0);
    while (!active.empty()) {
        const auto at = static_cast<std::size_t>(unit() * static_cast<double>(active.size()));
        const At from = places[static_cast<std::size_t>(active[at])];
        bool found = false;
        for (int i = 0; i < 30 && !found; ++i) {
            const double angle = unit() * 2 * 3.14159265358979, far = r * std::sqrt(1 + 3 * unit());
            const double x = from.x + far * std::cos(angle), y = from.y + far * std::sin(angle);
            if (x < 0 || y < 0 || x >= side || y >= side || !fits(x, y)) continue;
            put(x, y);
            found = true;
        }
        if (found) continue;
        active[at] = active.back();
        active.pop_back();
    }
    return places.size();
}

void plant_textbook(benchmark::State& state) {
    std::size_t count = 0;
    for (auto _ : state) count = ring_of_tries(kMillionSide);
    state.counters["places"] = static_cast<double>(count);
    state.SetItemsProcessed(state.iterations() * static_cast<std::int64_t>(count));
}
BENCHMARK(plant_textbook)->Unit(benchmark::kMillisecond);

// A tree comes to stand among a million places, and goes again.
void plant_local_edit(benchmark::State& state) {
    plant::Scatter scatter(spread(), {0, 0, kMillionSide, kMillionSide});
    scatter.settle(All(), {});
    int at = 2000;
    plant::Obstacles none;
    for (auto _ : state) {
        const Point tree{at, at};
        plant::Obstacles one;
        one.add({tree, 60 * plant::kParts});
        const std::vector<Box> changed{Box{tree.x, tree.y, 1, 1}.grown(60)};
        benchmark::DoNotOptimize(scatter.settle_again(All(), one, changed));
        benchmark::DoNotOptimize(scatter.settle_again(All(), none, changed));
        at = at > 20'000 ? 2000 : at + 371;
    }
}
BENCHMARK(plant_local_edit)->Unit(benchmark::kMillisecond);

// A bed as large as the demo's marsh, in six passes with all that recipes have, as while a slider is dragged.
void plant_marsh_edge(benchmark::State& state) {
    make::Small small({96, 64});
    const join::Rules rules(small.project);
    level::Level level = edit::lay(small.project, rules, small.level(), small.ground, make::material(1),
                                   level::Region(Box{56, 0, 24, 64}))
                             .level;
    level =
        edit::lay(small.project, rules, level, small.ground, make::material(2), level::Region(Box{66, 0, 4, 64})).level;
    level::Layer layer;
    layer.id = 800;
    layer.content = level::PlantedProps{};
    level.layers.push_back(std::make_shared<const level::Layer>(layer));
    level::Planting recipe;
    recipe.area = {{.of = level::AreaOf::material, .material = 1}};
    const int apart[] = {120, 70, 14, 30, 12, 20};
    for (int i = 0; i < 6; ++i) {
        level::Pass pass;
        pass.kinds = {{small.prop}};
        pass.apart = apart[i];
        pass.least_scale = 80;
        pass.most_scale = 120;
        if (i == 2) pass.clumps = {60, 150, 0, false};
        if (i == 2) pass.where = {{.of = level::AreaOf::material, .material = 2, .to = 60, .falloff = 30}};
        if (i == 5) pass.where = {{.of = level::AreaOf::pass, .pass = 0, .to = 40}};
        if (i == 4) pass.rim = 60;
        recipe.passes.push_back(pass);
    }
    std::size_t count = 0;
    for (auto _ : state) {
        recipe.passes[2].apart = recipe.passes[2].apart == 14 ? 15 : 14;
        count = plant::grow(small.project, level, 800, recipe).props.size();
    }
    state.counters["props"] = static_cast<double>(count);
}
BENCHMARK(plant_marsh_edge)->Unit(benchmark::kMillisecond);

// The demo's own, in seven passes, around all that stands there.
void plant_demo_marsh_edge(benchmark::State& state) {
    const level::Project project = store::load(DEMO);
    level::Level level = *project.level("brine-pans");
    level::LayerId bank = 0;
    for (const level::LayerRef& l : level.layers)
        if (l->planted()) bank = l->id;
    level::Planting recipe = level.layer(bank)->planted()->recipe;
    std::size_t count = 0;
    for (auto _ : state) {
        recipe.passes[4].apart = recipe.passes[4].apart == 9 ? 10 : 9;
        count = plant::grow(project, level, bank, recipe).props.size();
    }
    state.counters["props"] = static_cast<double>(count);
}
BENCHMARK(plant_demo_marsh_edge)->Unit(benchmark::kMillisecond);

} // namespace
