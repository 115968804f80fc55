#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <map>
#include <numeric>
#include <utility>
#include <vector>

#include "scene/scene.hpp"

namespace vic::scene {

namespace {

constexpr double kThin = 1e-9; // cells³

using At = std::array<std::int64_t, 3>;

// Points that lie at one place are one.
At at_of(const std::array<float, 3>& p) {
    constexpr double kGrain = 4096; // of a cell
    return {std::llround(double{p[0]} * kGrain), std::llround(double{p[1]} * kGrain),
            std::llround(double{p[2]} * kGrain)};
}

} // namespace

bool is_closed(const Model& model) {
    std::map<At, std::size_t> numbers;
    std::vector<std::size_t> corners;
    corners.reserve(model.corners.size());
    for (const Model::Corner& c : model.corners)
        corners.push_back(numbers.emplace(at_of(c.at), numbers.size()).first->second);
    if (corners.empty()) return false;
    // Bodies are what hangs together by its corners.
    std::vector<std::size_t> body(numbers.size());
    std::iota(body.begin(), body.end(), std::size_t{0});
    const auto body_of = [&](std::size_t i) {
        while (body[i] != i) i = body[i] = body[body[i]];
        return i;
    };
    std::map<std::pair<std::size_t, std::size_t>, int> runs; // how many more sides run from one to the other than back
    for (std::size_t i = 0; i + 2 < corners.size(); i += 3)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::size_t from = corners[i + k], to = corners[i + (k + 1) % 3];
            if (from == to) continue;
            runs[std::minmax(from, to)] += from < to ? 1 : -1;
            body[body_of(from)] = body_of(to);
        }
    for (const auto& [side, count] : runs)
        if (count != 0) return false;
    std::map<std::size_t, double> volumes;
    for (std::size_t i = 0; i + 2 < corners.size(); i += 3) {
        const auto &a = model.corners[i].at, &b = model.corners[i + 1].at, &c = model.corners[i + 2].at;
        volumes[body_of(corners[i])] += double{a[0]} * (double{b[1]} * c[2] - double{b[2]} * c[1]) +
                                        double{a[1]} * (double{b[2]} * c[0] - double{b[0]} * c[2]) +
                                        double{a[2]} * (double{b[0]} * c[1] - double{b[1]} * c[0]);
    }
    return std::all_of(volumes.begin(), volumes.end(), [](const auto& v) { return v.second > kThin; });
}

} // namespace vic::scene
