#include "upright/ground.hpp"

#include <algorithm>
#include <cmath>
#include <cstdlib>
#include <utility>

#include "outline/solid.hpp"

namespace vic::upright {

using outline::kUnit;

namespace {

constexpr std::int64_t kMostSamples = std::int64_t{1} << 21;

int units_of(int centimetres, double metres) {
    return std::max(0, static_cast<int>(std::lround(centimetres / 100.0 / metres * kUnit)));
}

// For each line of samples, along x or else along y, where the outlines (1/64 cells) cross its middle, in order.
std::vector<std::vector<double>> crossings(const std::vector<outline::Outline>& outlines, int lines, int side,
                                           bool along_x) {
    std::vector<std::vector<double>> out(static_cast<std::size_t>(lines));
    for (const outline::Outline& o : outlines)
        for (std::size_t i = 0; i < o.points.size(); ++i) {
            Point a = o.points[i], b = o.points[(i + 1) % o.points.size()];
            if (!along_x) std::swap(a.x, a.y), std::swap(b.x, b.y);
            if (a.y == b.y) continue;
            if (a.y > b.y) std::swap(a, b);
            for (int line = std::max(0, floor_div(a.y, side) - 1); line < lines; ++line) {
                const double y = line * side + side / 2.0;
                if (y <= a.y) continue;
                if (y > b.y) break;
                out[static_cast<std::size_t>(line)].push_back(a.x + (y - a.y) * (b.x - a.x) / (b.y - a.y));
            }
        }
    for (std::vector<double>& line : out) std::sort(line.begin(), line.end());
    return out;
}

// visit(row, from, to) for the samples whose middle lies within the outlines, even and odd; and for one wherever they
// are too thin for that, as rails are, so that nothing that blocks is passed over. Some may come twice.
template <class Visit>
void each_run(const std::vector<outline::Outline>& outlines, Size samples, int side, const Visit& visit) {
    const auto middle_from = [&](double at) { return static_cast<int>(std::ceil((at - side / 2.0) / side)); };
    const auto sample_at = [&](double a, double b) { return static_cast<int>(std::floor((a + b) / 2 / side)); };
    const auto rows = crossings(outlines, samples.h, side, true);
    for (int row = 0; row < samples.h; ++row) {
        const std::vector<double>& xs = rows[static_cast<std::size_t>(row)];
        for (std::size_t i = 0; i + 1 < xs.size(); i += 2) {
            int first = middle_from(xs[i]), end = middle_from(xs[i + 1]);
            if (first >= end) first = sample_at(xs[i], xs[i + 1]), end = first + 1;
            if (std::max(0, first) < std::min(samples.w, end)) visit(row, std::max(0, first), std::min(samples.w, end));
        }
    }
    const auto columns = crossings(outlines, samples.w, side, false);
    for (int x = 0; x < samples.w; ++x) {
        const std::vector<double>& ys = columns[static_cast<std::size_t>(x)];
        for (std::size_t i = 0; i + 1 < ys.size(); i += 2) {
            if (middle_from(ys[i]) < middle_from(ys[i + 1])) continue;
            const int row = sample_at(ys[i], ys[i + 1]);
            if (row >= 0 && row < samples.h) visit(row, x, x + 1);
        }
    }
}

} // namespace

Body body_of(const level::Upright& u, double metres) {
    Body out;
    out.wide = std::clamp(units_of(u.wide, metres), 1, kMostWide);
    out.tall = std::max(1, units_of(u.tall, metres));
    out.step = units_of(u.step, metres);
    out.jump = std::max(out.step, units_of(u.jump, metres));
    out.drop = std::max(out.step, units_of(u.drop, metres));
    out.slope = u.slope;
    return out;
}

Ground::Ground(const mass::Mass& mass, const mass::Plain& plain, const Body& body) : body_(body) {
    while (side_ < kUnit && plain.cells.area() * (kUnit / side_) * (kUnit / side_) > kMostSamples) side_ *= 2;
    size_ = {plain.cells.w * (kUnit / side_), plain.cells.h * (kUnit / side_)};
    stand(mass, plain);
    find_clear();
}

// From below: of each column the top that is still free above.
void Ground::stand(const mass::Mass& mass, const mass::Plain& plain) {
    const auto columns = static_cast<std::size_t>(size_.area());
    const auto index = [&](int row, int x) {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(size_.w) + static_cast<std::size_t>(x);
    };
    std::vector<std::int32_t> top(columns, 0);
    std::vector<char> carries(columns, 1); // whether one may stand on that
    std::vector<std::uint8_t> leans(columns, 0);
    struct Found {
        std::uint32_t column;
        std::int32_t height, head;
        std::uint8_t slope;
    };
    std::vector<Found> found;
    // Bodies by their steps, among the rest from below.
    struct Filled {
        const mass::Slab* slab;
        int leans;
        bool carries;
    };
    std::vector<Filled> all;
    for (const mass::Slab& slab : plain.blocked) all.push_back({&slab, 0, false});
    for (const mass::Slab& slab : mass.slabs) all.push_back({&slab, 0, true});
    for (const auto& body : mass.bodies)
        for (const mass::Slab& step : body->steps) all.push_back({&step, body->slope, true});
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.slab->from < b.slab->from; });
    for (const Filled& one : all) {
        const mass::Slab& slab = *one.slab;
        const auto lean = static_cast<std::uint8_t>(one.leans);
        each_run(*slab.outlines, size_, side_, [&](int row, int from, int to) {
            for (int x = from; x < to; ++x) {
                const std::size_t i = index(row, x);
                if (slab.to <= top[i]) continue;
                if (slab.from > top[i] && carries[i])
                    found.push_back({static_cast<std::uint32_t>(i), top[i], slab.from - top[i], leans[i]});
                top[i] = slab.to;
                carries[i] = one.carries;
                leans[i] = lean;
            }
        });
    }
    for (std::size_t i = 0; i < columns; ++i)
        if (carries[i]) found.push_back({static_cast<std::uint32_t>(i), top[i], kFree, leans[i]});
    std::stable_sort(found.begin(), found.end(), [](const Found& a, const Found& b) { return a.column < b.column; });
    first_.assign(columns + 1, 0);
    for (const Found& f : found) {
        ++first_[f.column + 1];
        places_.push_back({static_cast<int>(f.column) % size_.w, static_cast<int>(f.column) / size_.w, f.height, f.head,
                           false, f.slope});
    }
    for (std::size_t i = 1; i < first_.size(); ++i) first_[i] += first_[i - 1];
}

void Ground::find_clear() {
    const int reach = body_.wide / 2 / side_;
    for (Place& p : places_) {
        p.clear = p.head >= body_.tall && p.slope <= body_.slope;
        for (int y = p.y - reach; y <= p.y + reach && p.clear; ++y)
            for (int x = p.x - reach; x <= p.x + reach && p.clear; ++x) {
                if (x == p.x && y == p.y) continue;
                const auto [first, last] = column({x, y});
                bool room = false;
                for (std::size_t i = first; i < last && !room; ++i) {
                    const Place& o = places_[i];
                    room = o.height <= p.height + body_.step && o.height + o.head >= p.height + body_.tall;
                }
                p.clear = room || x < 0 || y < 0 || x >= size_.w || y >= size_.h;
            }
    }
}

std::pair<std::size_t, std::size_t> Ground::column(Point s) const {
    if (s.x < 0 || s.y < 0 || s.x >= size_.w || s.y >= size_.h) return {0, 0};
    const auto i = static_cast<std::size_t>(s.y) * static_cast<std::size_t>(size_.w) + static_cast<std::size_t>(s.x);
    return {first_[i], first_[i + 1]};
}

std::optional<std::size_t> Ground::near(Point at, int height) const {
    const Point middle{floor_div(at.x, side_), floor_div(at.y, side_)};
    const int reach = kUnit / side_;
    std::optional<std::size_t> best;
    int least = 2 * kUnit;
    for (int y = middle.y - reach; y <= middle.y + reach; ++y)
        for (int x = middle.x - reach; x <= middle.x + reach; ++x) {
            const auto [first, last] = column({x, y});
            for (std::size_t i = first; i < last; ++i) {
                if (!places_[i].clear) continue;
                const int far = std::max(std::abs(x - middle.x), std::abs(y - middle.y)) * side_ +
                                2 * std::abs(places_[i].height - height);
                if (far < least) least = far, best = i;
            }
        }
    return best;
}

bool Ground::leads(const Place& from, const Place& to, int away) const {
    const int up = to.height - from.height;
    if (up > body_.jump || -up > body_.drop) return false;
    if (away > 1 && std::abs(up) <= body_.step) return false; // one walks there, if at all
    // Upright above both, and above what is between them, at the higher one.
    const int high = std::max(from.height, to.height);
    const auto free = [&](const Place& p) { return p.height <= high && p.height + p.head >= high + body_.tall; };
    if (!free(from) || !free(to)) return false;
    const Point by{(to.x - from.x) / away, (to.y - from.y) / away};
    for (int k = 1; k < away; ++k) {
        const auto [first, last] = column({from.x + by.x * k, from.y + by.y * k});
        bool open = false;
        for (std::size_t i = first; i < last && !open; ++i) open = free(places_[i]);
        if (!open) return false;
    }
    return true;
}

Soaked soak(const Ground& ground, std::optional<std::size_t> from) {
    Soaked out;
    out.wet.assign(ground.places().size(), Wet::dry);
    out.from = from;
    if (!from) return out;
    std::vector<std::size_t> order{*from};
    out.wet[*from] = Wet::no_way_back;
    for (std::size_t i = 0; i < order.size(); ++i)
        ground.each_next(order[i], [&](std::size_t next) {
            if (out.wet[next] != Wet::dry) return;
            out.wet[next] = Wet::no_way_back;
            order.push_back(next);
        });
    // Backwards: from which of them one comes to what leads back.
    std::vector<std::size_t> back{*from};
    out.wet[*from] = Wet::reached;
    while (!back.empty()) {
        const std::size_t to = back.back();
        back.pop_back();
        ground.each_before(to, [&](std::size_t before) {
            if (out.wet[before] != Wet::no_way_back) return;
            out.wet[before] = Wet::reached;
            back.push_back(before);
        });
    }
    return out;
}

} // namespace vic::upright
