// Props of which their feet do not tell which is in front.
#pragma once

#include <vector>

#include "level/project.hpp"

namespace vic::level {

struct Crossing {
    PropId one = 0, other = 0;
    LayerId layer = 0; // of the first
    Point at;          // pixels of the level: between them
    bool operator==(const Crossing&) const = default;
};

// Pairs on layers that are drawn in the order of feet whose pictures overlap and of which one reaches both further back
// and further to the front than the other, or stands behind it though its pivot lies further to the front. At most
// `most`, from the back to the front.
std::vector<Crossing> crossings(const Project& project, const Level& level, std::size_t most = 100);

} // namespace vic::level
