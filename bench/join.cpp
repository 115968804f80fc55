// How fast the Join stage works with a sheet of 900 tiles: what it shows of a material, and what its commands do.
#include <benchmark/benchmark.h>

#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "edit/joins.hpp"
#include "edit/sheets.hpp"
#include "join/compose.hpp"
#include "join/proof.hpp"
#include "join/read_joins.hpp"
#include "join/seams.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

struct Many {
    level::Project project;
    level::SheetId sheet = 0;
    level::MaterialId material = 0;
    [[nodiscard]] const level::JoinSet& joins() const { return project.material(material)->joins; }
};

// A sheet of 900 tiles of `side` pixels, the 47 cases many times over. Of every third case there is a tile.
Many many(int side) {
    const auto& masks = join::cases(level::JoinKind::full);
    std::vector<Image> tiles;
    for (unsigned i = 0; tiles.size() < 900; ++i)
        for (Image& tile : make::tiles(masks, side, make::Style::textured, i))
            if (tiles.size() < 900) tiles.push_back(std::move(tile));
    Many out;
    out.project = edit::add_sheet(make::Small().project, "sheets/many.png", make::sheet(tiles, 30, {}, {}), "Many",
                                  {{side, side}, {}, {}, 1}, true, out.sheet);
    join::JoinReading reading;
    for (std::size_t i = 0; i < 900; ++i)
        if (i % masks.size() % 3 != 1) reading.tiles.push_back({static_cast<int>(i), masks[i % masks.size()], 1.0});
    const level::Sheet sheet = *out.project.sheet(out.sheet);
    out.project =
        edit::add_material(std::move(out.project), sheet, level::JoinKind::full, reading, "Many", out.material);
    return out;
}

void composable_of_900(benchmark::State& state) {
    const Many m = many(static_cast<int>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(join::composable(m.project, m.joins(), level::kAllTurns));
}
BENCHMARK(composable_of_900)->Arg(32)->Arg(128)->Unit(benchmark::kMillisecond);

void compose_missing_of_900(benchmark::State& state) {
    const Many m = many(static_cast<int>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(edit::compose_missing(m.project, m.material).made);
}
BENCHMARK(compose_missing_of_900)->Arg(32)->Arg(128)->Unit(benchmark::kMillisecond);

void candidates_of_900(benchmark::State& state) {
    const Many m = many(static_cast<int>(state.range(0)));
    const join::Mask mask = join::cases(level::JoinKind::full)[1];
    for (auto _ : state)
        benchmark::DoNotOptimize(join::candidates(m.project, m.joins(), mask, {m.sheet}, level::kNoTurns, {}, 6));
}
BENCHMARK(candidates_of_900)->Arg(32)->Arg(128)->Unit(benchmark::kMillisecond);

void least_to_draw_of_full(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(join::least_to_draw(level::JoinKind::full, {}, level::kAllTurns, true));
}
BENCHMARK(least_to_draw_of_full)->Unit(benchmark::kMillisecond);

void proof_of_full(benchmark::State& state) {
    std::uint32_t seed = 1;
    const auto of = static_cast<join::ProofOf>(state.range(0));
    for (auto _ : state) benchmark::DoNotOptimize(join::make_proof(level::JoinKind::full, seed++, of));
}
BENCHMARK(proof_of_full)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

} // namespace
