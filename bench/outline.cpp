// Merging collision: outlines of caves beside a polygon library that is given the cells one by one, and the fewest
// rectangles beside a greedy split.
#include "outline/trace.hpp"

#include <benchmark/benchmark.h>

#include <algorithm>
#include <boost/polygon/polygon.hpp>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <polyclipping/clipper.hpp>
#include <vector>

#include "base/chance.hpp"
#include "feed.hpp"
#include "level/project.hpp"
#include "outline/rectangles.hpp"

using namespace vic;

namespace {

std::vector<std::uint8_t> caves(int side) {
    std::vector<std::uint8_t> out(static_cast<std::size_t>(side) * static_cast<std::size_t>(side));
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double h = std::sin(x * 0.11) + std::sin(y * 0.13) + std::sin((x + y) * 0.05) +
                             static_cast<double>(place_hash(3, x / 2, y / 2) & 255U) / 400.0;
            out[static_cast<std::size_t>(y) * static_cast<std::size_t>(side) + static_cast<std::size_t>(x)] = h > 0.4;
        }
    return out;
}

void trace_caves_512(benchmark::State& state) {
    constexpr int kSide = 512;
    const auto cells = caves(kSide);
    double area = 0;
    std::size_t corners = 0;
    for (auto _ : state) {
        area = 0;
        corners = 0;
        for (const auto& o : outline::outlines(outline::trace({kSide, kSide}, source_of(cells, kSide)))) {
            corners += o.points.size();
            area += static_cast<double>(outline::area2(o)) / 2 / outline::kUnit / outline::kUnit;
        }
        benchmark::DoNotOptimize(area);
    }
    state.counters["area"] = area;
    state.counters["corners"] = static_cast<double>(corners);
}
BENCHMARK(trace_caves_512)->Unit(benchmark::kMillisecond);

// The same by the union of all cells as squares (Clipper).
void clipper_caves_512(benchmark::State& state) {
    constexpr int kSide = 512;
    const auto cells = caves(kSide);
    double area = 0;
    for (auto _ : state) {
        ClipperLib::Clipper clipper;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x)
                if (cells[static_cast<std::size_t>(y) * kSide + static_cast<std::size_t>(x)] != 0)
                    clipper.AddPath({{x, y}, {x + 1, y}, {x + 1, y + 1}, {x, y + 1}}, ClipperLib::ptSubject, true);
        ClipperLib::Paths all;
        clipper.Execute(ClipperLib::ctUnion, all, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
        area = 0;
        for (const auto& path : all) area += ClipperLib::Area(path);
    }
    state.counters["area"] = area;
}
BENCHMARK(clipper_caves_512)->Unit(benchmark::kMillisecond)->Iterations(1);

// The same by the union of rectangles with sides along the axes (Boost.Polygon), the cells given one by one.
void boost_caves_512(benchmark::State& state) {
    namespace bp = boost::polygon;
    constexpr int kSide = 512;
    const auto cells = caves(kSide);
    double area = 0;
    std::size_t corners = 0;
    for (auto _ : state) {
        bp::polygon_90_set_data<int> set;
        for (int y = 0; y < kSide; ++y)
            for (int x = 0; x < kSide; ++x)
                if (cells[static_cast<std::size_t>(y) * kSide + static_cast<std::size_t>(x)] != 0)
                    set.insert(bp::rectangle_data<int>(x, y, x + 1, y + 1));
        std::vector<bp::polygon_90_with_holes_data<int>> all;
        set.get(all);
        area = 0;
        corners = 0;
        for (const auto& polygon : all) {
            area += static_cast<double>(bp::area(polygon));
            corners += polygon.size();
            for (auto hole = polygon.begin_holes(); hole != polygon.end_holes(); ++hole) corners += hole->size();
        }
    }
    state.counters["area"] = area;
    state.counters["corners"] = static_cast<double>(corners);
}
BENCHMARK(boost_caves_512)->Unit(benchmark::kMillisecond);

void rectangles_fewest_1024(benchmark::State& state) {
    const auto cells = caves(1024);
    std::size_t count = 0;
    for (auto _ : state) {
        count = outline::fewest_rectangles({1024, 1024}, cells).size();
        benchmark::DoNotOptimize(count);
    }
    state.counters["rectangles"] = static_cast<double>(count);
}
BENCHMARK(rectangles_fewest_1024)->Unit(benchmark::kMillisecond);

void rectangles_greedy_1024(benchmark::State& state) {
    const auto cells = caves(1024);
    int count = 0;
    for (auto _ : state) {
        count = outline::rectangle_count({1024, 1024}, cells);
        benchmark::DoNotOptimize(count);
    }
    state.counters["rectangles"] = count;
}
BENCHMARK(rectangles_greedy_1024)->Unit(benchmark::kMillisecond);

// One cell of a level of 1024 x 1024 changes, and what is near it is traced anew.
void retrace_one_cell(benchmark::State& state) {
    constexpr int kSide = 1024;
    auto cells = caves(kSide);
    const auto source = source_of(cells, kSide);
    outline::Trace trace = outline::trace({kSide, kSide}, source);
    int at = 0;
    for (auto _ : state) {
        at = (at + 7919) % (kSide * kSide);
        auto& cell = cells[static_cast<std::size_t>(at)];
        cell = cell == 0;
        outline::retrace(trace, source, {{at % kSide, at / kSide, 1, 1}});
    }
}
BENCHMARK(retrace_one_cell)->Unit(benchmark::kMicrosecond);

} // namespace
