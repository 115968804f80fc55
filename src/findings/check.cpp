#include "findings/check.hpp"

#include <map>

#include "join/resolve.hpp"
#include "outline/solid.hpp"

namespace vic::findings {

using namespace level;

const char* word(Severity severity) {
    switch (severity) {
        case Severity::hint:
            return "hint";
        case Severity::warning:
            return "warning";
        case Severity::error:
            return "error";
    }
    return "";
}

namespace {

std::string place(Point p) { return std::to_string(p.x) + ", " + std::to_string(p.y); }

// Cells whose tile is gone, and cells painted by a case that has no tile of its own.
void check_cells(const Project& project, const Level& level, const Layer& layer, std::vector<Finding>& out) {
    const TileTable tiles(project);
    const join::Rules rules(project);
    int gone = 0;
    Point first_gone;
    std::map<std::pair<MaterialId, join::Mask>, std::pair<int, Point>> missing;
    each_cell(layer.grid, level.cells(), [&](Point at, Cell cell, MaterialId material) {
        if (!tiles.find(cell.tile()).tile && gone++ == 0) first_gone = at;
        const Material* m = material && !cell.pinned() ? project.material(material) : nullptr;
        if (!m || m->joins.kind == JoinKind::plain) return;
        const auto mask = join::canonical(join::neighbourhood(layer.grid, at, m->joins.beyond_is_same), m->joins.kind);
        if (!rules.missing(material, mask)) return;
        auto& [count, where] = missing[{material, mask}];
        if (count++ == 0) where = at;
    });
    if (gone > 0)
        out.push_back({"tile-gone", Severity::error, level.id, layer.id, first_gone,
                       say_count(gone, "One cell has a tile that no sheet has any more, at %1",
                                 "%n cells have a tile that no sheet has any more, the first at %1", place(first_gone)),
                       "Cut the sheet as it was, or lay something else there"});
    for (const auto& [key, found] : missing)
        out.push_back({"case-missing", Severity::warning, level.id, layer.id, found.second,
                       say_count(found.first, "%1 has no tile for \"%2\"; one cell shows the nearest one, at %3",
                                 "%1 has no tile for \"%2\"; %n cells show the nearest one, the first at %3",
                                 project.material(key.first)->name, join::describe(key.second), place(found.second)),
                       "Choose or draw a tile for the case in Join"});
}

} // namespace

std::vector<Finding> check(const Project& project, const Level& level) {
    std::vector<Finding> out;
    bool solid = false;
    for (const level::LayerRef& layer : level.layers) {
        if (layer->kind == LayerKind::tiles) {
            check_cells(project, level, *layer, out);
            solid = solid || layer->solid;
        }
        if (layer->kind == LayerKind::backdrop && !project.sheet(layer->backdrop.sheet))
            out.push_back({"backdrop-empty",
                           Severity::warning,
                           level.id,
                           layer->id,
                           {},
                           say("The backdrop \"%1\" has no picture", layer->name),
                           "Choose a sheet for it in its slab"});
        if (!layer->shown)
            out.push_back({"layer-hidden",
                           Severity::hint,
                           level.id,
                           layer->id,
                           {},
                           say("The layer \"%1\" is hidden and will be hidden in the game", layer->name),
                           "Show it, if that is not meant"});
    }
    if (!solid)
        out.push_back({"nothing-blocks",
                       Severity::warning,
                       level.id,
                       0,
                       {},
                       "No layer of the level blocks the walker",
                       "Say in a layer's slab that its tiles block"});
    const Mark* start = level.first_mark(MarkKind::start);
    if (!start)
        out.push_back({"no-start",
                       Severity::warning,
                       level.id,
                       0,
                       {},
                       "The level has no start",
                       "Place a start mark in Dress; until then the walker starts in the middle"});
    if (!level.first_mark(MarkKind::exit))
        out.push_back(
            {"no-exit", Severity::hint, level.id, 0, {}, "The level has no exit", "Place an exit mark in Dress"});
    if (start) {
        const Point foot{start->cells.x + start->cells.w / 2, start->cells.bottom() - 1};
        outline::SolidCode code = 0;
        outline::Forms forms;
        outline::read_solid(level, TileTable(project), {foot.x, foot.y, 1, 1}, &code, 1, forms);
        if (outline::solid_of(code) == outline::kFull)
            out.push_back({"start-blocked", Severity::error, level.id, 0, foot,
                           say("The start at %1 lies inside something that blocks", place(foot)),
                           "Move the start mark"});
    }
    return out;
}

std::vector<Finding> check(const Project& project) {
    std::vector<Finding> out;
    for (const auto& sheet : project.sheets) {
        if (!sheet->image)
            out.push_back({"picture-lost",
                           Severity::error,
                           "",
                           0,
                           {},
                           say("The picture of \"%1\" cannot be read: %2", sheet->name, sheet->trouble),
                           say("Put the file back to %1", sheet->file)});
        else if (sheet->accepted && !sheet->credits.enough())
            out.push_back({"no-credits",
                           Severity::hint,
                           "",
                           0,
                           {},
                           say("Nobody is named for the art of \"%1\"", sheet->name),
                           "Write its author and licence beside the sheet in Cut"});
        else if (!sheet->accepted)
            out.push_back({"cut-open",
                           Severity::hint,
                           "",
                           0,
                           {},
                           say("The cut of \"%1\" is only a proposal", sheet->name),
                           "Take it or set it by hand in Cut"});
    }
    for (const auto& level : project.levels) {
        const auto more = check(project, *level);
        out.insert(out.end(), more.begin(), more.end());
    }
    return out;
}

} // namespace vic::findings
