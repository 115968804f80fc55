#include "findings/leaks.hpp"

#include <algorithm>
#include <map>
#include <utility>

#include "findings/tries.hpp"
#include "level/telling.hpp"

namespace vic::findings {

using namespace level;
using outline::kUnit;

namespace {

constexpr std::int64_t kMostCellsSoaked = std::int64_t{1} << 20; // larger levels are soaked only when one asks
constexpr std::int64_t kMostCellsReached = 512 * 512;            // likewise
constexpr std::int64_t kLeastDry = 16;                           // cells that are worth a word
constexpr std::size_t kMostDryTold = 3;

std::string spot(Point p) { return std::to_string(p.x) + ", " + std::to_string(p.y); }

Box rim_cells(const Level& level, const walk::Soaked::OpenRim& rim) {
    const int from = floor_div(rim.from, kUnit), to = floor_div(rim.to - 1, kUnit);
    switch (rim.side) {
        case 0:
            return {from, 0, to - from + 1, 1};
        case 1:
            return {level.size.w - 1, from, 1, to - from + 1};
        case 2:
            return {from, level.size.h - 1, to - from + 1, 1};
        default:
            return {0, from, 1, to - from + 1};
    }
}

// The material that is seen of what lies in the cell behind the walker; 0 where a tile by hand does, or nothing.
MaterialId ground_at(const Level& level, Point cell) {
    for (int i = level.plane - 1; i >= 0; --i) {
        const Layer& layer = *level.layers[static_cast<std::size_t>(i)];
        if (!layer.tiles() || !layer.shown || layer.parallax != Point{100, 100}) continue;
        const Point own = layer.grain().own() ? layer.grain().touching({cell.x, cell.y, 1, 1}).corner() : cell;
        if (const MaterialId m = layer.grid().material(own)) return m;
        if (!layer.grid().cell(own).empty()) return 0;
    }
    return 0;
}

void find_telling(const Project& project, const Level& level, const walk::Soaked& soaked, std::vector<Leak>& out) {
    std::map<MaterialId, std::string> words;
    for (const auto& m : project.materials)
        if (std::string word = telling_word(m->name); !word.empty()) words[m->id] = std::move(word);
    if (words.empty()) return;
    struct Found {
        Box first;
        int count = 0;
    };
    std::map<MaterialId, Found> found;
    const int middle = soaked.grain / 2;
    for (int y = 0; y < level.size.h; ++y)
        for (int x = 0; x < level.size.w; ++x) {
            if (!soaked.at({x * soaked.grain + middle, y * soaked.grain + middle})) continue;
            const MaterialId m = ground_at(level, {x, y});
            if (m == 0 || !words.contains(m)) continue;
            Found& f = found[m];
            if (f.count++ == 0) f.first = {x, y, 1, 1};
        }
    for (const auto& [id, f] : found)
        out.push_back({Leak::Kind::telling,
                       f.first,
                       -1,
                       0,
                       id,
                       {},
                       say("One walks on \"%1\"", project.material(id)->name),
                       say_count(f.count, "One walks on \"%1\" at %2, though its name says \"%3\"",
                                 "One walks on %n cells of \"%1\", the first at %2, though its name says \"%3\"",
                                 project.material(id)->name, spot(f.first.corner()), words[id]),
                       "Let it block under Used here in Bound, or write that one may walk there"});
}

} // namespace

std::vector<Leak> leaks(const Project& project, const Level& level, const walk::Soaked& soaked) {
    std::vector<Leak> out;
    if (soaked.nothing_blocks) return out; // and nothing leaks
    const Mark* start = level.first_mark(MarkKind::start);
    if (soaked.shut_in) {
        if (start)
            out.push_back({Leak::Kind::shut_in,
                           start->cells,
                           -1,
                           start->id,
                           0,
                           {},
                           "No room at the start",
                           say("There is no room for the walker at the start, %1", spot(start->cells.corner())),
                           "Move the start, or make the walker smaller under Walk"});
        return out;
    }
    // A side is one leak, however often one gets over it.
    for (const walk::Soaked::OpenRim& rim : soaked.rims) {
        if (!out.empty() && out.back().side == rim.side) {
            out.back().rims.push_back(rim_cells(level, rim));
            continue;
        }
        const Box cells = rim_cells(level, rim);
        const bool upright = rim.side % 2 != 0;
        const int from = upright ? cells.y : cells.x, to = upright ? cells.bottom() - 1 : cells.right() - 1;
        const std::string& side = side_words()[static_cast<std::size_t>(rim.side)];
        out.push_back(
            {Leak::Kind::rim,
             cells,
             rim.side,
             0,
             0,
             {cells},
             say("The %1 side is open", side),
             from == to
                 ? say("One gets out on the %1 side, in cell %2, and nothing leads on there", side, from)
                 : say("One gets out on the %1 side, cells %2 to %3, and nothing leads on there", side, from, to),
             "Close it in Bound, or let the side lead on or block under Sides"});
    }
    for (const Mark& mark : level.marks) {
        if (mark.kind == MarkKind::start || mark.figure != 0 || soaked.touches(mark.cells)) continue;
        out.push_back({Leak::Kind::mark,
                       mark.cells,
                       -1,
                       mark.id,
                       0,
                       {},
                       say("\"%1\" is shut in", mark.name),
                       say("\"%1\" at %2 cannot be reached from the start", mark.name, spot(mark.cells.corner())),
                       "Soak the level in Bound to see where one gets to, and open a way"});
    }
    find_telling(project, level, soaked, out);
    std::size_t told = 0;
    for (const walk::Soaked::Dry& dry : soaked.dry) {
        if (dry.count < kLeastDry || told++ >= kMostDryTold) break;
        const Box around = dry.cells.bounds();
        Point first = around.corner();
        while (!dry.cells.contains(first))
            first = first.x + 1 < around.right() ? first + Point{1, 0} : Point{around.x, first.y + 1};
        out.push_back({Leak::Kind::dry,
                       {first.x, first.y, 1, 1},
                       -1,
                       0,
                       0,
                       {},
                       say("No one gets to %1 cells", dry.count),
                       say("%1 cells around %2 could be walked on, and no way leads there", dry.count, spot(first)),
                       "Open a way to them, or let them block"});
    }
    return out;
}

std::vector<Leak> leaks(const Project& project, const Level& level, bool remedies) {
    if (!level.first_mark(MarkKind::start)) return {};
    if (level.view == View::from_the_side)
        return level.size.area() > kMostCellsReached ? std::vector<Leak>{}
                                                     : leaks(project, level, walk::Reach(project, level), remedies);
    if (level.size.area() > kMostCellsSoaked) return {};
    const TileTable tiles(project, level);
    const PropKinds kinds(project, level);
    return leaks(project, level, walk::soak(level, {tiles, kinds}, walk::start_of(level)));
}

Finding finding_of(const Level& level, const Leak& leak) {
    static constexpr std::pair<const char*, Severity> codes[] = {
        {"start-no-room", Severity::error}, {"rim-open", Severity::warning},   {"mark-unreached", Severity::warning},
        {"telling-walked", Severity::hint}, {"nobody-there", Severity::hint},  {"ledge-out-of-reach", Severity::hint},
        {"no-way-back", Severity::warning}, {"solid-unheard", Severity::hint}, {"looks-solid", Severity::hint},
        {"looks-usable", Severity::hint},   {"blocker-gap", Severity::hint}};
    const auto& [code, usual] = codes[static_cast<std::size_t>(leak.kind)];
    // What is only a note for the game may stand anywhere.
    const bool note = std::any_of(level.marks.begin(), level.marks.end(),
                                  [&](const Mark& m) { return m.id == leak.mark && m.kind == MarkKind::note; });
    const Severity severity = note ? Severity::hint : usual;
    return {code, severity, level.id, leak.layer, leak.cells.corner(), leak.what, leak.remedy};
}

const std::vector<Leak>& LeakChecker::of(const Project& project, const Level& level) {
    return known(project, level).leaks;
}

const std::vector<Finding>& LeakChecker::tries(const Project& project, const Level& level) {
    return known(project, level).tries;
}

LeakChecker::Known& LeakChecker::known(const Project& project, const Level& level) {
    const auto same = [&](const Known& k) {
        return k.level.layers == level.layers && k.level.here == level.here && k.level.size == level.size &&
               k.level.view == level.view && k.level.lattice == level.lattice && k.level.cell == level.cell &&
               k.level.plane == level.plane && k.level.walker == level.walker && k.level.marks == level.marks &&
               k.level.sides == level.sides && k.level.probes == level.probes && k.level.proofs == level.proofs &&
               k.areas == project.area_kinds && k.movers == project.movers && k.sheets == project.sheets &&
               k.materials == project.materials && k.kinds == project.prop_kinds;
    };
    const auto found =
        std::find_if(known_.begin(), known_.end(), [&](const Known& k) { return k.level.id == level.id; });
    if (found != known_.end() && same(*found)) return *found;
    Known now{level,
              project.sheets,
              project.materials,
              project.prop_kinds,
              project.area_kinds,
              project.movers,
              failed_tries(project, level),
              leaks(project, level)};
    if (found != known_.end()) {
        *found = std::move(now);
        return *found;
    }
    std::erase_if(known_, [&](const Known& k) { return !project.level(k.level.id); });
    known_.push_back(std::move(now));
    return known_.back();
}

} // namespace vic::findings
