// Something wrong or doubtful, with its place and a remedy.
#pragma once

#include <cstdint>
#include <optional>
#include <string>

#include "base/text.hpp"
#include "level/level.hpp"

namespace vic::findings {

enum class Severity : std::uint8_t { hint, warning, error };

struct Finding {
    std::string code; // stable: picture-lost, tile-gone, case-missing, no-start, no-exit, start-blocked, prop-lost …
    Severity severity = Severity::warning;
    std::string level;         // id; empty where it concerns the project
    level::LayerId layer = 0;  // 0 where it concerns no layer
    std::optional<Point> cell; // the first place
    Text what;
    Text remedy;
};

const char* word(Severity severity);

} // namespace vic::findings
