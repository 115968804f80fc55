#include "join/resolve.hpp"

#include <array>
#include <bit>
#include <cstring>
#include <future>
#include <map>

#if defined(__x86_64__)
#include <immintrin.h>
#endif

#include "base/blue_noise.hpp"
#include "base/chance.hpp"

namespace vic::join {

using level::Cell;
using level::Grid;
using level::kChunk;
using level::MaterialId;

namespace {

// How badly a tile drawn for `have` stands in for `want`: a wrong side shows more than a wrong corner.
int misfit(Mask have, Mask want) {
    const auto wrong = static_cast<unsigned>(have ^ want);
    return 3 * std::popcount(wrong & kSides) + std::popcount(wrong & kCorners);
}

std::uint32_t bits_of(const level::Variant& v) { return Cell(v.tile, v.turn, false).bits; }

// Tells of a row what was looked up and what differs from before.
struct RowState {
    std::uint32_t any = 0;     // all bits of the looked-up entries
    std::uint32_t changed = 0; // all bits that differ from before
};

// The masks of a part of a row where only the same material joins. No branches and no calls, so that the compiler makes
// vector code of it.
[[gnu::always_inline]] inline void masks_of(const MaterialId* a, const MaterialId* h, const MaterialId* b, int n,
                                            std::uint8_t* __restrict masks) {
    for (int i = 0; i < n; ++i) {
        const MaterialId c = h[i];
        masks[i] = static_cast<std::uint8_t>(
            (a[i] == c ? kN : 0) | (a[i + 1] == c ? kNE : 0) | (h[i + 1] == c ? kE : 0) | (b[i + 1] == c ? kSE : 0) |
            (b[i] == c ? kS : 0) | (b[i - 1] == c ? kSW : 0) | (h[i - 1] == c ? kW : 0) | (a[i - 1] == c ? kNW : 0));
    }
}

// Looks up the entries of cells `from` to `n`; a cell without a material or pinned stays as it is.
[[gnu::always_inline]] inline RowState entries_of(const MaterialId* h, int from, int n, const std::uint8_t* masks,
                                                  const std::uint32_t* table, const std::uint32_t* old,
                                                  std::uint32_t* out) {
    RowState state;
    for (int i = from; i < n; ++i) {
        const std::uint32_t bits = old[i];
        const std::uint32_t entry = table[(std::size_t{h[i]} << 8) | masks[i]];
        const std::uint32_t stays = 0U - static_cast<std::uint32_t>((h[i] == 0) | ((bits >> 27) & 1U));
        const std::uint32_t now = (bits & stays) | (entry & ~stays);
        out[i] = now;
        state.any |= now;
        state.changed |= now ^ bits;
    }
    return state;
}

// `masks` is a buffer of `n` bytes.
RowState look_up_row(const MaterialId* a, const MaterialId* h, const MaterialId* b, int n, std::uint8_t* masks,
                     const std::uint32_t* table, const std::uint32_t* old, std::uint32_t* out) {
    masks_of(a, h, b, n, masks);
    return entries_of(h, 0, n, masks, table, old, out);
}

#if defined(__x86_64__)
// The same with the gathering loads of newer processors, eight cells at a time.
[[gnu::target("avx2"), gnu::optimize("O3")]] RowState look_up_row_wide(const MaterialId* a, const MaterialId* h,
                                                                       const MaterialId* b, int n, std::uint8_t* masks,
                                                                       const std::uint32_t* table,
                                                                       const std::uint32_t* old, std::uint32_t* out) {
    masks_of(a, h, b, n, masks);
    __m256i any = _mm256_setzero_si256();
    __m256i changed = any;
    int i = 0;
    for (; i + 8 <= n; i += 8) {
        const __m256i own = _mm256_cvtepu8_epi32(_mm_loadl_epi64(reinterpret_cast<const __m128i*>(h + i)));
        const __m256i index =
            _mm256_or_si256(_mm256_slli_epi32(own, 8),
                            _mm256_cvtepu8_epi32(_mm_loadl_epi64(reinterpret_cast<const __m128i*>(masks + i))));
        const __m256i entry = _mm256_i32gather_epi32(reinterpret_cast<const int*>(table), index, 4);
        const __m256i bits = _mm256_loadu_si256(reinterpret_cast<const __m256i*>(old + i));
        const __m256i pinned = _mm256_srai_epi32(_mm256_slli_epi32(bits, 4), 31);
        const __m256i stays = _mm256_or_si256(pinned, _mm256_cmpeq_epi32(own, _mm256_setzero_si256()));
        const __m256i now = _mm256_blendv_epi8(entry, bits, stays);
        _mm256_storeu_si256(reinterpret_cast<__m256i*>(out + i), now);
        any = _mm256_or_si256(any, now);
        changed = _mm256_or_si256(changed, _mm256_xor_si256(now, bits));
    }
    RowState state = entries_of(h, i, n, masks, table, old, out);
    alignas(32) std::uint32_t part[8];
    _mm256_store_si256(reinterpret_cast<__m256i*>(part), any);
    for (const std::uint32_t p : part) state.any |= p;
    if (_mm256_testz_si256(changed, changed) == 0) state.changed = 1;
    return state;
}
#endif

constexpr int kFew = 8; // variants of a case up to which a row is chosen at once

// Chooses among few variants for `n` cells side by side: the same as Rules::variant(), but with the thresholds on the
// hash itself, so that there is nothing to branch on.
struct FewVariants {
    std::array<std::uint32_t, kFew> from{}; // the least threshold from which each is chosen
    std::array<std::uint32_t, kFew> cells{};
    int count = 0;
    std::uint32_t lively = 0; // hashes below it take the spread threshold
    bool always = false;      // all do
};
[[gnu::always_inline]] inline void choose_row(const FewVariants& few, int count, const std::uint32_t* spread, int x,
                                              int y, std::uint32_t seed, int n, std::uint32_t* __restrict out) {
    const auto row = static_cast<std::uint32_t>(y);
    const std::uint32_t all = few.always ? ~0U : 0U;
    for (int i = 0; i < n; ++i) {
        const auto column = static_cast<std::uint32_t>(x + i);
        const std::uint32_t h = cell_hash(seed, column, row);
        const std::uint32_t lively = cell_hash(seed ^ 0x51ED270BU, column, row);
        const std::uint32_t spreads = all | (lively < few.lively ? ~0U : 0U);
        const std::uint32_t threshold = (((spread[i] | (h & 0xFFFFFU)) & spreads)) | (h & ~spreads);
        std::uint32_t now = few.cells[0];
        for (int k = 1; k < count; ++k)
            now = threshold >= few.from[static_cast<std::size_t>(k)] ? few.cells[static_cast<std::size_t>(k)] : now;
        out[i] = now;
    }
}
using ChooseRow = void (*)(const FewVariants&, const std::uint32_t*, int, int, std::uint32_t, int, std::uint32_t*);
void choose_row_plain(const FewVariants& few, const std::uint32_t* spread, int x, int y, std::uint32_t seed, int n,
                      std::uint32_t* out) {
    choose_row(few, few.count, spread, x, y, seed, n, out);
}
#if defined(__x86_64__)
// The hash of eight places of a row: cell_hash().
[[gnu::target("avx2"), gnu::always_inline]] inline __m256i hash_wide(__m256i columns, std::uint32_t mixed) {
    __m256i h = _mm256_xor_si256(_mm256_mullo_epi32(columns, _mm256_set1_epi32(static_cast<int>(0x9E3779B1U))),
                                 _mm256_set1_epi32(static_cast<int>(mixed)));
    h = _mm256_mullo_epi32(_mm256_xor_si256(h, _mm256_srli_epi32(h, 15)),
                           _mm256_set1_epi32(static_cast<int>(0x2C1B3C6DU)));
    h = _mm256_mullo_epi32(_mm256_xor_si256(h, _mm256_srli_epi32(h, 12)),
                           _mm256_set1_epi32(static_cast<int>(0x297A2D39U)));
    return _mm256_xor_si256(h, _mm256_srli_epi32(h, 15));
}
[[gnu::target("avx2"), gnu::always_inline]] inline __m256i not_less(__m256i a, __m256i b) {
    return _mm256_cmpeq_epi32(_mm256_max_epu32(a, b), a);
}

[[gnu::target("avx2")]] void choose_row_wide(const FewVariants& few, const std::uint32_t* spread, int x, int y,
                                             std::uint32_t seed, int n, std::uint32_t* out) {
    const std::uint32_t line = static_cast<std::uint32_t>(y) * 0x85EBCA77U;
    __m256i columns = _mm256_add_epi32(_mm256_set1_epi32(x), _mm256_setr_epi32(0, 1, 2, 3, 4, 5, 6, 7));
    const __m256i all = _mm256_set1_epi32(few.always ? -1 : 0);
    const __m256i lively = _mm256_set1_epi32(static_cast<int>(few.lively));
    int i = 0;
    for (; i + 8 <= n; i += 8) {
        const __m256i h = hash_wide(columns, line + seed);
        const __m256i dice = hash_wide(columns, line + (seed ^ 0x51ED270BU));
        const __m256i spreads =
            _mm256_or_si256(all, _mm256_andnot_si256(not_less(dice, lively), _mm256_set1_epi32(-1)));
        const __m256i even = _mm256_or_si256(_mm256_loadu_si256(reinterpret_cast<const __m256i*>(spread + i)),
                                             _mm256_and_si256(h, _mm256_set1_epi32(0xFFFFF)));
        const __m256i threshold = _mm256_blendv_epi8(h, even, spreads);
        __m256i now = _mm256_set1_epi32(static_cast<int>(few.cells[0]));
        for (std::size_t k = 1; k < static_cast<std::size_t>(few.count); ++k)
            now = _mm256_blendv_epi8(now, _mm256_set1_epi32(static_cast<int>(few.cells[k])),
                                     not_less(threshold, _mm256_set1_epi32(static_cast<int>(few.from[k]))));
        _mm256_storeu_si256(reinterpret_cast<__m256i*>(out + i), now);
        columns = _mm256_add_epi32(columns, _mm256_set1_epi32(8));
    }
    choose_row(few, few.count, spread + i, x + i, y, seed, n - i, out + i);
}
#endif
ChooseRow best_choose_row() {
#if defined(__x86_64__)
    if (__builtin_cpu_supports("avx2")) return choose_row_wide;
#endif
    return choose_row_plain;
}

using LookUp = RowState (*)(const MaterialId*, const MaterialId*, const MaterialId*, int, std::uint8_t*,
                            const std::uint32_t*, const std::uint32_t*, std::uint32_t*);
LookUp best_look_up() {
#if defined(__x86_64__)
    if (__builtin_cpu_supports("avx2")) return look_up_row_wide;
#endif
    return look_up_row;
}

static_assert(sizeof(Cell) == sizeof(std::uint32_t));

} // namespace

std::uint32_t Rules::entry_of(const std::vector<level::Variant>& variants, int lively) {
    std::uint32_t total = 0;
    std::uint32_t count = 0;
    for (const auto& v : variants)
        if (v.weight > 0) {
            total += static_cast<std::uint32_t>(v.weight);
            ++count;
        }
    if (count == 1)
        for (const auto& v : variants)
            if (v.weight > 0) return bits_of(v);
    const auto at = static_cast<std::uint32_t>(choices_.size());
    choices_.push_back({count, static_cast<std::uint32_t>(lively)});
    choices_.push_back({total, 0});
    std::uint32_t sum = 0;
    for (const auto& v : variants)
        if (v.weight > 0) {
            sum += static_cast<std::uint32_t>(v.weight);
            choices_.push_back({sum, bits_of(v)});
        }
    return kMany | at;
}

void Rules::lay_out(const level::JoinSet& set, const level::Cases& cases_of, std::size_t at, std::uint8_t* missing) {
    level::JoinSet own;
    own.kind = set.kind;
    own.turns = set.turns;
    own.cases = cases_of;
    // One entry per case that is served.
    std::vector<std::pair<Mask, std::uint32_t>> served;
    for (const Mask mask : cases(set.kind))
        if (const auto variants = serving(own, mask); !variants.empty())
            served.emplace_back(mask, entry_of(variants, set.lively));
    for (int m = 0; m < 256; ++m) {
        const Mask want = canonical(static_cast<Mask>(m), set.kind);
        int best = 1000;
        for (const auto& [have, entry] : served) {
            const int miss = misfit(have, want);
            if (miss <= best) { // of equals the one that joins more
                best = miss;
                table_[at + static_cast<std::size_t>(m)] = entry;
            }
        }
        missing[m] = best != 0;
    }
}

Rules::Rules(const level::Project& project)
    : table_(256 * 256, 0), missing_(256 * 256, 0), same_(256 * 256, 0), pairs_(256) {
    std::array<int, 256> priority{};
    for (const auto& material : project.materials) priority[material->id] = material->joins.priority;
    for (const auto& material : project.materials) {
        const auto& set = material->joins;
        const std::size_t own = std::size_t{material->id} << 8;
        lay_out(set, set.cases, own, &missing_[own]);
        for (const Mask mask : cases(set.kind)) lacking_[material->id] |= missing_[own | mask];
        same_[own] = set.beyond_is_same;
        same_[own | material->id] = 1;
        for (const MaterialId other : set.same)
            if (other != 0 && other != material->id) same_[own | other] = related_[material->id] = 1;
        for (const auto& other : project.materials)
            if (priority[other->id] > set.priority) same_[own | other->id] = related_[material->id] = 1;
        over_[material->id] = set.over;
        any_over_ = any_over_ || set.over;
    }
    for (const auto& material : project.materials)
        for (const auto& [other, cases_of] : material->joins.pairs) {
            if (other == 0 || other == material->id) continue;
            const auto at = static_cast<std::uint32_t>(table_.size());
            table_.resize(table_.size() + 256, 0);
            missing_.resize(missing_.size() + 256, 1);
            lay_out(material->joins, cases_of, at, &missing_[at]);
            pairs_[material->id].push_back({other, at});
            related_[material->id] = 1;
        }
    for (const std::uint8_t r : related_) any_related_ = any_related_ || r;
}

std::uint32_t Rules::variant(std::uint32_t entry, int x, int y, std::uint32_t seed) const {
    const Choice* list = &choices_[entry & ~kMany];
    const std::uint32_t count = list[0].up_to;
    const std::uint32_t lively = list[0].cell;
    const auto column = static_cast<std::uint32_t>(x);
    const auto row = static_cast<std::uint32_t>(y);
    // Places that are lively take a spread threshold, the others a random one: both come evenly, so that the weights
    // hold whatever the strength.
    const bool spread =
        lively >= 100 || (lively > 0 && scaled(cell_hash(seed ^ 0x51ED270BU, column, row), 100) < lively);
    const std::uint32_t threshold = spread ? spread_threshold(seed, x, y) : cell_hash(seed, column, row);
    const std::uint32_t pick = scaled(threshold, list[1].up_to);
    const Choice* choice = list + 2;
    for (std::uint32_t i = 1; i < count && pick >= choice->up_to; ++i) ++choice;
    return choice->cell;
}

namespace {

constexpr int kPart = 64; // cells of a row that are chosen at once

// Nothing for more than a few.
template <class Choice>
bool few_of(const Choice* list, FewVariants& few) {
    const std::uint32_t count = list[0].up_to;
    if (count > kFew) return false;
    const std::uint64_t total = list[1].up_to;
    std::uint64_t before = 0;
    for (std::uint32_t i = 0; i < count; ++i) {
        const Choice& c = list[2 + i];
        few.from[static_cast<std::size_t>(few.count)] =
            static_cast<std::uint32_t>(((before << 32) + total - 1) / total);
        few.cells[static_cast<std::size_t>(few.count++)] = c.cell;
        before = c.up_to;
    }
    few.always = list[0].cell >= 100;
    few.lively = static_cast<std::uint32_t>(((std::uint64_t{list[0].cell} << 32) + 99) / 100);
    return true;
}

void choose_part(const FewVariants& few, int x, int y, std::uint32_t seed, int n, std::uint32_t* out) {
    static const ChooseRow choose = best_choose_row();
    std::array<std::uint32_t, kPart> spread{};
    for (int i = 0; i < n; i += kPart) {
        const int m = std::min(kPart, n - i);
        if (few.lively != 0 || few.always) spread_row(seed, x + i, y, m, spread.data());
        choose(few, spread.data(), x + i, y, seed, m, out + i);
    }
}

} // namespace

void Rules::variants(std::uint32_t entry, int x, int y, std::uint32_t seed, int n, std::uint32_t* out) const {
    if (n >= 8) {
        FewVariants few;
        if (few_of(&choices_[entry & ~kMany], few)) return choose_part(few, x, y, seed, n, out);
    }
    for (int i = 0; i < n; ++i) out[i] = variant(entry, x + i, y, seed);
}

bool Rules::inside_rows(MaterialId m, int x, int y, int w, int h, std::uint32_t seed, Cell* out) const {
    const std::uint32_t entry = table_[(std::size_t{m} << 8) | 255U];
    FewVariants few;
    if (m == 0 || related_[m] || !(entry & kMany) || !few_of(&choices_[entry & ~kMany], few)) return false;
    for (int row = 0; row < h; ++row)
        choose_part(few, x, y + row, seed, w, &out[static_cast<std::size_t>(row) * static_cast<std::size_t>(w)].bits);
    return true;
}

Mask Rules::mask(const Around& at) const {
    unsigned out = 0;
    const std::size_t own = std::size_t{at.own} << 8;
    for (unsigned i = 0; i < 8; ++i) {
        const bool beyond = (at.beyond >> i) & 1U;
        const bool same = beyond ? same_[own] != 0 : at.others[i] != 0 && same_[own | at.others[i]] != 0;
        out |= same ? 1U << i : 0U;
    }
    return static_cast<Mask>(out);
}

const Rules::Pair* Rules::pair(const Around& at) const {
    const Pair* best = nullptr;
    int most = 0;
    for (const Pair& p : pairs_[at.own]) {
        int n = 0; // a side counts more than a corner
        for (std::size_t i = 0; i < 8; ++i)
            if (!((at.beyond >> i) & 1U) && at.others[i] == p.other) n += i % 2 == 0 ? 3 : 1;
        if (n > most) {
            most = n;
            best = &p;
        }
    }
    return best;
}

Cell Rules::choose(const Around& at, int x, int y, std::uint32_t seed) const {
    const Mask m = mask(at);
    if (const Pair* p = pair(at); p && !missing_[p->table | m]) return Cell(picked(table_[p->table | m], x, y, seed));
    return choose(at.own, m, x, y, seed);
}

bool Rules::missing(const Around& at) const {
    const Mask m = mask(at);
    if (const Pair* p = pair(at); p && !missing_[p->table | m]) return false;
    return missing(at.own, m);
}

Cell Rules::below(const Around& at, int x, int y, std::uint32_t seed) const {
    if (!over_[at.own]) return {};
    std::array<std::uint8_t, 8> counts{};
    std::size_t best = 8;
    for (std::size_t i = 0; i < 8; ++i) {
        const MaterialId other = at.others[i];
        if (other == 0 || same_[(std::size_t{at.own} << 8) | other]) continue;
        std::size_t first = 0;
        while (at.others[first] != other) ++first;
        counts[first] = static_cast<std::uint8_t>(counts[first] + (i % 2 == 0 ? 3 : 1));
        if (best == 8 || counts[first] > counts[best]) best = first;
    }
    return best == 8 ? Cell{} : choose(at.others[best], 255, x, y, seed);
}

bool Rules::join_row(const MaterialId* above, const MaterialId* here, const MaterialId* below, int count, int x0, int y,
                     std::uint32_t seed, const Cell* was, Cell* out) const {
    static const LookUp look_up = best_look_up();
    constexpr int kPart = 256;
    std::array<std::uint8_t, kPart> masks;
    std::uint32_t changed = 0;
    for (int from = 0; from < count; from += kPart) {
        const int n = std::min(kPart, count - from);
        const MaterialId* h = here + from;
        const Cell* old = was + from;
        Cell* cells = out + from;
        const RowState row =
            look_up(above + from, h, below + from, n, masks.data(), table_.data(), &old[0].bits, &cells[0].bits);
        changed |= row.changed;
        if (any_related_) {
            changed = 1;
            for (int i = 0; i < n; ++i) {
                if (!related_[h[i]] || old[i].pinned()) continue;
                const MaterialId* a = above + from + i;
                const MaterialId* b = below + from + i;
                const Around at{h[i], {a[0], a[1], h[i + 1], b[1], b[0], b[-1], h[i - 1], a[-1]}, 0};
                cells[i] = choose(at, x0 + from + i, y, seed);
            }
        }
        if (row.any & kMany) {
            changed = 1;
            for (int i = 0; i < n;) {
                const std::uint32_t entry = cells[i].bits;
                if (!(entry & kMany)) {
                    ++i;
                    continue;
                }
                int end = i + 1;
                while (end < n && cells[end].bits == entry) ++end;
                variants(entry, x0 + from + i, y, seed, end - i, &cells[i].bits);
                i = end;
            }
        }
    }
    return changed != 0;
}

Around around(const Grid& grid, Point at) {
    Around out{grid.material(at), {}, 0};
    for (unsigned i = 0; i < 8; ++i) {
        const Point p = at + kNeighbour[i];
        if (box_of(grid.size()).contains(p))
            out.others[i] = grid.material(p);
        else
            out.beyond = static_cast<Mask>(out.beyond | (1U << i));
    }
    return out;
}

Mask neighbourhood(const Grid& grid, Point at, bool beyond_is_same) {
    const Around a = around(grid, at);
    unsigned mask = 0;
    for (unsigned i = 0; i < 8; ++i)
        mask |= ((a.beyond >> i) & 1U ? beyond_is_same : a.others[i] == a.own) ? 1U << i : 0U;
    return static_cast<Mask>(mask);
}

namespace {

constexpr std::int64_t kLarge = 1 << 20; // cells from which a second thread is worth its while

// Chunks that were shared and have changed; to be put into the grid when nobody reads it any more.
using Fresh = std::vector<std::pair<Point, std::shared_ptr<const level::Chunk>>>;

// Joins the cells `part` of one chunk. Reads materials of the chunks around, writes cells of its own only.
// `next` is the chunk that will be joined after it, if any.
void resolve_part(const Rules& rules, Grid& grid, Point at, const Box& part, std::uint32_t seed,
                  const level::Chunk* next, Fresh& fresh) {
    constexpr int kStride = kChunk + 2;
    std::array<MaterialId, static_cast<std::size_t>(kStride) * kStride> plane;
    std::array<Cell, kChunk> line;
    const Box inner = box_of(grid.size()).grown(-1);
    const level::Chunk* chunk = grid.chunk(at);
    grid.read_materials(part.grown(1), plane.data(), kStride);
    level::Chunk* out = nullptr; // known with the first row that changes
    for (int y = part.y; y < part.bottom(); ++y) {
        const std::size_t row = static_cast<std::size_t>(y - part.y + 1) * kStride + 1;
        const auto first = static_cast<std::size_t>((y - at.y * kChunk) * kChunk + (part.x - at.x * kChunk));
        if (next) { // chunks lie anywhere in memory, where the processor does not look ahead by itself
            const auto ahead = static_cast<std::size_t>(y - at.y * kChunk) * kChunk;
            for (std::size_t i = 0; i < kChunk; i += 16) __builtin_prefetch(&next->cells[ahead + i], 1);
            __builtin_prefetch(&next->materials[ahead]);
        }
        const Cell* was = out ? &out->cells[first] : &chunk->cells[first];
        // Once the chunk is known to change, rows are joined in their place.
        Cell* now = out ? &out->cells[first] : line.data();
        bool changed = rules.join_row(&plane[row - kStride], &plane[row], &plane[row + kStride], part.w, part.x, y,
                                      seed, was, now);
        // At the level's edge it depends on the material what lies beyond; few cells, done one by one.
        const bool edge_row = y < inner.y || y >= inner.bottom();
        for (int x = part.x; x < part.right(); ++x) {
            if (!edge_row && x >= inner.x && x < inner.right()) {
                x = std::max(x, std::min(part.right(), inner.right()) - 1);
                continue;
            }
            const auto i = static_cast<std::size_t>(x - part.x);
            if (plane[row + i] == 0 || was[i].pinned()) continue;
            now[i] = rules.choose(around(grid, {x, y}), x, y, seed);
            changed = true;
        }
        const std::size_t bytes = static_cast<std::size_t>(part.w) * sizeof(Cell);
        if (out || !changed || std::memcmp(was, now, bytes) == 0) continue;
        out = grid.own(at);
        if (!out) {
            auto copy = std::make_shared<level::Chunk>(*chunk);
            out = copy.get();
            fresh.emplace_back(at, std::move(copy));
        }
        std::memcpy(&out->cells[first], now, bytes);
    }
}

// Chunks that a fill has made share one content. Where such a chunk lies among its like, each of its cells is inside
// the material, and the joined chunk can be shared as well.
class Solid {
  public:
    Solid(const Rules& rules, const Grid& grid) : rules_(rules), grid_(grid) {}

    // The joined chunk for the place; null where it has to be gone through.
    std::shared_ptr<const level::Chunk> at(Point chunk, std::uint32_t seed) {
        const level::Chunk* here = grid_.chunk(chunk);
        for (const Point by : kNeighbour)
            if (grid_.chunk(chunk + by) != here) return nullptr;
        const auto [known, fresh] = known_.try_emplace(here);
        Known& k = known->second;
        if (fresh) {
            k.material = whole(*here);
            if (const auto cell = rules_.inside(k.material)) {
                auto shared = std::make_shared<level::Chunk>(*here);
                shared->cells.fill(*cell);
                k.joined = std::move(shared);
            }
        }
        if (k.joined || k.material == 0) return k.joined;
        auto own = std::make_shared<level::Chunk>();
        own->materials.fill(k.material);
        return rules_.inside_rows(k.material, chunk.x * kChunk, chunk.y * kChunk, kChunk, kChunk, seed,
                                  own->cells.data())
                   ? own
                   : nullptr;
    }

  private:
    struct Known {
        MaterialId material = 0; // that it is full of, without pinned cells
        std::shared_ptr<const level::Chunk> joined;
    };
    static MaterialId whole(const level::Chunk& chunk) {
        const MaterialId m = chunk.materials.front();
        if (std::any_of(chunk.materials.begin(), chunk.materials.end(), [&](MaterialId o) { return o != m; }) ||
            std::any_of(chunk.cells.begin(), chunk.cells.end(), [](Cell c) { return c.pinned(); }))
            return 0;
        return m;
    }

    const Rules& rules_;
    const Grid& grid_;
    std::map<const level::Chunk*, Known> known_;
};

} // namespace

void resolve(const Rules& rules, Grid& grid, const Box& cells, std::uint32_t seed) {
    const Box box = intersection(cells, box_of(grid.size()));
    if (box.empty()) return;
    const int first = box.y / kChunk;
    const int last = (box.bottom() - 1) / kChunk;
    const auto join = [&](int from, int to) {
        Fresh fresh;
        Solid solid(rules, grid);
        for (int cy = from; cy < to; ++cy)
            for (int cx = box.x / kChunk; cx <= (box.right() - 1) / kChunk; ++cx)
                if (!grid.chunk({cx, cy}))
                    continue;
                else if (auto shared = box.contains(Box{cx * kChunk, cy * kChunk, kChunk, kChunk})
                                           ? solid.at({cx, cy}, seed)
                                           : nullptr)
                    fresh.emplace_back(Point{cx, cy}, std::move(shared));
                else
                    resolve_part(rules, grid, {cx, cy}, intersection(box, {cx * kChunk, cy * kChunk, kChunk, kChunk}),
                                 seed, grid.chunk({cx + 1, cy}), fresh);
        return fresh;
    };
    std::array<Fresh, 2> fresh;
    const int middle = first + (last + 1 - first) / 2;
    if (box.size().area() < kLarge || middle == first) {
        fresh[0] = join(first, last + 1);
    } else {
        auto other = std::async(std::launch::async, join, middle, last + 1);
        fresh[0] = join(first, middle);
        fresh[1] = other.get();
    }
    for (auto& list : fresh)
        for (auto& [at, chunk] : list) grid.put(at, std::move(chunk));
}

Grid underlay(const Rules& rules, const Grid& grid, const Box& cells, std::uint32_t seed) {
    Grid out(grid.size());
    if (!rules.any_over()) return out;
    level::each_cell(grid, cells, [&](Point p, Cell, MaterialId material) {
        if (!rules.over(material)) return;
        if (const Cell below = rules.below(around(grid, p), p.x, p.y, seed); !below.empty()) out.set(p, below, 0);
    });
    return out;
}

Repetition repetition(const level::Project& project, const Grid& grid, MaterialId material) {
    Repetition out;
    const level::Material* m = project.material(material);
    if (!m) return out;
    const Rules rules(project);
    // Which choice a cell has, and how likely two of the kind are the same.
    std::vector<double> alike(256, -1.0);
    for (const Mask mask : cases(m->joins.kind)) {
        const auto variants = serving(m->joins, mask);
        double total = 0;
        double squares = 0;
        int real = 0;
        for (const auto& v : variants)
            if (v.weight > 0) {
                total += v.weight;
                squares += double(v.weight) * v.weight;
                ++real;
            }
        if (real > 1) alike[mask] = squares / (total * total);
    }
    double expected = 0;
    const auto case_at = [&](Point p) { return canonical(rules.mask(around(grid, p)), m->joins.kind); };
    level::each_cell(grid, box_of(grid.size()), [&](Point p, Cell cell, MaterialId of) {
        if (of != material) return;
        const Mask mask = case_at(p);
        if (alike[mask] < 0) return;
        for (const Point by : {Point{1, 0}, Point{0, 1}}) {
            const Point q = p + by;
            if (grid.material(q) != material || case_at(q) != mask) continue;
            ++out.pairs;
            out.alike += grid.cell(q) == cell;
            expected += alike[mask];
        }
    });
    out.by_chance = out.pairs == 0 ? 0 : expected / double(out.pairs);
    return out;
}

} // namespace vic::join
