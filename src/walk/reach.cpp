#include "walk/reach.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "base/parallel.hpp"
#include "level/region.hpp"
#include "outline/areas.hpp"
#include "walk/motion.hpp"
#include "walk/reach_inside.hpp"
#include "walk/soak.hpp"

namespace vic::walk {

using outline::kUnit;

namespace {

constexpr int kMargin = 3; // cells around the level in which the walker is not lost yet
constexpr std::int64_t kMostSamples = std::int64_t{1} << 24; // 16 to a cell up to 256 × 256 cells
constexpr std::size_t kNone = kNoLedge;

// Sides that block are walls as thick as the margin.
void draw_sides(const level::Level& level, Samples& samples) {
    const Size all = samples.blocked.size;
    const int m = samples.margin;
    const auto fill = [&](const Box& box) {
        for (int y = box.y; y < box.bottom(); ++y) samples.blocked.set(y, box.x, box.right());
    };
    const auto blocks = [&](std::size_t side) { return level.sides[side].kind == level::SideKind::blocks; };
    if (blocks(0)) fill({0, 0, all.w, m});
    if (blocks(1)) fill({all.w - m, 0, m, all.h});
    if (blocks(2)) fill({0, all.h - m, all.w, m});
    if (blocks(3)) fill({0, 0, m, all.h});
}

// Bits of one raster moved so that those at `by` come to 0, 0; only inside `within` and in rows y0 .. y1 - 1.
void take_moved(const Bits& from, Point by, Size within, int y0, int y1, Bits& to) {
    for (int y = y0; y < std::min(within.h, y1); ++y) {
        if (y + by.y >= from.size.h) break;
        each_run(from.row(y + by.y), from.size.w, true, [&](int a, int b) {
            a = std::max(0, a - by.x);
            b = std::min(within.w, b - by.x);
            if (a < b) to.set(y, a, b);
        });
    }
}

} // namespace

Reach::Inside::Inside(const level::Project& project, const level::Level& level)
    : samples(level, outline::Kinds{level::TileTable(project, level), level::PropKinds(project, level)}, foot_of(level),
              kMargin, kMostSamples),
      walker(level.walker),
      cells(level.size),
      swims(Size{0, 0}),
      climbs(Size{0, 0}),
      places{{}, Bits({0, 0}), Bits({0, 0}), Bits({0, 0}), Bits({0, 0}), Bits({0, 0})} {
    draw_sides(level, samples);
    for (std::size_t i = 0; i < 4; ++i) leads[i] = level.sides[i].kind == level::SideKind::leads;
    places.size = samples.places(samples.foot);
    if (places.size.empty()) return;
    swims = climbs = Bits(places.size);
    for (const level::AreaKind& k : project.area_kinds) {
        const bool water = k.means == level::AreaMeans::water && walker.swim > 0;
        const bool ladder = k.means == level::AreaMeans::ladder && walker.climb > 0;
        if (k.means == level::AreaMeans::exit) ways_out.push_back(k.id);
        if (!water && !ladder) continue;
        const level::TileTable tiles(project, level);
        areas.push_back({k.id, water,
                         Samples(outline::where_told(project, level, k.id, level.cells()), outline::Kinds{tiles},
                                 {1, 1}, kMargin, kMostSamples)});
    }
    take_areas(0, places.size.h);
    find_exits(project, level);
}

void Reach::Inside::take_areas(int y0, int y1) {
    const Point middle{samples.foot.w / 2, samples.foot.h / 2};
    for (Bits* raster : {&swims, &climbs})
        for (int y = y0; y < y1; ++y) raster->clear(y, 0, raster->size.w);
    for (const Area& area : areas) {
        const Bits& there = area.there.blocked;
        take_moved(there, middle, places.size, y0, y1, area.water ? swims : climbs);
        if (!area.water) take_moved(there, {middle.x, samples.foot.h - 1}, places.size, y0, y1, climbs);
        floats_any =
            floats_any || std::any_of(there.of.begin(), there.of.end(), [](std::uint64_t w) { return w != 0; });
    }
}

void Reach::Inside::find_exits(const level::Project& project, const level::Level& level) {
    exits.clear();
    for (const level::Mark& m : level.marks)
        if (m.kind == level::MarkKind::exit)
            exits.push_back({m.cells.x * kUnit, m.cells.y * kUnit, m.cells.w * kUnit, m.cells.h * kUnit});
    for (const level::AreaKindId kind : ways_out)
        for (const outline::Outline& o : outline::told_outlines(project, level, kind)) {
            Box box{o.points[0].x, o.points[0].y, 1, 1};
            for (const Point p : o.points) box = united(box, {p.x, p.y, 1, 1});
            if (!o.hole) exits.push_back(box);
        }
}

void Reach::Inside::find_places(int y0, int y1) {
    constexpr int kLarge = 512; // rows from which on a second thread is worth its while
    parallel_pieces(y0, y1, y1 - y0 >= kLarge, [&](int, int from, int to) { find_room(from, to); });
    // A row is told by its room and that of the one below.
    y0 = std::max(0, y0 - 1);
    parallel_pieces(y0, y1, y1 - y0 >= kLarge, [&](int, int from, int to) { find_footing(from, to); });
}

void Reach::Inside::find_room(int y0, int y1) {
    const Size s = places.size;
    // What blocks under a body whose corner is in these rows.
    Bits full({samples.blocked.size.w, y1 - y0 + samples.foot.h - 1});
    for (int y = 0; y < full.size.h; ++y) std::copy_n(samples.blocked.row(y0 + y), full.words, full.row(y));
    spread_from(full, samples.foot);
    const std::size_t words = places.room.words;
    for (int y = y0; y < y1; ++y) {
        std::fill_n(places.room.row(y), words, 0);
        std::fill_n(places.holds.row(y), words, 0);
        each_run(full.row(y - y0), s.w, false, [&](int from, int to) { places.room.set(y, from, to); });
    }
    for (auto it = samples.ways.down.lower_bound(y0); it != samples.ways.down.end() && it->first < y1; ++it)
        for (const Run& r : it->second)
            if (r.from < s.w && r.to > 0) places.holds.set(it->first, std::max(0, r.from), std::min(s.w, r.to));
}

void Reach::Inside::find_footing(int y0, int y1) {
    const std::size_t words = places.room.words;
    for (int y = y0; y < y1; ++y) {
        const std::uint64_t *const room = places.room.row(y), *const holds = places.holds.row(y);
        if (floats_any)
            for (std::size_t i = 0; i < words; ++i)
                places.floats.row(y)[i] = room[i] & (swims.row(y)[i] | climbs.row(y)[i]);
        if (y + 1 == places.size.h) break;
        const std::uint64_t* const below = places.room.row(y + 1);
        for (std::size_t i = 0; i < words; ++i) {
            places.held.row(y)[i] = room[i] & (~below[i] | holds[i]);
            places.drops.row(y)[i] = room[i] & below[i] & holds[i];
        }
    }
}

// Places that hang together, along rows and a sample up or down beside one another, are a ledge.
void Reach::Inside::find_ledges() {
    held = std::make_unique<Runs>(places.held, places.size, true);
    floats = std::make_unique<Runs>(places.floats, Size{floats_any ? places.size.w : 0, places.size.h}, true);
    Together ground(held->all.size());
    for (int y = 0; y + 1 < held->rows(); ++y)
        for (std::size_t i = held->begin(y); i < held->end(y); ++i)
            for (std::size_t j = held->first_beyond(y + 1, held->all[i].from - 1);
                 j < held->end(y + 1) && held->all[j].from <= held->all[i].to; ++j)
                ground.join(i, j);
    Together pools(*floats);
    ledges.clear();
    runs_of.clear();
    const auto number = [&](const Runs& runs, Together& together, bool float_ones) {
        std::vector<std::size_t> of_root(runs.all.size(), kNone), out(runs.all.size());
        for (int y = 0; y < runs.rows(); ++y)
            for (std::size_t i = runs.begin(y); i < runs.end(y); ++i) {
                std::size_t& ledge = of_root[together.root(static_cast<std::uint32_t>(i))];
                if (ledge == kNone) {
                    ledge = ledges.size();
                    ledges.emplace_back();
                    ledges.back().floats = float_ones;
                    runs_of.emplace_back();
                }
                out[i] = ledge;
                runs_of[ledge].emplace_back(y, i);
            }
        return out;
    };
    ledge_of_held = number(*held, ground, false);
    ledge_of_float = number(*floats, pools, true);
    played.assign(ledges.size(), 0);
    looked_at.assign(ledges.size(), {});
}

void Reach::Inside::measure() {
    strips.clear();
    for (int y = 0; y < held->rows(); ++y)
        for (std::size_t i = held->begin(y); i < held->end(y); ++i)
            strips.push_back(strip(y, held->all[i], ledge_of_held[i]));
    for (std::size_t k = 0; k < ledges.size(); ++k) {
        Ledge& ledge = ledges[k];
        for (const auto& [y, i] : runs_of[k]) {
            const Strip s = strip(y, ledge.floats ? floats->all[i] : held->all[i], k);
            ledge.length += s.to - s.from;
            ledge.around = united(ledge.around, {s.from - walker.width / 2, s.y - 1, s.to - s.from + walker.width, 1});
        }
    }
}

std::size_t Reach::Inside::ledge_at(int y, int x) const {
    if (y < 0 || y >= places.size.h || x < 0) return kNone;
    const std::size_t i = held->first_beyond(y, x);
    if (i < held->end(y) && held->all[i].from <= x) return ledge_of_held[i];
    const std::size_t j = floats->first_beyond(y, x);
    return j < floats->end(y) && floats->all[j].from <= x ? ledge_of_float[j] : kNone;
}

// Straight below, or the nearest beside that within a cell.
std::size_t Reach::Inside::under(Point place) const {
    if (places.size.empty()) return kNone;
    const int x = floor_div(place.x, side()) + samples.margin - samples.foot.w / 2;
    const int y = floor_div(place.y, side()) + samples.margin - samples.foot.h;
    for (int aside = 0; aside <= samples.grain; ++aside)
        for (const int at : {x - aside, x + aside}) {
            if (at < 0 || at >= places.size.w) continue;
            for (int down = std::max(0, y - samples.grain / 4); down < places.size.h; ++down) {
                if (const std::size_t found = ledge_at(down, at); found != kNone) return found;
                if (down > y && (places.room.row(down)[at / 64] >> (at % 64) & 1) == 0) break;
            }
        }
    return kNone;
}

// landed(y, from, to) for stretches of places that can be had from a ledge in one go.
template <class Landed>
void Reach::Inside::each_landing(std::size_t ledge, Flights& fly, const Landed& landed) {
    const std::size_t words = places.room.words;
    Row row(words), edge(words), drop(words);
    const bool in_air = ledges[ledge].floats;
    const auto& runs = in_air ? *floats : *held;
    const auto& mine = runs_of[ledge];
    const auto has = [&](const Bits& bits, int y, int x) {
        return x >= 0 && x < bits.size.w && (bits.row(y)[x / 64] >> (x % 64) & 1) != 0;
    };
    for (std::size_t k = 0; k < mine.size();) {
        const int y = mine[k].first;
        row.clear();
        edge.clear();
        drop.clear();
        for (; k < mine.size() && mine[k].first == y; ++k) {
            const Run run = runs.all[mine[k].second];
            row.set(run.from, run.to);
            for (const int x : {run.from - 1, run.to})
                if (has(places.room, y, x) && !has(places.held, y, x) && !has(places.floats, y, x)) edge.set(x);
        }
        for (std::size_t i = row.lo; i < row.hi; ++i)
            if (const std::uint64_t through = row.bits[i] & places.drops.row(y)[i]; through != 0) {
                drop.bits[i] = through;
                if (drop.lo == drop.hi) drop.lo = i;
                drop.hi = i + 1;
            }
        if (in_air) {
            // Out of a water one jumps at its surface, off a ladder anywhere; at the lower end one falls.
            Row leap = row;
            for (std::size_t i = row.lo; i < row.hi; ++i) {
                const std::uint64_t above = y > 0 ? places.floats.row(y - 1)[i] : 0;
                leap.bits[i] &= climbs.row(y)[i] | ~above;
            }
            fly.jump(y, leap);
            for (std::size_t i = row.lo; i < row.hi && y + 1 < places.size.h; ++i)
                drop.bits[i] |= row.bits[i] & places.room.row(y + 1)[i] & ~places.floats.row(y + 1)[i];
            drop.lo = row.lo;
            drop.hi = row.hi;
        } else {
            fly.jump(y, row);
        }
        if (edge.any()) fly.fall(y, edge, !in_air);
        if (drop.any()) fly.fall(y + 1, drop, false);
        // A ladder or a water that one stands in or over, and ground within one.
        const Runs& others = in_air ? *held : *floats;
        for (std::size_t i = row.lo; i < row.hi; ++i) {
            if (row.bits[i] == 0) continue;
            for (const int beside : {y - 1, y, y + 1}) {
                if (beside < 0 || beside >= places.size.h) continue;
                const std::uint64_t both = row.bits[i] & (in_air ? places.held : places.floats).row(beside)[i];
                if (both == 0) continue;
                const int x = static_cast<int>(i * 64) + std::countr_zero(both);
                const std::size_t j = others.first_beyond(beside, x);
                if (j < others.end(beside)) landed(beside, x, x + 1);
            }
        }
    }
    fly.run(landed);
}

Flights& Reach::Inside::flights_of(int worker) {
    auto& mine = flights[static_cast<std::size_t>(worker)];
    if (!mine) mine = std::make_unique<Flights>(places, walker, samples.grain);
    return *mine;
}

void Reach::Inside::play(std::size_t ledge, int worker) {
    if (std::exchange(played[ledge], 1)) return;
    std::vector<std::size_t>& to = ledges[ledge].to;
    Flights& fly = flights_of(worker);
    static_cast<void>(fly.looked_at());
    each_landing(ledge, fly, [&](int y, int from, int until) {
        for (std::size_t i = held->first_beyond(y, from); i < held->end(y) && held->all[i].from < until; ++i)
            to.push_back(ledge_of_held[i]);
        for (std::size_t i = floats->first_beyond(y, from); i < floats->end(y) && floats->all[i].from < until; ++i)
            to.push_back(ledge_of_float[i]);
        if (to.size() > 256) {
            std::sort(to.begin(), to.end());
            to.erase(std::unique(to.begin(), to.end()), to.end());
        }
    });
    std::sort(to.begin(), to.end());
    to.erase(std::unique(to.begin(), to.end()), to.end());
    to.erase(std::remove(to.begin(), to.end(), ledge), to.end());
    // And its own places with those beside them.
    Box seen = fly.looked_at();
    const Runs& runs = ledges[ledge].floats ? *floats : *held;
    for (const auto& [y, i] : runs_of[ledge]) {
        const int lo = runs.all[i].from / 64 - 1, hi = runs.all[i].to / 64 + 2;
        seen = united(seen, {lo, y - 1, hi - lo, 3});
    }
    looked_at[ledge] = seen;
}

void Reach::Inside::search(const level::Level& level) {
    Point from = start_of(level);
    from.y += level.first_mark(level::MarkKind::start) ? foot_of(level).h / 2 : 0;
    start = under(from);
    if (start == kNone) return;
    // Nearly all of them are needed, and what comes out does not depend on the order.
    constexpr int kWorthwhile = 32;
    const int count = static_cast<int>(ledges.size());
    parallel_pieces(0, count, count > kWorthwhile, [&](int worker, int a, int b) {
        for (int i = a; i < b; ++i) play(static_cast<std::size_t>(i), worker);
    });
    find_ways_back();
}

// What lies on the level's rim from outside is nobody's business unless he gets there.
void Reach::Inside::leave_rim() {
    std::erase_if(strips, [&](const Strip& s) { return s.y <= 0 && ledges[s.ledge].gets == Gets::not_reached; });
}

// What is got to from the start, and whether from there back to it or on to an exit.
void Reach::Inside::find_ways_back() {
    std::vector<char> got_to(ledges.size(), 0), back(ledges.size(), 0);
    std::vector<std::uint32_t> reached{static_cast<std::uint32_t>(start)};
    got_to[start] = 1;
    for (std::size_t i = 0; i < reached.size(); ++i)
        for (const std::size_t k : ledges[reached[i]].to)
            if (std::exchange(got_to[k], 1) == 0) reached.push_back(static_cast<std::uint32_t>(k));
    back[start] = 1;
    for (const Strip& s : strips) {
        const bool leaves = (leads[3] && s.from <= 0) || (leads[1] && s.to >= cells.w * kUnit);
        if (leaves || std::any_of(exits.begin(), exits.end(), [&](const Box& b) { return body_touches(s, b); }))
            back[s.ledge] = 1;
    }
    // From nearly all of them one gets straight on to one that is known: a few rounds leave little, and cost little.
    std::vector<std::uint32_t> open = reached;
    const auto leads_back = [&](std::uint32_t ledge) {
        const std::vector<std::size_t>& to = ledges[ledge].to;
        return std::any_of(to.begin(), to.end(), [&](std::size_t k) { return back[k] != 0; });
    };
    constexpr int kRounds = 3;
    for (int round = 0; round < kRounds; ++round)
        std::erase_if(open, [&](std::uint32_t ledge) {
            if (back[ledge] == 0 && leads_back(ledge)) back[ledge] = 1;
            return back[ledge] != 0;
        });
    // What is left is gone through backwards, from those that lead on to a known one.
    std::vector<std::pair<std::uint32_t, std::uint32_t>> ways; // to, from
    std::vector<std::uint32_t> known;
    for (const std::uint32_t ledge : open) {
        if (leads_back(ledge)) known.push_back(ledge);
        for (const std::size_t k : ledges[ledge].to) ways.emplace_back(static_cast<std::uint32_t>(k), ledge);
    }
    std::sort(ways.begin(), ways.end());
    for (const std::uint32_t ledge : known) back[ledge] = 1;
    while (!known.empty()) {
        const std::uint32_t ledge = known.back();
        known.pop_back();
        for (auto it = std::lower_bound(ways.begin(), ways.end(), std::pair(ledge, std::uint32_t{0}));
             it != ways.end() && it->first == ledge; ++it)
            if (std::exchange(back[it->second], 1) == 0) known.push_back(it->second);
    }
    for (const std::uint32_t ledge : reached) ledges[ledge].gets = back[ledge] != 0 ? Gets::reached : Gets::no_way_back;
}

Reach::Reach(const level::Project& project, const level::Level& level) : in_(std::make_unique<Inside>(project, level)) {
    if (level.view != level::View::from_the_side || in_->places.size.empty()) {
        in_->places.size = {};
        in_->places.room = in_->places.held = in_->places.floats = in_->places.drops = in_->places.holds = Bits({0, 0});
        in_->find_ledges();
        return;
    }
    Places& places = in_->places;
    parallel_both(
        places.size.h >= 512, [&] { places.room = places.holds = Bits(places.size); },
        [&] { places.held = places.drops = places.floats = Bits(places.size); });
    in_->find_places(0, places.size.h);
    in_->find_ledges();
    in_->measure();
    in_->arc = jump_arc(level.walker, level.size.h);
    in_->search(level);
    in_->leave_rim();
}

Reach::~Reach() = default;
Reach::Reach(Reach&&) noexcept = default;
Reach& Reach::operator=(Reach&&) noexcept = default;

const std::vector<Ledge>& Reach::ledges() const { return in_->ledges; }
const std::vector<Strip>& Reach::strips() const { return in_->strips; }
bool Reach::begins() const { return in_->start != kNone; }
std::size_t Reach::start() const { return in_->start; }

std::optional<std::size_t> Reach::ledge_under(Point place) const {
    const std::size_t found = in_->under(place);
    return found == kNone ? std::nullopt : std::optional(found);
}

std::vector<Strip> Reach::landings(std::size_t from) const {
    std::vector<Strip> out;
    in_->each_landing(from, in_->flights_of(0), [&](int y, int a, int b) {
        const std::size_t ledge = in_->ledge_at(y, a);
        if (ledge != from && ledge != kNone) out.push_back(in_->strip(y, {a, b}, ledge));
    });
    // Together where they overlap.
    std::sort(out.begin(), out.end(),
              [](const Strip& a, const Strip& b) { return std::tie(a.y, a.from, a.to) < std::tie(b.y, b.from, b.to); });
    std::vector<Strip> merged;
    for (const Strip& s : out) {
        if (!merged.empty() && merged.back().y == s.y && merged.back().ledge == s.ledge && merged.back().to >= s.from)
            merged.back().to = std::max(merged.back().to, s.to);
        else
            merged.push_back(s);
    }
    return merged;
}

bool Reach::touches(const Box& place) const {
    const auto at = [&](const Strip& s) {
        return in_->ledges[s.ledge].gets != Gets::not_reached && in_->body_touches(s, place);
    };
    if (std::any_of(in_->strips.begin(), in_->strips.end(), at)) return true;
    for (std::size_t k = 0; k < in_->ledges.size(); ++k)
        if (in_->ledges[k].floats)
            for (const auto& [y, i] : in_->runs_of[k])
                if (at(in_->strip(y, in_->floats->all[i], k))) return true;
    // Corners of a body that touches it.
    const int side = in_->side(), m = in_->samples.margin;
    const Size foot = in_->samples.foot;
    const int left = floor_div(place.x, side) + m - foot.w + 1, top = floor_div(place.y, side) + m - foot.h + 1;
    Flights& fly = in_->flights_of(0);
    fly.watch({left, top, floor_div(place.right() - 1, side) + m - left + 1,
               floor_div(place.bottom() - 1, side) + m - top + 1});
    for (std::size_t k = 0; k < in_->ledges.size() && !fly.seen(); ++k)
        if (in_->ledges[k].gets != Gets::not_reached) in_->each_landing(k, fly, [](int, int, int) {});
    const bool seen = fly.seen();
    fly.watch({});
    return seen;
}

namespace {

std::int64_t cells_of(const std::vector<Strip>& strips, const std::vector<Ledge>& ledges, bool only_reached) {
    level::Region out;
    for (const Strip& s : strips) {
        if (only_reached && ledges[s.ledge].gets == Gets::not_reached) continue;
        const int left = floor_div(s.from, kUnit), right = floor_div(s.to - 1, kUnit);
        out.add(Box{left, floor_div(s.y - 1, kUnit), right - left + 1, 1});
    }
    return out.count();
}

} // namespace

std::int64_t Reach::standable() const { return cells_of(in_->strips, in_->ledges, false); }
std::int64_t Reach::reachable() const { return cells_of(in_->strips, in_->ledges, true); }

Reach::Lack Reach::lack_between(const Strip& from, const Strip& to) const {
    const int high = static_cast<int>(std::lround(in_->walker.jump * kUnit));
    const int up = from.y - to.y, aside = std::max({0, to.from - from.to + 1, from.from - to.to + 1});
    // How far one gets until one is back down at that height.
    int far = 0;
    for (std::size_t i = in_->arc.size(); i-- > 1 && far == 0;)
        if (-in_->arc[i].y * kUnit >= std::min(up, high)) far = static_cast<int>(std::lround(in_->arc[i].x * kUnit));
    return {0, std::max(0, up - high), std::max(0, aside - far)};
}

std::optional<Reach::Lack> Reach::lack_of(std::size_t ledge) const {
    if (ledge >= in_->ledges.size() || in_->ledges[ledge].floats) return std::nullopt;
    std::optional<Lack> best;
    int least = 8 * kUnit; // further away is nothing to mend
    std::vector<Strip> mine;
    for (const Strip& s : in_->strips)
        if (s.ledge == ledge) mine.push_back(s);
    for (const Strip& s : in_->strips) {
        if (in_->ledges[s.ledge].gets == Gets::not_reached) continue;
        for (const Strip& u : mine) {
            const Lack lack = lack_between(s, u);
            if (lack.height + lack.gap >= least) continue;
            least = lack.height + lack.gap;
            best = Lack{s.ledge, lack.height, lack.gap};
        }
    }
    return best;
}

} // namespace vic::walk
