// Areas that tell: what a place reports to the game without blocking, by the designer's own list.
#pragma once

#include <cstddef>
#include <cstdint>
#include <string>

#include "base/image.hpp"

namespace vic::level {

using AreaKindId = std::uint32_t;

// What a walker makes of it; `tells` nothing.
enum class AreaMeans : std::uint8_t { tells, water, ladder, hazard, exit };

struct AreaKind {
    AreaKindId id = 0;
    std::string name; // no two of a project the same
    Rgba colour{46, 134, 140, 255};
    AreaMeans means = AreaMeans::tells;
    bool operator==(const AreaKind&) const = default;
};
inline constexpr std::size_t kMostAreaKinds = 64;

} // namespace vic::level
