// The list of tools, in the order in which their buttons stand.
#pragma once

#include <QKeySequence>
#include <memory>
#include <vector>

#include "app/gesture/gesture.hpp"
#include "app/session/tool.hpp"

namespace vic::app {

class Board;
class Gesture;

struct ToolKind {
    Tool tool;
    const char* icon;
    QKeySequence key;
    const char* name; // these two in English; translate in the context "Tools"
    const char* help;
    // What can be said of it in the tool row.
    enum Options : unsigned {
        none = 0,
        tip = 1,      // a tip of a size, round or not
        box = 2,      // a box, or its rim
        alike = 4,    // cells that are alike
        hangs = 8,    // those that hang together
        selects = 16, // what is chosen
        stands = 32,  // where props come to stand
        rows = 64,    // how far apart the props of a row are
        draws = 128,  // what blockers are drawn as
    };
    unsigned options = none;
    bool lays = false; // what the Hand holds
    std::unique_ptr<Gesture> (*make)(Board& board);
    const char* command = nullptr; // its name among all commands, where that is not `name`
};

[[nodiscard]] const std::vector<ToolKind>& allTools();
[[nodiscard]] const ToolKind& kindOf(const Tool& tool);

// What is at hand with every tool, in the order in which they are asked.
[[nodiscard]] std::vector<std::unique_ptr<Gesture>> commonGestures(Board& board);

} // namespace vic::app
