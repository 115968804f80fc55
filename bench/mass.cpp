// Levels of kit pieces: merging what blocks, and writing the file that an engine loads. 10,000 pieces of the demo's
// kits.
#include <benchmark/benchmark.h>

#include <algorithm>
#include <map>
#include <string>
#include <vector>

#include "edit/storeys.hpp"
#include "mass/shell.hpp"
#include "mass/write_glb.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"
#include "upright/snags.hpp"

using namespace vic;

namespace {

// Two storeys: floors everywhere, houses wall to wall with doors and windows, and things in some cells; or pieces
// heaped up as chance has it, which no level is.
struct Town {
    level::Project project;
    level::Level level;
    std::vector<std::shared_ptr<const scene::LoadedKit>> kits;
    std::vector<scene::Placed> placed;

    explicit Town(bool heap) {
        const fs::path dir = fs::path(DEMO).parent_path() / "pump-house";
        project = store::load(dir);
        kits = scene::load_kits(project, dir);
        constexpr int kSide = 58;
        level = level::make_level(project, "Town", {kSide, kSide}, {32, 32}, level::View::from_above);
        std::uint32_t next = project.next_id + 1000;
        level = edit::with_storey_above(level, 0, false, next);
        std::map<std::string, level::TileId> named;
        std::vector<level::TileId> pieces;
        for (const auto& [tile, piece] : kits[0]->piece_of) {
            named[kits[0]->file.bodies[piece].name] = tile;
            if (kits[0]->read.pieces[piece].cells == Size{1, 1}) pieces.push_back(tile);
        }
        make::Random random(5);
        const auto any = [&] {
            return pieces[static_cast<std::size_t>(random.below(static_cast<int>(pieces.size())))];
        };
        bool floor = true; // of each storey its first layer
        for (const level::LayerRef& layer : std::vector(level.layers)) {
            if (!layer->tiles()) continue;
            level::Grid& grid = level.edit(layer->id).grid();
            const auto put = [&](int x, int y, level::TileId tile, int turn) {
                grid.set({x, y}, level::Cell(tile, {static_cast<std::uint8_t>(turn)}, true), 0);
            };
            for (int y = 0; y < kSide; ++y)
                for (int x = 0; x < kSide; ++x) {
                    const bool across = y % 6 == 0, down = x % 6 == 0, opening = x % 6 == 3 || y % 6 == 3;
                    if (heap) {
                        if (random.flip(0.745)) put(x, y, any(), random.below(4));
                    } else if (floor) {
                        put(x, y, named[std::string("Plank floor ") + static_cast<char>('a' + random.below(3))], 0);
                    } else if (across && down) {
                        put(x, y, named["Brick wall cross"], 0);
                    } else if (across || down) {
                        put(x, y,
                            named[!opening           ? "Brick wall straight"
                                  : random.flip()    ? "Brick wall door"
                                  : random.flip(0.8) ? "Brick wall window"
                                                     : "Brick wall gate"],
                            across ? 1 : 0);
                    } else if (random.flip(0.28)) {
                        put(x, y, any(), random.below(4));
                    }
                }
            floor = !floor;
        }
        placed = scene::placed_in(project, level, kits, level::kMostStorey);
    }
};

const Town& town(bool heap) {
    static const Town houses(false), heaped(true);
    return heap ? heaped : houses;
}

void merge_pieces(benchmark::State& state) {
    const Town& t = town(state.range(0) != 0);
    std::size_t outlines = 0;
    for (auto _ : state) {
        const mass::Mass mass = mass::merged(t.placed, t.kits, scene::Storeys(t.kits));
        outlines = 0;
        for (const mass::Slab& slab : mass.slabs) outlines += slab.outlines->size();
    }
    state.counters["pieces"] = static_cast<double>(t.placed.size());
    state.counters["outlines"] = static_cast<double>(outlines);
}
BENCHMARK(merge_pieces)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

// A wall is laid and taken away again, somewhere in the middle: what of the level is merged then.
void merge_after_a_stroke(benchmark::State& state) {
    const Town& t = town(false);
    const scene::Storeys storeys(t.kits);
    std::vector<scene::Placed> more = t.placed;
    const std::size_t wall = static_cast<std::size_t>(
        std::find_if(more.begin(), more.end(),
                     [&](const scene::Placed& p) {
                         return p.storey == 0 && p.cells.y == 30 &&
                                t.kits[p.kit]->file.bodies[p.piece].name == "Brick wall straight";
                     }) -
        more.begin());
    for (int x = 20; x < 25; ++x) {
        scene::Placed p = t.placed[wall];
        p.cells.y = 28;
        p.cells.x = x;
        more.insert(more.begin() + static_cast<std::ptrdiff_t>(wall), p);
    }
    mass::Merger merger;
    merger.update(t.placed, t.kits, storeys);
    bool laid = false;
    for (auto _ : state) benchmark::DoNotOptimize(merger.update((laid = !laid) ? more : t.placed, t.kits, storeys));
    state.counters["pieces"] = static_cast<double>(t.placed.size());
}
BENCHMARK(merge_after_a_stroke)->Unit(benchmark::kMillisecond);

// All of walking there: merged, soaked from the start, and what holds one up.
void survey_pieces(benchmark::State& state) {
    const Town& t = town(false);
    level::Level level = t.level;
    level.marks.push_back({1, "Start", level::MarkKind::start, {3, 3, 1, 1}, {}, {}, 0, 0});
    std::size_t wet = 0, snags = 0;
    for (auto _ : state) {
        const upright::Survey survey = upright::survey(t.project, level, t.kits);
        snags = upright::snags(survey, t.project, level, t.kits).size();
        wet = 0;
        for (std::size_t i = 0; i < survey.soaked.wet.size(); ++i) wet += survey.soaked.at(i) ? 1 : 0;
    }
    state.counters["wet"] = static_cast<double>(wet);
    state.counters["snags"] = static_cast<double>(snags);
}
BENCHMARK(survey_pieces)->Unit(benchmark::kMillisecond);

void write_pieces(benchmark::State& state) {
    const Town& t = town(state.range(0) != 0);
    std::size_t bytes = 0;
    for (auto _ : state) bytes = mass::level_glb(t.project, t.level, t.kits).size();
    state.counters["bytes"] = static_cast<double>(bytes);
}
BENCHMARK(write_pieces)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

} // namespace
