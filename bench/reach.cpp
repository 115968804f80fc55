// Reach in a large level seen from the side: caves with ledges all over.
#include <benchmark/benchmark.h>

#include "support/make.hpp"
#include "walk/reach.hpp"
#include "walk/soak.hpp"

using namespace vic;

namespace {

struct Caves {
    explicit Caves(int side) : small({side, side}, level::View::from_the_side) {
        make::Random random(5);
        level::Level level = small.level();
        level::Grid& grid = level.edit(small.ground).grid();
        // Storeys of ledges that are three cells above one another, with gaps that can be jumped over.
        for (int y = side - 1; y > 5; y -= 3)
            for (int x = random.below(4); x < side;) {
                const int w = y == side - 1 ? side : 1 + random.below(6);
                for (int k = 0; k < w && x + k < side; ++k) grid.set({x + k, y}, level::Cell(10), 0);
                x += w + 2 + random.below(3);
            }
        level.marks = {{1, "Start", level::MarkKind::start, {2, side - 3, 1, 2}}};
        for (int y = side - 5; y < side - 1; ++y)
            for (int x = 0; x < 6; ++x) grid.set({x, y}, level::Cell(), 0);
        small.set(level);
    }
    make::Small small;
};

void reach_from_start(benchmark::State& state) {
    const Caves caves(static_cast<int>(state.range(0)));
    std::int64_t reached = 0, ledges = 0;
    for (auto _ : state) {
        const walk::Reach reach(caves.small.project, caves.small.level());
        reached = 0;
        ledges = static_cast<std::int64_t>(reach.ledges().size());
        for (const walk::Ledge& l : reach.ledges()) reached += l.gets != walk::Gets::not_reached;
    }
    state.counters["ledges"] = static_cast<double>(ledges);
    state.counters["reached"] = static_cast<double>(reached);
}
BENCHMARK(reach_from_start)->Arg(64)->Arg(128)->Arg(512)->Unit(benchmark::kMillisecond);

// One cell of it is filled, and emptied again.
void reach_after_one_cell(benchmark::State& state) {
    const Caves caves(static_cast<int>(state.range(0)));
    level::Level level = caves.small.level();
    walk::Reach reach(caves.small.project, level);
    make::Random random(8);
    Point at;
    bool filled = false;
    for (auto _ : state) {
        if (!filled) at = {8 + random.below(level.size.w - 8), random.below(level.size.h - 8)};
        filled = !filled;
        state.PauseTiming();
        level::Grid& grid = level.edit(caves.small.ground).grid();
        grid.set(at, grid.cell(at).tile() == 0 ? level::Cell(10) : level::Cell(), 0);
        state.ResumeTiming();
        if (!reach.follow(caves.small.project, level, {{at.x, at.y, 1, 1}})) state.SkipWithError("made anew");
    }
}
BENCHMARK(reach_after_one_cell)->Arg(128)->Arg(512)->Unit(benchmark::kMillisecond);

void soak_caves(benchmark::State& state) {
    const Caves caves(static_cast<int>(state.range(0)));
    const level::TileTable tiles(caves.small.project);
    for (auto _ : state)
        benchmark::DoNotOptimize(walk::soak(caves.small.level(), {tiles}, walk::start_of(caves.small.level())));
}
BENCHMARK(soak_caves)->Arg(512)->Unit(benchmark::kMillisecond);

} // namespace
