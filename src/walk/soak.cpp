#include "walk/soak.hpp"

#include <algorithm>
#include <cstdlib>
#include <map>
#include <unordered_map>
#include <utility>

#include "walk/bit_rows.hpp"
#include "walk/dead_ends.hpp"
#include "walk/samples.hpp"

namespace vic::walk {

using outline::kUnit;

namespace {

class Soaker {
  public:
    Soaker(const level::Level& level, const outline::Kinds& kinds)
        : level_(level), samples_(level, kinds, foot_of(level)), grain_(samples_.grain), foot_(samples_.foot) {}

    Soaked from(Point middle);

  private:
    [[nodiscard]] int side() const { return samples_.side(); }
    [[nodiscard]] Size places(Size box) const { return samples_.places(box); }
    [[nodiscard]] std::vector<bool> search(const Runs& runs, std::size_t start) const;
    void find_rims(const Runs& runs, const std::vector<bool>& reached, Soaked& out) const;
    void find_narrow(const Bits& wet, Soaked& out) const;
    void find_dry(const Runs& runs, const std::vector<bool>& reached, Soaked& out) const;

    const level::Level& level_;
    Samples samples_;
    int grain_;
    Size foot_;
};

// Runs are cut at upright one-way lines first, so that what is left of one is crossed freely.
void cut_runs(Runs& runs, const OneWays& ways) {
    if (ways.across.empty()) return;
    std::vector<Run> all;
    std::vector<std::size_t> starts{0};
    for (int y = 0; y < runs.rows(); ++y) {
        const auto here = ways.across.find(y);
        for (std::size_t i = runs.begin(y); i < runs.end(y); ++i) {
            Run run = runs.all[i];
            if (here != ways.across.end())
                for (const auto& [at, right] : here->second)
                    if (at > run.from && at < run.to) {
                        all.push_back({run.from, at});
                        run.from = at;
                    }
            all.push_back(run);
        }
        starts.push_back(all.size());
    }
    runs.all = std::move(all);
    runs.row_start = std::move(starts);
}

// Whether any place of a stretch is in none of the others.
bool any_free(Run stretch, const std::vector<Run>* stopped) {
    if (!stopped) return true;
    int x = stretch.from;
    for (bool moved = true; moved && x < stretch.to;) {
        moved = false;
        for (const Run& r : *stopped)
            if (r.from <= x && r.to > x) {
                x = r.to;
                moved = true;
            }
    }
    return x < stretch.to;
}

std::vector<bool> Soaker::search(const Runs& runs, std::size_t start) const {
    std::vector<bool> reached(runs.all.size(), false);
    std::vector<std::pair<int, std::size_t>> open; // row, run
    const auto reach = [&](int y, std::size_t run) {
        if (reached[run]) return;
        reached[run] = true;
        open.emplace_back(y, run);
    };
    const auto stopped = [](const std::map<int, std::vector<Run>>& by_row, int y) {
        const auto found = by_row.find(y);
        return found == by_row.end() ? nullptr : &found->second;
    };
    const auto across = [&](int y, int at, bool right) {
        const auto found = samples_.ways.across.find(y);
        return found != samples_.ways.across.end() &&
               std::binary_search(found->second.begin(), found->second.end(), std::pair(at, right));
    };
    int row = 0;
    while (runs.end(row) <= start) ++row;
    reach(row, start);
    while (!open.empty()) {
        const auto [y, i] = open.back();
        open.pop_back();
        const Run run = runs.all[i];
        for (const int next : {y - 1, y + 1}) {
            if (next < 0 || next >= runs.rows()) continue;
            const auto* lines = next > y ? stopped(samples_.ways.down, y) : stopped(samples_.ways.up, y);
            for (std::size_t j = runs.first_beyond(next, run.from); j < runs.end(next) && runs.all[j].from < run.to;
                 ++j)
                if (!reached[j] &&
                    any_free({std::max(run.from, runs.all[j].from), std::min(run.to, runs.all[j].to)}, lines))
                    reach(next, j);
        }
        // Beside it there is a run only where it was cut at a one-way line.
        if (i + 1 < runs.end(y) && runs.all[i + 1].from == run.to && !across(y, run.to, true)) reach(y, i + 1);
        if (i > runs.begin(y) && runs.all[i - 1].to == run.from && !across(y, run.from, false)) reach(y, i - 1);
    }
    return reached;
}

void Soaker::find_rims(const Runs& runs, const std::vector<bool>& reached, Soaked& out) const {
    std::array<std::vector<Run>, 4> touched; // samples along the side
    const Size last = places(foot_);
    for (int y = 0; y < runs.rows(); ++y)
        for (std::size_t i = runs.begin(y); i < runs.end(y); ++i) {
            if (!reached[i]) continue;
            const Run run = runs.all[i];
            const Run along{run.from, run.to - 1 + foot_.w}, down{y, y + foot_.h};
            if (y == 0) touched[0].push_back(along);
            if (y == last.h - 1) touched[2].push_back(along);
            if (run.to == last.w) touched[1].push_back(down);
            if (run.from == 0) touched[3].push_back(down);
        }
    for (std::size_t side = 0; side < 4; ++side) {
        if (level_.sides[side].kind != level::SideKind::open) continue;
        std::sort(touched[side].begin(), touched[side].end(), [](Run a, Run b) { return a.from < b.from; });
        for (const Run& r : touched[side]) {
            const int from = r.from * this->side(), to = r.to * this->side();
            if (!out.rims.empty() && out.rims.back().side == static_cast<int>(side) && out.rims.back().to >= from)
                out.rims.back().to = std::max(out.rims.back().to, to);
            else
                out.rims.push_back({static_cast<int>(side), from, to});
        }
    }
}

// What is wet and no foot as large as a cell can be: where that lies between places that are told apart without it.
void Soaker::find_narrow(const Bits& wet, Soaked& out) const {
    const Size large{std::max(foot_.w, grain_), std::max(foot_.h, grain_)};
    if (large == foot_ || places(large).empty()) return;
    Bits wide(samples_.blocked.size);
    const Bits no_room = samples_.without_room(large);
    for (int y = 0; y < places(large).h; ++y)
        each_run(no_room.row(y), places(large).w, false,
                 [&](int from, int to) { wide.set(y, from, to - 1 + large.w); });
    spread_down(wide, large.h);
    Bits thin = wet;
    for (std::size_t i = 0; i < wide.of.size(); ++i) {
        wide.of[i] &= wet.of[i];
        thin.of[i] &= ~wide.of[i];
    }
    const Runs halls(wide, wide.size, true), gaps(thin, thin.size, true);
    Together hall(halls), gap(gaps);
    struct Gap {
        std::vector<std::uint32_t> halls;
        Box place;
        bool level = false, upright = false; // which way one goes through
    };
    std::map<std::uint32_t, Gap> found;
    for (int y = 0; y < gaps.rows(); ++y)
        for (std::size_t i = gaps.begin(y); i < gaps.end(y); ++i) {
            const Run run = gaps.all[i];
            Gap& g = found[gap.root(static_cast<std::uint32_t>(i))];
            g.place = united(g.place, {run.from, y, run.to - run.from, 1});
            const auto meets = [&](int row, int from, int to, bool& way) {
                if (row < 0 || row >= halls.rows()) return;
                for (std::size_t j = halls.first_beyond(row, from); j < halls.end(row) && halls.all[j].from < to; ++j) {
                    g.halls.push_back(hall.root(static_cast<std::uint32_t>(j)));
                    way = true;
                }
            };
            meets(y, run.from - 1, run.from, g.level);
            meets(y, run.to, run.to + 1, g.level);
            meets(y - 1, run.from, run.to, g.upright);
            meets(y + 1, run.from, run.to, g.upright);
        }
    for (auto& of_root : found) {
        Gap& g = of_root.second;
        std::sort(g.halls.begin(), g.halls.end());
        g.halls.erase(std::unique(g.halls.begin(), g.halls.end()), g.halls.end());
        if (g.halls.size() < 2) continue;
        // Across the way.
        int width = kUnit;
        const auto samples = [&](int x, int y) {
            return box_of(thin.size).contains(Point{x, y}) && (thin.row(y)[x / 64] >> (x % 64) & 1) != 0;
        };
        const auto least = [&](bool level_way) {
            const int outer = level_way ? g.place.w : g.place.h, inner = level_way ? g.place.h : g.place.w;
            for (int a = 0; a < outer; ++a) {
                int longest = 0, now = 0;
                for (int b = 0; b < inner; ++b) {
                    const Point p = g.place.corner() + (level_way ? Point{a, b} : Point{b, a});
                    now = samples(p.x, p.y) ? now + 1 : 0;
                    longest = std::max(longest, now);
                }
                if (longest > 0) width = std::min(width, longest * side());
            }
        };
        if (g.level) least(true);
        if (g.upright) least(false);
        const int s = side();
        out.narrow.push_back({{g.place.x * s, g.place.y * s, g.place.w * s, g.place.h * s}, width});
    }
    std::sort(out.narrow.begin(), out.narrow.end(), [](const auto& a, const auto& b) {
        return std::tie(a.width, a.place.y, a.place.x) < std::tie(b.width, b.place.y, b.place.x);
    });
}

// Places with room that are not reached, hanging together, where they amount to a cell.
void Soaker::find_dry(const Runs& runs, const std::vector<bool>& reached, Soaked& out) const {
    Together together(runs);
    for (int y = 0; y < runs.rows(); ++y)
        for (std::size_t i = runs.begin(y); i + 1 < runs.end(y); ++i)
            if (runs.all[i].to == runs.all[i + 1].from) together.join(i, i + 1);
    std::unordered_map<std::uint32_t, level::Region> parts;
    for (int y = 0; y < runs.rows(); ++y)
        for (std::size_t i = runs.begin(y); i < runs.end(y); ++i) {
            if (reached[i]) continue;
            // The cells whose middle the foot covers.
            const int top = floor_div(y - grain_ / 2 + grain_ - 1, grain_),
                      bottom = floor_div(y + foot_.h - 1 - grain_ / 2, grain_);
            const int left = floor_div(runs.all[i].from - grain_ / 2 + grain_ - 1, grain_),
                      right = floor_div(runs.all[i].to - 2 + foot_.w - grain_ / 2, grain_);
            if (top <= bottom && left <= right)
                parts[together.root(static_cast<std::uint32_t>(i))].add(
                    Box{left, top, right - left + 1, bottom - top + 1});
        }
    for (auto& [root, cells] : parts) {
        const std::int64_t count = cells.count();
        if (count > 0) out.dry.push_back({std::move(cells), count});
    }
    std::sort(out.dry.begin(), out.dry.end(), [](const Soaked::Dry& a, const Soaked::Dry& b) {
        const auto at = [](const Soaked::Dry& d) { return d.cells.bounds().corner(); };
        return a.count != b.count ? a.count > b.count : at(a) < at(b);
    });
    if (out.dry.size() > kMostDry) out.dry.resize(kMostDry);
}

Soaked Soaker::from(Point middle) {
    Soaked out;
    out.grain = grain_;
    out.samples = samples_.blocked.size;
    out.nothing_blocks =
        std::all_of(samples_.blocked.of.begin(), samples_.blocked.of.end(), [](std::uint64_t w) { return w == 0; });
    Bits wet(samples_.blocked.size);
    const auto shut_in = [&] {
        out.shut_in = true;
        out.wet = std::move(wet.of);
        return out;
    };
    if (places(foot_).empty()) return shut_in();
    Runs runs(samples_.without_room(foot_), places(foot_), false);
    cut_runs(runs, samples_.ways);
    // The nearest place with room, within a cell.
    const Point corner{floor_div(middle.x, side()) - foot_.w / 2, floor_div(middle.y, side()) - foot_.h / 2};
    std::size_t start = runs.all.size();
    int nearest = grain_ + 1;
    for (int y = std::max(0, corner.y - grain_); y <= std::min(runs.rows() - 1, corner.y + grain_); ++y)
        for (std::size_t i = runs.begin(y); i < runs.end(y); ++i) {
            const int aside = std::max({0, runs.all[i].from - corner.x, corner.x - runs.all[i].to + 1});
            const int away = std::max(aside, std::abs(y - corner.y));
            if (away >= nearest) continue;
            nearest = away;
            start = i;
        }
    if (start == runs.all.size()) return shut_in();
    const std::vector<bool> reached = search(runs, start);
    for (int y = 0; y < runs.rows(); ++y)
        for (std::size_t i = runs.begin(y); i < runs.end(y); ++i)
            if (reached[i]) wet.set(y, runs.all[i].from, runs.all[i].to - 1 + foot_.w);
    spread_down(wet, foot_.h);
    find_rims(runs, reached, out);
    find_narrow(wet, out);
    find_dry(runs, reached, out);
    out.wet = std::move(wet.of);
    return out;
}

} // namespace

Size foot_of(const level::Level& level) {
    const int w = std::max(8, level.walker.width), h = std::max(8, level.walker.height);
    if (level.view == level::View::from_the_side) return {w, h};
    const int deep = level.walker.foot > 0 ? level.walker.foot : w;
    return {w, level.lattice == LatticeKind::isometric ? w : std::min(deep, h)};
}

Point start_of(const level::Level& level) {
    const level::Mark* start = level.first_mark(level::MarkKind::start);
    if (!start) return {level.size.w * kUnit / 2, level.size.h * kUnit / 2};
    const Box c = start->cells;
    const bool aslant = level.lattice == LatticeKind::isometric;
    return {c.x * kUnit + c.w * kUnit / 2,
            aslant ? c.y * kUnit + c.h * kUnit / 2 : c.bottom() * kUnit - foot_of(level).h / 2};
}

bool Soaked::touches(const Box& cells) const {
    const Box box = intersection({cells.x * grain, cells.y * grain, cells.w * grain, cells.h * grain}, box_of(samples));
    for (int y = box.y; y < box.bottom(); ++y)
        for (int x = box.x; x < box.right(); ++x)
            if (at({x, y})) return true;
    return false;
}

level::Region Soaked::cells() const {
    level::Region out;
    if (grain == 0) return out;
    for (int y = 0; y * grain < samples.h; ++y)
        for (int i = 0; i < grain; ++i)
            each_run(wet.data() + static_cast<std::size_t>(y * grain + i) * words(), samples.w, true,
                     [&](int from, int to) {
                         out.add(Box{from / grain, y, (to - 1) / grain - from / grain + 1, 1});
                     });
    return out;
}

Soaked soak(const level::Level& level, const outline::Kinds& kinds, Point middle) {
    Soaked out = Soaker(level, kinds).from(middle);
    if (level.view == level::View::from_above && !out.nothing_blocks && !out.shut_in)
        out.dead_ends = dead_ends(level, kinds, out, middle);
    return out;
}

} // namespace vic::walk
