// What no one gets to in a level seen from the side, and from where no one gets away.
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <map>

#include "findings/leaks.hpp"

namespace vic::findings {

using namespace level;
using outline::kUnit;

namespace {

constexpr int kNearly = kUnit * 3 / 2; // 1/64 cells that a ledge lacks at most to be told
constexpr std::size_t kMostLedgesTold = 3;
constexpr std::int64_t kLeastLedge = kUnit; // 1/64 cells of surface
constexpr std::int64_t kMostCellsMended = 160 * 160;

std::string at_cell(Point p) { return std::to_string(p.x) + ", " + std::to_string(p.y); }

// With one decimal, and never none where something lacks.
std::string in_cells(int units) {
    char text[32];
    std::snprintf(text, sizeof text, "%.1f", std::max(0.1, std::round(units * 10.0 / kUnit) / 10));
    return text;
}

// The cell over the left or middle of a ledge.
Point cell_over(const walk::Reach& reach, std::size_t ledge) {
    for (const walk::Strip& s : reach.strips())
        if (s.ledge == ledge) return {floor_div((s.from + s.to) / 2, kUnit), floor_div(s.y - 1, kUnit)};
    const Box around = reach.ledges()[ledge].around;
    return {floor_div(around.x, kUnit), floor_div(around.y, kUnit)};
}

// Looks for the smallest remedies: a cell, and the ledge moved.
void mend(const Project& project, const Level& level, const walk::Reach& reach, std::size_t ledge, Leak& leak) {
    leak.fill = walk::remedy_for(project, level, reach, ledge);
    leak.shift = walk::shift_for(project, level, reach, ledge);
}

Text mend_text(const Leak& leak) {
    if (leak.shift && leak.fill)
        return say("One cell at %1 would do, or the ledge moved by %2 across and %3 down; take either in Bound",
                   at_cell(*leak.fill), leak.shift->by.x, leak.shift->by.y);
    if (leak.shift)
        return say("Moved by %1 across and %2 down it would do; take it in Bound", leak.shift->by.x, leak.shift->by.y);
    return leak.fill ? say("One cell at %1 would do; take it in Bound", at_cell(*leak.fill))
                     : Text("Move it nearer, or let the walker jump further; Reach in Bound shows where he gets to");
}

void find_marks(const Project& project, const Level& level, const walk::Reach& reach, bool remedies,
                std::vector<std::size_t>& told, std::vector<Leak>& out) {
    for (const Mark& mark : level.marks) {
        if (mark.kind == MarkKind::start || mark.figure != 0) continue;
        const Box place{mark.cells.x * kUnit, mark.cells.y * kUnit, mark.cells.w * kUnit, mark.cells.h * kUnit};
        if (reach.touches(place)) continue;
        Leak leak;
        leak.kind = Leak::Kind::mark;
        leak.cells = mark.cells;
        leak.mark = mark.id;
        leak.brief = say("Out of reach: %1", mark.name);
        leak.what = say("\"%1\" at %2 cannot be reached from the start", mark.name, at_cell(mark.cells.corner()));
        const auto ledge = reach.ledge_under({place.x + place.w / 2, place.bottom()});
        const auto lack = ledge ? reach.lack_of(*ledge) : std::nullopt;
        if (lack) {
            told.push_back(*ledge);
            if (remedies) mend(project, level, reach, *ledge, leak);
            leak.what = say("\"%1\" at %2 cannot be reached from the start: its ledge is %3", mark.name,
                            at_cell(mark.cells.corner()), lack_text(*lack));
        }
        leak.remedy = mend_text(leak);
        out.push_back(std::move(leak));
    }
}

} // namespace

Text lack_text(const walk::Reach::Lack& lack) {
    if (lack.height > 0 && lack.gap > 0)
        return say("%1 too high and %2 too far", in_cells(lack.height), in_cells(lack.gap));
    return lack.height > 0 ? say("%1 too high", in_cells(lack.height)) : say("%1 too far", in_cells(lack.gap));
}

std::vector<Leak> leaks(const Project& project, const Level& level, const walk::Reach& reach, bool remedies) {
    std::vector<Leak> out;
    const Mark* start = level.first_mark(MarkKind::start);
    if (reach.ledges().empty()) return out; // nothing blocks, or there is no room anywhere
    if (!reach.begins()) {
        if (start)
            out.push_back({Leak::Kind::shut_in,
                           start->cells,
                           -1,
                           start->id,
                           0,
                           {},
                           "Nothing to stand on at the start",
                           say("The walker has no room at the start, %1, or falls out of the level there",
                               at_cell(start->cells.corner())),
                           "Move the start over ground that blocks"});
        return out;
    }
    remedies = remedies && level.size.area() <= kMostCellsMended;
    std::vector<std::size_t> told;
    find_marks(project, level, reach, remedies, told, out);
    // Where one cannot get away, the largest first.
    std::vector<std::size_t> traps, ledges;
    for (std::size_t i = 0; i < reach.ledges().size(); ++i) {
        const walk::Ledge& l = reach.ledges()[i];
        if (l.floats || l.length < kLeastLedge) continue;
        if (l.gets == walk::Gets::no_way_back) traps.push_back(i);
        if (l.gets == walk::Gets::not_reached && std::count(told.begin(), told.end(), i) == 0) ledges.push_back(i);
    }
    const auto larger = [&](std::size_t a, std::size_t b) {
        return reach.ledges()[a].length > reach.ledges()[b].length;
    };
    std::stable_sort(traps.begin(), traps.end(), larger);
    if (!traps.empty()) {
        const Point at = cell_over(reach, traps.front());
        Leak leak;
        leak.kind = Leak::Kind::trap;
        leak.cells = {at.x, at.y, 1, 1};
        leak.brief = "No way back from here";
        leak.what = say("One gets to %1, and from there neither back to the start nor to an exit", at_cell(at));
        leak.remedy = "Add a way up, a ladder, or an exit";
        out.push_back(std::move(leak));
    }
    std::vector<std::pair<int, std::size_t>> nearly;
    for (const std::size_t i : ledges)
        if (const auto lack = reach.lack_of(i); lack && lack->height + lack->gap <= kNearly)
            nearly.emplace_back(lack->height + lack->gap, i);
    std::sort(nearly.begin(), nearly.end());
    if (nearly.size() > kMostLedgesTold) nearly.resize(kMostLedgesTold);
    for (const auto& [lacks, i] : nearly) {
        const Point at = cell_over(reach, i);
        const Text lack = lack_text(*reach.lack_of(i));
        Leak leak;
        leak.kind = Leak::Kind::ledge;
        leak.cells = {at.x, at.y, 1, 1};
        leak.brief = say("A ledge is %1", lack);
        leak.what = say("The ledge at %1 is %2", at_cell(at), lack);
        if (remedies) mend(project, level, reach, i, leak);
        leak.remedy = mend_text(leak);
        out.push_back(std::move(leak));
    }
    return out;
}

} // namespace vic::findings
