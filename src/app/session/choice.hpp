// What is chosen: the stage, the tool, the Hand, and the thing of each kind that one is at work on. A plain value; it
// knows nothing of the window.
#pragma once

#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "app/session/tool.hpp"
#include "edit/dress.hpp"
#include "edit/stroke.hpp"
#include "join/mask.hpp"
#include "level/cell.hpp"
#include "level/props.hpp"
#include "level/region.hpp"
#include "level/sheet.hpp"

namespace vic::level {
struct Project;
class TileTable;
} // namespace vic::level

namespace vic::app {

enum class Stage { cut, join, lay, dress, bound, walk, handOver };
inline constexpr int kStages = 7;
inline bool showsLevel(Stage stage) { return stage == Stage::lay || stage == Stage::dress || stage == Stage::bound; }
inline bool laysCells(Stage stage) { return stage == Stage::lay || stage == Stage::bound; }

enum class FactsLook { both, colours, words };

struct Choice {
    // These go along from project to project.
    Stage stage = Stage::lay;
    Tool tool = Tool::pencil;
    ToolOptions options;
    FactsLook factsLook = FactsLook::both;

    // These are of the project that is open.
    std::string level;
    level::LayerId layer = 0;
    level::SheetId sheet = 0;
    level::MaterialId material = 0;
    join::Mask joinCase = 255;
    std::vector<level::TileId> tiles;
    edit::Chosen chosen;        // props and marks, of the ensemble's parts where one is opened
    level::PropId ensemble = 0; // whose parts are worked on; 0 for none
    edit::Hand hand;
    std::vector<edit::Hand> lastHands;               // the latest first, ten at most
    level::Region selection;                         // cells of the level
    std::optional<std::pair<Point, Point>> measured; // pixels of the level: the line measured last
    std::set<level::LayerId> seenAlone;              // none where all are seen

    // Another project is open: nothing of the old one is chosen any more.
    void forget();
    // What is gone from the project is given up for something that is there. True where the Hand became another.
    bool settle(const level::Project& project, const level::TileTable& tiles);
    void take(const edit::Hand& hand); // into the Hand, and among the last ones
    void enter(Stage stage);           // with a tool and a Hand that belong there
};

} // namespace vic::app
