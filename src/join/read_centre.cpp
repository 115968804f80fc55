#include "join/read_centre.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <map>
#include <numeric>
#include <set>
#include <unordered_map>
#include <unordered_set>
#include <utility>
#include <vector>

#include "join/seams.hpp"
#include "join/side_kinds.hpp"

namespace vic::join {

namespace {

constexpr double kForeign = 40.0;          // colour distance from which on a pixel is wholly unlike the material
constexpr double kFits = 0.15;             // error up to which a seam, or a likeness, counts as evidence
constexpr std::size_t kMostColours = 2048; // of a material that are told apart
constexpr double kDoubtful = 0.3;          // confidence below which a reading is listed as doubtful

struct Colour {
    double r = 0, g = 0, b = 0, a = 0;
};

Colour seen(Rgba c) { return {c.r * c.a / 255.0, c.g * c.a / 255.0, c.b * c.a / 255.0, double(c.a)}; }

double distance(const Colour& p, const Colour& q) {
    return std::sqrt((p.r - q.r) * (p.r - q.r) + (p.g - q.g) * (p.g - q.g) + (p.b - q.b) * (p.b - q.b) +
                     (p.a - q.a) * (p.a - q.a));
}

Colour mean(const Image& image, const Box& box) {
    Colour sum;
    for (int y = box.y; y < box.bottom(); ++y) {
        for (int x = box.x; x < box.right(); ++x) {
            const Colour c = seen(image.at(x, y));
            sum = {sum.r + c.r, sum.g + c.g, sum.b + c.b, sum.a + c.a};
        }
    }
    const double n = double(box.w) * box.h;
    return {sum.r / n, sum.g / n, sum.b / n, sum.a / n};
}

// Bits as in masks: even ones the strips of the sides, odd ones the patches of the corners.
Box border_part(Size size, int bit) {
    const int qx = size.w / 4;
    const int qy = size.h / 4;
    const int px = std::max(1, size.w / 8);
    const int py = std::max(1, size.h / 8);
    switch (bit) {
        case 0:
            return {qx, 0, size.w - 2 * qx, py};
        case 1:
            return {size.w - px, 0, px, py};
        case 2:
            return {size.w - px, qy, px, size.h - 2 * qy};
        case 3:
            return {size.w - px, size.h - py, px, py};
        case 4:
            return {qx, size.h - py, size.w - 2 * qx, py};
        case 5:
            return {0, size.h - py, px, py};
        case 6:
            return {0, qy, px, size.h - 2 * qy};
        default:
            return {0, 0, px, py};
    }
}

// How unlike its own inside the rim of a tile is.
double rim_contrast(const Image& tile) {
    const Size size = tile.size();
    const Colour inside = mean(tile, {size.w / 4, size.h / 4, std::max(1, size.w / 2), std::max(1, size.h / 2)});
    double worst = 0;
    double sum = 0;
    for (int bit = 0; bit < 8; ++bit) {
        const double d = distance(mean(tile, border_part(size, bit)), inside);
        worst = std::max(worst, d);
        sum += d;
    }
    return worst + sum / 8 + (255.0 - inside.a);
}

// How unlike the material a part of a tile's border is: 0 where all its pixels occur in the centre tile, 1.3 at the
// most.
class Likeness {
  public:
    explicit Likeness(const Image& centre) : inside_(mean(centre, box_of(centre.size()))) {
        learn(centre, box_of(centre.size()));
    }
    // Counts the pixels of `part` among the material's.
    void learn(const Image& tile, const Box& part) {
        for (int y = part.y; y < part.bottom(); ++y)
            for (int x = part.x; x < part.right(); ++x) {
                const Rgba p = tile.at(x, y);
                const std::uint32_t key =
                    p.r | (std::uint32_t{p.g} << 8) | (std::uint32_t{p.b} << 16) | (std::uint32_t{p.a} << 24);
                if (!known_.insert(key).second) continue;
                const Colour c = seen(p);
                if (!gathered_ || cubes_.insert(cube_of(c)).second) palette_.push_back(c);
            }
        if (!gathered_ && palette_.size() > kMostColours) gather();
        near_.clear();
    }

    [[nodiscard]] double unlike(const Image& tile, const Box& part) {
        double sum = 0;
        for (int y = part.y; y < part.bottom(); ++y)
            for (int x = part.x; x < part.right(); ++x) sum += nearest(tile.at(x, y));
        return sum / (double(part.w) * part.h) +
               0.3 * std::min(distance(mean(tile, part), inside_), kForeign) / kForeign;
    }

  private:
    // Of noise in thousands of colours as many are kept as tell it apart: one for each small cube that has any.
    static int cube_of(const Colour& c) {
        return ((int(c.r) / 32 * 8 + int(c.g) / 32) * 8 + int(c.b) / 32) * 4 + int(c.a) / 64;
    }
    void gather() {
        gathered_ = true;
        std::erase_if(palette_, [&](const Colour& c) { return !cubes_.insert(cube_of(c)).second; });
    }

    // The palette's colours by where they lie, in steps of as much as makes a pixel wholly foreign.
    static constexpr int kSteps = 1 + static_cast<int>(255 / kForeign);
    static int step_of(double value) { return static_cast<int>(value / kForeign); }
    void sort_palette() {
        near_.resize(kSteps * kSteps * kSteps);
        for (const Colour& c : palette_)
            near_[static_cast<std::size_t>((step_of(c.r) * kSteps + step_of(c.g)) * kSteps + step_of(c.b))].push_back(
                c);
    }

    double nearest(Rgba pixel) {
        const std::uint32_t key =
            pixel.r | (std::uint32_t{pixel.g} << 8) | (std::uint32_t{pixel.b} << 16) | (std::uint32_t{pixel.a} << 24);
        const auto known = cache_.find(key);
        if (known != cache_.end()) return known->second;
        if (near_.empty()) sort_palette();
        const Colour c = seen(pixel);
        // Beyond a certain distance foreign is foreign: see-through is not more so than another colour.
        double best = kForeign;
        const auto around = [](double value) {
            return std::pair{std::max(0, step_of(value) - 1), std::min(kSteps - 1, step_of(value) + 1)};
        };
        const auto [r0, r1] = around(c.r);
        const auto [g0, g1] = around(c.g);
        const auto [b0, b1] = around(c.b);
        for (int r = r0; r <= r1; ++r)
            for (int g = g0; g <= g1; ++g)
                for (int b = b0; b <= b1; ++b)
                    for (const Colour& p : near_[static_cast<std::size_t>((r * kSteps + g) * kSteps + b)])
                        best = std::min(best, distance(c, p));
        best /= kForeign;
        cache_.emplace(key, best);
        return best;
    }

    Colour inside_;
    std::unordered_set<std::uint32_t> known_;
    std::vector<Colour> palette_;
    bool gathered_ = false;
    std::unordered_set<int> cubes_; // once they are gathered: where there is a colour
    std::vector<std::vector<Colour>> near_;
    std::unordered_map<std::uint32_t, double> cache_;
};

struct Split {
    double threshold = 0;
    double low = 0;  // mean of the group below
    double high = 0; // mean of the group above
};

// Otsu's threshold on a list of numbers.
Split split(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    Split best;
    if (values.empty()) return best;
    const double total = std::accumulate(values.begin(), values.end(), 0.0);
    double below = 0;
    double best_variance = -1;
    best = {values.back() + 1, total / double(values.size()), values.back() + 2};
    for (std::size_t i = 0; i + 1 < values.size(); ++i) {
        below += values[i];
        if (values[i + 1] == values[i]) continue;
        const double n0 = double(i) + 1;
        const double n1 = double(values.size()) - n0;
        const double m0 = below / n0;
        const double m1 = (total - below) / n1;
        const double variance = n0 * n1 * (m1 - m0) * (m1 - m0);
        if (variance > best_variance) {
            best_variance = variance;
            best = {(m0 + m1) / 2, m0, m1};
        }
    }
    return best;
}

double certainty(double value, const Split& s) {
    const double half = std::max((s.high - s.low) / 2, 1e-9);
    return std::clamp(std::abs(value - s.threshold) / half, 0.0, 1.0);
}

// The tiles that a side is compared with: all of those of a set of usual size, evenly chosen ones of more, so that the
// time grows with the tiles and not with their square.
std::vector<std::size_t> compared(std::size_t tiles) {
    constexpr std::size_t kUsual = 1024, kFewest = 4;
    if (tiles == 0) return {};
    const std::size_t count = tiles <= kUsual ? tiles : std::max(kFewest, kUsual * kUsual / tiles * kUsual / tiles);
    std::vector<std::size_t> out(count);
    for (std::size_t i = 0; i < count; ++i) out[i] = i * tiles / count;
    return out;
}

// What speaks against a tile: a side that is open between corners that join, or a side that joins and yet goes on into
// no other tile.
void find_contradictions(const std::vector<Image>& tiles, const std::vector<std::array<double, 8>>& unlike,
                         const Split& sides, const Split& corners, level::JoinKind kind, const Stop& stop,
                         JoinReading& out) {
    static const Text side_names[4] = {"north", "east", "south", "west"};
    std::vector<Borders> borders;
    for (const TileReading& t : out.tiles) borders.push_back(borders_of(tiles[static_cast<std::size_t>(t.index)]));
    // Of each side that joins, the best seam with any tile that can lie there.
    struct Best {
        std::size_t tile;
        int side;
        double error;
    };
    std::vector<Best> best;
    const std::vector<std::size_t> partners = compared(out.tiles.size());
    if (kind != level::JoinKind::corners)
        for (std::size_t i = 0; i < out.tiles.size(); ++i)
            for (int side = 0; side < 4; ++side) {
                look(stop);
                if (!(out.tiles[i].mask & (1U << (2 * side)))) continue;
                double least = 2;
                for (const std::size_t k : partners) {
                    const Mask a = out.tiles[i].mask, b = out.tiles[k].mask;
                    const bool meets =
                        side == 1 || side == 2 ? can_meet(kind, a, b, side) : can_meet(kind, b, a, (side + 2) & 3);
                    if (meets && k != i) least = std::min(least, seam_error(borders[i], borders[k], side));
                    if (least == 0) break;
                }
                if (least <= 1) best.push_back({i, side, least});
            }
    std::vector<double> errors;
    for (const Best& b : best) errors.push_back(b.error);
    std::sort(errors.begin(), errors.end());
    const double usual = errors.empty() ? 0 : errors[errors.size() * 3 / 4];
    std::set<std::size_t> named;
    for (const auto& d : out.contradictory) // by what was said already
        for (std::size_t i = 0; i < out.tiles.size(); ++i)
            if (out.tiles[i].index == d.index) named.insert(i);
    for (const Best& b : best)
        if (b.error > std::max(0.2, 4 * usual + 0.1) && named.insert(b.tile).second)
            out.contradictory.push_back(
                {out.tiles[b.tile].index, say("its %1 side joins, but goes on into no other tile",
                                              side_names[static_cast<std::size_t>(b.side)])});
    if (kind == level::JoinKind::corners) return;
    for (std::size_t i = 0; i < out.tiles.size(); ++i) {
        if (named.contains(i)) continue;
        for (unsigned side = 0; side < 4; ++side) {
            const auto sure = [&](unsigned bit, const Split& s, bool like) {
                const double u = unlike[i][bit & 7];
                return (u <= s.threshold) == like && certainty(u, s) > 0.6;
            };
            if (!sure(2 * side, sides, false) || !sure(2 * side + 1, corners, true) ||
                !sure(2 * side + 7, corners, true))
                continue;
            out.contradictory.push_back(
                {out.tiles[i].index, say("its %1 side is open, but both its corners there join", side_names[side])});
            break;
        }
    }
}

// The material as the middles of all tiles: one part in so many of each tile's width and height.
Likeness middles(const std::vector<Image>& tiles, const std::vector<int>& drawn, int centre, int part,
                 const Stop& stop) {
    const auto tile = [&](int index) -> const Image& { return tiles[static_cast<std::size_t>(index)]; };
    Likeness out(tile(centre));
    for (const int index : drawn) {
        look(stop);
        const Size s = tile(index).size();
        const Size box{std::max(1, s.w / part), std::max(1, s.h / part)};
        out.learn(tile(index), {(s.w - box.w) / 2, (s.h - box.h) / 2, box.w, box.h});
    }
    return out;
}

// `sides_known`: which sides join, where that is known otherwise; then only the corners are read.
JoinReading read_by(const std::vector<Image>& tiles, const std::vector<int>& drawn, level::JoinKind kind, int centre,
                    Likeness& likeness, const Stop& stop, const SideReading* sides_known = nullptr) {
    JoinReading out;
    out.centre = centre;
    const auto tile = [&](int index) -> const Image& { return tiles[static_cast<std::size_t>(index)]; };
    std::vector<std::array<double, 8>> unlike(drawn.size());
    for (std::size_t i = 0; i < drawn.size(); ++i)
        for (int bit = 0; bit < 8; ++bit) {
            look(stop);
            unlike[i][static_cast<std::size_t>(bit)] =
                likeness.unlike(tile(drawn[i]), border_part(tile(drawn[i]).size(), bit));
        }

    std::vector<double> sides;
    for (const auto& u : unlike)
        for (std::size_t bit = 0; bit < 8; bit += 2) sides.push_back(u[bit]);
    Split side_split = split(sides);
    std::vector<double> corners;
    for (std::size_t i = 0; i < drawn.size(); ++i) {
        const auto joins = [&](std::size_t bit) {
            return sides_known ? sides_known->joins[i][bit / 2] : unlike[i][bit] <= side_split.threshold;
        };
        for (std::size_t bit = 1; bit < 8; bit += 2)
            if (kind == level::JoinKind::corners || (joins(bit - 1) && joins((bit + 1) % 8)))
                corners.push_back(unlike[i][bit]);
    }
    Split corner_split = split(corners);
    // Corners that differ far less than sides do are all of one kind: the sheet has no inner corners.
    if (kind != level::JoinKind::corners &&
        corner_split.high - corner_split.low < 0.2 * (side_split.high - side_split.low))
        corner_split = side_split;

    std::vector<Borders> borders;
    for (const int index : drawn) borders.push_back(borders_of(tile(index)));
    const std::vector<std::size_t> partners = compared(drawn.size());
    // A weak side is taken for what the seams say, where they say it clearly: whether it joins, and how sure that is.
    const auto at_seams = [&](std::size_t i, unsigned bit) {
        const int side = static_cast<int>(bit) / 2;
        double goes_on = 2;
        double like_open = 2;
        for (const std::size_t k : partners) {
            const double across = unlike[k][(bit + 4) & 7];
            if (across <= side_split.threshold && certainty(across, side_split) > 0.6)
                goes_on = std::min(goes_on, seam_error(borders[i], borders[k], side));
            if (k != i && unlike[k][bit] > side_split.threshold && certainty(unlike[k][bit], side_split) > 0.6)
                like_open = std::min(like_open, unlike_side(borders[i], borders[k], side));
        }
        if (goes_on > 1 || like_open > 1 || std::min(goes_on, like_open) > kFits) return std::pair{false, 0.0};
        return std::pair{goes_on < like_open, std::min(1.0, 3 * std::abs(goes_on - like_open))};
    };
    for (std::size_t i = 0; i < drawn.size(); ++i) {
        look(stop);
        TileReading reading{drawn[i], 0, 1.0};
        int weakest = -1;
        const auto judge = [&](unsigned bit, const Split& s) {
            const double u = unlike[i][bit];
            bool joins = u <= s.threshold;
            double sure = certainty(u, s);
            if (sides_known && bit % 2 == 0) {
                joins = sides_known->joins[i][bit / 2];
                sure = std::clamp(sides_known->sure[i][bit / 2] / kSureSide, 0.0, 1.0);
            } else if (sure < kDoubtful && bit % 2 == 0)
                if (const auto [other, surer] = at_seams(i, bit); surer > std::max(sure, kDoubtful)) {
                    joins = other;
                    sure = surer;
                }
            if (joins) reading.mask = static_cast<Mask>(reading.mask | (1U << bit));
            if (sure < reading.confidence) {
                reading.confidence = sure;
                weakest = static_cast<int>(bit);
            }
        };
        if (kind != level::JoinKind::corners)
            for (unsigned bit = 0; bit < 8; bit += 2) judge(bit, side_split);
        for (unsigned bit = 1; bit < 8; bit += 2) {
            const bool between = (reading.mask & (1U << (bit - 1))) && (reading.mask & (1U << ((bit + 1) % 8)));
            if (kind == level::JoinKind::corners || (kind == level::JoinKind::full && between))
                judge(bit, corner_split);
        }
        reading.mask = kind == level::JoinKind::corners ? of_corners(reading.mask) : canonical(reading.mask, kind);
        if (reading.confidence < kDoubtful && weakest >= 0) {
            static const Text names[8] = {"north side", "north-east corner", "east side", "south-east corner",
                                          "south side", "south-west corner", "west side", "north-west corner"};
            out.doubtful.push_back(
                {drawn[i], say("its %1 is neither clearly like the material nor clearly unlike it", names[weakest])});
        }
        out.tiles.push_back(reading);
    }
    // Sides of which one half is like the material and the other is not.
    for (std::size_t i = 0; kind != level::JoinKind::corners && i < drawn.size(); ++i)
        for (int side = 0; side < 4; ++side) {
            const Box whole = border_part(tile(drawn[i]).size(), 2 * side);
            Box first = whole;
            Box second = whole;
            (side % 2 ? first.h : first.w) /= 2;
            if (first.empty()) continue;
            (side % 2 ? second.y : second.x) += side % 2 ? first.h : first.w;
            (side % 2 ? second.h : second.w) -= side % 2 ? first.h : first.w;
            const double a = likeness.unlike(tile(drawn[i]), first);
            const double b = likeness.unlike(tile(drawn[i]), second);
            if (std::abs(a - b) < 0.7 * (side_split.high - side_split.low)) continue;
            static const Text names[4] = {"north", "east", "south", "west"};
            out.contradictory.push_back({drawn[i], say("one half of its %1 side joins, the other does not",
                                                       names[static_cast<std::size_t>(side)])});
            break;
        }
    // Where many tiles have such sides it is how the art is drawn.
    if (out.contradictory.size() > std::max<std::size_t>(2, drawn.size() / 12)) out.contradictory.clear();
    list_cases(out, kind);
    find_contradictions(tiles, unlike, side_split, corner_split, kind, stop, out);
    return out;
}

// How much a reading leaves open.
double open_ends(const JoinReading& r) {
    double n = static_cast<double>(r.missing.size() + r.doubtful.size() + r.contradictory.size());
    for (const auto& d : r.doubled) n += static_cast<double>(d.indices.size()) - 1;
    return n;
}

} // namespace

void list_cases(JoinReading& out, level::JoinKind kind) {
    std::map<Mask, std::vector<int>> by_mask;
    for (const TileReading& t : out.tiles) by_mask[t.mask].push_back(t.index);
    for (const Mask m : cases(kind)) {
        const auto found = by_mask.find(m);
        if (found == by_mask.end())
            out.missing.push_back(m);
        else if (found->second.size() > 1)
            out.doubled.push_back({m, found->second});
    }
}

// Read from what is like a centre: the material's pixels are those of a tile that is like its own inside, or those of
// the middles of all tiles.
JoinReading read_from_centre(const std::vector<Image>& tiles, const std::vector<int>& drawn, level::JoinKind kind,
                             int middle, const Stop& stop) {
    const auto tile = [&](int index) -> const Image& { return tiles[static_cast<std::size_t>(index)]; };
    Likeness of_centre(tile(middle));
    JoinReading out = read_by(tiles, drawn, kind, middle, of_centre, stop);
    if (kind == level::JoinKind::corners || open_ends(out) == 0) return out;
    for (const int part : {4, 2}) { // a quarter of each tile's width and height, then half
        Likeness of_middles = middles(tiles, drawn, middle, part, stop);
        JoinReading again = read_by(tiles, drawn, kind, middle, of_middles, stop);
        if (open_ends(again) < open_ends(out)) out = std::move(again);
    }
    return out;
}

int centre_of(const std::vector<Image>& tiles, const std::vector<int>& drawn, const Stop& stop) {
    std::vector<double> contrast;
    for (const int index : drawn) {
        look(stop);
        contrast.push_back(rim_contrast(tiles[static_cast<std::size_t>(index)]));
    }
    return drawn[static_cast<std::size_t>(std::min_element(contrast.begin(), contrast.end()) - contrast.begin())];
}

JoinReading read_with_sides(const std::vector<Image>& tiles, const std::vector<int>& drawn, level::JoinKind kind,
                            int middle, const SideReading& sides, const Stop& stop) {
    Likeness of_middles = middles(tiles, drawn, middle, 4, stop);
    return read_by(tiles, drawn, kind, middle, of_middles, stop, &sides);
}

double corner_alpha(const Image& tile, int bit) { return mean(tile, border_part(tile.size(), bit)).a; }

} // namespace vic::join
