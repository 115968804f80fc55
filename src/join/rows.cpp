#include "join/rows.hpp"

#include <algorithm>

#if defined(__x86_64__)
#include <immintrin.h>
#endif

#include "base/blue_noise.hpp"
#include "base/chance.hpp"
#include "join/mask.hpp"

namespace vic::join {

using level::MaterialId;

namespace {

constexpr std::uint32_t kDice = 0x51ED270BU; // the seed's other stream

bool wide() {
#if defined(__x86_64__)
    static const bool has = __builtin_cpu_supports("avx2");
    return has;
#else
    return false;
#endif
}

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

#if defined(__x86_64__)
// The same with the gathering loads of newer processors, eight cells at a time.
[[gnu::target("avx2")]] RowState look_up_row_wide(const MaterialId* a, const MaterialId* h, const MaterialId* b, int n,
                                                  std::uint8_t* masks, const std::uint32_t* table,
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

// From `i` on.
void choose_plain(const Variants& v, std::uint32_t entry, std::uint32_t seed, int x, int y, int i, int n,
                  std::uint32_t* cells) {
    const SpreadRow spread = spread_row(seed, x, y);
    const auto row = static_cast<std::uint32_t>(y);
    for (; i < n; ++i) {
        if (cells[i] != entry) continue;
        const auto column = static_cast<std::uint32_t>(x + i);
        std::uint32_t threshold = cell_hash(seed, column, row);
        if (v.always != 0 || (v.lively != 0 && cell_hash(seed ^ kDice, column, row) < v.lively))
            threshold = (std::uint32_t{spread.ranks[(spread.start + static_cast<std::uint32_t>(i)) % 64]} << 20) |
                        (threshold & 0xFFFFFU);
        std::uint32_t now = v.cells[0];
        for (std::uint32_t k = 1; k < v.count; ++k) now = threshold >= v.from[k] ? v.cells[k] : now;
        cells[i] = now;
    }
}

#if defined(__x86_64__)
// The hash of eight places of a row, cell_hash(); `columns` are times its first factor.
[[gnu::target("avx2"), gnu::always_inline]] inline __m256i hash_wide(__m256i columns, std::uint32_t mixed) {
    __m256i h = _mm256_xor_si256(columns, _mm256_set1_epi32(static_cast<int>(mixed)));
    h = _mm256_mullo_epi32(_mm256_xor_si256(h, _mm256_srli_epi32(h, 15)),
                           _mm256_set1_epi32(static_cast<int>(0x2C1B3C6DU)));
    h = _mm256_mullo_epi32(_mm256_xor_si256(h, _mm256_srli_epi32(h, 12)),
                           _mm256_set1_epi32(static_cast<int>(0x297A2D39U)));
    return _mm256_xor_si256(h, _mm256_srli_epi32(h, 15));
}
// Whether a < b, of numbers without a sign whose highest bit was turned.
[[gnu::target("avx2"), gnu::always_inline]] inline __m256i less(__m256i a, __m256i b) {
    return _mm256_cmpgt_epi32(b, a);
}
[[gnu::target("avx2"), gnu::always_inline]] inline __m256i all_of(std::uint32_t v) {
    return _mm256_set1_epi32(static_cast<int>(v));
}

enum class Thresholds { random, even, mixed };

// With `kCount` variants, or as many as there are where it is 0.
template <Thresholds kThresholds, std::uint32_t kCount>
[[gnu::target("avx2")]] void choose_wide_of(const Variants& v, std::uint32_t entry, std::uint32_t seed, int x, int y,
                                            int n, std::uint32_t* cells) {
    constexpr std::uint32_t kColumn = 0x9E3779B1U;
    constexpr std::uint32_t kTop = 0x80000000U;
    const std::uint32_t count = kCount == 0 ? v.count : kCount;
    const SpreadRow spread = spread_row(seed, x, y);
    const std::uint32_t line = static_cast<std::uint32_t>(y) * 0x85EBCA77U;
    const __m256i wanted = all_of(entry);
    const __m256i top = all_of(kTop);
    const __m256i lively = all_of(v.lively ^ kTop);
    __m256i from[Variants::kFew];
    __m256i cell[Variants::kFew];
    for (std::uint32_t k = 0; k < count; ++k) {
        from[k] = all_of(v.from[k] ^ kTop);
        cell[k] = all_of(v.cells[k]);
    }
    __m256i columns = _mm256_mullo_epi32(
        _mm256_add_epi32(_mm256_set1_epi32(x), _mm256_setr_epi32(0, 1, 2, 3, 4, 5, 6, 7)), all_of(kColumn));
    const __m256i step = all_of(8U * kColumn);
    int i = 0;
    for (; i + 8 <= n; i += 8, columns = _mm256_add_epi32(columns, step)) {
        auto* to = reinterpret_cast<__m256i*>(cells + i);
        const __m256i was = _mm256_loadu_si256(to);
        const __m256i here = _mm256_cmpeq_epi32(was, wanted);
        if (_mm256_testz_si256(here, here)) continue;
        __m256i threshold = hash_wide(columns, line + seed);
        if constexpr (kThresholds != Thresholds::random) {
            const auto* ranks = spread.ranks + (spread.start + static_cast<std::uint32_t>(i)) % 64;
            const __m256i even = _mm256_or_si256(
                _mm256_slli_epi32(_mm256_cvtepu16_epi32(_mm_loadu_si128(reinterpret_cast<const __m128i*>(ranks))), 20),
                _mm256_and_si256(threshold, all_of(0xFFFFF)));
            if constexpr (kThresholds == Thresholds::even)
                threshold = even;
            else
                threshold = _mm256_blendv_epi8(
                    threshold, even, less(_mm256_xor_si256(hash_wide(columns, line + (seed ^ kDice)), top), lively));
        }
        threshold = _mm256_xor_si256(threshold, top);
        __m256i now = cell[0];
        for (std::uint32_t k = 1; k < count; ++k) now = _mm256_blendv_epi8(cell[k], now, less(threshold, from[k]));
        _mm256_storeu_si256(to, _mm256_blendv_epi8(was, now, here));
    }
    choose_plain(v, entry, seed, x, y, i, n, cells);
}

template <Thresholds kThresholds>
void choose_wide_by_count(const Variants& v, std::uint32_t entry, std::uint32_t seed, int x, int y, int n,
                          std::uint32_t* cells) {
    if (v.count == 2) return choose_wide_of<kThresholds, 2>(v, entry, seed, x, y, n, cells);
    if (v.count == 3) return choose_wide_of<kThresholds, 3>(v, entry, seed, x, y, n, cells);
    if (v.count == 4) return choose_wide_of<kThresholds, 4>(v, entry, seed, x, y, n, cells);
    choose_wide_of<kThresholds, 0>(v, entry, seed, x, y, n, cells);
}

void choose_wide(const Variants& v, std::uint32_t entry, std::uint32_t seed, int x, int y, int n,
                 std::uint32_t* cells) {
    if (v.always != 0) return choose_wide_by_count<Thresholds::even>(v, entry, seed, x, y, n, cells);
    if (v.lively != 0) return choose_wide_by_count<Thresholds::mixed>(v, entry, seed, x, y, n, cells);
    choose_wide_by_count<Thresholds::random>(v, entry, seed, x, y, n, cells);
}
#endif

} // namespace

RowState plain::look_up_row(const MaterialId* above, const MaterialId* here, const MaterialId* below, int n,
                            std::uint8_t* masks, const std::uint32_t* table, const std::uint32_t* old,
                            std::uint32_t* out) {
    masks_of(above, here, below, n, masks);
    return entries_of(here, 0, n, masks, table, old, out);
}

void plain::choose_row(const Variants& v, std::uint32_t entry, std::uint32_t seed, int x, int y, int n,
                       std::uint32_t* cells) {
    choose_plain(v, entry, seed, x, y, 0, n, cells);
}

RowState look_up_row(const MaterialId* above, const MaterialId* here, const MaterialId* below, int n,
                     std::uint8_t* masks, const std::uint32_t* table, const std::uint32_t* old, std::uint32_t* out) {
#if defined(__x86_64__)
    if (wide()) return look_up_row_wide(above, here, below, n, masks, table, old, out);
#endif
    return plain::look_up_row(above, here, below, n, masks, table, old, out);
}

void choose_row(const Variants& v, std::uint32_t entry, std::uint32_t seed, int x, int y, int n, std::uint32_t* cells) {
#if defined(__x86_64__)
    if (wide()) return choose_wide(v, entry, seed, x, y, n, cells);
#endif
    plain::choose_row(v, entry, seed, x, y, n, cells);
}

} // namespace vic::join
