#include "join/seams.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "sheet/isometric.hpp"

namespace vic::join {

using level::Cell;
using level::JoinKind;
using level::JoinSet;
using level::Variant;

namespace {

constexpr std::size_t kVariantsCompared = 2; // of a case
constexpr double kTurned = 0.03;             // what a turn counts: light and texture turn with the tile
constexpr float kWholly = 96;                // colour distance at which two pixels have nothing in common

using Pixel = std::array<float, 4>;

Pixel shown(Rgba c) {
    const float a = float(c.a) / 255;
    return {float(c.r) * a, float(c.g) * a, float(c.b) * a, float(c.a)};
}

float distance(const Pixel& p, const Pixel& q) {
    float sum = 0;
    for (std::size_t i = 0; i < 4; ++i) sum += (p[i] - q[i]) * (p[i] - q[i]);
    return std::sqrt(sum);
}

// The mean over the pixels of `a` of the distance to the nearest of the three they meet in `b`.
double across(const std::vector<Pixel>& a, const std::vector<Pixel>& b) {
    double sum = 0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        float best = distance(a[i], b[i]);
        if (i > 0) best = std::min(best, distance(a[i], b[i - 1]));
        if (i + 1 < b.size()) best = std::min(best, distance(a[i], b[i + 1]));
        sum += double(std::min(best, kWholly));
    }
    return sum / (double(kWholly) * double(a.size()));
}

// What of a case is to be seen on one side: whether it joins there, and its two corners.
int side_state(Mask mask, int side) {
    const auto bit = [&](int i) { return (mask >> (i & 7)) & 1; };
    return bit(2 * side) | bit(2 * side + 1) << 1 | bit(2 * side - 1) << 2;
}

} // namespace

Borders borders_of(const Image& laid) {
    Borders out;
    const int w = laid.width(), h = laid.height();
    const auto line = [&](int side, int depth, std::vector<Pixel>& to) {
        depth = std::min(depth, (side % 2 ? w : h) - 1);
        for (int i = 0; i < (side % 2 ? h : w); ++i) {
            const Point p = side == 0   ? Point{i, depth}
                            : side == 1 ? Point{w - 1 - depth, i}
                            : side == 2 ? Point{i, h - 1 - depth}
                                        : Point{depth, i};
            to.push_back(shown(laid.at(p.x, p.y)));
        }
    };
    for (int side = 0; side < 4; ++side) {
        line(side, 0, out.side[static_cast<std::size_t>(side)].edge);
        line(side, 1, out.side[static_cast<std::size_t>(side)].inner);
    }
    return out;
}

double seam_error(const Borders& a, const Borders& b, int side) {
    const auto& mine = a.side[static_cast<std::size_t>(side)];
    const auto& other = b.side[static_cast<std::size_t>((side + 2) & 3)];
    if (mine.edge.size() != other.edge.size() || mine.edge.empty()) return 1;
    const double seam = std::max(across(mine.edge, other.edge), across(other.edge, mine.edge));
    const double within = std::max(across(mine.edge, mine.inner), across(other.edge, other.inner));
    return std::clamp(seam - within, 0.0, 1.0);
}

double unlike_side(const Borders& a, const Borders& b, int side) {
    const auto& mine = a.side[static_cast<std::size_t>(side)];
    const auto& other = b.side[static_cast<std::size_t>(side)];
    if (mine.edge.size() != other.edge.size() || mine.edge.empty()) return 1;
    return std::max(across(mine.edge, other.edge), across(other.edge, mine.edge));
}

Image laid_art(const Image& art, Turn turn) {
    const bool lies = turn.quarters() % 2 == 1;
    const int w = art.width(), h = art.height();
    Image out(lies ? Size{h, w} : Size{w, h});
    for (int y = 0; y < out.height(); ++y)
        for (int x = 0; x < out.width(); ++x) {
            // Back through the quarter turns, each from the picture one turn earlier.
            Point p{x, y};
            Size now = out.size();
            for (int i = 0; i < turn.quarters(); ++i) {
                p = {p.y, now.w - 1 - p.x};
                now = {now.h, now.w};
            }
            if (turn.mirrored()) p.x = w - 1 - p.x;
            out.set(x, y, art.at(p.x, p.y));
        }
    return out;
}

const Borders* Seams::borders(Cell cell) {
    const auto found = known_.find(cell.bits & 0x07FFFFFFU);
    if (found != known_.end()) return found->second.get();
    const level::TileRef ref = table_.find(cell.tile());
    std::unique_ptr<Borders> made;
    if (ref.tile && ref.sheet->image && box_of(ref.sheet->image->size()).contains(ref.tile->box))
        made = std::make_unique<Borders>(
            borders_of(laid_art(sheet::ground_art(*ref.sheet, *ref.tile, isometric(*ref.sheet)), cell.turn())));
    return known_.emplace(cell.bits & 0x07FFFFFFU, std::move(made)).first->second.get();
}

bool Seams::isometric(const level::Sheet& sheet) {
    const auto [known, fresh] = isometric_.try_emplace(sheet.id, false);
    if (fresh) known->second = sheet::is_isometric(sheet);
    return known->second;
}

double Seams::error(Cell a, Cell b, int side) {
    const Borders* of_a = borders(a);
    const Borders* of_b = borders(b);
    return of_a && of_b ? seam_error(*of_a, *of_b, side) : 0;
}

bool can_meet(JoinKind kind, Mask a, Mask b, int side) {
    if (kind == JoinKind::plain) return true;
    // Two cells of the material side by side and the ten around them, in every way there is.
    using Pairs = std::set<std::pair<Mask, Mask>>;
    static const auto all = [] {
        std::array<std::array<Pairs, 2>, 4> out;
        for (unsigned k = 1; k < 4; ++k)
            for (unsigned s = 0; s < 2; ++s)
                for (unsigned cells = 0; cells < 4096; ++cells) {
                    const int w = s == 0 ? 4 : 3; // the window: 4 × 3 for east, 3 × 4 for south
                    const auto filled = [&](int x, int y) { return (cells >> (y * w + x)) & 1U; };
                    const Point second = s == 0 ? Point{2, 1} : Point{1, 2};
                    if (!filled(1, 1) || !filled(second.x, second.y)) continue;
                    const auto mask = [&](Point p) {
                        unsigned m = 0;
                        for (unsigned i = 0; i < 8; ++i) m |= filled(p.x + kNeighbour[i].x, p.y + kNeighbour[i].y) << i;
                        return canonical(static_cast<Mask>(m), static_cast<JoinKind>(k));
                    };
                    out[k][s].insert({mask({1, 1}), mask(second)});
                }
        return out;
    }();
    return all[static_cast<std::size_t>(kind)][side == 1 ? 0 : 1].contains({a, b});
}

SeamReport seam_report(const level::Project& project, const JoinSet& set, double from) {
    SeamReport out;
    Seams seams(project);
    std::vector<std::pair<Mask, std::vector<Variant>>> all;
    for (const Mask mask : cases(set.kind))
        if (auto variants = serving(set, mask); !variants.empty()) all.emplace_back(mask, std::move(variants));
    double sum = 0;
    for (const auto& [of_a, list_a] : all)
        for (const auto& [of_b, list_b] : all)
            for (const int side : {1, 2}) {
                if (!can_meet(set.kind, of_a, of_b, side)) continue;
                for (const Variant& a : list_a)
                    for (const Variant& b : list_b) {
                        if (a.weight <= 0 || b.weight <= 0) continue;
                        const double e = seams.error(Cell(a.tile, a.turn, false), Cell(b.tile, b.turn, false), side);
                        ++out.pairs;
                        sum += e;
                        out.worst = std::max(out.worst, e);
                        if (e >= from) out.bad.push_back({a, b, of_a, of_b, side, e});
                    }
            }
    out.mean = out.pairs == 0 ? 0 : sum / double(out.pairs);
    std::stable_sort(out.bad.begin(), out.bad.end(),
                     [](const BadSeam& p, const BadSeam& q) { return p.error > q.error; });
    if (out.bad.size() > 64) out.bad.resize(64);
    return out;
}

std::vector<Candidate> candidates(const level::Project& project, const JoinSet& set, Mask mask,
                                  const std::vector<level::SheetId>& sheets, std::uint8_t turns,
                                  const std::array<Cell, 4>& around, std::size_t most) {
    Seams seams(project);
    // How the set's tiles look on a side, and what lies across from it: by side and state.
    std::array<std::map<int, std::vector<Cell>>, 4> like;
    std::array<std::vector<Cell>, 4> opposite;
    for (const auto& [of, variants] : set.cases) {
        for (std::size_t i = 0; i < std::min(variants.size(), kVariantsCompared); ++i) {
            const Variant& v = variants[i];
            const Cell cell(v.tile, v.turn, false);
            for (int side = 0; side < 4; ++side) {
                if (of != mask) like[static_cast<std::size_t>(side)][side_state(of, side)].push_back(cell);
                const bool met = side == 1 || side == 2 ? can_meet(set.kind, mask, of, side)
                                                        : can_meet(set.kind, of, mask, (side + 2) & 3);
                if (met) opposite[static_cast<std::size_t>(side)].push_back(cell);
            }
        }
    }
    std::vector<Candidate> out;
    for (const level::SheetId id : sheets) {
        const level::Sheet* sheet = project.sheet(id);
        if (!sheet || !sheet->image) continue;
        for (const level::Tile& tile : sheet->tiles) {
            if (tile.blank || tile.is_block()) continue;
            for (std::uint8_t code = 0; code < 8; ++code) {
                if (!((turns >> code) & (tile.turns >> code) & 1)) continue;
                const Cell cell(tile.id, {code}, false);
                const Borders* mine = seams.borders(cell);
                if (!mine) continue;
                double sum = 0;
                double worst = 0;
                int judged = 0;
                const auto judge = [&](double e) {
                    sum += e;
                    worst = std::max(worst, e);
                    ++judged;
                };
                for (int side = 0; side < 4; ++side) {
                    const auto s = static_cast<std::size_t>(side);
                    if (!around[s].empty()) judge(seams.error(cell, around[s], side));
                    double best = 2;
                    // Of those across, the best: the set may have none that is right.
                    if (around[s].empty())
                        for (const Cell other : opposite[s]) best = std::min(best, seams.error(cell, other, side));
                    if (best < 2) judge(best);
                    best = 2;
                    const auto found = like[s].find(side_state(mask, side));
                    if (found != like[s].end())
                        for (const Cell other : found->second)
                            if (const Borders* theirs = seams.borders(other))
                                best = std::min(best, unlike_side(*mine, *theirs, side));
                    if (best < 2) judge(best);
                }
                if (judged == 0) continue;
                // One side that is wrong spoils the tile, however well the others fit.
                const double error = 0.5 * sum / judged + 0.5 * worst + (code != 0 ? kTurned : 0.0);
                const double fit = 1 - std::min(1.0, error);
                out.push_back({{tile.id, 100, {code}}, fit});
            }
        }
    }
    std::stable_sort(out.begin(), out.end(), [](const Candidate& a, const Candidate& b) { return a.fit > b.fit; });
    // Of one tile in several turns that fit equally only the first.
    std::vector<Candidate> distinct;
    std::set<std::pair<level::TileId, int>> seen_fits;
    for (const Candidate& c : out) {
        if (!seen_fits.insert({c.variant.tile, static_cast<int>(c.fit * 1000)}).second) continue;
        distinct.push_back(c);
        if (distinct.size() == most) break;
    }
    return distinct;
}

} // namespace vic::join
