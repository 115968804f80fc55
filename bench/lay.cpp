// How fast laying is: fills with their history step, undo, opening and saving large projects, and what they weigh.
#include <benchmark/benchmark.h>
#include <malloc.h>

#include "base/chance.hpp"
#include "base/pool.hpp"
#include "edit/document.hpp"
#include "edit/fill.hpp"
#include "edit/joins.hpp"
#include "edit/levels.hpp"
#include "edit/overlay.hpp"
#include "store/journal.hpp"
#include "store/project_files.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

constexpr int kLarge = 4096;

edit::Hand rock() {
    edit::Hand hand{edit::held::Material{1}};
    return hand;
}

std::size_t weight() { // bytes in use
    const auto info = mallinfo2();
    return info.uordblks + info.hblkhd + Pool::in_use();
}

// The fill of a whole empty level: what is filled, the cells laid and joined, and the step of history.
void fill_empty_4096(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    level::Material m = *small.project.material(1);
    for (int i = 1; i < state.range(0); ++i)
        m.joins.cases[255].push_back({static_cast<level::TileId>(49 + i), 100, {}});
    small.project.put(m);
    const join::Rules rules(small.project);
    edit::Document document(small.project, "/tmp/none");
    // What is worked out once for a program's life is not what is measured.
    benchmark::DoNotOptimize(
        edit::lay(small.project, rules, small.level(), small.ground, rock(), level::Region(Box{0, 0, 99, 99})));
    for (auto _ : state) {
        const level::Level& level = *document.project().level(small.id);
        const auto cells = edit::fill_cells(level, small.ground, {9, 9}, level.cells());
        auto laid = edit::lay(document.project(), rules, level, small.ground, rock(), cells);
        level::Project next = document.project();
        next.put(std::move(laid.level));
        document.apply("Fill", std::move(next));
        state.PauseTiming();
        state.counters["bytes_per_cell"] = 0;
        document.undo();
        document.apply("", document.project()); // the redo is dropped
        document.undo();
        state.ResumeTiming();
    }
}
BENCHMARK(fill_empty_4096)->ArgName("variants")->Arg(1)->Arg(3)->Unit(benchmark::kMillisecond)->Iterations(6);

// Caves: half of the cells are walls, in blobs.
level::Level caves(const make::Small& small) {
    level::Level level = small.level();
    level::Grid& grid = level.edit(small.ground).grid();
    for (int cy = 0; cy < kLarge / level::kChunk; ++cy)
        for (int cx = 0; cx < kLarge / level::kChunk; ++cx) {
            level::Chunk& chunk = grid.edit({cx, cy});
            for (int i = 0; i < level::kChunk * level::kChunk; ++i) {
                const int x = cx * level::kChunk + i % level::kChunk;
                const int y = cy * level::kChunk + i / level::kChunk;
                const bool wall = (place_hash(3, x / 5, y / 4) & 15U) < 5 || (place_hash(4, x / 2, y / 2) & 15U) == 0;
                chunk.materials[static_cast<std::size_t>(i)] = wall ? 2 : 0;
            }
        }
    return level;
}

void fill_ragged_cave_4096(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    const join::Rules rules(small.project);
    small.set(caves(small));
    Point from{0, 0};
    while (small.level().layer(small.ground)->grid().material(from) != 0) from.x += 3;
    std::int64_t filled = 0;
    for (auto _ : state) {
        const auto cells = edit::fill_cells(small.level(), small.ground, from, small.level().cells());
        auto laid = edit::lay(small.project, rules, small.level(), small.ground, rock(), cells);
        filled = cells.count();
        benchmark::DoNotOptimize(laid.level);
    }
    state.counters["cells"] = double(filled);
}
BENCHMARK(fill_ragged_cave_4096)->Unit(benchmark::kMillisecond)->Iterations(4);

void undo_fill_4096(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    const join::Rules rules(small.project);
    edit::Document document(small.project, "/tmp/none");
    level::Project next = document.project();
    next.put(
        edit::lay(next, rules, *next.level(small.id), small.ground, rock(), level::Region(Box{0, 0, kLarge, kLarge}))
            .level);
    document.apply("Fill", std::move(next));
    for (auto _ : state) {
        document.undo();
        document.redo();
    }
}
BENCHMARK(undo_fill_4096)->Unit(benchmark::kMillisecond);

// A pencil stroke of one cell on a level that is full, the overlay and the step of history included.
void pencil_core(benchmark::State& state) {
    const int side = static_cast<int>(state.range(0));
    make::Small small({side, side});
    const join::Rules rules(small.project);
    level::Level level = small.level();
    level = edit::lay(small.project, rules, level, small.ground, rock(), level::Region(Box{0, 0, 1024, 1024})).level;
    const edit::Hand sand{edit::held::Material{2}};
    int x = 0;
    for (auto _ : state) {
        x = (x + 7) % 1000;
        const level::Region cell(Box{x, 500, 1, 1});
        auto laid = edit::lay_over(small.project, rules, level,
                                   {.layer = small.ground, .hand = sand, .cells = cell, .overlay_name = "over"});
        benchmark::DoNotOptimize(laid.level);
    }
}
BENCHMARK(pencil_core)->Arg(1024)->Arg(16384)->Unit(benchmark::kMicrosecond);

// A fill that erases all of an overlay which covers its layer.
void erase_overlay_4096(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    const join::Rules rules(small.project);
    const level::Region all(Box{0, 0, kLarge, kLarge});
    level::Level level = edit::lay(small.project, rules, small.level(), small.ground, rock(), all).level;
    const level::LayerId overlay = small.project.next_id++;
    level = edit::add_layer(level, overlay, "Over", level::LayerKind::tiles, small.ground);
    level.edit(overlay).tiles()->overlay_of = small.ground;
    level = edit::lay(small.project, rules, level, overlay, rock(), all).level;
    const edit::Hand eraser{edit::held::Eraser{}};
    for (auto _ : state)
        benchmark::DoNotOptimize(
            edit::lay_over(small.project, rules, level, {.layer = small.ground, .hand = eraser, .cells = all}).level);
}
BENCHMARK(erase_overlay_4096)->Unit(benchmark::kMillisecond)->Iterations(3);

// Four full layers of materials and of tiles laid by hand.
level::Project large(make::Small& small) {
    level::Project p = small.project;
    level::Level level = *p.level(small.id);
    const join::Rules rules(p);
    while (level.layers.size() < 5) {
        const auto slab = std::make_shared<level::Layer>(*level.layer(small.ground));
        slab->id = p.next_id++;
        slab->name = "Layer " + std::to_string(slab->id);
        level.layers.push_back(slab);
    }
    int n = 0;
    for (const level::LayerRef& l : std::vector(level.layers)) {
        if (l->kind() != level::LayerKind::tiles) continue;
        ++n;
        level::Grid& grid = level.edit(l->id).grid();
        for (int cy = 0; cy < kLarge / level::kChunk; ++cy)
            for (int cx = 0; cx < kLarge / level::kChunk; ++cx) {
                level::Chunk& chunk = grid.edit({cx, cy});
                for (int i = 0; i < level::kChunk * level::kChunk; ++i) {
                    const int x = cx * level::kChunk + i % level::kChunk;
                    const int y = cy * level::kChunk + i / level::kChunk;
                    chunk.materials[static_cast<std::size_t>(i)] =
                        static_cast<level::MaterialId>(1 + (place_hash(static_cast<unsigned>(n), x / 23, y / 17) & 1U));
                }
            }
        join::resolve(rules, grid, level.cells(), l->id);
    }
    p.put(std::move(level));
    return p;
}

void open_4096_by_4(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    make::Folder dir;
    make::save_with_pictures(large(small), dir.path());
    double bytes = 0;
    for (auto _ : state) {
        const std::size_t before = weight();
        const level::Project p = store::load(dir.path());
        bytes = double(weight() - before) / (4.0 * kLarge * kLarge);
        benchmark::DoNotOptimize(p);
    }
    state.counters["bytes_per_cell"] = bytes;
}
BENCHMARK(open_4096_by_4)->Unit(benchmark::kMillisecond)->Iterations(3);

void save_one_cell_of_4096_by_4(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    make::Folder dir;
    level::Project p = large(small);
    make::save_with_pictures(p, dir.path());
    const join::Rules rules(p);
    int x = 0;
    for (auto _ : state) {
        state.PauseTiming();
        level::Project next = p;
        const edit::Hand sand{edit::held::Material{static_cast<level::MaterialId>(1 + x % 2)}};
        const Point cell{1000 + 3 * x++, 2000};
        next.put(edit::lay(next, rules, *next.level(small.id), small.ground, sand, std::vector<Point>{cell}).level);
        state.ResumeTiming();
        store::save(next, dir.path(), &p);
        p = next;
    }
}
BENCHMARK(save_one_cell_of_4096_by_4)->Unit(benchmark::kMillisecond)->Iterations(8);

// All of it, as the first save in a new folder does.
void save_all_of_4096_by_4(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    const level::Project p = large(small);
    for (auto _ : state) {
        make::Folder dir;
        make::save_with_pictures(p, dir.path());
    }
}
BENCHMARK(save_all_of_4096_by_4)->Unit(benchmark::kMillisecond)->Iterations(3);

void rejoin_all_of_4096_by_4(benchmark::State& state) {
    make::Small small({kLarge, kLarge});
    const level::Project p = large(small);
    const level::Level& level = *p.level(small.id);
    for (auto _ : state) benchmark::DoNotOptimize(edit::rejoin_part(p, level.id, level.cells(), false).cells);
}
BENCHMARK(rejoin_all_of_4096_by_4)->Unit(benchmark::kMillisecond)->Iterations(3);

// What the journal adds to a stroke of 24 cells.
void journal_stroke(benchmark::State& state) {
    const int side = static_cast<int>(state.range(0));
    make::Small small({side, side});
    const join::Rules rules(small.project);
    small.set(edit::lay(small.project, rules, small.level(), small.ground, rock(), level::Region(Box{0, 0, side, side}))
                  .level);
    make::Folder dir;
    store::JournalWriter writer(dir / "journal", 1);
    auto before = std::make_shared<const level::Project>(small.project);
    int i = 0;
    for (auto _ : state) {
        state.PauseTiming();
        const edit::Hand sand{edit::held::Material{static_cast<level::MaterialId>(1 + i++ % 2)}};
        const Point at{i * 7 % (side - 30), i * 13 % (side - 10)};
        level::Project next = *before;
        next.put(
            edit::lay(next, rules, *next.level(small.id), small.ground, sand, edit::line_cells(at, at + Point{23, 5}))
                .level);
        store::JournalStep step;
        step.name = "Stroke";
        step.before = before;
        step.after = std::make_shared<const level::Project>(std::move(next));
        before = step.after;
        state.ResumeTiming();
        writer.write(step);
    }
}
BENCHMARK(journal_stroke)->Arg(128)->Arg(4096)->Unit(benchmark::kMillisecond)->Iterations(200);

// A thousand strokes of 24 cells: what their history weighs.
void history_of_1000_strokes(benchmark::State& state) {
    make::Small small({1024, 1024});
    const join::Rules rules(small.project);
    small.set(edit::lay(small.project, rules, small.level(), small.ground, rock(), level::Region(Box{0, 0, 1024, 1024}))
                  .level);
    for (auto _ : state) {
        const std::size_t before = weight();
        edit::Document document(small.project, "/tmp/none");
        make::Random random(1);
        for (int i = 0; i < 1000; ++i) {
            const edit::Hand sand{edit::held::Material{static_cast<level::MaterialId>(1 + i % 2)}};
            const Point at{random.below(1000), random.below(1000)};
            level::Project next = document.project();
            next.put(edit::lay(next, rules, *next.level(small.id), small.ground, sand,
                               edit::line_cells(at, at + Point{23, random.below(9)}))
                         .level);
            document.apply("Stroke", std::move(next));
        }
        state.counters["MiB"] = double(weight() - before) / (1 << 20);
    }
}
BENCHMARK(history_of_1000_strokes)->Unit(benchmark::kMillisecond)->Iterations(2);

} // namespace
