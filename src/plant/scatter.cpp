#include "plant/scatter.hpp"

#include <algorithm>
#include <array>
#include <cassert>
#include <cmath>
#include <mutex>

#ifdef __SSE2__
#include <emmintrin.h>
#endif

#include "base/chance.hpp"
#include "base/parallel.hpp"

namespace vic::plant {

namespace scattering {

constexpr int kBucket = 256; // pixels
constexpr std::uint16_t kNone = 0xFFFF;

std::uint64_t key(int x, int y) {
    return (std::uint64_t{static_cast<std::uint32_t>(x)} << 32) | static_cast<std::uint32_t>(y);
}

// What stands in a cell: its place from the cell's corner.
struct Cell {
    std::uint16_t dx = kNone, dy = 0;
    std::uint16_t scale = 100;
    std::uint8_t kind = 0;
    int apart = 0;
    [[nodiscard]] bool empty() const { return dx == kNone; }
    bool operator==(const Cell&) const = default;
};

// A neighbouring cell that can matter, and how near anything in it can be.
struct Offset {
    int x, y;
    std::int64_t nearest; // pixels, squared
};

// How far off a place in a cell is, at the least, from one in another; pixels, squared.
std::int64_t nearest(int dx, int dy, int side) {
    const auto gap = [side](int cells) { return cells == 0 ? 0 : (std::abs(cells) - 1) * side + 1; };
    return std::int64_t{gap(dx)} * gap(dx) + std::int64_t{gap(dy)} * gap(dy);
}

// Whether two that want so much room are too near: all in 1/16 pixels but the squared distance.
bool too_near(std::int64_t squared, int one, int other) {
    const std::int64_t sum = std::int64_t{one} + other;
    return 4 * kParts * kParts * squared < sum * sum;
}

} // namespace scattering
using namespace scattering;

void Obstacles::add(const Obstacle& o) {
    buckets_[key(floor_div(o.at.x, kBucket), floor_div(o.at.y, kBucket))].push_back(o);
    most_ = std::max(most_, o.apart);
}

void Obstacles::in(const Box& pixels, std::vector<Obstacle>& out) const {
    if (pixels.empty() || buckets_.empty()) return;
    for (int y = floor_div(pixels.y, kBucket); y <= floor_div(pixels.bottom() - 1, kBucket); ++y)
        for (int x = floor_div(pixels.x, kBucket); x <= floor_div(pixels.right() - 1, kBucket); ++x)
            if (const auto found = buckets_.find(key(x, y)); found != buckets_.end())
                for (const Obstacle& o : found->second)
                    if (pixels.contains(o.at)) out.push_back(o);
}

void Ground::inside(const Box& samples, std::uint8_t* out) const {
    std::fill_n(out, samples.size().area(), std::uint8_t{255});
}

int Ground::kind_at(Point) const { return -1; }

namespace scattering {

// What follows from a spread for all tiles.
struct Plan {
    Spread spread;
    int least = 0, most = 0; // apart, 1/16 pixels
    int least_foot = 0, most_foot = 0;
    int side = 1;  // pixels of a cell
    int halo = 1;  // cells beyond a tile that matter
    int tile = 32; // cells a side
    std::uint32_t weights = 0;
    bool equal = true; // all are as far apart
    int square = 0;    // where they are, and tiles are small enough for it: pixels, squared, from which on they may be
    std::vector<Offset> offsets;
    std::vector<std::uint32_t> order; // of a tile's cells
    std::vector<int> smallest;        // kinds that may be chosen, the least apart first

    explicit Plan(Spread s) : spread(std::move(s)) {
        assert(!spread.kinds.empty() && spread.kinds.size() < 256);
        const int low = spread.least * std::min(100, spread.rim), high = spread.most * std::max(100, spread.rim);
        least = least_foot = kMostApart * kParts;
        for (std::size_t i = 0; i < spread.kinds.size(); ++i) {
            const auto& k = spread.kinds[i];
            weights += k.weight;
            if (k.weight == 0) continue;
            smallest.push_back(static_cast<int>(i));
            least = std::min(least, static_cast<int>(std::int64_t{k.apart} * low / 10000));
            most = std::max(most, static_cast<int>(std::int64_t{k.apart} * high / 10000));
            const std::int64_t foot = k.foot > 0 ? k.foot : k.apart;
            least_foot = std::min(least_foot, static_cast<int>(foot * low / 10000));
            most_foot = std::max(most_foot, static_cast<int>(foot * high / 10000));
        }
        assert(weights > 0);
        least = std::max(least, kParts);
        least_foot = std::max(least_foot, 1);
        most = std::clamp(most, least, 16 * kMostApart * kParts);
        std::stable_sort(smallest.begin(), smallest.end(), [&](int a, int b) { return kind(a).apart < kind(b).apart; });
        equal = least == most;
        // Two pixels of one cell are nearer than the least.
        side = std::max(1, static_cast<int>(least / (kParts * std::sqrt(2.0))));
        while (too_near(2 * std::int64_t{side} * side, least, least)) ++side;
        while (side > 1 && !too_near(2 * std::int64_t{side - 1} * (side - 1), least, least)) --side;
        while (too_near(nearest(halo + 1, 0, side), most, most)) ++halo;
        tile = std::max(32, 2 * halo);
        constexpr int kShort = 4000; // pixels whose squares, doubled, go into 32 bits, even from far off
        if (equal && (tile + 2 * halo) * side < kShort)
            while (too_near(square, least, least)) ++square;
        for (int y = -halo; y <= halo; ++y)
            for (int x = -halo; x <= halo; ++x)
                if ((x != 0 || y != 0) && too_near(nearest(x, y, side), most, most))
                    offsets.push_back({x, y, nearest(x, y, side)});
        std::stable_sort(offsets.begin(), offsets.end(),
                         [](const Offset& a, const Offset& b) { return a.nearest < b.nearest; });
        order.resize(static_cast<std::size_t>(tile) * static_cast<std::size_t>(tile));
        for (std::size_t i = 0; i < order.size(); ++i) order[i] = static_cast<std::uint32_t>(i);
        for (std::size_t i = order.size(); i-- > 1;)
            std::swap(order[i], order[scaled(static_cast<std::uint32_t>(mix(i)), static_cast<std::uint32_t>(i + 1))]);
    }
    [[nodiscard]] const Spread::Kind& kind(int i) const { return spread.kinds[static_cast<std::size_t>(i)]; }
    [[nodiscard]] int apart_of(int k, int scale) const {
        return std::max(kParts, static_cast<int>(std::int64_t{kind(k).apart} * scale / 100));
    }
    [[nodiscard]] int foot_of(int k, int scale) const {
        const std::int64_t foot = kind(k).foot > 0 ? kind(k).foot : kind(k).apart;
        return std::max(1, static_cast<int>(foot * scale / 100));
    }
    [[nodiscard]] int chosen(std::uint32_t chance) const {
        std::uint32_t at = scaled(chance, weights);
        for (std::size_t i = 0; i < spread.kinds.size(); ++i) {
            if (at < spread.kinds[i].weight) return static_cast<int>(i);
            at -= spread.kinds[i].weight;
        }
        return smallest.front();
    }
};

struct Short {
    std::int16_t x = kFar, y = kFar; // pixels from the tile's corner; far off where there is none
    static constexpr std::int16_t kFar = -10000;
};

// Whether any of `count` places, taken `times`, is nearer to a box that goes w and h to each side of x, y than asked,
// all of the box. Eight are looked at at a time, so some more may be read; none of those is near.
bool any_near(const Short* at, int count, int x, int y, int times, int w, int h, int square) {
#ifdef __SSE2__
    const auto pair = [](int a, int b) {
        return _mm_set1_epi32(
            static_cast<int>((static_cast<std::uint32_t>(b) << 16) | (static_cast<std::uint32_t>(a) & 0xFFFFU)));
    };
    const __m128i middle = pair(x, y), half = pair(w, h), most = _mm_set1_epi32(square);
    __m128i near = _mm_setzero_si128();
    for (int k = 0; k < count; k += 4) {
        __m128i d = _mm_loadu_si128(reinterpret_cast<const __m128i*>(at + k));
        if (times == 2) d = _mm_add_epi16(d, d);
        d = _mm_sub_epi16(d, middle);
        d = _mm_add_epi16(_mm_max_epi16(d, _mm_sub_epi16(_mm_setzero_si128(), d)), half);
        near = _mm_or_si128(near, _mm_cmplt_epi32(_mm_madd_epi16(d, d), most));
    }
    return _mm_movemask_epi8(near) != 0;
#else
    int near = 0;
    for (int k = 0; k < count; ++k) {
        const int dx = std::abs(times * at[k].x - x) + w, dy = std::abs(times * at[k].y - y) + h;
        near |= static_cast<int>(dx * dx + dy * dy < square);
    }
    return near != 0;
#endif
}
constexpr std::size_t kReadBeyond = 4;

// One tile being settled, with what it sees around it. A thread has one and uses it again and again.
class Bench {
  public:
    explicit Bench(const Plan& plan)
        : plan_(plan), wide_(plan.tile + 2 * plan.halo), window_(wide() * wide()), state_(window_.size()) {
        for (const Offset& o : plan.offsets) steps_.push_back(o.y * wide_ + o.x);
        for (int y = 0, k = 0; k<2 * plan.halo + 1; ++k, y = y> 0 ? -y : 1 - y) rows_.push_back(y * wide_);
    }

    std::vector<Cell>& window() { return window_; }
    [[nodiscard]] std::size_t wide() const { return static_cast<std::size_t>(wide_); }
    void settle(Point tile, const Ground& ground, const Obstacles& obstacles);

  private:
    // A box of pixels of the tile, within one cell.
    struct Open {
        int x, y, w, h;
        std::size_t cell; // in the window
    };
    [[nodiscard]] std::size_t cell_at(int x, int y) const { // of the tile
        return static_cast<std::size_t>(y + plan_.halo) * wide() + static_cast<std::size_t>(x + plan_.halo);
    }
    void see(const Ground& ground, const Obstacles& obstacles);
    void darts();
    void fill();
    void split(const Open& b);
    bool dart(const Open& b, std::uint64_t hash, bool last);
    [[nodiscard]] bool stands_free(int x, int y, std::size_t cell, int apart, int foot) const;
    [[nodiscard]] bool covered(const Open& b) const;
    // The same of equal ones: all the cells around are looked at, row by row from the middle on, without asking in
    // which there is one.
    [[nodiscard]] bool stands_free_short(int x, int y, std::size_t cell) const;
    [[nodiscard]] bool covered_short(const Open& b) const;
    [[nodiscard]] bool free_of_obstacles(int x, int y, std::size_t cell, int foot) const;
    [[nodiscard]] bool covered_by_obstacles(const Open& b) const;
    void put_short(std::size_t cell);
    [[nodiscard]] bool open_at(int x, int y) const {
        return open_ == Ground::Open::all || samples_[sample_at(x, y)] != 0;
    }
    [[nodiscard]] bool open_in(const Open& b) const;
    [[nodiscard]] std::size_t sample_at(int x, int y) const {
        return static_cast<std::size_t>((y + corner_.y) / grain_ - raster_.y) * static_cast<std::size_t>(raster_.w) +
               static_cast<std::size_t>((x + corner_.x) / grain_ - raster_.x);
    }
    [[nodiscard]] int rim_at(int x, int y) const { // per cent
        if (plan_.spread.rim == 100) return 100;
        const int in = inside_[sample_at(x, y)];
        return plan_.spread.rim + (100 - plan_.spread.rim) * in / 255;
    }

    const Plan& plan_;
    const Ground* ground_ = nullptr;
    int wide_;
    std::vector<Cell> window_;
    std::vector<std::uint8_t> state_; // of cells: 1 where an obstacle takes all of it
    std::vector<std::ptrdiff_t> steps_;
    std::vector<std::ptrdiff_t> rows_; // the rows of cells around one, the nearest first
    std::vector<Short> shorts_;
    Point first_;  // the tile's first cell
    Point corner_; // its pixel, off by base_
    Point base_;   // pixels, so that what is asked of the raster is never below 0
    int grain_ = 1;
    Ground::Open open_ = Ground::Open::all;
    Box raster_; // samples, moved likewise
    std::vector<std::uint8_t> samples_, inside_;
    std::vector<Obstacle> near_;                      // places from the tile's corner
    std::vector<std::vector<std::uint16_t>> near_of_; // by cell, those that can matter there
    bool keeps_off_ = false;
    std::vector<Open> boxes_, next_;
};

// What is open, and what keeps off.
void Bench::see(const Ground& ground, const Obstacles& obstacles) {
    const int side = plan_.side, pixels = plan_.tile * side;
    ground_ = &ground;
    grain_ = ground.grain();
    const Point corner{first_.x * side, first_.y * side};
    const Box samples = spanning({floor_div(corner.x, grain_), floor_div(corner.y, grain_)},
                                 {floor_div(corner.x + pixels - 1, grain_), floor_div(corner.y + pixels - 1, grain_)});
    base_ = {samples.x * grain_, samples.y * grain_};
    corner_ = corner - base_;
    raster_ = {0, 0, samples.w, samples.h};
    samples_.resize(static_cast<std::size_t>(samples.size().area()));
    open_ = ground.open(samples, samples_.data());
    if (open_ == Ground::Open::none) return;
    if (plan_.spread.rim != 100) {
        inside_.resize(samples_.size());
        ground.inside(samples, inside_.data());
    }
    keeps_off_ = false;
    if (obstacles.empty()) return;
    near_.clear();
    const int most = (plan_.most_foot + obstacles.most_apart()) / (2 * kParts) + 1;
    obstacles.in(Box{corner.x, corner.y, pixels, pixels}.grown(most), near_);
    keeps_off_ = !near_.empty() && near_.size() < kNone;
    if (!keeps_off_) return;
    std::fill(state_.begin(), state_.end(), std::uint8_t{0});
    near_of_.resize(window_.size());
    for (auto& list : near_of_) list.clear();
    for (std::size_t i = 0; i < near_.size(); ++i) {
        Obstacle& o = near_[i];
        o.at = o.at - corner;
        const int far = (plan_.most_foot + o.apart) / (2 * kParts) + 1;
        for (int y = std::max(0, floor_div(o.at.y - far, side)); y <= std::min(plan_.tile - 1, (o.at.y + far) / side);
             ++y)
            for (int x = std::max(0, floor_div(o.at.x - far, side));
                 x <= std::min(plan_.tile - 1, (o.at.x + far) / side); ++x) {
                const Open cell{x * side, y * side, side, side, cell_at(x, y)};
                const std::int64_t dx = std::max(std::abs(o.at.x - cell.x), std::abs(o.at.x - (cell.x + side - 1)));
                const std::int64_t dy = std::max(std::abs(o.at.y - cell.y), std::abs(o.at.y - (cell.y + side - 1)));
                if (too_near(dx * dx + dy * dy, plan_.least_foot, o.apart)) state_[cell.cell] = 1;
                near_of_[cell.cell].push_back(static_cast<std::uint16_t>(i));
            }
    }
}

bool Bench::free_of_obstacles(int x, int y, std::size_t cell, int foot) const {
    for (const std::uint16_t i : near_of_[cell]) {
        const std::int64_t dx = near_[i].at.x - x, dy = near_[i].at.y - y;
        if (too_near(dx * dx + dy * dy, foot, near_[i].apart)) return false;
    }
    return true;
}

bool Bench::covered_by_obstacles(const Open& b) const {
    for (const std::uint16_t i : near_of_[b.cell]) {
        const Point p = near_[i].at;
        const std::int64_t dx = std::max(std::abs(p.x - b.x), std::abs(p.x - (b.x + b.w - 1)));
        const std::int64_t dy = std::max(std::abs(p.y - b.y), std::abs(p.y - (b.y + b.h - 1)));
        if (too_near(dx * dx + dy * dy, plan_.least_foot, near_[i].apart)) return true;
    }
    return false;
}

bool Bench::stands_free_short(int x, int y, std::size_t cell) const {
    const Short* middle = &shorts_[cell] - plan_.halo;
    for (const std::ptrdiff_t row : rows_)
        if (any_near(middle + row, 2 * plan_.halo + 1, x, y, 1, 0, 0, plan_.square)) return false;
    return true;
}

bool Bench::covered_short(const Open& b) const {
    const Short* middle = &shorts_[b.cell] - plan_.halo;
    const int w = b.w - 1, h = b.h - 1;
    for (const std::ptrdiff_t row : rows_)
        if (any_near(middle + row, 2 * plan_.halo + 1, 2 * b.x + w, 2 * b.y + h, 2, w, h, 4 * plan_.square))
            return true;
    return false;
}

bool Bench::stands_free(int x, int y, std::size_t cell, int apart, int foot) const {
    if (keeps_off_ && !free_of_obstacles(x, y, cell, foot)) return false;
    if (plan_.square != 0) return stands_free_short(x, y, cell);
    const int side = plan_.side;
    const int ox = x % side, oy = y % side; // within its cell
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        const Offset& o = plan_.offsets[i];
        const Cell& c = window_[static_cast<std::size_t>(static_cast<std::ptrdiff_t>(cell) + steps_[i])];
        if (c.empty()) continue;
        const std::int64_t dx = o.x * side + c.dx - ox, dy = o.y * side + c.dy - oy;
        if (too_near(dx * dx + dy * dy, apart, c.apart)) return false;
    }
    return true;
}

// Whether there is no place in the box, not even for the smallest, because of one that stands around.
bool Bench::covered(const Open& b) const {
    if (keeps_off_ && covered_by_obstacles(b)) return true;
    if (plan_.square != 0) return covered_short(b);
    const int side = plan_.side;
    const Point cell{b.x / side * side, b.y / side * side};
    for (std::size_t i = 0; i < steps_.size(); ++i) {
        const Offset& o = plan_.offsets[i];
        const Cell& c = window_[static_cast<std::size_t>(static_cast<std::ptrdiff_t>(b.cell) + steps_[i])];
        if (c.empty()) continue;
        const int px = cell.x + o.x * side + c.dx, py = cell.y + o.y * side + c.dy;
        const std::int64_t dx = std::max(std::abs(px - b.x), std::abs(px - (b.x + b.w - 1)));
        const std::int64_t dy = std::max(std::abs(py - b.y), std::abs(py - (b.y + b.h - 1)));
        if (too_near(dx * dx + dy * dy, plan_.least, c.apart)) return true;
    }
    return false;
}

void Bench::put_short(std::size_t cell) {
    const int x = static_cast<int>(cell % wide()) - plan_.halo, y = static_cast<int>(cell / wide()) - plan_.halo;
    const Cell& c = window_[cell];
    shorts_[cell] = {static_cast<std::int16_t>(x * plan_.side + c.dx),
                     static_cast<std::int16_t>(y * plan_.side + c.dy)};
}

bool Bench::open_in(const Open& b) const {
    if (open_ == Ground::Open::all) return true;
    const int x0 = (b.x + corner_.x) / grain_, x1 = (b.x + b.w - 1 + corner_.x) / grain_;
    const int y0 = (b.y + corner_.y) / grain_, y1 = (b.y + b.h - 1 + corner_.y) / grain_;
    for (int y = y0; y <= y1; ++y)
        for (int x = x0; x <= x1; ++x)
            if (samples_[static_cast<std::size_t>(y) * static_cast<std::size_t>(raster_.w) +
                         static_cast<std::size_t>(x)] != 0)
                return true;
    return false;
}

// One try in the box. The last one in a single pixel takes whatever fits there.
bool Bench::dart(const Open& b, std::uint64_t hash, bool last) {
    const int x = b.x + static_cast<int>(scaled(static_cast<std::uint32_t>(hash), static_cast<std::uint32_t>(b.w)));
    const int y =
        b.y + static_cast<int>(scaled(static_cast<std::uint32_t>(hash >> 32), static_cast<std::uint32_t>(b.h)));
    if (!open_at(x, y)) return false;
    const auto stand = [&](int kind, int scale, int apart) {
        Cell& c = window_[b.cell];
        c.dx = static_cast<std::uint16_t>(x % plan_.side);
        c.dy = static_cast<std::uint16_t>(y % plan_.side);
        c.kind = static_cast<std::uint8_t>(kind);
        c.scale = static_cast<std::uint16_t>(scale);
        c.apart = apart;
        if (plan_.square != 0) shorts_[b.cell] = {static_cast<std::int16_t>(x), static_cast<std::int16_t>(y)};
        return true;
    };
    const Spread& s = plan_.spread;
    if (plan_.equal && s.kinds.size() == 1)
        return stands_free(x, y, b.cell, plan_.least, plan_.least_foot) && stand(0, s.least, plan_.least);
    const std::uint64_t own = mix(hash);
    const int rim = rim_at(x, y);
    const int by_chance = s.least + static_cast<int>(scaled(static_cast<std::uint32_t>(own),
                                                            static_cast<std::uint32_t>(s.most - s.least + 1)));
    const int told = ground_->kind_at({first_.x * plan_.side + x, first_.y * plan_.side + y});
    const int kind = told >= 0 ? told : plan_.chosen(static_cast<std::uint32_t>(own >> 32));
    const int scale = by_chance * rim / 100;
    const int apart = plan_.apart_of(kind, scale);
    if (stands_free(x, y, b.cell, apart, plan_.foot_of(kind, scale))) return stand(kind, scale, apart);
    if (!last) return false;
    // The largest that fits, of the smallest of each kind; by chance would be none.
    const int small = s.least * rim / 100;
    for (std::size_t i = plan_.smallest.size(); i-- > 0;) {
        const int k = plan_.smallest[i];
        if (told >= 0 && told != k) continue;
        if (stands_free(x, y, b.cell, plan_.apart_of(k, small), plan_.foot_of(k, small)))
            return stand(k, small, plan_.apart_of(k, small));
    }
    return false;
}

void Bench::darts() {
    const int side = plan_.side, tile = plan_.tile;
    for (const std::uint32_t i : plan_.order) {
        const int x = static_cast<int>(i) % tile, y = static_cast<int>(i) / tile;
        const Open b{x * side, y * side, side, side, cell_at(x, y)};
        if (keeps_off_ && state_[b.cell]) continue;
        dart(b, place_hash(plan_.spread.seed, first_.x + x, first_.y + y), false);
    }
}

void Bench::split(const Open& b) {
    const int w = (b.w + 1) / 2, h = (b.h + 1) / 2;
    for (int y = 0; y < b.h; y += h)
        for (int x = 0; x < b.w; x += w) {
            const Open part{b.x + x, b.y + y, std::min(w, b.w - x), std::min(h, b.h - y), b.cell};
            if (open_in(part) && !covered(part)) next_.push_back(part);
        }
}

void Bench::fill() {
    const int side = plan_.side, tile = plan_.tile;
    boxes_.clear();
    for (const std::uint32_t i : plan_.order) {
        const int x = static_cast<int>(i) % tile, y = static_cast<int>(i) / tile;
        const Open b{x * side, y * side, side, side, cell_at(x, y)};
        if (!window_[b.cell].empty() || (keeps_off_ && state_[b.cell])) continue;
        if (open_in(b) && !covered(b)) boxes_.push_back(b);
    }
    for (int round = 1; !boxes_.empty(); ++round) {
        next_.clear();
        for (const Open& b : boxes_) {
            if (!window_[b.cell].empty()) continue;
            const bool pixel = b.w == 1 && b.h == 1;
            const std::uint64_t hash =
                place_hash(plan_.spread.seed + static_cast<std::uint64_t>(round) * 0x9E3779B97F4A7C15ULL,
                           first_.x * side + b.x, first_.y * side + b.y);
            if (dart(b, hash, pixel) || pixel) continue;
            split(b);
        }
        std::swap(boxes_, next_);
    }
}

void Bench::settle(Point tile, const Ground& ground, const Obstacles& obstacles) {
    first_ = {tile.x * plan_.tile, tile.y * plan_.tile};
    see(ground, obstacles);
    if (open_ == Ground::Open::none) return;
    if (plan_.square != 0) {
        shorts_.assign(window_.size() + kReadBeyond, {});
        for (std::size_t i = 0; i < window_.size(); ++i)
            if (!window_[i].empty()) put_short(i);
    }
    darts();
    fill();
}

} // namespace scattering
using namespace scattering;

struct Scatter::Inner {
    Plan plan;
    Box pixels;
    Box tiles;
    std::vector<std::vector<Cell>> cells; // by tile; empty where nothing stands

    Inner(Spread spread, const Box& box) : plan(std::move(spread)), pixels(box) {
        const int side = plan.tile * plan.side;
        if (!box.empty())
            tiles = spanning({floor_div(box.x, side), floor_div(box.y, side)},
                             {floor_div(box.right() - 1, side), floor_div(box.bottom() - 1, side)});
        cells.resize(static_cast<std::size_t>(tiles.size().area()));
    }
    [[nodiscard]] std::size_t index(Point tile) const {
        return static_cast<std::size_t>(tile.y - tiles.y) * static_cast<std::size_t>(tiles.w) +
               static_cast<std::size_t>(tile.x - tiles.x);
    }
    static int round_of(Point tile) { return (tile.x & 1) + 2 * (tile.y & 1); }
    [[nodiscard]] Box box_of_tile(Point tile) const {
        const int side = plan.tile * plan.side;
        return {tile.x * side, tile.y * side, side, side};
    }
    // Puts what a tile sees of its neighbours into the bench's window, and nothing into the tile.
    void look(Bench& bench, Point tile) const {
        std::vector<Cell>& window = bench.window();
        std::fill(window.begin(), window.end(), Cell{});
        const int halo = plan.halo, side = plan.tile;
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const Point other{tile.x + dx, tile.y + dy};
                if (!tiles.contains(other) || round_of(other) >= round_of(tile)) continue;
                const std::vector<Cell>& from = cells[index(other)];
                if (from.empty()) continue;
                const int x0 = dx < 0 ? side - halo : 0, x1 = dx > 0 ? halo : side;
                const int y0 = dy < 0 ? side - halo : 0, y1 = dy > 0 ? halo : side;
                for (int y = y0; y < y1; ++y)
                    std::copy(from.begin() + y * side + x0, from.begin() + y * side + x1,
                              window.begin() +
                                  static_cast<std::ptrdiff_t>(dy * side + y + halo) *
                                      static_cast<std::ptrdiff_t>(bench.wide()) +
                                  dx * side + x0 + halo);
            }
    }
    // Takes the tile out of the window; returns whether it is another than before.
    bool take(Bench& bench, Point tile) {
        const int halo = plan.halo, side = plan.tile;
        std::vector<Cell> now;
        now.reserve(static_cast<std::size_t>(side) * static_cast<std::size_t>(side));
        bool any = false;
        for (int y = 0; y < side; ++y) {
            const auto row = bench.window().begin() +
                             static_cast<std::ptrdiff_t>(y + halo) * static_cast<std::ptrdiff_t>(bench.wide()) + halo;
            for (int x = 0; x < side; ++x) {
                now.push_back(row[x]);
                any = any || !row[x].empty();
            }
        }
        if (!any) now.clear();
        if (now == cells[index(tile)]) return false;
        cells[index(tile)] = std::move(now);
        return true;
    }
    std::vector<Box> settle(const Ground& ground, const Obstacles& obstacles, std::vector<char> dirty, bool threads);
};

std::vector<Box> Scatter::Inner::settle(const Ground& ground, const Obstacles& obstacles, std::vector<char> dirty,
                                        bool threads) {
    std::vector<Box> out;
    std::array<std::unique_ptr<Bench>, kMostWorkers> benches;
    for (int round = 0; round < 4; ++round) {
        std::vector<Point> todo;
        for (int y = tiles.y; y < tiles.bottom(); ++y)
            for (int x = tiles.x; x < tiles.right(); ++x)
                if (round_of({x, y}) == round && dirty[index({x, y})]) todo.push_back({x, y});
        std::vector<char> changed(todo.size(), 0);
        constexpr std::size_t kWorthTwo = 8;
        parallel_pieces(0, static_cast<int>(todo.size()), threads && todo.size() >= kWorthTwo,
                        [&](int worker, int from, int to) {
                            auto& bench = benches[static_cast<std::size_t>(worker)];
                            if (!bench) bench = std::make_unique<Bench>(plan);
                            for (int i = from; i < to; ++i) {
                                const Point tile = todo[static_cast<std::size_t>(i)];
                                look(*bench, tile);
                                bench->settle(tile, ground, obstacles);
                                changed[static_cast<std::size_t>(i)] = take(*bench, tile) ? 1 : 0;
                            }
                        });
        for (std::size_t i = 0; i < todo.size(); ++i) {
            if (!changed[i]) continue;
            out.push_back(box_of_tile(todo[i]));
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx)
                    if (const Point other{todo[i].x + dx, todo[i].y + dy};
                        tiles.contains(other) && round_of(other) > round)
                        dirty[index(other)] = 1;
        }
    }
    return out;
}

Scatter::Scatter(Spread spread, const Box& pixels) : inner_(std::make_unique<Inner>(std::move(spread), pixels)) {}
Scatter::~Scatter() = default;
Scatter::Scatter(Scatter&&) noexcept = default;
Scatter& Scatter::operator=(Scatter&&) noexcept = default;

void Scatter::settle(const Ground& ground, const Obstacles& obstacles, bool threads) {
    inner_->settle(ground, obstacles, std::vector<char>(inner_->cells.size(), 1), threads);
}

std::vector<Box> Scatter::settle_again(const Ground& ground, const Obstacles& obstacles,
                                       const std::vector<Box>& changed, bool threads) {
    std::vector<char> dirty(inner_->cells.size(), 0);
    const int side = inner_->plan.tile * inner_->plan.side;
    for (const Box& box : changed) {
        if (box.empty()) continue;
        const Box in = intersection(spanning({floor_div(box.x, side), floor_div(box.y, side)},
                                             {floor_div(box.right() - 1, side), floor_div(box.bottom() - 1, side)}),
                                    inner_->tiles);
        for (int y = in.y; y < in.bottom(); ++y)
            for (int x = in.x; x < in.right(); ++x) dirty[inner_->index({x, y})] = 1;
    }
    return inner_->settle(ground, obstacles, std::move(dirty), threads);
}

// From a tile of the first round it goes on by one tile a round.
int Scatter::reach() const { return 4 * inner_->plan.tile * inner_->plan.side; }
Size Scatter::tile() const {
    const int side = inner_->plan.tile * inner_->plan.side;
    return {side, side};
}

void Scatter::in(const Box& pixels, std::vector<Stand>& out) const {
    const Plan& plan = inner_->plan;
    const int side = plan.tile * plan.side;
    if (pixels.empty()) return;
    const Box tiles =
        intersection(spanning({floor_div(pixels.x, side), floor_div(pixels.y, side)},
                              {floor_div(pixels.right() - 1, side), floor_div(pixels.bottom() - 1, side)}),
                     inner_->tiles);
    for (int ty = tiles.y; ty < tiles.bottom(); ++ty)
        for (int tx = tiles.x; tx < tiles.right(); ++tx) {
            const std::vector<Cell>& cells = inner_->cells[inner_->index({tx, ty})];
            for (std::size_t i = 0; i < cells.size(); ++i) {
                const Cell& c = cells[i];
                if (c.empty()) continue;
                const int x = static_cast<int>(i) % plan.tile, y = static_cast<int>(i) / plan.tile;
                const Point at{(tx * plan.tile + x) * plan.side + c.dx, (ty * plan.tile + y) * plan.side + c.dy};
                if (!pixels.contains(at)) continue;
                const auto chance =
                    static_cast<std::uint32_t>(place_hash(plan.spread.seed ^ 0xD1B54A32D192ED03ULL, at.x, at.y) >> 32);
                out.push_back({at, c.kind, c.scale, c.apart, chance});
            }
        }
}

std::vector<Stand> Scatter::all() const {
    std::vector<Stand> out;
    in(inner_->pixels, out);
    return out;
}

std::size_t Scatter::count() const {
    std::size_t out = 0;
    for (const auto& cells : inner_->cells)
        for (const Cell& c : cells) out += c.empty() ? 0 : 1;
    return out;
}

} // namespace vic::plant
