#include "mass/merge.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <tuple>
#include <utility>

#include "base/parallel.hpp"
#include "mass/crowd.hpp"

namespace vic::mass {

namespace {

using outline::kUnit;
using outline::Trace;
using Kits = std::vector<std::shared_ptr<const scene::LoadedKit>>;

constexpr int kWorthwhile = 100; // pieces from which on a second thread is worth its while

Outlines none() {
    static const auto empty = std::make_shared<const std::vector<outline::Outline>>();
    return empty;
}

bool same(const Outlines& a, const Outlines& b) { return a == b || *a == *b; }

// Where something came or went.
using Changes = std::vector<Crowd::Span>;

// The cells in which heights from .. to changed, by the lattice of a trace.
std::vector<Box> changed_in(const Changes& changes, Point corner, int from, int to) {
    std::vector<Box> out;
    for (const Crowd::Span& c : changes)
        if (c.from < to && c.to > from)
            out.push_back({c.cells.x - corner.x, c.cells.y - corner.y, c.cells.w, c.cells.h});
    return out;
}

auto key_of(const scene::Placed& p) {
    return std::tuple(p.kit, p.piece, p.cells.y, p.cells.x, p.cells.h, p.cells.w, p.turn.code, p.storey, p.half,
                      p.free.has_value(), p.free.value_or(scene::Placing{}));
}

std::vector<int> lows_of(const scene::Storeys& storeys) {
    std::vector<int> out;
    for (int storey = 0; storey <= level::kMostStorey; ++storey) {
        const int low = static_cast<int>(std::lround(storeys.low(storey) * kUnit));
        out.push_back(storey == 0 ? 0 : std::max(low, out.back() + 1));
    }
    return out;
}

} // namespace

struct Merger::Kept {
    Kept(const Kits& with, std::vector<int> storeys) : kits(with), lows(storeys), crowd(with, std::move(storeys)) {}

    // Of those that stand now; who is new or gone is told by where that was.
    Changes renew(const std::vector<scene::Placed>& now);
    void renew_intervals(const Changes& changes);
    void renew_surfaces(const Changes& changes);

    // Something traced, with what came of it.
    struct Traced {
        Trace trace;
        Outlines outlines = none();

        void trace_anew(const Box& box, const outline::SolidSource& source) {
            trace = outline::trace(box.size(), source, outline::Grain::fine);
            outlines = none();
            bound(box, {box_of(box.size())});
        }
        void retrace(const Box& box, const outline::SolidSource& source, const std::vector<Box>& cells) {
            if (cells.empty()) return;
            if (const auto differ = outline::retrace(trace, source, cells); !differ.empty()) bound(box, differ);
        }

      private:
        void bound(const Box& box, const std::vector<Box>& differ) {
            outlines = std::make_shared<const std::vector<outline::Outline>>(
                outline::outlines(trace, *outlines, differ, {box.x * kUnit, box.y * kUnit}));
        }
    };

    Kits kits;
    std::vector<int> lows;
    Crowd crowd;
    std::vector<scene::Placed> placed;
    std::vector<Crowd::Number> numbers; // likewise
    Box box;                            // of the traces below

    std::vector<int> heights;
    std::vector<Traced> intervals; // from each height but the last to the next
    std::vector<Slab> slabs;

    // What of a slab's end another does not cover, by its height and whether it looks up.
    struct Surface {
        int own = 0, next = 0; // heights that tell what is filled on either side
        Traced traced;
    };
    std::map<std::pair<int, bool>, Surface> surfaces;
    std::vector<Level> levels;

  private:
    [[nodiscard]] bool large() const { return crowd.pieces() >= kWorthwhile; }
};

Changes Merger::Kept::renew(const std::vector<scene::Placed>& now) {
    // Most of it is the same, in the same order: first what begins and ends alike, then what only moved.
    const auto alike = [](const scene::Placed& a, const scene::Placed& b) { return key_of(a) == key_of(b); };
    const std::size_t shorter = std::min(now.size(), placed.size());
    std::size_t head = 0, tail = 0;
    while (head < shorter && alike(now[head], placed[head])) ++head;
    while (tail < shorter - head && alike(now[now.size() - 1 - tail], placed[placed.size() - 1 - tail])) ++tail;
    const auto between = [&](const std::vector<scene::Placed>& all) {
        std::vector<std::size_t> out;
        for (std::size_t i = head; i < all.size() - tail; ++i) out.push_back(i);
        std::sort(out.begin(), out.end(), [&](std::size_t a, std::size_t b) {
            return std::pair(key_of(all[a]), a) < std::pair(key_of(all[b]), b);
        });
        return out;
    };
    std::vector<Crowd::Number> now_numbers(now.size(), Crowd::kNobody);
    std::copy_n(numbers.begin(), head, now_numbers.begin());
    std::copy_n(numbers.end() - static_cast<std::ptrdiff_t>(tail), tail,
                now_numbers.end() - static_cast<std::ptrdiff_t>(tail));
    std::vector<std::size_t> gone, come;
    const std::vector<std::size_t> before = between(placed), after = between(now);
    for (std::size_t i = 0, k = 0; i < before.size() || k < after.size();) {
        if (k == after.size() || (i < before.size() && key_of(placed[before[i]]) < key_of(now[after[k]])))
            gone.push_back(before[i++]);
        else if (i == before.size() || key_of(now[after[k]]) < key_of(placed[before[i]]))
            come.push_back(after[k++]);
        else
            now_numbers[after[k++]] = numbers[before[i++]];
    }
    Changes changes;
    const auto note = [&](Crowd::Number number) {
        if (const Crowd::Span span = crowd.span(number); !span.cells.empty()) changes.push_back(span);
    };
    for (const std::size_t i : gone) {
        if (numbers[i] == Crowd::kNobody) continue;
        note(numbers[i]);
        crowd.remove(numbers[i]);
    }
    std::vector<const scene::Placed*> fresh;
    for (const std::size_t i : come) fresh.push_back(&now[i]);
    const std::vector<Crowd::Number> given = crowd.add(fresh);
    for (std::size_t i = 0; i < come.size(); ++i) {
        now_numbers[come[i]] = given[i];
        if (given[i] != Crowd::kNobody) note(given[i]);
    }
    placed = now;
    numbers = std::move(now_numbers);
    return changes;
}

// What is filled between each height and the next. Outside of what changed it is as it was at the same height.
void Merger::Kept::renew_intervals(const Changes& changes) {
    const bool anew = box != crowd.box() || 4 * changes.size() > static_cast<std::size_t>(crowd.pieces());
    if (anew) {
        box = crowd.box();
        heights.clear();
        intervals.clear();
        surfaces.clear();
    }
    const std::vector<int> was = std::exchange(heights, crowd.heights());
    std::vector<Traced> old = std::exchange(intervals, {});
    if (heights.empty()) return;
    intervals.resize(heights.size() - 1);
    parallel_pieces(0, static_cast<int>(intervals.size()), large(), [&](int, int first, int last) {
        for (int n = first; n < last; ++n) {
            const auto i = static_cast<std::size_t>(n);
            Traced& here = intervals[i];
            const outline::SolidSource source = crowd.filled(heights[i]);
            if (anew) {
                here.trace_anew(box, source);
                continue;
            }
            const auto above = std::upper_bound(was.begin(), was.end(), heights[i]);
            if (above != was.begin() && above != was.end())
                here = old[static_cast<std::size_t>(above - was.begin()) - 1];
            else
                here.trace = Trace(box.size(), outline::Grain::fine);
            here.retrace(box, source, changed_in(changes, box.corner(), heights[i], heights[i + 1]));
        }
    });
}

void Merger::Kept::renew_surfaces(const Changes& changes) {
    // Within a slab all heights are alike: its lowest tells what is filled.
    struct Bound {
        Level level;
        const Slab* slab = nullptr;
        const Slab* next = nullptr; // beyond the surface; null where nothing is
        Surface surface;
    };
    std::vector<Bound> bounds;
    const auto bound = [&](const Slab& slab, bool up, const Slab* next) {
        Bound& b = bounds.emplace_back();
        b.level.height = up ? slab.to : slab.from;
        b.level.up = up;
        b.level.storey = slab.storey;
        b.level.outlines = slab.outlines;
        b.slab = &slab;
        b.next = next;
    };
    for (std::size_t i = 0; i < slabs.size(); ++i) {
        const Slab& slab = slabs[i];
        const Slab* const below = i > 0 && slabs[i - 1].to == slab.from ? &slabs[i - 1] : nullptr;
        const Slab* const above = i + 1 < slabs.size() && slabs[i + 1].from == slab.to ? &slabs[i + 1] : nullptr;
        if (!below || !same(below->outlines, slab.outlines)) bound(slab, false, below);
        if (!above || !same(above->outlines, slab.outlines)) bound(slab, true, above);
    }
    parallel_pieces(0, static_cast<int>(bounds.size()), large(), [&](int, int first, int last) {
        for (int n = first; n < last; ++n) {
            Bound& b = bounds[static_cast<std::size_t>(n)];
            if (!b.next) continue;
            b.surface = {b.slab->from, b.next->from, {}};
            const outline::SolidSource source = crowd.filled(b.slab->from, b.next->from);
            const auto old = surfaces.find({b.level.height, b.level.up});
            if (old != surfaces.end() && old->second.own == b.surface.own && old->second.next == b.surface.next) {
                b.surface.traced = old->second.traced;
                b.surface.traced.retrace(box, source,
                                         changed_in(changes, box.corner(), std::min(b.slab->from, b.next->from) - 1,
                                                    std::max(b.slab->to, b.next->to) + 1));
            } else {
                b.surface.traced.trace_anew(box, source);
            }
            b.level.outlines = b.surface.traced.outlines;
        }
    });
    surfaces.clear();
    levels.clear();
    for (Bound& b : bounds) {
        if (!b.level.outlines->empty()) levels.push_back(b.level);
        if (b.next) surfaces[{b.level.height, b.level.up}] = std::move(b.surface);
    }
    std::stable_sort(levels.begin(), levels.end(), [](const Level& a, const Level& b) {
        return std::pair(a.height, !a.up) < std::pair(b.height, !b.up);
    });
}

Merger::Merger() = default;
Merger::~Merger() = default;

Mass Merger::update(const std::vector<scene::Placed>& placed, const Kits& kits, const scene::Storeys& storeys) {
    std::vector<int> lows = lows_of(storeys);
    if (!kept_ || kept_->kits != kits || kept_->lows != lows || kept_->crowd.worn())
        kept_ = std::make_unique<Kept>(kits, std::move(lows));
    Kept& kept = *kept_;
    const Changes changes = kept.renew(placed);
    kept.renew_intervals(changes);
    kept.slabs.clear();
    for (std::size_t i = 0; i < kept.intervals.size(); ++i) {
        const Outlines& outlines = kept.intervals[i].outlines;
        if (outlines->empty()) continue;
        const int from = kept.heights[i], storey = kept.crowd.storey_of(from);
        Slab* const below = kept.slabs.empty() ? nullptr : &kept.slabs.back();
        if (below && below->to == from && below->storey == storey && same(below->outlines, outlines))
            below->to = kept.heights[i + 1];
        else
            kept.slabs.push_back({from, kept.heights[i + 1], storey, outlines});
    }
    kept.renew_surfaces(changes);
    Mass out;
    out.slabs = kept.slabs;
    out.levels = kept.levels;
    for (const Crowd::Number number : kept.numbers)
        if (number != Crowd::kNobody)
            if (auto body = kept.crowd.body(number)) out.bodies.push_back(std::move(body));
    out.pieces = kept.crowd.pieces();
    out.open = kept.crowd.open();
    return out;
}

Mass merged(const std::vector<scene::Placed>& placed, const Kits& kits, const scene::Storeys& storeys) {
    return Merger().update(placed, kits, storeys);
}

std::int64_t volume2(const Mass& mass) {
    std::int64_t sum = 0;
    for (const Slab& slab : mass.slabs)
        for (const outline::Outline& o : *slab.outlines) sum += outline::area2(o) * (slab.to - slab.from);
    return sum;
}

} // namespace vic::mass
