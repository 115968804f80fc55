// Random choices that depend on place and seed only, never on the order or time of calls.
#pragma once

#include <cstdint>

namespace vic {

// A 64-bit mix with full avalanche. Source: the finaliser of SplitMix64 (Steele, Lea and Flood, "Fast splittable
// pseudorandom number generators", OOPSLA 2014).
inline constexpr std::uint64_t mix(std::uint64_t v) {
    v += 0x9E3779B97F4A7C15ULL;
    v = (v ^ (v >> 30)) * 0xBF58476D1CE4E5B9ULL;
    v = (v ^ (v >> 27)) * 0x94D049BB133111EBULL;
    return v ^ (v >> 31);
}

inline constexpr std::uint64_t place_hash(std::uint64_t seed, int x, int y) {
    return mix(seed ^ mix((std::uint64_t{static_cast<std::uint32_t>(x)} << 32) | static_cast<std::uint32_t>(y)));
}

// A cheaper hash of 32 bits that the compiler can vectorise over x; used to choose variants. Same place, same answer.
inline constexpr std::uint32_t cell_hash(std::uint32_t seed, std::uint32_t x, std::uint32_t y) {
    std::uint32_t h = x * 0x9E3779B1U ^ (y * 0x85EBCA77U + seed);
    h = (h ^ (h >> 15)) * 0x2C1B3C6DU;
    h = (h ^ (h >> 12)) * 0x297A2D39U;
    return h ^ (h >> 15);
}

// A whole number in 0 .. below-1 out of a 32-bit hash, evenly for all practical `below`.
inline constexpr std::uint32_t scaled(std::uint32_t hash, std::uint32_t below) {
    return static_cast<std::uint32_t>((std::uint64_t{hash} * below) >> 32);
}

} // namespace vic
