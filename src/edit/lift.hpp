// The last strokes, and lifting one from the layer it went to onto the one it was meant for.
#pragma once

#include <optional>

#include "edit/document.hpp"
#include "join/resolve.hpp"
#include "level/region.hpp"

namespace vic::edit {

// What a step of history did, if it laid cells on one layer of one level and changed nothing else there.
struct LaidStroke {
    std::string level;
    level::LayerId layer = 0;
    Box cells; // of the level: the least box of what changed
};
std::optional<LaidStroke> stroke_of(const level::Project& before, const level::Project& after);

// The project with the stroke on another layer of tiles: what it covered on its layer is as it was, what it laid lies
// on the other one. Only cells that still are as the stroke left them are moved; the others are counted in `changed`.
struct Lifted {
    level::Level level;
    std::int64_t cells = 0;
    std::int64_t changed = 0;
};
Lifted lift(const level::Project& now, const join::Rules& rules, const level::Project& before,
            const level::Project& after, const LaidStroke& stroke, level::LayerId to);

} // namespace vic::edit
