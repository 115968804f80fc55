// vicinum-bench-window: a pencil stroke on a level of 4096 x 4096 cells in the real window, from the mouse event to the
// pixels: join, outline, redraw. Needs a display; tools/bench runs it under Xvfb.
#include <benchmark/benchmark.h>

#include <QApplication>
#include <QMouseEvent>
#include <QSettings>
#include <QTemporaryDir>
#include <QTest>
#include <algorithm>
#include <chrono>

#include "app/main_window.hpp"
#include "base/chance.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

std::unique_ptr<app::MainWindow> window;
std::unique_ptr<make::Folder> folder;

void open() {
    folder = std::make_unique<make::Folder>();
    make::Small small({4096, 4096});
    level::Level level = small.level();
    level::Grid& grid = level.edit(small.ground).grid;
    for (int cy = 0; cy < 64; ++cy)
        for (int cx = 0; cx < 64; ++cx) {
            level::Chunk& chunk = grid.edit({cx, cy});
            for (std::size_t i = 0; i < chunk.materials.size(); ++i)
                chunk.materials[i] =
                    static_cast<level::MaterialId>(1 + (place_hash(1, (cx * 64 + static_cast<int>(i) % 64) / 5,
                                                                   (cy * 64 + static_cast<int>(i) / 64) / 4) &
                                                        1U));
        }
    join::resolve(join::Rules(small.project), grid, level.cells(), small.ground);
    // Seven more layers as full as the first, for panning; none of them is painted on.
    for (int i = 0; i < 7; ++i) {
        const auto slab = std::make_shared<level::Layer>(*level.layer(small.ground));
        slab->id = small.project.next_id++;
        slab->name = "Layer " + std::to_string(i);
        slab->solid = false;
        join::resolve(join::Rules(small.project), slab->grid, level.cells(), slab->id);
        level.layers.insert(level.layers.begin() + 1, slab);
    }
    level.plane += 7;
    small.set(level);
    make::save_with_pictures(small.project, folder->path());
    window = std::make_unique<app::MainWindow>();
    window->show();
    window->openProject(QString::fromStdString(folder->path().string()));
    window->resize(1280, 800);
    QTest::qWait(300);
    edit::Hand hand;
    hand.kind = edit::Hand::Kind::material;
    hand.material = 1;
    window->session().setHand(hand);
    window->session().setActiveLayer(small.ground);
    window->levelView()->setCamera(2, QPointF(2048.0 * 16, 2048.0 * 16));
}

// One move of a stroke under way: the cell is laid, joined, traced, and its pixels are drawn.
void stroke_in_window(benchmark::State& state) {
    app::LevelView* view = window->levelView();
    window->session().setStage(state.range(0) ? app::Stage::bound : app::Stage::lay);
    QApplication::processEvents();
    const auto at = [&](int i) { return view->cellCentre({2040 + i % 17, 2040 + (i / 17) % 13}); };
    QTest::mousePress(view, Qt::LeftButton, {}, at(0));
    int i = 0;
    for (auto _ : state) {
        const QPointF to = at(++i);
        QMouseEvent move(QEvent::MouseMove, to, view->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(view, &move);
        view->repaint();
    }
    QTest::mouseRelease(view, Qt::LeftButton, {}, at(i));
    QApplication::processEvents();
}
BENCHMARK(stroke_in_window)->ArgName("bound")->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->Iterations(150);

// A whole click: press, release, one step of history, all panels brought up to date.
void click_in_window(benchmark::State& state) {
    app::LevelView* view = window->levelView();
    window->session().setStage(app::Stage::lay);
    int i = 0;
    for (auto _ : state) {
        const QPoint at = view->cellCentre({2040 + i % 17, 2040 + (i / 17) % 13});
        QTest::mousePress(view, Qt::LeftButton, {}, at);
        QTest::mouseRelease(view, Qt::LeftButton, {}, at);
        view->repaint();
        ++i;
    }
}
BENCHMARK(click_in_window)->Unit(benchmark::kMillisecond)->Iterations(60);

// Panning and zooming over eight full layers of 4096 x 4096 cells: the median frame, and the one that only 1 in 100
// exceed. `zoom` in eighths.
void pan_over_eight_layers(benchmark::State& state) {
    app::LevelView* view = window->levelView();
    const double zoom = double(state.range(0)) / 8;
    std::vector<double> frames;
    double x = 1024.0 * 16;
    double y = 1500.0 * 16;
    view->setCamera(zoom, {x, y});
    view->repaint();
    for (auto _ : state) {
        // A pan of a hand's speed, and now and then a step of zooming there and back.
        x += 24 / zoom;
        y += 7 / zoom;
        if (x > 3000.0 * 16) x = 1024.0 * 16;
        if (y > 3000.0 * 16) y = 1024.0 * 16;
        const bool zooms = frames.size() % 40 == 39;
        const auto begin = std::chrono::steady_clock::now();
        view->setCamera(zooms ? zoom * 2 : zoom, {x, y});
        view->repaint();
        frames.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
    }
    std::sort(frames.begin(), frames.end());
    state.counters["median_ms"] = frames[frames.size() / 2];
    state.counters["1_in_100_ms"] = frames[frames.size() * 99 / 100];
    state.counters["worst_ms"] = frames.back();
}
BENCHMARK(pan_over_eight_layers)
    ->ArgName("zoom_in_eighths")
    ->Arg(8)
    ->Arg(1)
    ->Arg(16)
    ->Unit(benchmark::kMillisecond)
    ->Iterations(800);

} // namespace

int main(int argc, char** argv) {
    QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    QApplication app(argc, argv);
    QApplication::setOrganizationName("vicinum");
    QApplication::setApplicationName("vicinum-bench");
    benchmark::Initialize(&argc, argv);
    open();
    benchmark::RunSpecifiedBenchmarks();
    window.reset();
    folder.reset();
    return 0;
}
