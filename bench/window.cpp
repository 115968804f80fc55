// vicinum-bench-window: large levels in the real window: a pencil stroke from the mouse event to the pixels (join,
// outline, redraw), panning, zooming. Needs a display; tools/bench runs it under Xvfb.
#include <benchmark/benchmark.h>
#include <QAbstractButton>
#include <QApplication>
#include <QComboBox>
#include <QEvent>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPoint>
#include <QPointF>
#include <QSettings>
#include <QString>
#include <QTemporaryDir>
#include <QTest>
#include <algorithm>
#include <chrono>

#include "app/session/session.hpp"
#include "app/shell/main_window.hpp"
#include "app/solid/solid_switch.hpp"
#include "app/solid/solid_view.hpp"
#include "app/view/level_view.hpp"
#include "base/chance.hpp"
#include "edit/beginnings.hpp"
#include "edit/kits.hpp"
#include "edit/sheets.hpp"
#include "edit/stroke.hpp"
#include "join/resolve.hpp"
#include "kit/made_kit.hpp"
#include "level/cell.hpp"
#include "level/grid.hpp"
#include "level/level.hpp"
#include "level/project.hpp"
#include "level/props.hpp"
#include "level/sheet.hpp"
#include "support/make.hpp"

using namespace vic;

namespace {

std::unique_ptr<app::MainWindow> window;
std::unique_ptr<make::Folder> folder;

struct Opened {
    int side = 0;
    int layers = 0;
    bool isometric = false;
    bool operator==(const Opened&) const = default;
};
Opened opened;

// Tiles as art for diamonds is drawn: of the cell's size, half as high as wide, see-through in the corners.
void into_diamonds(level::Project& project) {
    for (const auto& of : std::vector(project.sheets)) {
        level::Sheet sheet = *of;
        Image art = resampled(*sheet.image, {2 * sheet.image->width(), 2 * sheet.image->height()});
        sheet.cut.tile = {2 * sheet.cut.tile.w, 2 * sheet.cut.tile.h};
        for (level::Tile& tile : sheet.tiles) {
            tile.box = {2 * tile.box.x, 2 * tile.box.y, 2 * tile.box.w, tile.box.h};
            for (int y = 0; y < tile.box.h; ++y)
                for (int x = 0; x < tile.box.w; ++x)
                    if (std::abs(2 * x + 1 - tile.box.w) + 2 * std::abs(2 * y + 1 - tile.box.h) >= tile.box.w)
                        art.set(tile.box.x + x, tile.box.y + y, {});
        }
        sheet.image = std::make_shared<const Image>(art);
        project.put(sheet);
    }
}

// A level whose cells are full on so many layers; one of 16384 a side only here and there.
void open(const Opened& wanted) {
    if (opened == wanted) return;
    opened = wanted;
    window.reset();
    folder = std::make_unique<make::Folder>();
    make::Small small({wanted.side, wanted.side});
    level::Level level = small.level();
    if (wanted.isometric) {
        level.lattice = LatticeKind::isometric;
        level.cell = {32, 16};
        into_diamonds(small.project);
    }
    const int chunks = wanted.side / level::kChunk;
    level::Grid& grid = level.edit(small.ground).grid();
    for (int cy = 0; cy < chunks; ++cy)
        for (int cx = 0; cx < chunks; ++cx) {
            if (wanted.side > 4096 && (place_hash(5, cx, cy) & 63U) != 0 && std::abs(cx - chunks / 2) > 3) continue;
            level::Chunk& chunk = grid.edit({cx, cy});
            for (std::size_t i = 0; i < chunk.materials.size(); ++i)
                chunk.materials[i] =
                    static_cast<level::MaterialId>(1 + (place_hash(1, (cx * 64 + static_cast<int>(i) % 64) / 5,
                                                                   (cy * 64 + static_cast<int>(i) / 64) / 4) &
                                                        1U));
        }
    join::resolve(join::Rules(small.project), grid, level.cells(), small.ground);
    // More layers as full as the first, for panning; none of them is painted on.
    for (int i = 1; i < wanted.layers; ++i) {
        const auto slab = std::make_shared<level::Layer>(*level.layer(small.ground));
        slab->id = small.project.next_id++;
        slab->name = "Layer " + std::to_string(i);
        slab->tiles()->solid = false;
        join::resolve(join::Rules(small.project), slab->grid(), level.cells(), slab->id);
        level.layers.insert(level.layers.begin() + 1, slab);
    }
    level.plane += wanted.layers - 1;
    small.set(level);
    make::save_with_pictures(small.project, folder->path());
    window = std::make_unique<app::MainWindow>();
    window->show();
    window->openProject(QString::fromStdString(folder->path().string()));
    window->resize(1280, 800);
    QTest::qWait(300);
    edit::Hand hand{edit::held::Material{1}};
    window->session().setHand(hand);
    window->session().setActiveLayer(small.ground);
    const Lattice::Pixels middle = level.geometry().pixel_of({wanted.side / 2.0, wanted.side / 2.0});
    window->levelView()->setCamera(2, QPointF(middle.x, middle.y));
}
// One move of a stroke under way: the cell is laid, joined, traced, and its pixels are drawn.
void stroke_in_window(benchmark::State& state) {
    open({static_cast<int>(state.range(1)), state.range(1) > 4096 ? 1 : 8, false});
    app::LevelView* view = window->levelView();
    const int middle = static_cast<int>(state.range(1)) / 2 - 8;
    window->session().setStage(state.range(0) ? app::Stage::bound : app::Stage::lay);
    QApplication::processEvents();
    const auto at = [&](int i) { return view->cellCentre({middle + i % 17, middle + (i / 17) % 13}); };
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
BENCHMARK(stroke_in_window)
    ->ArgNames({"bound", "side"})
    ->Args({0, 4096})
    ->Args({1, 4096})
    ->Args({0, 16384})
    ->Args({1, 16384})
    ->Unit(benchmark::kMillisecond)
    ->Iterations(150);

// A whole click: press, release, one step of history, all panels brought up to date.
void click_in_window(benchmark::State& state) {
    open({static_cast<int>(state.range(0)), state.range(0) > 4096 ? 1 : 8, false});
    app::LevelView* view = window->levelView();
    const int middle = static_cast<int>(state.range(0)) / 2 - 8;
    view->setCamera(2, QPointF(16.0 * middle, 16.0 * middle));
    window->session().setStage(app::Stage::lay);
    int i = 0;
    for (auto _ : state) {
        const QPoint at = view->cellCentre({middle + i % 17, middle + (i / 17) % 13});
        QTest::mousePress(view, Qt::LeftButton, {}, at);
        QTest::mouseRelease(view, Qt::LeftButton, {}, at);
        view->repaint();
        ++i;
    }
}
BENCHMARK(click_in_window)->ArgName("side")->Arg(4096)->Arg(16384)->Unit(benchmark::kMillisecond)->Iterations(60);

// Panning and zooming: the median frame, and the one that only 1 in 100 exceed. `zoom` in eighths, `side` in cells.
void pan(benchmark::State& state) {
    const double zoom = double(state.range(0)) / 8;
    const int side = static_cast<int>(state.range(1));
    open({side, side > 4096 ? 1 : 8, state.range(2) != 0});
    app::LevelView* view = window->levelView();
    const Box all = window->session().level()->pixels();
    const QPointF from(all.x + all.w * 0.25, all.y + all.h * 0.4);
    std::vector<double> frames;
    QPointF at = from;
    view->setCamera(zoom, at);
    view->repaint();
    for (auto _ : state) {
        // A pan of a hand's speed, and now and then a step of zooming there and back.
        at += QPointF(24, 7) / zoom;
        if (at.x() > all.x + all.w * 0.75) at = from;
        const bool zooms = frames.size() % 40 == 39;
        const auto begin = std::chrono::steady_clock::now();
        view->setCamera(zooms ? zoom * 2 : zoom, at);
        view->repaint();
        frames.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
    }
    std::sort(frames.begin(), frames.end());
    state.counters["median_ms"] = frames[frames.size() / 2];
    state.counters["1_in_100_ms"] = frames[frames.size() * 99 / 100];
    state.counters["worst_ms"] = frames.back();
}
BENCHMARK(pan)
    ->ArgNames({"zoom_in_eighths", "side", "isometric"})
    ->Args({8, 4096, 0})
    ->Args({1, 4096, 0})
    ->Args({16, 4096, 0})
    ->Args({8, 4096, 1})
    ->Args({1, 4096, 1})
    ->Args({8, 16384, 0})
    ->Args({1, 16384, 0})
    ->Unit(benchmark::kMillisecond)
    ->Iterations(800);

// A whole view that was not seen before, as after a step of zooming or a jump on the small map.
void view_first_time(benchmark::State& state) {
    const double zoom = double(state.range(0)) / 8;
    open({4096, 8, state.range(1) != 0});
    app::LevelView* view = window->levelView();
    const Box all = window->session().level()->pixels();
    const QPointF jump(view->width() / zoom + 1024, view->height() / zoom + 1024);
    QPointF at(all.x + all.w * 0.3, all.y + all.h * 0.3);
    for (auto _ : state) {
        at.rx() += jump.x();
        if (at.x() > all.x + all.w * 0.7) at = {all.x + all.w * 0.3, at.y() + jump.y()};
        view->setCamera(zoom, at);
        view->repaint();
    }
}
BENCHMARK(view_first_time)
    ->ArgNames({"zoom_in_eighths", "isometric"})
    ->Args({1, 0})
    ->Args({2, 0})
    ->Args({8, 0})
    ->Args({1, 1})
    ->Args({2, 1})
    ->Args({8, 1})
    ->Unit(benchmark::kMillisecond)
    ->Iterations(20);

// From nothing to a start page that one can use.
void start_page(benchmark::State& state) {
    for (auto _ : state) {
        app::MainWindow fresh;
        fresh.show();
        QApplication::processEvents();
        fresh.repaint();
    }
}
BENCHMARK(start_page)->Unit(benchmark::kMillisecond)->Iterations(5);

// From there to the demo project's level.
void open_demo(benchmark::State& state) {
    for (auto _ : state) {
        state.PauseTiming();
        const make::Folder copy;
        std::filesystem::copy(DEMO, copy.path() / "demo", std::filesystem::copy_options::recursive);
        app::MainWindow fresh;
        fresh.show();
        QApplication::processEvents();
        state.ResumeTiming();
        fresh.openProject(QString::fromStdString((copy.path() / "demo").string()));
        fresh.repaint();
    }
}
BENCHMARK(open_demo)->Unit(benchmark::kMillisecond)->Iterations(5);

// The Tray with a sheet of 64 x 64 tiles for the first time: arranged (0), or without gaps (1); and a search that finds
// all of them (2).
void tray_of_4096(benchmark::State& state) {
    const make::Folder place;
    level::Project project = edit::begun("Tray", edit::Beginning::from_above, "Level", {"a", "b", "c"});
    Image art({1024, 1024});
    make::Random random(1);
    for (int y = 0; y < 1024; ++y)
        for (int x = 0; x < 1024; ++x)
            art.set(x, y, {static_cast<std::uint8_t>(random.below(256)), static_cast<std::uint8_t>(x), 90, 255});
    level::SheetId sheet = 0;
    project = edit::add_sheet(std::move(project), "sheets/all.png", std::move(art), "All", {{16, 16}, {}, {}, 1}, true,
                              sheet);
    make::save_with_pictures(project, place.path() / "p");
    for (auto _ : state) {
        state.PauseTiming();
        app::MainWindow fresh;
        fresh.show();
        fresh.openProject(QString::fromStdString((place.path() / "p").string()));
        fresh.session().setStage(app::Stage::lay);
        auto* order = fresh.findChild<QComboBox*>("trayOrder");
        order->setCurrentIndex(state.range(0) == 1 ? 1 : 0);
        QApplication::processEvents();
        state.ResumeTiming();
        if (state.range(0) == 2)
            fresh.findChild<QLineEdit*>("traySearch")->setText("All");
        else
            fresh.findChild<QAbstractButton*>("trayTiles")->click();
        fresh.repaint();
        QApplication::processEvents();
    }
}
BENCHMARK(tray_of_4096)->ArgName("how")->Arg(0)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->Iterations(3);

// A whole large level in view for the first time.
void fit_first_time(benchmark::State& state) {
    opened = {};
    open({static_cast<int>(state.range(0)), 1, state.range(1) != 0});
    for (auto _ : state) {
        window->levelView()->fit();
        window->levelView()->repaint();
    }
}
BENCHMARK(fit_first_time)
    ->ArgNames({"side", "isometric"})
    ->Args({4096, 0})
    ->Args({4096, 1})
    ->Args({16384, 0})
    ->Unit(benchmark::kMillisecond)
    ->Iterations(1);

// A level with very many props on one layer, of which so many are in view at zoom 1/4.
constexpr int kProps = 100000;
constexpr int kPropSide = 800; // cells
const Opened kWithProps{-kProps, 1, false};

void open_props() {
    if (opened == kWithProps) return;
    opened = kWithProps;
    window.reset();
    folder = std::make_unique<make::Folder>();
    make::Small small({kPropSide, kPropSide});
    level::Level level = small.level();
    std::vector<level::Prop> props;
    const int apart = kPropSide * 16 / 317; // 317² props
    for (int i = 0; i < kProps; ++i) {
        const std::uint64_t h = place_hash(3, i, 0);
        const Point at{i % 317 * apart + static_cast<int>(h % 9), i / 317 * apart + static_cast<int>((h >> 8) % 9)};
        props.push_back({small.project.next_id++, small.prop, at, {(h & 64) != 0}});
    }
    level.edit(small.props).props() = level::Props(props);
    small.set(level);
    make::save_with_pictures(small.project, folder->path());
    window = std::make_unique<app::MainWindow>();
    window->show();
    window->openProject(QString::fromStdString(folder->path().string()));
    window->resize(1280, 800);
    QTest::qWait(300);
    window->session().setStage(app::Stage::dress);
    window->session().setActiveLayer(small.props);
}

void told(benchmark::State& state, std::vector<double>& frames) {
    std::sort(frames.begin(), frames.end());
    state.counters["median_ms"] = frames[frames.size() / 2];
    state.counters["1_in_100_ms"] = frames[frames.size() * 99 / 100];
}

void props_pan(benchmark::State& state) {
    open_props();
    app::LevelView* view = window->levelView();
    const double side = kPropSide * 16.0;
    QPointF at(side * 0.3, side * 0.3);
    view->setCamera(0.25, at);
    view->repaint();
    std::vector<double> frames;
    for (auto _ : state) {
        at += QPointF(24, 7) / 0.25;
        if (at.x() > side * 0.7) at = QPointF(side * 0.3, side * 0.3 + static_cast<double>(frames.size()));
        const auto begin = std::chrono::steady_clock::now();
        view->setCamera(0.25, at);
        view->repaint();
        frames.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
    }
    told(state, frames);
    const QRect area = view->rect();
    int seen = 0;
    window->session()
        .level()
        ->layer(window->session().activeLayerId())
        ->props()
        .each_in(Box{static_cast<int>(at.x()) - area.width() * 2, static_cast<int>(at.y()) - area.height() * 2,
                     area.width() * 4, area.height() * 4},
                 [&](const level::Prop&) { ++seen; });
    state.counters["in_view"] = seen;
}
BENCHMARK(props_pan)->Unit(benchmark::kMillisecond)->Iterations(200);

// One move of the mouse while a prop is dragged, with what it draws.
void props_drag(benchmark::State& state) {
    open_props();
    app::LevelView* view = window->levelView();
    const double side = kPropSide * 16.0;
    view->setCamera(0.25, QPointF(side / 2, side / 2));
    view->repaint();
    // A prop near the middle, taken by its foot.
    const level::Layer& layer = *window->session().activeLayer();
    level::Prop held;
    layer.props().each_in(Box{static_cast<int>(side / 2), static_cast<int>(side / 2), 60, 60},
                          [&](const level::Prop& p) { held = p; });
    const QPointF middle = QPointF(view->width() + app::LevelView::kRuler, view->height() + app::LevelView::kRuler) / 2;
    const QPointF grip = middle + (QPointF(held.at.x, held.at.y - 2) - view->centre()) * view->zoom();
    QTest::mousePress(view, Qt::LeftButton, {}, grip.toPoint());
    std::vector<double> frames;
    int i = 0;
    for (auto _ : state) {
        ++i;
        const QPointF to = grip + QPointF(i * 3 % 200, i * 2 % 120);
        const auto begin = std::chrono::steady_clock::now();
        QMouseEvent move(QEvent::MouseMove, to, view->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(view, &move);
        view->repaint();
        frames.push_back(std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count());
    }
    state.counters["dragging"] = view->stroking();
    const std::size_t before = window->session().document().held();
    QTest::mouseRelease(view, Qt::LeftButton, {}, (grip + QPointF(60, 40)).toPoint());
    QApplication::processEvents();
    told(state, frames);
    state.counters["step_bytes"] = static_cast<double>(window->session().document().held() - before);
    window->session().undo();
}
BENCHMARK(props_drag)->Unit(benchmark::kMillisecond)->Iterations(200);

// A hundred by a hundred pieces of a kit, seen aslant: one turn of the view, and a stroke that lays one more.
void open_pieces() {
    if (opened == Opened{-1, 0, false}) return;
    opened = {-1, 0, false};
    window.reset();
    folder = std::make_unique<make::Folder>();
    kit_test::Kit made;
    made.first_bit = 0;
    made.all_walls();
    made.floors(8);
    const kit::KitFile file = made.file();
    const kit::KitReading read = kit::read_kit(file.bodies);
    make::Small small({100, 100});
    edit::PutKit put = edit::put_kit(small.project, 0, "Walls", "sheets/walls.png", "kits/walls/walls.obj", file, read,
                                     kit::draw_sheet(file, read, 16), 16, edit::kit_materials(file, read));
    level::Level level = *put.project.level(small.id);
    level::Grid& grid = level.edit(small.ground).grid();
    for (int y = 0; y < 100; ++y)
        for (int x = 0; x < 100; ++x)
            grid.set({x, y}, {}, (x % 3 == 0) != (y % 5 == 0) ? put.materials[0] : put.materials[1]);
    join::resolve(join::Rules(put.project), grid, level.cells(), 1);
    put.project.put(std::move(level));
    make::save_with_pictures(put.project, folder->path());
    fs::create_directories(folder->path() / "kits/walls");
    write_file(folder->path() / "kits/walls/walls.obj", made.obj());
    window = std::make_unique<app::MainWindow>();
    window->show();
    window->openProject(QString::fromStdString(folder->path().string()));
    auto* look = window->findChild<app::SolidSwitch*>("solidSwitch");
    look->look(app::SolidSwitch::Look::aslant);
    while (!look->view() || look->view()->pieces() < 10'000) QTest::qWait(20);
}

void orbit_pieces(benchmark::State& state) {
    open_pieces();
    auto* view = window->findChild<app::SolidSwitch*>("solidSwitch")->view();
    QPoint at(400, 300);
    QTest::mousePress(view, Qt::MiddleButton, {}, at);
    for (auto _ : state) {
        at += QPoint(3, 1);
        QMouseEvent move(QEvent::MouseMove, QPointF(at), view->mapToGlobal(QPointF(at)), Qt::NoButton, Qt::MiddleButton,
                         {});
        QApplication::sendEvent(view, &move);
        view->repaint(); // until it is in the window
    }
    QTest::mouseRelease(view, Qt::MiddleButton, {}, at);
    state.counters["pieces"] = view->pieces();
    state.counters["calls"] = view->calls();
}
BENCHMARK(orbit_pieces)->Unit(benchmark::kMillisecond)->Iterations(30);

// In plan, from the mouse event to the pixels.
void stroke_over_pieces(benchmark::State& state) {
    open_pieces();
    auto* look = window->findChild<app::SolidSwitch*>("solidSwitch");
    look->look(app::SolidSwitch::Look::plan);
    app::LevelView& view = *window->levelView();
    window->session().setHand({edit::held::Material{window->session().project().materials[1]->id}});
    view.setCamera(1, {800, 800});
    int x = 0;
    for (auto _ : state) {
        do ++x;
        while ((x % 40 % 3 == 0) == (x / 40 % 5 == 0)); // so that each click changes something
        const QPoint at = view.cellCentre({30 + x % 40, 40 + x / 40});
        QTest::mouseClick(&view, Qt::LeftButton, {}, at);
        view.repaint();
    }
    look->look(app::SolidSwitch::Look::aslant);
}
BENCHMARK(stroke_over_pieces)->Unit(benchmark::kMillisecond)->Iterations(60);

} // namespace

int main(int argc, char** argv) {
    QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    QApplication app(argc, argv);
    QApplication::setOrganizationName("vicinum");
    QApplication::setApplicationName("vicinum-bench");
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    window.reset();
    folder.reset();
    return 0;
}
