// What is wrong or doubtful in a project, each with its place and a remedy.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/text.hpp"
#include "findings/cells.hpp"

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

std::vector<Finding> check(const level::Project& project);
std::vector<Finding> check(const level::Project& project, const level::Level& level);

// The same for a project that is checked again and again: it looks only at cells where something changed.
class Checker {
  public:
    std::vector<Finding> check(const level::Project& project);

  private:
    CellChecker cells_;
};

} // namespace vic::findings
