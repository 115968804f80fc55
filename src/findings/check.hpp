// What is wrong or doubtful in a project, each with its place and a remedy.
#pragma once

#include <vector>

#include "findings/cells.hpp"
#include "findings/finding.hpp"
#include "findings/leaks.hpp"

namespace vic::findings {

std::vector<Finding> check(const level::Project& project);
std::vector<Finding> check(const level::Project& project, const level::Level& level);

// The same for a project that is checked again and again: it looks only at cells where something changed.
class Checker {
  public:
    std::vector<Finding> check(const level::Project& project);

  private:
    CellChecker cells_;
    LeakChecker leaks_;
};

} // namespace vic::findings
