// Reach after a change: what the change cannot have touched is taken over.
#include <algorithm>
#include <span>
#include <utility>

#include "level/standing.hpp"
#include "outline/areas.hpp"
#include "walk/reach_inside.hpp"

namespace vic::walk {

namespace {

// Words (x) and rows (y) in which two rasters differ, in rows y0 .. y1 - 1; `was` has only those rows.
Box difference(const Bits& was, const Bits& is, int y0, int y1) {
    Box out;
    for (int y = y0; y < y1; ++y) {
        const std::uint64_t *const a = was.row(y - y0), *const b = is.row(y);
        int lo = -1, hi = 0;
        for (std::size_t i = 0; i < is.words; ++i)
            if (a[i] != b[i]) {
                if (lo < 0) lo = static_cast<int>(i);
                hi = static_cast<int>(i) + 1;
            }
        if (lo >= 0) out = united(out, {lo, y, hi - lo, 1});
    }
    return out;
}

Bits copied(const Bits& from, int y0, int y1) {
    Bits out({from.size.w, y1 - y0});
    for (int y = y0; y < y1; ++y) std::copy_n(from.row(y), from.words, out.row(y - y0));
    return out;
}

} // namespace

void Reach::Inside::take_over(Before before, const Box& changed) {
    const auto runs = [](const Runs& of, const std::vector<std::pair<int, std::size_t>>& which, std::size_t k) {
        return std::pair(of.all[which[k].second].from, of.all[which[k].second].to);
    };
    const auto old_runs = [&](std::size_t i) -> const Runs& {
        return before.ledges[i].floats ? *before.floats : *before.held;
    };
    const auto new_runs = [&](std::size_t i) -> const Runs& { return ledges[i].floats ? *floats : *held; };
    // What floats is told apart by the topmost bit.
    const auto key = [](bool in_air, int y, int x) {
        return (std::uint64_t{in_air} << 63) | (std::uint64_t{static_cast<std::uint32_t>(y)} << 32) |
               static_cast<std::uint32_t>(x);
    };
    // Both are in the order of their first places.
    const auto old_key = [&](std::size_t i) {
        return key(before.ledges[i].floats, before.runs_of[i].front().first,
                   runs(old_runs(i), before.runs_of[i], 0).first);
    };
    std::size_t next = 0;
    std::vector<std::size_t> was(ledges.size(), kNoLedge), is(before.runs_of.size(), kNoLedge);
    for (std::size_t i = 0; i < runs_of.size(); ++i) {
        const auto& mine = runs_of[i];
        const std::uint64_t first = key(ledges[i].floats, mine.front().first, runs(new_runs(i), mine, 0).first);
        while (next < before.runs_of.size() && old_key(next) < first) ++next;
        if (next == before.runs_of.size() || old_key(next) != first) continue;
        const auto& theirs = before.runs_of[next];
        bool same = mine.size() == theirs.size();
        for (std::size_t k = 0; same && k < mine.size(); ++k)
            same = mine[k].first == theirs[k].first &&
                   runs(new_runs(i), mine, k) == runs(old_runs(next), theirs, k);
        if (!same) continue;
        was[i] = next;
        is[next] = i;
    }
    std::size_t alike = 0; // so many from the first have kept their numbers
    while (alike < is.size() && is[alike] == alike) ++alike;
    for (std::size_t i = 0; i < ledges.size(); ++i) {
        const std::size_t old = was[i];
        if (old == kNoLedge || !before.played[old] || !intersection(before.looked_at[old], changed).empty()) continue;
        std::vector<std::size_t>& to = before.ledges[old].to;
        // Of one that is another now, or in parts, it is not known on which of them he lands.
        bool known = true, sorted = true;
        const auto moved = std::lower_bound(to.begin(), to.end(), alike);
        for (std::size_t last = 0; std::size_t & k : std::span(moved, to.end())) {
            known = known && is[k] != kNoLedge;
            k = is[k];
            sorted = sorted && last <= k;
            last = k;
        }
        if (!known) continue;
        if (!sorted) std::sort(to.begin(), to.end());
        ledges[i].to = std::move(to);
        played[i] = 1;
        looked_at[i] = before.looked_at[old];
    }
}

bool Reach::follow(const level::Project& project, const level::Level& level, const std::vector<Box>& changed) {
    Inside& in = *in_;
    if (level.view != level::View::from_the_side || in.places.size.empty() || in.cells != level.size) return false;
    const level::TileTable tiles(project, level);
    const level::PropKinds kinds(project, level);
    in.samples.redraw(level, {tiles, kinds}, changed);
    for (Inside::Area& area : in.areas)
        for (const auto& [top, bottom] : Samples::rows_of(level.size, changed)) {
            const Box rows{0, top, level.size.w, bottom - top};
            area.there.redraw(outline::where_told(project, level, area.kind, rows), {tiles}, {rows});
        }
    if (!in.ways_out.empty()) in.find_exits(project, level);
    int y0 = in.places.size.h, y1 = 0;
    for (const auto& [top, bottom] : Samples::rows_of(level.size, changed)) {
        y0 = std::min(y0, in.samples.margin + top * in.samples.grain - in.samples.foot.h - 1);
        y1 = std::max(y1, in.samples.margin + bottom * in.samples.grain + 1);
    }
    y0 = std::max(0, y0 - 1);
    y1 = std::min(in.places.size.h, y1);
    if (y0 >= y1) return true;
    const Bits* const rasters[] = {&in.places.room,   &in.places.held, &in.places.drops,
                                   &in.places.floats, &in.swims,       &in.climbs};
    std::vector<Bits> was;
    for (const Bits* raster : rasters) was.push_back(copied(*raster, y0, y1));
    if (!in.areas.empty()) in.take_areas(y0, y1);
    in.find_places(std::min(in.places.size.h - 1, y0 + 1), y1);
    Box differs;
    for (std::size_t i = 0; i < was.size(); ++i) differs = united(differs, difference(was[i], *rasters[i], y0, y1));
    if (differs.empty() && in.ways_out.empty()) return true;
    for (const auto& flights : in.flights)
        if (flights) flights->follow(y0, y1);
    Inside::Before before{std::move(in.ledges),    std::move(in.runs_of), std::move(in.played),
                          std::move(in.looked_at), std::move(in.held),    std::move(in.floats)};
    in.find_ledges();
    in.take_over(std::move(before), differs);
    in.measure();
    in.search(level);
    in.leave_rim();
    return true;
}

} // namespace vic::walk
