#include "outline/trace.hpp"

#include <algorithm>
#include <bit>
#include <cstring>
#include <type_traits>
#include <utility>

#include "base/parallel.hpp"
#include "outline/free.hpp"
#include "outline/loose.hpp"

#ifdef __SSE2__
#include <emmintrin.h>
#endif

namespace vic::outline {

using level::kChunk;

namespace {

enum Direction : unsigned { N, NE, E, SE, S, SW, W, NW };
constexpr std::uint8_t kSideN = 1, kSideE = 2, kSideS = 4, kSideW = 8;

struct Turns {
    std::uint8_t count = 0;
    std::array<std::uint8_t, 4> in{};
    std::array<std::uint8_t, 4> out{};
};

// What turns at a lattice point between cells a (north-west), b (north-east), c (south-west) and d (south-east).
Turns turns_between(Solid a, Solid b, Solid c, Solid d) {
    unsigned in = 0;  // ways along which an outline arrives
    unsigned out = 0; // ways along which one leaves
    const auto covers = [](Solid s, std::uint8_t side) { return (kCovered[s] & side) != 0; };
    const auto arrive = [&](Direction way) { in |= 1U << way; };
    const auto leave = [&](Direction way) { out |= 1U << way; };
    // Lines between cells: what blocks lies to the right of the way.
    if (covers(d, kSideN) && !covers(b, kSideS)) leave(E);
    if (covers(b, kSideS) && !covers(d, kSideN)) arrive(W);
    if (covers(c, kSideN) && !covers(a, kSideS)) arrive(E);
    if (covers(a, kSideS) && !covers(c, kSideN)) leave(W);
    if (covers(a, kSideE) && !covers(b, kSideW)) arrive(S);
    if (covers(b, kSideW) && !covers(a, kSideE)) leave(N);
    if (covers(c, kSideE) && !covers(d, kSideW)) leave(S);
    if (covers(d, kSideW) && !covers(c, kSideE)) arrive(N);
    // Diagonals through the cells.
    if (a == kSlopeNE) leave(NW);
    if (a == kSlopeSW) arrive(SE);
    if (b == kSlopeSE) leave(NE);
    if (b == kSlopeNW) arrive(SW);
    if (c == kSlopeNW) leave(SW);
    if (c == kSlopeSE) arrive(NE);
    if (d == kSlopeSW) leave(SE);
    if (d == kSlopeNE) arrive(NW);

    Turns turns;
    for (unsigned way = 0; way < 8; ++way) {
        if (!(in & (1U << way))) continue;
        // The mass begins at the line one came along and goes round counter-clockwise to the first line that leaves.
        const unsigned back = (way + 4) & 7;
        for (unsigned k = 1; k <= 8; ++k) {
            const unsigned next = (back + 8 - k) & 7;
            if (!(out & (1U << next))) continue;
            if (next != way) {
                turns.in[turns.count] = static_cast<std::uint8_t>(way);
                turns.out[turns.count] = static_cast<std::uint8_t>(next);
                ++turns.count;
            }
            break;
        }
    }
    return turns;
}

const std::array<Turns, 6 * 6 * 6 * 6>& turn_table() {
    static const auto table = [] {
        std::array<Turns, 6 * 6 * 6 * 6> t;
        std::size_t i = 0;
        for (unsigned a = 0; a < 6; ++a)
            for (unsigned b = 0; b < 6; ++b)
                for (unsigned c = 0; c < 6; ++c)
                    for (unsigned d = 0; d < 6; ++d, ++i)
                        t[i] = turns_between(static_cast<Solid>(a), static_cast<Solid>(b), static_cast<Solid>(c),
                                             static_cast<Solid>(d));
        return t;
    }();
    return table;
}

// Which cells of a part are full, and which are neither that nor open, a bit each; rows of the part and one more all
// round.
template <int kSide>
struct Packed {
    static constexpr int kStride = kSide + 2;
    struct Row {
        std::uint64_t full = 0, other = 0;              // of the cells right of the part's lattice points
        bool full_before = false, other_before = false; // of the one left of them
    };
    std::array<Row, kStride> rows;
    bool any_one_way = false;
    bool any_other = false;

    explicit Packed(const SolidCode* codes) {
        SolidCode all = 0;
        for (Row& row : rows) {
            row.full_before = (codes[0] & 15U) == kFull;
            row.other_before = (codes[0] & 15U) > kFull;
            all |= codes[0] | codes[kStride - 1] | pack(codes + 1, row);
            codes += kStride;
            any_other = any_other || row.other != 0 || row.other_before;
        }
        any_one_way = (all & 0xF0U) != 0;
    }

    // Sets the bits of a row's cells, and returns all that is set in any of their codes.
    static SolidCode pack(const SolidCode* codes, Row& row) {
#ifdef __SSE2__
        __m128i any = _mm_setzero_si128();
        const __m128i low = _mm_set1_epi32(15), full = _mm_set1_epi32(kFull);
        for (int x = 0; x < kSide; x += 16) {
            __m128i is_full[4], is_other[4];
            for (int i = 0; i < 4; ++i) {
                const __m128i four = _mm_loadu_si128(reinterpret_cast<const __m128i*>(codes + x + 4 * i));
                any = _mm_or_si128(any, four);
                is_full[i] = _mm_cmpeq_epi32(_mm_and_si128(four, low), full);
                is_other[i] = _mm_cmpgt_epi32(_mm_and_si128(four, low), full);
            }
            const auto bits = [](const __m128i(&of)[4]) {
                const __m128i a = _mm_packs_epi32(of[0], of[1]), b = _mm_packs_epi32(of[2], of[3]);
                return std::uint64_t{static_cast<std::uint16_t>(_mm_movemask_epi8(_mm_packs_epi16(a, b)))};
            };
            row.full |= bits(is_full) << x;
            row.other |= bits(is_other) << x;
        }
        alignas(16) std::array<SolidCode, 4> each;
        _mm_store_si128(reinterpret_cast<__m128i*>(each.data()), any);
        return each[0] | each[1] | each[2] | each[3];
#else
        SolidCode all = 0;
        for (int x = 0; x < kSide; ++x) {
            all |= codes[x];
            const unsigned solid = codes[x] & 15U;
            row.full |= std::uint64_t{solid == kFull} << x;
            row.other |= std::uint64_t{solid > kFull} << x;
        }
        return all;
#endif
    }

    // The points of a row at which an outline may turn: of open and full cells those where an upright line ends, or
    // goes on as that of another mass; and all beside other cells.
    [[nodiscard]] std::uint64_t may_turn(int y) const {
        const Row &a = rows[static_cast<std::size_t>(y)], &c = rows[static_cast<std::size_t>(y) + 1];
        const auto left = [](std::uint64_t row, bool before) { return row << 1 | std::uint64_t{before}; };
        const std::uint64_t up = a.full ^ left(a.full, a.full_before), down = c.full ^ left(c.full, c.full_before);
        const std::uint64_t others = a.other | c.other;
        return (up ^ down) | (up & down & (a.full ^ c.full)) | others | left(others, a.other_before || c.other_before);
    }
};

// What turns between four cells that are open or full: up to two corners, by which of a, b, c, d are full, bits 0 to 3.
struct FullTurns {
    std::array<std::uint64_t, 2> corners; // as they lie in memory, at 0, 0: so that each is one store
    std::size_t count;
};
static_assert(sizeof(Corner) == sizeof(std::uint64_t) && std::is_trivially_copyable_v<Corner>);

const std::array<FullTurns, 16>& full_turns() {
    static const auto table = [] {
        std::array<FullTurns, 16> all{};
        for (unsigned i = 0; i < 16; ++i) {
            const auto solid = [&](unsigned bit) { return (i >> bit & 1U) != 0 ? kFull : kOpen; };
            const Turns turns = turns_between(solid(0), solid(1), solid(2), solid(3));
            all[i].count = turns.count;
            for (std::size_t k = 0; k < turns.count; ++k)
                all[i].corners[k] = std::bit_cast<std::uint64_t>(Corner{0, 0, turns.in[k], turns.out[k]});
        }
        return all;
    }();
    return table;
}

// The corners of a part whose cells are all open or full, from their bits alone.
template <int kSide>
void full_corners(const Packed<kSide>& packed, Point first, Size cells, Part& part) {
    struct Bits { // of a row of points: where an outline turns, and the cells round them
        std::uint64_t turns = 0, a = 0, b = 0, c = 0, d = 0;
    };
    std::array<Bits, kSide> rows;
    const int last = std::min(kSide - 1, cells.w - first.x);
    const std::uint64_t inside = last == 63 ? ~std::uint64_t{0} : (std::uint64_t{1} << (last + 1)) - 1;
    for (int y = 0; y < kSide && first.y + y <= cells.h; ++y) {
        const typename Packed<kSide>::Row &above = packed.rows[static_cast<std::size_t>(y)],
                                          &below = packed.rows[static_cast<std::size_t>(y) + 1];
        Bits& row = rows[static_cast<std::size_t>(y)];
        row = {packed.may_turn(y) & inside, above.full << 1 | std::uint64_t{above.full_before}, above.full,
               below.full << 1 | std::uint64_t{below.full_before}, below.full};
    }
    const auto& table = full_turns();
    std::array<std::uint64_t, std::size_t{kSide} * kSide * 2 + 1> out; // NOLINT: only what is written is read
    std::size_t n = 0;
    for (int y = 0; y < kSide; ++y) {
        part.row_start[static_cast<std::size_t>(y)] = static_cast<std::uint16_t>(n);
        const Bits row = rows[static_cast<std::size_t>(y)];
        for (std::uint64_t turns = row.turns; turns != 0; turns &= turns - 1) {
            const int x = std::countr_zero(turns);
            const auto place = std::bit_cast<std::uint64_t>(
                Corner{static_cast<std::uint16_t>(first.x + x), static_cast<std::uint16_t>(first.y + y), 0, 0});
            const FullTurns& turn =
                table[(row.a >> x & 1U) | (row.b >> x & 1U) << 1 | (row.c >> x & 1U) << 2 | (row.d >> x & 1U) << 3];
            out[n] = turn.corners[0] | place;
            out[n + 1] = turn.corners[1] | place; // also where there is none: the next one lies there then
            n += turn.count;
        }
    }
    part.row_start[kSide] = static_cast<std::uint16_t>(n);
    part.corners.resize(n);
    if (n != 0) std::memcpy(static_cast<void*>(part.corners.data()), out.data(), n * sizeof(Corner));
}

template <int kSide>
std::shared_ptr<const Part> make_part_of(Size cells, Point chunk, const SolidSource& source) {
    constexpr int kStride = kSide + 2;
    const auto& table = turn_table();
    std::array<SolidCode, static_cast<std::size_t>(kStride) * kStride> codes;
    // Points x .. x + side - 1 need the cells x - 1 .. x + side - 1; one more row and column serves the one-way edges.
    const Box own{chunk.x * kSide, chunk.y * kSide, kSide, kSide};
    const Box inside = intersection(own, box_of(cells));
    Forms forms;
    forms.counted = inside.empty() ? Box{own.x, own.y, 0, 0} : inside;
    Part part;
    part.shapes = source({own.x - 1, own.y - 1, kStride, kStride}, codes.data(), kStride, forms);
    if (inside.empty()) part.shapes = 0;
    const Packed<kSide> packed(codes.data());
    std::vector<Corner> special; // those next to forms, in reading order
    if (!forms.empty()) special = find_loose({codes.data(), kStride, own.corner(), kSide}, forms, part.loose);
    part.bends = std::move(forms.bends);
    std::sort(part.bends.begin(), part.bends.end());
    part.bends.erase(std::unique(part.bends.begin(), part.bends.end()), part.bends.end());
    std::vector<OneWayEdge> edges = std::move(forms.one_way);
    std::erase_if(edges, [&](const OneWayEdge& e) { // those of the rim are its neighbours'
        return !own.contains(Point{floor_div(e.from.x, kUnit), floor_div(e.from.y, kUnit)});
    });
    auto next_special = special.begin();
    part.straight = !packed.any_other && part.loose.empty() && special.empty();
    if (part.straight) full_corners(packed, own.corner(), cells, part);
    for (int y = part.straight ? kSide : 0; y < kSide; ++y) {
        part.row_start[static_cast<std::size_t>(y)] = static_cast<std::uint16_t>(part.corners.size());
        if (own.y + y > cells.h) continue;
        const SolidCode* above = &codes[static_cast<std::size_t>(y) * kStride];
        const SolidCode* below = above + kStride;
        const int last = std::min(kSide - 1, cells.w - own.x);
        for (std::uint64_t turns = packed.may_turn(y); turns != 0; turns &= turns - 1) {
            const int x = std::countr_zero(turns);
            if (x > last) break;
            const unsigned a = above[x] & 15U, b = above[x + 1] & 15U, c = below[x] & 15U, d = below[x + 1] & 15U;
            if (a == kForm || b == kForm || c == kForm || d == kForm) {
                for (; next_special != special.end() && next_special->x == own.x + x && next_special->y == own.y + y;
                     ++next_special)
                    part.corners.push_back(*next_special);
                continue;
            }
            const Turns& turn = table[((a * 6 + b) * 6 + c) * 6 + d];
            for (std::size_t i = 0; i < turn.count; ++i)
                part.corners.push_back({static_cast<std::uint16_t>(own.x + x), static_cast<std::uint16_t>(own.y + y),
                                        turn.in[i], turn.out[i]});
        }
    }
    if (!part.straight) part.row_start[kSide] = static_cast<std::uint16_t>(part.corners.size());

    for (int y = packed.any_one_way ? inside.y : inside.bottom(); y < inside.bottom(); ++y) {
        for (int x = inside.x; x < inside.right(); ++x) {
            const SolidCode* at =
                &codes[static_cast<std::size_t>(y - own.y + 1) * kStride + static_cast<std::size_t>(x - own.x + 1)];
            const unsigned sides = one_way_of(*at);
            if (sides == 0 || solid_of(*at) == kFull) continue;
            const auto buried = [&](int offset, int side) { return covers_side(at[offset], side, forms); };
            const int left = x * kUnit, top = y * kUnit, right = left + kUnit, bottom = top + kUnit;
            if ((sides & 1U) && !buried(-kStride, 2)) part.one_way.push_back({{left, top}, {right, top}, 0});
            if ((sides & 2U) && !buried(1, 3)) part.one_way.push_back({{right, top}, {right, bottom}, 1});
            if ((sides & 4U) && !buried(kStride, 0)) part.one_way.push_back({{left, bottom}, {right, bottom}, 2});
            if ((sides & 8U) && !buried(-1, 1)) part.one_way.push_back({{left, top}, {left, bottom}, 3});
        }
    }
    part.one_way.insert(part.one_way.end(), edges.begin(), edges.end());
    if (part.corners.empty() && part.loose.empty() && part.one_way.empty() && part.shapes == 0) return nullptr;
    return std::make_shared<const Part>(std::move(part));
}

std::shared_ptr<const Part> make_part(Size cells, Grain grain, Point at, const SolidSource& source) {
    constexpr int kFine = static_cast<int>(Grain::fine);
    return grain == Grain::fine ? make_part_of<kFine>(cells, at, source) : make_part_of<kChunk>(cells, at, source);
}

} // namespace

int Trace::corner_count() const {
    int n = 0;
    for (const auto& part : parts) n += part ? static_cast<int>(part->corners.size()) : 0;
    return n;
}

int Trace::shape_count() const {
    int n = 0;
    for (const auto& part : parts) n += part ? part->shapes : 0;
    return n;
}

bool operator==(const Trace& a, const Trace& b) {
    if (a.cells != b.cells) return false;
    for (std::size_t i = 0; i < a.parts.size(); ++i) {
        if (a.parts[i] == b.parts[i]) continue;
        if (!a.parts[i] || !b.parts[i] || !(*a.parts[i] == *b.parts[i])) return false;
    }
    return true;
}

Trace::Trace(Size level, Grain by) : cells(level), grain(by) {
    const int side = static_cast<int>(grain);
    part_count = {cells.w / side + 1, cells.h / side + 1};
    parts.resize(static_cast<std::size_t>(part_count.area()));
}

Trace trace(Size cells, const SolidSource& source, Grain grain) {
    Trace out(cells, grain);
    constexpr std::size_t kLarge = 32; // parts from which on a second thread is worth its while
    parallel_pieces(0, out.part_count.h, out.parts.size() >= kLarge, [&](int, int from, int to) {
        for (int y = from; y < to; ++y)
            for (int x = 0; x < out.part_count.w; ++x)
                out.parts[static_cast<std::size_t>(y * out.part_count.w + x)] = make_part(cells, grain, {x, y}, source);
    });
    return out;
}

namespace {
SolidSource source_of(const level::Level& level, const Kinds& kinds) {
    return [&level, kinds](const Box& cells, SolidCode* out, std::size_t stride, Forms& forms) {
        return read_solid(level, kinds, cells, out, stride, forms);
    };
}
} // namespace

Trace trace(const level::Level& level, const Kinds& kinds) { return trace(level.size, source_of(level, kinds)); }

std::vector<Box> retrace(Trace& trace, const SolidSource& source, const std::vector<Box>& changed) {
    const int side = static_cast<int>(trace.grain);
    std::vector<Point> touched;
    for (const Box& box : changed) {
        // A cell is seen from its four corner points, and from the one-way edges of its neighbours.
        const Box points = box.grown(1);
        const int right = std::min(trace.part_count.w - 1, points.right() / side);
        const int bottom = std::min(trace.part_count.h - 1, points.bottom() / side);
        for (int y = std::max(0, points.y) / side; y <= bottom; ++y)
            for (int x = std::max(0, points.x) / side; x <= right; ++x) touched.push_back({x, y});
    }
    std::sort(touched.begin(), touched.end());
    touched.erase(std::unique(touched.begin(), touched.end()), touched.end());
    std::vector<Box> differ;
    for (const Point p : touched) {
        std::shared_ptr<const Part>& part = trace.parts[static_cast<std::size_t>(p.y * trace.part_count.w + p.x)];
        std::shared_ptr<const Part> now = make_part(trace.cells, trace.grain, p, source);
        if (now && part ? *now == *part : now == part) continue;
        differ.push_back({p.x * side, p.y * side, side, side});
        part = std::move(now);
    }
    return differ;
}

std::vector<Box> retrace(Trace& trace, const level::Level& level, const Kinds& kinds, const std::vector<Box>& changed) {
    return retrace(trace, source_of(level, kinds), changed);
}

std::vector<OneWayEdge> one_way_edges(const Trace& trace) {
    std::vector<OneWayEdge> edges;
    for (const auto& part : trace.parts)
        if (part) edges.insert(edges.end(), part->one_way.begin(), part->one_way.end());
    // Along the line on which they lie, so that those that continue one another are neighbours.
    const auto key = [](const OneWayEdge& e) {
        return e.side % 2 == 0 ? std::array<int, 4>{e.side, e.from.y, e.from.x, 0}
                               : std::array<int, 4>{e.side, e.from.x, e.from.y, 0};
    };
    std::sort(edges.begin(), edges.end(), [&](const auto& a, const auto& b) { return key(a) < key(b); });
    std::vector<OneWayEdge> joined;
    for (const OneWayEdge& e : edges) {
        const auto level = [](const OneWayEdge& o) {
            return o.side % 2 == 0 ? o.from.y == o.to.y : o.from.x == o.to.x;
        };
        if (!joined.empty() && joined.back().side == e.side && joined.back().to == e.from && level(e) &&
            level(joined.back()))
            joined.back().to = e.to;
        else
            joined.push_back(e);
    }
    return joined;
}

std::int64_t area2(const Outline& outline) {
    std::int64_t sum = 0;
    for (std::size_t i = 0; i < outline.points.size(); ++i) {
        const Point a = outline.points[i];
        const Point b = outline.points[(i + 1) % outline.points.size()];
        sum += std::int64_t{a.x} * b.y - std::int64_t{b.x} * a.y;
    }
    return sum;
}

int rectangle_count(Size cells, const std::vector<std::uint8_t>& full) {
    std::vector<std::uint8_t> left = full;
    const auto at = [&](int x, int y) -> std::uint8_t& {
        return left[static_cast<std::size_t>(y) * static_cast<std::size_t>(cells.w) + static_cast<std::size_t>(x)];
    };
    int count = 0;
    for (int y = 0; y < cells.h; ++y) {
        for (int x = 0; x < cells.w; ++x) {
            if (!at(x, y)) continue;
            int w = 0;
            while (x + w < cells.w && at(x + w, y)) ++w;
            int h = 1;
            const auto row_is_full = [&](int row) {
                for (int i = 0; i < w; ++i)
                    if (!at(x + i, row)) return false;
                return true;
            };
            while (y + h < cells.h && row_is_full(y + h)) ++h;
            for (int j = 0; j < h; ++j)
                for (int i = 0; i < w; ++i) at(x + i, y + j) = 0;
            ++count;
        }
    }
    return count;
}

} // namespace vic::outline
