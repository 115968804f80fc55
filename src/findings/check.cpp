#include "findings/check.hpp"

#include <algorithm>
#include <map>

#include "findings/looks.hpp"
#include "join/resolve.hpp"
#include "level/crossing.hpp"
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
void check_cells(const Project& project, const Level& level, const Layer& layer, CellChecker& cells,
                 std::vector<Finding>& out) {
    const CellFaults faults = cells.of(level.id, layer);
    const auto in_level = [&](Point own) { return layer.grain().in_level(own); };
    const int gone = faults.gone;
    const Point first_gone = in_level(faults.first_gone);
    if (gone > 0)
        out.push_back({"tile-gone", Severity::error, level.id, layer.id, first_gone,
                       say_count(gone, "One cell has a tile that no sheet has any more, at %1",
                                 "%n cells have a tile that no sheet has any more, the first at %1", place(first_gone)),
                       "Cut the sheet as it was, or lay something else there"});
    for (const auto& [key, found] : faults.missing)
        out.push_back({"case-missing", Severity::warning, level.id, layer.id, in_level(found.first),
                       say_count(found.count, "%1 has no tile for \"%2\"; one cell shows the nearest one, at %3",
                                 "%1 has no tile for \"%2\"; %n cells show the nearest one, the first at %3",
                                 project.material(key.first)->name,
                                 join::describe(key.second, project.material(key.first)->joins.kind),
                                 place(in_level(found.first))),
                       "Choose or draw a tile for the case in Join"});
}

Finding of_material(std::string kind, Severity severity, Text what, Text remedy) {
    return {std::move(kind), severity, "", 0, {}, std::move(what), std::move(remedy)};
}

// What is wrong with the rules of a material.
void check_rules(const Project& project, const Material& m, std::vector<Finding>& out) {
    const TileTable tiles(project);
    const JoinSet& set = m.joins;
    int gone = 0;
    int weightless = 0;
    const auto look = [&](const Cases& cases) {
        for (const auto& [mask, variants] : cases) {
            int total = 0;
            for (const Variant& v : variants) {
                gone += !tiles.find(v.tile).tile;
                total += std::max(v.weight, 0);
            }
            weightless += !variants.empty() && total == 0;
        }
    };
    look(set.cases);
    for (const auto& [other, cases] : set.pairs) look(cases);
    if (gone > 0)
        out.push_back(of_material("joins-tile-gone", Severity::error,
                                  say_count(gone, "The rules of \"%1\" name a tile that no sheet has any more",
                                            "The rules of \"%1\" name %n tiles that no sheet has any more", m.name),
                                  "Cut the sheet as it was, or let other tiles serve those cases in Join"));
    if (weightless > 0)
        out.push_back(of_material("joins-no-weight", Severity::warning,
                                  say_count(weightless, "A case of \"%1\" has variants, but none with a weight",
                                            "%n cases of \"%1\" have variants, but none with a weight", m.name),
                                  "Give one of them a weight in Join; until then the case counts as missing"));
    for (const MaterialId other : set.same)
        if (other == m.id)
            out.push_back(of_material("joins-circular", Severity::warning,
                                      say("\"%1\" is listed as counting as itself", m.name),
                                      "That goes without saying and is passed over; take it off the list in Join"));
        else if (!project.material(other))
            out.push_back(of_material("joins-material-gone", Severity::warning,
                                      say("\"%1\" counts a material as the same that is gone", m.name),
                                      "Take it off the list in Join"));
    for (const auto& [other, cases] : set.pairs)
        if (other == m.id || !project.material(other))
            out.push_back(of_material("joins-material-gone", Severity::warning,
                                      say("\"%1\" has tiles for meeting a material that is gone", m.name),
                                      "Take them off the list in Join"));
        else if (std::find(set.same.begin(), set.same.end(), other) != set.same.end())
            out.push_back(of_material("joins-circular", Severity::warning,
                                      say("\"%1\" counts \"%2\" as the same and has tiles for meeting it, which are "
                                          "never seen",
                                          m.name, project.material(other)->name),
                                      "Choose one of the two in Join"));
}

// Materials that count each other as the same all round while only some of them do so back: seen from one side they
// join, from the other they do not.
void check_circles(const Project& project, std::vector<Finding>& out) {
    const auto counts = [&](MaterialId a, MaterialId b) {
        const Material* m = project.material(a);
        return m && std::find(m->joins.same.begin(), m->joins.same.end(), b) != m->joins.same.end();
    };
    for (const auto& a : project.materials)
        for (const MaterialId b : a->joins.same)
            for (const auto& c : project.materials)
                if (a->id < b && a->id < c->id && b != c->id && counts(b, c->id) && counts(c->id, a->id) &&
                    !(counts(b, a->id) && counts(c->id, b) && counts(a->id, c->id)))
                    out.push_back(of_material(
                        "joins-circular", Severity::warning,
                        say("\"%1\", \"%2\" and \"%3\" count each other as the same in a circle, but not back", a->name,
                            project.material(b) ? project.material(b)->name : std::string(), c->name),
                        "Let each of them count both others, or break the circle in Join"));
}

// Props of which one cannot tell which is in front: one finding a level, at the first.
void check_order(const Project& project, const Level& level, std::vector<Finding>& out) {
    const std::vector<level::Crossing> found = level::crossings(project, level);
    if (found.empty()) return;
    const auto name = [&](level::PropId id) {
        for (const level::LayerRef& l : level.layers)
            if (const level::Prop* p = l->props().find(id))
                if (const level::PropKind* kind = project.prop_kind(p->kind)) return kind->name;
        return std::string();
    };
    const level::Crossing& first = found.front();
    const Point cell = level.geometry().cell_at(first.at);
    const Text what =
        found.size() == 1
            ? say("\"%1\" and \"%2\" cross at %3: their feet do not tell which is in front", name(first.one),
                  name(first.other), place(cell))
            : say("\"%1\" and \"%2\" cross at %3, and %4 more pairs: their feet do not tell which is in front",
                  name(first.one), name(first.other), place(cell), static_cast<int>(found.size() - 1));
    out.push_back({"order-untold", Severity::hint, level.id, first.layer, cell, what,
                   "Move one of them, give its kind a foot that is less deep, or make two props of it"});
}

void check_level(const Project& project, const Level& level, CellChecker& cells, LeakChecker& leaks,
                 std::vector<Finding>& out) {
    bool solid = false;
    for (const level::LayerRef& layer : level.layers) {
        if (layer->tiles()) {
            check_cells(project, level, *layer, cells, out);
        }
        solid = solid || layer->blocks();
        if (layer->backdrop() && !project.sheet(layer->backdrop()->sheet))
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
                       "Say in a layer's slab that its tiles block, or add a layer of blockers"});
    check_order(project, level, out);
    for (const Leak& leak : looks(project, level)) out.push_back(finding_of(level, leak));
    const Mark* start = level.first_mark(MarkKind::start);
    if (!start)
        out.push_back({"no-start",
                       Severity::warning,
                       level.id,
                       0,
                       {},
                       "The level has no start",
                       "Place a start mark in Dress; until then the walker starts in the middle"});
    for (std::size_t side = 0; side < level.sides.size(); ++side)
        if (const level::LevelSide& way = level.sides[side];
            way.kind == level::SideKind::leads && !way.to.empty() && !project.level(way.to))
            out.push_back(
                {"side-leads-nowhere",
                 Severity::warning,
                 level.id,
                 0,
                 {},
                 say("The %1 side leads on to the level \"%2\", which is gone", level::side_words()[side], way.to),
                 "Choose another under Sides in the Section"});
    if (!level.first_mark(MarkKind::exit))
        out.push_back(
            {"no-exit", Severity::hint, level.id, 0, {}, "The level has no exit", "Place an exit mark in Dress"});
    const auto& tries = leaks.tries(project, level);
    out.insert(out.end(), tries.begin(), tries.end());
    if (start) {
        const Point foot{start->cells.x + start->cells.w / 2, start->cells.bottom() - 1};
        outline::SolidCode code = 0;
        outline::Forms forms;
        const TileTable tiles(project, level);
        const level::PropKinds kinds(project, level);
        outline::read_solid(level, {tiles, kinds}, {foot.x, foot.y, 1, 1}, &code, 1, forms);
        if (outline::solid_of(code) == outline::kFull)
            out.push_back({"start-blocked", Severity::error, level.id, 0, foot,
                           say("The start at %1 lies inside something that blocks", place(foot)),
                           "Move the start mark"});
        else
            for (const Leak& leak : leaks.of(project, level)) out.push_back(finding_of(level, leak));
    }
}

} // namespace

std::vector<Finding> check(const Project& project, const Level& level) {
    std::vector<Finding> out;
    CellChecker cells;
    cells.follow(project);
    LeakChecker leaks;
    check_level(project, level, cells, leaks, out);
    return out;
}

std::vector<Finding> check(const Project& project) { return Checker().check(project); }

std::vector<Finding> Checker::check(const Project& project) {
    std::vector<Finding> out;
    cells_.follow(project);
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
    for (const auto& material : project.materials) check_rules(project, *material, out);
    check_circles(project, out);
    for (const auto& level : project.levels) check_level(project, *level, cells_, leaks_, out);
    return out;
}

} // namespace vic::findings
