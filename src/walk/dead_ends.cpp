#include "walk/dead_ends.hpp"

#include <algorithm>
#include <array>
#include <tuple>

#include "level/standing.hpp"

namespace vic::walk {

namespace {

constexpr int kLeast = 3; // cells
constexpr std::array<Point, 4> kWays{Point{0, -1}, {1, 0}, {0, 1}, {-1, 0}};

class Passages {
  public:
    Passages(const level::Level& level, const Soaked& soaked)
        : size_(level.size), wet_(static_cast<std::size_t>(level.size.area())) {
        const int middle = soaked.grain / 2;
        for (int y = 0; y < size_.h; ++y)
            for (int x = 0; x < size_.w; ++x)
                wet_[index({x, y})] = soaked.at({x * soaked.grain + middle, y * soaked.grain + middle});
    }

    // Ways of squares of `side` cells, from an end to before a fork: upper left cells.
    [[nodiscard]] std::vector<std::vector<Point>> ending(int side) const {
        std::vector<std::vector<Point>> out;
        for (int y = 0; y + side <= size_.h; ++y)
            for (int x = 0; x + side <= size_.w; ++x) {
                if (!square({x, y}, side) || neighbours({x, y}, side) != 1) continue;
                std::vector<Point> way{{x, y}};
                Point before{-1, -1};
                for (bool goes_on = true; goes_on;) {
                    const Point at = way.back();
                    goes_on = false;
                    for (const Point step : kWays) {
                        const Point next = at + step;
                        if (next == before || !square(next, side)) continue;
                        const int many = neighbours(next, side);
                        goes_on = many == 2;
                        if (many == 1) way.clear(); // it ends on both sides: a place of its own
                        if (goes_on) way.push_back(next);
                        break;
                    }
                    before = at;
                }
                // The last square before a fork lies over the place where it forks.
                for (int i = 1; i < side && !way.empty(); ++i) way.pop_back();
                if (!way.empty()) out.push_back(std::move(way));
            }
        return out;
    }

    // Whether a way of squares is left but at its last one: a narrower passage begins there.
    [[nodiscard]] bool forks(const std::vector<Point>& way, int side) const {
        const auto covers = [&](Point cell) {
            return std::any_of(way.begin(), way.end(), [&](Point p) {
                return Box{p.x, p.y, side, side}.contains(cell);
            });
        };
        const Box last = Box{way.back().x, way.back().y, side, side}.grown(1);
        for (std::size_t i = 0; i + 1 < way.size(); ++i)
            for (int y = way[i].y; y < way[i].y + side; ++y)
                for (int x = way[i].x; x < way[i].x + side; ++x)
                    for (const Point step : kWays) {
                        const Point beside = Point{x, y} + step;
                        if (wet(beside) && !covers(beside) && !last.contains(beside)) return true;
                    }
        return false;
    }

  private:
    [[nodiscard]] std::size_t index(Point p) const {
        return static_cast<std::size_t>(p.y) * static_cast<std::size_t>(size_.w) + static_cast<std::size_t>(p.x);
    }
    [[nodiscard]] bool wet(Point p) const { return box_of(size_).contains(p) && wet_[index(p)]; }
    [[nodiscard]] bool square(Point p, int side) const {
        for (int y = 0; y < side; ++y)
            for (int x = 0; x < side; ++x)
                if (!wet(p + Point{x, y})) return false;
        return true;
    }
    [[nodiscard]] int neighbours(Point p, int side) const {
        int out = 0;
        for (const Point step : kWays) out += square(p + step, side);
        return out;
    }
    Size size_;
    std::vector<bool> wet_;
};

// Boxes of cells in which there is something to come for.
std::vector<Box> worth_the_way(const level::Level& level, const outline::Kinds& kinds) {
    std::vector<Box> out;
    for (const level::Mark& m : level.marks) out.push_back(m.cells.grown(1));
    if (!kinds.props) return out;
    for (const level::LayerRef& layer : level.layers)
        for (const level::Prop& prop : layer->props()) {
            const level::PropKind* kind = prop.pass == 0 ? kinds.props->find(prop.kind) : nullptr;
            const level::PropOwn& own = prop.of_its_own();
            if (kind && (!kind->areas.empty() || !kind->notes.empty() || !own.notes.empty() || !own.name.empty()))
                out.push_back(level.geometry().cells_in(kinds.props->box(prop)));
        }
    return out;
}

} // namespace

std::vector<Soaked::DeadEnd> dead_ends(const level::Level& level, const outline::Kinds& kinds, const Soaked& soaked,
                                       Point from) {
    std::vector<Soaked::DeadEnd> out;
    const Passages passages(level, soaked);
    std::vector<Box> wanted = worth_the_way(level, kinds);
    wanted.push_back({floor_div(from.x, outline::kUnit), floor_div(from.y, outline::kUnit), 1, 1});
    for (const int side : {1, 2})
        for (const std::vector<Point>& way : passages.ending(side)) {
            const int length = static_cast<int>(way.size()) + side - 1;
            if (length < kLeast + side - 1 || (side > 1 && passages.forks(way, side))) continue;
            Box around;
            bool worth = false;
            for (const Point p : way) {
                const Box here{p.x, p.y, side, side};
                around = united(around, here);
                worth = worth || std::any_of(wanted.begin(), wanted.end(),
                                             [&](const Box& b) { return !intersection(b, here).empty(); });
                const bool rims[] = {here.y == 0, here.right() == level.size.w, here.bottom() == level.size.h,
                                     here.x == 0};
                for (std::size_t i = 0; i < 4; ++i)
                    worth = worth || (rims[i] && level.sides[i].kind != level::SideKind::blocks);
            }
            if (!worth) out.push_back({around, way.front(), length});
        }
    std::sort(out.begin(), out.end(), [](const auto& a, const auto& b) {
        return std::tie(b.length, a.end.y, a.end.x) < std::tie(a.length, b.end.y, b.end.x);
    });
    if (out.size() > kMostDry) out.resize(kMostDry);
    return out;
}

} // namespace vic::walk
