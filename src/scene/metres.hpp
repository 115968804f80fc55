// How long a cell of a level of kit pieces is.
#pragma once

#include <memory>
#include <vector>

#include "scene/scene.hpp"

namespace vic::scene {

// In metres, as the first of the kits that tells it has it; 1 where none does.
inline double metres_of(const std::vector<std::shared_ptr<const LoadedKit>>& kits) {
    for (const auto& kit : kits)
        if (kit->read.module.width > 0) return kit->read.module.width;
    return 1;
}

} // namespace vic::scene
