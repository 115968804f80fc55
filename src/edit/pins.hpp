// Why? What came to pass in a try, each with its place and a sentence about what decided there.
#pragma once

#include <cstdint>
#include <vector>

#include "base/text.hpp"
#include "level/project.hpp"
#include "walk/world.hpp"

namespace vic::edit {

struct Pin {
    enum class Kind : std::uint8_t { bump, passed, landed, touched, told, fell };
    Kind kind = Kind::bump;
    int tick = 0;
    walk::Position at; // cells
    Text title;        // what, and where
    Text says;         // why
};
inline constexpr std::size_t kMostPins = 64;

// In the order of their ticks. `happenings` and `way` (every sixth tick, from the first on) are of a walk through the
// level as it was built into `built`. Passed is what has a shape and lies where the walker went: it names the layer
// that does not block, each layer and thing once.
std::vector<Pin> pins_of(const level::Project& project, const level::Level& level, const vicinum::Level& built,
                         const std::vector<walk::Happening>& happenings, const std::vector<walk::Position>& way);

} // namespace vic::edit
