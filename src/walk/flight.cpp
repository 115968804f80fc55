#include "walk/flight.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

#include "walk/motion.hpp"

namespace vic::walk {

namespace {

constexpr int kLongest = 60 * kTicks; // of a profile, ticks
constexpr std::size_t kNear = 2;      // words between what is played together

// visit(from, to) for runs of ones in the active words.
template <class Visit>
void each_stretch(const std::uint64_t* bits, std::size_t lo, std::size_t hi, const Visit& visit) {
    int from = -1;
    for (std::size_t w = lo; w < hi; ++w) {
        std::uint64_t word = bits[w];
        const int base = static_cast<int>(w * 64);
        if (from >= 0) {
            const int ones = std::countr_one(word);
            if (ones == 64) continue;
            visit(from, base + ones);
            from = -1;
            word &= ~((std::uint64_t{1} << ones) - 1);
        }
        while (word != 0) {
            const int at = std::countr_zero(word), ones = std::countr_one(word >> at);
            if (at + ones >= 64) {
                from = base + at;
                break;
            }
            visit(base + at, base + at + ones);
            word &= ~(((std::uint64_t{1} << ones) - 1) << at);
        }
    }
    if (from >= 0) visit(from, static_cast<int>(hi * 64));
}

// Heights tick by tick from a first speed on, until as fast as it gets.
Profile profile_of(float speed, const Motion& motion, int grain, bool rises) {
    Profile out;
    out.row.push_back(0);
    out.rising.push_back(0);
    double y = 0;
    for (int i = 0; i < kLongest; ++i) {
        if (i > 0 || !rises) speed = motion.falling(speed);
        y += double{speed} * kTick;
        out.row.push_back(static_cast<int>(std::lround(y * grain)));
        out.rising.push_back(speed < 0);
        if (speed >= motion.fastest) break;
    }
    out.last = static_cast<int>(std::lround(double{motion.fastest} * kTick * grain * 1024));
    return out;
}

} // namespace

Summary::Summary(const Bits& bits, bool inverted)
    : bits_(bits),
      inverted_(inverted),
      words_((bits.words + 63) / 64),
      of_(words_ * static_cast<std::size_t>(bits.size.h)) {
    follow(0, bits.size.h);
}

void Summary::follow(int y0, int y1) {
    for (int y = y0; y < y1; ++y) {
        std::uint64_t* const row = of_.data() + static_cast<std::size_t>(y) * words_;
        std::fill(row, row + words_, 0);
        for (std::size_t i = 0; i < bits_.words; ++i)
            if ((inverted_ ? ~bits_.row(y)[i] : bits_.row(y)[i]) != 0) row[i / 64] |= std::uint64_t{1} << (i % 64);
    }
}

Below::Below(const Bits& bits) : bits_(bits), rows_(bits.words * static_cast<std::size_t>(bits.size.h)) {
    for (int y = bits.size.h; y-- > 0;) take(y);
}

bool Below::take(int y) {
    std::int32_t* const row = rows_.data() + static_cast<std::size_t>(y) * bits_.words;
    const std::int32_t* const below = row + bits_.words;
    const std::uint64_t* const words = bits_.row(y);
    bool changed = false;
    for (std::size_t i = 0; i < bits_.words; ++i) {
        const std::int32_t now = words[i] != 0 ? y : y + 1 < bits_.size.h ? below[i] : bits_.size.h;
        changed = changed || now != row[i];
        row[i] = now;
    }
    return changed;
}

void Below::follow(int y0, int y1) {
    for (int y = std::min(y1, bits_.size.h); y-- > 0;)
        if (!take(y) && y < y0) break;
}

void Row::clear() {
    std::fill(bits.begin() + static_cast<std::ptrdiff_t>(lo), bits.begin() + static_cast<std::ptrdiff_t>(hi), 0);
    lo = hi = 0;
}

void Row::set(int from, int to) {
    const std::size_t a = static_cast<std::size_t>(from) / 64, b = static_cast<std::size_t>(to - 1) / 64 + 1;
    if (lo == hi) lo = a, hi = b;
    lo = std::min(lo, a);
    hi = std::max(hi, b);
    for (int x = from; x < to;) {
        const int bit = x % 64, count = std::min(64 - bit, to - x);
        const std::uint64_t ones = count == 64 ? ~std::uint64_t{0} : (std::uint64_t{1} << count) - 1;
        bits[static_cast<std::size_t>(x) / 64] |= ones << bit;
        x += count;
    }
}

// Words at the ends that are empty are not looked at any more.
void Row::trim() {
    while (lo < hi && bits[lo] == 0) ++lo;
    while (hi > lo && bits[hi - 1] == 0) --hi;
}

bool Row::any() const {
    for (std::size_t i = lo; i < hi; ++i)
        if (bits[i] != 0) return true;
    return false;
}

Flights::Flights(const Places& places, const level::Walker& walker, int grain)
    : places_(places),
      held_(places.held),
      no_room_(places.room, true),
      floats_any_(
          std::any_of(places.floats.of.begin(), places.floats.of.end(), [](std::uint64_t w) { return w != 0; })),
      wall_jumps_(walker.wall_jump > 0),
      cuts_(walker.least_jump > 0 && walker.least_jump < walker.jump),
      grace_(ticks_of(walker.grace_edge)),
      least_(static_cast<int>(std::lround(walker.least_jump * grain))),
      pace_(std::max(walker.speed, walker.run) * kTick * grain),
      scratch_(places.room.words) {
    const Motion motion = motion_of(walker);
    if (walker.jump > 0) jump_ = profile_of(motion.take_off(walker.jump), motion, grain, true);
    if (wall_jumps_) off_ = profile_of(motion.take_off(walker.wall_jump), motion, grain, true);
    fall_ = profile_of(0, motion, grain, false);
    // A raster only for the kinds that this walker knows: each is as large as the level.
    const std::array<bool, kKinds> known{walker.jump > 0, wall_jumps_, wall_jumps_, true, grace_ > 0};
    begun_.reserve(kKinds);
    for (const bool k : known) begun_.emplace_back(k ? places.size : Size{0, 0});
    constexpr std::size_t kTold = 256; // longer ones are rare
    open_at_.fill(std::vector<std::int32_t>(static_cast<std::size_t>(places.size.h), -1));
    aside_.assign(kTold, 0);
    for (std::size_t tick = 1; tick < kTold; ++tick) aside_[tick] = samples_in(tick);
}

// How many samples he can go aside in that tick: whole ones, what is left over carried on.
int Flights::samples_in(std::size_t tick) const {
    return static_cast<int>(pace_ * static_cast<double>(tick)) -
           static_cast<int>(pace_ * static_cast<double>(tick - 1));
}

void Flights::follow(int y0, int y1) {
    held_.follow(y0, y1);
    no_room_.follow(y0, y1);
    for (int y = y0; y < y1 && !floats_any_; ++y)
        floats_any_ = std::any_of(places_.floats.row(y), places_.floats.row(y) + places_.floats.words,
                                  [](std::uint64_t w) { return w != 0; });
}

const Profile& Flights::profile(Kind kind) const {
    return kind == Kind::jump ? jump_ : kind == Kind::fall ? fall_ : off_;
}

Row Flights::fresh() {
    if (spare_.empty()) return Row(places_.room.words);
    Row out = std::move(spare_.back());
    spare_.pop_back();
    return out;
}

void Flights::put_back(Row row) {
    row.clear();
    spare_.push_back(std::move(row));
}

// Only what was not begun there already, together with what waits in that row: for all that one begins alike, wherever
// it is in a row, the work is the same.
void Flights::begin(Kind kind, int y, const Row& from, bool grace) {
    if (y < 0 || y >= places_.size.h || profile(kind).row.empty()) return;
    note(from.lo, from.hi, y, y);
    const auto which = grace ? std::size_t{4} : static_cast<std::size_t>(kind);
    std::uint64_t* const begun = begun_[which].row(y);
    bool any = false;
    for (std::size_t i = from.lo; i < from.hi && !any; ++i) any = (from.bits[i] & ~begun[i]) != 0;
    if (!any) return;
    touched_.push_back({which, y, from.lo, from.hi});
    std::vector<Flight>& open = open_[which];
    std::int32_t& here = open_at_[which][static_cast<std::size_t>(y)];
    const bool near = here >= 0 && from.lo <= open[static_cast<std::size_t>(here)].row.hi + kNear &&
                      open[static_cast<std::size_t>(here)].row.lo <= from.hi + kNear;
    if (!near) {
        here = static_cast<std::int32_t>(open.size());
        open.push_back({kind, grace, y, fresh()});
        open.back().row.lo = from.lo;
        open.back().row.hi = from.hi;
    }
    Row& row = open[static_cast<std::size_t>(here)].row;
    row.lo = std::min(row.lo, from.lo);
    row.hi = std::max(row.hi, from.hi);
    for (std::size_t i = from.lo; i < from.hi; ++i) {
        row.bits[i] |= from.bits[i] & ~begun[i];
        begun[i] |= from.bits[i];
    }
}

void Flights::jump(int y, const Row& from) { begin(Kind::jump, y, from, false); }
void Flights::fall(int y, const Row& from, bool grace) { begin(Kind::fall, y, from, grace && grace_ > 0); }

void Flights::spread(Row& row, int y, int by) const {
    const std::uint64_t* const room = places_.room.row(y);
    std::uint64_t* const bits = row.bits.data();
    for (; by > 0; --by) {
        if (row.lo > 0 && (bits[row.lo] & 1) != 0) --row.lo;
        if (row.hi < row.bits.size() && row.hi > 0 && (bits[row.hi - 1] >> 63) != 0) ++row.hi;
        const std::size_t last = row.hi - 1;
        std::uint64_t before = 0, here = bits[row.lo];
        for (std::size_t i = row.lo; i < last; ++i) {
            const std::uint64_t after = bits[i + 1];
            bits[i] = (here | (here << 1) | (before >> 63) | (here >> 1) | (after << 63)) & room[i];
            before = here;
            here = after;
        }
        bits[last] = (here | (here << 1) | (before >> 63) | (here >> 1)) & room[last];
    }
}

void Flights::shift(Row& row, int y, int by) const {
    const std::uint64_t* const room = places_.room.row(y);
    for (; by > 0; --by) {
        if (row.hi < row.bits.size() && row.hi > 0 && (row.bits[row.hi - 1] >> 63) != 0) ++row.hi;
        std::uint64_t before = 0;
        for (std::size_t i = row.lo; i < row.hi; ++i) {
            const std::uint64_t here = row.bits[i];
            row.bits[i] = ((here << 1) | (before >> 63)) & room[i];
            before = here;
        }
    }
    for (; by < 0; ++by) {
        if (row.lo > 0 && (row.bits[row.lo] & 1) != 0) --row.lo;
        for (std::size_t i = row.lo; i < row.hi; ++i) {
            const std::uint64_t after = i + 1 < row.hi ? row.bits[i + 1] : 0;
            row.bits[i] = ((row.bits[i] >> 1) | (after << 63)) & room[i];
        }
    }
}

// Down to a row; what is held up on the way has landed. False where nothing is left.
bool Flights::step_down(Row& row, int& y, int to, const Landed& landed) {
    const int last = places_.size.h - 1;
    while (y < to) {
        const int next = std::min(held_.first(y, row.lo, row.hi), to);
        if (next > last) { // out of the level
            y = last;
            return false;
        }
        y = next;
        if (y == to) return true;
        const std::uint64_t* const held = places_.held.row(y);
        std::uint64_t left = 0, lands = 0;
        for (std::size_t i = row.lo; i < row.hi; ++i) {
            const std::uint64_t down = row.bits[i] & held[i];
            scratch_[i] = down;
            lands |= down;
            row.bits[i] ^= down;
            left |= row.bits[i];
        }
        if (lands != 0)
            each_stretch(scratch_.data(), row.lo, row.hi, [&](int from, int until) { landed(y, from, until); });
        if (y == last) return false;
        ++y;
        if (left == 0) return false;
    }
    return true;
}

// One sample up; what bumps its head falls from there.
void Flights::step_up(Row& row, int& y) {
    if (y == 0) { // as high as is looked at
        begin(Kind::fall, y, row, false);
        return row.clear();
    }
    if (!no_room_.any(y - 1, row.lo, row.hi)) {
        --y;
        return;
    }
    const std::uint64_t* const room = places_.room.row(y - 1);
    std::uint64_t bumps = 0;
    for (std::size_t i = row.lo; i < row.hi; ++i) bumps |= row.bits[i] & ~room[i];
    if (bumps != 0) {
        Row bumped = fresh();
        bumped.lo = row.lo;
        bumped.hi = row.hi;
        for (std::size_t i = row.lo; i < row.hi; ++i) bumped.bits[i] = row.bits[i] & ~room[i];
        begin(Kind::fall, y, bumped, false);
        put_back(std::move(bumped));
        std::uint64_t left = 0;
        for (std::size_t i = row.lo; i < row.hi; ++i) left |= row.bits[i] &= room[i];
        if (left == 0) row.clear();
    }
    --y;
}

// Those at a wall jump off it.
void Flights::off_walls(const Row& row, int y) {
    const std::uint64_t* const room = places_.room.row(y);
    const std::size_t words = row.bits.size();
    for (const bool right : {true, false}) {
        Row at = fresh();
        at.lo = row.lo;
        at.hi = row.hi;
        bool any = false;
        for (std::size_t i = row.lo; i < row.hi; ++i) {
            // The room of the place beside it.
            const std::uint64_t beside = right ? (room[i] >> 1) | (i + 1 < words ? room[i + 1] << 63 : 0)
                                               : (room[i] << 1) | (i > 0 ? room[i - 1] >> 63 : 0);
            at.bits[i] = row.bits[i] & ~beside;
            any = any || at.bits[i] != 0;
        }
        if (any) begin(right ? Kind::off_left : Kind::off_right, y, at, false);
        put_back(std::move(at));
    }
}

void Flights::look(const Row& row, int y) {
    if (y < watched_.y || y >= watched_.bottom()) return;
    each_stretch(row.bits.data(), row.lo, row.hi,
                 [&](int from, int to) { seen_ = seen_ || (from < watched_.right() && to > watched_.x); });
}

// Where he can stay on the way, what he jumps off, and whether he comes to what is watched.
void Flights::on_the_way(const Row& row, int y, const Landed& landed) {
    const std::uint64_t* const floats = places_.floats.row(y);
    for (std::size_t i = row.lo; i < row.hi && floats_any_; ++i)
        if ((row.bits[i] & floats[i]) != 0) {
            for (std::size_t k = row.lo; k < row.hi; ++k) scratch_[k] = row.bits[k] & floats[k];
            each_stretch(scratch_.data(), row.lo, row.hi, [&](int from, int until) { landed(y, from, until); });
            break;
        }
    if (wall_jumps_) off_walls(row, y);
    if (!watched_.empty()) look(row, y);
}

void Flights::play(Flight& flight, const Landed& landed) {
    const Profile& p = profile(flight.kind);
    Row& row = flight.row;
    int y = flight.y;
    const int top = y, bottom = p.row.back();
    const std::size_t profiled = p.row.size(), grace = flight.grace ? static_cast<std::size_t>(grace_) : 0;
    const bool cut = cuts_ && flight.kind != Kind::fall;
    const bool looks = floats_any_ || wall_jumps_ || !watched_.empty();
    // He is pushed away from a wall for so long, and can go either way after that.
    const std::size_t pushed =
        flight.kind == Kind::off_left || flight.kind == Kind::off_right ? static_cast<std::size_t>(kPushOff) : 0;
    Seen seen{row.lo, row.hi, y, y};
    long fallen = 0; // beyond the profile, in 1/1024 samples
    for (std::size_t tick = 1;; ++tick) {
        const int whole = tick < aside_.size() ? aside_[tick] : samples_in(tick);
        if (tick <= pushed)
            shift(row, y, flight.kind == Kind::off_left ? -whole : whole);
        else if (whole > 0)
            spread(row, y, whole);
        // Nothing after this makes it wider in this tick.
        seen.lo = std::min(seen.lo, row.lo);
        seen.hi = std::max(seen.hi, row.hi);
        int to = 0;
        if (tick < profiled) {
            to = top + p.row[tick];
        } else {
            fallen += p.last;
            to = top + bottom + static_cast<int>(fallen / 1024);
        }
        while (y > to && row.lo != row.hi) step_up(row, y);
        bool any = row.lo != row.hi;
        if (any && y < to) any = step_down(row, y, to, landed);
        seen.top = std::min(seen.top, y);
        seen.bottom = std::max(seen.bottom, y);
        if (!any) break;
        if (looks) on_the_way(row, y, landed);
        // What can be had earlier in a row can be had later there, too.
        if (tick <= grace) {
            const bool last_in_row = tick == grace || (tick + 1 < profiled && p.row[tick + 1] != p.row[tick]);
            if (last_in_row) begin(Kind::jump, y, row, false);
        }
        if (cut && tick < profiled && p.rising[tick] != 0 && top - y >= least_) begin(Kind::fall, y, row, false);
        row.trim();
        if (row.lo == row.hi) break;
    }
    note(seen.lo, seen.hi, seen.top, seen.bottom);
}

void Flights::run(const Landed& landed) {
    // Those first of which others come, so that what comes in one row is played at once: falls of grace, jumps, jumps
    // off walls, falls.
    constexpr std::array<std::size_t, kKinds> kOrder{4, 0, 1, 2, 3};
    for (std::size_t at = 0; at < kKinds;) {
        std::vector<Flight>& open = open_[kOrder[at]];
        if (open.empty()) {
            ++at;
            continue;
        }
        Flight next = std::move(open.back());
        open.pop_back();
        std::int32_t& here = open_at_[kOrder[at]][static_cast<std::size_t>(next.y)];
        if (here == static_cast<std::int32_t>(open.size())) here = -1;
        next.row.trim();
        play(next, landed);
        put_back(std::move(next.row));
        at = 0;
    }
    for (const Touched& t : touched_) {
        std::uint64_t* const begun = begun_[t.which].row(t.y);
        std::fill(begun + t.lo, begun + t.hi, 0);
    }
    touched_.clear();
}

} // namespace vic::walk
