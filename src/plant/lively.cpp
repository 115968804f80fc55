#include "plant/lively.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstdlib>
#include <limits>
#include <set>
#include <tuple>
#include <unordered_map>
#include <utility>

#include "level/standing.hpp"

namespace vic::plant {

using namespace level;

namespace {

constexpr int kTurnTold = 100; // tenths of a degree that are told apart
constexpr int kScaleTold = 12; // per cent
constexpr int kLightTold = 12; // likewise
constexpr int kTintTold = 40;  // of all three colours together
constexpr double kNear = 4;    // widths of the picture

bool look_same(const Prop& a, const Prop& b) {
    const Look &x = a.look, &y = b.look;
    if (a.kind != b.kind || x.mirrored != y.mirrored) return false;
    const int turn = std::abs(x.turn - y.turn);
    return std::min(turn, kFullTurn - turn) < kTurnTold && std::abs(x.scale - y.scale) < kScaleTold &&
           std::abs(x.light - y.light) < kLightTold &&
           std::abs(x.tint.r - y.tint.r) + std::abs(x.tint.g - y.tint.g) + std::abs(x.tint.b - y.tint.b) < kTintTold;
}

// Places in squares, so that what is near is found without looking at all.
class Squares {
  public:
    Squares(const std::vector<Prop>& props, int side) : props_(props), side_(std::max(1, side)) {
        for (std::size_t i = 0; i < props.size(); ++i)
            squares_[key(floor_div(props[i].at.x, side_), floor_div(props[i].at.y, side_))].push_back(i);
    }
    // visit(index, distance) for all within a distance of the place of `i`, itself left out.
    template <class Visit>
    void near(std::size_t i, double within, Visit visit) const {
        const Point at = props_[i].at;
        const int r = static_cast<int>(within / side_) + 1;
        const Point own{floor_div(at.x, side_), floor_div(at.y, side_)};
        for (int y = own.y - r; y <= own.y + r; ++y)
            for (int x = own.x - r; x <= own.x + r; ++x) {
                const auto found = squares_.find(key(x, y));
                if (found == squares_.end()) continue;
                for (const std::size_t k : found->second) {
                    const double d = std::hypot(props_[k].at.x - at.x, props_[k].at.y - at.y);
                    if (k != i && d <= within) visit(k, d);
                }
            }
    }

  private:
    static std::uint64_t key(int x, int y) {
        return (std::uint64_t{static_cast<std::uint32_t>(x)} << 32) | static_cast<std::uint32_t>(y);
    }
    const std::vector<Prop>& props_;
    int side_;
    std::unordered_map<std::uint64_t, std::vector<std::size_t>> squares_;
};

// Square pixels of the squares that hold any: of such a size that there are several in one, on the average.
double ground_of(const std::vector<Prop>& props, int side) {
    constexpr std::size_t kSeveral = 8;
    for (;; side *= 2) {
        std::set<std::pair<int, int>> squares;
        for (const Prop& p : props) squares.insert({floor_div(p.at.x, side), floor_div(p.at.y, side)});
        if (squares.size() * kSeveral <= props.size() || squares.size() <= 4)
            return double(squares.size()) * side * side;
    }
}

} // namespace

Lively lively_of(const Project& project, const Level& level, const Layer& layer) {
    Lively out;
    const std::vector<Prop> props = layer.props().all();
    const PropKinds kinds(project);
    std::vector<Box> boxes;
    double pictures = 0;
    for (const Prop& p : props) {
        boxes.push_back(kinds.box(p));
        pictures += double(boxes.back().size().area());
    }
    if (props.size() < 2) return out;
    const double ground = ground_of(props, 4 * std::max(level.cell.w, level.cell.h));
    // By chance alone each place is hidden or not by each picture.
    out.covered = 1 - std::exp(-pictures / ground);
    const double expected = 0.5 / std::sqrt(double(props.size()) / ground);
    const Squares all(props, std::max(1, static_cast<int>(expected)));
    double sum = 0, alike = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < props.size(); ++i) {
        double nearest = 8 * expected, same = std::numeric_limits<double>::infinity(), hot = 0;
        const double reach = kNear * std::max(1, boxes[i].w);
        all.near(i, std::max(nearest, reach), [&](std::size_t k, double d) {
            nearest = std::min(nearest, d);
            if (d > reach || !look_same(props[i], props[k])) return;
            same = std::min(same, d);
            hot += 1 - d / reach;
        });
        sum += nearest;
        alike = std::min(alike, same);
        if (hot > 0)
            out.heat.push_back({{boxes[i].x + boxes[i].w / 2, boxes[i].y + boxes[i].h / 2},
                                std::max(boxes[i].w, boxes[i].h) / 2 + 1,
                                1 - std::exp(-hot)});
    }
    out.evenness = sum / double(props.size()) / expected;
    if (std::isfinite(alike)) out.alike = alike;
    std::sort(out.heat.begin(), out.heat.end(), [](const Lively::Heat& a, const Lively::Heat& b) {
        return std::tuple(a.hot, a.middle.y, a.middle.x) < std::tuple(b.hot, b.middle.y, b.middle.x);
    });
    return out;
}

} // namespace vic::plant
