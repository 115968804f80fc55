#include "join/compose.hpp"

#include <algorithm>
#include <bit>
#include <bitset>
#include <cmath>
#include <map>
#include <optional>

#include "join/seams.hpp"
#include "sheet/cut.hpp"

namespace vic::join {

using level::Composed;
using level::JoinKind;
using level::Quarter;

namespace {

constexpr std::size_t kMostSources = 10; // looked at for one quarter of one case

// The sides and the corner that a quarter touches, as bits of masks.
struct Touch {
    int vertical, horizontal, corner;
};
constexpr Touch kTouch[4] = {{0, 6, 7}, {0, 2, 1}, {4, 2, 3}, {4, 6, 5}};

int states(JoinKind kind) { return kind == JoinKind::full ? 5 : kind == JoinKind::edges ? 4 : 8; }

struct Source {
    Quarter quarter;
    Mask mask; // as it is laid
};

// Half the line of pixels along which two quarters of a picture meet, on both sides of it.
double middle_error(const Image& a, const Image& b, int between) {
    // between: 0 north-west | north-east, 1 north-east / south-east, 2 south-west | south-east, 3 north-west /
    // south-west
    const int w = a.width(), h = a.height();
    const bool upright = between % 2 == 0; // the line runs up and down
    const int length = upright ? (between == 0 ? h / 2 : h - h / 2) : (between == 1 ? w - w / 2 : w / 2);
    const int from = between == 2 ? h / 2 : between == 1 ? w / 2 : 0;
    const int line = upright ? w / 2 : h / 2;
    const auto at = [&](const Image& i, int along, int side) {
        return upright ? i.at(line - 1 + side, along) : i.at(along, line - 1 + side);
    };
    const auto apart = [](Rgba p, Rgba q) {
        const double pa = p.a / 255.0, qa = q.a / 255.0;
        const double dr = p.r * pa - q.r * qa, dg = p.g * pa - q.g * qa, db = p.b * pa - q.b * qa;
        const double da = double(p.a) - q.a;
        return std::min(std::sqrt(dr * dr + dg * dg + db * db + da * da), 96.0) / 96.0;
    };
    if (length == 0 || line == 0) return 0;
    double seam = 0, own = 0;
    for (int i = from; i < from + length; ++i) {
        seam += apart(at(a, i, 0), at(b, i, 1));
        own += std::max(apart(at(a, i, 0), at(a, i, 1)), apart(at(b, i, 0), at(b, i, 1)));
    }
    return std::max(0.0, seam - own) / length;
}

// Smallest set of candidates that covers all of `need`; exact, by deepening.
using Bits = std::bitset<64>;
bool cover(const std::vector<Bits>& sets, const Bits& need, int depth, std::vector<int>& chosen) {
    if (need.none()) return true;
    if (depth == 0) return false;
    std::size_t most = 0;
    for (const Bits& s : sets) most = std::max(most, (s & need).count());
    if (most == 0 || need.count() > most * static_cast<std::size_t>(depth)) return false;
    // The element that the fewest sets have has to be covered by one of them.
    int rarest = -1;
    int fewest = 1 << 30;
    for (std::size_t i = 0; i < need.size(); ++i) {
        if (!need[i]) continue;
        int n = 0;
        for (const Bits& s : sets) n += s[i];
        if (n < fewest) {
            fewest = n;
            rarest = static_cast<int>(i);
        }
    }
    std::vector<std::pair<int, int>> order;
    for (std::size_t i = 0; i < sets.size(); ++i)
        if (sets[i][static_cast<std::size_t>(rarest)])
            order.emplace_back(-static_cast<int>((sets[i] & need).count()), static_cast<int>(i));
    std::sort(order.begin(), order.end());
    for (const auto& [gain, i] : order) {
        chosen.push_back(i);
        if (cover(sets, need & ~sets[static_cast<std::size_t>(i)], depth - 1, chosen)) return true;
        chosen.pop_back();
    }
    return false;
}

} // namespace

int quarter_state(JoinKind kind, Mask mask, int quarter) {
    const Touch t = kTouch[quarter];
    const auto bit = [&](int i) { return (mask >> i) & 1; };
    if (kind == JoinKind::corners) {
        // Its own corner and the two next to it: a rim runs along the middle lines of the tile.
        return bit(t.corner) | bit((t.corner + 2) & 7) << 1 | bit((t.corner + 6) & 7) << 2;
    }
    const int sides = bit(t.vertical) | bit(t.horizontal) << 1;
    return kind == JoinKind::full && sides == 3 && bit(t.corner) ? 4 : sides;
}

std::vector<Made> composable(const level::Project& project, const level::JoinSet& set, std::uint8_t turns) {
    std::vector<Made> out;
    if (set.kind == JoinKind::plain) return out;
    const level::TileTable table(project);
    std::map<level::TileId, Image> arts;
    std::optional<Size> size;
    // [quarter][state]: what could be taken.
    std::vector<std::vector<Source>> sources(static_cast<std::size_t>(4 * states(set.kind)));
    std::map<std::pair<level::TileId, int>, Image> laid;
    for (auto it = set.cases.rbegin(); it != set.cases.rend(); ++it) { // the fullest first: it gives the size
        for (const level::Variant& v : it->second) {
            const level::TileRef ref = table.find(v.tile);
            if (v.weight <= 0 || !ref.tile || !ref.sheet->image) continue;
            if (!arts.contains(v.tile)) arts[v.tile] = sheet::tile_art(*ref.sheet, *ref.tile);
            const Image& art = arts[v.tile];
            if (!size) size = art.size();
            for (std::uint8_t code = 0; code < 8; ++code) {
                if (!((turns >> code) & 1)) continue;
                const Turn turn = after(v.turn, {code});
                Image picture = laid_art(art, turn);
                if (picture.size() != *size) continue;
                laid.emplace(std::pair{v.tile, int(turn.code)}, std::move(picture));
                const Mask mask = canonical(turned(it->first, {code}), set.kind);
                for (int q = 0; q < 4; ++q)
                    sources[static_cast<std::size_t>(q * states(set.kind) + quarter_state(set.kind, mask, q))]
                        .push_back({{v.tile, turn}, mask});
            }
            break; // the other variants of the case would only add noise
        }
    }
    if (!size) return out;
    const auto picture = [&](const Source& s) -> const Image& {
        return laid.at({s.quarter.from, int(s.quarter.turn.code)});
    };
    for (const Mask want : cases(set.kind)) {
        if (!serving(set, want).empty()) continue;
        std::array<std::vector<Source>, 4> list;
        bool all = true;
        for (int q = 0; q < 4; ++q) {
            auto& l = list[static_cast<std::size_t>(q)];
            l = sources[static_cast<std::size_t>(q * states(set.kind) + quarter_state(set.kind, want, q))];
            // Tiles that are most like the wanted one lend more than one quarter.
            std::stable_sort(l.begin(), l.end(), [&](const Source& a, const Source& b) {
                return std::popcount(static_cast<unsigned>(a.mask ^ want)) <
                       std::popcount(static_cast<unsigned>(b.mask ^ want));
            });
            if (l.size() > kMostSources) l.resize(kMostSources);
            all = all && !l.empty();
        }
        if (!all) continue;
        // The four lines, each between two lists.
        const int pairs[4][2] = {{0, 1}, {1, 2}, {3, 2}, {0, 3}};
        std::array<std::vector<double>, 4> cost;
        for (std::size_t k = 0; k < 4; ++k)
            for (const Source& a : list[static_cast<std::size_t>(pairs[k][0])])
                for (const Source& b : list[static_cast<std::size_t>(pairs[k][1])])
                    cost[k].push_back(
                        a.quarter == b.quarter ? 0 : 0.01 + middle_error(picture(a), picture(b), static_cast<int>(k)));
        const auto of = [&](std::size_t k, std::size_t a, std::size_t b) {
            return cost[k][a * list[static_cast<std::size_t>(pairs[k][1])].size() + b];
        };
        double best = 1e9;
        std::array<std::size_t, 4> choice{};
        for (std::size_t a = 0; a < list[0].size(); ++a)
            for (std::size_t b = 0; b < list[1].size(); ++b)
                for (std::size_t c = 0; c < list[2].size(); ++c) {
                    const double so_far = of(0, a, b) + of(1, b, c);
                    if (so_far >= best) continue;
                    for (std::size_t d = 0; d < list[3].size(); ++d) {
                        const double sum = so_far + of(2, d, c) + of(3, a, d);
                        if (sum >= best) continue;
                        best = sum;
                        choice = {a, b, c, d};
                    }
                }
        Made made;
        made.mask = want;
        std::set<level::TileId> from;
        for (std::size_t q = 0; q < 4; ++q) {
            made.of[q] = list[q][choice[q]].quarter;
            from.insert(made.of[q].from);
        }
        made.sources = static_cast<int>(from.size());
        for (std::size_t k = 0; k < 4; ++k)
            made.error = std::max(made.error, std::max(0.0, of(k, choice[static_cast<std::size_t>(pairs[k][0])],
                                                               choice[static_cast<std::size_t>(pairs[k][1])]) -
                                                                0.01));
        out.push_back(made);
    }
    return out;
}

Image composed_art(const level::TileTable& tiles, const Composed& of, Size tile) {
    Image out(tile);
    for (int q = 0; q < 4; ++q) {
        const Quarter& quarter = of[static_cast<std::size_t>(q)];
        const level::TileRef ref = tiles.find(quarter.from);
        if (!ref.tile || !ref.sheet->image || !box_of(ref.sheet->image->size()).contains(ref.tile->box)) return {};
        const Image laid = laid_art(sheet::tile_art(*ref.sheet, *ref.tile), quarter.turn);
        if (laid.size() != tile) return {};
        const bool east = q == 1 || q == 2;
        const bool south = q >= 2;
        for (int y = south ? tile.h / 2 : 0; y < (south ? tile.h : tile.h / 2); ++y)
            for (int x = east ? tile.w / 2 : 0; x < (east ? tile.w : tile.w / 2); ++x) out.set(x, y, laid.at(x, y));
    }
    return out;
}

std::vector<Mask> least_to_draw(JoinKind kind, const std::set<Mask>& have, std::uint8_t turns, bool composing) {
    if (kind == JoinKind::plain) return have.empty() ? std::vector<Mask>{255} : std::vector<Mask>{};
    const auto& all = cases(kind);
    const auto index = [&](Mask m) {
        return static_cast<std::size_t>(std::lower_bound(all.begin(), all.end(), m) - all.begin());
    };
    // What a drawn case is good for: cases by turning, or kinds of quarters.
    const auto gives = [&](Mask mask) {
        Bits out;
        for (std::uint8_t code = 0; code < 8; ++code) {
            if (!((turns >> code) & 1)) continue;
            const Mask as_laid = canonical(turned(mask, {code}), kind);
            if (!composing) {
                out.set(index(as_laid));
                continue;
            }
            for (int q = 0; q < 4; ++q)
                out.set(static_cast<std::size_t>(q * states(kind) + quarter_state(kind, as_laid, q)));
        }
        return out;
    };
    Bits need;
    std::vector<Bits> sets;
    for (const Mask m : all) {
        sets.push_back(gives(m));
        need |= sets.back();
    }
    for (const Mask m : have) need &= ~gives(canonical(m, kind));
    std::vector<Mask> out;
    if (!composing) {
        // Cases that are turns of each other belong together: one of each is needed.
        for (std::size_t i = all.size(); i-- > 0;)
            if (need[i]) {
                out.push_back(all[i]);
                need &= ~sets[i];
            }
        return out;
    }
    std::vector<int> chosen;
    for (int depth = 0;; ++depth) {
        chosen.clear();
        if (cover(sets, need, depth, chosen)) break;
    }
    for (const int i : chosen) out.push_back(all[static_cast<std::size_t>(i)]);
    return out;
}

} // namespace vic::join
