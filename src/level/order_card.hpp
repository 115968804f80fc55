// The order in which the tiles of a sheet serve the cases of a join set, kept for other sheets of the same layout.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.hpp"
#include "level/material.hpp"

namespace vic::level {

struct OrderCard {
    std::uint32_t id = 0;
    std::string name; // no other card of the project has it
    JoinKind kind = JoinKind::full;
    Size layout;                                    // columns and rows of the lattice
    std::vector<std::optional<std::uint8_t>> masks; // row by row: the case that the tile there serves, if any
    Size drawn{}; // of a template that was given to somebody to draw on: the pixels of its cells; none otherwise
    bool operator==(const OrderCard&) const = default;
};

} // namespace vic::level
