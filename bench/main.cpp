// vicinum-bench: how fast the core is. Sizes as in docs/architecture.md; ratios to a memcpy measured in the same run.
#include <benchmark/benchmark.h>

#include <cmath>
#include <cstring>

#include "base/chance.hpp"
#include "edit/stroke.hpp"
#include "feed.hpp"
#include "join/read_joins.hpp"
#include "outline/trace.hpp"
#include "sheet/islands.hpp"
#include "sheet/png.hpp"
#include "sheet/read_cut.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

constexpr int kSide = 4096;

// Eight materials in blobs; all of them join like the first of the small project.
struct World {
    make::Small small{{kSide, kSide}};
    World() {
        const level::Material rock = *small.project.material(1);
        for (int id = 3; id <= 8; ++id) {
            level::Material m = rock;
            m.id = static_cast<level::MaterialId>(id);
            m.name += std::to_string(id);
            small.project.put(m);
        }
        level::Material second = rock;
        second.id = 2;
        small.project.put(second);
        level::Level level = small.level();
        level::Grid& grid = level.edit(small.ground).grid();
        for (int cy = 0; cy < kSide / level::kChunk; ++cy)
            for (int cx = 0; cx < kSide / level::kChunk; ++cx) {
                level::Chunk& chunk = grid.edit({cx, cy});
                for (int i = 0; i < level::kChunk * level::kChunk; ++i) {
                    const int x = cx * level::kChunk + i % level::kChunk, y = cy * level::kChunk + i / level::kChunk;
                    chunk.materials[static_cast<std::size_t>(i)] =
                        static_cast<level::MaterialId>(1 + (place_hash(1, x / 5, y / 4) & 7U));
                }
            }
        small.set(level);
    }
};

const World& world() {
    static const World w;
    return w;
}

void copy_64_mib(benchmark::State& state) {
    std::vector<std::uint32_t> from(std::size_t{kSide} * kSide, 1), to(std::size_t{kSide} * kSide);
    for (auto _ : state) {
        std::memcpy(to.data(), from.data(), to.size() * 4);
        benchmark::DoNotOptimize(to.data());
        benchmark::ClobberMemory();
    }
}
BENCHMARK(copy_64_mib)->Unit(benchmark::kMillisecond);

// A level of 4096 x 4096 cells of 8 materials, all cases anew. The grid is unshared before, so that joining alone
// counts.
void resolve_4096(benchmark::State& state) {
    const World& w = world();
    const join::Rules rules(w.small.project);
    for (auto _ : state) {
        state.PauseTiming();
        level::Grid grid(Size{kSide, kSide});
        const level::Grid& from = w.small.level().layer(w.small.ground)->grid();
        for (int cy = 0; cy < kSide / level::kChunk; ++cy)
            for (int cx = 0; cx < kSide / level::kChunk; ++cx) grid.edit({cx, cy}) = *from.chunk({cx, cy});
        state.ResumeTiming();
        join::resolve(rules, grid, box_of(grid.size()), 1);
        benchmark::DoNotOptimize(grid.cell({17, 17}));
    }
}
BENCHMARK(resolve_4096)->Unit(benchmark::kMillisecond)->Iterations(8);

// Caves of 4096 x 4096 cells: corners, links and outlines from nothing.
void trace_4096(benchmark::State& state) {
    std::vector<std::uint8_t> codes(std::size_t{kSide} * kSide); // a byte a cell, so that it is tracing that is timed
    for (int y = 0; y < kSide; ++y)
        for (int x = 0; x < kSide; ++x) {
            const double h = std::sin(x * 0.11) + std::sin(y * 0.13) + std::sin((x + y) * 0.05) +
                             static_cast<double>(place_hash(3, x / 2, y / 2) & 255U) / 400.0;
            codes[static_cast<std::size_t>(y) * kSide + static_cast<std::size_t>(x)] = h > 0.4;
        }
    const outline::SolidSource source = source_of(codes, kSide);
    std::size_t vertices = 0;
    for (auto _ : state) {
        const outline::Trace trace = outline::trace({kSide, kSide}, source);
        vertices = 0;
        for (const auto& o : outline::outlines(trace)) vertices += o.points.size();
        benchmark::DoNotOptimize(vertices);
    }
    state.counters["vertices"] = static_cast<double>(vertices);
}
BENCHMARK(trace_4096)->Unit(benchmark::kMillisecond)->Iterations(5);

// One cell painted in that level: new value of the level, joins and outlines of what it touches.
void stroke_core_4096(benchmark::State& state) {
    const World& w = world();
    const join::Rules rules(w.small.project);
    const level::TileTable tiles(w.small.project);
    level::Level level = w.small.level();
    join::resolve(rules, level.edit(w.small.ground).grid(), level.cells(), w.small.ground);
    outline::Trace trace = outline::trace(level, tiles);
    int i = 0;
    for (auto _ : state) {
        const edit::Hand hand{edit::held::Material{static_cast<level::MaterialId>(1 + i % 8)}};
        const Point cell[] = {{(i * 37) % kSide, (i * 91) % kSide}};
        edit::Laid laid = edit::lay(w.small.project, rules, level, w.small.ground, hand, cell);
        const auto changed = level::difference(level, laid.level, w.small.project);
        outline::retrace(trace, laid.level, tiles, changed.cells);
        level = std::move(laid.level);
        ++i;
    }
}
BENCHMARK(stroke_core_4096)->Unit(benchmark::kMicrosecond);

// The joins alone of one painted cell.
void resolve_one_cell(benchmark::State& state) {
    const World& w = world();
    const join::Rules rules(w.small.project);
    level::Grid grid = w.small.level().layer(w.small.ground)->grid();
    join::resolve(rules, grid, box_of(grid.size()), 1);
    int i = 0;
    for (auto _ : state) {
        const Point p{(i * 37) % kSide, (i * 91) % kSide};
        grid.set(p, {}, static_cast<level::MaterialId>(1 + i % 8));
        join::resolve(rules, grid, {p.x - 1, p.y - 1, 3, 3}, 1);
        ++i;
    }
}
BENCHMARK(resolve_one_cell)->Unit(benchmark::kMicrosecond);

void resolve_64(benchmark::State& state) {
    const World& w = world();
    const join::Rules rules(w.small.project);
    level::Grid grid = w.small.level().layer(w.small.ground)->grid();
    const Box box{640, 640, 64, 64};
    for (auto _ : state) {
        join::resolve(rules, grid, box, 1);
        benchmark::DoNotOptimize(grid.cell({650, 650}));
    }
}
BENCHMARK(resolve_64)->Unit(benchmark::kMicrosecond);

void read_47_tiles_of_32(benchmark::State& state) {
    const auto tiles = make::tiles(join::cases(level::JoinKind::full), 32, make::Style::textured, 1);
    for (auto _ : state) benchmark::DoNotOptimize(join::read_joins(tiles, level::JoinKind::full));
}
BENCHMARK(read_47_tiles_of_32)->Unit(benchmark::kMillisecond);

void read_a_sheet_of_1024(benchmark::State& state) {
    std::vector<Image> tiles;
    for (unsigned i = 0; i < 60 * 60; ++i)
        tiles.push_back(make::tile(join::cases(level::JoinKind::full)[i % 47], 16, make::Style::textured, i));
    const Image sheet = make::sheet(tiles, 60, {2, 2}, {1, 1});
    for (auto _ : state) benchmark::DoNotOptimize(sheet::read_cut(sheet));
}
BENCHMARK(read_a_sheet_of_1024)->Unit(benchmark::kMillisecond);

Image sheet_of_2048(make::Style style, int gap) {
    std::vector<Image> tiles;
    const int columns = 2048 / (32 + gap);
    for (int i = 0; i < columns * columns; ++i)
        tiles.push_back(make::tile(join::cases(level::JoinKind::full)[static_cast<std::size_t>(i % 47)], 32, style,
                                   static_cast<unsigned>(i)));
    return make::sheet(tiles, columns, {}, {gap, gap});
}

// As the command does it: from the bytes of the file.
void read_a_sheet_of_2048(benchmark::State& state) {
    const std::string png = sheet::encode_png(sheet_of_2048(
        state.range(0) ? make::Style::see_through : make::Style::outlined, static_cast<int>(state.range(1))));
    for (auto _ : state) benchmark::DoNotOptimize(sheet::read_cut(sheet::decode_png(png, "sheet.png")));
}
BENCHMARK(read_a_sheet_of_2048)->Args({0, 0})->Args({0, 1})->Args({1, 0})->Args({1, 2})->Unit(benchmark::kMillisecond);

void read_islands_of_2048(benchmark::State& state) {
    const Image image = sheet_of_2048(make::Style::see_through, 4);
    for (auto _ : state) benchmark::DoNotOptimize(sheet::IslandMap(image));
}
BENCHMARK(read_islands_of_2048)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
