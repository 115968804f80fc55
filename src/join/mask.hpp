// Neighbourhoods as 8-bit masks, one bit a neighbour, clockwise from north.
#pragma once

#include <array>
#include <cstdint>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "base/text.hpp"
#include "level/material.hpp"

namespace vic::join {

using Mask = std::uint8_t;

inline constexpr Mask kN = 1, kNE = 2, kE = 4, kSE = 8, kS = 16, kSW = 32, kW = 64, kNW = 128;
inline constexpr Mask kSides = kN | kE | kS | kW;
inline constexpr Mask kCorners = kNE | kSE | kSW | kNW;

// The neighbour that bit `i` (0 .. 7) stands for.
inline constexpr std::array<Point, 8> kNeighbour{
    {{0, -1}, {1, -1}, {1, 0}, {1, 1}, {0, 1}, {-1, 1}, {-1, 0}, {-1, -1}}};

// The mask with all bits cleared that the kind does not tell apart. A corner counts only between two joined sides,
// which leaves 47 of the 256 for the full kind. Of the kind corners what is left are the joined corners, each with its
// two sides: cells of one material then agree at the corner where four of them meet.
Mask canonical(Mask mask, level::JoinKind kind);
// The case of the kind corners in which just these corners join.
Mask of_corners(Mask corners);

// Whether a kind looks at the neighbour of bit `i` (0 .. 7) at all.
inline bool told_apart(level::JoinKind kind, unsigned i) {
    return kind == level::JoinKind::full || (kind == level::JoinKind::edges && i % 2 == 0) ||
           (kind == level::JoinKind::corners && i % 2 == 1);
}

// The canonical masks of a kind, ascending: 1 (plain), 16, 16 or 47.
const std::vector<Mask>& cases(level::JoinKind kind);

// The mask as files and commands write it: of the kind corners the bits of the corners alone.
inline Mask file_mask(Mask mask, level::JoinKind kind) {
    return kind == level::JoinKind::corners ? mask & kCorners : mask;
}

// How many of the four sides join, 0 .. 4.
int joined_sides(Mask mask);
// How many of the four corners join, 0 .. 4.
int joined_corners(Mask mask);

// The neighbours that a tile drawn for `mask` expects when it is laid turned.
Mask turned(Mask mask, Turn turn);

// The tiles that serve a case: its own, else those of another case by a turn that the set allows. None where nothing
// but the nearest case is left.
std::vector<level::Variant> serving(const level::JoinSet& set, Mask mask);

// How many of a set's cases have tiles, and how many of those tiles of their own.
struct Coverage {
    int have = 0;
    int of = 0;
    int drawn = 0;
};
Coverage coverage(const level::JoinSet& set);

// "joined on all sides", "open to the north and east", "inner corner north-east" …, for people.
Text describe(Mask mask);
// The same as that kind tells it: sets of edges say nothing of corners.
Text describe(Mask mask, level::JoinKind kind);

} // namespace vic::join
