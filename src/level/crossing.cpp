#include "level/crossing.hpp"

#include <algorithm>
#include <limits>
#include <map>
#include <optional>
#include <tuple>

#include "level/standing.hpp"

namespace vic::level {

namespace {

constexpr double kHair = 0.5; // pixels that feet may reach into each other

// What stands there, by a line from the back to the front.
struct Standing {
    PropId prop = 0;
    LayerId layer = 0;
    Box seen; // pixels of the level
    Spots foot;
    double line = 0; // by which it is drawn
};

// The span of an outline without dents on an upright line, y from .. to.
std::optional<std::pair<double, double>> span_at(const Spots& spots, double x) {
    double least = std::numeric_limits<double>::max(), most = std::numeric_limits<double>::lowest();
    for (std::size_t i = 0; i < spots.size(); ++i) {
        const Spot &a = spots[i], &b = spots[(i + 1) % spots.size()];
        if ((a.x > x) == (b.x > x) && a.x != x) continue;
        const double y = a.x == b.x ? a.y : a.y + (x - a.x) / (b.x - a.x) * (b.y - a.y);
        least = std::min(least, y);
        most = std::max(most, y);
    }
    return least <= most ? std::optional(std::pair(least, most)) : std::nullopt;
}

std::pair<double, double> reach(const Spots& spots, bool down) {
    double least = std::numeric_limits<double>::max(), most = std::numeric_limits<double>::lowest();
    for (const Spot& s : spots) {
        least = std::min(least, down ? s.y : s.x);
        most = std::max(most, down ? s.y : s.x);
    }
    return {least, most};
}

enum class Order { unknown, apart, one_behind, other_behind, crossing };

// By their feet alone. In both kinds of levels what is further down on screen is further to the front.
Order order_of(const Spots& one, const Spots& other) {
    const auto [a0, a1] = reach(one, false);
    const auto [b0, b1] = reach(other, false);
    const double from = std::max(a0, b0), to = std::min(a1, b1);
    if (to - from < kHair) return Order::apart;
    if (overlap(one, other)) {
        const auto [c0, c1] = reach(one, true);
        const auto [d0, d1] = reach(other, true);
        const bool around = (c0 < d0 - kHair && c1 > d1 + kHair) || (d0 < c0 - kHair && d1 > c1 + kHair);
        return around ? Order::crossing : Order::unknown;
    }
    const double x = (from + to) / 2;
    const auto one_there = span_at(one, x), other_there = span_at(other, x);
    if (!one_there || !other_there) return Order::unknown;
    if (one_there->second <= other_there->first + kHair) return Order::one_behind;
    if (other_there->second <= one_there->first + kHair) return Order::other_behind;
    return Order::unknown;
}

void collect(const PropKinds& kinds, const Level& level, const Layer& layer, std::vector<Standing>& out) {
    const Lattice lattice = level.geometry();
    const Point shift{layer.shift.x * level.cell.w / 2, layer.shift.y * level.cell.h / 2};
    for (const Prop& prop : layer.props())
        kinds.each_piece(prop, [&](const Piece& piece) {
            if (piece.kind->flat || piece.kind->foot.empty()) return;
            Standing s{prop.id, layer.id, piece.box().moved(shift), foot_of(piece, lattice), 0};
            for (Spot& spot : s.foot) spot = {spot.x + shift.x, spot.y + shift.y};
            const Point at = piece.sorted_at() + shift;
            const CellPlace place = lattice.place_of(at.x + 0.5, at.y + 1);
            s.line = lattice.square() ? at.y + 1.0 : place.x + place.y;
            out.push_back(std::move(s));
        });
}

} // namespace

std::vector<Crossing> crossings(const Project& project, const Level& level, std::size_t most) {
    std::vector<Crossing> out;
    const PropKinds kinds(project);
    for (std::size_t first = 0; first < level.layers.size();) {
        const std::size_t end = run_by_feet(level, first);
        if (end == first) {
            ++first;
            continue;
        }
        std::vector<Standing> all;
        for (; first < end; ++first)
            if (level.layers[first]->shown && level.layers[first]->has_props())
                collect(kinds, level, *level.layers[first], all);
        // Those whose pictures may overlap: in the order of their left sides, as long as one is not left behind.
        std::sort(all.begin(), all.end(), [](const Standing& a, const Standing& b) {
            return std::tuple(a.seen.x, a.seen.y, a.prop) < std::tuple(b.seen.x, b.seen.y, b.prop);
        });
        std::vector<std::size_t> open;
        for (std::size_t i = 0; i < all.size(); ++i) {
            std::erase_if(open, [&](std::size_t k) { return all[k].seen.right() <= all[i].seen.x; });
            for (const std::size_t k : open) {
                const Standing &a = all[k], &b = all[i];
                if (a.prop == b.prop || intersection(a.seen, b.seen).empty()) continue;
                const Order order = order_of(a.foot, b.foot);
                const bool wrong = order == Order::crossing ||
                                   (order == Order::one_behind && a.line > b.line + kHair) ||
                                   (order == Order::other_behind && b.line > a.line + kHair);
                if (!wrong) continue;
                const Box both = intersection(a.seen, b.seen);
                out.push_back({a.prop, b.prop, a.layer, {both.x + both.w / 2, both.y + both.h / 2}});
            }
            open.push_back(i);
        }
    }
    std::sort(out.begin(), out.end(), [](const Crossing& a, const Crossing& b) {
        return std::tuple(a.at.y, a.at.x, a.one, a.other) < std::tuple(b.at.y, b.at.x, b.one, b.other);
    });
    if (out.size() > most) out.resize(most);
    return out;
}

} // namespace vic::level
